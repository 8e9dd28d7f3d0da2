#include "sitters/distance_field.h"

namespace easel {

DistanceField::Near DistanceField::about(Vec3 p) const {
  if (values.empty()) return {};
  const Vec3 q = (p - low) / cell;
  const float fx = std::floor(q.x), fy = std::floor(q.y), fz = std::floor(q.z);
  if (!(fx >= 0 && fy >= 0 && fz >= 0 && fx + 1 < float(nx) && fy + 1 < float(ny) && fz + 1 < float(nz))) return {};
  const float tx = q.x - fx, ty = q.y - fy, tz = q.z - fz;
  const auto across = size_t(nx), slice = size_t(nx) * size_t(ny);
  const std::int8_t* v = &values[size_t(fz) * slice + size_t(fy) * across + size_t(fx)];
  auto row = [&](size_t at) { return float(v[at]) * (1 - tx) + float(v[at + 1]) * tx; };
  const float rows[] = {row(0), row(across), row(slice), row(slice + across)};
  const float near = rows[0] * (1 - ty) + rows[1] * ty, far = rows[2] * (1 - ty) + rows[3] * ty;
  auto step = [&](size_t at) { return float(v[at + 1]) - float(v[at]); };
  const Vec3 slope{
      (step(0) * (1 - ty) + step(across) * ty) * (1 - tz) + (step(slice) * (1 - ty) + step(slice + across) * ty) * tz,
      (rows[1] - rows[0]) * (1 - tz) + (rows[3] - rows[2]) * tz, far - near};
  return {(near * (1 - tz) + far * tz) * kStep, normalize(slope)};
}

}  // namespace easel
