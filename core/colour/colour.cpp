#include "colour/colour.h"

namespace easel {

double srgbEncode(double l) {
  l = std::clamp(l, 0.0, 1.0);
  return l <= 0.0031308 ? 12.92 * l : 1.055 * std::pow(l, 1 / 2.4) - 0.055;
}
double srgbDecode(double e) {
  e = std::clamp(e, 0.0, 1.0);
  return e <= 0.04045 ? e / 12.92 : std::pow((e + 0.055) / 1.055, 2.4);
}

double mired(double kelvin) { return 1e6 / kelvin; }

Chromaticity chromaticityOf(double kelvin) {
  const double t = std::clamp(kelvin, 1667.0, 25000.0);
  const double i = 1e3 / t, i2 = i * i, i3 = i2 * i;
  if (t < 4000) {
    const double x = -0.2661239 * i3 - 0.2343589 * i2 + 0.8776956 * i + 0.179910;
    const double y = t < 2222 ? -1.1063814 * x * x * x - 1.34811020 * x * x + 2.18555832 * x - 0.20219683
                              : -0.9549476 * x * x * x - 1.37418593 * x * x + 2.09137015 * x - 0.16748867;
    return {x, y};
  }
  const double x = t <= 7000 ? -4.6070 * i3 + 2.9678 * i2 + 0.09911 * i + 0.244063
                             : -2.0064 * i3 + 1.9018 * i2 + 0.24748 * i + 0.237040;
  return {x, -3.000 * x * x + 2.870 * x - 0.275};
}

Vec3 rawLightColour(double kelvin) {
  const auto [x, y] = chromaticityOf(kelvin);
  const double X = x / y, Z = (1 - x - y) / y;
  // XYZ to linear sRGB, IEC 61966-2-1.
  Vec3 rgb{float(3.2406 * X - 1.5372 - 0.4986 * Z), float(-0.9689 * X + 1.8758 + 0.0415 * Z),
           float(0.0557 * X - 0.2040 + 1.0570 * Z)};
  for (int c = 0; c < 3; ++c) rgb[c] = std::max(rgb[c], 1e-4f);
  return rgb / luminance(rgb);
}

Vec3 lightColour(double kelvin, double whiteKelvin) {
  const Vec3 light = rawLightColour(kelvin), white = rawLightColour(whiteKelvin);
  const Vec3 balanced{light.x / white.x, light.y / white.y, light.z / white.z};
  return balanced / luminance(balanced);
}

}  // namespace easel
