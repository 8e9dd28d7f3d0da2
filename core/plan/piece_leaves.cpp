#include "plan/piece_leaves.h"

#include <algorithm>
#include <cmath>

#include "gear/model.h"
#include "geometry/hashing.h"

namespace easel {
namespace {

constexpr float kBoard = 0.03f;  // metres: a table's top, a seat, a rail
constexpr float kLeg = 0.05f;
constexpr auto kLarge = Leaf::Sampling::ByCells, kSmall = Leaf::Sampling::ByRays;

// In the piece's own axes: x across, y up from its middle, z to the front.
class Joiner {
 public:
  Joiner(std::vector<Leaf>& out, const Leaf& like) : out_(out), like_(like) {}

  // A rectangle (or the ellipse in it) that looks along `u` x `v`, both units.
  Leaf& face(Vec3 centre, Vec3 u, Vec3 v, float wide, float high, const Finish& finish, Leaf::Sampling sampling) {
    Leaf l = like_;
    l.pattern = l.painted = nullptr;
    l.disc = false;
    l.centre = like_.centre + like_.frame.toWorld(centre);
    l.frame.u = like_.frame.toWorld(u);
    l.frame.v = like_.frame.toWorld(v);
    l.frame.n = cross(l.frame.u, l.frame.v);
    l.halfWidth = wide / 2;
    l.halfHeight = high / 2;
    l.front = l.back = finish;
    l.sampling = sampling;
    out_.push_back(std::move(l));
    return out_.back();
  }
  void box(Vec3 low, Vec3 high, const Finish& finish, Leaf::Sampling sampling) {
    const Vec3 m = (low + high) * 0.5f, s = high - low, x{1, 0, 0}, y{0, 1, 0}, z{0, 0, 1};
    face({m.x, m.y, high.z}, x, y, s.x, s.y, finish, sampling);
    face({m.x, m.y, low.z}, -x, y, s.x, s.y, finish, sampling);
    face({high.x, m.y, m.z}, -z, y, s.z, s.y, finish, sampling);
    face({low.x, m.y, m.z}, z, y, s.z, s.y, finish, sampling);
    face({m.x, high.y, m.z}, x, -z, s.x, s.z, finish, sampling);
    face({m.x, low.y, m.z}, x, z, s.x, s.z, finish, sampling);
  }
  // A tube of `sides` flat faces between two places.
  void tube(Vec3 from, Vec3 to, float radius, int sides, const Finish& finish) {
    const Vec3 along = normalize(to - from);
    const Frame f = Frame::facing(along);
    for (int k = 0; k < sides; ++k) {
      const float a = (float(k) + 0.5f) * 2 * kPiF / float(sides), half = kPiF / float(sides);
      const Vec3 out = f.u * std::cos(a) + f.v * std::sin(a);
      face((from + to) * 0.5f + out * (radius * std::cos(half)), cross(along, out), along, 2 * radius * std::sin(half),
           length(to - from), finish, kSmall);
    }
  }
  const Finish& front() const { return like_.front; }
  const Finish& back() const { return like_.back; }

