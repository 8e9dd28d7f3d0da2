#include "colour/lightness.h"

#include <algorithm>
#include <cmath>

#include "colour/colour.h"

namespace easel {

double lightness(double y) {
  constexpr double kKnee = 6.0 / 29;
  y = std::max(0.0, y);
  const double f = y > kKnee * kKnee * kKnee ? std::cbrt(y) : y / (3 * kKnee * kKnee) + 4.0 / 29;
  return 116 * f - 16;
}

}  // namespace easel
