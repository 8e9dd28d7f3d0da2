// The user's kit as JSON: docs/formats/kit.md, kit.schema.json.
#pragma once

#include <filesystem>
#include <stdexcept>
#include <string>
#include <string_view>
#include <vector>

#include "files/json_front.h"
#include "gear/inventory.h"
#include "plan/plan.h"

namespace easel {

using KitFileError = FileError;
constexpr int kKitVersion = 1;

/// Throw KitFileError with a sentence that says where.
Inventory readKitText(std::string_view text);
std::string writeKitText(const Inventory& inventory);
Inventory loadKit(const std::filesystem::path& file);
void saveKit(const std::filesystem::path& file, const Inventory& inventory);  ///< atomic

/// Where the program keeps the user's kit: $XDG_DATA_HOME/jolly-easel/kit.json.
std::filesystem::path kitFile();

/// What the plan wants and the kit has not: "Three Mains flash 400 Ws are wanted; the kit has 2." Empty for an empty
/// kit, which nobody has filled in yet.
std::vector<std::string> lacking(const Plan& plan, const Inventory& inventory);

}  // namespace easel
