// Colour of light and colour of pictures.
//
// Inside: linear Rec. 709 / sRGB primaries, photometric (luminance 1 = the stated photometric unit). The colour of a
// light source is its chromaticity scaled to luminance 1, so that a warmer lamp of the same lux stays at the same lux.
#pragma once

#include <array>

#include "geometry/vec.h"

namespace easel {

/// Linear 0..1 -> sRGB-encoded 0..1 (IEC 61966-2-1, exact piecewise curve).
double srgbEncode(double linear);
/// sRGB-encoded 0..1 -> linear.
double srgbDecode(double encoded);
/// srgbDecode() of every 8-bit code.
const std::array<float, 256>& linearOfCodes();

/// Reciprocal megakelvin, 1e6/T. T in kelvin > 0.
double mired(double kelvin);

/// CIE 1931 chromaticity of a black body (up to 4000 K) or of daylight (from 5000 K), evenly in mired from one to the
/// other between; 1667 K to 25000 K, clamped. Planckian: Kim et al. cubic approximation; daylight: CIE 15 polynomial.
struct Chromaticity {
  double x, y;
};
Chromaticity chromaticityOf(double kelvin);

/// Linear RGB of luminance 1 for light of the given correlated colour temperature, seen by a camera whose white balance
/// is set to `whiteKelvin`: equal temperatures give neutral (1,1,1). von Kries scaling of Bradford cone responses.
Vec3 lightColour(double kelvin, double whiteKelvin);

/// RGB (not balanced) of luminance 1.
Vec3 rawLightColour(double kelvin);

}  // namespace easel
