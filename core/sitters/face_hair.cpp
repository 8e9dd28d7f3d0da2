#include "sitters/face_hair.h"

#include <algorithm>
#include <cmath>
#include <random>

#include "geometry/triangles.h"

namespace easel {
namespace {

constexpr float kBrowShade = 0.5f;  // brows are darker than hair (common practice, no source)

// Where a strand begins, and how much of it there is.
struct Seat {
  std::uint32_t triangle = 0;
  float u = 0, v = 0;
  template <class T>
  T of(const std::vector<T>& all, const std::vector<std::uint32_t>& triangles) const {
    const std::uint32_t* i = &triangles[size_t(triangle) * 3];
    return all[i[0]] * (1 - u - v) + all[i[1]] * u + all[i[2]] * v;
  }
};

// Seats all over a mesh, evenly by area.
class Seats {
 public:
  Seats(const std::vector<Vec3>& at, const std::vector<std::uint32_t>& triangles, std::uint32_t seed) : random_(seed) {
    for (size_t t = 0; t < triangles.size(); t += 3) {
      const Vec3 a = at[triangles[t]];
      area_.add(double(length(cross(at[triangles[t + 1]] - a, at[triangles[t + 2]] - a))));
    }
  }
  float chance() { return float(random_() >> 8) / float(1u << 24); }
  Seat next() {
    const size_t triangle = area_.at(double(chance()) * area_.whole());
    const float r = std::sqrt(chance()), s = chance();
    return {std::uint32_t(triangle), 1 - r, r * s};
  }

