// The scene: sitter, backdrop, floor and room as triangles, and the questions that light asks of them.
//
// Immutable once built, so any thread may ask. Rays through hair, brows and lashes are let through or stopped by the
// alpha of the texture against a hash of the ray's seed (stochastic transparency): the mean over seeds is the true
// transmittance, no ray is ever restarted, and the same seed gives the same answer.
#pragma once

#include <cstdint>
#include <memory>
#include <optional>

#include "plan/plan.h"
#include "sitters/sitter.h"

namespace easel {

/// What a ray met.
struct SurfacePoint {
  Surface surface = Surface::Nothing;
  Vec3 position;  ///< lifted off the facet where the smooth surface bulges (J. Hanika, "Hacking the Shadow Terminator")
  Vec3 normal;    ///< shading normal, towards where the ray came from
  Vec3 facet;     ///< geometric normal, same side
  Vec3 tangent;   ///< hair: along the strand
  Vec3 coatNormal;  ///< eyes: normal of the wet surface
  Vec3 albedo;      ///< linear Rec. 709 diffuse reflectance
  float distance = 0;
};

class Scene {
 public:
  /// Geometry of the plan with this sitter. Lights are not part of it. Throws std::runtime_error if Embree refuses.
  Scene(const Plan& plan, std::shared_ptr<const Sitter> sitter);
  ~Scene();
  Scene(const Scene&) = delete;
  Scene& operator=(const Scene&) = delete;

  /// First surface along the ray; empty when it leaves the scene. `seed` decides about half-transparent cards, or, when
  /// it is not negative, `threshold` in [0,1): spread evenly over the rays of a pixel it gives cards their true
  /// coverage soonest.
  std::optional<SurfacePoint> meet(Vec3 origin, Vec3 direction, std::uint32_t seed, float threshold = -1) const;

  /// Whether something stands between. `direction` unit; `near` and `far` along it.
  bool occluded(Vec3 origin, Vec3 direction, float near, float far, std::uint32_t seed) const;

  /// Whether any panel is in the set.
  bool hasPanels() const;
  /// Extinction of the air [1/m], 0: clear.
  float haze() const;
  const Sitter& sitter() const;
  /// A landmark of the sitter in studio space, head pose included.
  Vec3 studioPoint(Vec3 local) const;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace easel
