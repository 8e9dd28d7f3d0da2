#include "figures_and_gear.h"

#include <fmt/format.h>

#include <cmath>
#include <filesystem>
#include <stdexcept>

#include "balance/backdrop_tone.h"
#include "balance/balance.h"
#include "data/data_files.h"
#include "exposure/aperture.h"
#include "exposure/stops.h"
#include "files/atomic_file.h"
#include "formats/answers_json.h"
#include "formats/catalogue.h"
#include "formats/ies_file.h"
#include "formats/kit_json.h"
#include "formats/plan_json.h"
#include "gear/kit.h"
#include "given_plan.h"
#include "meter/panel_shares.h"
#include "meter/quality.h"
#include "meter/spots.h"
#include "plan/lamp.h"
#include "plan/roles.h"
#include "propose/shelf.h"
#include "rendering/progressive_render.h"
#include "sitters/people.h"
#include "spoken/number.h"
#include "terminal.h"

namespace easel {
namespace {

Answers answersOf(const Plan& plan) {
  refuse(plan);
  ProgressiveRender studio(8, 8);
  studio.setPlan(plan);
  return computeAnswers(*studio.scene(), *studio.set());
}

}  // namespace

void showMeter(const std::string& file, bool json, bool csv) {
  const Plan plan = planFrom(file);
  refuse(plan);
  ProgressiveRender studio(8, 8);
  studio.setPlan(plan);
  const auto scene = studio.scene();
  const std::optional<SpotTable> table = csv || json ? std::optional(spotTable(*scene, *studio.set())) : std::nullopt;
  if (csv) return putText(writeSpotCsv(*table, plan.camera));
  const Answers a = computeAnswers(*scene, *studio.set());
  if (json) return putText(writeAnswersText(plan, a, &*table));
  put("{}\ntarget aperture {}, ISO {:.0f}\n", plan.title, writeAperture(plan.camera.aperture, ApertureStyle::Thirds),
      plan.camera.iso);
  for (const LightAnswer& r : a.lights) {
    const Light* l = plan.light(r.id);
    const Unit* unit = findUnit(l->unit);
    put("{}  {:<10} {:>14}  {:>8} stops  power {:<12} {}  backdrop {} stops\n", r.id, roleName(l->role),
        writeAperture(r.aperture, ApertureStyle::Tenths), signedStops(r.stopsFromWorking), unit->scale.write(l->power),
        l->on ? "on " : "off", signedStops(r.backdropStops));
  }
  if (plan.camera.closedBy != 0)
    put("the lens stands at {} for everything on\n",
        writeAperture(plan.camera.shootingAperture(), ApertureStyle::Thirds));
  if (a.face.total() > 0)
    put("all together {}, flash {:.0f} %, ", writeAperture(a.aperture, ApertureStyle::Tenths),
        100 * a.face.flashShare());
  else
    put("no light at the face, ");
  // Under when it is below, over when it is above: never "-1.5 under".
  if (a.ambientStops <= kNoLight)
    put("no ambient\n");
  else
    put("ambient {:.1f} stops {}\n", unsignedZero(std::abs(a.ambientStops), 10), a.ambientStops > 0 ? "over" : "under");
  if (a.backdropStops <= kNoLight)
    put("backdrop {}\n", toneName(a.backdropValue));
  else
    put("backdrop {} stops from the face, {}\n", signedStops(a.backdropStops), toneName(a.backdropValue));
}

void showPower(const std::string& file, const std::string& aperture, bool json) {
  const double n = readAperture(aperture);
  const Plan plan = planFrom(file);
  const Answers a = answersOf(plan);
  if (json) {
    putText(writePowerText(plan, a, n));
    return;
  }
  for (const Light& l : plan.lights) {
    const Unit* unit = findUnit(l.unit);
    const auto s = powerForAperture(a, l, n);
    put("{}  {} for {} at the face", l.id, unit->scale.write(s.stops), writeAperture(n, ApertureStyle::Thirds));
    if (s.shortfall > 0) put(", {:.1f} stops too weak at full power", s.shortfall);
    if (s.shortfall < 0) put(", {:.1f} stops too strong at lowest power", -s.shortfall);
    put("\n");
  }
}

void balancePlan(const std::string& file, bool sum, const std::string& out, bool json) {
  Plan plan = planFrom(file);
  const Balanced b = balance(plan, answersOf(plan), sum ? BalanceBy::Sum : BalanceBy::EachAlone);
  plan.lights = b.lights;
  if (!out.empty()) savePlan(out, plan);
  const Answers after = answersOf(plan);
  if (json) {
    putText(writeAnswersText(plan, after));
    return;
  }
  for (const LightAnswer& r : after.lights) {
    const Light* l = plan.light(r.id);
    put("{}  {:<10} {:<12} reads {} {}, wanted {}, is {} stops\n", r.id, roleName(l->role),
        findUnit(l->unit)->scale.write(l->power), writeAperture(r.aperture, ApertureStyle::Tenths), placeOf(r.held),
        signedStops(l->targetStops), signedStops(r.stopsFromWorking));
  }
  if (sum) put("all lowered by {:.2f} stops; ", b.loweredBy);
  put("all together {} at the face\n", writeAperture(after.aperture, ApertureStyle::Tenths));
  for (const std::string& s : b.outOfReach) put("{}\n", s);
}

void showQuality(const std::string& file) {
  const Plan plan = planFrom(file);
  ProgressiveRender studio(8, 8);
  studio.setPlan(plan);
  for (const LightQuality& q : lightQualities(*studio.scene(), *studio.set())) {
    put("{}\n", q.light);
    for (const std::string& w : q.words) put("  {}\n", w);
  }
  for (const PanelShare& s : panelShares(*studio.scene(), *studio.set())) put("{}\n", s.sentence);
}

void showLacking(const std::string& file, const std::string& kitName) {
  const Inventory k = loadKit(kitName.empty() ? kitFile() : std::filesystem::path(kitName));
  takeIntoUse(k);
  const auto gaps = lacking(loadPlan(file), k);
  for (const std::string& s : gaps) put("{}\n", s);
  if (gaps.empty()) put("{} has all that the plan needs.\n", k.name);
}

void showCatalogue(const std::string& file) {
  if (!file.empty()) {
    put("{} can be taken. It brings {}.\nPut it into {}\n", std::filesystem::path(file).filename().string(),
        whatItBrings(readWholeFile(file)), ownDataFolder().string());
    return;
  }
  put("Your own files are read from {}\n", ownDataFolder().string());
  put("units {}, modifiers {}, backdrops {}, ways to add a light {}, looks {}, people {}\n", knownUnits().size(),
      knownModifiers().size(), backdropMaterials().size(), roleSchools().size(), looks().size(),
      sitterCatalogue().size());
}

void writeIes(const std::string& file, const std::string& light, const std::string& out) {
  const Plan plan = planFrom(file);
  const Light* l = plan.light(light);
  const Unit* u = l ? findUnit(l->unit) : nullptr;
  if (!l || !u) throw std::runtime_error(fmt::format("There is no light {} with a known unit in this plan.", light));
  writeFileAtomically(out, writeIesText(frontOf(*l), u->lumenSeconds(0, 1), u->modellingWatts));
}

}  // namespace easel
