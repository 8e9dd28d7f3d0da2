#include "analysis/face.h"

#include <algorithm>
#include <cmath>

#include "meter/point_meter.h"
#include "threads/parallel.h"
#include "transport/rays.h"
#include "transport/shared.h"

namespace easel {
namespace {

constexpr float kClear = 1e-4f;  // metres: rays leave the skin
constexpr float kFrom = 0.4f;    // rays start this far in front of the neck's axis

struct Probe {
  const Scene& scene;
  Vec3 back;  // from in front of the face towards it, studio

  explicit Probe(const Scene& s) : scene(s) {
    const Vec3 o = s.studioPoint({0, 0, 0});
    back = normalize(o - s.studioPoint({0, 0, 1}));
  }
  std::optional<SurfacePoint> at(float x, float y) const {
    return scene.intersect(scene.studioPoint({x, y, kFrom}), back, 1, 0.999f);
  }
  std::optional<SurfacePoint> bare(float x, float y) const {
    return scene.intersect(scene.studioPoint({x, y, kFrom}), back, 1, 0.999f, Colours::None);
  }
  /// Local depth z where skin (or what else stands for it) is met; far behind when nothing is.
  float depth(float x, float y) const {
    const auto hit = bare(x, y);
    return hit && ofSitter(hit->surface) ? kFrom - hit->distance : -1.f;
  }
  bool eye(float x, float y) const {
    const auto hit = bare(x, y);
    return hit && (hit->surface == Surface::Eye || hit->surface == Surface::Lash);
  }
};

}  // namespace

FaceFeatures measureFace(const Scene& scene) {
  const Landmarks& m = scene.sitter().landmarks;
  const Probe probe(scene);
  FaceFeatures f;
  constexpr float kFine = 0.0005f;
  // The profile: tip, then the hollow under it, then the hollow between the eyes.
  f.noseTip = m.noseTip;
  for (float y = m.noseTip.y - 0.012f; y < m.noseTip.y + 0.012f; y += kFine)
    if (const float z = probe.depth(0, y); z > f.noseTip.z) f.noseTip = {0, y, z};
  // Down from the tip: the hollow over the lip, the upper lip, the mouth, and where the chin falls away.
  constexpr float kBack = 0.0004f;  // what counts as turning back
  auto turn = [&](float y, float sign) {
    float best = sign * probe.depth(0, y), at = y;
    for (const float end = y - 0.045f; y > end; y -= kFine) {
      const float z = sign * probe.depth(0, y);
      if (z < best) {
        best = z;
        at = y;
      } else if (z > best + kBack) {
        break;
      }
    }
    return at;
  };
  const float base = turn(f.noseTip.y - 0.006f, 1);
  f.noseBase = {0, base, probe.depth(0, base)};
  const float lip = turn(base, -1);
  f.mouthLine = turn(lip, 1);
  const float mouth = probe.depth(0, f.mouthLine);
  f.chinLine = m.chin.y;
  for (float y = f.mouthLine - 0.015f; y > f.mouthLine - 0.08f; y -= kFine)
    if (probe.depth(0, y) < mouth - 0.018f) {
      f.chinLine = y;
      break;
    }
  f.eyeLine = (m.eyeLeft.y + m.eyeRight.y) / 2;
  float bridge = f.eyeLine, least = 1;
  for (float y = f.eyeLine - 0.008f; y < f.eyeLine + 0.022f; y += kFine)
    if (const float z = probe.depth(0, y); z > 0 && z < least) {
      least = z;
      bridge = y;
    }
  f.noseLength = std::max(0.025f, bridge - f.noseBase.y);
  // The wing: where the depth falls most steeply beside the tip.
  float steepest = 0;
  for (float x = 0.010f; x < 0.026f; x += kFine) {
    const float fall = probe.depth(x, f.noseTip.y) - probe.depth(x + 0.002f, f.noseTip.y);
    if (fall > steepest) {
      steepest = fall;
      f.noseHalfWidth = x + 0.002f;
    }
  }
  // Eyes: as open as the lids leave them.
  float width = 0, lower = 0;
  for (const Vec3 e : {m.eyeLeft, m.eyeRight}) {
    float l = 0, r = 0, d = 0;
    for (float y : {e.y, e.y - 0.002f, e.y - 0.004f}) {
      float from = 1, to = -1;
      for (float x = e.x - 0.025f; x < e.x + 0.025f; x += kFine)
        if (probe.eye(x, y)) {
          from = std::min(from, x);
          to = std::max(to, x);
        }
      if (to - from > r - l) {
        l = from;
        r = to;
      }
    }
    width += std::max(0.f, r - l) / 2;
    for (float y = e.y; y > e.y - 0.02f; y -= kFine)
      if (probe.eye(e.x, y)) d = e.y - y;
    lower += d / 2;
  }
  if (width > 0.015f && width < 0.045f) f.eyeWidth = width;
  f.lidLine = f.eyeLine - lower - 0.004f;
  f.browLine = f.eyeLine + 0.022f;
  float half = 0;
  for (int side : {1, -1})
    for (float x = 0.04f; x < 0.09f; x += kFine) {
      const auto hit = probe.at(x * float(side), f.noseTip.y);
      if (!hit || hit->surface != Surface::Skin || -dot(hit->normal, probe.back) < 0.35f) {
        half += x / 2;
        break;
      }
    }
  if (half > 0.045f) f.halfWidth = half;
  return f;
}

namespace {

FaceChart chartAnew(const Scene& scene, float step) {
  FaceChart c;
  c.features = measureFace(scene);
  c.step = step;
  const float bottom = c.features.chinLine - 0.02f;
  c.left = -0.08f;
  c.top = c.features.eyeLine + 0.085f;
  c.width = int(0.16f / step) + 1;
  c.height = int((c.top - bottom) / step) + 1;
  c.cells.resize(size_t(c.width) * size_t(c.height));
  const Probe probe(scene);
  inParallel(size_t(c.height), [&](size_t at) {
    const int j = int(at);
    for (int i = 0; i < c.width; ++i) {
      const auto hit = probe.at(c.x(i), c.y(j));
      // What lies far behind the face (neck, shoulder, backdrop) is none of it.
      if (!hit || !ofHead(hit->surface) || kFrom - hit->distance < -0.01f) continue;
      c.cells[c.index(i, j)] = {hit->position + hit->facet * 5e-4f, hit->normal, hit->surface};
    }
  });
  for (size_t k = 0; k < c.cells.size(); ++k)
    if (c.skin(k)) c.skins.push_back(std::uint32_t(k));
  return c;
}

}  // namespace

// Readings, ways and searches ask for a few charts of one scene again and again.
std::shared_ptr<const FaceChart> chartFace(const Scene& scene, float step) {
  static Shared<std::pair<std::uint64_t, float>, FaceChart> all(2e7);
  return all.get({scene.serial(), step}, [&] { return std::make_shared<const FaceChart>(chartAnew(scene, step)); });
}

LightOnFace lightOnFace(const Scene& scene, const FaceChart& chart, const Source& source, int samples) {
  LightOnFace light;
  light.arrives.assign(chart.cells.size(), 0);
  light.open.assign(chart.cells.size(), 0);
  // Flags and scrims make the light what it is: only what the sitter keeps from it is a shadow of the face.
  const bool panels = source.feedsPanels(), standing = scene.hasPanels();
  std::vector<Source::PanelPoint> panelPoints;
  for (int k = 0; panels && k < samples; ++k) panelPoints.push_back(source.panelPoint(&scene, std::uint32_t(k), 7));
  inParallel((chart.skins.size() + kRun - 1) / kRun, [&](size_t at) {
    const size_t first = at * kRun;
    const int n = int(std::min(size_t(kRun), chart.skins.size() - first));
    Run3 position, direction;
    Run2 u;
    alignas(64) Plane distance, geometry, cosine;
    std::array<float, kRun> arrives{}, open{};
    Rays rays;
    for (int i = 0; i < n; ++i) position.set(i, chart.cells[chart.skins[first + size_t(i)]].position);
    // The same points for every cell: neighbours differ by what stands between, not by chance.
    for (int s = 0; s < samples; ++s) {
      const auto index = std::uint32_t(s);
      const Vec2 place = sobol2(index, 7);
      u.x.fill(place.x);
      u.y.fill(place.y);
      source.emitter().sampleRun(n, position, u, direction, distance, geometry);
      rays.n = 0;
      for (int i = 0; i < n; ++i) {
        const auto k = size_t(i);
        cosine[k] = dot(chart.cells[chart.skins[first + k]].normal, direction[i]);
        if (geometry[k] > 0 && cosine[k] > 0)
          rays.add(i, position[i] + direction[i] * kClear, direction[i], distance[k] * 0.9999f - kClear, index);
      }
      scene.occluded(rays);
      for (size_t r = 0; r < size_t(rays.n); ++r) {
        const auto k = size_t(rays.of[r]);
        const float lux = geometry[k] * cosine[k];
        if (rays.transmittance[r] > 0) {
          arrives[k] += lux * rays.transmittance[r];
          open[k] += lux * rays.transmittance[r];
        } else if (const auto hit = standing
                                        ? scene.intersect(position[int(k)], rays.direction[r], index, -1, Colours::None)
                                        : std::nullopt;
                   !hit || !putUp(hit->surface)) {
          open[k] += lux;
        }
      }
      if (!panels) continue;
      rays.n = 0;
      for (int i = 0; i < n; ++i) {
        const auto k = size_t(i);
        const auto p = Source::seenFrom(panelPoints[size_t(s)], position[i]);
        geometry[k] = luminance(p.lux) * dot(chart.cells[chart.skins[first + k]].normal, p.direction);
        if (geometry[k] <= 0) continue;
        open[k] += geometry[k];
        rays.add(i, position[i] + p.direction * kClear, p.direction, p.distance * 0.9999f - kClear, index);
      }
      scene.occluded(rays);
      for (size_t r = 0; r < size_t(rays.n); ++r)
        arrives[size_t(rays.of[r])] += geometry[size_t(rays.of[r])] * rays.transmittance[r];
    }
    for (size_t i = 0; i < size_t(n); ++i) {
      light.arrives[chart.skins[first + i]] = arrives[i] / float(samples);
      light.open[chart.skins[first + i]] = open[i] / float(samples);
    }
  });
  std::vector<float> sorted;
  sorted.reserve(chart.skins.size());
  for (const std::uint32_t k : chart.skins) sorted.push_back(light.arrives[k]);
  if (!sorted.empty()) {
    const auto at = sorted.begin() + long(sorted.size() * 9 / 10);
    std::nth_element(sorted.begin(), at, sorted.end());
    light.reference = *at;
  }
  // From behind hardly any skin has light: then what the light would give says how little that is.
  const Vec3 nose = scene.studioPoint(chart.features.noseTip);
  light.reference = std::max(light.reference, 0.2f * float(directLux(nullptr, source.emitter(), nose,
                                                                     normalize(source.emitter().pose().centre - nose),
                                                                     Receptor::Flat, samples)));
  return light;
}

FaceDirection directionFromFace(const PlacedSet& set, const Scene& scene, Vec3 point) {
  const Vec3 face = scene.studioPoint(scene.sitter().landmarks.noseTip);
  const Vec3 d = unposedDirection(normalize(point - face), 1, {set.sitter.turn, set.sitter.tilt, set.sitter.nod});
  return {double(degrees(std::atan2(d.x, d.z))), double(degrees(std::asin(std::clamp(d.y, -1.f, 1.f))))};
}

}  // namespace easel
