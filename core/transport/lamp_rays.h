// Rays of a lamp: how its light leaves the front, and how densely such rays meet what they fall on.
//
// For light that is followed from the lamp: some 0.2 ms to make, so one serves all that look at a lamp's light in its
// room. Units as for the emitter. Immutable: any thread.
#pragma once

#include "transport/emitter.h"
#include "transport/runs.h"

namespace easel {

class LampRays {
 public:
  explicit LampRays(const Emitter& emitter);

  /// A ray of light as the front gives it: taken evenly over both squares, the mean of `flux` [lm per lm of the head]
  /// is the emitter's flux().
  struct Ray {
    Vec3 origin, direction;
    float flux;
  };
  Ray sample(Vec2 place, Vec2 direction) const;
  /// Pdf with which sample() hits a surface there, per square metre: from four places of the front, near enough to
  /// weigh this way of sampling against another. > 0 wherever sample() can come.
  float pdf(Vec3 point, Vec3 normal) const;
  void pdfRun(int n, const Run3& point, const Run3& normal, Plane& out) const;

 private:
  float directionPdf(float cosine) const;  ///< of sample(), per solid angle

  Emitter emitter_;
  /// Chance of a direction up to and with each ring about the axis.
  std::array<float, kRings> upTo_{};
  LampRayTable table_;
};

}  // namespace easel
