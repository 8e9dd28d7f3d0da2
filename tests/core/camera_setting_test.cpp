#include "balance/camera_setting.h"

#include <gtest/gtest.h>

#include <cmath>

#include "balance/advice.h"
#include "gear/kit.h"
#include "meter/point_meter.h"
#include "rendering/progressive_render.h"
#include "support.h"

namespace easel {
namespace {

using test::answersOf;

bool says(const std::vector<Finding>& all, const std::string& words) {
  for (const Finding& f : all)
    if (f.sentence.find(words) != std::string::npos) return true;
  return false;
}

TEST(CameraSetting, ThreeSchoolsWithThisPlansNumbers) {
  const Plan p = test::masterPlan();
  const Answers a = answersOf(p);
  const auto all = cameraSettings(p, a);
  ASSERT_EQ(all.size(), 3u);
  EXPECT_TRUE(all[0].standing) << "the demo is set to its key";
  EXPECT_FALSE(all[1].standing);
  EXPECT_NEAR(all[0].aperture, 8, 0.15);
  EXPECT_NEAR(2 * std::log2(all[1].aperture / a.aperture), 0, 0.17) << "the nearest third";
  EXPECT_NEAR(all[2].lowerBy, 2 * std::log2(a.aperture / 8), 1e-9);
}

TEST(CameraSetting, EverythingOnClosesTheLensAndLeavesTheLadderAlone) {
  Plan p = test::masterPlan();
  p.receptor = Receptor::Dome;  // towards the camera takes in key and fill; flat with the key hardly sees the fill
  p.meterAim = MeterAim::Camera;
  p.lights = balance(p, answersOf(p), BalanceBy::EachAlone).lights;
  const Plan set = withCameraSetting(p, answersOf(p), CameraSchool::EverythingOn);
  EXPECT_EQ(set.camera.aperture, p.camera.aperture);
  EXPECT_GT(set.camera.closedBy, 0.3);
  EXPECT_NEAR(std::remainder(set.camera.closedBy * 3, 1), 0, 1e-6) << "thirds, as lenses go";
  const Answers a = answersOf(set);
  EXPECT_NEAR(a.lights[0].stopsFromWorking, answersOf(p).lights[0].stopsFromWorking, 1e-9);
  EXPECT_NEAR(2 * std::log2(a.aperture / set.camera.shootingAperture()), 0, 0.17);
  EXPECT_TRUE(cameraSettings(set, a)[1].standing);
  const Plan back = withCameraSetting(set, a, CameraSchool::KeyOnly);
  EXPECT_EQ(back.camera.closedBy, 0);
}

TEST(CameraSetting, LowerAllKeepsTheRatios) {
  Plan p = test::masterPlan();
  const Plan set = withCameraSetting(p, answersOf(p), CameraSchool::LowerAll);
  const Answers before = answersOf(p), after = answersOf(set);
  EXPECT_NEAR(2 * std::log2(after.aperture / 8), 0, 0.12);
  for (size_t i = 1; i < 4; ++i)
    EXPECT_NEAR(after.lights[0].stopsFromWorking - after.lights[i].stopsFromWorking,
                before.lights[0].stopsFromWorking - before.lights[i].stopsFromWorking, 0.2)
        << i << ": half a step of a unit in thirds";
}

TEST(CameraSetting, WithoutAKeyThereIsNothingToSet) {
  Plan p = test::masterPlan();
  p.lights[0].on = false;
  EXPECT_TRUE(cameraSettings(p, answersOf(p)).empty());
}

TEST(CrossTalk, TheSpotsSumIsItsOwnAndTheOthers) {
  const Plan p = test::masterPlan();
  const Answers a = answersOf(p);
  for (const LightAnswer& r : a.lights) {
    double sum = r.alone.total() + a.ambient.total();
    for (const auto& [id, stops] : r.others) sum += r.alone.total() * std::exp2(stops);
    EXPECT_NEAR(r.together.total() / sum, 1, 1e-6) << r.id;
    EXPECT_EQ(r.others.size(), 3u);
  }
  // Flat towards the fill, the key comes from the side; a dome that looks at the camera has them both.
  EXPECT_LT(a.light("B")->togetherStops, a.light("B")->stopsFromWorking + 0.6);
  EXPECT_EQ(describe(a.light("B")->held.hold), "flat, towards B");
  EXPECT_EQ(describe(a.hold), "flat, towards A");
  Plan dome = p;
  dome.receptor = Receptor::Dome;
  dome.meterAim = MeterAim::Camera;
  const Answers b = answersOf(dome);
  EXPECT_GT(b.light("B")->togetherStops, b.light("B")->stopsFromWorking + 1) << "the key floods the fill's spot";
  EXPECT_EQ(describe(b.hold), "dome, towards the camera");
  EXPECT_EQ(describe(b.light("C")->held.hold), "flat, towards C") << "where it works, in every school";
}

TEST(Advice, TheFillMayNotOvertakeTheKey) {
  Plan p = test::masterPlan();
  EXPECT_FALSE(says(adviceOn(p, answersOf(p), nullptr), "over the key"));
  p.lights[1].power += 3;
  EXPECT_TRUE(says(adviceOn(p, answersOf(p), nullptr), "Fill B is"));
}

TEST(Advice, WhiteBeyondTwoStopsFlaresAndUnevenWhiteIsSaid) {
  Plan p = test::masterPlan();
  p.backdrop.material = "paper-white";
  p.lights[3].power = 0;
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  const SpotTable table = spotTable(*s.scene(), placedSetOf(p));
  const auto found = adviceOn(p, answersOf(p), &table);
  EXPECT_TRUE(says(found, "flares"));
  EXPECT_TRUE(says(found, "differs by")) << backdropUnevenness(table);
  EXPECT_EQ(found.front().severity, Severity::Warning) << "worst first";
}

TEST(Advice, TheMeterHeldHalfWayReadsAboutTwoStopsTooHigh) {
  // The square law for half the distance; a large box near gives a little less.
  Plan p = test::masterPlan();
  p.lights[0].modifier = "reflector-18";
  p.lights[0].distance = 2;
  EXPECT_NEAR(answersOf(p).lights[0].halfWayStops, 2, 0.05);
  EXPECT_TRUE(says(adviceOn(p, answersOf(p), nullptr), "half-way to A"));
}

TEST(Advice, AmbientThatShowsIsSaidWithTheShutter) {
  Plan p = test::masterPlan();
  p.ambient.lux = 4000;
  p.camera.shutter = 1.0 / 60;
  EXPECT_TRUE(says(adviceOn(p, answersOf(p), nullptr), "1/200"));
}

TEST(Remedies, NameUnitsAndModifiersOfTheKit) {
  Plan p = test::masterPlan();
  Light& l = p.lights[0];
  l.unit = "hotshoe-60";
  l.distance = 1.8;
  p.camera.aperture = 11;
  const Answers a = answersOf(p);
  ASSERT_GT(a.lights[0].setting.shortfall, 0);
  std::string all;
  for (const std::string& s : adviceOnPower(p, l, a.lights[0])) all += s + "\n";
  EXPECT_NE(all.find("Another modifier"), std::string::npos) << all;
  EXPECT_NE(all.find("Raise ISO"), std::string::npos) << all;
  EXPECT_NE(all.find("Mains flash 400 Ws at"), std::string::npos) << all;
  // What the kit's line promises is so.
  l.unit = "mains-400";
  EXPECT_EQ(answersOf(p).lights[0].setting.shortfall, 0);
}

TEST(Grid, CutsOffAtItsAngleAndAddsNothingOnTheAxis) {
  for (const char* pair : {"strip-30x120", "softbox-40x40"}) {
    const Modifier *plain = findModifier(pair), *grid = findModifier(std::string(pair) + "-grid");
    ASSERT_TRUE(plain && grid);
    EXPECT_NEAR(std::log2(plain->axialIntensity() / grid->axialIntensity()), 0.5, 1e-6);
    EXPECT_LT(grid->transmission, 0.5 * plain->transmission);
  }
  const Emitter e(*findModifier("reflector-18-grid20"), {{0, 2, 0}, Frame::facing({0, 0, 1})});
  auto at = [&](double degreesOff) {
    const float a = radians(float(degreesOff));
    return directLux(nullptr, e, {3 * std::sin(a), 2, 3 * std::cos(a)}, {-std::sin(a), 0, -std::cos(a)}, Receptor::Flat,
                     512);
  };
  EXPECT_GT(at(5), 0.5 * at(0));
  EXPECT_GT(at(15), 0);
  EXPECT_EQ(at(24), 0);
}

}  // namespace
}  // namespace easel
