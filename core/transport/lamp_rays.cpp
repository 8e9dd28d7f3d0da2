#include "transport/lamp_rays.h"

#include <algorithm>
#include <cmath>

namespace easel {
namespace {
// Rings of equal angle about the axis: the cosine of their inner edge.
float edge(int ring) { return std::cos(kPiF / 2 * float(ring) / float(kRings)); }
}  // namespace

// Rings are chosen by the flux that leaves into them, with a little for all: a slide may be dark where it is asked.
LampRays::LampRays(const Emitter& e) : emitter_(e) {
  if (e.ball()) return;
  const Frame& frame = e.pose().frame;
  table_.axis = frame.n;
  table_.backwards = e.back() > 0 ? std::clamp(e.back() * kPiF * e.area() / e.flux(), 0.f, 1.f) : 0;
  table_.nearest2 = 0.01f * e.area();
  float sum = 0;
  for (int k = 0; k < kRings; ++k) {
    const float c = (edge(k) + edge(k + 1)) / 2, s = std::sqrt(1 - c * c);
    float given = 0;
    constexpr std::uint32_t n = 32;
    for (std::uint32_t i = 0; i < n; ++i) {
      const float a = 2 * kPiF * (float(i) + 0.5f) / float(n);
      const Vec3 d = frame.toWorld({s * std::cos(a), s * std::sin(a), c});
      given += e.luminance(e.onOutline(sobol2(i, 0xe317u + std::uint32_t(k))), d) * c / float(n);
    }
    const bool open = e.cutCosine() <= 0 || edge(k) > e.cutCosine();
    upTo_[size_t(k)] = sum += open ? (edge(k) - edge(k + 1)) * (given + 0.02f * e.peak() * c) : 0.f;
  }
  for (float& r : upTo_) r /= sum;
  for (int k = 0; k < kRings; ++k) {
    const float share = upTo_[size_t(k)] - (k ? upTo_[size_t(k - 1)] : 0);
    table_.ring[size_t(k)] = (1 - table_.backwards) * share / (2 * kPiF * (edge(k) - edge(k + 1)));
  }
  constexpr Vec2 kPlaces[4] = {{0.125f, 0.375f}, {0.375f, 0.875f}, {0.625f, 0.125f}, {0.875f, 0.625f}};
  for (size_t k = 0; k < 4; ++k) table_.places[k] = e.onFront(kPlaces[k]);
}

float LampRays::directionPdf(float cosine) const {
  if (cosine <= 0) return table_.backwards * -cosine / kPiF;
  const int k = std::min(kRings - 1, int(std::acos(std::min(1.f, cosine)) / (kPiF / 2) * kRings));
  return table_.ring[size_t(k)];
}

LampRays::Ray LampRays::sample(Vec2 place, Vec2 direction) const {
  const LightPose& pose = emitter_.pose();
  if (emitter_.ball()) {
    const float z = 1 - 2 * place.x, r = std::sqrt(std::max(0.f, 1 - z * z)), a = 2 * kPiF * place.y;
    const Vec3 out{r * std::cos(a), z, r * std::sin(a)};
    const Vec3 d = cosineDirection(anyFrame(out), direction);
    return {pose.centre + out * emitter_.halfWidth(), d, emitter_.luminance({}, d) * kPiF * emitter_.area()};
  }
  const Vec2 p = emitter_.onOutline(place);
  const float backwards = table_.backwards;
  Ray l;
  l.origin = pose.centre + pose.frame.u * p.x + pose.frame.v * p.y;
  if (direction.x < backwards) {
    const Frame behind{pose.frame.v, pose.frame.u, -pose.frame.n};
    l.direction = cosineDirection(behind, {direction.x / backwards, direction.y});
  } else {
    const float u = std::min(0.99999f, (direction.x - backwards) / (1 - backwards));
    const auto k =
        std::min(size_t(std::upper_bound(upTo_.begin(), upTo_.end(), u) - upTo_.begin()), size_t(kRings - 1));
    const float before = k ? upTo_[k - 1] : 0, within = (u - before) / std::max(1e-12f, upTo_[k] - before);
    const float c = std::max(1e-4f, std::lerp(edge(int(k)), edge(int(k) + 1), within));
    const float s = std::sqrt(std::max(0.f, 1 - c * c)), a = 2 * kPiF * direction.y;
    l.direction = pose.frame.toWorld({s * std::cos(a), s * std::sin(a), c});
  }
  const float cosine = dot(l.direction, pose.frame.n), often = directionPdf(cosine);
  l.flux = often > 0 ? emitter_.luminance(p, l.direction) * std::abs(cosine) * emitter_.area() / often : 0;
  return l;
}

float LampRays::pdf(Vec3 point, Vec3 normal) const {
  const LightPose& pose = emitter_.pose();
  if (emitter_.ball()) {
    const Vec3 d = point - pose.centre;
    const float d2 = std::max(emitter_.halfWidth() * emitter_.halfWidth(), dot(d, d));
    return std::abs(dot(normal, d)) / (std::sqrt(d2) * 4 * kPiF * d2);
  }
  float sum = 0;
  for (const Vec3& place : table_.places) {
    const Vec3 d = point - place;
    // No nearer than a tenth of the front is wide: four places stand for all of it.
    const float d2 = std::max(dot(d, d), table_.nearest2), distance = std::sqrt(d2);
    sum += directionPdf(dot(d, pose.frame.n) / distance) * std::abs(dot(normal, d)) / (distance * d2);
  }
  return sum / float(table_.places.size());
}

void LampRays::pdfRun(int n, const Run3& point, const Run3& normal, Plane& out) const {
  if (!emitter_.ball()) return pdfOfLampRays(table_, n, point, normal, out);
  for (int i = 0; i < n; ++i) out[size_t(i)] = pdf(point[i], normal[i]);
}

}  // namespace easel
