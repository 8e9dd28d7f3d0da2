#include "gear/kit.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <map>
#include <mutex>
#include <numbers>
#include <tuple>

#include "gear/by_id.h"
#include "gear/inventory.h"

namespace easel {

double Unit::lumenSeconds(double stopsBelowFull, double shutterSeconds) const {
  const double full = kind == UnitKind::Flash ? wattSeconds * efficacy : lumens * shutterSeconds;
  return full * std::exp2(stopsBelowFull);
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
  if (outline == Outline::Ball) return 1;
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

double Modifier::axialIntensity() const {
  constexpr double pi = std::numbers::pi;
  if (outline == Outline::Ball) return transmission / (4 * pi);
  return forward() * shape(0) / profileIntegral();
}

namespace {

// All that shape() depends on.
struct ShapeKey {
  double lobe, grid, cutOff;
  bool squareCells;
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
  if (m.cutOff > 0) end = std::min(end, m.cutOff);
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
  if (!profile && grid <= 0 && cutOff <= 0) return 2 * std::numbers::pi / (lobe + 1);
  static std::mutex guard;
  static std::map<ShapeKey, double> known;
  const ShapeKey key{lobe, grid, cutOff, squareCells, profile};
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

static std::vector<Unit> ownUnits() {
  using N = PowerNotation;
  const char* flash = "25 lm s per Ws: middle of the 20 to 35 usual for bare xenon heads, from memory";
  const char* small = "28 lm s per Ws for a small tube, from memory";
  const char* led = "90 lm per W of a chip-on-board LED, from memory";
  constexpr double third = 1.0 / 3;
  // id, name, kind, Ws, lm s per Ws, lm, K, K to, recycle s, scale, modelling W, source
  return {
      {"mains-400",
       "Mains flash 400 Ws",
       UnitKind::Flash,
       400,
       25,
       0,
       5600,
       0,
       1.2,
       {N::Fraction, -8, 0.1, 10, 400},
       150,
       flash},
      {"mains-1200",
       "Mains flash 1200 Ws",
       UnitKind::Flash,
       1200,
       25,
       0,
       5600,
       0,
       2.0,
       {N::StopNumber, -8, 0.1, 10, 1200},
       250,
       flash},
      {"battery-600",
       "Battery flash 600 Ws",
       UnitKind::Flash,
       600,
       25,
       0,
       5600,
       0,
       1.6,
       {N::Fraction, -8, 0.1, 10, 600},
       30,
       flash},
      {"battery-200",
       "Battery flash 200 Ws",
       UnitKind::Flash,
       200,
       26,
       0,
       5700,
       0,
       1.8,
       {N::Fraction, -7, 0.1, 10, 200},
       10,
       flash},
      {"hotshoe-60",
       "Hot-shoe flash 60 Ws",
       UnitKind::Flash,
       60,
       28,
       0,
       5700,
       0,
       2.5,
       {N::Fraction, -7, third, 10, 60},
       0,
       small},
      {"ring-400",
       "Ring flash 400 Ws",
       UnitKind::Flash,
       400,
       24,
       0,
       5600,
       0,
       1.8,
       {N::WattSeconds, -6, 0.1, 10, 400},
       20,
       flash},
      {"led-150",
       "LED 150 W daylight",
       UnitKind::Continuous,
       0,
       0,
       13500,
       5600,
       0,
       0,
       {N::Percent, -6.6, 0.1, 10, 0},
       150,
       led},
      {"led-100-bi",
       "LED 100 W, 3200 to 5600 K",
       UnitKind::Continuous,
       0,
       0,
       8000,
       3200,
       5600,
       0,
       {N::Percent, -6.6, 0.1, 10, 0},
       100,
       led},
      {"led-tube",
       "LED tube 20 W, 2700 to 6500 K",
       UnitKind::Continuous,
       0,
       0,
       1600,
       2700,
       6500,
       0,
       {N::Percent, -6.6, 0.1, 10, 0},
       20,
       led},
      {"bulb-7",
       "LED bulb 7 W, warm",
       UnitKind::Continuous,
       0,
       0,
       600,
       2700,
       0,
       0,
       {N::Percent, -5, 0.1, 10, 0},
       7,
       "600 lm of a household bulb, from memory"},
      {"window-sky",
       "Window, north sky",
       UnitKind::Continuous,
       0,
       0,
       16000,
       6800,
       0,
       0,
       {N::Percent, -7, 0.1, 10, 0},
       0,
       "a bright overcast sky of about 5000 cd/m2 through a 1.0 x 1.3 m window, from memory"},
  };
}

// A grid cuts the light off at its angle and costs a little on the axis too; it never adds any.
static Modifier gridded(const std::vector<Modifier>& plain, const char* of, const char* id, const char* name,
                        double degrees, double axisLossStops, const char* source) {
  Modifier m;
  for (const Modifier& p : plain)
    if (p.id == of) m = p;
  const double axis = m.axialIntensity() * std::exp2(-axisLossStops);
  m.id = id;
  m.name = name;
  m.grid = degrees;
  m.squareCells = m.family == ModifierFamily::Softbox;
  m.transmission = axis * m.profileIntegral();
  m.source = source;
  return m;
}

static std::vector<Modifier> ownModifiers() {
  using F = ModifierFamily;
  using O = Outline;
  std::vector<Modifier> all;
  auto add = [&](F family, O outline, const char* id, const char* name, double w, double h, double depth,
                 double transmission, double lobe, double hot, const char* source) -> Modifier& {
    Modifier m;
    m.id = id;
    m.name = name;
    m.family = family;
    m.outline = outline;
    m.width = w;
    m.height = h;
    m.depth = depth;
    m.transmission = transmission;
    m.lobe = lobe;
    m.hotCentre = hot;
    m.source = source;
    all.push_back(m);
    return all.back();
  };
  const char* open = "half intensity at about 22 degrees off axis (cos^9), common practice, no source";
  for (auto [id, name, w, h, o, lobe, t] :
       {std::tuple{"reflector-18", "Open reflector 18 cm", 0.18, 0.18, O::Disc, 9.0, 0.80},
        {"reflector-21", "Open reflector 21 cm, wide", 0.21, 0.21, O::Disc, 6.0, 0.82},
        {"reflector-44", "Open reflector 44 cm, square", 0.44, 0.44, O::Rectangle, 7.0, 0.78}}) {
    Modifier& m = add(F::Reflector, o, id, name, w, h, w, t, lobe, 1.0, open);
    m.takesDoors = m.takesDeflector = true;
  }
  add(F::Reflector, O::Ball, "bare", "Bare bulb", 0.08, 0.08, 0.15, 0.95, 0, 0,
      "glass dome of a studio head, 5 % lost in the socket: from memory");
  const char* dish = "white dish with a disc over the head, from memory";
  const char* silver = "silver is crisper and about 0.4 stop more efficient than white, from memory";
  for (auto [id, name, d, lobe, t, hot] : {std::tuple{"dish-55", "Beauty dish 55 cm, white", 0.55, 2.2, 0.65, 0.3},
                                           {"dish-55-silver", "Beauty dish 55 cm, silver", 0.55, 3.6, 0.72, 0.5},
                                           {"dish-40", "Beauty dish 40 cm, white", 0.40, 2.4, 0.64, 0.3},
                                           {"dish-70", "Beauty dish 70 cm, white", 0.70, 2.0, 0.64, 0.3}}) {
    Modifier& m = add(F::Dish, O::Ring, id, name, d, d, 0.25, t, lobe, hot, lobe > 3 ? silver : dish);
    m.centre = 0.16;
    m.takesDeflector = true;
  }
  const char* box = "inner and outer diffuser lose about one stop, common practice, no source";
  const char* narrow = "a little over one stop lost in the narrow box, common practice, no source";
  for (auto [id, name, o, w, h, depth, t, hot, source] :
       {std::tuple{"softbox-40x40", "Softbox 40 x 40 cm", O::Rectangle, 0.40, 0.40, 0.30, 0.52, 0.5, box},
        {"softbox-60x90", "Softbox 60 x 90 cm", O::Rectangle, 0.60, 0.90, 0.40, 0.50, 0.5, box},
        {"softbox-90x120", "Softbox 90 x 120 cm", O::Rectangle, 0.90, 1.20, 0.50, 0.48, 0.7, box},
        {"strip-30x120", "Strip softbox 30 x 120 cm", O::Rectangle, 0.30, 1.20, 0.35, 0.45, 0.7, narrow},
        {"strip-35x90", "Strip softbox 35 x 90 cm", O::Rectangle, 0.35, 0.90, 0.35, 0.46, 0.6, narrow},
        {"octa-55", "Octagon softbox 55 cm", O::Octagon, 0.55, 0.55, 0.35, 0.52, 0.4, box},
        {"octa-90", "Octagon softbox 90 cm", O::Octagon, 0.90, 0.90, 0.45, 0.50, 0.5, box},
        {"octa-120", "Octagon softbox 120 cm", O::Octagon, 1.20, 1.20, 0.50, 0.50, 0.6, box},
        {"octa-150", "Octagon softbox 150 cm", O::Octagon, 1.50, 1.50, 0.60, 0.48, 0.8, box}})
    add(F::Softbox, o, id, name, w, h, depth, t, 1.3, hot, source).innerDiffuser = true;
  Modifier& para = add(F::Softbox, O::Octagon, "para-90", "Deep parabolic 90 cm", 0.90, 0.90, 0.65, 0.55, 3.0, 1.2,
                       "deep silver bowl with a front diffuser: narrower and hotter in the middle, from memory");
  para.innerDiffuser = true;
  add(F::Umbrella, O::Disc, "umbrella-white", "Umbrella 100 cm, white, reflecting", 1.0, 1.0, 0.55, 0.60, 1.4, 0.8,
      "about a stop and a bit lost with the spill past the edge, common practice, no source");
  add(F::Umbrella, O::Disc, "umbrella-silver", "Umbrella 100 cm, silver", 1.0, 1.0, 0.55, 0.70, 2.6, 1.2,
      "silver is crisper and brighter in the middle, from memory");
  add(F::Umbrella, O::Disc, "umbrella-through", "Umbrella 100 cm, shoot-through", 1.0, 1.0, 0.10, 0.85, 1.2, 1.0,
      "half passes, a good third is thrown back into the room, from memory")
      .backShare = 0.42;
  Modifier& snoot = add(F::Spot, O::Disc, "snoot", "Snoot 6 cm", 0.06, 0.06, 0.28, 0.06, 2, 0.3,
                        "a tube that lets 12 degrees out and swallows nearly all, from memory");
  snoot.cutOff = 12;
  Modifier& spot = add(F::Spot, O::Disc, "spot", "Focusing spot, projects patterns", 0.09, 0.09, 0.45, 0.30, 1, 0,
                       "condenser and lens pass about a third, from memory");
  spot.cutOff = 20;
  spot.projects = spot.takesDoors = true;
  Modifier& zoom =
      add(F::Small, O::Rectangle, "zoom-head", "Zoom head of a hot-shoe flash", 0.07, 0.045, 0.12, 0.85, 2.3, 0,
          "covers the picture of the zoom's focal length; twice the guide number from 24 to 200 mm, from memory");
  zoom.zooms = true;
  add(F::Small, O::Rectangle, "card-20x25", "Bendable card on a hot-shoe flash", 0.20, 0.25, 0.10, 0.55, 1.1, 1.2,
      "white card, half of the light misses it, from memory");
  Modifier& ring = add(F::Small, O::Ring, "ring-20", "Ring round the lens 20 cm", 0.20, 0.20, 0.06, 0.75, 1.6, 0,
                       "tube behind frosted plastic, from memory");
  ring.centre = 0.105;
  ring.mount = Mount::Lens;
  add(F::Continuous, O::Rectangle, "panel-30x30", "LED panel 30 x 30 cm", 0.30, 0.30, 0.06, 0.95, 1.7, 0,
      "bare diodes behind a thin diffuser, from memory")
      .takesDoors = true;
  add(F::Continuous, O::Rectangle, "panel-60x30", "LED panel 60 x 30 cm", 0.60, 0.30, 0.06, 0.95, 1.7, 0,
      "bare diodes behind a thin diffuser, from memory")
      .takesDoors = true;
  add(F::Continuous, O::Rectangle, "tube-120", "LED tube 120 cm", 0.045, 1.20, 0.05, 0.60, 1, 0,
      "milky tube, its back half dark or turned away, from memory");
  add(F::Continuous, O::Ball, "lamp-6", "Lamp in the picture, 6 cm", 0.06, 0.06, 0.05, 0.90, 0, 0,
      "milky glass bulb, from memory");
  add(F::Large, O::Rectangle, "window-100x130", "Window 100 x 130 cm", 1.00, 1.30, 0.05, 1, 1, 0,
      "an opening onto an even sky: Lambertian");
  add(F::Large, O::Rectangle, "window-200x150", "Window 200 x 150 cm, hazed", 2.00, 1.50, 0.05, 0.9, 1, 0,
      "an opening behind thin white curtain: Lambertian");
  const char* fabric =
      "fabric grid: off the axis nothing beyond its angle, half a stop lost on it; common practice, no source";
  const char* honeycomb =
      "honeycomb: off the axis nothing beyond its angle, 0.6 stop lost on it; common practice, no source";
  all.push_back(gridded(all, "strip-30x120", "strip-30x120-grid", "Strip 30 x 120 cm, fabric grid", 40, 0.5, fabric));
  all.push_back(
      gridded(all, "softbox-40x40", "softbox-40x40-grid", "Softbox 40 x 40 cm, fabric grid", 40, 0.5, fabric));
  all.push_back(
      gridded(all, "reflector-18", "reflector-18-grid20", "Open reflector 18 cm, 20 degree grid", 20, 0.6, honeycomb));
  return all;
}

const std::vector<Unit>& units() {
  static const std::vector<Unit> all = ownUnits();
  return all;
}
const std::vector<Modifier>& modifiers() {
  static const std::vector<Modifier> all = ownModifiers();
  return all;
}

const std::vector<BackdropMaterial>& backdropMaterials() {
  static const std::vector<BackdropMaterial> all = {
      {"canvas-grey",
       "Painted canvas, grey",
       {0.19, 0.188, 0.183},
       0.22,
       "mid grey by eye, common practice, no source"},
      {"paper-white", "Seamless paper, white", {0.84, 0.84, 0.83}, 0.0, "matt white paper 0.80 to 0.88, from memory"},
      {"paper-light-grey", "Seamless paper, light grey", {0.45, 0.45, 0.45}, 0.0, "from memory"},
      {"paper-mid-grey", "Seamless paper, mid grey", {0.18, 0.18, 0.18}, 0.0, "18 % by definition of mid grey"},
      {"paper-dark-grey", "Seamless paper, dark grey", {0.08, 0.08, 0.08}, 0.0, "from memory"},
      {"cloth-black",
       "Cloth, black",
       {0.064, 0.064, 0.065},
       0.06,
       "one and a half stops over the key lift it to mid grey: common practice, no source"},
      {"paper-black", "Seamless paper, black", {0.045, 0.045, 0.046}, 0.0, "black paper 0.04 to 0.06, from memory"},
      {"velvet-black",
       "Velvet, black",
       {0.0225, 0.0225, 0.0225},
       0.0,
       "three stops over the key lift it to mid grey: common practice, no source"},
      {"velvet-deep",
       "Velvet, black, deep pile",
       {0.005, 0.005, 0.005},
       0.0,
       "0.003 to 0.008 seen along the pile, from memory"},
      {"paper-blue", "Seamless paper, slate blue", {0.055, 0.095, 0.19}, 0.0, "from memory"},
      {"paper-green", "Seamless paper, moss green", {0.075, 0.13, 0.055}, 0.0, "from memory"},
      {"paper-red", "Seamless paper, brick red", {0.27, 0.055, 0.04}, 0.0, "from memory"},
      {"paper-ochre", "Seamless paper, ochre", {0.47, 0.29, 0.08}, 0.0, "from memory"},
      {"canvas-umber", "Painted canvas, umber", {0.105, 0.075, 0.052}, 0.25, "from memory"},
  };
  return all;
}

namespace {
// The user's own things. A set is never freed: pointers that somebody holds stay good, and few sets are ever made.
struct Own {
  std::vector<Unit> units;
  std::vector<Modifier> modifiers;
  std::map<std::string, int, std::less<>> unitCount, modifierCount;
};
std::optional<int> countOf(const std::map<std::string, int, std::less<>>& counts, std::string_view id) {
  if (counts.empty()) return {};
  const auto at = counts.find(id);
  return at == counts.end() ? 0 : at->second;
}
std::atomic<const Own*> own{nullptr};
}  // namespace

void takeIntoUse(const Inventory& inventory) {
  static std::mutex guard;
  static auto& kept = *new std::vector<std::unique_ptr<const Own>>;
  const std::lock_guard lock(guard);
  kept.push_back(std::make_unique<const Own>(Own{inventory.ownUnits,
                                                 inventory.ownModifiers,
                                                 {inventory.units.begin(), inventory.units.end()},
                                                 {inventory.modifiers.begin(), inventory.modifiers.end()}}));
  own = kept.back().get();
}
std::optional<int> unitsOwned(std::string_view id) {
  const Own* o = own;
  return o ? countOf(o->unitCount, id) : std::nullopt;
}
std::optional<int> modifiersOwned(std::string_view id) {
  const Own* o = own;
  return o ? countOf(o->modifierCount, id) : std::nullopt;
}

std::vector<Unit> knownUnits() {
  std::vector<Unit> out = units();
  if (const Own* o = own) out.insert(out.end(), o->units.begin(), o->units.end());
  return out;
}
std::vector<Modifier> knownModifiers() {
  std::vector<Modifier> out = modifiers();
  if (const Own* o = own) out.insert(out.end(), o->modifiers.begin(), o->modifiers.end());
  return out;
}
const Unit* findUnit(std::string_view id) {
  if (const Own* o = own)
    if (const Unit* u = byId(o->units, id)) return u;
  return byId(units(), id);
}
const Modifier* findModifier(std::string_view id) {
  if (const Own* o = own)
    if (const Modifier* m = byId(o->modifiers, id)) return m;
  return byId(modifiers(), id);
}
const BackdropMaterial* findBackdrop(std::string_view id) { return byId(backdropMaterials(), id); }
double backdropLuminance(std::string_view id) {
  const BackdropMaterial* m = findBackdrop(id);
  return m ? m->luminance() : 0.18;
}

}  // namespace easel
