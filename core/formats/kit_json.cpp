#include "formats/kit_json.h"

#include <fmt/format.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "gear/fittings.h"
#include "gear/panels.h"
#include "gear/pattern.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;
constexpr const char* kFormat = "jolly-easel-kit";
// Measured profiles are the bulk of it: sixty of the largest that can be read.
const JsonLimits kKitLimits{"kit", 96u << 20, 16, 20'000'000, 1000, 10'000};
constexpr const char* kOutlines[] = {"rectangle", "octagon", "disc", "ring", "ball"};
constexpr const char* kFamilies[] = {"reflector", "dish", "softbox", "umbrella",
                                     "spot",      "small", "continuous", "large"};
// Stands in for a profile until the rest is laid out; no name can hold its first character.
constexpr const char* kProfileMark = "\x02profile";
constexpr const char* kMounts[] = {"stand", "lens"};
constexpr const char* kNotations[] = {"fraction", "stops", "percent", "watt-seconds"};

// Reads members with the place that they stand in, so that an error can name it.
class Reader {
 public:
  Reader(const Json& json, std::string path) : json_(json), path_(std::move(path)) {
    if (!json.is_object()) throw KitFileError(fmt::format("This is not a usable kit: {} is no object.", where("")));
  }
  double number(const char* name, double missing, double least, double most) const {
    if (!json_.contains(name)) return missing;
    const Json& j = json_[name];
    if (!j.is_number() || !std::isfinite(j.get<double>()) || j.get<double>() < least || j.get<double>() > most)
      throw KitFileError(fmt::format("This is not a usable kit: {} must be a number from {} to {}. Correct it there.",
                                     where(name), least, most));
    return j.get<double>();
  }
  std::string text(const char* name, const std::string& missing = {}) const {
    if (!json_.contains(name)) return missing;
    const Json& j = json_[name];
    if (!j.is_string() || j.get<std::string>().size() > 400)
      throw KitFileError(fmt::format("This is not a usable kit: {} must be a short text.", where(name)));
    return j.get<std::string>();
  }
  bool flag(const char* name) const {
    if (!json_.contains(name)) return false;
    if (!json_[name].is_boolean())
      throw KitFileError(fmt::format("This is not a usable kit: {} must be true or false.", where(name)));
    return json_[name].get<bool>();
  }
  std::string id() const {
    const std::string v = text("id");
    if (v.empty() || v.size() > 60)
      throw KitFileError(fmt::format("This is not a usable kit: {} is missing.", where("id")));
    return v;
  }
  template <size_t N>
  int oneOf(const char* name, const char* const (&all)[N], int missing) const {
    if (!json_.contains(name)) return missing;
    const std::string v = text(name);
    for (size_t i = 0; i < N; ++i)
      if (v == all[i]) return int(i);
    throw KitFileError(fmt::format("This is not a usable kit: \"{}\" at {} is not known.", foreign(v), where(name)));
  }
  const Json& json() const { return json_; }
  std::string where(const std::string& name) const { return path_ + "/" + name; }

 private:
  const Json& json_;
  std::string path_;
};

template <class F>
void each(const Json& json, const char* name, F use) {
  if (!json.contains(name)) return;
  if (!json[name].is_array() || json[name].size() > 500)
    throw KitFileError(fmt::format("This is not a usable kit: /{} must be a list of at most 500.", name));
  for (size_t i = 0; i < json[name].size(); ++i) use(Reader(json[name][i], fmt::format("/{}/{}", name, i)));
}

Json written(const Unit& u) {
  return {{"id", u.id},
          {"name", u.name},
          {"kind", u.kind == UnitKind::Flash ? "flash" : "continuous"},
          {"wattSeconds", u.wattSeconds},
          {"efficacy", u.efficacy},
          {"lumens", u.lumens},
          {"kelvin", u.kelvin},
          {"kelvinTo", u.kelvinTo},
          {"recycle", u.recycle},
          {"notation", kNotations[int(u.scale.notation)]},
          {"lowestStops", u.scale.lowestStops},
          {"step", u.scale.step},
          {"topNumber", u.scale.topNumber},
          {"modellingWatts", u.modellingWatts},
          {"source", u.source}};
}
Json written(const Modifier& m) {
  return {{"id", m.id},
            {"name", m.name},
            {"outline", kOutlines[int(m.outline)]},
            {"width", m.width},
            {"height", m.height},
            {"centre", m.centre},
            {"depth", m.depth},
            {"transmission", m.transmission},
            {"lobe", m.lobe},
            {"hotCentre", m.hotCentre},
            {"grid", m.grid},
            {"squareCells", m.squareCells},
            {"cutOff", m.cutOff},
            {"backShare", m.backShare},
            {"innerDiffuser", m.innerDiffuser},
            {"takesDeflector", m.takesDeflector},
            {"takesDoors", m.takesDoors},
            {"family", kFamilies[int(m.family)]},
            {"mount", kMounts[int(m.mount)]},
            {"zooms", m.zooms},
            {"projects", m.projects},
            {"source", m.source}};
}

Unit readUnit(const Reader& r) {
  Unit u;
  u.id = r.id();
  u.name = r.text("name", u.id);
  const std::string kind = r.text("kind", "flash");
  u.kind = kind == "continuous" ? UnitKind::Continuous : UnitKind::Flash;
  u.wattSeconds = r.number("wattSeconds", 0, 0, 20000);
  u.efficacy = r.number("efficacy", 25, 0, 100);
  u.lumens = r.number("lumens", 0, 0, 1e6);
  u.kelvin = r.number("kelvin", 5600, 1667, 25000);
  u.kelvinTo = r.number("kelvinTo", 0, 0, 25000);
  u.recycle = r.number("recycle", 0, 0, 120);
  u.scale.notation = PowerNotation(r.oneOf("notation", kNotations, 0));
  u.scale.lowestStops = r.number("lowestStops", -7, -14, -0.1);
  u.scale.step = r.number("step", 0.1, 0.05, 1);
  u.scale.topNumber = r.number("topNumber", 10, 1, 20);
  u.scale.fullWattSeconds = u.wattSeconds;
  u.modellingWatts = r.number("modellingWatts", 0, 0, 5000);
  u.source = r.text("source");
  if (u.kind == UnitKind::Flash ? u.wattSeconds * u.efficacy <= 0 : u.lumens <= 0)
    throw KitFileError(
        fmt::format("This is not a usable kit: {} gives no light. A flash wants wattSeconds, a continuous "
                    "unit lumens.",
                    r.where("")));
  return u;
}
Modifier readModifier(const Reader& r) {
  Modifier m;
  m.id = r.id();
  m.name = r.text("name", m.id);
  m.outline = Outline(r.oneOf("outline", kOutlines, 0));
  m.width = r.number("width", 0.3, 0.01, 8);
  m.height = r.number("height", m.width, 0.01, 8);
  m.centre = r.number("centre", 0, 0, m.width * 0.95);
  m.depth = r.number("depth", 0.2, 0, 3);
  m.transmission = r.number("transmission", 0.5, 0.001, 1);
  m.lobe = r.number("lobe", 1.3, 0, 400);
  m.hotCentre = r.number("hotCentre", 0, 0, 6);
  m.grid = r.number("grid", 0, 0, 60);
  m.squareCells = r.flag("squareCells");
  m.cutOff = r.number("cutOff", 0, 0, 89);
  m.backShare = r.number("backShare", 0, 0, 0.9);
  m.innerDiffuser = r.flag("innerDiffuser");
  m.takesDeflector = r.flag("takesDeflector");
  m.takesDoors = r.flag("takesDoors");
  m.family = ModifierFamily(r.oneOf("family", kFamilies, 0));
  m.mount = Mount(r.oneOf("mount", kMounts, 0));
  m.zooms = r.flag("zooms");
  m.projects = r.flag("projects");
  m.source = r.text("source");
  if (r.json().contains("profile")) try {
      const Json& p = r.json()["profile"];
      m.profile = std::make_shared<const AngularProfile>(p.at("vertical").get<std::vector<double>>(),
                                                         p.at("horizontal").get<std::vector<double>>(),
                                                         p.at("candela").get<std::vector<std::vector<double>>>());
    } catch (const std::invalid_argument& e) {
      throw KitFileError(fmt::format("This is not a usable kit: {}: {}", r.where("profile"), e.what()));
    } catch (const nlohmann::json::exception&) {
      throw KitFileError(
          fmt::format("This is not a usable kit: {} wants lists of numbers called vertical, horizontal and "
                      "candela.",
                      r.where("profile")));
    }
  return m;
}

}  // namespace

