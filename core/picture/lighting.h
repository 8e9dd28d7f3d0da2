// Light that points seen by the camera reflect towards the lens, from one lamp or from the ambient, per
// lumen-second of the head (per lux-second of the ambient).
//
// The lamp itself, its light over panels, the mirrors of skin and eye, what other surfaces send on, and haze. Nothing
// is kept: who adds passes up and smooths them is Layer. Immutable, any thread.
#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <span>

#include "picture/lit_points.h"
#include "transport/source.h"
#include "transport/view.h"

namespace easel {

struct Radiance {
  Vec3 direct;  ///< albedo * irradiance / pi
  float sheen = 0;
};

class Lighting {
 public:
  /// Of a light in its room (Source::in). `key` tells lights apart in the random numbers.
  Lighting(Source source, std::uint32_t key) : source_(std::move(source)), emitter_(&source_->emitter()), key_(key) {}
  /// Of the ambient: even light from everywhere that is not the sitter.
  explicit Lighting(std::uint32_t key) : key_(key) {}
  Lighting(const Lighting&) = delete;
  Lighting& operator=(const Lighting&) = delete;

  bool ambient() const { return !source_; }
  /// Not of the ambient.
  const Source& source() const { return *source_; }
  /// Seed of a pixel's light samples.
  std::uint32_t seedOf(std::uint32_t pixelKey) const { return hashPair(pixelKey, key_); }
  /// Of panelPoint(), for light().
  std::uint32_t panelSeedOf(std::uint32_t pixelKey) const { return seedOf(pixelKey) ^ kPanels; }

  /// What came of LitPoints, by point. Light over panels apart from the rest.
  struct Lit {
    Run3 direct, panelDirect;
    alignas(64) Plane sheen, panelSheen;
    Radiance own(int i) const { return {direct[i], sheen[size_t(i)]}; }
    Radiance overPanels(int i) const { return {panelDirect[i], panelSheen[size_t(i)]}; }
  };
  /// Of lamps only. `panels`: of its source in that scene.
  void light(LitPoints& points, const View& view, const Scene& scene, const Source::Points& panels, Lit& out) const;
  /// A first look: light of panels is sampled in one of so many passes only, counted that many times, and comes from
  /// `panelPoints` alone, for points that share a seed; of strands one point of the front is sampled, as of others.
  void firstLook(LitPoints& points, const View& view, const Scene& scene, std::uint32_t oneOf,
                 std::span<const Source::PanelPoint> panelPoints, Lit& out) const;
  /// Of lamps: where the lens meets no surface.
  Radiance beyond(const View& view, const Scene& scene, std::uint32_t pass, std::uint32_t pixelKey, Vec3 viewRay) const;
  /// Light that comes by one or more diffuse reflections, or of the ambient all of it: irradiance / pi, as it reaches
  /// the lens. `panels` as in light().
  void bounced(BounceRun& points, const View& view, const Scene& scene, const Source::Points& panels, Run3& out) const;
  /// The same as far as it is known without a ray: the room's cells know all that arrives at a place, near enough for a
  /// first look.
  Vec3 firstBounce(const PixelSample& from, const BounceSample& to, const View& view, const Scene& scene) const;
  /// Of the ambient: what haze sends to a lens from before what is `depth` metres away.
  float glow(const Scene& scene, float depth) const;
  static constexpr float kNothingAt = 12;  ///< metres: how far air is counted where the lens meets no surface
  /// False of what the lamp certainly cannot reach, when light can come from nowhere else.
  bool mayLight(const SurfacePoint& bare, const View& view, const Scene& scene) const;

 private:
  static constexpr std::uint32_t kPanels = 0x9a7eu;
  void bouncedOfLamp(const BounceRun& points, const Scene& scene, const Source::Points& panels, Run3& out) const;
  using PanelOf = std::function<const Source::PanelPoint*(size_t point)>;  ///< null: none this time
  void light(LitPoints& points, const View& view, const Scene& scene, bool firstLook, float panelWeight,
             const PanelOf& panelOf, Lit& out) const;
  void chooseForStrands(const LitPoints& points, const Fibre& fibre, Run3& direction, Plane& distance,
                        Plane& geometry) const;
  void fromTheLamp(const LitPoints& points, const Scene& scene, bool firstLook, Lit& out) const;
  void mirroredBySkin(const LitPoints& points, const Scene& scene, Lit& out) const;
  void fromPanels(const LitPoints& points, const Scene& scene, bool firstLook, float panelWeight,
                  const PanelOf& panelOf, Lit& out) const;
  Vec3 boardFromBoard(const BounceRun& points, int i, const Scene& scene) const;
  float mirroredTo(Vec3 from, Vec3 mirrored, float near, std::uint32_t pass, std::uint32_t seed,
                   const Scene& scene) const;
  void mirroredByLens(const LitPoints& points, int i, const Scene& scene, Lit& out) const;
  void mirroredByEye(const LitPoints& points, int i, const Scene& scene, Lit& out) const;
  /// Of lamps: `seen` through the haze of the scene, and the light that the haze itself sends to the lens.
  Radiance throughHaze(const Radiance& seen, float depth, const View& view, const Scene& scene, std::uint32_t pass,
                       std::uint32_t pixelKey, Vec3 viewRay) const;

  std::optional<Source> source_;
  const Emitter* emitter_ = nullptr;  ///< the source's; null: the ambient
  std::uint32_t key_;
};

}  // namespace easel
