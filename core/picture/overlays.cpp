#include "picture/overlays.h"

#include <algorithm>
#include <cmath>

#include "picture/develop.h"
#include "plan/lens.h"

namespace easel {

Histogram histogramOf(const Picture& p) {
  Histogram h;
  const size_t n = p.rgba.size() / 4;
  size_t burnt = 0, blocked = 0;
  for (size_t i = 0; i < n; ++i) {
    const std::uint8_t* c = &p.rgba[i * 4];
    const int y = (54 * c[0] + 183 * c[1] + 19 * c[2] + 128) >> 8;
    ++h.count[size_t(std::min(255, y))];
    burnt += c[0] >= 253 && c[1] >= 253 && c[2] >= 253;
    blocked += c[0] <= 3 && c[1] <= 3 && c[2] <= 3;
  }
  if (n) {
    h.burnt = double(burnt) / double(n);
    h.blocked = double(blocked) / double(n);
  }
  return h;
}

std::array<std::uint8_t, 3> stopsColour(int stops) {
  // Lightness rises evenly from dark to light; the hue turns from slate over stone to straw. Mid grey is grey.
  static constexpr std::uint8_t kBands[kStopsMost - kStopsLeast + 1][3] = {
      {18, 22, 40},    {32, 44, 74},    {50, 72, 104},   {78, 104, 128},  {106, 128, 138},
      {140, 140, 140}, {184, 168, 128}, {222, 196, 122}, {250, 236, 190},
  };
  const auto& b = kBands[std::clamp(stops, kStopsLeast, kStopsMost) - kStopsLeast];
  return {b[0], b[1], b[2]};
}

Picture stopsMap(const Layers& layers, const PlacedSet& set, const Show& show) {
  std::vector<float> planes[3];
  linearPicture(layers, set, show, planes);
  Picture out;
  out.width = layers.width;
  out.height = layers.height;
  const size_t n = size_t(out.width) * size_t(out.height);
  std::vector<std::int8_t> band(n);
  for (size_t i = 0; i < n; ++i) {
    const float y = 0.2126f * planes[0][i] + 0.7152f * planes[1][i] + 0.0722f * planes[2][i];
    band[i] =
        std::int8_t(y > 0 ? std::clamp(int(std::lround(std::log2(y / 0.18f))), kStopsLeast, kStopsMost) : kStopsLeast);
  }
  out.rgba.resize(n * 4);
  for (int y = 0; y < out.height; ++y)
    for (int x = 0; x < out.width; ++x) {
      const size_t i = size_t(y) * size_t(out.width) + size_t(x);
      auto c = stopsColour(band[i]);
      const bool border = (x + 1 < out.width && band[i + 1] != band[i]) ||
                          (y + 1 < out.height && band[i + size_t(out.width)] != band[i]);
      for (size_t k = 0; k < 3; ++k) out.rgba[i * 4 + k] = border ? std::uint8_t(c[k] * 2 / 3) : c[k];
      out.rgba[i * 4 + 3] = 255;
    }
  return out;
}

int greyCardValue(const Camera& camera, double stops) {
  // As the picture has it: through the lens as it stands, closed and extended.
  return int(std::lround(255 * toneCurve(0.18 * std::exp2(stops - camera.closedBy - extensionStops(camera)))));
}

}  // namespace easel
