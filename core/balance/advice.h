// What the readings give cause to say: where it is, how much, and what to do about it. Rules: common practice, no
// source, unless the sentence is plain arithmetic.
#pragma once

#include "exposure/spelling.h"
#include "meter/answers.h"
#include "meter/spots.h"
#include "plan/check.h"

namespace easel {

/// Worst first. `table` may be null; without it nothing is said about how even the backdrop is.
std::vector<Finding> adviceOn(const Plan& plan, const Answers& answers, const SpotTable* table,
                              const Spelling& spelling = {});

/// The one thing to say of a plan in a line of its own: what check and advice find worst, notes last, wanted faults not
/// at all; empty: nothing. `answers` may be null: nothing that needs them is said then.
std::string mostPressing(const Plan& plan, const Answers* answers, const SpotTable* table,
                         const Spelling& spelling = {});
/// What keeps the plan from being computed, in a sentence; empty: nothing.
std::string whatPrevents(const Plan& plan, const Spelling& spelling = {});

/// What to do when the power of a light falls short: sentences with numbers, best first. Empty when it does not.
std::vector<std::string> adviceOnPower(const Plan& plan, const Light& light, const LightAnswer& answer,
                                       const Spelling& spelling = {});

/// Stops between the lightest and the darkest of the backdrop's spots in the picture.
double backdropUnevenness(const SpotTable& table);

}  // namespace easel
