// The arithmetic and the rules that photographers work by, against what the program computes for whole plans.
#include <gtest/gtest.h>

#include <cmath>

#include "balance/backdrop_tone.h"
#include "exposure/aperture.h"
#include "exposure/ratio.h"
#include "gear/kit.h"
#include "meter/answers.h"
#include "meter/point_meter.h"
#include "picture/develop.h"
#include "reference/backdrop_falloff_povray.h"
#include "rendering/progressive_render.h"
#include "support.h"

namespace easel {
namespace {

using test::answersOf;

Plan oneLight() {
  Plan p = test::demoPlan();
  p.ambient.lux = 0;
  return p;
}

TEST(Practice, TwoEqualLightsAddOneStop) {
  // Handbook arithmetic: light adds, one doubling is one stop.
  Plan p = oneLight();
  p.lights[0].power = -4;
  const double one = answersOf(p).face.total();
  Light same = p.lights[0];
  same.id = "B";
  p.lights.push_back(same);
  EXPECT_NEAR(std::log2(answersOf(p).face.total() / one), 1.0, 1e-9);
}

TEST(Practice, EighthToHalfIsTwoStops) {
  // Handbook arithmetic: each doubling of power is a stop; f/4.5 becomes f/9 as engraved.
  Plan p = oneLight();
  p.lights[0].power = -3;
  const double before = answersOf(p).lights[0].aperture;
  p.lights[0].power = -1;
  const double after = answersOf(p).lights[0].aperture;
  EXPECT_NEAR(2 * std::log2(after / before), 2, 1e-9);
  EXPECT_EQ(writeAperture(exactFromEngraved(4.5) * 2, ApertureStyle::Nominal), "f/9");
}

TEST(Practice, IsoLiftsFlashAndAmbientAlikeTheShutterAmbientAlone) {
  Plan p = test::demoPlan();
  p.ambient.lux = 300;
  const Answers base = answersOf(p);
  Plan faster = p;
  faster.camera.iso *= 4;
  const Answers iso = answersOf(faster);
  EXPECT_NEAR(2 * std::log2(iso.lights[0].aperture / base.lights[0].aperture), 2, 1e-9);
  EXPECT_NEAR(iso.ambientStops - base.ambientStops, 2, 1e-9);
  Plan longer = p;
  longer.camera.shutter *= 8;
  const Answers slow = answersOf(longer);
  EXPECT_NEAR(slow.ambientStops - base.ambientStops, 3, 1e-9);
  EXPECT_EQ(slow.lights[0].aperture, base.lights[0].aperture);
}

TEST(Practice, KeyAndFillTwoStopsUnderReadAThirdMore) {
  // Worked example of the trade: key f/8, fill f/4 at the same spot: 1 + 1/4 = +0.32 stop, f/8 and a third.
  Plan p = oneLight();
  Light fill = p.lights[0];
  fill.id = "B";
  fill.role = Role::Fill;
  fill.power -= 2;
  p.lights.push_back(fill);
  const Answers a = answersOf(p);
  EXPECT_NEAR(2 * std::log2(a.aperture / a.lights[0].aperture), 0.3219, 1e-3);
}

TEST(Practice, RatioSchools) {
  // Tables of the trade (common practice, no source): 1, 2, 3, 4 stops.
  const double unit[] = {2, 4, 8, 16}, sides[] = {3, 5, 9, 17};
  for (int s = 1; s <= 4; ++s) {
    EXPECT_EQ(ratioOf(s, RatioSchool::UnitToUnit), unit[s - 1]);
    EXPECT_EQ(ratioOf(s, RatioSchool::LitToShadow), sides[s - 1]);
    EXPECT_NEAR(stopsUnderFromRatio(sides[s - 1], RatioSchool::LitToShadow), s, 1e-12);
  }
}

// A square Lambertian panel 1.2 m up at the sitter's place, square to the backdrop.
Emitter facingTheBackdrop(double side) {
  Modifier m;
  m.name = "panel";
  m.outline = Outline::Rectangle;
  m.width = m.height = side;
  return Emitter(m, {{0, 1.2f, 0}, Frame::facing({0, 0, -1})});
}

TEST(Practice, ASmallSourceFallsOffOnTheBackdropWithTheSquareOfTheDistance) {
  // The inverse square law. The source is a 6 cm patch square to the backdrop.
  const Emitter e = facingTheBackdrop(0.06);
  const double near = directLux(nullptr, e, {0, 1.2f, -1}, {0, 0, 1}, Receptor::Flat, 256);
  for (float d : {1.5f, 2.f, 3.f, 5.f})
    EXPECT_NEAR(std::log2(near / directLux(nullptr, e, {0, 1.2f, -d}, {0, 0, 1}, Receptor::Flat, 256)),
                2 * std::log2(d), 0.01)
        << d;
}

TEST(Practice, ALargeSourceFallsOffOnTheBackdropAsInTheReferenceRenderer) {
  const Emitter e = facingTheBackdrop(1.2);
  const double luminance = 1 / (kPi * 1.2 * 1.2);
  for (const FalloffSpot& r : kBackdropFalloffPovray) {
    const double ours =
        directLux(nullptr, e, {float(r.x), 1.2f + float(r.y), -float(r.distance)}, {0, 0, 1}, Receptor::Flat, 4096) /
        luminance;
    EXPECT_NEAR(ours, r.irradiance, 0.01 * r.irradiance) << r.distance << " " << r.x;
  }
}

// What a backdrop comes out as when its light stands `stops` over the camera's setting.
double tonedByte(const char* material, double stops) {
  return 255 * toneCurve(findBackdrop(material)->luminance() * std::exp2(stops));
}

TEST(Practice, BackdropRules) {
  // Common practice, no source: white paper is pure white two stops over the key, and grey at the key's own level or
  // under; black cloth comes to mid grey about one and a half stops over, velvet about three.
  EXPECT_GE(tonedByte("paper-white", 2), 253);
  EXPECT_LT(tonedByte("paper-white", 0), 235);
  EXPECT_LT(tonedByte("paper-white", -1), 200);
  EXPECT_NEAR(std::log2(0.18 / findBackdrop("cloth-black")->luminance()), 1.5, 0.1);
  EXPECT_NEAR(std::log2(0.18 / findBackdrop("velvet-black")->luminance()), 3, 0.1);
  EXPECT_NEAR(tonedByte("paper-mid-grey", 0), 118, 1) << "sRGB of 18 %";
}

TEST(Practice, TheBackgroundLightThatATonesWantsGivesThatTone) {
  Plan p = test::masterPlan();
  for (const char* material : {"paper-white", "canvas-grey", "cloth-black"})
    for (const char* tone : {"mid-grey", "light-grey"}) {
      p.backdrop.material = material;
      const Answers before = answersOf(p);
      const BackdropLight b = backgroundFor(p, before, tone);
      if (!b.reachable) {
        EXPECT_NE(b.sentence.find("other lights alone"), std::string::npos) << b.sentence;
        continue;
      }
      const Plan lit = withBackdropTone(p, before, tone);
      double wanted = 0;
      for (const Tone& t : backdropTones())
        if (t.id == tone) wanted = t.value;
      // As near as its unit, which goes in thirds, can be set.
      const double step = findUnit(p.light("D")->unit)->scale.step;
      EXPECT_NEAR(std::log2(answersOf(lit).backdropValue / wanted), 0, step / 2 + 0.03) << material << " " << tone;
    }
}

}  // namespace
}  // namespace easel
