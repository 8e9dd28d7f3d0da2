#include "formats/catalogue.h"

#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "data/data_files.h"
#include "files/record.h"
#include "gear/gear_file.h"
#include "plan/role_file.h"
#include "propose/look_file.h"
#include "shoot/usual.h"
#include "sitters/people.h"

namespace easel {

std::vector<std::string> catalogueProblems() {
  gear();
  roleRecipes();
  people();
  looks();
  usualDay();
  return dataProblems();
}

std::string whatItBrings(std::string_view text) {
  const DataFile file = readData(text);
  switch (file.kind) {
    case DataKind::Gear: {
      Gear all = gear();
      readGear(file.record(), all);
      break;
    }
    case DataKind::Roles: {
      RoleRecipes all = roleRecipes();
      readRoles(file.record(), all);
      break;
    }
    case DataKind::Looks: {
      std::vector<Look> all = looks();
      readLooks(file.record(), all);
      break;
    }
    case DataKind::Shoot: {
      UsualDay all = usualDay();
      readUsual(file.record(), all);
      break;
    }
    case DataKind::People: {
      People all = people();
      readPeople(file.record(), all);
      break;
    }
  }
  std::string out;
  for (const auto& [name, list] : file.json->items())
    if (list.is_array() && !list.empty()) out += fmt::format("{}{}: {}", out.empty() ? "" : ", ", name, list.size());
  return out.empty() ? "nothing" : out;
}

}  // namespace easel
