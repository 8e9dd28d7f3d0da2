#include "formats/kit_json.h"

#include <fmt/format.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "data/schema.h"
#include "files/places.h"
#include "files/record.h"
#include "gear/fittings.h"
#include "gear/gear_file.h"
#include "gear/panel_kinds.h"
#include "plan/check.h"
#include "plan/placement.h"
#include "spoken/marked.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;
constexpr const char* kKitFormat = "jolly-easel-kit";
// Measured profiles are the bulk of it: sixty of the largest that can be read.
const JsonLimits kKitLimits{marked("kit"), 96u << 20, 16, 20'000'000, 1000, 10'000};
// Stands in for a profile until the rest is laid out; no name can hold its first character.
constexpr const char* kProfileMark = "\x02profile";

// Read apart: a schema would go through millions of figures one by one.
std::shared_ptr<const AngularProfile> readProfile(const Json& p) {
  try {
    return std::make_shared<const AngularProfile>(p.at("vertical").get<std::vector<double>>(),
                                                  p.at("horizontal").get<std::vector<double>>(),
                                                  p.at("candela").get<std::vector<std::vector<double>>>());
  } catch (const nlohmann::json::exception&) {
    throw std::invalid_argument(say("A profile needs lists of numbers called vertical, horizontal and candela."));
  }
}

}  // namespace

Inventory readKitText(std::string_view text) {
  Json json = parseJson(text, kKitLimits);
  requireFormat(json, kKitFormat, kKitVersion, kKitLimits);
  std::map<size_t, Json> profiles;
  if (json.contains("ownModifiers") && json["ownModifiers"].is_array())
    for (size_t i = 0; i < json["ownModifiers"].size(); ++i)
      if (Json& m = json["ownModifiers"][i]; m.is_object() && m.contains("profile")) {
        profiles[i] = std::move(m["profile"]);
        m.erase("profile");
      }
  static const Schema schema("kit.schema.json", kKitLimits);
  schema.require(json);
  const Record kit(json, kKitLimits);
  Inventory out;
  take(kit, "name", out.name);
  struct Part {
    const char* name;
    std::map<std::string, int>* counts;
  };
  for (auto [name, counts] : {Part{"units", &out.units},
                              {"modifiers", &out.modifiers},
                              {"panels", &out.panels},
                              {"supports", &out.supports},
                              {"gels", &out.gels}})
    kit.each(name, [counts = counts](const Record& one) {
      (*counts)[one["id"].get<std::string>()] = int(one.value("count", 1.0));
    });
  kit.each("ownUnits", [&](const Record& one) { out.ownUnits.push_back(readUnit(one)); });
  std::vector<Modifier> known = modifiers();
  kit.each("ownModifiers", [&](const Record& one) {
    const auto profile = profiles.find(out.ownModifiers.size());
    out.ownModifiers.push_back(readModifier(one, known));
    known.push_back(out.ownModifiers.back());
    if (profile != profiles.end()) out.ownModifiers.back().profile = readProfile(profile->second);
  });
  kit.each("studios", [&](const Record& studio) {
    StudioCorrections& s = out.studios.emplace_back();
    s.studio = studio["name"].get<std::string>();
    take(studio, "room", s.room);
    for (auto [name, to] : {std::pair{"units", &s.units}, {"modifiers", &s.modifiers}})
      studio.each(name,
                  [to = to](const Record& one) { (*to)[one["id"].get<std::string>()] = one["stops"].get<double>(); });
    studio.each("sure", [&](const Record& one) {
      s.sure.push_back(
          {one["unit"].get<std::string>(), one["modifier"].get<std::string>(), one["within"].get<double>()});
    });
  });
  take(kit, "studio", out.studio);
  return out;
}

