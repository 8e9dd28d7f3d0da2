// A plan in a few hundred characters, so that a picture of dots can carry it from one copy to another.
//
//   const std::string code = packedPlan(plan);   // "JEP1:6BF+70..."
//   const Plan same = unpackedPlan(code);
//
// The plan's JSON without what is as in a plan that says nothing, lengths and angles to four places, deflated (RFC
// 1950), in base 45 (RFC 9285), which a QR code holds at two thirds of the modules that letters take.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "plan/plan.h"
#include "sheet/blocks.h"

namespace easel {

std::string packedPlan(const Plan& plan);
/// Throws FileError with a sentence for what is no such code, is cut short, or unpacks to more than a plan can be.
Plan unpackedPlan(std::string_view code);
bool looksPacked(std::string_view text);

/// As a QR code (ISO/IEC 18004), error correction L; empty when it would take more than 117 modules a side, which no
/// telephone reads off an ordinary print.
std::optional<CodeSquare> codeOf(const Plan& plan);

std::string base45(std::string_view bytes);
/// Throws std::invalid_argument.
std::string fromBase45(std::string_view text);

}  // namespace easel
