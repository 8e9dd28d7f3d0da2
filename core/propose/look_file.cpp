#include "propose/look_file.h"

#include <algorithm>
#include <stdexcept>
#include <tuple>

#include "analysis/faults.h"
#include "data/by_id.h"
#include "data/data_files.h"
#include "files/record.h"
#include "gear/fittings.h"
#include "gear/panel_kinds.h"
#include "plan/roles.h"
#include "spoken/say.h"

namespace easel {
namespace {

void demand(bool there, const char* what, const std::string& id) {
  if (!there) throw std::invalid_argument(say("There is no {} \"{}\". Name one of the catalogue.", what, foreign(id)));
}

bool isFault(const std::string& id) {
  const auto& all = faultKinds();
  return std::any_of(all.begin(), all.end(), [&](const auto& kind) { return kind.first == id; });
}

LookLight readLight(const Record& record) {
  LookLight l;
  take(record, "school", l.school);
  take(record, "stops", l.targetStops);
  take(record, "fronts", l.fronts);
  take(record, "grid", l.grid);
  take(record, "kelvin", l.kelvin);
  take(record, "gel", l.gel);
  take(record, "pattern", l.pattern);
  demand(byId(roleSchools(), l.school), "school", l.school);
  for (const std::string& front : l.fronts) demand(findModifier(front), "modifier", front);
  demand(findGel(l.gel), "gel", l.gel);
  return l;
}

Look readLook(const Record& record) {
  Look l;
  take(record, "id", l.id);
  take(record, "name", l.name);
  take(record, "terms", l.terms);
  take(record, "for", l.forWhat);
  take(record, "steps", l.steps);
  take(record, "levels", l.levels);
  take(record, "mistakes", l.mistakes);
  for (std::string* text : {&l.name, &l.forWhat, &l.levels, &l.mistakes}) *text = translated(*text);
  for (auto* texts : {&l.steps, &l.terms})
    for (std::string& text : *texts) text = translated(text);
  const auto pattern = record["pattern"].get<std::string>();
  l.pattern = pattern == "none" ? FacePattern::None : patternOfId(pattern).value();
  const auto breadth = record.value("breadth", std::string("straight"));
  l.breadth = breadth == "broad" ? Breadth::Broad : breadth == "short" ? Breadth::Short : Breadth::Straight;
  const auto hardness = record.value("hardness", std::string("soft"));
  l.hardness = hardness == "any"    ? Hardness::Any
               : hardness == "firm" ? Hardness::Firm
               : hardness == "hard" ? Hardness::Hard
                                    : Hardness::Soft;
  take(record, "feather", l.feather);
  take(record, "turn", l.turn);
  take(record, "clamshell", l.clamshell);
  take(record, "profile", l.profile);
  take(record, "keyFronts", l.keyFronts);
  if (record.contains("elevation"))
    std::tie(l.elevationLeast, l.elevationMost) = record["elevation"].get<std::pair<double, double>>();
  take(record, "nearest", l.nearest);
  record.each("lights", [&](const Record& one) { l.lights.push_back(readLight(one)); });
  take(record, "backdrop", l.backdrop);
  take(record, "tone", l.tone);
  take(record, "panel", l.panel);
  take(record, "pieces", l.pieces);
  take(record, "ratioStops", l.ratioStops);
  take(record, "wanted", l.wanted);
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

void readLooks(const Record& record, std::vector<Look>& looks) {
  record.each("looks", [&](const Record& r) { put(looks, readLook(r)); });
}

}  // namespace easel