Inventory readKitText(std::string_view text) {
  const Json json = parseJson(text, kKitLimits);
  requireFormat(json, kFormat, kKitVersion, kKitLimits);
  Inventory out;
  out.name = Reader(json, "").text("name", out.name);
  struct Part {
    const char* name;
    std::map<std::string, int>* counts;
  };
  for (auto [name, counts] : {Part{"units", &out.units},
                              {"modifiers", &out.modifiers},
                              {"panels", &out.panels},
                              {"supports", &out.supports},
                              {"gels", &out.gels}})
    each(json, name, [counts = counts](const Reader& r) { (*counts)[r.id()] = int(r.number("count", 1, 0, 999)); });
  each(json, "ownUnits", [&](const Reader& r) { out.ownUnits.push_back(readUnit(r)); });
  each(json, "ownModifiers", [&](const Reader& r) { out.ownModifiers.push_back(readModifier(r)); });
  return out;
}

std::string writeKitText(const Inventory& k) {
  Json json = {{"format", kFormat}, {"version", kKitVersion}, {"name", k.name}};
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
    profiles.push_back(Json{{"vertical", m.profile->vertical()},
                            {"horizontal", m.profile->horizontal()},
                            {"candela", m.profile->candela()}}
                           .dump());
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
  writeWithin(file, writeKitText(k), kKitLimits);
}

std::filesystem::path kitFile() { return patternFolder().parent_path() / "kit.json"; }

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
    const bool over = l.distance < 0.5 && l.height > plan.sitter.eyeHeight + 0.3;
    ++(over ? booms : stands);
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
            fmt::format("{}: {} wanted, the kit has {}.", nameOf(id), n, there == 0 ? "none" : std::to_string(there)));
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
  if (stands > haveStands)
    out.push_back(fmt::format("Stands: {} wanted for the lights, the kit has {}.", stands, haveStands));
  if (booms > haveBooms)
    out.push_back(fmt::format("Booms: {} wanted for lights over the sitter, the kit has {}.", booms, haveBooms));
  if (tallest > 0)
    out.push_back(fmt::format("{} light{} higher than 3 m: no stand of the catalogue reaches that.", tallest,
                              tallest == 1 ? " hangs" : "s hang"));
  return out;
}

}  // namespace easel
