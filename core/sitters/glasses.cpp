#include "sitters/glasses.h"

#include <algorithm>
#include <cmath>

#include "data/by_id.h"
#include "geometry/fresnel.h"
#include "sitters/people.h"

namespace easel {
namespace {

constexpr float kPantoscopic = 8, kWrap = 4;  // degrees; usual fittings, common practice, no source
constexpr int kRimPoints = 64;
constexpr float kBeforeEye = 0.0265f;  // from the middle of the eyeball: 12 mm beyond the cornea

// A tube along a path.
void addTube(MeshPart& to, const std::vector<Vec3>& path, float radius, bool closed) {
  constexpr std::uint32_t kRound = 8;
  const auto n = path.size();
  const auto first = std::uint32_t(to.position.size());
  for (size_t i = 0; i < n; ++i) {
    const Vec3 before = path[closed ? (i + n - 1) % n
                             : i    ? i - 1
                                    : 0],
               after = path[closed ? (i + 1) % n : std::min(i + 1, n - 1)];
    const Frame f = Frame::facing(after - before);
    for (std::uint32_t k = 0; k < kRound; ++k) {
      const float a = 2 * kPiF * float(k) / kRound;
      const Vec3 out = f.u * std::cos(a) + f.v * std::sin(a);
      to.position.push_back(path[i] + out * radius);
      to.normal.push_back(out);
      to.uv.push_back({});
      to.headWeight.push_back(1);
    }
  }
  const auto rings = std::uint32_t(closed ? n : n - 1);
  for (std::uint32_t i = 0; i < rings; ++i)
    for (std::uint32_t k = 0; k < kRound; ++k) {
      const std::uint32_t next = (k + 1) % kRound, on = std::uint32_t((i + 1) % n);
      const std::uint32_t a = first + i * kRound + k, b = first + i * kRound + next, c = first + on * kRound + k,
                          d = first + on * kRound + next;
      for (std::uint32_t v : {a, b, c, c, b, d}) to.triangles.push_back(v);
    }
}

Vec2 outline(const Lens& l, float turn) {
  const float c = std::cos(turn), s = std::sin(turn), e = 2 / l.roundness;
  return {std::copysign(std::pow(std::abs(c), e), c) * l.halfWidth,
          std::copysign(std::pow(std::abs(s), e), s) * l.halfHeight};
}

Vec3 onRim(const Lens& l, int k) {
  const Vec2 o = outline(l, 2 * kPiF * float(k) / kRimPoints);
  return l.point(o.x, o.y);
}

void addPane(MeshPart& to, const Lens& l) {
  constexpr std::uint32_t kRings = 6, kRound = 48;
  const auto first = std::uint32_t(to.position.size());
  auto add = [&](float x, float y) {
    to.position.push_back(l.point(x, y));
    to.normal.push_back(l.normal(to.position.back(), false));
    to.uv.push_back({});
    to.headWeight.push_back(1);
  };
  add(0, 0);
  for (std::uint32_t r = 1; r <= kRings; ++r)
    for (std::uint32_t k = 0; k < kRound; ++k) {
      const Vec2 o = outline(l, 2 * kPiF * float(k) / kRound);
      const float t = float(r) / kRings;
      add(o.x * t, o.y * t);
    }
  for (std::uint32_t k = 0; k < kRound; ++k) {
    const std::uint32_t next = (k + 1) % kRound;
    for (std::uint32_t v : {first, first + 1 + k, first + 1 + next}) to.triangles.push_back(v);
    for (std::uint32_t r = 0; r + 1 < kRings; ++r) {
      const std::uint32_t a = first + 1 + r * kRound + k, b = first + 1 + r * kRound + next;
      for (std::uint32_t v : {a, a + kRound, b, b, a + kRound, b + kRound}) to.triangles.push_back(v);
    }
  }
}

// From the hinge back along the temple and down behind the ear.
std::vector<Vec3> temple(const Sitter& s, Vec3 hinge, float side, float templesUp) {
  std::vector<Vec3> path = {hinge};
  constexpr float kLong = 0.095f;
  const float eyes = (s.landmarks.eyeLeft.y + s.landmarks.eyeRight.y) / 2;
  const float end = eyes + 0.012f + kLong * std::tan(radians(templesUp));
  float x = std::abs(hinge.x);
  for (float t = 0.08f; t <= 1.001f; t += 0.08f) {
    Vec3 p{0, hinge.y + (end - hinge.y) * t, hinge.z - 0.004f - kLong * t};
    // Outside of the head, and no nearer to it than it was.
    float out = 0.05f;
    while (out < 0.12f && s.headField.at({side * out, p.y, p.z}) < 0.0025f) out += 0.001f;
    x = std::clamp(out, x - 0.003f, x + 0.009f);
    p.x = side * x;
    path.push_back(p);
  }
  const Vec3 last = path.back();
  for (float t : {0.35f, 0.7f, 1.f}) path.push_back(last + Vec3{-side * 0.004f * t, -0.03f * t * t, -0.016f * t});
  return path;
}

}  // namespace

const std::vector<GlassesFrame>& glassesFrames() { return people().glasses; }
const GlassesFrame* findGlasses(std::string_view id) { return byId(glassesFrames(), id); }

bool Lens::inside(float x, float y) const {
  return std::pow(std::abs(x / halfWidth), roundness) + std::pow(std::abs(y / halfHeight), roundness) <= 1;
}
Vec3 Lens::point(float x, float y) const {
  const float away = x * x + y * y;
  return pole + across * x + up * y + axis * (std::sqrt(std::max(0.f, kFront * kFront - away)) - kFront);
}
Vec3 Lens::normal(Vec3 onFront, bool ofBack) const {
  return normalize(onFront - (pole - axis * (ofBack ? kBack : kFront)));
}

float mirroredByGlass(float cosine) { return fresnel(cosine, 1.5f); }

Glasses fittedGlasses(const Sitter& s, const GlassesFrame& frame, double templesUp) {
  Glasses g;
  const float down = radians(kPantoscopic + float(templesUp)), wrap = radians(kWrap);
  for (int side : {1, -1}) {
    Lens& l = g.lens[side > 0 ? 0 : 1];
    const Vec3 eye = side > 0 ? s.landmarks.eyeLeft : s.landmarks.eyeRight;
    l.halfWidth = float(frame.width) / 2;
    l.halfHeight = float(frame.height) / 2;
    l.roundness = float(frame.roundness);
    l.axis = normalize({float(side) * std::sin(wrap), -std::sin(down), std::cos(down)});
    l.across = normalize(cross({0, 1, 0}, l.axis));
    l.up = cross(l.axis, l.across);
    // As near to the middle as the nose lets it, and its upper third before the eye.
    const float x = std::max(std::abs(eye.x), l.halfWidth + 0.0085f);
    l.pole = {float(side) * x, eye.y - 0.1f * l.halfHeight, eye.z + kBeforeEye};
  }
  // Further off where cheeks or brows would meet the rim.
  const float rim = float(frame.rim) / 2;
  float least = 1;
  for (const Lens& l : g.lens)
    for (int k = 0; k < kRimPoints; ++k) least = std::min(least, s.headField.at(onRim(l, k)) - rim);
  for (Lens& l : g.lens) l.pole.z += std::clamp(-least, 0.f, 0.009f);
  g.rims.surface = Surface::Cloth;
  g.rims.garment = Garment::Frame;
  g.panes.surface = Surface::Lens;
  for (const Lens& l : g.lens) {
    addPane(g.panes, l);
    std::vector<Vec3> round;
    for (int k = 0; k < kRimPoints; ++k) round.push_back(onRim(l, k));
    addTube(g.rims, round, rim, true);
  }
  const auto at = [&](int lens, float x, float y) { return g.lens[size_t(lens)].point(x, y); };
  const float w = g.lens[0].halfWidth * 0.94f, h = g.lens[0].halfHeight * 0.34f;
  const Vec3 left = at(0, -w, h), right = at(1, w, h), middle = (left + right) / 2 + Vec3{0, 0.0035f, 0.002f};
  std::vector<Vec3> bridge;
  for (float t = 0; t <= 1.001f; t += 0.125f) bridge.push_back(lerp(lerp(left, middle, t), lerp(middle, right, t), t));
  addTube(g.rims, bridge, rim * 1.15f, false);
  for (int side : {1, -1}) {
    const Vec3 hinge = at(side > 0 ? 0 : 1, float(side) * w, h * 1.2f) + Vec3{float(side) * 0.002f, 0, 0};
    addTube(g.rims, temple(s, hinge, float(side), float(templesUp)), rim, false);
  }
  return g;
}

}  // namespace easel
