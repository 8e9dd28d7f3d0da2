// What is laid over the picture to judge it: where it stands in stops, how its tones are spread.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "picture/layers.h"

namespace easel {

/// Tones of the finished picture: 256 counts of luminance (Rec. 709 weights on the encoded values, as camera
/// histograms do), and the shares burnt out (all channels >= 253) and blocked up (all <= 3).
struct Histogram {
  std::array<int, 256> count{};
  double burnt = 0, blocked = 0;  ///< 0..1
};
Histogram histogramOf(const Picture& picture);

/// Bands of one stop from mid grey, -5 ... +3, as an opaque picture: each band its own even tone and hue, the border
/// between two of them dark, so that it reads in black and white as well.
Picture stopsMap(const Layers& layers, const PlacedSet& set, const Show& show);
/// The bands' colours, from kStopsLeast up, for the legend. 8-bit sRGB.
constexpr int kStopsLeast = -5, kStopsMost = 3;
std::array<std::uint8_t, 3> stopsColour(int stops);

/// What an 18 % grey card comes out as in the picture, 0..255, where the light is so many stops over the working
/// aperture (SpotReading::stops): 118 when it is exposed as metered.
int greyCardValue(const Camera& camera, double stops);

}  // namespace easel
