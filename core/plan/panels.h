// Panels of a plan as they are edited: their heights, their meshes, and where a new one usually goes. As what rays
// meet: plan/leaf.h.
#pragma once

#include <string>

#include "plan/plan.h"

namespace easel {

/// Whether it is a piece of the set that stands on the floor.
bool standsOnFloor(const Panel& panel);
/// The same thing of another height: a piece that stands on the floor still does.
Panel ofHeight(Panel panel, double height);

/// The same thing with that mesh (gear/model.h), as large as the file says; a block without one.
Panel withModel(Panel panel, const std::string& model);

struct PanelProposal {
  Panel panel;
  std::string reason;
};
/// A panel or piece of that kind where it usually stands for this plan's key, and why. Throws std::invalid_argument
/// when the kind is unknown or all sixteen stand.
PanelProposal proposePanel(const Plan& plan, const std::string& kind);

}  // namespace easel
