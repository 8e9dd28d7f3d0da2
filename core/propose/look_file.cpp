#include "propose/look_file.h"

#include <algorithm>
#include <nlohmann/json.hpp>
#include <stdexcept>

#include "data/by_id.h"
#include "data/data_files.h"
#include "data/taking.h"
#include "gear/fittings.h"
#include "gear/panel_kinds.h"
#include "plan/roles.h"
#include "reading/faults.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;
const JsonLimits kLookLimits{.kind = "list of looks"};

void demand(bool there, const char* what, const std::string& id) {
  if (!there) throw std::invalid_argument(say("There is no {} \"{}\". Name one of the catalogue.", what, foreign(id)));
}

bool isFault(const std::string& id) {
  const auto& all = faultKinds();
  return std::any_of(all.begin(), all.end(), [&](const auto& kind) { return kind.first == id; });
}

LookLight readLight(const Json& json) {
  LookLight l;
  take(json, "school", l.school);
  take(json, "stops", l.targetStops);
  take(json, "fronts", l.fronts);
  take(json, "grid", l.grid);
  take(json, "kelvin", l.kelvin);
  take(json, "gel", l.gel);
  take(json, "pattern", l.pattern);
  demand(byId(roleSchools(), l.school), "school", l.school);
  for (const std::string& front : l.fronts) demand(findModifier(front), "modifier", front);
  demand(findGel(l.gel), "gel", l.gel);
  return l;
}

Look readLook(const Json& json) {
  Look l;
  take(json, "id", l.id);
  take(json, "name", l.name);
  take(json, "for", l.forWhat);
  take(json, "steps", l.steps);
  take(json, "levels", l.levels);
  take(json, "mistakes", l.mistakes);
  for (std::string* text : {&l.name, &l.forWhat, &l.levels, &l.mistakes}) *text = translated(*text);
  for (std::string& step : l.steps) step = translated(step);
  const auto pattern = json["pattern"].get<std::string>();
  l.pattern = pattern == "none" ? FacePattern::None : patternOfId(pattern).value();
  const auto breadth = json.value("breadth", std::string("straight"));
  l.breadth = breadth == "broad" ? Breadth::Broad : breadth == "short" ? Breadth::Short : Breadth::Straight;
  const auto hardness = json.value("hardness", std::string("soft"));
  l.hardness = hardness == "any"    ? Hardness::Any
               : hardness == "firm" ? Hardness::Firm
               : hardness == "hard" ? Hardness::Hard
                                    : Hardness::Soft;
  take(json, "feather", l.feather);
  take(json, "turn", l.turn);
  take(json, "clamshell", l.clamshell);
  take(json, "profile", l.profile);
  take(json, "keyFronts", l.keyFronts);
  if (json.contains("elevation")) {
    l.elevationLeast = json["elevation"][0].get<double>();
    l.elevationMost = json["elevation"][1].get<double>();
  }
  take(json, "nearest", l.nearest);
  if (json.contains("lights"))
    for (const Json& one : json["lights"]) l.lights.push_back(readLight(one));
  take(json, "backdrop", l.backdrop);
  take(json, "tone", l.tone);
  take(json, "panel", l.panel);
  take(json, "pieces", l.pieces);
  take(json, "ratioStops", l.ratioStops);
  take(json, "wanted", l.wanted);
  for (const std::string& front : l.keyFronts) demand(findModifier(front), "modifier", front);
  if (!l.backdrop.empty()) demand(findBackdrop(l.backdrop), "backdrop", l.backdrop);
  if (!l.panel.empty()) demand(findPanelKind(l.panel), "panel", l.panel);
  for (const std::string& piece : l.pieces) demand(findPanelKind(piece), "piece", piece);
  for (const std::string& fault : l.wanted) demand(isFault(fault), "fault", fault);
  if (l.elevationLeast > l.elevationMost)
    throw std::invalid_argument(say("The lower end of the elevation is over the upper one. Exchange them."));
  return l;
}

}  // namespace

void readLooks(const Json& json, std::vector<Look>& looks) {
  eachEntry(json, "looks", kLookLimits, [&](const Json& j) { put(looks, readLook(j)); });
}

}  // namespace easel
