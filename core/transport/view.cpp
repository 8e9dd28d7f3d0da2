#include "transport/view.h"

namespace easel {

Vec3 View::direction(float px, float py) const {
  const float w = float(wholeWidth > 0 ? wholeWidth : width), h = float(whole());
  const float y = (1 - 2 * (py + float(top)) / h) * camera.tanHalfHeight;
  const float x = (2 * (px + float(left)) / w - 1) * camera.tanHalfHeight * w / h;
  return normalize(camera.frame.u * x + camera.frame.v * y - camera.frame.n);
}

std::optional<Vec2> View::place(Vec3 point) const {
  const Vec3 d = point - camera.eye;
  const float depth = -dot(d, camera.frame.n);
  if (!(depth >= 0.05f)) return {};
  const float scale = 1 / (pixelAt1m() * depth);
  return Vec2{float(wholeWidth > 0 ? wholeWidth : width) / 2 - float(left) + dot(d, camera.frame.u) * scale,
              float(whole()) / 2 - float(top) - dot(d, camera.frame.v) * scale};
}

}  // namespace easel
