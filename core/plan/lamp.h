// What leaves a light of the plan: luminous energy, colour and front, with everything that is on it.
#pragma once

#include "gear/fittings.h"
#include "plan/plan.h"

namespace easel {

/// lm s through gel and ND at `power` (stops below full); 0 when the unit is unknown. Flash gives it in an instant,
/// continuous light over `shutterSeconds`.
double lampEnergy(const Light& light, double power, double shutterSeconds);
inline double lampEnergy(const Light& light, double shutterSeconds) {
  return lampEnergy(light, light.power, shutterSeconds);
}
/// Colour temperature that the head is set to: the unit's own, or within its range what the light says.
double lampKelvin(const Light& light);
/// Linear RGB of luminance 1 as a camera balanced for `whiteKelvin` sees it.
Vec3 lampColour(const Light& light, double whiteKelvin);
/// The modifier with all that is on it; throws std::invalid_argument when it is not in the kit.
Modifier frontOf(const Light& light);

}  // namespace easel