 private:
  std::mt19937 random_;
  ByArea area_;
};

void addStrand(Strands& into, const std::vector<Vec3>& path, float thickness, float shade) {
  const size_t first = into.points.size(), n = path.size();
  for (size_t k = 0; k < n; ++k) {
    into.points.push_back({path[k], thickness / 2 * (k + 1 == n ? 0.35f : 1.f - 0.3f * float(k) / float(n))});
    into.along.push_back(normalize(path[std::min(k + 1, n - 1)] - path[k ? k - 1 : 0]));
    into.shade.push_back(shade);
    if (k + 1 < n) into.segments.push_back(std::uint32_t(first + k));
  }
}

}  // namespace

void addBeard(Strands& into, const Sitter& sitter, const Beard& beard, const std::string& expression,
              const Posture& posture) {
  const HairGround& g = sitter.ground;
  if (beard.strands < 1 || g.triangles.empty()) return;
  std::vector<Vec3> at = g.position, normal = g.normal;
  express(g.morphs, expression, at, normal);
  std::vector<std::uint32_t> bearded;
  for (size_t t = 0; t < g.triangles.size(); t += 3)
    if (std::max({g.beard[g.triangles[t]], g.beard[g.triangles[t + 1]], g.beard[g.triangles[t + 2]]}) > 0)
      bearded.insert(bearded.end(), &g.triangles[t], &g.triangles[t] + 3);
  if (bearded.empty()) return;
  Seats seats(at, bearded, 0xbea4du);
  const Landmarks& l = sitter.landmarks;
  const float mouth = l.mouthHeight();
  const Motion head = posture.head();
  const int points = beard.length < 0.003 ? 2 : beard.length < 0.015 ? 5 : 9;
  std::vector<Vec3> path;
  for (int strand = 0; strand < beard.strands; ++strand) {
    const Seat seat = seats.next();
    const float inside = seat.of(g.beard, bearded);
    const float keeps = seats.chance(), varied = seats.chance(), turn = seats.chance() * 2 * kPiF,
                shade = seats.chance();
    const Vec3 root = seat.of(at, bearded), out = normalize(seat.of(normal, bearded));
    const bool middle = std::abs(root.x) < 0.029f && root.z > l.chin.z - 0.03f;
    const bool lip = middle && root.y > mouth;
    const double dense = lip ? beard.lip : middle ? beard.chin : beard.cheeks;
    // It thins out towards its line.
    if (keeps > float(dense) * std::clamp(inside / (lip ? 0.0012f : 0.005f), 0.f, 1.f)) continue;
    const float whole = float(beard.length) * (1 - float(beard.varied) * varied) * (lip ? 0.75f : 1.f) *
                        (lip ? 1.f : std::clamp(0.4f + inside / 0.012f, 0.4f, 1.f));
    const float step = whole / float(points - 1);
    // Down, away from the middle over the lip, and off the skin.
    const Vec3 comb = lip ? Vec3{std::copysign(0.8f, root.x), -0.7f, 0.1f} : Vec3{0.25f * root.x / 0.05f, -1, 0.15f};
    const Vec3 lies = normalize(comb), falls = (lies - out * dot(comb, out) * 0.5f) * (0.5f / float(points));
    Vec3 along = normalize(out * 0.75f + lies * 0.7f), p = root - out * 0.0004f;
    path.assign(1, head(p));
    for (int k = 1; k < points; ++k) {
      p += along * step;
      const auto near = sitter.headField.about(p);
      const float least = 0.0008f + 0.25f * whole * float(k) / float(points);
      if (near.gap < least) p += near.outward * (least - near.gap);
      along = normalize(along + falls + Vec3{0, -0.6f / float(points), 0});
      const float a = turn + 2.4f * float(k);
      path.push_back(head(p + Vec3{std::cos(a), 0, std::sin(a)} * (float(beard.curl) * float(k) / float(points))));
    }
    addStrand(into, path, float(beard.thickness), 0.75f + 0.4f * shade);
  }
}

void addBrows(Strands& into, const Sitter& sitter, const MeshPart& card, const std::vector<Vec3>& position,
              const std::vector<Vec3>& normal) {
  if (card.texture < 0 || card.triangles.empty()) return;
  constexpr int kTries = 9000;
  constexpr float kLong = 0.0085f, kThick = 0.00011f;
  const Texture& painted = sitter.textures[size_t(card.texture)];
  Seats seats(card.position, card.triangles, 0xb4035u);
  float inner = 1, outer = 0;
  for (Vec3 p : card.position) {
    inner = std::min(inner, std::abs(p.x));
    outer = std::max(outer, std::abs(p.x));
  }
  for (int k = 0; k < kTries; ++k) {
    const Seat seat = seats.next();
    const std::uint32_t* i = &card.triangles[size_t(seat.triangle) * 3];
    const float alpha = float(painted.at(seat.of(card.uv, card.triangles))[3]) / 255;
    const float keeps = seats.chance(), varied = seats.chance(), shade = seats.chance();
    if (keeps > alpha * 0.34f) continue;
    // The place on the unposed card says which way they lie: up at the inner end, outwards and a little down at the
    // other.
    const Vec3 rest = seat.of(card.position, card.triangles);
    const float t = std::clamp((std::abs(rest.x) - inner) / std::max(0.001f, outer - inner), 0.f, 1.f);
    const Vec3 root = seat.of(position, card.triangles), out = normalize(seat.of(normal, card.triangles));
    // Across the card from its triangles: outwards and up of the head as posed.
    Vec3 aside, up;
    {
      const Vec3 pa = card.position[i[1]] - card.position[i[0]], pb = card.position[i[2]] - card.position[i[0]];
      const Vec3 qa = position[i[1]] - position[i[0]], qb = position[i[2]] - position[i[0]];
      const float det = pa.x * pb.y - pb.x * pa.y;
      if (std::abs(det) < 1e-12f) continue;
      aside = (qa * pb.y - qb * pa.y) / det * std::copysign(1.f, rest.x);
      up = (qb * pa.x - qa * pb.x) / det;
    }
    const Vec3 lies = normalize(normalize(aside) * (0.35f + 0.75f * t) +
                                normalize(up) * (0.85f - 1.15f * t + 0.25f * (varied - 0.5f)));
    const float whole = kLong * (0.6f + 0.4f * varied) * (1 - 0.35f * t);
    Vec3 p = root - out * 0.0005f, along = normalize(lies + out * 0.45f);
    std::vector<Vec3> path{p};
    for (int n = 0; n < 3; ++n) {
      p += along * (whole / 3);
      along = normalize(along - out * 0.22f + normalize(aside) * 0.12f);
      path.push_back(p);
    }
    addStrand(into, path, kThick, kBrowShade * (0.75f + 0.5f * shade));
  }
}

}  // namespace easel
