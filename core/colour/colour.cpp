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

const std::array<float, 256>& linearOfCodes() {
  static const auto table = [] {
    std::array<float, 256> t{};
    for (size_t i = 0; i < t.size(); ++i) t[i] = float(srgbDecode(double(i) / 255));
    return t;
  }();
  return table;
}

double mired(double kelvin) { return 1e6 / kelvin; }

Chromaticity chromaticityOf(double kelvin) {
  const double t = std::clamp(kelvin, 1667.0, 25000.0);
  const double i = 1e3 / t, i2 = i * i, i3 = i2 * i;
  const auto planckian = [&]() -> Chromaticity {
    // Kim et al. 2002, cubic splines of the Planckian locus.
    const double x = t < 4000 ? -0.2661239 * i3 - 0.2343589 * i2 + 0.8776956 * i + 0.179910
                              : -3.0258469 * i3 + 2.1070379 * i2 + 0.2226347 * i + 0.240390;
    const double y = t < 2222   ? -1.1063814 * x * x * x - 1.34811020 * x * x + 2.18555832 * x - 0.20219683
                     : t < 4000 ? -0.9549476 * x * x * x - 1.37418593 * x * x + 2.09137015 * x - 0.16748867
                                : 3.0817580 * x * x * x - 5.87338670 * x * x + 3.75112997 * x - 0.37001483;
    return {x, y};
  };
  const auto daylight = [&]() -> Chromaticity {
    // CIE 15, daylight locus.
    const double x = t <= 7000 ? -4.6070 * i3 + 2.9678 * i2 + 0.09911 * i + 0.244063
                               : -2.0064 * i3 + 1.9018 * i2 + 0.24748 * i + 0.237040;
    return {x, -3.000 * x * x + 2.870 * x - 0.275};
  };
  // Lamps below 4000 K glow, above 5000 K they are made to look like daylight, which lies greener. Between the two the
  // locus goes over evenly in mired: a step there would be a step of colour under a slider.
  if (t <= 4000) return planckian();
  if (t >= 5000) return daylight();
  const double s = (250 - 1e6 / t) / 50;
  const auto p = planckian(), d = daylight();
  return {p.x + (d.x - p.x) * s, p.y + (d.y - p.y) * s};
}

namespace {

// Bradford: cone-like responses in which white is balanced (linear form; ICC.1:2010 annex E, from memory). They stay
// above zero over the whole locus, where the blue of sRGB ends at 1900 K.
struct Cones {
  double l, m, s;
};
Cones conesOf(double X, double Y, double Z) {
  return {0.8951 * X + 0.2664 * Y - 0.1614 * Z, -0.7502 * X + 1.7135 * Y + 0.0367 * Z,
          0.0389 * X - 0.0685 * Y + 1.0296 * Z};
}
Cones conesOf(double kelvin) {
  const auto [x, y] = chromaticityOf(kelvin);
  return conesOf(x / y, 1, (1 - x - y) / y);
}
// XYZ to linear sRGB, IEC 61966-2-1; what lies outside its gamut keeps a trace, so that nothing is quite without it.
Vec3 toRgb(double X, double Y, double Z) {
  Vec3 rgb{float(3.2406 * X - 1.5372 * Y - 0.4986 * Z), float(-0.9689 * X + 1.8758 * Y + 0.0415 * Z),
           float(0.0557 * X - 0.2040 * Y + 1.0570 * Z)};
  for (int c = 0; c < 3; ++c) rgb[c] = std::max(rgb[c], 1e-4f);
  return rgb / luminance(rgb);
}

}  // namespace

Vec3 rawLightColour(double kelvin) {
  const auto [x, y] = chromaticityOf(kelvin);
  return toRgb(x / y, 1, (1 - x - y) / y);
}

namespace {

Vec3 ofCones(const Cones& c) {
  return toRgb(0.9869929 * c.l - 0.1470543 * c.m + 0.1599627 * c.s, 0.4323053 * c.l + 0.5183603 * c.m + 0.0492912 * c.s,
               -0.0085287 * c.l + 0.0400428 * c.m + 0.9684867 * c.s);
}

}  // namespace

Vec3 lightColour(double kelvin, double whiteKelvin) {
  static const Cones d65 = conesOf(0.95047, 1, 1.08883);
  // The tables' matrices are rounded to four figures; what that leaves of colour in white is taken out.
  static const Vec3 neutral = ofCones(d65);
  const Cones light = conesOf(kelvin), white = conesOf(whiteKelvin);
  const Vec3 seen = ofCones({light.l * d65.l / white.l, light.m * d65.m / white.m, light.s * d65.s / white.s});
  const Vec3 balanced{seen.x / neutral.x, seen.y / neutral.y, seen.z / neutral.z};
  return balanced / luminance(balanced);
}

}  // namespace easel
