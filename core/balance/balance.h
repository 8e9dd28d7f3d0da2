// Powers from targets: all lights at once, in their units' real steps.
//
// Each alone (default): every light, metered alone at its own spot, stands at target aperture + its target. By the
// sum: then all are lowered equally, so that the face's reading with everything on comes back to the target aperture.
#pragma once

#include <string>
#include <vector>

#include "meter/answers.h"
#include "plan/plan.h"

namespace easel {

enum class BalanceBy { EachAlone, Sum };

struct Balanced {
  std::vector<Light> lights;            ///< the plan's lights with new powers
  double loweredBy = 0;                 ///< Sum: stops taken off every light
  std::vector<std::string> outOfReach;  ///< sentences for lights that cannot get there
};

/// `answers` must be of this plan. Lights that are off or locked keep their power.
Balanced balance(const Plan& plan, const Answers& answers, BalanceBy by);

/// All lights as they stand, lowered equally until everything on gives the target aperture at the face: the ratios
/// stay as they are, targets reached or not.
Balanced lowered(const Plan& plan, const Answers& answers);

/// `light` at the power that gives its target from where it stands, metered alone in this scene; as it is when it is
/// locked, unknown or gives no light there. It need not be in the plan. A few milliseconds.
Light onItsTarget(const Scene& scene, const Plan& plan, Light light);

}  // namespace easel
