#include "gear/fittings.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "colour/colour.h"
#include "data/by_id.h"
#include "exposure/stops.h"
#include "gear/gear_file.h"
#include "spoken/say.h"

namespace easel {

const std::vector<Gel>& gels() { return gear().gels; }
const std::vector<Diffusion>& diffusions() { return gear().diffusions; }
const Gel* findGel(std::string_view id) { return byId(gels(), id); }
const Diffusion* findDiffusion(std::string_view id) { return byId(diffusions(), id); }

double shifted(double kelvin, double miredShift) {
  return std::clamp(1e6 / std::max(1.0, mired(kelvin) + miredShift), 1667.0, 25000.0);
}

Modifier fronted(const Modifier& modifier, const Fittings& f) {
  Modifier m = modifier;
  if (m.outline == Outline::Ball) return m;  // nothing holds a sheet or a grid in front of a bare tube
  if (m.zooms) {
    // The half-intensity angle goes with the picture's diagonal, but slower than it: small heads are no searchlights.
    const double wide = std::atan(21.63 / 24), covers = std::atan(21.63 / std::clamp(f.zoom, 14.0, 300.0));
    const double half = 0.85 * wide * std::pow(covers / wide, 0.8);
    m.lobe = lobeOfHalfAngle(half * 180 / std::numbers::pi);
    m.transmission *= std::pow(24 / std::clamp(f.zoom, 24.0, 300.0), 0.35);
  }
  if (m.projects) m.cutOff = std::clamp(f.spread, 3.0, 35.0);
  if (m.brightest > 0) m.transmission *= std::min(1.0, m.brightest / m.axialLuminance());
  if (m.innerDiffuser && !f.inner) {
    m.transmission = std::min(1.0, m.transmission * std::exp2(0.45));
    m.lobe += 0.5;
    m.hotCentre += 1.3;
  }
  if (m.takesDeflector && f.deflector) {  // costs a little, evens the middle, widens the lobe
    m.transmission *= 0.85;
    m.lobe = 1 + (m.lobe - 1) * 0.7;
    m.hotCentre *= 0.3;
  }
  if (const Diffusion* d = findDiffusion(f.diffusion); d && d->scatter > 0) {
    m.transmission *= d->transmission;
    m.lobe = m.lobe + (1 - m.lobe) * d->scatter;
    m.hotCentre *= 1 - 0.5 * d->scatter;  // a sheet on the front evens little across it
    if (m.grid > 0) m.grid += (60 - m.grid) * d->scatter;
    if (m.cutOff > 0) m.cutOff += (80 - m.cutOff) * d->scatter;
  }
  if (f.grid > 0) m = gridded(std::move(m), f.grid);
  return m;
}

Modifier gridded(Modifier m, double degrees, double loss) {
  // Cells pass on the axis what they do not cover, and nothing beyond their angle: it takes away, it never adds. A
  // second grid takes the place of the first.
  if (m.grid > 0) loss = 0;
  const double axis = m.axialIntensity() * std::exp2(-loss);
  m.grid = m.grid > 0 ? std::min(m.grid, degrees) : degrees;
  m.squareCells = m.family == ModifierFamily::Softbox;  // boxes take fabric egg-crates, reflectors honeycomb
  m.transmission = axis * m.profileIntegral() / std::max(1e-9, m.shape(0)) / (1 - m.backShare);
  return m;
}

std::vector<std::pair<std::string, double>> losses(const Modifier& modifier, const Fittings& f, double kelvin) {
  std::vector<std::pair<std::string, double>> out;
  Fittings worn;
  worn.zoom = f.zoom;
  worn.spread = f.spread;
  double axis = fronted(modifier, worn).axialIntensity();
  auto lost = [&](const std::string& name) {
    const double now = fronted(modifier, worn).axialIntensity();
    if (std::abs(stopsFromRatio(axis / now)) > 0.005) out.emplace_back(name, stopsFromRatio(axis / now));
    axis = now;
  };
  worn.inner = f.inner;
  lost(say("no inner diffuser"));
  worn.deflector = f.deflector;
  lost("deflector");
  worn.diffusion = f.diffusion;
  if (const Diffusion* d = findDiffusion(f.diffusion)) lost(d->name);
  worn.grid = f.grid;
  lost("grid");
  if (const Gel* g = findGel(f.gel); g && g->id != "none") {
    Fittings gel;
    gel.gel = f.gel;
    out.emplace_back(g->name, -stopsFromRatio(filtered(gel, kelvin, kelvin).transmission));
  }
  if (f.nd > 0) out.emplace_back("ND", f.nd);
  return out;
}

FilteredLight filtered(const Fittings& f, double kelvin, double whiteKelvin) {
  FilteredLight out;
  out.transmission = std::exp2(-f.nd);
  const Gel* g = findGel(f.gel);
  if (!g || g->id == "none") {
    out.colour = lightColour(kelvin, whiteKelvin);
    return out;
  }
  if (g->mired != 0) {
    out.colour = lightColour(shifted(kelvin, g->mired), whiteKelvin);
    out.transmission *= g->transmission;
    return out;
  }
  const Vec3 head = rawLightColour(kelvin);
  out.transmission *= double(luminance(head * g->passes) / luminance(head));
  const Vec3 seen = lightColour(kelvin, whiteKelvin) * g->passes;
  out.colour = seen / luminance(seen);
  return out;
}

}  // namespace easel
