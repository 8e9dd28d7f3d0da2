#include "transport/skin.h"

#include <algorithm>
#include <cmath>

namespace easel {
namespace {

// The unit profile's sum along lines, added up from 0: steps of the square root, for it is steep at 0.
constexpr int kSteps = 1024;
constexpr double kEnd = 24;  // of its width: what comes out further away is one in ten thousand

std::array<float, kSteps + 1> summed() {
  std::array<float, kSteps + 1> out{};
  double sum = 0;
  const auto x = [](double k) { return kEnd * (k / kSteps) * (k / kSteps); };
  for (int k = 1; k <= kSteps; ++k) {
    const double middle = x(k - 0.5), width = x(k) - x(k - 1);
    sum += (std::cyl_bessel_k(0, middle) + std::cyl_bessel_k(0, middle / 3)) / (4 * kPi) * width;
    out[size_t(k)] = float(sum);
  }
  for (float& v : out) v *= 0.5f / out[kSteps];
  return out;
}

// 1 in the middle, 0 from `far` on.
float about(Vec3 p, Vec3 middle, float far) {
  const Vec3 d = p - middle;
  const float t = 1 - dot(d, d) / (far * far);
  return t > 0 ? t * t : 0.f;
}

}  // namespace

const std::array<float, 3>& skinScatter() {
  static const auto d = [] {
    std::array<float, 3> out{};
    constexpr std::array<float, 3> kScatters{0.74f, 0.88f, 1.01f}, kAbsorbs{0.032f, 0.17f, 0.48f},  // per mm
        kAlbedo{0.44f, 0.22f, 0.13f};
    for (size_t c = 0; c < 3; ++c) {
      const float a = kAlbedo[c], s = 1.9f - a + 3.5f * (a - 0.8f) * (a - 0.8f);
      out[c] = 0.001f / (kScatters[c] + kAbsorbs[c]) / s;
    }
    return out;
  }();
  return d;
}

float scatteredWithin(float x) {
  static const auto table = summed();
  const float k = std::sqrt(std::clamp(x / float(kEnd), 0.f, 1.f)) * kSteps;
  const int below = std::min(int(k), kSteps - 1);
  return table[size_t(below)] + (table[size_t(below) + 1] - table[size_t(below)]) * (k - float(below));
}

Vec3 throughSkin(float thickness) {
  constexpr struct {
    float r, g, b, variance;  // square millimetres
  } kSum[] = {{0.233f, 0.455f, 0.649f, 0.0064f}, {0.100f, 0.336f, 0.344f, 0.0484f}, {0.118f, 0.198f, 0, 0.187f},
              {0.113f, 0.007f, 0.007f, 0.567f},  {0.358f, 0.004f, 0, 1.99f},        {0.078f, 0, 0, 7.41f}};
  const float millimetres = 1000 * thickness, square = millimetres * millimetres;
  Vec3 out;
  for (const auto& g : kSum) out += Vec3{g.r, g.g, g.b} * std::exp(-square / g.variance);
  return out;
}

float oilAt(Vec3 p, const Landmarks& l) {
  const Vec3 mouth{0, l.mouthHeight(), lerp(l.noseTip, l.chin, 0.5f).z};
  float oil = 0.14f;
  oil += 0.22f * about({p.x * 0.6f, p.y, p.z}, {0, l.forehead.y, l.forehead.z}, 0.06f);
  oil += 0.34f * about(p, l.noseTip, 0.030f) + 0.2f * about(p, lerp(l.noseTip, {0, 0, l.forehead.z}, 0.5f), 0.022f);
  oil += 0.30f * about({p.x * 0.5f, p.y, p.z}, {0, mouth.y, mouth.z}, 0.017f);
  oil += 0.14f * about(p, l.chin + Vec3{0, 0.012f, 0}, 0.022f);
  for (Vec3 cheek : {l.cheekLeft, l.cheekRight}) oil += 0.08f * about(p, cheek + Vec3{0, 0.012f, 0}, 0.022f);
  return std::min(oil, 0.6f);
}

}  // namespace easel
