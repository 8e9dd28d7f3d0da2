#include "plan/lamp.h"

#include <fmt/format.h>

#include <stdexcept>

namespace easel {

double lampEnergy(const Light& light, double power, double shutterSeconds) {
  const Unit* unit = findUnit(light.unit);
  return unit ? unit->lumenSeconds(power, shutterSeconds) *
                    filtered(light.filters, unit->kelvin, unit->kelvin).transmission
              : 0;
}

Vec3 lampColour(const Light& light, double whiteKelvin) {
  const Unit* unit = findUnit(light.unit);
  return filtered(light.filters, unit ? unit->kelvin : 5600, whiteKelvin).colour;
}

Modifier frontOf(const Light& light) {
  const Modifier* m = findModifier(light.modifier);
  if (!m)
    throw std::invalid_argument(
        fmt::format("Light {} uses the modifier \"{}\", which is not in the kit.", light.id, light.modifier));
  return fronted(*m, light.filters);
}

}  // namespace easel
