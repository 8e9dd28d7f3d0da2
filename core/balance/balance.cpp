#include "balance/balance.h"

#include <cmath>

#include "exposure/stops.h"
#include "gear/kit.h"
#include "meter/point_meter.h"
#include "spoken/say.h"

namespace easel {

namespace {

// One light that may be set: what it gives the face at full power, and how its power answers to "lower by".
struct Adjustable {
  Light* light;
  const Unit* unit;
  double wanted, atFull;  ///< stops below full for its target; lx s at the face at full power
};

}  // namespace

Balanced balance(const Plan& plan, const Answers& answers, BalanceBy by) {
  Balanced out;
  out.lights = plan.lights;
  // As everything on is read.
  const Receptor held = answers.hold.receptor;
  const double wanted = exposureForAperture(plan.camera.aperture, plan.camera.iso, calibrationConstant(held));
  double fixed = evenly(held, plan.ambient.lux * plan.camera.shutter);  // what no power here changes
  std::vector<Adjustable> lights;
  for (Light& l : out.lights) {
    const LightAnswer* r = answers.light(l.id);
    const Unit* unit = findUnit(l.unit);
    if (!r || !unit || !l.on || r->apertureFull <= 0) continue;
    if (l.locked) {
      fixed += r->inFace.total();
      continue;
    }
    // The modelling lamp of a flash burns on beside it.
    const bool flash = unit->kind == UnitKind::Flash;
    fixed += flash ? r->inFace.steady : 0;
    lights.push_back({&l, unit, r->wantedPower,
                      (flash ? r->inFace.flash : r->inFace.total()) * std::exp2(-plan.light(l.id)->power)});
  }
  if (by == BalanceBy::Sum) {
    // The face with every light `down` stops lower, each within its own scale and in its own steps: those that stand
    // at an end stay there, so the others must give more than their share.
    const auto face = [&](double down) {
      double sum = fixed;
      for (const Adjustable& a : lights) sum += a.atFull * std::exp2(a.unit->scale.settingFor(a.wanted - down).stops);
      return sum;
    };
    double least = 0, most = 0;
    if (face(0) > wanted) {
      for (most = 1; face(most) > wanted && most < 16; most *= 2) {
      }
      for (int i = 0; i < 40; ++i) {
        const double middle = (least + most) / 2;
        (face(middle) > wanted ? least : most) = middle;
      }
    }
    // Powers go in steps: of the settings on either side the nearer one.
    const auto off = [&](double down) { return std::abs(stopsFromRatio(std::max(1e-12, face(down)) / wanted)); };
    out.loweredBy = most > 0 && off(least) < off(most) ? least : most;
    if (face(out.loweredBy) > wanted * 1.08)
      out.outOfReach.push_back(
          say("Everything on is still {:.1f} stops over: locked lights, lights at their lowest power and room light "
              "cannot be lowered.",
              stopsFromRatio(face(out.loweredBy) / wanted)));
  }
  for (const Adjustable& a : lights) {
    const auto s = a.unit->scale.settingFor(a.wanted - out.loweredBy);
    a.light->power = s.stops;
    if (s.shortfall != 0)
      out.outOfReach.push_back(
          s.shortfall > 0 ? sayMany(s.shortfall, "{} is {:.1f} stop too weak at full power.",
                                    "{} is {:.1f} stops too weak at full power.", a.light->id, s.shortfall)
                          : sayMany(-s.shortfall, "{} is {:.1f} stop too strong at its lowest power.",
                                    "{} is {:.1f} stops too strong at its lowest power.", a.light->id, -s.shortfall));
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

Light onItsTarget(const Scene& scene, const Plan& plan, Light light) {
  if (light.locked || !findUnit(light.unit)) return light;
  Plan alone = plan;
  alone.lights = {light};
  const Answers answers = computeAnswers(scene, placedSetOf(alone));
  light.power = powerForAperture(answers, light, plan.camera.aperture * ratioFromStops(light.targetStops / 2)).stops;
  return light;
}

}  // namespace easel
