// The recipes of roles as they stand in files of the format "jolly-easel-roles" (docs/formats/roles.md,
// data/roles.json).
#pragma once

#include <string>
#include <vector>

#include "plan/roles.h"

namespace easel {

class Record;

struct RoleRecipes {
  std::vector<RoleSchool> schools;
  std::vector<std::string> usualOrder;  ///< schools; whose role is missing comes next
  std::string afterwards;               ///< when none is missing
};

/// Adds what stands in a file that keeps to the schema. Throws FileError for what a schema cannot say.
void readRoles(const Record& record, RoleRecipes& recipes);

/// What ships and the user's own; read at the first call. Any thread.
const RoleRecipes& roleRecipes();

}  // namespace easel
