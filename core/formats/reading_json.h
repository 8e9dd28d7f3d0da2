// What a picture tells, as JSON: docs/formats/reading.md.
#pragma once

#include <string>

#include "plan/plan.h"
#include "reading/faults.h"

namespace easel {

std::string writeReadingText(const Plan& plan, const FaceReading& reading);
std::string writeFaultsText(const Plan& plan, const FaceReading& reading);

}  // namespace easel
