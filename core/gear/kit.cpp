#include "gear/kit.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <mutex>
#include <numbers>

#include "data/by_id.h"
#include "gear/gear_file.h"

namespace easel {

double Unit::lumenSeconds(double stopsBelowFull, double shutterSeconds) const {
  const double full = kind == UnitKind::Flash ? wattSeconds * efficacy : lumens * shutterSeconds;
  return full * std::exp2(stopsBelowFull);
}

double Unit::flashDuration(double stopsBelowFull) const {
  if (duration <= 0 || durationLowest <= 0 || scale.lowestStops >= 0) return duration;
  return duration * std::pow(durationLowest / duration, std::clamp(stopsBelowFull / scale.lowestStops, 0.0, 1.0));
}

double Modifier::area() const {
  constexpr double pi = std::numbers::pi;
  switch (outline) {
    case Outline::Rectangle:
      return width * height;
    case Outline::Octagon:
      return 2 * (std::numbers::sqrt2 - 1) * width * width;  // flat-to-flat
    case Outline::Disc:
      return pi * width * width / 4;
    case Outline::Ring:
      return pi * (width * width - centre * centre) / 4;
    case Outline::Ball:
      return pi * width * width;
  }
  return 0;
}

double Modifier::shape(double degrees, double around) const {
  constexpr double rad = std::numbers::pi / 180;
  if (outline == Outline::Ball) return cutOff > 0 ? std::clamp((cutOff + kHides - degrees) / kHides, 0.0, 1.0) : 1;
  if (degrees >= 90) return 0;
  const double c = std::cos(degrees * rad);
  double v = profile ? profile->at(degrees, around) / std::max(1e-12, profile->peak()) : std::pow(c, lobe);
  if (cutOff > 0 && degrees > cutOff) v = 0;
  if (grid > 0) {
    const double t = std::tan(degrees * rad);
    v *= double(gridPasses(squareCells, float(std::tan(grid * rad)), float(t * std::cos(around * rad)),
                           float(t * std::sin(around * rad))));
  }
  return v;
}

double Modifier::axialIntensity() const { return forward() * shape(0) / profileIntegral(); }

namespace {

// All that shape() depends on.
struct ShapeKey {
  double lobe, grid, cutOff;
  bool squareCells, ball;
  std::shared_ptr<const AngularProfile> profile;  // held, so that its address stays its own
  auto operator<=>(const ShapeKey&) const = default;
};

double integrate(const Modifier& m) {
  constexpr double pi = std::numbers::pi;
  // Midpoint rule up to where the profile ends.
  double end = 90;
  if (m.grid > 0)
    end =
        std::min(end, m.squareCells ? std::atan(std::numbers::sqrt2 * std::tan(m.grid * pi / 180)) * 180 / pi : m.grid);
  if (m.outline == Outline::Ball)
    end = std::min(180.0, m.cutOff + Modifier::kHides);
  else if (m.cutOff > 0)
    end = std::min(end, m.cutOff);
  const bool turns = (m.profile && m.profile->horizontal().size() > 1) || (m.grid > 0 && m.squareCells);
  const int n = m.profile ? 900 : turns ? 600 : 2000, around = turns ? 72 : 1;
  const double step = end / n;
  double sum = 0;
  for (int i = 0; i < n; ++i) {
    const double a = (i + 0.5) * step;
    double ring = 0;
    for (int k = 0; k < around; ++k) ring += m.shape(a, (k + 0.5) * 360.0 / around);
    sum += ring / around * std::sin(a * pi / 180);
  }
  return 2 * pi * sum * step * pi / 180;
}

}  // namespace

double Modifier::profileIntegral() const {
  const bool ball = outline == Outline::Ball;
  if (ball && cutOff <= 0) return 4 * std::numbers::pi;
  if (!profile && grid <= 0 && cutOff <= 0) return 2 * std::numbers::pi / (lobe + 1);
  static std::mutex guard;
  static std::map<ShapeKey, double> known;
  const ShapeKey key{lobe, grid, cutOff, squareCells, ball, profile};
  {
    const std::scoped_lock lock(guard);
    if (const auto at = known.find(key); at != known.end()) return at->second;
  }
  const double value = integrate(*this);
  const std::scoped_lock lock(guard);
  // A slider for the grid passes many; what has gone out of use is not worth keeping.
  if (known.size() > 512) known.clear();
  return known[key] = value;
}

double lobeOfHalfAngle(double degrees) {
  return std::log(0.5) / std::log(std::cos(std::clamp(degrees, 1.0, 89.0) * std::numbers::pi / 180));
}

double halfAngleOfLobe(double lobe) {
  return lobe <= 0 ? 89 : std::acos(std::pow(0.5, 1 / lobe)) * 180 / std::numbers::pi;
}

const std::vector<Unit>& units() { return gear().units; }
const std::vector<Modifier>& modifiers() { return gear().modifiers; }
const std::vector<BackdropMaterial>& backdropMaterials() { return gear().backdrops; }

const BackdropMaterial* findBackdrop(std::string_view id) { return byId(backdropMaterials(), id); }
double backdropLuminance(std::string_view id) {
  const BackdropMaterial* m = findBackdrop(id);
  return m ? m->luminance() : 0.18;
}

}  // namespace easel
