// Boxes along the axes.
#pragma once

#include <algorithm>
#include <limits>

#include "geometry/vec.h"

namespace easel {

struct Box {
  static constexpr float kFar = std::numeric_limits<float>::infinity();
  Vec3 low{kFar, kFar, kFar}, high{-kFar, -kFar, -kFar};  ///< as made: empty

  void take(Vec3 p) {
    for (int c = 0; c < 3; ++c) {
      low[c] = std::min(low[c], p[c]);
      high[c] = std::max(high[c], p[c]);
    }
  }
  Box grownBy(float by) const {
    const Vec3 d{by, by, by};
    return {low - d, high + d};
  }
  /// Where a ray enters it, >= 0; kFar when it passes by. `direction` need not be a unit.
  float entry(Vec3 origin, Vec3 direction) const {
    float from = 0, to = kFar;
    for (int c = 0; c < 3; ++c) {
      if (std::abs(direction[c]) < 1e-12f) {
        if (origin[c] < low[c] || origin[c] > high[c]) return kFar;
        continue;
      }
      const float a = (low[c] - origin[c]) / direction[c], b = (high[c] - origin[c]) / direction[c];
      from = std::max(from, std::min(a, b));
      to = std::min(to, std::max(a, b));
    }
    return from <= to ? from : kFar;
  }
};

}  // namespace easel
