// Rays that begin near each other and go much the same way, gathered to be asked about together (Scene::occluded()).
#pragma once

#include <array>
#include <cstdint>

#include "transport/runs.h"

namespace easel {

struct Rays {
  int n = 0;
  std::array<Vec3, kRun> origin, direction;
  Plane far;
  RunOf32 seed;
  std::array<int, kRun> of;                ///< what the ray was sent for, in the words of who sent it
  std::array<std::uint8_t, kRun> blocked;  ///< the answer

  /// There must be room. `towards` unit; the ray is asked about from where it begins up to `limit`.
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
