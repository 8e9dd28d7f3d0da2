// The user's own kit: how many of each thing there is, and things of their own beside the catalogue.
//
// A count of 0 or none means: not owned. Own units and modifiers are found by findUnit() and findModifier() once they
// are taken into use; they take precedence over the catalogue's of the same id.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "gear/kit.h"

namespace easel {

/// What holds things up.
struct Support {
  std::string id, name;
  double highest = 2.5;               ///< m
  double load = 4;                    ///< kg
  bool boom = false, panels = false;  ///< panels: it holds boards, not lights
  double kilograms = 0;               ///< of the stand; of a boom without its arm; 0: not known
  double feet = 0.45;                 ///< from the column to the tip of a foot [m]
  double armFront = 0, armBack = 0;   ///< boom: from the pivot to where head and counterweight can hang [m]
  double armKilograms = 0;
  std::string source;
};
const std::vector<Support>& supports();

/// What readings in one studio have taught, taken into the kit: stops over (+) or under (-) what the gear's own figures
/// say.
struct StudioCorrections {
  std::string studio;
  double room = 0;
  std::map<std::string, double> units, modifiers;  ///< by id
  struct Sure {
    std::string unit, modifier;
    double within = 0;  ///< of that head with that modifier there, stops, one standard deviation
  };
  std::vector<Sure> sure;
};

struct Inventory {
  std::string name = "My kit";
  std::map<std::string, int> units, modifiers, panels, supports, gels;  ///< id -> how many
  std::vector<Unit> ownUnits;
  std::vector<Modifier> ownModifiers;
  std::vector<StudioCorrections> studios;
  std::string studio;  ///< whose corrections are in use; empty: nobody's

  const StudioCorrections* correctionsOf(const std::string& name) const {
    for (const StudioCorrections& s : studios)
      if (s.studio == name) return &s;
    return nullptr;
  }

  bool empty() const {
    return units.empty() && modifiers.empty() && panels.empty() && supports.empty() && gels.empty();
  }
};

/// Makes the kit's own units and modifiers known. What earlier calls brought stays valid for those who hold it. Any
/// thread.
void takeIntoUse(const Inventory& inventory);

/// Whose corrections are in use; empty: nobody's.
std::string studioInUse();

/// How many units or modifiers of that id the kit in use has; empty while nobody has entered any of that sort.
std::optional<int> unitsOwned(std::string_view id);
std::optional<int> modifiersOwned(std::string_view id);

}  // namespace easel
