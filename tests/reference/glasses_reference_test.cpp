// The mirror of glasses against the law of reflection and Fresnel's equations.
#include <gtest/gtest.h>

#include <cmath>

#include "analysis/catchlights.h"
#include "analysis/glare.h"
#include "plan/lamp.h"
#include "plan/placement.h"
#include "rooms.h"
#include "sitters/glasses.h"
#include "sitters/sitter_file.h"

namespace easel {
namespace {

// E. Hecht, "Optics", 4.6: 4 % for glass of index 1.5 at right angles; at Brewster's angle (56.3 degrees) only the part
// across the plane is mirrored, (sin^2(56.3 - 33.7) / sin^2(56.3 + 33.7)) / 2 = 7.4 %; all of it at grazing angles.
TEST(GlassesMirror, SharesAreFresnels) {
  EXPECT_NEAR(mirroredByGlass(1), 0.04, 1e-4);
  EXPECT_NEAR(mirroredByGlass(float(std::cos(56.31 * kPi / 180))), 0.0740, 5e-4);
  EXPECT_NEAR(mirroredByGlass(0), 1, 1e-4);
}

// The law of reflection: where the front mirrors a small lamp into the camera, the normal halves the angle between the
// ways to both. The place is found on the sphere itself, by another way than readGlare() looks for it.
TEST(GlassesMirror, ASmallLampIsMirroredWhereTheNormalHalvesTheAngle) {
  Plan p = test::masterPlan();
  p.sitter.glasses = "large";
  p.lights.resize(1);
  p.lights[0].modifier = "reflector-18";
  int found = 0;
  for (double hour : {5.4, 5.8, 6.3})
    for (double height : {0.95, 1.1}) {
      p.lights[0].hour = hour;
      p.lights[0].distance = 1.4;
      p.lights[0].height = height;
      const Scene scene(placedSetOf(p), loadSitter(p.sitter.id));
      const Emitter lamp = emitterOf(placedSetOf(p), test::placed(p, p.lights[0]));
      const Vec3 camera = cameraPose(p).eye, origin = scene.studioPoint({});
      for (const Glare& g : readGlare(scene, placedSetOf(p), 1000, 0.3)) {
        const Lens& lens = scene.glasses()->lens[size_t(g.lens)];
        const Vec3 centre = scene.studioPoint(lens.pole - lens.axis * Lens::kFront);
        const Vec3 place = mirrorPoint(centre, Lens::kFront, camera, lamp.pose().centre);
        // Both surfaces: the middle of the two spots lies within a few millimetres of the front's.
        EXPECT_NEAR(length(g.place - place), 0, 0.006) << hour << " " << height;
        const Vec3 n = normalize(place - centre);
        EXPECT_NEAR(dot(n, normalize(camera - place)), dot(n, normalize(lamp.pose().centre - place)), 1e-4);
        EXPECT_NEAR(length(scene.studioPoint(lens.normal(lens.pole, false)) - origin), 1, 1e-4);
        ++found;
      }
    }
  EXPECT_GE(found, 6);
}

}  // namespace
}  // namespace easel
