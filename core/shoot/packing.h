// What to bring: everything that the day's looks stand on, hang on, are fed by, and what is always in the bag.
//
// Of each thing as many as the look that wants most of it; batteries by the energy of all frames, cables by the
// sockets, sandbags and counterweights as computed for what stands. What the kit has not is told with what could
// stand in.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "exposure/spelling.h"
#include "gear/inventory.h"
#include "shoot/day.h"

namespace easel {

enum class PackGroup { Heads, Modifiers, OnLights, Boards, Stands, Weights, Power, Small };
constexpr int kPackGroups = 8;
std::string packGroupName(PackGroup group);

struct PackItem {
  std::string key;  ///< "unit:mains-400", for the ticks
  PackGroup group = PackGroup::Small;
  std::string name;
  int count = 1;
  std::optional<int> owned;  ///< empty: a kit does not say
  std::string why;           ///< "looks 1, 3" or the computation
  bool missing() const { return owned && *owned < count; }
};
std::vector<PackItem> packingFor(const Day& day, const Inventory& kit, const Spelling& spelling = {});

/// Energy that all frames of the day take from that unit, in full flashes, and the shortest time between two frames
/// that its recycling allows at the highest power set.
struct FlashUse {
  std::string unit;
  double fullFlashes = 0;  ///< of the head that is used most
  int heads = 0;
  double ready = 0;  ///< s between frames at the highest power of the day; 0: not known
};
std::vector<FlashUse> flashUse(const Day& day);

/// Of what the kit has, the nearest to a unit or modifier that it has not.
struct StandIn {
  std::string id, name;
  std::string changes;  ///< "0.7 stop more light, 20 % smaller: harder edges."
  Plan plan;            ///< of the look, with it, its power set to what the target wants as near as the unit can
};
/// For the light of a look; best first, three at most. Empty when nothing of the sort is owned.
std::vector<StandIn> standInsFor(const Plan& plan, const std::string& light, const Inventory& kit);

std::string packingCsv(const std::vector<PackItem>& items, const Day& day);

}  // namespace easel
