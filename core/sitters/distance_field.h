// How far places are from a surface, on a grid: what hair lies on.
//
// Metres, in the space of whoever it belongs to; positive outside. Outside of the grid, and further away than its
// values reach, everything is far. Any thread.
#pragma once

#include <cstdint>
#include <vector>

#include "geometry/vec.h"

namespace easel {

struct DistanceField {
  static constexpr float kStep = 0.00025f;    ///< metres that one unit of a value stands for
  static constexpr float kFar = 127 * kStep;  ///< the furthest that it tells

  Vec3 low;
  float cell = 0.005f;  ///< metres between values
  std::int32_t nx = 0, ny = 0, nz = 0;
  std::vector<std::int8_t> values;  ///< nx * ny * nz, x quickest

  struct Near {
    float gap = kFar;       ///< metres
    Vec3 outward{0, 1, 0};  ///< unit, the way that leads away from the surface; of no use where it is far
  };
  /// Interpolated between the eight values about `p`.
  Near about(Vec3 p) const;
  float at(Vec3 p) const { return about(p).gap; }
  bool sound() const { return nx >= 0 && ny >= 0 && nz >= 0 && values.size() == size_t(nx) * size_t(ny) * size_t(nz); }
};

}  // namespace easel
