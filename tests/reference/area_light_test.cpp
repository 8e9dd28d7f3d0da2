// The irradiance of an area light, open and half occluded, against a general-purpose renderer on the same geometry.
#include <gtest/gtest.h>

#include "meter/point_meter.h"
#include "reference/area_light_povray.h"

namespace easel {
namespace {

Modifier panel(double width, double height) {
  Modifier m;
  m.name = "panel";
  m.outline = Outline::Rectangle;
  m.width = width;
  m.height = height;
  m.transmission = 1;
  m.lobe = 1;
  return m;
}

// The same geometry in a studio: the backdrop (10 m wide) is the flag, its right edge at x = 5; everything is shifted
// there.
constexpr float kX = 5, kY = 3, kFlagZ = -2;
Plan flagPlan() {
  Plan p;
  p.room = {30, 20, 12, 8, 0, 0, 0, "neutral", {}};
  p.backdrop.distance = -kFlagZ;
  p.backdrop.width = 2 * kX;
  p.backdrop.height = 11;
  return p;
}

TEST(AreaLight, AgreesWithTheReferenceRendererWithinTwoPercent) {
  const Scene studio(placedSetOf(flagPlan()), nullptr);
  const Emitter e(panel(0.6, 0.9), {{kX, kY, kFlagZ + 0.5f}, Frame::facing({0, 0, -1})});
  // Luminance of a Lambertian panel that passes on one lumen: 1 / (pi A).
  const double luminance = 1 / (kPi * 0.6 * 0.9);
  for (const ReferenceSpot& r : kAreaLightPovray) {
    const Vec3 p{kX + float(r.x), kY + float(r.y), kFlagZ - 0.5f};
    const double ours = directLux(r.flagged ? &studio : nullptr, e, p, {0, 0, 1}, Receptor::Flat, 4096) / luminance;
    EXPECT_NEAR(ours, r.irradiance, 0.02 * r.irradiance + 1e-4) << r.flagged << " " << r.x << " " << r.y;
  }
}

}  // namespace
}  // namespace easel
