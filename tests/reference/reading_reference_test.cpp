// What a reading measures, against closed forms and published figures.
#include <gtest/gtest.h>

#include <cmath>

#include "analysis/catchlights.h"
#include "colour/lightness.h"
#include "meter/quality.h"
#include "sitters/eyes.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "support.h"

namespace easel {
namespace {

// ISO/CIE 11664-4 (CIE 1976 L*a*b*): L* of relative luminances. 0.184187 is the luminance of L* = 50 by its own
// formula, 216/24389 the published place of the knee with L* = 8; the Munsell greys N5 and N8 (Y = 19.77 and 59.10 %
// against magnesium oxide, ASTM D1535 table; value from memory) lie near L* = 51.6 and 81.4.
TEST(Lightness, IsTheCieFunction) {
  EXPECT_NEAR(lightness(1), 100, 1e-9);
  EXPECT_NEAR(lightness(0), 0, 1e-9);
  EXPECT_NEAR(lightness(0.184187), 50, 1e-3);
  EXPECT_NEAR(lightness(216.0 / 24389), 8, 1e-9);
  EXPECT_NEAR(lightness(0.001), 0.9033, 1e-3) << "linear part: 24389/27 a unit";
  EXPECT_NEAR(lightness(0.1977), 51.6, 0.1);
  EXPECT_NEAR(lightness(0.5910), 81.4, 0.1);
  EXPECT_NEAR(lightness(0.18), 49.5, 0.05) << "mid grey";
}

// A plate and, in front of it, a blade whose edge throws a shadow: similar triangles give the width of its edge. A
// source of width s at distance D from the blade, the plate a gap g behind it: the share of the source that is seen
// grows evenly over s g / D for an evenly bright rectangle, so from 10 to 90 % over 0.8 of that.
TEST(ShadowEdge, WidthIsThatOfSimilarTriangles) {
  auto sitter = std::make_shared<Sitter>(*loadSitter("ottoline"));
  sitter->parts.clear();
  auto quad = [](Vec3 a, Vec3 b, Vec3 c, Vec3 d) {
    MeshPart m;
    m.surface = Surface::Skin;
    m.texture = 0;
    m.position = {a, b, c, d};
    const Vec3 n = normalize(cross(b - a, d - a));
    m.normal.assign(4, n);
    m.uv.assign(4, {0, 0});
    m.headWeight.assign(4, 0);
    m.triangles = {0, 1, 2, 0, 2, 3};
    return m;
  };
  const float gap = 0.03f, plate = 0.10f;
  sitter->parts.push_back(quad({-0.2f, -0.2f, plate}, {0.2f, -0.2f, plate}, {0.2f, 0.2f, plate}, {-0.2f, 0.2f, plate}));
  // The blade covers x > 0, up to its edge at x = 0.
  sitter->parts.push_back(
      quad({0, -0.2f, plate + gap}, {0.2f, -0.2f, plate + gap}, {0.2f, 0.2f, plate + gap}, {0, 0.2f, plate + gap}));
  Plan plan = test::blackHall();
  plan.sitter.turn = plan.sitter.tilt = plan.sitter.nod = 0;
  const Scene scene(placedSetOf(plan), sitter);
  for (double size : {0.1, 0.2, 0.4})
    for (double distance : {0.8, 1.6}) {
      Modifier m;
      m.outline = Outline::Rectangle;
      m.width = m.height = size;
      // Over the edge, so that the shadow's edge lies under it: looking straight at the plate from in front.
      LightPose pose;
      pose.centre = {0, float(plan.sitter.eyeHeight), plate + gap + float(distance)};
      pose.frame = Frame::facing({0, 0, -1});
      const Emitter e(m, pose);
      // From under the blade outwards over the edge.
      const Vec3 start{0.055f, float(plan.sitter.eyeHeight), plate};
      // The rays that look for the plate come from in front of it, under the blade.
      const ShadowEdge found = followShadow(scene, e, start + Vec3{0, 0, -0.075f}, {0, 0, 1}, {-1, 0, 0}, 0.12f);
      const double expected = 1000 * 0.8 * size * double(gap) / distance;
      ASSERT_EQ(found.kind, ShadowEdge::Kind::Edge) << size << " at " << distance;
      EXPECT_NEAR(found.width / expected, 1, 0.10) << size << " at " << distance << ": " << found.width << " mm";
    }
}

// The mirror point on a sphere, in the plane of eye, centre and light, solved on its own by bisection over the angle
// (Alhazen's problem): the angles to both must be equal. In iris diameters, as catchlights are placed.
TEST(Catchlights, LieWhereTheLawOfReflectionPutsThem) {
  const float radius = 0.0085f;
  const Vec3 centre{0.03f, 1.25f, 0.09f}, eye{0, 1.3f, 2};
  for (double azimuth : {-60., -20., 15., 45., 70.})
    for (double elevation : {-20., 10., 40.})
      for (double distance : {0.5, 1.2, 3.0}) {
        const double a = azimuth * kPi / 180, e = elevation * kPi / 180;
        const Vec3 light =
            centre + Vec3{float(std::sin(a) * std::cos(e)), float(std::sin(e)), float(std::cos(a) * std::cos(e))} *
                         float(distance);
        const Vec3 found = mirrorPoint(centre, radius, eye, light);
        // Plane polar angle from the direction of the eye towards the light.
        const Vec3 u = normalize(eye - centre);
        Vec3 v = light - centre;
        v = normalize(v - u * dot(v, u));
        const double le = double(length(eye - centre)), ll = double(length(light - centre));
        const double between = std::acos(double(dot(normalize(light - centre), u)));
        auto mismatch = [&](double t) {
          auto angle = [&](double far, double off) {  // of the ray to a point `far` away, `off` from the normal at t
            const double x = far * std::cos(off) - double(radius), y = far * std::sin(off);
            return std::atan2(y, x);
          };
          return angle(le, t) - angle(ll, between - t);
        };
        double low = 0, high = between;
        for (int i = 0; i < 200; ++i) {
          const double middle = (low + high) / 2;
          (mismatch(middle) < 0 ? low : high) = middle;
        }
        const Vec3 expected = centre + (u * float(std::cos(low)) + v * float(std::sin(low))) * radius;
        EXPECT_LT(length(found - expected) / 0.012f, 0.02f) << azimuth << " " << elevation << " " << distance;
      }
}

// And in the predicted picture itself: the brightest place of the eye is where the reading says, for everybody, looking
// at the lens and aside. It was 0.05 to 0.15 of an iris off on six of ten while each mesh had eyes of its own.
TEST(Catchlights, TheRenderedSparkIsWhereTheReadingSays) {
  constexpr int kWide = 560, kHigh = 112;
  int sparks = 0;
  for (const Person& who : sitterCatalogue())
    for (const char* gaze : {"lens", "point"}) {
      if (gaze != std::string("lens") && sparks > 12) continue;
      Plan p = test::demoPlan();
      p.ambient.lux = 0;
      p.sitter.id = who.id;
      p.sitter.hairStyle = "shaved";
      p.sitter.glasses = "none";
      p.sitter.turn = p.sitter.tilt = p.sitter.nod = 0;
      p.sitter.gaze = gaze;
      p.sitter.gazeHour = 5.5;
      p.sitter.gazeHeight = p.sitter.eyeHeight;
      p.camera.height = p.sitter.eyeHeight;
      p.camera.frame = double(kWide) / kHigh;
      p.camera.sensorWidth = 36;
      p.camera.sensorHeight = 24;
      p.camera.distance = 1.6;
      p.camera.focalLength = 500;
      p.camera.extends = false;
      p.camera.aimBelowEyes = 0;
      Light& l = p.lights[0];
      l.modifier = "reflector-18";  // small and bright: the spark outshines the white of the eye
      l.hour = 5.2;
      l.distance = 1.1;
      l.height = p.sitter.eyeHeight + 0.15;
      ProgressiveRender s(kWide, kHigh);
      s.setSmooth(false);
      s.setPlan(p);
      s.finish(8);
      const Catchlights read = readCatchlights(*s.scene(), placedSetOf(p));
      std::vector<float> planes[3];
      linearPicture(s.layers(), placedSetOf(p), {}, planes);
      const auto eyes = eyesInStudio(*s.scene());
      for (const Catchlight& c : read.all) {
        const std::string which = who.id + (c.eye ? ", right eye, " : ", left eye, ") + gaze;
        // What a lid cuts is cut in both, by a count of points here and of pixels there.
        if (!c.lives || c.visible < 0.95) continue;
        const auto at = pixelOf(s.layers(), c.point), iris = pixelOf(s.layers(), eyes[size_t(c.eye)].iris()),
                   rim = pixelOf(s.layers(), eyes[size_t(c.eye)].iris() + Vec3{0, kIris, 0});
        ASSERT_TRUE(at && rim && iris) << which;
        const double diameter = 2 * std::abs(double(rim->y - iris->y));
        ASSERT_GT(diameter, 45) << which;
        const auto level = [&](int x, int y) {
          return x < 0 || y < 0 || x >= kWide || y >= kHigh ? 0.0 : double(planes[1][size_t(y) * kWide + size_t(x)]);
        };
        const int reach = int(diameter * 0.35);
        double most = 0, sum = 0, x = 0, y = 0;
        for (int dy = -reach; dy <= reach; ++dy)
          for (int dx = -reach; dx <= reach; ++dx) most = std::max(most, level(int(at->x) + dx, int(at->y) + dy));
        for (int dy = -reach; dy <= reach; ++dy)
          for (int dx = -reach; dx <= reach; ++dx) {
            const int px = int(at->x) + dx, py = int(at->y) + dy;
            if (level(px, py) < 0.3 * most) continue;
            sum += 1;
            x += px + 0.5;
            y += py + 0.5;
          }
        EXPECT_LT(std::hypot(x / sum - double(at->x), y / sum - double(at->y)) / diameter, 0.02) << which;
        ++sparks;
      }
    }
  EXPECT_GT(sparks, 16);
}

}  // namespace
}  // namespace easel
