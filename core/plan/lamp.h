// What leaves a light of the plan: luminous energy, colour and front, with everything that is on it.
#pragma once

#include <optional>

#include "gear/catalogue.h"
#include "gear/fittings.h"
#include "plan/parts.h"

namespace easel {

/// Luminous energy through gel and ND [lm s]: the flash, and what burns on while the shutter is open.
struct LampEnergy {
  double flash = 0, steady = 0;
  double total() const { return flash + steady; }
};
/// What that energy is the product of.
struct LampFactors {
  bool flash = false;
  double head = 0;        ///< lm s of the bare head at its power; of continuous light over the shutter time
  double filters = 1;     ///< share that passes gel and ND
  double correction = 1;  ///< what this studio has taught over the gear's own figures
  double sync = 1;        ///< share of the flash that counts at this shutter time
  double modelling = 0;   ///< lm s of the modelling lamp over the shutter time, through gel and ND
  LampEnergy energy() const {
    const double lamp = head * filters * correction;
    return flash ? LampEnergy{lamp * sync, modelling} : LampEnergy{0, lamp};
  }
};

/// What burns on a stand, out of one catalogue: unit, modifier, and what is on it. Powers in stops below full.
struct Lamp {
  Unit unit;
  Modifier modifier;  ///< as the catalogue has it
  Modifier front;     ///< with all that is on it: what light leaves from
  GearCorrection correction;
  Fittings fittings;
  double power = 0;  ///< that it is set to
  bool modelling = false;

  /// At another power than its own; what its filters pass is taken at the colour of its own, so that the energy goes
  /// with the power alone. Where the shutter covers a part of the frame: what the open part gets (plan/sync.h).
  LampFactors factors(double power, const Camera& camera) const;
  LampEnergy gives(double power, const Camera& camera) const { return factors(power, camera).energy(); }
  /// Colour temperature of the head: the unit's own, or within its range what the light says, and what it drifts.
  double kelvin() const;
  /// Energy times colour of everything that it gives, for this camera.
  Vec3 light(const Camera& camera) const;
};
/// Empty when the catalogue does not know unit or modifier: such a light gives nothing.
std::optional<Lamp> lampOf(const Light& light, const Catalogue& catalogue);

/// Whether it is on and known, by what is in use: the one test of who gives light (of a placed one: its burns()).
bool burns(const Light& light);

/// The same of a light that is being edited, by what is in use; nothing when its unit is unknown. Whether it is on or
/// off.
LampEnergy lampGives(const Light& light, double power, const Camera& camera);
double lampKelvin(const Light& light);
/// Linear RGB of luminance 1 as a camera balanced for `whiteKelvin` sees it.
Vec3 lampColour(const Light& light, double whiteKelvin);
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
