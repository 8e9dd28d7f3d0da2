#include "transport/sampling.h"

#include <array>

#include "transport/levels.h"

namespace easel {
namespace {

constexpr int kAtOnce = 16;
using Numbers = std::array<float, kAtOnce>;

float lattice(int x, int y, int z) {
  return unitFloat(hash32(std::uint32_t(x) * 73856093u ^ std::uint32_t(y) * 19349663u ^ std::uint32_t(z) * 83492791u)) *
             2 -
         1;
}
EASEL_INSIDE float mix(float a, float b, float k) { return a + (b - a) * k; }

EASEL_EACH_LEVEL void valueNoise(int n, const Numbers& px, const Numbers& py, const Numbers& pz, Numbers& out) {
  EASEL_AT_ONCE
  for (int i = 0; i < n; ++i) {
    const auto k = size_t(i);
    const float x0 = std::floor(px[k]), y0 = std::floor(py[k]), z0 = std::floor(pz[k]);
    float tx = px[k] - x0, ty = py[k] - y0, tz = pz[k] - z0;
    tx = tx * tx * (3 - tx * 2);
    ty = ty * ty * (3 - ty * 2);
    tz = tz * tz * (3 - tz * 2);
    const int x = int(x0), y = int(y0), z = int(z0);
    const float a = mix(mix(lattice(x, y, z), lattice(x + 1, y, z), tx),
                        mix(lattice(x, y + 1, z), lattice(x + 1, y + 1, z), tx), ty);
    const float b = mix(mix(lattice(x, y, z + 1), lattice(x + 1, y, z + 1), tx),
                        mix(lattice(x, y + 1, z + 1), lattice(x + 1, y + 1, z + 1), tx), ty);
    out[k] = mix(a, b, tz);
  }
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

Vec2 squareOfDisc(Vec2 p) {
  const float r = std::hypot(p.x, p.y);
  if (r == 0) return {0.5f, 0.5f};
  float a, b;
  if (std::abs(p.x) > std::abs(p.y)) {
    a = std::copysign(r, p.x);
    b = a * std::atan(p.y / p.x) * (4 / kPiF);
  } else {
    b = std::copysign(r, p.y);
    a = b * std::atan(p.x / p.y) * (4 / kPiF);
  }
  return {(a + 1) / 2, (b + 1) / 2};
}

void fractalNoises(std::span<const NoiseAt> at, float* out) {
  Numbers x, y, z, value;
  std::array<float, kAtOnce> weight;
  std::array<size_t, kAtOnce> of;
  int n = 0;
  auto take = [&] {
    valueNoise(n, x, y, z, value);
    for (size_t k = 0; k < size_t(n); ++k) out[of[k]] += weight[k] * value[k];
    n = 0;
  };
  for (size_t a = 0; a < at.size(); ++a) {
    Vec3 p = at[a].place;
    out[a] = 0;
    float w = 0.55f;
    for (int octave = 0; octave < at[a].octaves; ++octave) {
      const auto k = size_t(n++);
      x[k] = p.x;
      y[k] = p.y;
      z[k] = p.z;
      weight[k] = w;
      of[k] = a;
      if (n == kAtOnce) take();
      p = p * 2.13f + Vec3{11.3f, 5.7f, 3.1f};
      w *= 0.5f;
    }
  }
  if (n) take();
}

float fractalNoise(Vec3 p, int octaves) {
  const NoiseAt at{p, octaves};
  float out = 0;
  fractalNoises({&at, 1}, &out);
  return out;
}

}  // namespace easel
