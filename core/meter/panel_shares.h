// What each panel brings: how many stops it adds, where on the face it adds most, and to whose light.
#pragma once

#include <string>
#include <vector>

#include "placed/placed_set.h"
#include "transport/scene.h"

namespace easel {

struct PanelShare {
  std::string panel;  ///< its number
  std::string spot;   ///< id of the meter spot on the sitter where it adds most
  std::string spotName;
  double stops = 0;      ///< what it adds there to everything else that is on; of a piece that adds nothing 0
  std::string light;     ///< the letter of the light that feeds it most there; empty when none does
  std::string sentence;  ///< "This board adds 0.7 stop to the shadow cheek, from A."
};
/// For every panel that is in the set, in plan order. A few milliseconds a panel and light; a piece of the set is
/// carried out of the scene for it, some fifty milliseconds.
std::vector<PanelShare> panelShares(const Scene& scene, const PlacedSet& set);

}  // namespace easel
