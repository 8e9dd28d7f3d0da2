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

/// The one thing to say of a plan in a line of its own: the first of the worst kind that the check finds; where that is
/// a note or nothing, the advice's first warning before it. Advice's notes are not said, nor faults that are wanted.
/// Empty: nothing. `answers` may be null: nothing that needs them is said then.
std::string mostPressing(const Plan& plan, const Answers* answers, const SpotTable* table,
                         const Spelling& spelling = {});
/// What keeps the plan from being computed, in a sentence; empty: nothing.
std::string whatPrevents(const Plan& plan, const Spelling& spelling = {});

/// What to do when the power that a light wants is out of its unit's range, above or below: sentences with numbers,
/// best first. Empty when it is not, and for gear that is not known.
std::vector<std::string> adviceOnPower(const Plan& plan, const Light& light, const LightAnswer& answer,
                                       const Spelling& spelling = {});

/// Stops between the lightest and the darkest of the backdrop's spots in the picture.
double backdropUnevenness(const SpotTable& table);

}  // namespace easel
