// A layer: one light, alone, for one lumen-second from its head (or the ambient, for one lux-second).
//
// Light transport is linear: power, mute, gel, ISO, shutter, aperture and white balance only re-weight layers. Inside,
// the diffuse part and the sheen are summed apart over passes; the picture of the layer is linear luminance in cd s/m^2
// per unit.
#pragma once

#include <memory>
#include <vector>

#include "picture/lighting.h"
#include "transport/interrupt.h"

namespace easel {

class Irradiance;

/// Linear RGB planes of one layer, per unit of light. Immutable once published.
struct LayerPicture {
  int width = 0, height = 0;
  int passes = 0;  ///< 0: the quick half-resolution preview
  std::vector<float> r, g, b;
};

class Layer {
 public:
  /// Of a light in its room (Source::in). `key` tells lights apart in the random numbers: its letter.
  Layer(Source source, std::uint32_t key) : lighting_(std::move(source), key) {}
  /// Of the ambient: even light from everywhere that is not the sitter.
  Layer() : lighting_(0xa3b1e47u) {}

  /// Half resolution, one sample, smoothed, joined to the full-resolution guides: the picture while something moves.
  std::shared_ptr<const LayerPicture> preview(const SampleSets& sets) const;

  Layer(const Layer&) = delete;
  Layer& operator=(const Layer&) = delete;

  /// One more full-resolution pass (needs set passes() % kSampleSets). False when interrupted; a later call goes on.
  /// After the first few every pixel takes part in proportion to its noise: what is noisy (edges lit at a
  /// grazing angle, hair, penumbrae) gets the time.
  bool trace(const SampleSets& sets, const Interrupt& interrupt);
  int passes() const { return passes_; }

  /// The picture from the passes so far; smoothed where the noise calls for it. `smooth` false: the plain mean.
  std::shared_ptr<const LayerPicture> picture(const SampleSets& sets, bool smooth = true) const;

 private:
  void shareOut(const SampleSets& sets);
  void fillDirect(const SampleSets& sets, bool smooth, Irradiance& full) const;
  std::shared_ptr<const LayerPicture> finished(const Irradiance& full, const SampleSets& sets) const;
  void traceTile(const SampleSets& sets, int x0, int y0);
  void bounceInTile(const SampleSets& sets, int x0, int y0);
  void count(size_t pixel, int n, const Radiance& light);

  Lighting lighting_;
  Source::Points panels_;
  int passes_ = 0;
  std::vector<float> sum_;  ///< r g b sheen per pixel: albedo * direct irradiance / pi, and sheen
  /// The bounce and the ambient, smooth by nature, at half resolution: r g b of irradiance / pi and a count.
  std::vector<float> bounced_;
  std::vector<float> evenSum_;        ///< luminance of the even samples, for the noise estimate
  std::vector<float> evenSheen_;      ///< sheen of the even samples
  std::vector<std::uint32_t> count_;  ///< samples taken, per pixel
  std::vector<std::uint16_t> share_;  ///< samples a pass, per pixel, in sixteenths; empty: one each
  std::vector<std::uint8_t> tileDone_;
};

}  // namespace easel
