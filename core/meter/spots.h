// Meter spots: where a photographer holds the meter, and the table of every light at every spot.
//
// First the hold by which the camera is set (heldAsCameraIsSet()), the same figures as Answers::face. On the sitter the
// receptor is flat and looks out of the skin; on hair and beards the reading is the mean over a patch of strands; on
// the backdrop it looks at the camera; pins are flat or dome. Each light alone, at its present power, in lux-seconds;
// stops are against the target aperture with the constant of the receptor.
#pragma once

#include <string>
#include <vector>

#include "meter/point_meter.h"
#include "placed/placed_set.h"
#include "transport/interrupt.h"
#include "transport/scene.h"

namespace easel {

struct MeterSpot {
  std::string id, name;   ///< "cheek-left", "Left cheek" (the sitter's)
  Vec3 position, normal;  ///< studio space, 1 cm off the surface
  Receptor receptor = Receptor::Flat;
  bool held = false;  ///< as the camera is set, before the nose
  bool pin = false;
  std::vector<MeterPlace> patch = {};  ///< on hair: the reading is the mean of these, `position` their middle

  /// All places that the reading is the mean of.
  std::vector<MeterPlace> places() const { return patch.empty() ? std::vector<MeterPlace>{{position, normal}} : patch; }
  double aperture(double luxSeconds, const Camera& camera) const;
  /// Against the target aperture; -infinity without light.
  double stops(double luxSeconds, const Camera& camera) const;
};
std::vector<MeterSpot> meterSpots(const Scene& scene, const PlacedSet& set);

/// A pin where a ray hit the scene, named "Pin 1", "Pin 2" ...; on the head it will turn with it.
PinnedSpot pinAt(const Scene& scene, const PlacedSet& set, const SurfacePoint& point);

struct SpotTable {
  std::vector<MeterSpot> spots;
  std::vector<std::string> lights;              ///< letters, in plan order, and "ambient" last
  std::vector<std::vector<double>> luxSeconds;  ///< [spot][light]; lights that are off read as if on
  std::vector<double> together;                 ///< [spot] everything that is on
  /// [spot] standard error of `together` by the sampling, stops, from independent batches; 0 for the first row.
  std::vector<double> error;
};
/// On all cores. A raised interrupt ends it within one light at one spot; then the table has no spots.
SpotTable spotTable(const Scene& scene, const PlacedSet& set, const Interrupt& interrupt = {});

/// RFC 4180 CSV: spot, then for each light lux-seconds, f-number and stops from working, then all together. Described
/// in docs/formats/readings-csv.md.
std::string writeSpotCsv(const SpotTable& table, const Camera& camera);

}  // namespace easel
