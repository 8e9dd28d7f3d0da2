#include "placed/gear_bodies.h"

#include <algorithm>
#include <cmath>

#include "geometry/box.h"

namespace easel {
namespace {

constexpr float kBehind = 0.004f;  // metres: a body begins behind the plane that the light leaves
constexpr float kTube = 0.016f, kHead = 0.06f;

// A closed ring of points about an axis, swept to another.
void sweep(Solid& s, const std::vector<Vec3>& from, const std::vector<Vec3>& to) {
  const auto first = std::uint32_t(s.position.size()), n = std::uint32_t(from.size());
  s.position.insert(s.position.end(), from.begin(), from.end());
  s.position.insert(s.position.end(), to.begin(), to.end());
  for (std::uint32_t k = 0; k < n; ++k) {
    const std::uint32_t a = first + k, b = first + (k + 1) % n;
    for (std::uint32_t i : {a, b, b + n, a, b + n, a + n}) s.triangles.push_back(i);
  }
}
void lid(Solid& s, const std::vector<Vec3>& ring) {
  const auto first = std::uint32_t(s.position.size());
  s.position.insert(s.position.end(), ring.begin(), ring.end());
  for (std::uint32_t k = 1; k + 1 < ring.size(); ++k)
    for (std::uint32_t i : {0u, k, k + 1}) s.triangles.push_back(first + i);
}
std::vector<Vec3> ringAbout(Vec3 centre, Vec3 u, Vec3 v, float halfWide, float halfHigh, int n, float turned = 0) {
  std::vector<Vec3> out;
  for (int k = 0; k < n; ++k) {
    const float a = 2 * kPiF * float(k) / float(n) + turned;
    out.push_back(centre + u * (halfWide * std::cos(a)) + v * (halfHigh * std::sin(a)));
  }
  return out;
}
// Closed at both ends.
void tube(Solid& s, Vec3 from, Vec3 to, float radius, int sides = 6) {
  const Frame f = Frame::facing(to - from);
  const std::vector<Vec3> ends[] = {ringAbout(from, f.u, f.v, radius, radius, sides),
                                    ringAbout(to, f.u, f.v, radius, radius, sides)};
  sweep(s, ends[0], ends[1]);
  for (const std::vector<Vec3>& end : ends) lid(s, end);
}

// The outline of a front, shrunk by `scale`, `back` behind it.
std::vector<Vec3> outlineOf(const Modifier& m, const LightPose& pose, float back, float scale) {
  const Vec3 c = pose.centre - pose.frame.n * back;
  const float w = float(m.width) / 2 * scale, h = float(m.height > 0 ? m.height : m.width) / 2 * scale;
  const Frame& f = pose.frame;
  switch (m.outline) {
    case Outline::Rectangle:
      return {c - f.u * w - f.v * h, c + f.u * w - f.v * h, c + f.u * w + f.v * h, c - f.u * w + f.v * h};
    case Outline::Octagon: {
      const float r = 1 / std::cos(kPiF / 8);
      return ringAbout(c, f.u, f.v, w * r, h * r, 8, kPiF / 8);
    }
    default:
      return ringAbout(c, f.u, f.v, w, h, 24);
  }
}

// What is put round the light, from rim to neck, seen from without and from within.
struct Station {
  float back, scale;  // of the depth, of the front
};
void shell(Solid& s, const Modifier& m, const LightPose& pose, float deep, const std::vector<Station>& along,
           float scale = 1) {
  for (size_t k = 1; k < along.size(); ++k)
    sweep(s, outlineOf(m, pose, kBehind + deep * along[k - 1].back, along[k - 1].scale * scale),
          outlineOf(m, pose, kBehind + deep * along[k].back, along[k].scale * scale));
}
Solid of(float reflectance) {
  Solid s;
  s.albedo = {reflectance, reflectance, reflectance};
  return s;
}

constexpr float kBlackCloth = 0.03f, kBlackMetal = 0.04f, kMetal = 0.3f, kWhite = 0.75f;

// Black outside, its cloth white in front within a seam.
void addBox(std::vector<Solid>& out, const Modifier& m, const LightPose& pose, float neck) {
  const auto deep = std::max(float(m.depth), 2 * kBehind);
  Solid cloth = of(kWhite), sides = of(kBlackCloth);
  lid(cloth, outlineOf(m, pose, kBehind, 0.96f));
  sweep(sides, outlineOf(m, pose, kBehind, 0.96f), outlineOf(m, pose, kBehind, 1));
  shell(sides, m, pose, deep, {{0, 1}, {0.12f, 1}, {1, neck}});
  lid(sides, outlineOf(m, pose, kBehind + deep, neck));
  out.push_back(std::move(cloth));
  out.push_back(std::move(sides));
}
// One looks into it, at the head or at what hides the head.
void addBowl(std::vector<Solid>& out, const Modifier& m, const LightPose& pose, const std::vector<Station>& along,
             float outside) {
  const auto deep = float(m.depth);
  Solid within = of(float(m.lining)), without = of(outside);
  shell(within, m, pose, deep, along, 0.98f);
  shell(without, m, pose, deep, along);
  lid(within, outlineOf(m, pose, kBehind + deep * along.back().back, along.back().scale));
  if (m.centre > 0) {
    const float across = float(m.centre / m.width);
    lid(within, outlineOf(m, pose, kBehind + deep * 0.2f, across));
  }
  out.push_back(std::move(within));
  out.push_back(std::move(without));
}
void addBody(std::vector<Solid>& out, const Modifier& m, const LightPose& pose) {
  const float neck = std::min(1.f, kHead / std::max(0.01f, float(m.width) / 2));
  switch (m.family) {
    case ModifierFamily::Reflector:
      return addBowl(out, m, pose, {{0, 1}, {0.75f, std::max(neck, 0.7f)}, {1, neck}}, kMetal);
    case ModifierFamily::Dish:
      return addBowl(out, m, pose, {{0, 1}, {0.2f, 0.9f}, {0.4f, 0.65f}, {0.5f, neck}, {1, neck}}, float(m.lining));
    case ModifierFamily::Umbrella:  // its ribs bend the cloth
      return addBowl(out, m, pose, {{0, 1}, {0.12f, 0.88f}, {0.28f, 0.65f}, {0.4f, 0.35f}, {0.45f, 0.02f}},
                     kBlackCloth);
    case ModifierFamily::Spot:
      return addBowl(out, m, pose, {{0, 1}, {0.7f, 1}, {1, neck}}, kBlackMetal);
    default:
      return addBox(out, m, pose, m.family == ModifierFamily::Continuous ? 0.94f : neck);
  }
}

struct Ball {
  Vec3 centre;
  float radius = 0;
};
// About the body without its stand.
Ball aboutBody(const Modifier& m, const LightPose& pose) {
  const auto deep = float(m.depth);
  return {pose.centre - pose.frame.n * (deep / 2),
          0.5f * std::hypot(float(m.width), float(m.height > 0 ? m.height : m.width), deep)};
}

bool hasBody(const PlacedLight& l) {
  const Modifier& m = l.lamp->modifier;
  return m.depth > 0.001 && m.outline != Outline::Ball && m.backShare <= 0 && !l.onLens;
}

bool inTheWay(const Ball& body, Vec3 from, Vec3 to) {
  const Vec3 d = to - from, b = body.centre - from;
  const float far = dot(d, d), t = far > 0 ? dot(b, d) / far : 0;
  return t > 0.02f && t < 0.98f && length(b - d * t) < body.radius;
}

}  // namespace

bool Solid::operator==(const Solid& o) const {
  return triangles == o.triangles && albedo == o.albedo && position == o.position;
}

std::vector<Solid> gearOf(const PlacedSet& set, const PlacedLight& l) {
  std::vector<Solid> out;
  const Modifier* m = l.lamp ? &l.lamp->modifier : nullptr;
  if (!m || l.onLens || m->depth <= 0.001 || !l.light.inside.empty()) return out;
  // A window is a hole, and a prop's bulb hangs in its prop.
  if (m->family == ModifierFamily::Large || (m->outline == Outline::Ball && m->family == ModifierFamily::Continuous))
    return out;
  const LightPose& pose = l.pose;
  const Vec3 back = pose.centre - pose.frame.n * float(m->depth);
  Solid black = of(kBlackMetal);
  if (hasBody(l)) {
    addBody(out, *m, pose);
    // The head sits behind it; an umbrella's looks into it, on the rod.
    if (m->family == ModifierFamily::Umbrella) {
      const Vec3 within = pose.centre - pose.frame.n * (float(m->depth) * 0.06f);
      tube(black, within, back, 0.006f);
      tube(black, within, within - pose.frame.n * (float(m->depth) * 0.3f), kHead);
    } else if (m->family != ModifierFamily::Continuous) {
      tube(black, back, back - pose.frame.n * 0.26f, kHead, 12);
    }
  } else if (m->backShare <= 0) {
    tube(black, back, back - pose.frame.n * 0.26f, kHead, 12);
  }
  // Over the sitter it hangs from an arm that comes in from the side; else it stands where its head is.
  const Vec3 joint = back - pose.frame.n * 0.08f;
  Vec3 foot{joint.x, 0, joint.z};
  if (showsNoStand(l.light, pose, set.sitter)) {
    const float side = pose.centre.x < -0.02f ? -1.f : 1.f;
    foot = {joint.x + side * 1.7f, 0, joint.z - 0.3f};
    const Vec3 pivot{foot.x, std::max(0.5f, joint.y - 0.15f), foot.z};
    const Vec3 along = normalize(pivot - joint), tail = pivot + along * 0.7f;
    tube(black, joint, tail, kTube);
    tube(black, tail - along * 0.2f, tail, 0.055f, 12);  // its weight
    tube(black, foot, pivot, kTube);
  } else if (joint.y > 0.2f) {
    tube(black, foot, joint, kTube);
  }
  for (int k = 0; k < 3; ++k) {
    const float a = 2 * kPiF * float(k) / 3 + kPiF / 2;
    tube(black, foot + Vec3{0, std::min(0.35f, joint.y / 2), 0},
         foot + Vec3{0.45f * std::cos(a), 0.012f, 0.45f * std::sin(a)}, 0.011f);
  }
  out.push_back(std::move(black));
  return out;
}

std::vector<Thing> objectsOf(const PlacedSet& set) {
  std::vector<Thing> out;
  for (size_t i = 0; i < set.panels.size(); ++i) {
    const Panel& p = set.panels[i];
    const auto& model = set.models[i];
    if (!model) continue;
    Thing t;
    t.panel = int(i);
    t.solid.albedo = outlinesOf(p).front().front.diffuse;
    t.solid.triangles = model->triangles;
    const Frame f = frameOf(p);
    const float scale = float(p.height) / std::max(1e-3f, model->size.y);
    Vec3 foot = towardsHour(p.hour) * float(p.distance) - f.v * float(p.height / 2);
    foot.y += float(p.above);
    t.solid.position.reserve(model->position.size());
    for (const Vec3& v : model->position) t.solid.position.push_back(foot + f.toWorld(v * scale));
    out.push_back(std::move(t));
  }
  return out;
}

std::vector<Solid> gearThatMatters(const PlacedSet& set) {
  std::vector<Solid> out;
  const CameraPose& camera = set.cameraPose;
  const auto inFrame = [&](Vec3 p) {
    const auto at = inPicture(camera, set.camera.frame, p);
    return at && std::abs(at->x) < 1 && std::abs(at->y) < 1;
  };
  // Most gear is: told from the eight corners about it, without its hundreds of triangles.
  const auto clearOfFrame = [&](const Solid& s) {
    Box box;
    for (const Vec3& p : s.position) box.take(p);
    int left = 0, right = 0, below = 0, above = 0;
    for (int k = 0; k < 8; ++k) {
      const auto at =
          inPicture(camera, set.camera.frame,
                    {k & 1 ? box.high.x : box.low.x, k & 2 ? box.high.y : box.low.y, k & 4 ? box.high.z : box.low.z});
      if (!at) return false;  // it reaches behind the lens
      left += at->x < -1;
      right += at->x > 1;
      below += at->y < -1;
      above += at->y > 1;
    }
    return std::max({left, right, below, above}) == 8;
  };
  const Vec3& face = set.face;
  const Vec3 ends[] = {face, face + Vec3{0, 0.14f, -0.1f}, {0, face.y, -float(set.backdrop.distance)}};
  for (const PlacedLight& l : set.lights) {
    std::vector<Solid> gear = gearOf(set, l);
    if (gear.empty()) continue;
    bool matters = false;
    // A tube is long and thin: a frame can pass between its ends.
    for (const Solid& s : gear) {
      if (clearOfFrame(s)) continue;
      for (size_t k = 0; k + 2 < s.triangles.size() && !matters; k += 3) {
        const Vec3 a = s.position[s.triangles[k]], b = s.position[s.triangles[k + 1]],
                   c = s.position[s.triangles[k + 2]];
        for (int i = 0; i <= 8 && !matters; ++i)
          matters = inFrame(lerp(a, c, float(i) / 8)) || inFrame(lerp(a, b, float(i) / 8));
      }
    }
    if (hasBody(l)) {
      const Ball body = aboutBody(l.lamp->modifier, l.pose);
      for (const PlacedLight& other : set.lights)
        if (!matters && &other != &l && other.burns()) {
          const Vec3 lamp = other.pose.centre;
          if (length(lamp - body.centre) < body.radius) continue;  // two in one place: a fault of its own
          for (const Vec3& end : ends) matters |= inTheWay(body, lamp, end);
        }
    }
    if (matters) out.insert(out.end(), std::make_move_iterator(gear.begin()), std::make_move_iterator(gear.end()));
  }
  return out;
}

}  // namespace easel
