#include "transport/view.h"

namespace easel {

Vec3 View::direction(float px, float py) const {
  const float w = float(wholeWidth > 0 ? wholeWidth : width), h = float(whole());
  const float y = (1 - 2 * (py + float(top)) / h) * camera.tanHalfHeight;
  const float x = (2 * (px + float(left)) / w - 1) * camera.tanHalfHeight * w / h;
  return normalize(camera.frame.u * x + camera.frame.v * y - camera.frame.n);
}

std::optional<Vec2> View::place(Vec3 point) const {
  const float w = float(wholeWidth > 0 ? wholeWidth : width), h = float(whole());
  const auto at = inPicture(camera, double(w / h), point);
  if (!at) return {};
  return Vec2{(1 + at->x) * w / 2 - float(left), (1 - at->y) * h / 2 - float(top)};
}

}  // namespace easel
