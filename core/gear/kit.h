// The kit: what can be put on a stand, with the physical properties that the computation needs.
//
// Energy: a flash gives luminous energy  Q = Ws * efficacy * 2^power  in lumen-seconds; a continuous unit gives lumens
// times the shutter time. A modifier passes on the share `transmission` of it from its own surface. Figures: each says
// where it comes from. "from memory" = usual manufacturers' order of size, to be calibrated with a meter.
#pragma once

#include <algorithm>
#include <cmath>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "exposure/power_scale.h"
#include "gear/profile.h"

namespace easel {

enum class UnitKind { Flash, Continuous };

struct Unit {
  std::string id, name;
  UnitKind kind = UnitKind::Flash;
  double wattSeconds = 0;  ///< stored energy at full power (flash)
  double efficacy = 0;     ///< lm s per Ws of the bare head (flash)
  double lumens = 0;       ///< luminous flux of the bare head at full power (continuous)
  double kelvin = 5600;    ///< correlated colour temperature
  double kelvinTo = 0;     ///< bi-colour units: the other end of the range they can be set to; 0: fixed
  double drift = 0;        ///< mired for each stop under full, > 0 warmer; 0: keeps its colour, or not known
  double recycle = 0;      ///< seconds from a full-power flash to ready; 0: not known, or continuous
  /// Flash duration t0.1 [s] at full and at lowest power: a tenth of the peak is left after it. 0: not known.
  double duration = 0, durationLowest = 0;
  double highSpeedLoss = 0;  ///< stops that high-speed sync costs at the sync time; 0: it has none
  PowerScale scale;
  double modellingWatts = 0;      ///< mains load of the modelling lamp (or of the LED itself)
  double kilograms = 0;           ///< as it hangs, with its battery; 0: not known
  bool mains = false;             ///< hangs on the mains, else on a battery
  int fullFlashes = 0;            ///< at full power from one battery; 0: not known
  bool fixed = false;             ///< of the building: nothing carries or packs it
  bool hotShoe = false;           ///< wants a bracket for a modifier
  double modellingLumens = 0;     ///< lm of the modelling lamp, 0: none, or not known
  double modellingKelvin = 3000;  ///< its colour temperature
  std::string source;             ///< where the figures come from

  /// Light of the bare head at `stopsBelowFull` (<= 0): lm s. Continuous light is gathered over `shutterSeconds`.
  double lumenSeconds(double stopsBelowFull, double shutterSeconds) const;
  /// Seconds until it can flash again: energy that has gone is charged at an even rate. 0: not known.
  double readyAfter(double stopsBelowFull) const { return recycle * std::exp2(stopsBelowFull); }
  /// t0.1 [s], between full and lowest in proportion to the stops; 0: not known.
  double flashDuration(double stopsBelowFull) const;
};

enum class Outline {
  Rectangle,  ///< width x height
  Octagon,    ///< width = distance between opposite flats
  Disc,       ///< width = diameter
  Ring,       ///< disc with a dark centre of diameter `centre`
  Ball,       ///< bare tube: a sphere of diameter `width`
};

/// Where a modifier can be: on a stand, or round the lens.
enum class Mount { Stand, Lens };
/// For what a list shows together.
enum class ModifierFamily { Reflector, Dish, Softbox, Umbrella, Spot, Small, Continuous, Large };
constexpr int kModifierFamilies = 8;

/// What stands in front of the head. Lengths in metres.
struct Modifier {
  std::string id, name;
  ModifierFamily family = ModifierFamily::Reflector;
  Outline outline = Outline::Disc;
  double width = 0, height = 0;  ///< of the light-giving surface
  double centre = 0;             ///< Ring: diameter of the dark centre
  double depth = 0;              ///< from the light-giving surface back to the stand
  double lining = 0.75;          ///< reflectance of its inside, where one can look into it
  double kilograms = 0;          ///< 0: not known
  double transmission = 1;       ///< lm out / lm of the bare head, 0..1
  double lobe = 1;               ///< luminous intensity ~ cos^lobe of the angle off axis; 1 = Lambertian diffuser
  double hotCentre = 0;          ///< luminance at the centre over that at the edge, in stops; 0 = even
  std::string source;            ///< where the figures come from
  /// Honeycomb or fabric grid: nothing leaves at more than this many degrees off the axis, and up to there the share
  /// that passes falls evenly with the tangent (cells as deep as the tangent says). 0: no grid.
  double grid = 0;
  /// Fabric egg-crate: its cells are square, so it passes (1 - |tan across| / t)(1 - |tan up| / t) of a ray, t the
  /// tangent of `grid`, and a little light leaves along the diagonals up to tangent sqrt(2) t.
  bool squareCells = false;
  /// Lens or tube: even luminance up to this many degrees off the axis, nothing beyond. 0: none. Of a ball, up to 160:
  /// where the body of the head begins to hide it; kHides further round it is hidden.
  double cutOff = 0;
  static constexpr double kHides = 20;
  /// Highest luminance on the axis that its tube allows, cd/m^2 per lm of the bare head: no lens or reflector makes
  /// light brighter than where it comes from. 0: not limited. fronted() holds to it.
  double brightest = 0;
  double backShare = 0;  ///< share of the flux that leaves backwards (shoot-through umbrella), 0..0.9
  Mount mount = Mount::Stand;
  bool zooms = false;          ///< a hot-shoe head, whose zoom is set in mm
  bool projects = false;       ///< a focusing spot, which takes patterns and a spread
  bool innerDiffuser = false;  ///< a box whose inner diffuser can be taken out
  bool takesDeflector = false, takesDoors = false;
  std::shared_ptr<const AngularProfile> profile;  ///< measured (IES): takes the place of the lobe

