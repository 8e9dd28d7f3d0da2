#include "transport/view.h"

namespace easel {

Vec3 View::direction(float px, float py) const {
  const float y = (1 - 2 * py / float(height)) * camera.tanHalfHeight;
  const float x = (2 * px / float(width) - 1) * camera.tanHalfHeight * float(width) / float(height);
  return normalize(camera.frame.u * x + camera.frame.v * y - camera.frame.n);
}

}  // namespace easel
