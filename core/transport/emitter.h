// The area emitter: what a lit modifier is to the light.
//
// A flat outline (rectangle, octagon, disc, ring) or a ball in studio space that gives luminance
//
//   L(x, theta) = peak * evenness(x) * shape(theta) / cos(theta)
//
// normalised so that its flux is `transmission` lumens per lumen of the bare head: no modifier creates light. shape()
// is cos^lobe (1: a Lambertian diffuser), or what was measured, cut by grid or lens. A share may leave backwards, even
// and Lambertian (shoot-through umbrella). Barn doors and projected patterns take light away after that. Hard or soft
// is no switch: it follows from size and distance.
//
// A pattern is sharp in the plane at its focus: a ray's place in the pattern is where it crosses that plane, so nearer
// and further it softens by the size of the lens, as a real one does. Units: metres; luminance in cd/m^2 per lm of the
// head, or in cd s/m^2 per lm s, which is the same number.
#pragma once

#include <array>
#include <cmath>
#include <optional>

#include "placed/placed_set.h"
#include "transport/runs.h"
#include "transport/sampling.h"

namespace easel {

/// What a focusing spot projects, and how far from its front it is sharp [m].
struct Slide {
  std::shared_ptr<const Gobo> pattern;
  double focus = 2;
};

class Emitter {
 public:
  /// `modifier` must have an area > 0; throws std::invalid_argument with a sentence otherwise.
  /// Fittings that change where light goes are in it already (fronted()), but for doors and what a spot projects.
  Emitter(const Modifier& modifier, const LightPose& pose, const Doors& doors = {}, const Slide& slide = {});

  /// The same in haze of that extinction [1/m]: what it sends fades by exp(-extinction * way) until it meets something
  /// (Beer and Lambert); reflected light is computed as in clear air.
  Emitter inAir(float extinction) const {
    Emitter e = *this;
    e.extinction_ = extinction;
    return e;
  }
  float extinction() const { return extinction_; }

  bool operator==(const Emitter&) const = default;

  struct Point {
    Vec3 position;
    float geometry;  ///< luminance * cos at the emitter * area / distance^2: multiply by cos at the receiver for lux
    Vec3 direction;  ///< unit, from the receiver to the emitter
    float distance;
  };
  /// The point of the surface for `u` in [0,1)^2, as seen from `receiver`. geometry is 0 behind the emitter.
  Point sample(Vec3 receiver, Vec2 u) const;

  /// sample() of many at once, without the position: direction, distance and geometry. See runs.h.
  void sampleRun(int n, const Run3& receiver, const Run2& u, Run3& direction, Plane& distance, Plane& geometry) const;
  /// Which of the rays seen() may answer: never leaves out one that it does.
  void maySee(int n, const Run3& origin, const Run3& direction, std::array<std::uint8_t, kRun>& may) const;

  /// Density per solid angle with which sample() chooses, for that receiver, a point `distance` away along the unit
  /// `direction`.
  float pdf(Vec3 receiver, Vec3 direction, float distance) const;
  void pdfRun(int n, const Run3& receiver, const Run3& direction, const Plane& distance, Plane& out) const;

  /// False when the receiver certainly gets nothing: it lies behind the emitter, or the emitter behind its surface.
  bool mayLight(Vec3 point) const;
  bool mayLight(Vec3 point, Vec3 normal) const;

  /// Luminance seen from `origin` along the unit `direction` at a distance below `limit`; empty when the ray misses the
  /// front. `distance` gets the hit distance.
  std::optional<float> seen(Vec3 origin, Vec3 direction, float limit, float* distance = nullptr) const;

  /// Whether the ray meets the outline from behind or in front (the body of the modifier).
  bool blocks(Vec3 origin, Vec3 direction, float limit) const;

  /// What a place of the front (of onOutline()) sends along a direction that leaves it. Of a ball, any place.
  float luminance(Vec2 place, Vec3 leaving) const;
  /// Of a flat front, even by area for `u` in [0,1)^2, from the middle of it [m].
  Vec2 onOutline(Vec2 u) const;
  /// A place of the front, even by area. Of a ball, of the disc that is seen from before.
  Vec3 onFront(Vec2 u) const;

  bool ball() const { return outline_ == Outline::Ball; }
  float halfWidth() const { return halfWidth_; }
  /// Luminance that leaves backwards, and as much as can leave forwards.
  float back() const { return back_; }
  float peak() const { return peak_; }
  /// Cosine of the angle off the axis at which nothing leaves any more; 0: none.
  float cutCosine() const { return cutCosine_; }
  float flux() const { return flux_; }  ///< lm out per lm of the head: the modifier's transmission
  float area() const { return area_; }
  const LightPose& pose() const { return pose_; }
  /// The longest way across the outline [m].
  float extent() const;

 private:
  float clearness(float way) const { return extinction_ > 0 ? std::exp(-extinction_ * way) : 1; }
  Point sampleBall(Vec3 receiver, Vec2 u) const;
  FlatFront front() const;
  bool inside(Vec2 p) const;
  float evenness(Vec2 p) const;
  double meanEvenness() const;
  float luminanceAt(Vec2 p, Vec3 leaving) const;
  float luminanceOfBall(Vec3 leaving) const;
  float luminanceCut(Vec2 p, Vec3 leaving, float cosine) const;
  std::optional<Vec2> intersect(Vec3 origin, Vec3 direction, float limit, float* distance) const;

  Outline outline_;
  LightPose pose_;
  float halfWidth_, halfHeight_, centre_, area_, flux_, lobe_, hot_, gridTangent_, peak_;
  bool squareCells_ = false;
  float back_ = 0;        ///< luminance backwards
  float cutCosine_ = 0;   ///< cosine of the cut-off, 0: none
  float hiddenFrom_ = 0;  ///< of a ball, degrees off the axis; 0: nothing hides it
  std::shared_ptr<const AngularProfile> profile_;
  std::shared_ptr<const Gobo> pattern_;
  float focus_ = 1, slide_ = 1;  ///< distance of the sharp plane, and the pattern's half size there [m]
  float extinction_ = 0;         ///< of the air [1/m]
  bool cut_ = false;             ///< profile, pattern or doors: the slow way
  Doors doors_;
};

/// The emitter of a light of the set. Throws std::invalid_argument when its gear is not known.
Emitter emitterOf(const PlacedSet& set, const PlacedLight& light);

}  // namespace easel
