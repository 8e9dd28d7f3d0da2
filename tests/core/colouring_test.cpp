#include "sitters/colouring.h"

#include <gtest/gtest.h>

#include <cmath>

#include "exposure/ambient.h"
#include "exposure/depth_of_field.h"
#include "exposure/meter.h"
#include "plan/framing.h"
#include "plan/lens.h"
#include "plan/roles.h"
#include "rendering/progressive_render.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "support.h"

namespace easel {
namespace {

// Mean linear luminance of the picture over a part of it.
double brightness(const Plan& plan, int x0, int x1, int y0, int y1) {
  ProgressiveRender s(80, 100);
  s.setPlan(plan);
  s.finish(2);
  std::vector<float> planes[3];
  linearPicture(s.layers(), placedSetOf(plan), {}, planes);
  double sum = 0;
  for (int y = y0; y < y1; ++y)
    for (int x = x0; x < x1; ++x) {
      const size_t i = size_t(y) * 80 + size_t(x);
      sum += 0.2126 * double(planes[0][i]) + 0.7152 * double(planes[1][i]) + 0.0722 * double(planes[2][i]);
    }
  return sum / ((x1 - x0) * (y1 - y0));
}

TEST(Looks, SkinTonesGoFromLightToDark) {
  Plan p = test::demoPlan();
  double last = 1e9;
  for (const Colouring& l : skinTones()) {
    if (l.id == "own") continue;
    p.sitter.skinTone = l.id;
    const double now = brightness(p, 36, 44, 44, 54);
    EXPECT_LT(now, last) << l.id;
    last = now;
  }
}

TEST(Looks, ATonesFaceIsAsBrightAsItsReflectanceSays) {
  // Two tones under the same light: their pictures differ by the ratio of their reflectances, sheen apart.
  Plan p = test::demoPlan();
  p.sitter.skinTone = "1-lightest";
  const double light = brightness(p, 36, 44, 44, 54);
  p.sitter.skinTone = "4-tan";
  const double tan = brightness(p, 36, 44, 44, 54);
  const double wanted =
      std::log2(luminance(findSkinTone("1-lightest")->reflectance) / luminance(findSkinTone("4-tan")->reflectance));
  EXPECT_NEAR(std::log2(light / tan), wanted, 0.25);
}

TEST(Looks, EveryToneOnEverySitterIsRedderThanGreenAndGreenerThanBlue) {
  Plan p = test::demoPlan();
  p.sitter.hairStyle = "shaved";  // the middle of the face is looked at
  for (const Person& sitter : sitterCatalogue())
    for (const char* tone : {"own", "1-lightest", "3-olive", "6-darkest"}) {
      p.sitter.id = sitter.id;
      p.sitter.skinTone = tone;
      ProgressiveRender s(80, 100);
      s.setPlan(p);
      s.finish(1);
      std::vector<float> planes[3];
      linearPicture(s.layers(), placedSetOf(p), {}, planes);
      double sum[3] = {0, 0, 0};
      for (size_t c = 0; c < 3; ++c)
        for (size_t y = 42; y < 54; ++y)
          for (size_t x = 36; x < 44; ++x) sum[c] += double(planes[c][y * 80 + x]);
      EXPECT_GT(sum[0], 1.1 * sum[1]) << sitter.id << " " << tone;
      EXPECT_GT(sum[1], 1.05 * sum[2]) << sitter.id << " " << tone;
    }
}

TEST(Looks, FairSkinIsAboutAStopOverMidGrey) {
  // Common practice, no source: open up one stop from mid grey for fair skin. So where the pointer's meter reads the
  // working aperture on a fair cheek, the picture stands about a stop over mid grey.
  Plan p = test::demoPlan();
  p.sitter.id = "wren";
  p.lights[0].hour = 5.5;
  ProgressiveRender s(160, 200);
  s.setPlan(p);
  s.finish(8);
  std::vector<float> planes[3];
  linearPicture(s.layers(), placedSetOf(p), {}, planes);
  const Landmarks& marks = s.scene()->sitter().landmarks;
  for (Vec3 place : {marks.cheekLeft, marks.cheekRight, marks.forehead}) {
    const auto px = pixelOf(s.layers(), s.scene()->studioPoint(place));
    ASSERT_TRUE(px);
    const SpotReading r = readPixel(s.layers(), placedSetOf(p), px->x, px->y);
    ASSERT_EQ(r.surface, Surface::Skin);
    const size_t i = size_t(px->y) * 160 + size_t(px->x);
    const double y = 0.2126 * double(planes[0][i]) + 0.7152 * double(planes[1][i]) + 0.0722 * double(planes[2][i]);
    EXPECT_NEAR(std::log2(y / 0.18) - r.stops, 1.15, 0.5) << "sheen comes on top";
  }
}

TEST(Looks, FaceReflectanceIsThatOfSkin) {
  for (const Person& s : sitterCatalogue()) {
    const double y = luminance(faceReflectance(*loadSitter(s.id)));
    EXPECT_GT(y, 0.03) << s.id;
    EXPECT_LT(y, 0.6) << s.id;
  }
}

TEST(Looks, PaleHeadsTakeLessHairLight) {
  Plan p = test::demoPlan();
  p.sitter.id = "wren";
  EXPECT_EQ(proposeLight(p, "hair-under").light.targetStops, -1);
  p.sitter.hairColour = "blond";
  EXPECT_EQ(proposeLight(p, "hair-under").light.targetStops, -2);
  p.sitter.hairColour = "black";
  EXPECT_EQ(proposeLight(p, "hair-under").light.targetStops, -1);
  p.sitter.hairStyle = "shaved";
  EXPECT_EQ(proposeLight(p, "hair-under").light.targetStops, -2) << "a bald head shines";
}

TEST(DepthOfField, WorkedExample) {
  // 85 mm, f/8, 2 m, 24 x 36 mm with c = 0.0288 mm: H = 31.4 m; near 1.88 m, far 2.13 m. (Thin-lens formula of the
  // textbooks, worked by hand.)
  const DepthOfField d = depthOfField(85, 8, 2, 24, 36);
  EXPECT_NEAR(d.circle, 0.02884, 1e-4);
  EXPECT_NEAR(d.near, 1.885, 0.003);
  EXPECT_NEAR(d.far, 2.130, 0.003);
  EXPECT_TRUE(std::isinf(depthOfField(24, 16, 2, 24, 36).far)) << "beyond the hyperfocal distance";
  EXPECT_LT(depthOfField(85, 4, 2, 24, 36).far, d.far);
  EXPECT_THROW(depthOfField(85, 0, 2, 24, 36), std::invalid_argument);
  EXPECT_THROW(depthOfField(85, 8, 0.05, 24, 36), std::invalid_argument);
}

TEST(Ambient, LuxAndMeterSayTheSame) {
  // f/2.8 at 1/15, ISO 100: E = 8 * 250 / (100 / 16) = 320 lx with exact stops.
  const double lux = readAmbient("f/2.8 at 1/15", 100);
  EXPECT_NEAR(lux, 320, 1);
  EXPECT_EQ(readAmbient("f/2.8 1/15 s", 100), lux);
  EXPECT_EQ(readAmbient("15 lx", 100), 15);
  EXPECT_EQ(readAmbient("15", 400), 15);
  EXPECT_NEAR(readAmbient(writeAmbient(lux, 100), 100), lux, 0.04 * lux);
  EXPECT_EQ(writeAmbient(0, 100), "dark");
  for (const char* wrong : {"", "f/2.8", "bright", "-3", "15 km", "f/x at 1/15", "nan", "f/8 at soon"})
    EXPECT_THROW(readAmbient(wrong, 100), std::invalid_argument) << wrong;
}

TEST(Framing, FillsThePictureAndIsRecognised) {
  Plan p = test::demoPlan();
  for (const Framing& f : framings())
    for (double focal : {50.0, 85.0, 120.0}) {
      p.camera.focalLength = focal;
      p.camera = framed(p, f);
      EXPECT_EQ(framingOf(p).id, f.id) << focal;
    }
  const double wide = framed(p, framings().back()).distance, tight = framed(p, framings().front()).distance;
  EXPECT_GT(wide, 2 * tight);
}

TEST(Framing, WidensOnlyAsFarAsWhatIsToBeSeenAsksAndInsideTheRoom) {
  Plan p = test::demoPlan();
  const Vec3 near{0.05f, float(p.sitter.eyeHeight), 0}, low{0.3f, 0.6f, 0.6f};
  EXPECT_EQ(widened(p, std::vector{near}), p.camera);
  p.room.depth = 20;
  const Camera back = widened(p, std::vector{low});
  EXPECT_EQ(back.focalLength, p.camera.focalLength);
  EXPECT_GT(back.distance, p.camera.distance);
  p.room.depth = p.room.behind + p.camera.distance + 0.5;
  const Camera shorter = widened(p, std::vector{low});
  EXPECT_LT(shorter.focalLength, p.camera.focalLength);
  EXPECT_LE(shorter.distance, p.room.depth - p.room.behind);
}

// A print cuts the picture: it shows another part of it from the same place, and a card in it is as light.
TEST(Framing, ACropKeepsPlaceAndExposure) {
  for (const bool extends : {true, false}) {
    Plan p = test::demoPlan();
    p.camera.extends = extends;
    for (const Framing& f : framings()) {
      Plan cut = p;
      cut.camera = croppedTo(p, f, 0.8);
      EXPECT_EQ(framingOf(cut).id, f.id);
      EXPECT_EQ(cut.camera.distance, p.camera.distance);
      EXPECT_EQ(cut.camera.height, p.camera.height);
      EXPECT_NEAR(gainOf(cut.camera), gainOf(p.camera), 1e-12 * gainOf(p.camera)) << f.id;
    }
  }
  EXPECT_THROW(framingCalled("from space"), std::out_of_range);
}

TEST(Framing, PostureTakesLightsAndCameraAlong) {
  const Plan p = test::demoPlan();
  const Plan up = withEyesAt(p, p.sitter.eyeHeight + 0.2);
  EXPECT_NEAR(up.camera.height, p.camera.height + 0.2, 1e-9);
  EXPECT_NEAR(up.lights[0].height, p.lights[0].height + 0.2, 1e-9);
  Plan low = p;
  low.room.height = 2.4;
  const Plan stopped = withEyesAt(low, 1.9);
  EXPECT_LE(stopped.lights[0].height, 2.4) << "not through the ceiling";
}

}  // namespace
}  // namespace easel
