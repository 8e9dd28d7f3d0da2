#include "shared_state.h"

#include <nlohmann/json.hpp>

#include "files/atomic_file.h"
#include "files/json_front.h"

namespace easel {
namespace {

using json = nlohmann::ordered_json;
const JsonLimits kLimits{"simulated studio", 256 << 10, 6, 2000, 200, 200, "Start the simulated devices anew."};

}  // namespace

SharedState readState(const std::filesystem::path& folder) {
  SharedState s;
  try {
    const json j =
        readNamed(folder / "state.json", kLimits, [](const std::string& text) { return parseJson(text, kLimits); });
    s.seed = j.value("seed", std::uint64_t(1));
    s.flash = j.value("flash", 0);
    const json heads = j.value("heads", json::object()), fired = j.value("fired", json::object());
    for (const auto& [id, h] : heads.items())
      s.heads[id] = {h.value("on", false), h.value("modelling", false), h.value("power", 0.0)};
    for (const auto& [id, f] : fired.items()) s.fired[id] = {f.value("energy", 1.0), f.value("modelling", false)};
  } catch (const std::exception&) {
    return {};
  }
  return s;
}

void writeState(const std::filesystem::path& folder, const SharedState& s) {
  json j{{"format", "jolly-easel-simulated"}, {"version", 1}, {"seed", s.seed}, {"flash", s.flash}};
  j["heads"] = json::object();
  for (const auto& [id, h] : s.heads) j["heads"][id] = {{"on", h.on}, {"modelling", h.modelling}, {"power", h.power}};
  j["fired"] = json::object();
  for (const auto& [id, f] : s.fired) j["fired"][id] = {{"energy", f.energy}, {"modelling", f.modelling}};
  writeWithin(folder / "state.json", j.dump(1) + "\n", kLimits,
              [](std::string_view text) { parseJson(text, kLimits); });
}

Plan planWith(const Plan& plan, const SharedState& state) {
  Plan p = plan;
  for (Light& l : p.lights)
    if (const auto at = state.heads.find(l.id); at != state.heads.end()) {
      l.power = at->second.power;
      l.on = at->second.on;
      l.modelling = at->second.modelling;
    }
  return p;
}

}  // namespace easel
