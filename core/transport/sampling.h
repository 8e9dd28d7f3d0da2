// Where to look: low-discrepancy points and the small hashes that decorrelate them.
//
// Sobol (0,2) points with hash-based Owen scrambling: B. Burley, "Practical Hash-based Owen Scrambling", JCGT 9(4),
// 2020. Everything is keyed by numbers of the picture (pixel, pass, light), so the same plan gives the same picture
// whatever the thread count.
#pragma once

#include <cstdint>
#include <span>

#include "geometry/hashing.h"
#include "geometry/vec.h"

namespace easel {

namespace sobol {
inline std::uint32_t reverseBits(std::uint32_t x) {
  x = ((x >> 1) & 0x55555555u) | ((x & 0x55555555u) << 1);
  x = ((x >> 2) & 0x33333333u) | ((x & 0x33333333u) << 2);
  x = ((x >> 4) & 0x0f0f0f0fu) | ((x & 0x0f0f0f0fu) << 4);
  return __builtin_bswap32(x);
}

// Laine-Karras style permutation on reversed bits: nested uniform scrambling.
inline std::uint32_t scramble(std::uint32_t reversed, std::uint32_t seed) {
  std::uint32_t x = reversed;
  x ^= x * 0x3d20adeau;
  x += seed;
  x *= (seed >> 16) | 1;
  x ^= x * 0x05526c56u;
  x ^= x * 0x53a22864u;
  return x;
}

// Second Sobol dimension: Pascal's triangle modulo 2 applied to the reversed index, in five steps of doubling stride.
inline std::uint32_t sobolY(std::uint32_t index) {
  std::uint32_t y = reverseBits(index);
  y ^= (y << 1) & 0xaaaaaaaau;
  y ^= (y << 2) & 0xccccccccu;
  y ^= (y << 4) & 0xf0f0f0f0u;
  y ^= (y << 8) & 0xff00ff00u;
  y ^= (y << 16) & 0xffff0000u;
  return y;
}
}  // namespace sobol

/// Point `index` of the scrambled Sobol sequence `seed`, in [0,1)^2.
inline Vec2 sobol2(std::uint32_t index, std::uint32_t seed) {
  using namespace sobol;
  // Owen-scrambling the index itself shuffles the order and keeps every power-of-two block stratified.
  index = reverseBits(scramble(reverseBits(index), hash32(seed)));
  std::uint32_t y = sobolY(index);
  const std::uint32_t x = reverseBits(scramble(index, hash32(seed ^ 0x68bc21ebu)));  // reversed van der Corput = index
  y = reverseBits(scramble(reverseBits(y), hash32(seed ^ 0x02e5be93u)));
  return {unitFloat(x), unitFloat(y)};
}

/// Direction about +n with pdf cos/pi.
inline Vec3 cosineDirection(const Frame& f, Vec2 u) {
  const float r = std::sqrt(u.x), a = 2 * kPiF * u.y;
  return f.u * (r * std::cos(a)) + f.v * (r * std::sin(a)) + f.n * std::sqrt(std::max(0.f, 1 - u.x));
}

/// Unit square to unit disc, area preserving (P. Shirley, K. Chiu, "A low distortion map between disk and square",
/// 1997).
Vec2 concentricDisc(Vec2 u);
/// Back from a place of the disc.
Vec2 squareOfDisc(Vec2 place);

/// A quick frame about a normal where the roll does not matter (Duff et al., "Building an orthonormal basis", JCGT
/// 2017).
inline Frame anyFrame(Vec3 n) {
  const float sign = std::copysign(1.f, n.z), a = -1 / (sign + n.z), b = n.x * n.y * a;
  return {{1 + sign * n.x * n.x * a, sign * b, -sign * n.x}, {b, sign + n.y * n.y * a, -n.y}, n};
}

/// Value noise of some octaves, about -1..1, for what is uneven by nature (canvas, skin). `place` in cells.
struct NoiseAt {
  Vec3 place;
  int octaves;
};
float fractalNoise(Vec3 place, int octaves);
/// Of several places: a dozen cost little more than two. `out` has room for all.
void fractalNoises(std::span<const NoiseAt> at, float* out);

}  // namespace easel
