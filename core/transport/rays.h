// Rays that begin near each other, gathered for one query (Scene::occluded(), Scene::intersect()).
#pragma once

#include <array>
#include <cstdint>

#include "transport/runs.h"

namespace easel {

struct Rays {
  int n = 0;
  bool thresholds = false;  ///< seeds are thresholds, in 2^-32, as Scene::intersect() has them
  bool together = false;    ///< all begin at one place and go much the same way
  std::array<Vec3, kRun> origin, direction;
  Plane far;
  RunOf32 seed;
  std::array<int, kRun> of;         ///< what the ray was sent for, in the words of who sent it
  alignas(64) Plane transmittance;  ///< the answer: 0 is blocked, and past hair a part of the light is left

  /// There must be room. `towards` unit; the query covers it from its origin up to `limit`.
  bool full() const { return n == kRun; }
  void add(int sentFor, Vec3 from, Vec3 towards, float limit, std::uint32_t ownSeed) {
    const auto k = size_t(n++);
    of[k] = sentFor;
    origin[k] = from;
    direction[k] = towards;
    far[k] = limit;
    seed[k] = ownSeed;
  }
};

}  // namespace easel
