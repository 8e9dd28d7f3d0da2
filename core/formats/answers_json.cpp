#include "formats/answers_json.h"

#include <cmath>
#include <nlohmann/json.hpp>

#include "balance/backdrop_tone.h"
#include "exposure/aperture.h"
#include "gear/kit.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;

double rounded(double v, double step) { return std::isfinite(v) ? std::round(v / step) * step : v; }

Json apertureOf(double n) {
  if (!(n > 0)) return nullptr;
  return {{"exact", rounded(n, 1e-4)},
          {"nominal", writeAperture(n, ApertureStyle::Nominal)},
          {"thirds", writeAperture(n, ApertureStyle::Thirds)},
          {"tenths", writeAperture(n, ApertureStyle::Tenths)}};
}
Json readingOf(const LuminousExposure& r) {
  return {{"flashLuxSeconds", rounded(r.flash, 1e-4)},
          {"steadyLuxSeconds", rounded(r.steady, 1e-4)},
          {"flashShare", rounded(r.flashShare(), 1e-4)}};
}

}  // namespace

std::string writeAnswersText(const Plan& plan, const Answers& a, const SpotTable* table) {
  Json out;
  out["format"] = "jolly-easel-readings";
  out["version"] = 1;
  out["plan"] = plan.title;
  out["receptor"] = plan.receptor == Receptor::Flat ? "flat" : "dome";
  out["workingAperture"] = apertureOf(plan.camera.aperture);
  out["lights"] = Json::array();
  for (const LightAnswer& r : a.lights) {
    const Light* l = plan.light(r.id);
    const Unit* unit = l ? findUnit(l->unit) : nullptr;
    Json j;
    j["id"] = r.id;
    j["on"] = l && l->on;
    j["spot"] = idOf(r.held);
    j["held"] = describe(r.held.hold);
    j["alone"] = readingOf(r.alone);
    j["atFace"] = readingOf(r.atFace);
    j["aperture"] = apertureOf(r.aperture);
    j["within"] = r.within;
    j["stopsFromWorking"] = rounded(r.stopsFromWorking, 1e-3);
    j["power"] = unit ? unit->scale.write(l->power) : "";
    j["powerForTarget"] = {{"stopsBelowFull", rounded(r.wantedPower, 1e-3)},
                           {"setting", unit ? unit->scale.write(r.setting.stops) : ""},
                           {"shortfall", rounded(r.setting.shortfall, 1e-3)}};
    j["reaches"] = {apertureOf(r.apertureLowest), apertureOf(r.apertureFull)};
    j["backdropStops"] = rounded(r.backdropStops, 1e-3);
    j["distance"] = rounded(r.distance, 1e-3);
    j["elevation"] = rounded(r.elevation, 1e-2);
    j["apparentSize"] = rounded(r.apparentSize, 1e-2);
    out["lights"].push_back(j);
  }
  out["ambient"] = {{"luxSeconds", rounded(a.ambient.total(), 1e-5)},
                    {"stopsFromWorking", rounded(a.ambientStops, 1e-3)}};
  out["face"] = readingOf(a.face);
  out["face"]["held"] = describe(a.hold);
  out["face"]["aperture"] = apertureOf(a.aperture);
  out["backdrop"] = {{"stopsFromFace", rounded(a.backdropStops, 1e-3)},
                     {"linearValue", rounded(a.backdropValue, 1e-5)},
                     {"tone", toneName(a.backdropValue)}};
  for (size_t i = 0; table && i < table->spots.size(); ++i) {
    const MeterSpot& s = table->spots[i];
    const double stops = s.stops(table->together[i], plan.camera);
    Json j{{"id", s.id},
           {"name", s.name},
           {"receptor", s.receptor == Receptor::Flat ? "flat" : "dome"},
           {"luxSeconds", rounded(table->together[i], 1e-4)},
           {"aperture", apertureOf(s.aperture(table->together[i], plan.camera))},
           {"stopsFromWorking", std::isfinite(stops) ? Json(rounded(stops, 1e-3)) : Json()}};
    if (!s.held) j["error"] = rounded(table->error[i], 1e-4);
    out["spots"].push_back(std::move(j));
  }
  return out.dump(2) + "\n";
}

std::string writePowerText(const Plan& plan, const Answers& a, double fNumber) {
  Json out;
  out["format"] = "jolly-easel-power";
  out["version"] = 1;
  out["aperture"] = apertureOf(fNumber);
  out["lights"] = Json::array();
  for (const Light& l : plan.lights) {
    const Unit* unit = findUnit(l.unit);
    double wanted = 0;
    const auto s = powerForAperture(a, l, fNumber, &wanted);
    out["lights"].push_back({{"id", l.id},
                             {"wantedStopsBelowFull", rounded(wanted, 1e-3)},
                             {"stopsBelowFull", rounded(s.stops, 1e-3)},
                             {"setting", unit ? unit->scale.write(s.stops) : ""},
                             {"shortfall", rounded(s.shortfall, 1e-3)}});
  }
  return out.dump(2) + "\n";
}

}  // namespace easel
