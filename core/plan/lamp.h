// What leaves a light of the plan: luminous energy, colour and front, with everything that is on it.
#pragma once

#include "gear/fittings.h"
#include "plan/plan.h"

namespace easel {

/// Luminous energy through gel and ND [lm s]: the flash, and what burns on while the shutter is open.
struct LampEnergy {
  double flash = 0, steady = 0;
  double total() const { return flash + steady; }
};
/// Of the light at `power` (stops below full), whether it is on or off; nothing when the unit is unknown. Where the
/// shutter covers a part of the frame: what the open part gets (plan/sync.h).
LampEnergy lampGives(const Light& light, double power, const Camera& camera);
inline double lampEnergy(const Light& light, const Camera& camera) {
  return lampGives(light, light.power, camera).total();
}
/// Colour temperature of the head: the unit's own, or within its range what the light says, and what it drifts at this
/// power.
double lampKelvin(const Light& light);
/// Linear RGB of luminance 1 as a camera balanced for `whiteKelvin` sees it.
Vec3 lampColour(const Light& light, double whiteKelvin);
/// Energy times colour, of everything that the light gives, for this camera.
Vec3 lampLight(const Light& light, const Camera& camera);
/// The modifier with all that is on it; throws std::invalid_argument when it is not in the kit.
Modifier frontOf(const Light& light);

/// f-number times metres at ISO 100 on the axis of that front, read flat, for `lumenSeconds` of the bare head.
double guideNumber(const Modifier& front, double lumenSeconds);

/// ... at full power of a flash on the front that it is usually rated with, an open reflector or its zoom head at
/// 50 mm; of a front on 400 Ws, of a zoom head on its own 60. 0: no flash, or such a front is not in the kit.
double guideNumber(const Unit& unit);
double guideNumber(const Modifier& modifier);

/// "Guide number 24 as set, 67 at full. ... Ready again after 0.4 s; the flash lasts 1/800 s. 5640 K." What of it is
/// known, a sentence each.
std::vector<std::string> whatItGives(const Light& light, const Camera& camera);

}  // namespace easel