std::string writeKitText(const Inventory& k) {
  Json json = {{"format", kKitFormat}, {"version", kKitVersion}, {"name", k.name}};
  auto counts = [&](const char* name, const std::map<std::string, int>& all) {
    json[name] = Json::array();
    for (const auto& [id, n] : all)
      if (n > 0) json[name].push_back({{"id", id}, {"count", n}});
  };
  counts("units", k.units);
  counts("modifiers", k.modifiers);
  counts("panels", k.panels);
  counts("supports", k.supports);
  counts("gels", k.gels);
  json["ownUnits"] = Json::array();
  for (const Unit& u : k.ownUnits) json["ownUnits"].push_back(written(u));
  json["ownModifiers"] = Json::array();
  std::vector<std::string> profiles;
  for (const Modifier& m : k.ownModifiers) {
    json["ownModifiers"].push_back(written(m));
    if (!m.profile) continue;
    json["ownModifiers"].back()["profile"] = fmt::format("{}{}", kProfileMark, profiles.size());
    profiles.push_back(Json{
        {"vertical", m.profile->vertical()}, {"horizontal", m.profile->horizontal()}, {"candela", m.profile->candela()}}
                           .dump());
  }
  if (!k.studios.empty()) {
    json["studio"] = k.studio;
    json["studios"] = Json::array();
    for (const StudioCorrections& s : k.studios) {
      Json one = {{"name", s.studio},
                  {"room", s.room},
                  {"units", Json::array()},
                  {"modifiers", Json::array()},
                  {"sure", Json::array()}};
      for (const auto& [id, stops] : s.units) one["units"].push_back({{"id", id}, {"stops", stops}});
      for (const auto& [id, stops] : s.modifiers) one["modifiers"].push_back({{"id", id}, {"stops", stops}});
      for (const auto& sure : s.sure)
        one["sure"].push_back({{"unit", sure.unit}, {"modifier", sure.modifier}, {"within", sure.within}});
      json["studios"].push_back(std::move(one));
    }
  }
  std::string text = json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
  // A profile's figures in one line each: one figure a line, as the rest is laid out, is eight times their size.
  for (size_t i = 0; i < profiles.size(); ++i) {
    const std::string mark = Json(fmt::format("{}{}", kProfileMark, i)).dump();
    text.replace(text.find(mark), mark.size(), profiles[i]);
  }
  return text;
}

Inventory loadKit(const std::filesystem::path& file) { return readNamed(file, kKitLimits, readKitText); }
void saveKit(const std::filesystem::path& file, const Inventory& k) {
  writeWithin(file, writeKitText(k), kKitLimits, readKitText);
}

std::filesystem::path kitFile() { return ownFolder() / "kit.json"; }

std::vector<std::string> lacking(const Plan& plan, const Inventory& kit) {
  std::vector<std::string> out;
  if (kit.empty()) return out;
  std::map<std::string, int> units, modifiers, panels, gels;
  int stands = 0, booms = 0, tallest = 0;
  for (const Light& l : plan.lights) {
    ++units[l.unit];
    ++modifiers[l.modifier];
    if (l.fittings.gel != "none") ++gels[l.fittings.gel];
    const Modifier* m = findModifier(l.modifier);
    if (m && (m->mount == Mount::Lens || m->family == ModifierFamily::Large)) continue;
    ++(hangsOver(plan, lightPose(plan, l).centre) ? booms : stands);
    if (l.height > 3.0) ++tallest;
  }
  for (const Panel& p : plan.panels)
    if (p.on && p.kind != "photographer") ++panels[p.kind];
  auto compare = [&](const std::map<std::string, int>& wanted, const std::map<std::string, int>& has, auto nameOf) {
    for (const auto& [id, n] : wanted) {
      const auto at = has.find(id);
      const int there = at == has.end() ? 0 : at->second;
      if (there < n)
        out.push_back(
            say("{}: {} needed, the kit has {}.", nameOf(id), n, there == 0 ? "none" : std::to_string(there)));
    }
  };
  auto named = [](auto* (*finder)(std::string_view)) {
    return [finder](const std::string& id) {
      const auto* found = finder(id);
      return found ? found->name : id;
    };
  };
  compare(units, kit.units, named(findUnit));
  compare(modifiers, kit.modifiers, named(findModifier));
  compare(panels, kit.panels, named(findPanelKind));
  compare(gels, kit.gels, named(findGel));
  int haveStands = 0, haveBooms = 0;
  for (const Support& s : supports())
    if (const auto at = kit.supports.find(s.id); at != kit.supports.end())
      (s.boom ? haveBooms : haveStands) += at->second;
  if (stands > haveStands) out.push_back(say("Stands: {} needed for the lights, the kit has {}.", stands, haveStands));
  if (booms > haveBooms)
    out.push_back(say("Booms: {} needed for lights over the sitter, the kit has {}.", booms, haveBooms));
  if (tallest > 0)
    out.push_back(sayMany(tallest, "{} light hangs higher than 3 m: no stand of the catalogue reaches that.",
                          "{} lights hang higher than 3 m: no stand of the catalogue reaches that.", tallest));
  return out;
}

}  // namespace easel
