// Answers for other programs: JSON, described in docs/formats/answers.md.
#pragma once

#include <string>

#include "meter/answers.h"

namespace easel {

/// Readings of the plan as JSON text (format "jolly-easel-readings" version 1).
std::string writeAnswersText(const Plan& plan, const Answers& answers);

/// Power for an aperture, a line per light (format "jolly-easel-power" version 1).
std::string writePowerText(const Plan& plan, const Answers& answers, double fNumber);

}  // namespace easel
