#include "transport/sampling.h"

namespace easel {
namespace {

std::uint32_t reverseBits(std::uint32_t x) {
  x = ((x >> 1) & 0x55555555u) | ((x & 0x55555555u) << 1);
  x = ((x >> 2) & 0x33333333u) | ((x & 0x33333333u) << 2);
  x = ((x >> 4) & 0x0f0f0f0fu) | ((x & 0x0f0f0f0fu) << 4);
  return __builtin_bswap32(x);
}

// Laine-Karras style permutation on reversed bits: nested uniform scrambling.
std::uint32_t scramble(std::uint32_t reversed, std::uint32_t seed) {
  std::uint32_t x = reversed;
  x ^= x * 0x3d20adeau;
  x += seed;
  x *= (seed >> 16) | 1;
  x ^= x * 0x05526c56u;
  x ^= x * 0x53a22864u;
  return x;
}

// Second Sobol dimension: Pascal's triangle modulo 2 applied to the reversed index, in five steps of doubling stride.
std::uint32_t sobolY(std::uint32_t index) {
  std::uint32_t y = reverseBits(index);
  y ^= (y << 1) & 0xaaaaaaaau;
  y ^= (y << 2) & 0xccccccccu;
  y ^= (y << 4) & 0xf0f0f0f0u;
  y ^= (y << 8) & 0xff00ff00u;
  y ^= (y << 16) & 0xffff0000u;
  return y;
}

float lattice(int x, int y, int z) {
  return unitFloat(hash32(std::uint32_t(x) * 73856093u ^ std::uint32_t(y) * 19349663u ^ std::uint32_t(z) * 83492791u)) *
             2 -
         1;
}
float valueNoise(Vec3 p) {
  const Vec3 f{std::floor(p.x), std::floor(p.y), std::floor(p.z)};
  Vec3 t = p - f;
  t = t * t * (Vec3{3, 3, 3} - t * 2.f);
  const int x = int(f.x), y = int(f.y), z = int(f.z);
  auto mix = [](float a, float b, float k) { return a + (b - a) * k; };
  const float a = mix(mix(lattice(x, y, z), lattice(x + 1, y, z), t.x),
                      mix(lattice(x, y + 1, z), lattice(x + 1, y + 1, z), t.x), t.y);
  const float b = mix(mix(lattice(x, y, z + 1), lattice(x + 1, y, z + 1), t.x),
                      mix(lattice(x, y + 1, z + 1), lattice(x + 1, y + 1, z + 1), t.x), t.y);
  return mix(a, b, t.z);
}

}  // namespace

Vec2 sobol2(std::uint32_t index, std::uint32_t seed) {
  // Owen-scrambling the index itself shuffles the order and keeps every power-of-two block stratified.
  index = reverseBits(scramble(reverseBits(index), hash32(seed)));
  std::uint32_t y = sobolY(index);
  const std::uint32_t x = reverseBits(scramble(index, hash32(seed ^ 0x68bc21ebu)));  // reversed van der Corput = index
  y = reverseBits(scramble(reverseBits(y), hash32(seed ^ 0x02e5be93u)));
  return {unitFloat(x), unitFloat(y)};
}

Vec2 concentricDisc(Vec2 u) {
  const float a = 2 * u.x - 1, b = 2 * u.y - 1;
  if (a == 0 && b == 0) return {0, 0};
  float r, phi;
  if (std::abs(a) > std::abs(b)) {
    r = a;
    phi = (kPiF / 4) * (b / a);
  } else {
    r = b;
    phi = (kPiF / 2) - (kPiF / 4) * (a / b);
  }
  return {r * std::cos(phi), r * std::sin(phi)};
}

float fractalNoise(Vec3 p, int octaves) {
  float sum = 0, weight = 0.55f;
  for (int i = 0; i < octaves; ++i) {
    sum += weight * valueNoise(p);
    p = p * 2.13f + Vec3{11.3f, 5.7f, 3.1f};
    weight *= 0.5f;
  }
  return sum;
}

}  // namespace easel
