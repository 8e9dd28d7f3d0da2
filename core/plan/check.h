// Plausibility: is this a set that can stand in this room? Each finding says what, where, and what to do.
#pragma once

#include <string>
#include <vector>

#include "exposure/spelling.h"
#include "geometry/vec.h"
#include "plan/plan.h"

namespace easel {

enum class Severity { Note, Warning, Error };

struct Finding {
  Severity severity = Severity::Warning;
  std::string where;  ///< "light A", "backdrop", "camera", "sitter", "room"
  std::string sentence;
  std::string id = {};     ///< of those that analysis/faults.h lists: "sync", "ceiling", "boom" ...
  bool leftAside = false;  ///< something that is not known here is shown as something else
};

/// Whether something at that place hangs over the sitter: within half a metre of the axis, above the head.
bool hangsOver(const Plan& plan, Vec3 at);

/// Geometry and exposure settings. Never throws; a plan that loads can always be shown.
/// Error: the computation refuses it (a light inside the head, the backdrop behind the camera).
std::vector<Finding> checkPlan(const Plan& plan, const Spelling& spelling = {});

}  // namespace easel
