#include "plan/role_file.h"

#include <stdexcept>

#include "data/by_id.h"
#include "data/data_files.h"
#include "files/record.h"
#include "gear/kit.h"
#include "gear/panel_kinds.h"
#include "spoken/say.h"

namespace easel {
namespace {

double number(const Record& record, const char* name, double missing) {
  return record.contains(name) ? record[name].get<double>() : missing;
}
// The place of a word among others; the schema has seen to it that it is one of them.
int wordOf(const Record& record, const char* name, const std::vector<const char*>& words) {
  if (record.contains(name))
    for (size_t i = 0; i < words.size(); ++i)
      if (record[name] == words[i]) return int(i);
  return 0;
}

RoleSchool readSchool(const Record& record) {
  RoleSchool s;
  s.id = record["id"].get<std::string>();
  s.name = translated(record["name"].get<std::string>());
  s.modifier = record["modifier"].get<std::string>();
  roleFromName(record["role"].get<std::string>(), s.role);
  if (!findModifier(s.modifier))
    throw std::invalid_argument(say("There is no modifier \"{}\". Name one of the catalogue.", foreign(s.modifier)));

  const Record hour = record["hour"];
  if (hour.contains("opposite") == hour.contains("at"))
    throw std::invalid_argument(say("The hour needs either at or opposite."));
  s.hour.at = number(hour, "at", 12);
  using Side = HourRecipe::Side;
  s.hour.side = hour.contains("opposite") ? Side::OppositeKey
                : !hour.contains("side")  ? Side::Fixed
                : hour["side"] == "key"   ? Side::Key
                                          : Side::Free;

  const Record distance = record["distance"];
  s.distance.from = DistanceRecipe::From(wordOf(distance, "from", {"sitter", "camera", "backdrop", "wall"}));
  s.distance.times = number(distance, "times", 1);
  s.distance.plus = number(distance, "plus", 0);
  s.distance.least = number(distance, "least", s.distance.least);
  s.distance.most = number(distance, "most", s.distance.most);
  if (s.distance.least > s.distance.most)
    throw std::invalid_argument(say("The distance's least is more than its most. Exchange them."));

  const Record height = record["height"];
  s.height.from = HeightRecipe::From(wordOf(height, "from", {"floor", "eyes", "camera"}));
  s.height.plus = number(height, "plus", 0);
  s.height.least = number(height, "least", 0);
  s.height.underCeiling = number(height, "underCeiling", s.height.underCeiling);

  s.aim = LightAim(wordOf(record, "aim", {"sitter", "backdrop", "across-backdrop"}));
  take(record, "worksOn", s.worksOn);
  take(record, "inside", s.inside);
  for (const std::string& kind : {s.worksOn, s.inside})
    if (!kind.empty() && !findPanelKind(kind))
      throw std::invalid_argument(say("There is no board or piece \"{}\". Name one of the catalogue.", foreign(kind)));
  if (record.contains("power")) s.power = record["power"].get<double>();
  bool always = false;  // the last of them
  record.each("levels", [&](const Record& one) {
    LevelRecipe level;
    if (one.contains("stops")) level.stops = one["stops"].get<double>();
    level.why = translated(one["why"].get<std::string>());
    if (one.contains("when")) {
      const Record when = one["when"];
      level.paleHead = when.contains("head");
      level.second = when.contains("second") && when["second"].get<bool>();
      level.backdropOver = number(when, "backdropOver", level.backdropOver);
      level.backdropUnder = number(when, "backdropUnder", level.backdropUnder);
    }
    always = !one.contains("when");
    s.levels.push_back(std::move(level));
  });
  if (!always)
    throw std::invalid_argument(say("The last of its levels must hold always: take its when out, or add one without."));
  return s;
}

}  // namespace

void readRoles(const Record& record, RoleRecipes& recipes) {
  record.each("schools", [&](const Record& r) { put(recipes.schools, readSchool(r)); });
  if (record.contains("usualOrder")) recipes.usualOrder = record["usualOrder"].get<std::vector<std::string>>();
  if (record.contains("afterwards")) recipes.afterwards = record["afterwards"].get<std::string>();
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
