// What is put on a modifier: gels, neutral density, diffusion sheets and grids, and what each costs.
//
// A gel for colour temperature shifts the light by a fixed number of mired (1e6 / K), so that the same sheet does more
// to warm light than to cool light; a party colour passes linear Rec. 709 red, green and blue by stated shares. Figures
// "from memory" are the usual order of size of lighting fittings; calibrate with a meter through the sheet.
#pragma once

#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "gear/kit.h"
#include "geometry/vec.h"

namespace easel {

struct Gel {
  std::string id, name;
  double mired = 0;         ///< shift of a temperature gel, > 0 warmer; 0 for a party colour
  double transmission = 1;  ///< luminous, of light of 5600 K
  Vec3 passes{1, 1, 1};     ///< party colour: linear RGB shares; (1,1,1) for a temperature gel
  std::string source;
};
/// The first is "none".
const std::vector<Gel>& gels();
/// nullptr when there is none of that id.
const Gel* findGel(std::string_view id);

/// Correlated colour temperature after a shift of `miredShift`; kept within 1667 to 25000 K.
double shifted(double kelvin, double miredShift);

/// A sheet in front of the modifier: what passes straight on, and what is scattered over the hemisphere.
struct Diffusion {
  std::string id, name;
  double transmission = 1;  ///< of the whole flux; on the axis it costs more, the narrower the front
  /// The lobe of a white beauty dish, on which the trade states what a sheet costs on the axis.
  static constexpr double kStatedOn = 2.2;
  double scatter = 0;  ///< 0 clear .. 1: leaves like from a Lambertian surface
  std::string source;
};
const std::vector<Diffusion>& diffusions();
const Diffusion* findDiffusion(std::string_view id);

/// Barn doors: four leaves as long as the reflector is wide, named as one sees them from behind the light. Degrees off
/// the axis: 90 out of the way, 0 straight ahead, negative closing over the front.
struct Doors {
  double left = 90, right = 90, top = 90, bottom = 90;
  bool closed() const { return left < 90 || right < 90 || top < 90 || bottom < 90; }
  bool operator==(const Doors&) const = default;
};

/// What is on a light, and how its head is set.
struct Fittings {
  std::string gel = "none", diffusion = "none";
  double nd = 0;           ///< neutral density in stops (0.3 of density = 1 stop), 0..12
  double grid = 0;         ///< honeycomb or fabric grid: cut-off angle [degrees], 0 = none, up to 60
  bool deflector = false;  ///< inner deflector of a dish or reflector
  bool inner = true;       ///< a box's inner diffuser is in
  Doors doors;
  double zoom = 50;              ///< mm, of zoom heads, 14..300
  double spread = 15;            ///< focusing spot: half angle of its beam [degrees], 3..35
  double focus = 0;              ///< focusing spot: distance at which the pattern is sharp [m]; 0: at the face
  std::string pattern = "none";  ///< focusing spot: gear/gobo.h
  double kelvin = 0;             ///< bi-colour units: set to; 0: the unit's own
  bool operator==(const Fittings&) const = default;
};

/// The modifier with all that changes where its light goes: diffusion, grid, deflector, zoom, spread, inner diffuser.
/// Flux, lobe and cut-off change, the outline stays. Unknown ids do nothing.
Modifier fronted(const Modifier& modifier, const Fittings& fittings);

/// What any grid costs on the axis, in stops, chosen with the front or put on it: the cells' walls are in the way. Half
/// a stop: common practice, no source.
constexpr double kGridLoss = 0.5;
/// The modifier behind a grid of that cut-off angle: honeycomb, or a fabric of square cells on a box.
Modifier gridded(Modifier modifier, double degrees, double loss = kGridLoss);

/// What each part costs on the axis, in stops, in the order in which light meets them: ("Sock or half white", 0.6), ...
std::vector<std::pair<std::string, double>> losses(const Modifier& modifier, const Fittings& fittings, double kelvin);

/// Colour (luminance 1) and luminous transmission of gel and ND together, for a head of `kelvin`, seen by a camera
/// balanced for `whiteKelvin`.
struct FilteredLight {
  Vec3 colour{1, 1, 1};
  double transmission = 1;
};
FilteredLight filtered(const Fittings& fittings, double kelvin, double whiteKelvin);

}  // namespace easel
