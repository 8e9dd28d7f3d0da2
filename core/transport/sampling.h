// Where to look: low-discrepancy points and the small hashes that decorrelate them.
//
// Sobol (0,2) points with hash-based Owen scrambling: B. Burley, "Practical Hash-based Owen Scrambling", JCGT 9(4),
// 2020. Everything is keyed by numbers of the picture (pixel, pass, light), so the same plan gives the same picture
// whatever the thread count.
#pragma once

#include <cstdint>

#include "geometry/vec.h"

namespace easel {

/// Integer hash with good avalanche (lowbias32 constants of C. Wellons, public domain).
inline std::uint32_t hash32(std::uint32_t x) {
  x ^= x >> 16;
  x *= 0x7feb352du;
  x ^= x >> 15;
  x *= 0x846ca68bu;
  x ^= x >> 16;
  return x;
}
inline std::uint32_t hashPair(std::uint32_t a, std::uint32_t b) {
  return hash32(a ^ (hash32(b) + 0x9e3779b9u + (a << 6) + (a >> 2)));
}
inline float unitFloat(std::uint32_t x) { return float(x >> 8) * 0x1p-24f; }

/// Point `index` of the scrambled Sobol sequence `seed`, in [0,1)^2.
Vec2 sobol2(std::uint32_t index, std::uint32_t seed);

/// Direction about +n with density cos/pi.
inline Vec3 cosineDirection(const Frame& f, Vec2 u) {
  const float r = std::sqrt(u.x), a = 2 * kPiF * u.y;
  return f.u * (r * std::cos(a)) + f.v * (r * std::sin(a)) + f.n * std::sqrt(std::max(0.f, 1 - u.x));
}

/// Unit square to unit disc, area preserving (P. Shirley, K. Chiu, "A low distortion map between disk and square",
/// 1997).
Vec2 concentricDisc(Vec2 u);

/// A quick frame about a normal where the roll does not matter (Duff et al., "Building an orthonormal basis", JCGT
/// 2017).
inline Frame anyFrame(Vec3 n) {
  const float sign = std::copysign(1.f, n.z), a = -1 / (sign + n.z), b = n.x * n.y * a;
  return {{1 + sign * n.x * n.x * a, sign * b, -sign * n.x}, {b, sign + n.y * n.y * a, -n.y}, n};
}

/// Value noise with three octaves, about -1..1, for what is uneven by nature (canvas, skin). `p` in cells.
float fractalNoise(Vec3 p, int octaves);

}  // namespace easel
