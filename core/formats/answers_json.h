// Answers for other programs: JSON, described in docs/formats/answers.md.
#pragma once

#include <string>

#include "meter/answers.h"
#include "meter/spots.h"
#include "plan/plan.h"

namespace easel {

/// Readings of the plan as JSON text (format "jolly-easel-readings" version 1), with the table of spots where there is
/// one.
std::string writeAnswersText(const Plan& plan, const Answers& answers, const SpotTable* table = nullptr);

/// Power for an aperture, a line per light (format "jolly-easel-power" version 1).
std::string writePowerText(const Plan& plan, const Answers& answers, double fNumber);

}  // namespace easel
