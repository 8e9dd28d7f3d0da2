#include "hair_ground.h"

#include <algorithm>
#include <cmath>
#include <iterator>

#include "geometry/triangles.h"
#include "subdivide.h"

namespace easel::bake {
namespace {

// The hairline on the base mesh [dm]: how high it runs, by the way round the head from the front in degrees. Down
// before the ear, over it and round to the nape.
struct Along {
  float round, height;
};
constexpr Along kHairline[] = {{0, 7.93f},   {20, 7.96f},  {36, 7.96f},  {48, 7.78f},  {57, 7.56f},  {61, 7.36f},
                               {64, 7.16f},  {70, 7.12f},  {75, 7.2f},   {80, 7.4f},   {88, 7.45f},  {96, 7.42f},
                               {101, 7.28f}, {107, 6.98f}, {114, 6.84f}, {124, 6.74f}, {142, 6.62f}, {180, 6.52f}};

// Metres inside the hairline of a place on the base mesh: to the nearest point of the line.
float insideHairline(Vec3 p) {
  // The ear itself stands off the head.
  const bool ear = std::abs(p.x) > 0.6f && p.y < 7.38f && p.y > 6.8f && p.z > 0.33f && p.z < 0.66f;
  if (ear) return -1;
  const float round = degrees(std::atan2(std::abs(p.x), p.z - 0.45f));
  constexpr float kRoundToWay = 0.7f * kPiF / 180;  // about the radius of a head
  float least = 1e9f, line = 0;
  for (size_t k = 1; k < std::size(kHairline); ++k) {
    const Along a = kHairline[k - 1], b = kHairline[k];
    const Vec2 way{(b.round - a.round) * kRoundToWay, b.height - a.height};
    const Vec2 to{(round - a.round) * kRoundToWay, p.y - a.height};
    const float t = std::clamp((to.x * way.x + to.y * way.y) / (way.x * way.x + way.y * way.y), 0.f, 1.f);
    least = std::min(least, std::hypot(to.x - way.x * t, to.y - way.y * t));
    if (round >= a.round) line = a.height + way.y * std::min(1.f, (round - a.round) / (b.round - a.round));
  }
  return std::copysign(least, p.y - line) * 0.1f;
}

// The same of the line of a beard: cheek, lip, throat; not the lips themselves.
float insideBeard(Vec3 p) {
  const float aside = std::abs(p.x);
  if (aside > 0.7f && p.z < 0.72f && p.y > 6.8f) return -1;  // the ear
  constexpr Along kCheek[] = {{0, 6.80f},    {0.2f, 6.80f}, {0.31f, 6.73f}, {0.45f, 6.70f},
                              {0.6f, 6.84f}, {0.7f, 7.05f}, {0.76f, 7.25f}, {1, 7.25f}};
  size_t k = 1;
  while (k + 1 < std::size(kCheek) && kCheek[k].round < aside) ++k;
  const float t = std::clamp((aside - kCheek[k - 1].round) / (kCheek[k].round - kCheek[k - 1].round), 0.f, 1.f);
  const float below = kCheek[k - 1].height + (kCheek[k].height - kCheek[k - 1].height) * t - p.y;
  const float above = p.y - (6.14f + 0.9f * std::max(0.f, 0.95f - p.z));
  const float before = p.z - 0.55f;
  const float x = p.x / 0.29f, y = (p.y - 6.63f) / 0.115f;
  const float lips = p.z > 1.2f ? (std::sqrt(x * x + y * y) - 1) * 0.115f : 1;
  return std::min({below, above, before, lips}) * 0.1f;
}

}  // namespace

HairGround hairGround(const QuadMesh& body, const std::vector<Vec3>& unshaped) {
  QuadMesh base = body;
  base.position = unshaped;
  // Subdivided as the skin is, so that roots lie on it; what is outside of the hairline is cut off afterwards.
  std::vector<bool> near(body.face.size());
  for (size_t f = 0; f < near.size(); ++f)
    near[f] =
        std::any_of(body.face[f].begin(), body.face[f].end(), [&](int i) { return unshaped[size_t(i)].y > 5.9f; });
  const QuadMesh fine = subdivided(keepFaces(body, near), 2), fineBase = subdivided(keepFaces(base, near), 2);
  const std::vector<Vec3> normal = vertexNormals(fine);
  std::vector<float> inside(fineBase.position.size());
  std::vector<float> beard(inside.size());
  for (size_t i = 0; i < inside.size(); ++i) {
    inside[i] = insideHairline(fineBase.position[i]);
    beard[i] = insideBeard(fineBase.position[i]);
  }
  HairGround g;
  std::vector<int> as(inside.size(), -1);
  auto vertex = [&](int i) {
    int& at = as[size_t(i)];
    if (at < 0) {
      at = int(g.position.size());
      g.position.push_back(fine.position[size_t(i)]);
      g.normal.push_back(normal[size_t(i)]);
      g.scalp.push_back(inside[size_t(i)]);
      g.beard.push_back(beard[size_t(i)]);
      g.headWeight.push_back(std::clamp(fine.headWeight[size_t(i)], 0.f, 1.f));
    }
    return std::uint32_t(at);
  };
  for (const auto& f : fine.face) {
    if (std::any_of(f.begin(), f.end(), [&](int i) { return std::max(inside[size_t(i)], beard[size_t(i)]) < -0.008f; }))
      continue;
    for (size_t k : {0u, 1u, 2u, 0u, 2u, 3u}) g.triangles.push_back(vertex(f[k]));
  }
  return g;
}

DistanceField fieldOf(const std::vector<MeshPart>& parts, float cell,
                      const std::function<bool(const MeshPart&, size_t)>& among) {
  struct Near {
    Vec3 at, normal;
    float square = 1e9f;
  };
  DistanceField field;
  field.cell = cell;
  std::vector<Near> surface;
  Vec3 low{1e9f, 1e9f, 1e9f}, high{-1e9f, -1e9f, -1e9f};
  for (const MeshPart& p : parts)
    for (size_t t = 0; t < p.triangles.size(); t += 3) {
      const std::uint32_t* i = &p.triangles[t];
      if (!among(p, i[0]) || !among(p, i[1]) || !among(p, i[2])) continue;
      const Vec3 a = p.position[i[0]], b = p.position[i[1]], c = p.position[i[2]];
      overTriangle(a, b, c, 0.6f * cell, 60, [&](float u, float v) {
        const float w = 1 - u - v;
        surface.push_back(
            {a * w + b * u + c * v, normalize(p.normal[i[0]] * w + p.normal[i[1]] * u + p.normal[i[2]] * v), 0});
        for (int k = 0; k < 3; ++k) {
          low[k] = std::min(low[k], surface.back().at[k]);
          high[k] = std::max(high[k], surface.back().at[k]);
        }
      });
    }
  if (surface.empty()) return field;
  const float margin = DistanceField::kFar + cell;
  field.low = low - Vec3{margin, margin, margin};
  auto cells = [&](int k) { return std::int32_t((high[k] - low[k] + 2 * margin) / cell) + 2; };
  field.nx = cells(0);
  field.ny = cells(1);
  field.nz = cells(2);
  std::vector<Near> grid(size_t(field.nx) * size_t(field.ny) * size_t(field.nz));
  auto index = [&](int x, int y, int z) {
    return (size_t(z) * size_t(field.ny) + size_t(y)) * size_t(field.nx) + size_t(x);
  };
  auto centre = [&](int x, int y, int z) { return field.low + Vec3{float(x), float(y), float(z)} * cell; };
  auto offer = [&](int x, int y, int z, const Near& to) {
    if (x < 0 || y < 0 || z < 0 || x >= field.nx || y >= field.ny || z >= field.nz) return;
    Near& n = grid[index(x, y, z)];
    const Vec3 d = centre(x, y, z) - to.at;
    if (const float square = dot(d, d); square < n.square) n = {to.at, to.normal, square};
  };
  for (const Near& s : surface) {
    const Vec3 q = (s.at - field.low) / cell;
    for (int k = 0; k < 8; ++k) offer(int(q.x) + (k & 1), int(q.y) + (k >> 1 & 1), int(q.z) + (k >> 2), s);
  }
  // What is near spreads from neighbour to neighbour, there and back (P.-E. Danielsson, "Euclidean distance mapping",
  // 1980).
  for (int round = 0; round < 2; ++round)
    for (bool back : {false, true})
      for (int k = 0; k < field.nz; ++k)
        for (int j = 0; j < field.ny; ++j)
          for (int i = 0; i < field.nx; ++i) {
            const int x = back ? field.nx - 1 - i : i, y = back ? field.ny - 1 - j : j, z = back ? field.nz - 1 - k : k;
            const Near from = grid[index(x, y, z)];
            if (from.square > 1e8f) continue;
            const int d = back ? -1 : 1;
            for (int n = 1; n < 8; ++n) offer(x + (n & 1) * d, y + (n >> 1 & 1) * d, z + (n >> 2) * d, from);
            offer(x - d, y + d, z, from);
            offer(x - d, y, z + d, from);
            offer(x, y - d, z + d, from);
          }
  field.values.resize(grid.size());
  for (int z = 0; z < field.nz; ++z)
    for (int y = 0; y < field.ny; ++y)
      for (int x = 0; x < field.nx; ++x) {
        const Near& n = grid[index(x, y, z)];
        const float away = std::sqrt(n.square), sign = dot(centre(x, y, z) - n.at, n.normal) < 0 ? -1.f : 1.f;
        field.values[index(x, y, z)] =
            std::int8_t(std::lround(std::clamp(sign * away / DistanceField::kStep, -127.f, 127.f)));
      }
  return field;
}

}  // namespace easel::bake
