// Places on triangles: all over one of them, and evenly over many.
#pragma once

#include <algorithm>
#include <vector>

#include "geometry/vec.h"

namespace easel {

/// `f` with the weights of the second and the third corner of places all over a triangle, about `step` apart on its
/// longest side, in `most` steps at most.
template <class F>
void overTriangle(Vec3 a, Vec3 b, Vec3 c, float step, int most, F f) {
  const float size = std::max({length(b - a), length(c - a), length(c - b)});
  const int steps = std::clamp(int(size / step) + 1, 1, most);
  for (int i = 0; i <= steps; ++i)
    for (int j = 0; i + j <= steps; ++j) f(float(i) / float(steps), float(j) / float(steps));
}

/// Which of many things a place along all of their areas falls on.
class ByArea {
 public:
  void add(double area) { until_.push_back(whole() + area); }
  double whole() const { return until_.empty() ? 0 : until_.back(); }
  /// `along` 0..whole(); there must be one.
  size_t at(double along) const {
    return size_t(std::min(std::lower_bound(until_.begin(), until_.end(), along), until_.end() - 1) - until_.begin());
  }

 private:
  std::vector<double> until_;
};

}  // namespace easel
