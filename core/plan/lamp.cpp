#include "plan/lamp.h"

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "colour/colour.h"
#include "exposure/meter.h"
#include "exposure/shutter.h"
#include "exposure/stops.h"
#include "plan/sync.h"
#include "spoken/say.h"

namespace easel {
namespace {

double passed(const Fittings& fittings, double kelvin) { return filtered(fittings, kelvin, kelvin).transmission; }

double kelvinOf(const Unit& unit, const Fittings& fittings, double power) {
  double kelvin = unit.kelvin;
  if (unit.kelvinTo > 0 && fittings.kelvin > 0)
    kelvin = std::clamp(fittings.kelvin, std::min(unit.kelvin, unit.kelvinTo), std::max(unit.kelvin, unit.kelvinTo));
  return unit.drift == 0 ? kelvin : shifted(kelvin, -power * unit.drift);
}

LampFactors factorsOf(const Unit& unit, double correction, const Fittings& fittings, double kelvin, bool modelling,
                      double power, const Camera& camera) {
  LampFactors f;
  f.flash = unit.kind == UnitKind::Flash;
  f.head = unit.lumenSeconds(power, camera.shutter);
  f.filters = passed(fittings, kelvin);
  f.correction = std::exp2(correction);
  if (!f.flash) return f;
  f.sync = syncShare(unit, camera);
  if (modelling && unit.modellingLumens > 0)
    f.modelling = unit.modellingLumens * camera.shutter * passed(fittings, unit.modellingKelvin);
  return f;
}

}  // namespace

std::optional<Lamp> lampOf(const Light& l, const Catalogue& catalogue) {
  const Unit* unit = catalogue.unit(l.unit);
  const Modifier* modifier = catalogue.modifier(l.modifier);
  if (!unit || !modifier) return {};
  return Lamp{*unit,   *modifier,  fronted(*modifier, l.fittings), catalogue.correction(l.unit, l.modifier), l.fittings,
              l.power, l.modelling};
}

LampFactors Lamp::factors(double at, const Camera& camera) const {
  return factorsOf(unit, correction.stops, fittings, kelvin(), modelling, at, camera);
}
double Lamp::kelvin() const { return kelvinOf(unit, fittings, power); }

Vec3 Lamp::light(const Camera& camera) const {
  const LampEnergy e = gives(power, camera);
  const Vec3 head = filtered(fittings, kelvin(), camera.whiteBalance).colour;
  if (unit.kind != UnitKind::Flash || e.steady <= 0) return head * float(e.total());
  return head * float(e.flash) + filtered(fittings, unit.modellingKelvin, camera.whiteBalance).colour * float(e.steady);
}

bool burns(const Light& l) { return l.on && findUnit(l.unit) && findModifier(l.modifier); }

double lampKelvin(const Light& light) {
  const Unit* unit = findUnit(light.unit);
  return unit ? kelvinOf(*unit, light.fittings, light.power) : 5600;
}

LampEnergy lampGives(const Light& light, double power, const Camera& camera) {
  const Unit* unit = findUnit(light.unit);
  if (!unit) return {};
  const double correction = correctionOf(light.unit, light.modifier).stops;
  return factorsOf(*unit, correction, light.fittings, kelvinOf(*unit, light.fittings, light.power), light.modelling,
                   power, camera)
      .energy();
}

Vec3 lampColour(const Light& light, double whiteKelvin) {
  return filtered(light.fittings, lampKelvin(light), whiteKelvin).colour;
}

Modifier frontOf(const Light& light) {
  const Modifier* m = findModifier(light.modifier);
  if (!m)
    throw std::invalid_argument(
        say("Light {} uses the modifier \"{}\", which is not in the catalogue.", light.id, light.modifier));
  return fronted(*m, light.fittings);
}

double guideNumber(const Modifier& front, double lumenSeconds) {
  return apertureForExposure(front.axialIntensity() * lumenSeconds, 100);
}

double guideNumber(const Unit& unit) {
  if (unit.kind != UnitKind::Flash) return 0;
  // A small flash has its head built in.
  const Modifier* front = findModifier(unit.wattSeconds <= 100 ? "zoom-head" : "reflector-18");
  return front ? guideNumber(fronted(*front, {}), unit.lumenSeconds(0, 1)) : 0;
}

double guideNumber(const Modifier& modifier) {
  if (modifier.family == ModifierFamily::Continuous || modifier.family == ModifierFamily::Large) return 0;
  const Unit* unit = findUnit(modifier.zooms ? "hotshoe-60" : "mains-400");
  return unit ? guideNumber(fronted(modifier, {}), unit->lumenSeconds(0, 1)) : 0;
}

std::vector<std::string> whatItGives(const Light& light, const Camera& camera) {
  std::vector<std::string> out;
  const Unit* unit = findUnit(light.unit);
  if (!unit || !findModifier(light.modifier)) return out;
  const Modifier front = frontOf(light);
  if (unit->kind == UnitKind::Flash) {
    out.push_back(say("Guide number {:.0f} as set, {:.0f} at full (f-number times metres, ISO 100).",
                      guideNumber(front, lampGives(light, light.power, camera).flash),
                      guideNumber(front, lampGives(light, 0, camera).flash)));
    if (unit->recycle > 0)
      out.push_back(say("Ready again after {:.{}f} s.", unit->readyAfter(light.power),
                        unit->readyAfter(light.power) < 0.1 ? 2 : 1));
    if (const double t = unit->flashDuration(light.power); t > 0)
      out.push_back(
          t > camera.shutter * 1.02
              ? say("The flash lasts {} (t0.1), longer than the shutter is open: its tail is lost.", writeShutter(t))
              : say("The flash lasts {} (t0.1).", writeShutter(t)));
    if (syncOf(*unit, camera) == Sync::HighSpeed)
      out.push_back(say("High-speed sync at {}: {:.1f} stops less.", writeShutter(camera.shutter),
                        -stopsFromRatio(syncShare(*unit, camera))));
    if (syncOf(*unit, camera) == Sync::Band)
      out.push_back(say("No high-speed sync: {:.0f} % of the picture gets none of it.", 100 * darkBand(camera)));
    if (light.modelling && unit->modellingLumens > 0)
      if (const LampEnergy e = lampGives(light, light.power, camera); e.flash > 0 && e.steady > 0)
        out.push_back(
            say("Its modelling lamp adds light {:.1f} stops under the flash.", stopsFromRatio(e.flash / e.steady)));
  }
  const double kelvin = lampKelvin(light);
  out.push_back(unit->drift == 0 || light.power > -0.05
                    ? say("{:.0f} K.", kelvin)
                    : say("{:.0f} K at this power, {:+.0f} mired from full.", kelvin, -light.power * unit->drift));
  return out;
}

}  // namespace easel
