#include "formats/wish_json.h"

#include <fmt/ranges.h>

#include <algorithm>
#include <nlohmann/json.hpp>

#include "balance/backdrop_tone.h"
#include "exposure/aperture.h"
#include "exposure/ratio.h"
#include "files/record.h"
#include "formats/plan_json.h"
#include "spoken/marked.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;

const JsonLimits kWishLimits{marked("wish"), 8u << 20, 66, 25'000};  // it may hold a whole plan

// A word out of `known`; empty when none stands there.
std::string word(const Record& wish, const char* key, const std::vector<std::string>& known) {
  if (!wish.contains(key)) return {};
  const Record at = wish[key];
  auto text = at.get<std::string>();
  if (std::find(known.begin(), known.end(), text) == known.end())
    at.refuse(say("\"{}\" is none of {}.", foreign(text), fmt::format("{}", fmt::join(known, ", "))));
  return text;
}

template <class List>
std::vector<std::string> idsOf(const List& all) {
  std::vector<std::string> ids;
  for (const auto& one : all) ids.push_back(one.id);
  return ids;
}

void readLevels(const Record& file, Wish& wish) {
  if (file.contains("ratio")) {
    const Record at = file["ratio"];
    if (!at.json().is_string()) at.refuse(say("write it like \"4:1\", unit against unit."));
    at.within([&] { wish.ratioStops = readRatio(at.get<std::string>(), RatioSchool::UnitToUnit); });
    if (!(*wish.ratioStops >= 0 && *wish.ratioStops <= 6)) at.refuse(say("it goes from 1:1 to 64:1."));
  }
  if (file.contains("aperture")) {
    const Record at = file["aperture"];
    if (!at.json().is_string() && !at.json().is_number()) at.refuse(say("write it like \"f/8\" or 8."));
    at.within([&] {
      wish.aperture = at.json().is_number() ? exactFromEngraved(at.get<double>()) : readAperture(at.get<std::string>());
    });
    if (!(*wish.aperture >= 0.7 && *wish.aperture <= 64)) at.refuse(say("it goes from f/0.7 to f/64."));
  }
}

}  // namespace

WishFile readWishText(std::string_view text, const std::filesystem::path& folder) {
  const Json json = parseJson(text, kWishLimits);
  requireFormat(json, "jolly-easel-wish", 1, kWishLimits);
  const Record file(json, kWishLimits);
  const std::vector<std::string> keys = {"format",   "version",      "look",     "pattern", "breadth", "ratio",
                                         "hardness", "backdropTone", "aperture", "keyLeft", "plan"};
  file.eachMember([&](const std::string& key, const Record& at) {
    if (std::find(keys.begin(), keys.end(), key) == keys.end())
      at.refuse(say("there is no such key. Known are {}.", fmt::format("{}", fmt::join(keys, ", "))));
  });
  WishFile out;
  Wish& w = out.wish;
  if (file.contains("look")) w.look = word(file, "look", idsOf(looks()));
  if (file.contains("pattern"))
    w.pattern = patternOfId(word(file, "pattern", {"flat", "butterfly", "loop", "rembrandt", "split", "back"}));
  if (file.contains("breadth")) {
    const std::string b = word(file, "breadth", {"straight", "broad", "short"});
    w.breadth = b == "broad" ? Breadth::Broad : b == "short" ? Breadth::Short : Breadth::Straight;
  }
  if (file.contains("hardness")) {
    const std::string h = word(file, "hardness", {"any", "soft", "firm", "hard"});
    w.hardness = h == "soft"   ? Hardness::Soft
                 : h == "firm" ? Hardness::Firm
                 : h == "hard" ? Hardness::Hard
                               : Hardness::Any;
  }
  w.tone = word(file, "backdropTone", idsOf(backdropTones()));
  readLevels(file, w);
  if (file.contains("keyLeft")) w.keyLeft = file["keyLeft"].get<bool>();
  if (file.contains("plan")) {
    const Record plan = file["plan"];
    out.plan = plan.json().is_string() ? loadPlan(folder / plan.get<std::string>()) : readPlanText(plan.json().dump());
  }
  return out;
}

WishFile loadWish(const std::filesystem::path& file) {
  return readNamed(file, kWishLimits, [&](std::string_view text) { return readWishText(text, file.parent_path()); });
}

}  // namespace easel
