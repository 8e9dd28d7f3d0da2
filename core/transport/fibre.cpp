#include "transport/fibre.h"

#include <algorithm>
#include <cmath>

#include "geometry/fresnel.h"

namespace easel {
namespace {

constexpr float kIndex = 1.55f;  // of keratin

float square(float x) { return x * x; }

// Logarithm of the modified Bessel function of the first kind, order 0 (M. Abramowitz, I. Stegun, "Handbook of
// Mathematical Functions", 1964, 9.8.1 and 9.8.2).
float logBessel0(float x) {
  if (x < 3.75f) {
    const float t = square(x / 3.75f);
    return std::log(
        1 +
        t * (3.5156229f + t * (3.0899424f + t * (1.2067492f + t * (0.2659732f + t * (0.0360768f + t * 0.0045813f))))));
  }
  const float t = 3.75f / x;
  const float p = 0.39894228f +
                  t * (0.01328592f +
                       t * (0.00225319f +
                            t * (-0.00157565f +
                                 t * (0.00916281f +
                                      t * (-0.02057706f + t * (0.02635537f + t * (-0.01647633f + t * 0.00392377f)))))));
  return x - 0.5f * std::log(x) + std::log(p);
}

// Logarithm of what along() is divided by.
float normOf(float v) {
  return v < 0.1f ? 1 / v - std::log(1 / (2 * v)) - std::log(2.f) : std::log(2 * v * std::sinh(1 / v));
}
// Along the strand (d'Eon and others, 2011): from the slant `out` to the slant `in`, of variance v; its integral over
// the slants, cosine included, is 1.
float along(float sinIn, float cosIn, float sinOut, float cosOut, float v, float norm) {
  const float a = cosIn * cosOut / v, b = sinIn * sinOut / v;
  return std::exp(logBessel0(a) - b - norm);
}

// Logistic distribution cut off at +-pi.
float around(float x, float s) {
  while (x > kPiF) x -= 2 * kPiF;
  while (x < -kPiF) x += 2 * kPiF;
  const float e = std::exp(-std::abs(x) / s);
  auto until = [&](float y) { return 1 / (1 + std::exp(-y / s)); };
  return e / (s * square(1 + e)) / (until(kPiF) - until(-kPiF));
}

Vec3 exponential(Vec3 v) { return {std::exp(v.x), std::exp(v.y), std::exp(v.z)}; }

}  // namespace

Vec3 Fibre::absorptionOf(Vec3 reflectance) {
  const float n = Surface().around;
  const float fit =
      5.969f - 0.215f * n + 2.532f * n * n - 10.73f * n * n * n + 5.574f * square(n * n) + 0.245f * square(n * n) * n;
  Vec3 out;
  for (int c = 0; c < 3; ++c) out[c] = square(std::log(std::clamp(reflectance[c], 0.004f, 1.f)) / fit);
  return out;
}
Vec3 Fibre::absorptionOf(double eumelanin, double pheomelanin) {
  return Vec3{0.419f, 0.697f, 1.37f} * float(eumelanin) + Vec3{0.187f, 0.4f, 1.05f} * float(pheomelanin);
}

Fibre::Fibre(Vec3 absorption, Vec3 reflectance, Surface surface)
    : surface_(surface), absorption_(absorption), meant_(std::max(0.004f, luminance(reflectance))) {
  const float m = surface.along, n = surface.around;
  const float v = square(0.726f * m + 0.812f * m * m + 3.7f * std::pow(m, 20.f));
  const std::array<float, 4> spread{v, v / 4, v * 4, v * 4}, tilts{2, -1, -4, 0};
  for (size_t k = 0; k < lobes_.size(); ++k) {
    const float lean = radians(surface_.tilt * tilts[k]);
    lobes_[k] = {spread[k], normOf(spread[k]), std::sin(lean), std::cos(lean)};
  }
  const float s = std::sqrt(kPiF / 8) * (0.265f * n + 1.194f * n * n + 5.372f * std::pow(n, 22.f));
  constexpr int kWide = 32;  // places across the width
  table_.resize(size_t(kSlants) * (kTurns + 1));
  for (int i = 0; i < kSlants; ++i) {
    const float sinOut = float(i) / (kSlants - 1) * 0.999f, cosOut = std::sqrt(1 - sinOut * sinOut);
    const float cosInside = std::sqrt(1 - square(sinOut / kIndex));
    const float index = std::sqrt(square(kIndex) - square(sinOut)) / cosOut;
    for (int w = 0; w < kWide; ++w) {
      const float h = 2 * (float(w) + 0.5f) / kWide - 1, gammaOut = std::asin(h);
      const float sinGamma = h / index, gammaIn = std::asin(sinGamma), cosGamma = std::sqrt(1 - square(sinGamma));
      const Vec3 once = exponential(absorption_ * (-2 * cosGamma / cosInside));
      const float f = fresnel(cosOut * std::sqrt(1 - h * h), kIndex);
      const Vec3 through = once * square(1 - f), inside = through * once * f;
      Vec3 further;
      for (int c = 0; c < 3; ++c) further[c] = inside[c] * once[c] * f / (1 - once[c] * f);
      for (int j = 0; j <= kTurns; ++j) {
        const float turn = kPiF * float(j) / kTurns;
        Around& to = table_[size_t(i) * (kTurns + 1) + size_t(j)];
        auto lobe = [&](int p) {
          return around(turn - (2 * float(p) * gammaIn - 2 * gammaOut + float(p) * kPiF), s) / kWide;
        };
        to.mirrored += f * lobe(0);
        to.through += through * lobe(1);
        to.inside += inside * lobe(2);
        to.further += further * (1 / (2 * kPiF) / kWide);
      }
    }
  }

  // Of light square to the strand: what goes on in its half, and what comes back.
  Vec3 on, back;
  for (int j = 0; j < kTurns; ++j) {
    const Around &a = row(0, j), &b = row(0, j + 1);
    const Vec3 sum = (a.through + b.through + a.inside + b.inside + a.further + b.further +
                      Vec3{1, 1, 1} * (a.mirrored + b.mirrored)) *
                     (kPiF / kTurns);  // both sides of it
    (j < kTurns / 2 ? back : on) += sum;
  }
  passes_ = std::clamp(luminance(on), 0.f, 0.95f);
  for (int c = 0; c < 3; ++c) byOne_[c] = std::log(std::max(on[c], 1e-3f) / std::max(passes_, 1e-3f));
  // Their equation 14, times the pdf; 0.7 is what they found for hair on a head.
  for (int c = 0; c < 3; ++c) {
    const float f2 = std::min(square(on[c]), 0.9f);
    back_[c] = surface.beside * back[c] * f2 / (1 - f2);
  }
}

Vec3 Fibre::tinted(float passed) const {
  if (passed > 0.999f || passed <= 0 || passes_ <= 0.01f) return {1, 1, 1};
  return exponential(byOne_ * (std::log(passed) / std::log(passes_)));
}

Fibre::Sent Fibre::sent(Vec3 t, Vec3 toEye, Vec3 toLight) const {
  const float sinOut = std::clamp(dot(t, toEye), -0.999f, 0.999f), sinIn = std::clamp(dot(t, toLight), -0.999f, 0.999f);
  const float cosOut = std::sqrt(1 - sinOut * sinOut), cosIn = std::sqrt(1 - sinIn * sinIn);
  const float between = std::clamp((dot(toEye, toLight) - sinOut * sinIn) / (cosOut * cosIn), -1.f, 1.f);
  const float turn = std::acos(between) * (kTurns / kPiF), slant = std::abs(sinOut) * (kSlants - 1) / 0.999f;
  const int j = std::min(int(turn), kTurns - 1), i = std::min(int(slant), kSlants - 2);
  const float u = turn - float(j), w = slant - float(i);
  const float weight[] = {(1 - u) * (1 - w), u * (1 - w), (1 - u) * w, u * w};
  Around a;
  for (int k = 0; k < 4; ++k) {
    const Around& r = row(i + k / 2, j + k % 2);
    a.mirrored += r.mirrored * weight[k];
    a.through += r.through * weight[k];
    a.inside += r.inside * weight[k];
    a.further += r.further * weight[k];
  }
  auto lobe = [&](const Lobe& l) {
    const float s = sinOut * l.cosLean + cosOut * l.sinLean;
    return along(sinIn, cosIn, s, std::sqrt(std::max(0.f, 1 - s * s)), l.variance, l.norm);
  };
  Sent out;
  out.mirrored = a.mirrored * lobe(lobes_[0]);
  out.coloured = a.through * lobe(lobes_[1]) + a.inside * lobe(lobes_[2]) + a.further * lobe(lobes_[3]) +
                 back_ * (0.5f * (1 + between) / (2 * kPiF) * cosIn);
  return out;
}

}  // namespace easel
