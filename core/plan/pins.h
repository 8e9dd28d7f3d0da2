// Pins: places where the user holds the meter.
#pragma once

#include <vector>

#include "plan/parts.h"

namespace easel {

struct Plan;

/// A pin with an id and a name ("Pin 1", "Pin 2" ...) that none of these has.
PinnedSpot freePin(const std::vector<PinnedSpot>& spots);
/// A pin in the air over a place of the floor plan, at eye level, looking at the camera.
PinnedSpot pinInAir(const Plan& plan, double x, double z);

}  // namespace easel
