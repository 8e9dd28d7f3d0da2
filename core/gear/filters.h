// What is put on a modifier: gels, neutral density, diffusion sheets and grids, and what each costs.
//
// A gel for colour temperature shifts the light by a fixed number of mired (1e6 / K), so that the same sheet does more
// to warm light than to cool light; a party colour passes linear Rec. 709 red, green and blue by stated shares. Figures
// "from memory" are the usual order of size of lighting filters; calibrate with a meter through the sheet.
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
  double transmission = 1;  ///< of the whole
  double scatter = 0;       ///< 0 clear .. 1: leaves like from a Lambertian surface
  std::string source;
};
const std::vector<Diffusion>& diffusions();
const Diffusion* findDiffusion(std::string_view id);

/// What a light wears beside its modifier.
struct Filters {
  std::string gel = "none", diffusion = "none";
  double nd = 0;    ///< neutral density in stops (0.3 of density = 1 stop), 0..12
  double grid = 0;  ///< honeycomb or fabric grid: cut-off angle [degrees], 0 = none, up to 60
  bool operator==(const Filters&) const = default;
};

/// The modifier with diffusion and grid on it: flux, lobe and cut-off change, the outline stays. Unknown ids do
/// nothing.
Modifier fronted(const Modifier& modifier, const Filters& filters);

/// What each part costs on the axis, in stops, in the order in which light meets them: ("sock", 0.6), ...
std::vector<std::pair<std::string, double>> losses(const Modifier& modifier, const Filters& filters, double kelvin);

/// Colour (luminance 1) and luminous transmission of gel and ND together, for a head of `kelvin`, seen by a camera
/// balanced for `whiteKelvin`.
struct FilteredLight {
  Vec3 colour{1, 1, 1};
  double transmission = 1;
};
FilteredLight filtered(const Filters& filters, double kelvin, double whiteKelvin);

}  // namespace easel
