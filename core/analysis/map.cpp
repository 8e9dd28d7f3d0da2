#include "analysis/map.h"

#include <algorithm>
#include <cmath>

#include "analysis/ways.h"
#include "gear/kit.h"
#include "plan/lamp.h"
#include "plan/placement.h"

namespace easel {

LightPose poseRoundFace(const PlacedSet& set, const Scene& scene, FaceDirection from, double distance) {
  const float a = radians(float(from.azimuth)), e = radians(float(from.elevation));
  const HeadPose pose{set.sitter.turn, set.sitter.tilt, set.sitter.nod};
  const Vec3 d = posedDirection({std::sin(a) * std::cos(e), std::sin(e), std::cos(a) * std::cos(e)}, 1, pose);
  LightPose p;
  p.centre = scene.studioPoint(scene.sitter().landmarks.noseTip) + d * float(distance);
  p.frame = Frame::facing(-d);
  return p;
}

PatternMap patternMap(const PlacedSet& set, const Scene& scene, double step) {
  PatternMap m;
  m.step = step;
  m.columns = int(std::lround((m.azimuthMost - m.azimuthLeast) / step)) + 1;
  m.rows = int(std::lround((m.elevationMost - m.elevationLeast) / step)) + 1;
  m.places.resize(size_t(m.columns) * size_t(m.rows));
  const auto chart = chartFace(scene, 0.003f);
  Modifier lamp;
  lamp.width = lamp.height = 0.1;
  for (int row = 0; row < m.rows; ++row)
    for (int col = 0; col < m.columns; ++col) {
      const FaceDirection from{m.azimuthLeast + step * col, m.elevationMost - step * row};
      const Source source(Emitter(lamp, poseRoundFace(set, scene, from, 1.5)), {});
      m.places[size_t(row) * size_t(m.columns) + size_t(col)] =
          readPattern(*chart, lightOnFace(scene, *chart, source, 8), from);
    }
  return m;
}

bool hasRoom(const PlacedSet& set, const Light& light) {
  const double x = light.distance * std::sin(light.hour * kPi / 6),
               z = -light.distance * std::cos(light.hour * kPi / 6);
  const Modifier* m = findModifier(light.modifier);
  const double half = m ? m->height / 2 : 0;
  return std::abs(x) < set.room.width / 2 && z < set.room.depth - set.room.behind &&
         z > -std::min(set.backdrop.distance, set.room.behind) && light.height + half < set.room.height + 0.05 &&
         light.height - half > -0.05;
}

namespace {

// Names a place of the map, of a light that looks at the face from there.
class MapMaker {
 public:
  MapMaker(const std::shared_ptr<const Scene>& scene, const PlacedSet& set, const PlacedLight& key, double distance)
      : scene_(*scene), set_(set), key_(key), distance_(distance), chart_(chartFace(*scene, 0.003f)) {}

  PatternAnalysis at(FaceDirection place) const {
    return patternFrom(scene_, set_, *chart_, key_.lamp->front, place, distance_);
  }
  bool roomAt(FaceDirection place) const {
    return easel::hasRoom(set_, lightAt(set_, scene_, key_.light, place, distance_));
  }

 private:
  const Scene& scene_;
  const PlacedSet& set_;
  const PlacedLight& key_;
  const double distance_;
  const std::shared_ptr<const FaceChart> chart_;
};

const PlacedLight* keyOnStand(const Scene& scene, const PlacedSet& set) {
  const PlacedLight* key = patternKey(scene, set);
  return key && !key->onLens ? key : nullptr;
}

KeyMap blank(const std::shared_ptr<const Scene>& scene, const std::string& key, double distance, double step) {
  KeyMap out;
  out.scene = scene;
  out.key = key;
  out.distance = distance;
  PatternMap& m = out.map;
  m.azimuthLeast = -110;
  m.azimuthMost = 110;
  m.step = step;
  m.columns = int(std::lround((m.azimuthMost - m.azimuthLeast) / step)) + 1;
  m.rows = int(std::lround((m.elevationMost - m.elevationLeast) / step)) + 1;
  m.places.resize(size_t(m.columns) * size_t(m.rows));
  out.hasRoom.resize(m.places.size());
  return out;
}

// `known` gives what needs no look; null: look.
bool fill(KeyMap& out, const MapMaker& maker, const std::function<bool()>& wanted,
          const std::function<const PatternAnalysis*(int column, int row)>& known) {
  PatternMap& m = out.map;
  for (int row = 0; row < m.rows; ++row) {
    if (wanted && !wanted()) return false;
    for (int col = 0; col < m.columns; ++col) {
      const size_t k = size_t(row) * size_t(m.columns) + size_t(col);
      const FaceDirection place{m.azimuthLeast + m.step * col, m.elevationMost - m.step * row};
      out.hasRoom[k] = maker.roomAt(place);
      const PatternAnalysis* as = known(col, row);
      m.places[k] = as ? *as : maker.at(place);
      m.places[k].light = place;
    }
  }
  return true;
}

bool alike(const PatternAnalysis& a, const PatternAnalysis& b) { return a.pattern == b.pattern && a.next == b.next; }

}  // namespace

std::optional<KeyMap> keyMap(const std::shared_ptr<const Scene>& scene, const PlacedSet& set, double step,
                             const std::function<bool()>& wanted) {
  const PlacedLight* key = keyOnStand(*scene, set);
  if (!key) return {};
  const double distance = double(length(key->pose.centre - scene->studioPoint(scene->sitter().landmarks.noseTip)));
  KeyMap out = blank(scene, key->light.id, distance, step);
  if (!fill(out, MapMaker(scene, set, *key, distance), wanted, [](int, int) { return nullptr; })) return {};
  return out;
}

std::optional<KeyMap> finer(const KeyMap& coarse, const PlacedSet& set, const std::function<bool()>& wanted) {
  const PlacedLight* key = keyOnStand(*coarse.scene, set);
  if (!key || key->light.id != coarse.key) return {};
  const PatternMap& from = coarse.map;
  KeyMap out = blank(coarse.scene, coarse.key, coarse.distance, from.step / 2);
  const auto known = [&](int col, int row) -> const PatternAnalysis* {
    const int left = col / 2, top = row / 2, right = (col + 1) / 2, bottom = (row + 1) / 2;
    const PatternAnalysis& a = from.at(left, top);
    const bool same =
        alike(a, from.at(right, top)) && alike(a, from.at(left, bottom)) && alike(a, from.at(right, bottom));
    return same ? &a : nullptr;
  };
  if (!fill(out, MapMaker(coarse.scene, set, *key, coarse.distance), wanted, known)) return {};
  return out;
}

PlacedSet bareSet(const Plan& plan) {
  Plan bare = plan;
  bare.lights.clear();
  bare.panels.clear();
  return placedSetOf(bare);
}

SeenFromFace seenFromFace(const Scene& scene, const Plan& plan) {
  const PlacedSet set = bareSet(plan);
  SeenFromFace out;
  out.lens = directionFromFace(set, scene, set.cameraPose.eye);
  for (const Light& l : plan.lights)
    if (burns(l) && !onLens(l)) out.lights.emplace_back(l.id, directionFromFace(set, scene, lightPose(plan, l).centre));
  return out;
}

}  // namespace easel