 private:
  std::vector<Leaf>& out_;
  const Leaf like_;  // not a reference: it may stand in `out`
};

struct Size {
  float wide, high, deep;
};

// Four legs at the corners, from the foot up to a height.
void legs(Joiner& j, Size s, float foot, float top) {
  for (float x : {-1.f, 1.f})
    for (float z : {-1.f, 1.f}) {
      const float cx = x * std::max(0.f, s.wide / 2 - kLeg), cz = z * std::max(0.f, s.deep / 2 - kLeg);
      j.box({cx - kLeg / 2, foot, cz - kLeg / 2}, {cx + kLeg / 2, top, cz + kLeg / 2}, j.back(), kSmall);
    }
}

void table(Joiner& j, Size s) {
  const float top = s.high / 2, under = top - std::min(kBoard, s.high / 2);
  const Vec3 x{1, 0, 0}, y{0, 1, 0}, z{0, 0, 1};
  j.face({0, top, 0}, x, -z, s.wide, s.deep, j.front(), kLarge);
  j.face({0, under, 0}, x, z, s.wide, s.deep, j.back(), kSmall);
  const float m = (top + under) / 2, thick = top - under;
  j.face({0, m, s.deep / 2}, x, y, s.wide, thick, j.front(), kSmall);
  j.face({0, m, -s.deep / 2}, -x, y, s.wide, thick, j.front(), kSmall);
  j.face({s.wide / 2, m, 0}, -z, y, s.deep, thick, j.front(), kSmall);
  j.face({-s.wide / 2, m, 0}, z, y, s.deep, thick, j.front(), kSmall);
  legs(j, s, -s.high / 2, under);
  // Rails under the top keep the legs apart.
  const float rail = std::min(0.09f, s.high / 4), inx = s.wide / 2 - kLeg, inz = s.deep / 2 - kLeg;
  if (inx <= 0 || inz <= 0) return;
  for (float side : {-1.f, 1.f}) {
    j.box({-inx, under - rail, side * inz - 0.01f}, {inx, under, side * inz + 0.01f}, j.back(), kSmall);
    j.box({side * inx - 0.01f, under - rail, -inz}, {side * inx + 0.01f, under, inz}, j.back(), kSmall);
  }
}

void stool(Joiner& j, Size s) {
  const float top = s.high / 2, under = top - std::min(kBoard, s.high / 2), r = s.wide / 2;
  const Vec3 x{1, 0, 0}, z{0, 0, 1};
  j.face({0, top, 0}, x, -z, s.wide, s.wide, j.front(), kSmall).disc = true;
  j.face({0, under, 0}, x, z, s.wide, s.wide, j.back(), kSmall).disc = true;
  j.tube({0, under, 0}, {0, top, 0}, r, 24, j.front());
  Vec3 feet[3], knees[3];
  for (int k = 0; k < 3; ++k) {
    const float a = float(k) * 2 * kPiF / 3 + kPiF / 2;
    const Vec3 out{std::cos(a), 0, std::sin(a)};
    const Vec3 up = out * (0.6f * r) + Vec3{0, under, 0};
    feet[k] = out * (1.05f * r) + Vec3{0, -s.high / 2, 0};
    knees[k] = lerp(feet[k], up, 0.4f);
    j.tube(feet[k], up, 0.016f, 6, j.back());
  }
  for (int k = 0; k < 3; ++k) j.tube(knees[k], knees[(k + 1) % 3], 0.01f, 5, j.back());
}

void chair(Joiner& j, Size s) {
  const float foot = -s.high / 2, seat = foot + s.high / 2, under = seat - std::min(kBoard, s.high / 4);
  j.box({-s.wide / 2, under, -s.deep / 2}, {s.wide / 2, seat, s.deep / 2}, j.front(), kSmall);
  legs(j, s, foot, under);
  // Its back is at the back: two posts, and slats between them.
  const float cx = std::max(0.f, s.wide / 2 - kLeg), z = -s.deep / 2 + kLeg / 2;
  for (float side : {-1.f, 1.f})
    j.box({side * cx - kLeg / 2, seat, z - kLeg / 2}, {side * cx + kLeg / 2, s.high / 2, z + kLeg / 2}, j.back(),
          kSmall);
  for (int k = 0; k < 3; ++k) {
    const float y = seat + (0.3f + 0.3f * float(k)) * (s.high / 2 - seat);
    j.box({-cx, y - 0.025f, z - 0.008f}, {cx, y + 0.025f, z + 0.008f}, j.front(), kSmall);
  }
}

// A wall with a hole in it: what stands round the hole sends, the reveal and the bars do not.
void flat(Joiner& j, Size s, const Panel& p, bool bars) {
  const Vec3 x{1, 0, 0}, y{0, 1, 0}, z{0, 0, 1};
  const float foot = -s.high / 2, w = std::min(float(p.openWidth), s.wide),
              low = foot + std::min(float(p.sill), s.high), high = std::min(low + float(p.openHeight), s.high / 2);
  auto wall = [&](float x0, float x1, float y0, float y1) {
    if (x1 - x0 < 1e-3f || y1 - y0 < 1e-3f) return;
    j.face({(x0 + x1) / 2, (y0 + y1) / 2, 0}, x, y, x1 - x0, y1 - y0, j.front(), kLarge).back = j.back();
  };
  wall(-s.wide / 2, -w / 2, foot, s.high / 2);
  wall(w / 2, s.wide / 2, foot, s.high / 2);
  wall(-w / 2, w / 2, high, s.high / 2);
  wall(-w / 2, w / 2, foot, low);
  if (high - low < 1e-3f) return;
  const float deep = std::max(0.02f, s.deep), m = (low + high) / 2;
  j.face({-w / 2, m, 0}, z * -1.f, y, deep, high - low, j.front(), kSmall);
  j.face({w / 2, m, 0}, z, y, deep, high - low, j.front(), kSmall);
  if (high < s.high / 2 - 1e-3f) j.face({0, high, 0}, x, z, w, deep, j.front(), kSmall);
  if (low > foot + 1e-3f) j.face({0, low, 0}, x, -z, w, deep, j.front(), kSmall);
  if (!bars) return;
  j.box({-0.02f, low, -0.015f}, {0.02f, high, 0.015f}, j.front(), kSmall);
  j.box({-w / 2, m - 0.02f, -0.014f}, {w / 2, m + 0.02f, 0.014f}, j.front(), kSmall);
}

void picture(Joiner& j, Size s, const std::shared_ptr<const Gobo>& painted) {
  const float bar = std::min({0.04f, s.wide / 4, s.high / 4}), deep = std::max(0.01f, s.deep) / 2;
  const float w = s.wide / 2, h = s.high / 2;
  Leaf& canvas = j.face({0, 0, 0}, {1, 0, 0}, {0, 1, 0}, s.wide - bar, s.high - bar, j.front(), kSmall);
  canvas.back = j.back();
  canvas.painted = painted;
  j.box({-w, h - bar, -deep}, {w, h, deep}, j.back(), kSmall);
  j.box({-w, -h, -deep}, {w, -h + bar, deep}, j.back(), kSmall);
  j.box({-w, -h + bar, -deep}, {-w + bar, h - bar, deep}, j.back(), kSmall);
  j.box({w - bar, -h + bar, -deep}, {w, h - bar, deep}, j.back(), kSmall);
}

// Six faces of cloth, open above and below, and a foot that it stands on.
void shade(Joiner& j, Size s, const Finish& foot) {
  constexpr int kFaces = 6;
  const float r = s.wide / 2, half = kPiF / kFaces;
  for (int k = 0; k < kFaces; ++k) {
    const float a = float(k) * 2 * half + kPiF / 2;  // the first looks to the front
    const Vec3 out{std::cos(a), 0, std::sin(a)}, up{0, 1, 0};
    j.face(out * (r * std::cos(half)), cross(up, out), up, 2 * r * std::sin(half), s.high,
           out.z > -0.1f ? j.front() : j.back(), Leaf::Sampling::ByArea);
  }
  if (s.deep < 0.01f) return;
  const float low = -s.high / 2, base = low - s.deep;
  j.tube({0, base, 0}, {0, low + 0.03f, 0}, 0.009f, 6, foot);
  const float wide = std::min(0.6f * s.wide, 0.2f);
  j.tube({0, base, 0}, {0, base + 0.015f, 0}, wide / 2, 12, foot);
  j.face({0, base + 0.015f, 0}, {1, 0, 0}, {0, 0, -1}, wide, wide, foot, kSmall).disc = true;
}

// One stem that bends, twigs to both sides of it, leaves along the twigs.
void branch(Joiner& j, Size s) {
  constexpr int kTwigs = 13, kLeavesOfTwig = 13;
  auto chance = [n = 0u]() mutable { return unitFloat(hash32(0xb4a7u + 7919u * n++)); };
  auto stem = [&](float t) {
    return Vec3{(t - 0.5f) * s.wide, (0.28f * std::sin(2.4f * t) - 0.14f) * s.high, 0.05f * s.wide * std::sin(5 * t)};
  };
  for (int k = 0; k < 6; ++k)
    j.tube(stem(float(k) / 6), stem(float(k + 1) / 6), 0.008f - 0.001f * float(k), 5, j.back());
  for (int k = 0; k < kTwigs; ++k) {
    const float t = (float(k) + 0.7f) / kTwigs, side = k % 2 ? 1.f : -1.f;
    const Vec3 from = stem(t);
    const float reach = (0.28f + 0.2f * chance()) * s.high;
    const Vec3 to = from + Vec3{0.45f * reach, side * reach * 0.85f, (chance() - 0.5f) * reach};
    j.tube(from, to, 0.003f, 4, j.back());
    for (int l = 0; l < kLeavesOfTwig; ++l) {
      const Vec3 at = lerp(from, to, (float(l) + 0.8f) / kLeavesOfTwig);
      const float size = 0.045f + 0.03f * chance();
      const Vec3 along = normalize(Vec3{0.7f * chance(), (l % 2 ? 1.f : -1.f) * (0.4f + chance()), chance() - 0.5f} +
                                   normalize(to - from) * 0.6f);
      const Frame f = Frame::facing(normalize(Vec3{chance() - 0.5f, chance() - 0.5f, 0.35f + chance()}));
      const Vec3 u = normalize(along - f.n * dot(along, f.n));
      j.face(at + u * (size * 0.5f), u, cross(f.n, u), size, size * 0.5f, j.front(), kSmall).disc = true;
    }
  }
}

// The box about a mesh; a block without one.
void object(Joiner& j, Size s, bool mesh) {
  const Vec3 half{s.wide / 2, s.high / 2, s.deep / 2};
  j.box(-half, half, j.front(), mesh ? Leaf::Sampling::None : kLarge);
}

}  // namespace

void addPiece(std::vector<Leaf>& out, const Leaf& like, const Panel& p, PanelShape shape, bool drawn) {
  Joiner j(out, like);
  const Size s{float(p.width), float(p.height), float(p.depth)};
  switch (shape) {
    case PanelShape::Table:
      return table(j, s);
    case PanelShape::Stool:
      return stool(j, s);
    case PanelShape::Chair:
      return chair(j, s);
    case PanelShape::Doorway:
      return flat(j, s, p, false);
    case PanelShape::Window:
      return flat(j, s, p, true);
    case PanelShape::Picture:
      return picture(j, s, drawn ? findGobo(p.pattern) : nullptr);
    case PanelShape::Shade:
      return shade(j, s, *findFinish("black"));
    case PanelShape::Branch:
      return branch(j, s);
    case PanelShape::Object:
      return object(j, s, modelThere(p.model));
    default:
      j.box({-s.wide / 2, -s.high / 2, -s.deep / 2}, {s.wide / 2, s.high / 2, s.deep / 2}, j.front(), kLarge);
  }
}

}  // namespace easel
