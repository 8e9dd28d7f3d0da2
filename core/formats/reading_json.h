// What a picture tells, as JSON: docs/formats/reading.md.
#pragma once

#include <string>

#include "analysis/faults.h"
#include "plan/plan.h"

namespace easel {

std::string writeReadingText(const Plan& plan, const FaceAnalysis& reading);
std::string writeFaultsText(const Plan& plan, const FaceAnalysis& reading);

}  // namespace easel