  double area() const;  ///< m^2 of the light-giving surface
  /// Luminous intensity `degrees` off the axis (horizontal angle `around` for measured profiles), 1 on the axis of an
  /// unmeasured one. 0 backwards.
  double shape(double degrees, double around = 0) const;
  /// cd on the axis per lumen of the bare head: how much light a change of modifier brings or costs.
  double axialIntensity() const;
  /// cd/m^2 on the axis per lumen of the bare head, the mean over the front.
  double axialLuminance() const { return axialIntensity() / area(); }
  /// Integral of shape() over all directions [sr]. Up to 26 ms the first time for a grid or a measured profile, then
  /// remembered by value.
  double profileIntegral() const;
  /// lm that leave forwards per lumen of the bare head.
  double forward() const { return transmission * (1 - backShare); }
  /// As a value: what a layer was traced with is compared by it, for an id may come to mean another thing.
  bool operator==(const Modifier&) const = default;
};

/// The lobe whose intensity has fallen to half at that many degrees off the axis, 1..89.
double lobeOfHalfAngle(double degrees);
/// The other way round, degrees.
double halfAngleOfLobe(double lobe);
/// What a grid of that kind passes of a ray that leaves with those tangents off the axis, 0..1.
inline float gridPasses(bool square, float gridTangent, float across, float up) {
  if (square) return std::max(0.f, 1 - std::abs(across) / gridTangent) * std::max(0.f, 1 - std::abs(up) / gridTangent);
  return std::max(0.f, 1 - std::hypot(across, up) / gridTangent);
}

const std::vector<Unit>& units();
const std::vector<Modifier>& modifiers();
/// The catalogue and, after it, what takeIntoUse() (gear/inventory.h) has brought.
std::vector<Unit> knownUnits();
std::vector<Modifier> knownModifiers();
/// nullptr when there is none of that id.
const Unit* findUnit(std::string_view id);
const Modifier* findModifier(std::string_view id);

constexpr double kNewStudio = 1.0 / 3;  ///< stops, one standard deviation, of what nobody has metered

/// What that head with that modifier gives over its own figures in the studio whose corrections are in use, and how
/// surely: stops, `within` one standard deviation. Without corrections nothing is added, within kNewStudio. Any thread.
struct GearCorrection {
  double stops = 0, within = kNewStudio;
};
GearCorrection correctionOf(std::string_view unit, std::string_view modifier);

/// What the backdrop is made of.
struct BackdropMaterial {
  std::string id, name;
  double reflectance[3] = {};  ///< linear RGB, 0..1
  double mottle = 0;           ///< painted unevenness, +- share of the reflectance
  std::string source;

  double luminance() const { return 0.2126 * reflectance[0] + 0.7152 * reflectance[1] + 0.0722 * reflectance[2]; }
};
const std::vector<BackdropMaterial>& backdropMaterials();
const BackdropMaterial* findBackdrop(std::string_view id);
/// Luminous reflectance of the material, 0..1; of mid grey when there is none of that id.
double backdropLuminance(std::string_view id);

}  // namespace easel
