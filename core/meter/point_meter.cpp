#include "meter/point_meter.h"

#include "transport/rays.h"

namespace easel {

MeterPlace beforeTheNose(const Scene& scene) {
  const Vec3 tip = scene.sitter().landmarks.noseTip, nose = scene.studioPoint(tip);
  const Vec3 out = normalize(scene.studioPoint(tip + Vec3{0, 0, 1}) - nose);
  return {nose + out * 0.04f, out};
}
Vec3 onTheBackdrop(const PlacedSet& set) {
  return {0, float(set.sitter.eyeHeight - 0.05), -float(set.backdrop.distance) + 2e-3f};
}
std::array<Vec3, 2> besideTheHead(const PlacedSet& set) {
  const Vec3 eye = set.cameraPose.eye, middle = onTheBackdrop(set);
  // A hand's breadth past the widest hair.
  constexpr float kBeside = 0.21f;
  const float behind = -middle.z, before = std::max(0.2f, eye.z);
  const float at = std::min(kBeside * (before + behind) / before, float(set.backdrop.width) / 2 - 0.03f);
  // The ray that passes the head at the height of the eyes, or what is left of the cloth.
  const float y = std::clamp(eye.y + (middle.y - eye.y) * (before + behind) / before, 0.05f,
                             std::max(0.06f, float(set.backdrop.height) - 0.05f));
  return {Vec3{at, y, middle.z}, Vec3{-at, y, middle.z}};
}
namespace {
constexpr float kClear = 1e-4f;  // metres: rays leave the point
// Relative response of the receptor for light at an angle: flat cosine, or the cardioid of a dome (ISO 2720).
float response(Receptor r, float cosine) { return r == Receptor::Flat ? std::max(0.f, cosine) : (1 + cosine) / 2; }
}  // namespace

double directLux(const Scene* scene, const Emitter& emitter, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                 std::uint32_t seed) {
  double sum = 0;
  Run3 at, direction;
  Run2 u;
  alignas(64) Plane distance, geometry;
  RunOf32 index, seeds;
  Rays rays;
  at.x.fill(point.x);
  at.y.fill(point.y);
  at.z.fill(point.z);
  seeds.fill(seed);
  for (int first = 0; first < samples; first += kRun) {
    const int n = std::min(kRun, samples - first);
    for (int i = 0; i < n; ++i) index[size_t(i)] = std::uint32_t(first + i);
    sobolRun(n, index, seeds, 0, u);
    emitter.sampleRun(n, at, u, direction, distance, geometry);
    rays.n = 0;
    for (int i = 0; i < n; ++i) {
      const auto k = size_t(i);
      geometry[k] = geometry[k] > 0 ? geometry[k] * response(receptor, dot(normal, direction[i])) : 0;
      if (geometry[k] <= 0) continue;
      rays.add(i, point + direction[i] * kClear, direction[i], distance[k] * 0.9999f - kClear,
               hashPair(seed, index[k]));
    }
    if (scene)
      scene->occluded(rays);
    else
      rays.transmittance.fill(1);
    for (size_t r = 0; r < size_t(rays.n); ++r) sum += double(geometry[size_t(rays.of[r])] * rays.transmittance[r]);
  }
  return sum / samples;
}

double panelLux(const Scene& scene, const Source& source, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                int only, std::uint32_t seed) {
  if (!source.feedsPanels()) return 0;
  if (source.betweenScrims()) samples *= 4;
  const auto& leaves = source.leaves();
  float wanted = 0;
  for (size_t k = 0; k < leaves.size(); ++k)
    if (only < 0 || leaves[k].panel == only) wanted += source.shareOf(k);
  if (wanted <= 0) return 0;
  // A number for each leaf, by what it can pass on and never few: none is a matter of luck.
  double sum = 0;
  for (size_t k = 0; k < leaves.size(); ++k) {
    if (only >= 0 && leaves[k].panel != only) continue;
    const int n = std::max(8, int(std::lround(float(samples) * source.shareOf(k) / wanted)));
    const std::uint32_t own = hashPair(seed ^ 0x9a7eu, std::uint32_t(k));
    double leaf = 0;
    for (int i = 0; i < n; ++i) {
      const auto p = source.sampleLeaf(&scene, point, k, std::uint32_t(i), own);
      const float r = response(receptor, dot(normal, p.direction));
      if (r <= 0 || maxOf(p.lux) <= 0) continue;
      if (scene.occluded(point, p.direction, 1e-4f, p.distance * 0.9999f, hashPair(own, std::uint32_t(i) + 3)))
        continue;
      leaf += double(luminance(p.lux) * r);
    }
    sum += leaf / n;
  }
  return sum;
}

namespace {
// Density per solid angle of directions to the room: cosine for the flat receptor, even for the dome.
float directionPdf(Receptor r, float cosine) {
  return r == Receptor::Flat ? std::max(0.f, cosine) / kPiF : 1 / (4 * kPiF);
}
}  // namespace

BouncePoints bouncePoints(const Scene& scene, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                          std::uint32_t seed) {
  BouncePoints out{point, normal, receptor, samples, {}};
  out.points.reserve(size_t(samples));
  for (int i = 0; i < samples; ++i) {
    const Vec2 u = sobol2(std::uint32_t(i), seed ^ 0x5eedu);
    Vec3 d;
    float weight;  // response / pdf, with irradiance = integral of L * response
    if (receptor == Receptor::Flat) {
      d = cosineDirection(anyFrame(normal), u);
      weight = kPiF;
    } else {
      const float z = 1 - 2 * u.x, r = std::sqrt(std::max(0.f, 1 - z * z)), a = 2 * kPiF * u.y;
      d = anyFrame(normal).toWorld({r * std::cos(a), r * std::sin(a), z});
      weight = response(receptor, z) * 4 * kPiF;
    }
    const auto hit = scene.intersect(point, d, hashPair(seed, std::uint32_t(i) + 5));
    if (!hit) continue;
    const float pdf = float(samples) * directionPdf(receptor, dot(normal, d)) * std::abs(dot(hit->normal, d)) /
                      std::max(1e-8f, hit->distance * hit->distance);
    out.points.push_back({hit->position + hit->facet * 2e-4f, hit->normal,
                          hit->albedo * (weight / (kPiF * float(samples))), pdf, hit->side, sampledByArea(hit->surface),
                          std::uint32_t(i)});
  }
  return out;
}

double bouncedLux(const Scene& scene, const Source& source, const BouncePoints& points, std::uint32_t seed,
                  LampShare share) {
  constexpr int kFromLamp = 256;
  const Emitter& lamp = source.emitter();
  const IndirectLight* room = source.indirect();
  const int sent = room ? std::min(kFromLamp, room->rays()) : 0;
  const auto lampRays = float((sent - share.part + share.of - 1) / share.of);
  double sum = 0;
  for (const BouncePoint& b : points.points) {
    if (room) sum += double(luminance(b.passed * room->further(b.side, b.from)));
    if (b.panel) continue;  // sampled as an emitter of its own
    const Emitter::Point e = lamp.sample(b.from, sobol2(b.index, seed ^ 0xb0u));
    if (const float nl = dot(b.normal, e.direction); e.geometry > 0 && nl > 0)
      if (!scene.occluded(b.from, e.direction, 1e-4f, e.distance * 0.9999f, hashPair(seed, b.index + 9))) {
        // Both ways to find the first surface, each weighted by its pdf (balance heuristic).
        const float weight = room ? b.pdf / (b.pdf + lampRays * room->lamp().pdf(b.from, b.normal)) : 1;
        sum += double(luminance(b.passed) * e.geometry * nl * weight);
      }
    if (!source.feedsPanels()) continue;
    const auto p = source.sample(&scene, b.from, b.index, seed ^ 0x6a09u);
    if (const float nl = dot(b.normal, p.direction); nl > 0 && maxOf(p.lux) > 0)
      if (!scene.occluded(b.from, p.direction, 1e-4f, p.distance * 0.9999f, hashPair(seed, b.index + 13)))
        sum += double(luminance(b.passed * p.lux) * nl);
  }
  if (!room) return sum;
  for (const VirtualLight& l : room->virtualLights()) {
    if (int(l.ray) >= sent) break;
    if (int(l.ray) % share.of != share.part) continue;
    const Vec3 d = l.position - points.at;
    const float d2 = dot(d, d), distance = std::sqrt(d2);
    if (d2 < 1e-8f) continue;
    const Vec3 to = d / distance;
    const float r = response(points.receptor, dot(points.normal, to)), away = -dot(l.normal, to);
    if (r <= 0 || away <= 0) continue;
    const float lamps = lampRays * l.pdf,
                ours = float(points.samples) * directionPdf(points.receptor, dot(points.normal, to)) * away / d2;
    const float lux = l.flux / lampRays * luminance(l.albedo) / kPiF * r * away / d2 * lamps / (lamps + ours);
    if (lux <= 0 || scene.occluded(points.at, to, 1e-4f, distance * 0.9999f, hashPair(seed, std::uint32_t(l.ray) + 17)))
      continue;
    sum += double(lux);
  }
  return sum;
}

double bouncedLux(const Scene& scene, const Source& source, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                  std::uint32_t seed) {
  return bouncedLux(scene, source, bouncePoints(scene, point, normal, receptor, samples, seed), seed);
}

LightPaths meteredPaths(const Scene& scene, const Source& source, const BouncePoints& hold, int direct,
                        std::uint32_t seed, LampShare share) {
  return {directLux(&scene, source.emitter(), hold.at, hold.normal, hold.receptor, direct, seed),
          panelLux(scene, source, hold.at, hold.normal, hold.receptor, direct * 2, -1, seed),
          bouncedLux(scene, source, hold, seed, share)};
}

double meteredLux(const Scene& scene, const Source& source, const BouncePoints& hold, int direct, std::uint32_t seed,
                  LampShare share) {
  return meteredPaths(scene, source, hold, direct, seed, share).total();
}

double meteredLux(const Scene& scene, const Source& source, Vec3 point, Vec3 normal, Receptor receptor, int direct,
                  int bounced, std::uint32_t seed) {
  return meteredLux(scene, source, bouncePoints(scene, point, normal, receptor, bounced, seed), direct, seed);
}

}  // namespace easel
