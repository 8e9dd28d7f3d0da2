// The scene: sitter, backdrop, floor and room as triangles, and the ray queries that light transport needs.
//
// Immutable once built; any thread. Rays through hair, brows and lashes are let through or stopped by the
// alpha of the texture against a hash of the ray's seed (stochastic transparency): the mean over seeds is the true
// transmittance, no ray is ever restarted, and the same seed gives the same answer.
#pragma once

#include <array>
#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

#include "geometry/box.h"
#include "placed/placed_set.h"
#include "sitters/sitter.h"
#include "transport/runs.h"

namespace easel {

/// What a ray hit.
struct SurfacePoint {
  Surface surface = Surface::Nothing;
  Vec3 position;  ///< lifted off the facet where the smooth surface bulges (J. Hanika, "Hacking the Shadow Terminator")
  Vec3 normal;    ///< shading normal, towards where the ray came from
  Vec3 facet;     ///< geometric normal, same side
  Vec3 tangent;   ///< hair: along the strand
  Vec3 coatNormal;  ///< eyes: normal of the wet surface
  Vec3 albedo;      ///< linear Rec. 709 diffuse reflectance
  float distance = 0;
  std::int16_t side = -1;  ///< of Scene::sides()
  Vec3 lensNormal;         ///< seen through glasses: of the surface that mirrors there; else 0
  bool throughLens() const { return dot(lensNormal, lensNormal) > 0; }
  /// Cloth, scrim: what it makes of light, coded (transport/cloth.h); skin, Colours::Fine: how oily, 0..255.
  std::uint32_t cloth = 0;
  float thickness = 0;  ///< skin that light comes through: metres to the other side; else 0
};

/// A face that reflects light: a parallelogram (or the ellipse in it) of room, backdrop or panel, or, without
/// extent, a part of the sitter and what they sit on.
struct Side {
  Vec3 corner, across, up;  ///< metres
  Vec3 normal;
  Vec3 reflectance;  ///< all that comes back, as if diffuse; of a part of the sitter 0: what rays meet there tells
  float through = 0;
  int other = -1;  ///< what it lets through comes out there
  bool panel = false, disc = false;
  bool piece = false;   ///< a large face of a piece of the set
  Vec3 shown{1, 1, 1};  ///< SurfacePoint::albedo of a panel
  bool body() const { return dot(across, across) <= 0; }
};

struct Eye;
class Fibre;
struct Glasses;
class Interreflection;
struct Rays;

/// Detail of the albedo of a hit: none, with the normal of the mesh (a third of the time); plain, for indirect light;
/// fine, with pores, weave and mottle.
enum class Colours { None, Plain, Fine };

class Scene {
 public:
  /// Geometry of the set with this sitter. Of the lights nothing but gear that is seen or stands in another's light
  /// (placed/gear_bodies.h). Throws std::runtime_error with a sentence if the ray library refuses.
  Scene(const PlacedSet& set, std::shared_ptr<const Sitter> sitter);
  ~Scene();
  Scene(const Scene&) = delete;
  Scene& operator=(const Scene&) = delete;

  /// First surface along the ray; empty when it leaves the scene. `seed` decides about half-transparent cards, or, when
  /// it is not negative, `threshold` in [0,1): spread evenly over the rays of a pixel it gives cards their true
  /// coverage soonest.
  std::optional<SurfacePoint> intersect(Vec3 origin, Vec3 direction, std::uint32_t seed, float threshold = -1,
                                        Colours = Colours::Fine) const;

  /// The same for all of them, each into its place in `hits`; where a ray leaves the scene surface Nothing, infinitely
  /// far. Quicker, most of all where the rays begin at one place.
  void intersect(const Rays& rays, Colours, std::array<SurfacePoint, kRun>& hits) const;
  /// Only hits that `wants` accepts, which sees them as Colours::None gives them; the others are surface Nothing at
  /// distance 0.
  void intersectIf(const Rays& rays, const std::function<bool(const SurfacePoint&)>& wants,
                   std::array<SurfacePoint, kRun>& hits) const;

  /// Whether something stands between; of hair, which lets some light pass, `seed` decides. `direction` unit; `near`
  /// and `far` along it.
  bool occluded(Vec3 origin, Vec3 direction, float near, float far, std::uint32_t seed) const;

  /// How much passes of each, into `passed`: a third quicker, and hair is no matter of luck.
  void occluded(Rays& rays) const;

  /// Of this scene and no other of the process: for what is kept beside it.
  std::uint64_t serial() const { return serial_; }
  const std::vector<Side>& sides() const;
  /// Indirect light of all orders; computed on first use.
  const Interreflection& interreflection() const;
  /// About what it takes, its figure included.
  double bytes() const;

  /// Where something of the room stands otherwise than in `before`: boxes about what was moved, as it stood and as it
  /// stands. Empty optional: more than boards, pieces and gear is different, or sides() would not tell the same things.
  std::optional<std::vector<Box>> movedSince(const Scene& before) const;

  /// Whether anything stands in the room: panels, pieces, gear that matters.
  bool hasPanels() const;
  /// Extinction of the air [1/m], 0: clear.
  float haze() const;
  const Sitter& sitter() const;
  /// The glasses that the sitter wears, local, head unturned; nullptr: none.
  const Glasses* glasses() const;
  /// Whether the sitter wears a hat, and whether it stands between two places.
  bool hasHat() const;
  bool hatBetween(Vec3 from, Vec3 to) const;
  /// What the strands of the sitter's hair make of light.
  const Fibre& fibre() const;
  /// Left and right as they look; local, head unturned.
  const std::array<Eye, 2>& eyes() const;
  /// A landmark of the sitter in studio space, head pose included.
  Vec3 studioPoint(Vec3 local) const;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
  const std::uint64_t serial_;
};

}  // namespace easel
