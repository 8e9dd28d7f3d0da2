#include "picture/develop.h"

#include <array>
#include <cmath>

#include "colour/colour.h"
#include "exposure/meter.h"
#include "threads/parallel.h"

namespace easel {
namespace {

// Index = sqrt of the value: fine steps in the shadows, one multiply and one root a channel instead of two powers.
constexpr int kEntries = 8192;
constexpr float kWhite = 9.0f;  // everything above is 255

const std::array<std::uint8_t, kEntries + 1>& table() {
  static const auto t = [] {
    std::array<std::uint8_t, kEntries + 1> out{};
    for (int i = 0; i <= kEntries; ++i) {
      const double root = double(i) / kEntries, x = root * root * kWhite;
      out[size_t(i)] = std::uint8_t(std::lround(255 * toneCurve(x)));
    }
    return out;
  }();
  return t;
}

constexpr size_t kStrip = 4096;

template <class Sink>
void combine(std::span<const WeightedLayer> layers, size_t width, size_t pixels, const Curtain& curtain, Sink sink) {
  inParallel(size_t((pixels + kStrip - 1) / kStrip), 1, [&](size_t first, size_t last) {
    std::vector<float> strip(kStrip * 3);
    for (size_t block = first; block < last; ++block) {
      const size_t from = block * kStrip, n = std::min(kStrip, pixels - from);
      std::fill(strip.begin(), strip.end(), 0.f);
      for (const WeightedLayer& l : layers) {
        const float* plane[3] = {l.picture->r.data() + from, l.picture->g.data() + from, l.picture->b.data() + from};
        for (int c = 0; c < 3; ++c) {
          const float w = l.weight[c];
          float* out = &strip[size_t(c) * kStrip];
          const float* in = plane[c];
          if (!l.behindCurtain || curtain.open.empty()) {
            for (size_t i = 0; i < n; ++i) out[i] += w * in[i];
            continue;
          }
          for (size_t i = 0; i < n; ++i) {
            const size_t at = from + i;
            out[i] += w * in[i] * curtain.open[curtain.across ? at % width : at / width];
          }
        }
      }
      sink(from, n, strip.data());
    }
  });
}

}  // namespace

double toneCurve(double x) {
  if (!(x > 0)) return 0;
  constexpr double knee = 0.5;
  return srgbEncode(x <= knee ? x : knee + (1 - knee) * (1 - std::exp(-(x - knee) / (1 - knee))));
}

void develop(std::span<const WeightedLayer> layers, int width, int height, std::vector<std::uint8_t>& rgba,
             const Curtain& curtain) {
  const size_t pixels = size_t(width) * size_t(height);
  rgba.resize(pixels * 4);
  const auto& curve = table();
  combine(layers, size_t(width), pixels, curtain, [&](size_t from, size_t n, float* strip) {
    std::int32_t index[kStrip];
    for (size_t c = 0; c < 3; ++c) {
      const float* in = strip + c * kStrip;
      for (size_t i = 0; i < n; ++i)
        index[i] = std::int32_t(std::sqrt(std::min(std::max(in[i], 0.f), kWhite) * (1 / kWhite)) * kEntries);
      std::uint8_t* out = &rgba[from * 4 + c];
      for (size_t i = 0; i < n; ++i) out[i * 4] = curve[size_t(index[i])];
    }
    for (size_t i = 0; i < n; ++i) rgba[(from + i) * 4 + 3] = 255;
  });
}

void combineLinear(std::span<const WeightedLayer> layers, int width, int height, std::vector<float> planes[3],
                   const Curtain& curtain) {
  const size_t pixels = size_t(width) * size_t(height);
  for (int c = 0; c < 3; ++c) planes[c].resize(pixels);
  combine(layers, size_t(width), pixels, curtain, [&](size_t from, size_t n, float* strip) {
    for (size_t c = 0; c < 3; ++c) std::copy_n(strip + c * kStrip, n, planes[c].data() + from);
  });
}

}  // namespace easel
