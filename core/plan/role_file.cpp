#include "plan/role_file.h"

#include <nlohmann/json.hpp>
#include <stdexcept>

#include "data/by_id.h"
#include "data/data_files.h"
#include "data/taking.h"
#include "gear/kit.h"
#include "gear/panel_kinds.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;
const JsonLimits kRoleLimits{.kind = "list of roles"};

double number(const Json& json, const char* name, double missing) {
  return json.contains(name) ? json[name].get<double>() : missing;
}
// The place of a word among others; the schema has seen to it that it is one of them.
int wordOf(const Json& json, const char* name, const std::vector<const char*>& words) {
  if (json.contains(name))
    for (size_t i = 0; i < words.size(); ++i)
      if (json[name] == words[i]) return int(i);
  return 0;
}

RoleSchool readSchool(const Json& json) {
  RoleSchool s;
  s.id = json["id"].get<std::string>();
  s.name = translated(json["name"].get<std::string>());
  s.modifier = json["modifier"].get<std::string>();
  roleFromName(json["role"].get<std::string>(), s.role);
  if (!findModifier(s.modifier))
    throw std::invalid_argument(say("There is no modifier \"{}\". Name one of the catalogue.", foreign(s.modifier)));

  const Json& hour = json["hour"];
  if (hour.contains("opposite") == hour.contains("at"))
    throw std::invalid_argument(say("The hour wants either at or opposite."));
  s.hour.at = number(hour, "at", 12);
  using Side = HourRecipe::Side;
  s.hour.side = hour.contains("opposite") ? Side::OppositeKey
                : !hour.contains("side")  ? Side::Fixed
                : hour["side"] == "key"   ? Side::Key
                                          : Side::Free;

  const Json& distance = json["distance"];
  s.distance.from = DistanceRecipe::From(wordOf(distance, "from", {"sitter", "camera", "backdrop", "wall"}));
  s.distance.times = number(distance, "times", 1);
  s.distance.plus = number(distance, "plus", 0);
  s.distance.least = number(distance, "least", s.distance.least);
  s.distance.most = number(distance, "most", s.distance.most);
  if (s.distance.least > s.distance.most)
    throw std::invalid_argument(say("The distance's least is more than its most. Exchange them."));

  const Json& height = json["height"];
  s.height.from = HeightRecipe::From(wordOf(height, "from", {"floor", "eyes", "camera"}));
  s.height.plus = number(height, "plus", 0);
  s.height.least = number(height, "least", 0);
  s.height.underCeiling = number(height, "underCeiling", s.height.underCeiling);

  s.aim = LightAim(wordOf(json, "aim", {"sitter", "backdrop", "across-backdrop"}));
  take(json, "worksOn", s.worksOn);
  take(json, "inside", s.inside);
  for (const std::string& kind : {s.worksOn, s.inside})
    if (!kind.empty() && !findPanelKind(kind))
      throw std::invalid_argument(say("There is no board or piece \"{}\". Name one of the catalogue.", foreign(kind)));
  if (json.contains("power")) s.power = json["power"].get<double>();
  for (const Json& one : json["levels"]) {
    LevelRecipe level;
    if (one.contains("stops")) level.stops = one["stops"].get<double>();
    level.why = translated(one["why"].get<std::string>());
    if (one.contains("when")) {
      const Json& when = one["when"];
      level.paleHead = when.contains("head");
      level.second = when.contains("second") && when["second"].get<bool>();
      level.backdropOver = number(when, "backdropOver", level.backdropOver);
      level.backdropUnder = number(when, "backdropUnder", level.backdropUnder);
    }
    s.levels.push_back(std::move(level));
  }
  if (json["levels"].back().contains("when"))
    throw std::invalid_argument(say("The last of its levels must hold always: take its when out, or add one without."));
  return s;
}

}  // namespace

void readRoles(const Json& json, RoleRecipes& recipes) {
  eachEntry(json, "schools", kRoleLimits, [&](const Json& j) { put(recipes.schools, readSchool(j)); });
  if (json.contains("usualOrder")) recipes.usualOrder = json["usualOrder"].get<std::vector<std::string>>();
  if (json.contains("afterwards")) recipes.afterwards = json["afterwards"].get<std::string>();
  std::vector<std::string> named = recipes.usualOrder;
  named.push_back(recipes.afterwards);
  for (const std::string& id : named)
    if (!byId(recipes.schools, id))
      throw FileError(
          say("This is not a usable list of roles, at /usualOrder or /afterwards: there is no school "
              "\"{}\". Name one that stands in schools.",
              foreign(id)));
}

const RoleRecipes& roleRecipes() {
  static const RoleRecipes all = gathered<RoleRecipes>(DataKind::Roles, readRoles);
  return all;
}

}  // namespace easel
