// The user's own looks: plans kept in a folder, one file each, in the plan's own format.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "plan/plan.h"

namespace easel {

/// "looks" beside the user's own patterns and kit.
std::filesystem::path ownLooksFolder();

struct OwnLook {
  std::string name;
  std::filesystem::path file;
  Plan plan;  ///< as it was read
};
/// By name. Files that cannot be read are left out: loading one says what is wrong with it.
std::vector<OwnLook> ownLooks();

/// Keeps the plan under that name; replaces the look of the same name. Throws std::invalid_argument for a name that is
/// empty, too long or no text, and as savePlan().
OwnLook keepAsLook(const Plan& plan, const std::string& name);
void forgetLook(const OwnLook& look);

}  // namespace easel
