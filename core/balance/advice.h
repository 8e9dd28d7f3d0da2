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

/// Stops between the lightest and the darkest of the backdrop's spots in the picture.
double backdropUnevenness(const SpotTable& table);

}  // namespace easel
