#include "balance/balance.h"

#include <fmt/format.h>

#include <cmath>

#include "gear/kit.h"

namespace easel {

Balanced balance(const Plan& plan, const Answers& answers, BalanceBy by) {
  Balanced out;
  out.lights = plan.lights;
  const double wanted = exposureForAperture(plan.camera.aperture, plan.camera.iso, calibrationConstant(plan.receptor));
  // Two rounds: the amount to lower follows from what the units' steps have made of the first.
  for (int round = 0; round < (by == BalanceBy::Sum ? 2 : 1); ++round) {
    double face = answers.ambient.total();
    out.outOfReach.clear();
    for (Light& l : out.lights) {
      const LightAnswer* r = answers.light(l.id);
      const Unit* unit = findUnit(l.unit);
      if (!r || !unit || !l.on || r->apertureFull <= 0) continue;
      if (l.locked) {
        face += r->atFace.total();
        continue;
      }
      const double before = plan.light(l.id)->power;
      const auto s = unit->scale.settingFor(r->wantedPower - out.loweredBy);
      l.power = s.stops;
      face += r->atFace.total() * std::exp2(l.power - before);
      if (s.shortfall != 0)
        out.outOfReach.push_back(fmt::format("Light {} is {:.1f} stops too {} where it stands.", l.id,
                                             std::abs(s.shortfall), s.shortfall > 0 ? "weak" : "strong"));
    }
    if (by == BalanceBy::Sum && round == 0 && face > 0) out.loweredBy = std::max(0.0, std::log2(face / wanted));
  }
  return out;
}

Balanced lowered(const Plan& plan, const Answers& answers) {
  Answers a = answers;
  // Where each light stands is taken for its target.
  for (LightAnswer& r : a.lights)
    if (const Light* l = plan.light(r.id)) r.wantedPower = l->power;
  return balance(plan, a, BalanceBy::Sum);
}

}  // namespace easel
