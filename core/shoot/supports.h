// What holds up the lights and boards of a plan: which stand, which boom, with how much weight at its feet.
//
//   for (const Carried& c : carriedIn(plan, kit)) // "A", stand-light, 4.1 kg of 3, sandbag 5 kg
//
// The lightest support that is high and strong enough, of those the kit has, else of all that are known. A boom is
// taken where a stand could not be: over the sitter, or where its column would show in the picture.
#pragma once

#include <string>
#include <vector>

#include "exposure/spelling.h"
#include "gear/inventory.h"
#include "plan/plan.h"

namespace easel {

struct Carried {
  std::string what;     ///< "A", or "board 1"
  std::string light;    ///< its letter; empty: a board
  std::string support;  ///< id; empty: nothing that is known holds it, or it needs nothing
  bool needsSupport = true;
  int supports = 1;          ///< two for what is wide
  double kilograms = 0;      ///< of what hangs on it
  bool weightsKnown = true;  ///< else some of it was guessed by size
  double height = 0;         ///< of its middle [m]
  bool boom = false;
  double reach = 0;                       ///< boom: pivot to head, horizontally [m]
  double counterweight = 0;               ///< boom: that balances it [kg]
  double overturning = 0, resisting = 0;  ///< about the feet, without sandbag [N m]
  double sandbag = 0;                     ///< kg at the feet
  std::string problem;                    ///< a sentence; empty: it holds
};

/// `wind` [m/s] blows where a wind machine stands. Lights and boards that are off in the plan stand all the same.
std::vector<Carried> carriedIn(const Plan& plan, const Inventory& kit, double wind = 0, const Spelling& spelling = {});
/// "4.3 kg at 1.75 m on Light stand 2.4 m (holds 5 kg). Sandbag 7 kg on its feet." Without the letter.
std::string describe(const Carried& carried, const Spelling& spelling = {});

/// kg of head, modifier and what is on it; `known` false: something was guessed by its size.
double weightOf(const Light& light, bool& known);

/// Whether that light wants a boom: over the sitter, or where the column of a stand would show.
bool wantsBoom(const Plan& plan, const Light& light);

/// Whether that support, or the column under a place of the set, would show in the picture.
bool columnShows(const Plan& plan, double x, double z, double top);

}  // namespace easel
