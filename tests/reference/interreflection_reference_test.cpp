// Light that goes on after the first wall, against two things from outside: the closed room of textbooks, and a path
// tracer of its own in a box (all orders, brute force, no code shared with core/).
//
// Closed room: with one reflectance r everywhere, the mean illuminance over all surfaces is flux / (area (1 - r))
// (integrating sphere and closed enclosure; e.g. DiLaura, Houser, Mistrick, Steffy, "The Lighting Handbook", 10th ed.,
// IES 2011, ch. 10; value from memory).
#include <gtest/gtest.h>

#include <random>

#include "gear/kit.h"
#include "meter/point_meter.h"
#include "support.h"
#include "transport/interreflection.h"

namespace easel {
namespace {

Modifier front(double width, double height) {
  Modifier m;
  m.id = m.name = "front";
  m.outline = Outline::Rectangle;
  m.width = width;
  m.height = height;
  return m;
}

Plan roomOf(double width, double depth, double height, double behind, double walls, double floor, double ceiling) {
  Plan p = test::blackHall();
  p.room = {width, depth, height, behind, walls, floor, ceiling, "neutral", {}};
  p.camera.distance = 1.5;
  p.backdrop.distance = behind - 0.3;
  p.backdrop.material = "paper-mid-grey";
  p.backdrop.width = 2;
  p.backdrop.height = 2.1;
  return p;
}

// --- the path tracer ---------------------------------------------------------------------------------------------
struct P {
  double x, y, z;
};
P operator+(P a, P b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
P operator-(P a, P b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
P operator*(P a, double s) { return {a.x * s, a.y * s, a.z * s}; }
double dotOf(P a, P b) { return a.x * b.x + a.y * b.y + a.z * b.z; }
P crossOf(P a, P b) { return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x}; }
P unit(P a) { return a * (1 / std::sqrt(dotOf(a, a))); }

struct BoxRoom {
  double halfWidth, height, back, front;      // -z and +z walls
  double walls, floor, ceiling;               // reflectances
  double clothZ, clothHalf, clothTop, cloth;  // both faces
  P lamp, lampOut, lampAcross, lampUp;        // centre, unit normal, half edges; Lambertian, one lumen

  struct Hit {
    double t, reflectance;
    P normal;
  };
  Hit meet(P o, P d) const {
    Hit h{1e9, 0, {0, 0, 0}};
    auto plane = [&](double at, double from, double along, double r, P n) {
      if (along == 0) return;
      const double t = (at - from) / along;
      if (t > 1e-7 && t < h.t && dotOf(n, d) < 0) h = {t, r, n};
    };
    plane(halfWidth, o.x, d.x, walls, {-1, 0, 0});
    plane(-halfWidth, o.x, d.x, walls, {1, 0, 0});
    plane(0, o.y, d.y, floor, {0, 1, 0});
    plane(height, o.y, d.y, ceiling, {0, -1, 0});
    plane(back, o.z, d.z, walls, {0, 0, 1});
    plane(front, o.z, d.z, walls, {0, 0, -1});
    if (d.z != 0) {
      const double t = (clothZ - o.z) / d.z;
      const P at = o + d * t;
      if (t > 1e-7 && t < h.t && std::abs(at.x) < clothHalf && at.y < clothTop && at.y > 0)
        h = {t, cloth, {0, 0, d.z > 0 ? -1.0 : 1.0}};
    }
    return h;
  }
  bool open(P from, P to) const {
    const P d = to - from;
    const double far = std::sqrt(dotOf(d, d));
    return meet(from, d * (1 / far)).t > far * 0.99999;
  }
  // Illuminance of a flat receptor by reflected light alone: paths from the lamp, joined with the receptor wherever
  // they meet a surface.
  double reflected(P at, P n, int paths) const {
    std::mt19937_64 engine(7);
    std::uniform_real_distribution<double> uniform;
    auto u = [&] { return uniform(engine); };
    double sum = 0;
    for (int i = 0; i < paths; ++i) {
      P o = lamp + lampAcross * (2 * u() - 1) + lampUp * (2 * u() - 1), normal = lampOut;
      double flux = 1;  // lumen
      for (;;) {
        const double r2 = u(), a = 2 * kPi * u(), r = std::sqrt(r2);
        const P across = unit(crossOf(std::abs(normal.x) > 0.7 ? P{0, 1, 0} : P{1, 0, 0}, normal)),
                up = crossOf(normal, across);
        const P d = across * (r * std::cos(a)) + up * (r * std::sin(a)) + normal * std::sqrt(1 - r2);
        const Hit h = meet(o, d);
        if (h.t > 1e8) break;
        flux *= h.reflectance;
        o = o + d * h.t + h.normal * 1e-9;
        normal = h.normal;
        const P to = at - o;
        const double d2 = dotOf(to, to), far = std::sqrt(d2), here = -dotOf(n, to) / far,
                     there = dotOf(normal, to) / far;
        if (here > 0 && there > 0 && open(o, at)) sum += flux * here * there / (kPi * d2);
        // Weak paths end by lot.
        if (flux < 0.1) {
          if (u() > 0.5) break;
          flux *= 2;
        }
        if (flux <= 0) break;
      }
    }
    return sum / paths;
  }
};

BoxRoom boxOf(const Plan& p, const LightPose& pose, double width, double height) {
  const auto at = [](Vec3 v) { return P{double(v.x), double(v.y), double(v.z)}; };
  const BackdropMaterial* cloth = findBackdrop(p.backdrop.material);
  return {p.room.width / 2,
          p.room.height,
          -std::max(p.room.behind, p.backdrop.distance + 0.02),
          std::max(p.room.depth - p.room.behind, p.camera.distance + 0.3),
          p.room.wallReflectance,
          p.room.floorReflectance,
          p.room.ceilingReflectance,
          -p.backdrop.distance,
          p.backdrop.width / 2,
          p.backdrop.height,
          cloth->reflectance[0],
          at(pose.centre),
          at(pose.frame.n),
          at(pose.frame.u * float(width / 2)),
          at(pose.frame.v * float(height / 2))};
}

TEST(Interreflection, AClosedRoomHasTheMeanOfTheTextbook) {
  for (const double r : {0.2, 0.5, 0.8}) {
    Plan p = roomOf(4, 5, 2.6, 2.5, r, r, r);
    p.backdrop.width = 0.5;  // hardly there: its cloth has a reflectance of its own
    p.backdrop.height = 0.5;
    const Scene scene(placedSetOf(p), nullptr);
    const Emitter lamp(front(0.6, 0.6), {{0.5f, 1.4f, 0.4f}, Frame::facing({-0.3f, 0.1f, -1})});
    const auto room = scene.interreflection().of(lamp, 0);
    double flux = 0, area = 0;
    for (size_t s = 0; s < scene.sides().size(); ++s) {
      const Side& side = scene.sides()[s];
      if (side.body()) continue;
      const double whole = double(length(side.across) * length(side.up));
      area += whole;
      for (int k = 0; k < 400; ++k)
        flux += whole / 400 *
                double(room->all(int(s), side.corner + side.across * ((float(k % 20) + 0.5f) / 20) +
                                             side.up * ((float(k / 20) + 0.5f) / 20))
                           .y);
    }
    EXPECT_NEAR(flux / area, 1 / (area * (1 - r)), 0.03 / (area * (1 - r))) << r;
  }
}

struct Case {
  const char* name;
  double width, depth, height, walls, floor, ceiling;
  Vec3 lamp, towards;
  double size;
};

// Reflected light alone, where it is hardest to get right: every order, three reflectances, two sizes, lamps in the
// room and close to a surface.
TEST(Interreflection, AgreesWithAPathTracerOfItsOwn) {
  const Vec3 face{0, 1.2f, 0};
  for (const Case& c :
       {Case{"small, grey", 3, 4, 2.4, 0.35, 0.2, 0.55, {0.9f, 1.7f, 0.9f}, {-0.6f, -0.3f, -0.7f}, 0.8},
        {"small, white", 3, 4, 2.4, 0.8, 0.3, 0.8, {0.9f, 1.7f, 0.9f}, {-0.6f, -0.3f, -0.7f}, 0.8},
        {"large, white", 8, 10, 4, 0.8, 0.3, 0.8, {1.2f, 1.9f, 1.2f}, {-0.6f, -0.3f, -0.7f}, 0.9},
        {"large, dark", 8, 10, 4, 0.1, 0.1, 0.1, {1.2f, 1.9f, 1.2f}, {-0.6f, -0.3f, -0.7f}, 0.9},
        {"small, flash at the ceiling", 3, 4, 2.4, 0.6, 0.2, 0.8, {0, 2.25f, 0.7f}, {0, 1, 0.05f}, 0.06},
        {"lamp at the wall", 4, 5, 2.6, 0.8, 0.2, 0.7, {1.8f, 1.5f, 0.8f}, {1, 0, 0}, 0.1}}) {
    const Plan p = roomOf(c.width, c.depth, c.height, c.depth / 2, c.walls, c.floor, c.ceiling);
    const Scene scene(placedSetOf(p), nullptr);
    const LightPose pose{c.lamp, Frame::facing(c.towards)};
    const Source source = Source(Emitter(front(c.size, c.size), pose), {}).in(scene);
    const BoxRoom box = boxOf(p, pose, c.size, c.size);
    for (const Vec3 n : {Vec3{0, 0, 1}, {-1, 0, 0}, {0, -1, 0}}) {
      const double ours = bouncedLux(scene, source, face, n, Receptor::Flat, 640),
                   theirs = box.reflected({0, 1.2, 0}, {double(n.x), double(n.y), double(n.z)}, 150000);
      EXPECT_NEAR(std::log2(ours / theirs), 0, 0.06) << c.name << ", receptor " << n.x << " " << n.y << " " << n.z;
    }
    const Vec3 cloth{0.3f, 1.1f, float(-p.backdrop.distance) + 0.01f};
    const double ours = bouncedLux(scene, source, cloth, {0, 0, 1}, Receptor::Flat, 640),
                 theirs = box.reflected({0.3, 1.1, -p.backdrop.distance + 0.01}, {0, 0, 1}, 150000);
    EXPECT_NEAR(std::log2(ours / theirs), 0, 0.06) << c.name << ", on the cloth";
  }
}

}  // namespace
}  // namespace easel
