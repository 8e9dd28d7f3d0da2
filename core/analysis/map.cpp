#include "analysis/map.h"

#include "gear/kit.h"

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

}  // namespace easel
