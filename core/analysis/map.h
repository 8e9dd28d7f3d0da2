// The map of patterns: what a light makes of this face at every hour and height round it.
#pragma once

#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "analysis/pattern.h"

namespace easel {

/// The light turned round the face, to a place in degrees as the face sees it (FaceDirection), at `distance` from the
/// nose; its front looks at the face. In studio space, head pose included.
LightPose poseRoundFace(const PlacedSet& set, const Scene& scene, FaceDirection from, double distance);

struct PatternMap {
  double azimuthLeast = -100, azimuthMost = 100, elevationLeast = -20, elevationMost = 70;
  double step = 10;
  int columns = 0, rows = 0;            ///< rows from the highest elevation down
  std::vector<PatternAnalysis> places;  ///< row by row
  const PatternAnalysis& at(int column, int row) const {
    return places[size_t(row) * size_t(columns) + size_t(column)];
  }
};
/// A 10 cm lamp 1.5 m from the nose (hard, so that the borders are the face's own). About 3 ms a place.
PatternMap patternMap(const PlacedSet& set, const Scene& scene, double step = 10);

/// The map of a plan's own key: its front, at its distance from the nose all over the map, without boards. What lies
/// between is its own: hair, hat, glasses.
struct KeyMap {
  PatternMap map;
  std::string key;                     ///< letter
  double distance = 0;                 ///< front to the tip of the nose [m]
  std::vector<std::uint8_t> hasRoom;   ///< as map.places: whether the light can stand there
  std::shared_ptr<const Scene> scene;  ///< whose face it is
};
/// Empty without a key on a stand, and when it is not `wanted` any more. Some 3 ms a place: 0.7 s at ten degrees.
std::optional<KeyMap> keyMap(const std::shared_ptr<const Scene>& scene, const PlacedSet& set, double step,
                             const std::function<bool()>& wanted = {});
/// With half the step. Looks only where neighbours differ: between equals a place is what they are.
std::optional<KeyMap> finer(const KeyMap& coarse, const PlacedSet& set, const std::function<bool()>& wanted = {});

/// Whether a light that stands so keeps within walls, floor and ceiling and before the backdrop.
bool hasRoom(const PlacedSet& set, const Light& light);

/// Where the lens and the lights that burn are, as the face sees them.
struct SeenFromFace {
  FaceDirection lens;
  std::vector<std::pair<std::string, FaceDirection>> lights;  ///< letter and place
};
SeenFromFace seenFromFace(const Scene& scene, const Plan& plan);

/// Sitter, room, camera and backdrop of a plan, without lights and boards: no file of a pattern or a mesh is read, so
/// the interface may ask.
PlacedSet bareSet(const Plan& plan);

}  // namespace easel
