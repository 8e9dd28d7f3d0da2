// From layers to the picture: weights, camera exposure, tone curve.
//
// The camera: a surface of reflectance rho, facing the light and metered with a flat receptor (C = 250) at the working
// aperture, comes out at linear value rho; so an 18 % grey lands at 0.18 (sRGB 118), which is mid-scale.
//   value = pi * L * S / (N^2 * C),  L in cd s/m^2
// The tone curve (the only one): values up to 0.5 stay; above, a shoulder runs smoothly into white,
//   y = 1/2 + 1/2 (1 - exp(-(x - 1/2) / (1/2))), then the sRGB encoding. White paper (0.84) comes out at 224 of 255,
//   255 is reached about 2.4 stops over mid grey's two-stop white.
#pragma once

#include <cstdint>
#include <memory>
#include <span>
#include <vector>

#include "picture/layer.h"

namespace easel {

/// Linear picture value -> 0..1 display value, sRGB-encoded.
double toneCurve(double linear);

struct WeightedLayer {
  const LayerPicture* picture;
  Vec3 weight;                 ///< units of light (lm s or lx s) * colour * camera gain
  bool behindCurtain = false;  ///< a flash that a fast shutter hides from a part of the frame
};
/// How open the frame is to such a flash, 0..1: of each column when the curtain goes across, else of each row. Empty:
/// everywhere.
struct Curtain {
  bool across = false;
  std::vector<float> open;
};

/// 8-bit RGBA, rows from the top. All layers have the same size. No layers: black.
void develop(std::span<const WeightedLayer> layers, int width, int height, std::vector<std::uint8_t>& rgba,
             const Curtain& curtain = {});

/// The same before the tone curve: three planes.
void combineLinear(std::span<const WeightedLayer> layers, int width, int height, std::vector<float> planes[3],
                   const Curtain& curtain = {});

}  // namespace easel
