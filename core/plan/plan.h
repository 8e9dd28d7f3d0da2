// The plan: a studio, a sitter, a camera and the lights, as a photographer would write them down. Its parts and their
// units: plan/parts.h. What light, meter and picture compute from is the placed set (placed/placed_set.h).
#pragma once

#include <string>
#include <vector>

#include "plan/parts.h"

namespace easel {

struct Plan {
  std::string title = "Untitled";
  std::string notes;
  Room room;
  SitterPlace sitter;
  Camera camera;
  Backdrop backdrop;
  Ambient ambient;
  Receptor receptor = Receptor::Flat;   ///< the user's metering school for single lights
  MeterAim meterAim = MeterAim::Light;  ///< flat goes with the light, dome with the camera; both can be had
  std::vector<PinnedSpot> spots;
  std::vector<Panel> panels;
  double haze = 0;  ///< extinction of smoke or haze in the air [1/m], 0 clear .. 0.5
  std::vector<Light> lights;
  std::vector<std::string> wanted;  ///< faults that are meant to be so ("I want this"): ids of analysis/faults.h
  std::string extra;

  const Panel* panel(const std::string& id) const;
  const Light* light(const std::string& id) const;
  Light* light(const std::string& id);
  /// The first key, on or off; nullptr when there is none.
  const Light* key() const;
  bool operator==(const Plan&) const = default;
};

}  // namespace easel
