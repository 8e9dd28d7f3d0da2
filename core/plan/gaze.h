// Where the sitter looks: at the lens, at a light, at a place of the studio, or straight ahead of their head.
//
// Studio space, metres. Any thread.
#pragma once

#include <optional>
#include <string>

#include "plan/plan.h"

namespace easel {

/// What is looked at; empty: straight ahead. A light that is not there: the lens.
std::optional<Vec3> lookedAt(const Plan& plan);
/// The sitter with that gaze; a place begins where the sitter looks now, so that nothing moves before it is moved.
SitterPlace withGaze(const Plan& plan, const std::string& gaze, const std::string& light = {});
/// "at the lens", "at light B", "straight ahead", "at a place on the clock".
std::string saidGaze(const Plan& plan);

}  // namespace easel
