// What leaves a light of the plan: luminous energy, colour and front, with everything that is on it.
#pragma once

#include "gear/filters.h"
#include "plan/plan.h"

namespace easel {

/// lm s through gel and ND at `power` (stops below full); 0 when the unit is unknown. Flash gives it in an instant,
/// continuous light over `shutterSeconds`.
double lampEnergy(const Light& light, double power, double shutterSeconds);
inline double lampEnergy(const Light& light, double shutterSeconds) {
  return lampEnergy(light, light.power, shutterSeconds);
}
/// Linear RGB of luminance 1 as a camera balanced for `whiteKelvin` sees it.
Vec3 lampColour(const Light& light, double whiteKelvin);
/// The modifier with diffusion and grid; throws std::invalid_argument when it is not in the kit.
Modifier frontOf(const Light& light);

}  // namespace easel
