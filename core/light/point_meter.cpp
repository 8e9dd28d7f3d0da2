#include "light/point_meter.h"

namespace easel {
namespace {
// Relative response of the receptor for light at an angle: flat cosine, or the cardioid of a dome (ISO 2720).
float response(Receptor r, float cosine) { return r == Receptor::Flat ? std::max(0.f, cosine) : (1 + cosine) / 2; }
}  // namespace

double directLux(const Scene* scene, const Emitter& emitter, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                 std::uint32_t seed) {
  double sum = 0;
  for (int i = 0; i < samples; ++i) {
    const Emitter::Point e = emitter.sample(point, sobol2(std::uint32_t(i), seed));
    if (e.geometry <= 0) continue;
    const float r = response(receptor, dot(normal, e.direction));
    if (r <= 0) continue;
    if (scene && scene->occluded(point, e.direction, 1e-4f, e.distance * 0.9999f, hashPair(seed, std::uint32_t(i))))
      continue;
    sum += double(e.geometry * r);
  }
  return sum / samples;
}

double bouncedLux(const Scene& scene, const Emitter& emitter, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                  std::uint32_t seed) {
  double sum = 0;
  for (int i = 0; i < samples; ++i) {
    const Vec2 u = sobol2(std::uint32_t(i), seed ^ 0x5eedu);
    Vec3 d;
    float weight;  // response / density, with irradiance = integral of L * response
    if (receptor == Receptor::Flat) {
      d = cosineDirection(anyFrame(normal), u);
      weight = kPiF;
    } else {
      const float z = 1 - 2 * u.x, r = std::sqrt(std::max(0.f, 1 - z * z)), a = 2 * kPiF * u.y;
      d = anyFrame(normal).toWorld({r * std::cos(a), r * std::sin(a), z});
      weight = response(receptor, z) * 4 * kPiF;
    }
    const auto hit = scene.meet(point, d, hashPair(seed, std::uint32_t(i) + 5));
    if (!hit) continue;
    const Vec3 from = hit->position + hit->facet * 2e-4f;
    const Emitter::Point e = emitter.sample(from, sobol2(std::uint32_t(i), seed ^ 0xb0u));
    const float nl = dot(hit->normal, e.direction);
    if (e.geometry <= 0 || nl <= 0) continue;
    if (scene.occluded(from, e.direction, 1e-4f, e.distance * 0.9999f, hashPair(seed, std::uint32_t(i) + 9))) continue;
    sum += double(weight * luminance(hit->albedo) / kPiF * std::min(e.geometry * nl, 40.f));
  }
  return sum / samples;
}

}  // namespace easel
