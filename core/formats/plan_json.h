// The plan file: JSON, format "jolly-easel-plan" version 1, described in docs/formats/plan.md and plan.schema.json.
#pragma once

#include <filesystem>
#include <stdexcept>
#include <string>
#include <string_view>

#include "files/json_front.h"
#include "plan/plan.h"

namespace easel {

constexpr int kPlanVersion = 1;

/// A file that cannot be taken as a plan. what() is for the user: names the place (JSON path or byte) and what to do.
using PlanFileError = FileError;

/// Throws PlanFileError. Validates against the schema and plan/ranges.h; refuses newer versions; keeps unknown members.
Plan readPlanText(std::string_view json);
std::string writePlanText(const Plan& plan);

/// Throws PlanFileError or std::runtime_error (file cannot be read) with a sentence that names the file.
Plan loadPlan(const std::filesystem::path& file);
/// Atomic. Throws std::runtime_error.
void savePlan(const std::filesystem::path& file, const Plan& plan);

}  // namespace easel
