#include "gear/kit.h"

#include <cmath>
#include <numbers>

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

double Modifier::axialIntensity() const {
  constexpr double pi = std::numbers::pi;
  if (outline == Outline::Ball) return transmission / (4 * pi);
  return transmission / profileIntegral();
}

double Modifier::profileIntegral() const {
  constexpr double pi = std::numbers::pi;
  if (grid <= 0) return 2 * pi / (lobe + 1);
  // Integral of cos^lobe (1 - tan theta / tan grid) over the solid angle, midpoint rule.
  constexpr int n = 2000;
  const double edge = grid * pi / 180, step = edge / n;
  double sum = 0;
  for (int i = 0; i < n; ++i) {
    const double a = (i + 0.5) * step;
    sum += std::pow(std::cos(a), lobe) * (1 - std::tan(a) / std::tan(edge)) * std::sin(a) * step;
  }
  return 2 * pi * sum;
}

const std::vector<Unit>& units() {
  static const std::vector<Unit> all = [] {
    std::vector<Unit> u;
    Unit mains;
    mains.id = "mains-400";
    mains.name = "Mains flash 400 Ws";
    mains.wattSeconds = 400;
    mains.efficacy = 25;
    mains.kelvin = 5600;
    mains.scale = {PowerNotation::Fraction, -8, 0.1, 10, 400};
    mains.modellingWatts = 150;
    mains.source = "25 lm s per Ws: middle of the 20 to 35 usual for bare xenon heads, from memory";
    u.push_back(mains);
    Unit shoe;
    shoe.id = "hotshoe-60";
    shoe.name = "Hot-shoe flash 60 Ws";
    shoe.wattSeconds = 60;
    shoe.efficacy = 28;
    shoe.kelvin = 5700;
    shoe.scale = {PowerNotation::Fraction, -7, 1.0 / 3, 10, 60};
    shoe.source = "60 Ws and 28 lm s per Ws for a small tube, from memory";
    u.push_back(shoe);
    Unit led;
    led.id = "led-150";
    led.name = "LED 150 W daylight";
    led.kind = UnitKind::Continuous;
    led.lumens = 13500;
    led.kelvin = 5600;
    led.scale = {PowerNotation::Percent, -6.6, 0.1, 10, 0};
    led.modellingWatts = 150;
    led.source = "90 lm per W of a chip-on-board daylight LED, from memory";
    u.push_back(led);
    return u;
  }();
  return all;
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
  m.transmission = axis * m.profileIntegral();
  m.source = source;
  return m;
}
static std::vector<Modifier> withGrids(std::vector<Modifier> all) {
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

const std::vector<Modifier>& modifiers() {
  static const std::vector<Modifier> all = withGrids({
      {"bare", "Bare bulb", Outline::Ball, 0.08, 0.08, 0, 0.15, 0.95, 0, 0,
       "glass dome of a studio head, 5 % lost in the socket: from memory"},
      {"reflector-18", "Open reflector 18 cm", Outline::Disc, 0.18, 0.18, 0, 0.18, 0.80, 9, 1.0,
       "half intensity at 22 degrees off axis (cos^9), common practice, no source"},
      {"dish-55", "Beauty dish 55 cm, white", Outline::Ring, 0.55, 0.55, 0.16, 0.25, 0.65, 2.2, 0.3,
       "white dish with a 16 cm disc over the head, from memory"},
      {"softbox-60x90", "Softbox 60 x 90 cm", Outline::Rectangle, 0.60, 0.90, 0, 0.40, 0.50, 1.3, 0.5,
       "inner and outer diffuser lose about one stop, common practice, no source"},
      {"softbox-40x40", "Softbox 40 x 40 cm", Outline::Rectangle, 0.40, 0.40, 0, 0.30, 0.52, 1.3, 0.5,
       "inner and outer diffuser lose about one stop, common practice, no source"},
      {"strip-30x120", "Strip softbox 30 x 120 cm", Outline::Rectangle, 0.30, 1.20, 0, 0.35, 0.45, 1.3, 0.7,
       "a little over one stop lost in the narrow box, common practice, no source"},
      {"octa-90", "Octagon softbox 90 cm", Outline::Octagon, 0.90, 0.90, 0, 0.45, 0.50, 1.3, 0.5,
       "inner and outer diffuser lose about one stop, common practice, no source"},
      {"octa-120", "Octagon softbox 120 cm", Outline::Octagon, 1.20, 1.20, 0, 0.50, 0.50, 1.3, 0.6,
       "inner and outer diffuser lose about one stop, common practice, no source"},
  });
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

template <class T>
static const T* find(const std::vector<T>& all, std::string_view id) {
  for (const T& t : all)
    if (t.id == id) return &t;
  return nullptr;
}
const Unit* findUnit(std::string_view id) { return find(units(), id); }
const Modifier* findModifier(std::string_view id) { return find(modifiers(), id); }
const BackdropMaterial* findBackdrop(std::string_view id) { return find(backdropMaterials(), id); }
double backdropLuminance(std::string_view id) {
  const BackdropMaterial* m = findBackdrop(id);
  return m ? m->luminance() : 0.18;
}

}  // namespace easel
