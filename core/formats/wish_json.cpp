#include "formats/wish_json.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "balance/backdrop_tone.h"
#include "exposure/aperture.h"
#include "exposure/ratio.h"
#include "files/json_front.h"
#include "formats/plan_json.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;

const JsonLimits kWishLimits{"wish", 8u << 20, 66, 25'000};  // it may hold a whole plan

[[noreturn]] void refuse(const std::string& where, const std::string& what) {
  throw FileError(say("The wish cannot be read, at /{}: {}", foreign(where), what));
}

std::string word(const Json& j, const char* key, const std::vector<std::string>& known) {
  if (!j[key].is_string()) refuse(key, say("a word is wanted here."));
  const auto text = j[key].get<std::string>();
  if (std::find(known.begin(), known.end(), text) == known.end()) {
    std::string all;
    for (const std::string& k : known) all += (all.empty() ? "" : ", ") + k;
    refuse(key, say("\"{}\" is none of {}.", foreign(text), all));
  }
  return text;
}

}  // namespace

WishFile readWishText(std::string_view text, const std::filesystem::path& folder) {
  Json j = parseJson(text, kWishLimits);
  requireFormat(j, "jolly-easel-wish", 1, kWishLimits);
  const std::vector<std::string> keys = {"format",   "version",      "look",     "pattern", "breadth", "ratio",
                                         "hardness", "backdropTone", "aperture", "keyLeft", "plan"};
  for (const auto& [key, value] : j.items())
    if (std::find(keys.begin(), keys.end(), key) == keys.end()) {
      std::string all;
      for (const std::string& k : keys) all += (all.empty() ? "" : ", ") + k;
      refuse(key, say("there is no such key. Known are {}.", all));
    }
  WishFile out;
  Wish& w = out.wish;
  if (j.contains("look")) {
    std::vector<std::string> known;
    for (const Look& l : looks()) known.push_back(l.id);
    w.look = word(j, "look", known);
  }
  if (j.contains("pattern"))
    w.pattern = patternOfId(word(j, "pattern", {"flat", "butterfly", "loop", "rembrandt", "split", "back"}));
  if (j.contains("breadth")) {
    const std::string b = word(j, "breadth", {"straight", "broad", "short"});
    w.breadth = b == "broad" ? Breadth::Broad : b == "short" ? Breadth::Short : Breadth::Straight;
  }
  if (j.contains("hardness")) {
    const std::string h = word(j, "hardness", {"any", "soft", "firm", "hard"});
    w.hardness = h == "soft"   ? Hardness::Soft
                 : h == "firm" ? Hardness::Firm
                 : h == "hard" ? Hardness::Hard
                               : Hardness::Any;
  }
  if (j.contains("backdropTone")) {
    std::vector<std::string> known;
    for (const Tone& t : backdropTones()) known.push_back(t.id);
    w.tone = word(j, "backdropTone", known);
  }
  try {
    if (j.contains("ratio")) {
      if (!j["ratio"].is_string()) refuse("ratio", say("write it like \"4:1\", unit against unit."));
      const double ratio = readRatio(j["ratio"].get<std::string>(), RatioSchool::UnitToUnit);
      w.ratioStops = ratio;
    }
    if (j.contains("aperture"))
      w.aperture = j["aperture"].is_number() ? exactFromEngraved(j["aperture"].get<double>())
                                             : readAperture(j["aperture"].get<std::string>());
  } catch (const std::invalid_argument& e) {
    refuse(j.contains("ratio") ? say("ratio or /aperture") : "aperture", e.what());
  } catch (const nlohmann::json::exception&) {
    refuse("aperture", say("write it like \"f/8\" or 8."));
  }
  if (w.aperture && !(*w.aperture >= 0.7 && *w.aperture <= 64)) refuse("aperture", say("it goes from f/0.7 to f/64."));
  if (w.ratioStops && !(*w.ratioStops >= 0 && *w.ratioStops <= 6)) refuse("ratio", say("it goes from 1:1 to 64:1."));
  if (j.contains("keyLeft")) {
    if (!j["keyLeft"].is_boolean()) refuse("keyLeft", say("true or false is wanted here."));
    w.keyLeft = j["keyLeft"].get<bool>();
  }
  if (j.contains("plan")) {
    if (j["plan"].is_string())
      out.plan = loadPlan(folder / j["plan"].get<std::string>());
    else
      out.plan = readPlanText(j["plan"].dump());
  }
  return out;
}

WishFile loadWish(const std::filesystem::path& file) {
  return readNamed(file, kWishLimits, [&](std::string_view text) { return readWishText(text, file.parent_path()); });
}

}  // namespace easel
