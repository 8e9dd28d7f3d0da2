// What can hurt in this set, by what is really in it. Usual practice (common practice, no source); every sentence
// leaves the decision to local rules and licensed people.
#pragma once

#include <string>
#include <vector>

#include "exposure/spelling.h"
#include "gear/inventory.h"
#include "plan/plan.h"
#include "shoot/mains.h"

namespace easel {

struct Caution {
  std::string
      id;  ///< "boom", "cables", "mains", "heat", "haze", "flicker", "lithium", "wind", "tall", "glass", "shade"
  std::string sentence;
};
/// Gravest first; each once.
std::vector<Caution> cautionsFor(const Plan& plan, const Inventory& kit, const std::vector<PluggedIn>& others = {},
                                 const Spelling& spelling = {});

}  // namespace easel
