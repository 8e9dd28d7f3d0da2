// The map of patterns: what a light makes of this face at every hour and height round it.
#pragma once

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

}  // namespace easel
