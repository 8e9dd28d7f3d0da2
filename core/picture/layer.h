// A layer: one light, alone, for one lumen-second from its head (or the ambient, for one lux-second).
//
// Light transport is linear: power, mute, gel, ISO, shutter, aperture and white balance only re-weight layers. Inside,
// the diffuse part and the sheen are summed apart over passes; the picture of the layer is linear luminance in cd s/m^2
// per unit.
#pragma once

#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "picture/lit_points.h"
#include "picture/samples.h"
#include "transport/interrupt.h"
#include "transport/source.h"

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
  Layer(Source source, std::uint32_t key) : source_(std::move(source)), emitter_(&source_->emitter()), key_(key) {}
  /// Of the ambient: even light from everywhere that is not the sitter.
  Layer() : key_(0xa3b1e47u) {}

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
  std::shared_ptr<const LayerPicture> finished(const Irradiance& full, const SampleSets& sets) const;
  bool bounceDue(int x, int y) const;
  void addBounce(const SampleSets& sets, int x, int y, std::uint32_t pixelKey, BounceRun& points);
  void takeBounces(BounceRun& points, const Scene& scene);
  struct Radiance {
    Vec3 direct;  ///< albedo * irradiance / pi
    float sheen = 0;
  };
  /// What came of LitPoints, by point. Light over panels apart from the rest.
  struct Lit {
    Run3 direct, panelDirect;
    alignas(64) Plane sheen, panelSheen;
  };
  /// Of lamps only. `oneOf` 2: light of panels is asked for in that part of the passes only, counted that many times.
  /// `panelPoints`: of the first so many of those, for points that share a seed.
  void light(LitPoints& points, const View& view, const Scene& scene, std::uint32_t oneOf,
             std::span<const Source::PanelPoint> panelPoints, Lit& out) const;
  void fromTheLamp(const LitPoints& points, const Scene& scene, Lit& out) const;
  void mirroredBySkin(const LitPoints& points, const Scene& scene, Lit& out) const;
  void fromPanels(const LitPoints& points, const Scene& scene, std::uint32_t oneOf,
                  std::span<const Source::PanelPoint> panelPoints, Lit& out) const;
  void mirroredByEye(const LitPoints& points, int i, const Scene& scene, Lit& out) const;
  Radiance plainly(const PixelSample& s, const View& view, const Scene& scene, std::uint32_t pass,
                   std::uint32_t pixelKey, Vec3 viewRay) const;
  void count(size_t pixel, int n, const Radiance& light);
  /// `seen` through the haze of the scene, and the light that the haze itself sends to the lens.
  Radiance throughHaze(const Radiance& seen, float depth, const View& view, const Scene& scene, std::uint32_t pass,
                       std::uint32_t pixelKey, Vec3 viewRay) const;
  void bounced(BounceRun& points, const Scene& scene, Run3& out) const;

  std::optional<Source> source_;
  const Emitter* emitter_ = nullptr;  ///< the source's; null: the ambient
  std::uint32_t key_;
  int passes_ = 0;
  std::vector<float> sum_;  ///< r g b sheen per pixel: albedo * direct irradiance / pi, and sheen
  /// The bounce, smooth by nature, at half resolution: r g b of irradiance / pi and a count.
  std::vector<float> bounced_;
  std::vector<float> evenSum_;        ///< luminance of the even samples, for the noise estimate
  std::vector<float> evenSheen_;      ///< sheen of the even samples
  std::vector<std::uint32_t> count_;  ///< samples taken, per pixel
  std::vector<std::uint16_t> share_;  ///< samples a pass, per pixel, in sixteenths; empty: one each
  std::vector<std::uint8_t> tileDone_;
};

}  // namespace easel
