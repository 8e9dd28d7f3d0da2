// The filters' inner loops: runs of pixels of one row, in planes.
//
// Compiled twice, for every 64-bit processor and for those with 256-bit arithmetic (level x86-64-v3 of the System V
// psABI), and chosen once when the program starts: rounds of smoothing take a third of the time there. Nothing is
// known here of light or of layers.
#pragma once

#include <array>
#include <cstdint>

#include "picture/guides.h"

namespace easel {

/// A filter over what lies round a pixel on its own surface, `step` pixels apart.
struct RowFilter {
  enum class How {
    Even,   ///< one plane, by the surface alone: takes out a pattern of step pixels
    First,  ///< four planes; neighbours may differ in `compared` by about a third
    Known,  ///< four planes; neighbours may differ by about the noise
    Wide,   ///< four planes, by the surface alone, and hair as a tuft
    Noise   ///< one plane, 5 x 5: root of the mean over the same surface
  };
  How how;
  const Guides* guides;
  int step = 1;
  std::array<const float*, 4> from{};  ///< planes of the picture; one for Even and Noise
  std::array<float*, 4> to{};
  const float* compared = nullptr;  ///< First and Known: light that is compared
  const float* noise = nullptr;     ///< Known: its standard error
  float noiseScale = 1;
};
/// Pixels x0 to x1 (not with it) of row y.
void filterRun(const RowFilter& filter, int y, int x0, int x1);

/// A blur along one axis over pure skin; weights by squared distance in space, a table for each of three planes.
struct SkinBlur {
  const Guides* guides;
  bool down = false;  ///< along columns
  int reach = 0;      ///< pixels
  float perPixel2 = 0;
  int entries = 0;                      ///< of a table, and one more that is 0
  std::array<const float*, 3> table{};  ///< kSteps entries to a squared pixel
  std::array<const float*, 3> from{};
  std::array<float*, 3> to{};
  static constexpr int kSteps = 4;
};
void blurRun(const SkinBlur& blur, int y, int x0, int x1);

/// out = light * albedo + sheen, with albedo square-root coded in 16 bits and no less than `least`.
void finishRun(const float* light, const float* sheen, const std::uint16_t* albedo, float least, float* out, size_t n);

/// Adds two rows of `n` pixels, mixed by `part` of the second, to a row twice as wide: in between, the mean of two.
void doubledRun(const float* a, const float* b, float part, int n, float* out, int wide);

/// Rec. 709 luminance of three planes.
void luminanceRun(const float* r, const float* g, const float* b, float* out, size_t n);

}  // namespace easel
