#include "rendering/series.h"

#include <gtest/gtest.h>

#include <cmath>

#include "formats/contact_sheet.h"
#include "picture/overlays.h"
#include "support.h"

namespace easel {
namespace {

TEST(Series, ReadsRangesAndLists) {
  const Variation v = readVariation("light.A.distance=0.5:3:6");
  EXPECT_EQ(v.path, "light.A.distance");
  EXPECT_EQ(v.values, (std::vector<double>{0.5, 1, 1.5, 2, 2.5, 3}));
  EXPECT_EQ(readVariation("camera.aperture=4,5.6,8").values, (std::vector<double>{4, 5.6, 8}));
}

TEST(Series, RefusesWithASentence) {
  for (const char* wrong :
       {"", "light.A.distance", "light.A.colour=1:2:3", "light.A.distance=1:2", "light.A.hour=a,b",
        "light.A.distance=1:2:1", "light.A.distance=1:2:99", "camera.iso=1:2:2.5", "backdrop=1,2"}) {
    try {
      readVariation(wrong);
      ADD_FAILURE() << wrong;
    } catch (const std::invalid_argument& e) {
      EXPECT_NE(std::string(e.what()).find("Write it like"), std::string::npos) << e.what();
    }
  }
  const Plan p = test::masterPlan();
  EXPECT_THROW(varied(p, "light.Q.distance", 1), std::invalid_argument);
  EXPECT_THROW(varied(p, "light.A.distance", 99), std::invalid_argument);
  EXPECT_THROW(varied(p, "camera.iso", NAN), std::invalid_argument);
  Plan locked = p;
  locked.lights[0].locked = true;
  EXPECT_THROW(varied(locked, "light.A.height", 1.5), std::invalid_argument);
}

TEST(Series, EveryThingThatIsOfferedCanBeVaried) {
  const Plan p = test::masterPlan();
  for (const Varied& v : variedThings()) {
    EXPECT_FALSE(varied(p, v.path, v.from) == varied(p, v.path, v.to)) << v.path;
    EXPECT_NE(writeVaried(p, v.path, v.from), writeVaried(p, v.path, v.to)) << v.path;
    EXPECT_NE(variedName(v.path), v.path);
  }
  EXPECT_EQ(variedName("light.C.height"), "Height of light C");
  EXPECT_EQ(writeVaried(p, "light.A.hour", 4.5), "4:30");
  EXPECT_EQ(writeVaried(p, "light.A.distance", 1.5, {LengthUnit::Feet, ApertureStyle::Tenths}), "4 ft 11 in");
}

TEST(Series, HoldKeepsTheReadingAndCancelStops) {
  const Plan p = test::masterPlan();
  const Variation v = readVariation("light.A.distance=0.8:2:3");
  double last = 0;
  const auto held = renderSeries(p, v, true, 80, 100, 2, [&](double share) {
    EXPECT_GE(share, last);
    last = share;
    return true;
  });
  ASSERT_EQ(held.size(), 3u);
  EXPECT_LT(held[0].plan.lights[0].power, held[2].plan.lights[0].power - 1) << "further off wants more power";
  EXPECT_EQ(held[1].picture.width, 80);
  EXPECT_NE(held[0].picture.rgba, held[2].picture.rgba);
  int calls = 0;
  const auto stopped = renderSeries(p, v, true, 80, 100, 2, [&](double) { return ++calls < 3; });
  EXPECT_LT(stopped.size(), 3u);
  const auto free = renderSeries(p, v, false, 80, 100, 1, {});
  EXPECT_EQ(free[0].plan.lights[0].power, free[2].plan.lights[0].power);
}

TEST(Series, TheSheetHoldsEveryPictureOnGrey) {
  std::vector<SeriesPicture> series(7);
  for (size_t i = 0; i < series.size(); ++i) {
    series[i].caption = "step " + std::to_string(i) + " with a caption that is much too long for its print";
    series[i].picture.width = 40;
    series[i].picture.height = 50;
    series[i].picture.rgba.assign(40 * 50 * 4, std::uint8_t(30 * i));
  }
  const Picture sheet = contactSheet(series, {"Title \xc3\xa9", "Subtitle"});
  EXPECT_GT(sheet.width, 4 * 40);
  EXPECT_GT(sheet.height, 2 * 50) << "two rows";
  EXPECT_EQ(sheet.rgba[0], sheet.rgba[1]);
  EXPECT_EQ(sheet.rgba[1], sheet.rgba[2]) << "the ground is neutral";
  size_t light = 0;
  std::vector<int> counts(256);
  for (size_t i = 0; i < sheet.rgba.size(); i += 4) {
    ++counts[sheet.rgba[i]];
    light += sheet.rgba[i] > 240;
  }
  EXPECT_GT(light, 50u) << "lettering";
  for (size_t i = 0; i < series.size(); ++i) EXPECT_GE(counts[30 * i], 40 * 50 * 9 / 10) << i;
  EXPECT_THROW(contactSheet({}, {}), std::runtime_error);
}

TEST(RatioStrip, FiveStepsInTheUnitsSteps) {
  const Plan p = test::masterPlan();
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  const auto scene = s.scene();
  const auto strip = ratioStrip(p, computeAnswers(*scene, placedSetOf(p)));
  ASSERT_EQ(strip.size(), 5u);
  for (int i = 0; i < 5; ++i) {
    EXPECT_EQ(strip[size_t(i)].name, std::to_string(1 << i) + ":1");
    const Answers a = computeAnswers(*scene, placedSetOf(strip[size_t(i)].plan));
    EXPECT_NEAR(a.light("A")->stopsFromWorking - a.light("B")->stopsFromWorking, i, 0.06) << "a tenth step rounds";
  }
  // A locked fill stays where it is: only the ratio that it has is reached.
  Plan locked = p;
  for (Light& l : locked.lights) l.locked |= l.role == Role::Fill;
  const Answers now = computeAnswers(*scene, placedSetOf(locked));
  const double under = now.light("A")->stopsFromWorking - now.light("B")->stopsFromWorking;
  for (const RatioPlan& s : ratioStrip(locked, now))
    EXPECT_EQ(s.reached, std::abs(s.stopsUnder - under) < 0.05) << s.name << " with a fill " << under << " under";
  Plan noFill = p;
  noFill.lights[1].on = false;
  EXPECT_TRUE(ratioStrip(noFill, computeAnswers(*scene, placedSetOf(noFill))).empty());
}

TEST(Overlays, HistogramCountsEveryPixelOnce) {
  Picture p{2, 2, {255, 255, 255, 255, 0, 0, 0, 255, 118, 118, 118, 255, 250, 255, 255, 255}};
  const Histogram h = histogramOf(p);
  int sum = 0;
  for (int c : h.count) sum += c;
  EXPECT_EQ(sum, 4);
  EXPECT_EQ(h.count[118], 1);
  EXPECT_NEAR(h.burnt, 0.25, 1e-9) << "all three channels, not two";
  EXPECT_NEAR(h.blocked, 0.25, 1e-9);
  EXPECT_EQ(histogramOf({}).burnt, 0);
}

TEST(Overlays, AStopOfPowerMovesTheMapByOneBand) {
  Plan p = test::demoPlan();
  ProgressiveRender s(80, 100);
  s.setPlan(p);
  s.finish(2);
  auto bandAt = [&](const Plan& plan) {
    const Picture m = stopsMap(s.layers(), placedSetOf(plan), {});
    // The mean lightness of the bands in the middle of the face.
    int sum = 0;
    for (int y = 40; y < 50; ++y)
      for (int x = 36; x < 44; ++x) sum += m.rgba[(size_t(y) * 80 + size_t(x)) * 4];
    return sum / 80;
  };
  const int base = bandAt(p);
  Plan brighter = p;
  brighter.lights[0].power += 1;
  Plan darker = p;
  darker.lights[0].power -= 1;
  EXPECT_GT(bandAt(brighter), base);
  EXPECT_LT(bandAt(darker), base);
  for (int k = kStopsLeast; k < kStopsMost; ++k) EXPECT_LT(stopsColour(k)[1], stopsColour(k + 1)[1]) << "reads in grey";
}

}  // namespace
}  // namespace easel
