#include "plan/lamp.h"

#include <algorithm>
#include <stdexcept>

#include "spoken/say.h"

namespace easel {

double lampKelvin(const Light& light) {
  const Unit* unit = findUnit(light.unit);
  if (!unit) return 5600;
  if (unit->kelvinTo <= 0 || light.fittings.kelvin <= 0) return unit->kelvin;
  return std::clamp(light.fittings.kelvin, std::min(unit->kelvin, unit->kelvinTo),
                    std::max(unit->kelvin, unit->kelvinTo));
}

double lampEnergy(const Light& light, double power, double shutterSeconds) {
  const Unit* unit = findUnit(light.unit);
  return unit ? unit->lumenSeconds(power, shutterSeconds) *
                    filtered(light.fittings, lampKelvin(light), lampKelvin(light)).transmission
              : 0;
}

Vec3 lampColour(const Light& light, double whiteKelvin) {
  return filtered(light.fittings, lampKelvin(light), whiteKelvin).colour;
}

Modifier frontOf(const Light& light) {
  const Modifier* m = findModifier(light.modifier);
  if (!m)
    throw std::invalid_argument(
        say("Light {} uses the modifier \"{}\", which is not in the kit.", light.id, light.modifier));
  return fronted(*m, light.fittings);
}

}  // namespace easel
