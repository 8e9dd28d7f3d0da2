#include "balance/backdrop_tone.h"

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "exposure/meter.h"
#include "exposure/stops.h"
#include "gear/kit.h"
#include "plan/lens.h"
#include "spoken/say.h"

namespace easel {

const std::vector<Tone>& backdropTones() {
  static const std::vector<Tone> all = {
      {"black", say("black"), 0.005},          {"almost-black", say("almost black"), 0.015},
      {"dark-grey", say("dark grey"), 0.05},   {"mid-grey", say("mid grey"), 0.18},
      {"light-grey", say("light grey"), 0.40}, {"white", say("white"), 0.84},
      {"pure-white", say("pure white"), 3.3},
  };
  return all;
}

const Tone& toneOf(double value) {
  // Halfway, in stops, between the tones that photographers name; 253 of 255 after the tone curve is white.
  constexpr double kUpTo[] = {0.008, 0.03, 0.09, 0.28, 0.55, 2.2};
  size_t i = 0;
  while (i < std::size(kUpTo) && !(value < kUpTo[i])) ++i;
  return backdropTones()[i];
}
std::string toneName(double value) { return toneOf(value).name; }

BackdropLight backgroundFor(const Plan& plan, const Answers& answers, const std::string& id) {
  const auto tone =
      std::find_if(backdropTones().begin(), backdropTones().end(), [&](const Tone& t) { return t.id == id; });
  if (tone == backdropTones().end()) throw std::invalid_argument(say("There is no tone called \"{}\".", id));
  const double rho = backdropLuminance(plan.backdrop.material);
  BackdropLight out;
  out.onBackdrop = stopsFromRatio(tone->value / rho);

  // In lux-seconds on the backdrop, for which it comes out at its own reflectance.
  const double atStops0 = kPi / gainOf(plan.camera);
  const double wanted = atStops0 * std::exp2(out.onBackdrop);
  // A background light is metered behind the head; what it does is seen beside it.
  double own = 0, metered = 0, shown = 0;
  int lights = 0;
  for (const Light& l : plan.lights)
    if (l.role == Role::Background)
      if (const LightAnswer* r = answers.light(l.id)) {
        ++lights;
        metered += r->alone.total();
        shown += r->onBackdrop.total();
        if (l.on) own += r->onBackdrop.total();
      }
  const double spill = std::max(1e-9, answers.backdrop.total() - own);
  out.spill = stopsFromRatio(spill / atStops0);

  if (spill > wanted * 1.12) {
    out.sentence =
        say("The other lights alone make it {} ({} stops on it, {} wanted): move the backdrop further back, "
            "feather the key, or take a darker backdrop. It is {:.1f} stops too much.",
            toneName(rho * spill / atStops0), signedStops(out.spill), signedStops(out.onBackdrop),
            out.spill - out.onBackdrop);
    return out;
  }
  if (spill > wanted * 0.89) {
    out.reachable = true;
    out.sentence = say("The other lights alone make it {}: no background light is needed.", tone->name);
    return out;
  }
  out.needed = true;
  const double working = exposureForAperture(plan.camera.aperture, plan.camera.iso);  // read flat
  const double behind = metered > 0 && shown > 0 ? metered / shown : 1;
  out.target = stopsFromRatio((wanted - spill) * behind / std::max(1, lights) / working);
  out.sentence = say("For {} the backdrop needs {} stops of light; the others spill {}.", tone->name,
                     signedStops(out.onBackdrop), signedStops(out.spill));
  if (!lights) {
    out.sentence += say(" There is no background light: add one from the Light menu.");
    return out;
  }
  out.reachable = true;
  out.sentence += lights == 1 ? say(" The background light alone: {} stops.", signedStops(out.target))
                              : say(" Each of {} background lights alone: {} stops.", lights, signedStops(out.target));
  if (rho > 0.6 && out.onBackdrop > 2.1) out.sentence += say(" More than two stops over on white flares.");
  return out;
}

Plan withBackdropTone(const Plan& plan, const Answers& answers, const std::string& tone) {
  const BackdropLight b = backgroundFor(plan, answers, tone);
  Plan out = plan;
  if (!b.reachable) return out;
  for (Light& l : out.lights) {
    if (l.role != Role::Background || l.locked) continue;
    l.on = b.needed;
    if (!l.on) continue;
    l.targetStops = std::clamp(std::round(b.target * 10) / 10, -12.0, 12.0);
    l.power = powerForAperture(answers, l, plan.camera.aperture * std::exp2(l.targetStops / 2)).stops;
  }
  return out;
}

}  // namespace easel
