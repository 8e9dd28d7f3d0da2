#include "transport/sampling.h"

namespace easel {
namespace {

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
