// The plan and the kit that a command is given. Errors are sentences (std::runtime_error). One thread.
#pragma once

#include <string>

#include "plan/plan.h"

namespace easel {

/// Takes the kit of the data home into use. What is wrong with it is told on stderr, but stops only a plan that needs
/// it.
void useOwnKit();

/// The plan of a file, with everything on stderr that is shown as something else than it says.
Plan planFrom(const std::string& file);

/// Throws when the plan cannot be computed.
void refuse(const Plan& plan);

}  // namespace easel
