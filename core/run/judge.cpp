// What a reading means. Every cause predicts a reading, for the prediction knows every light alone; how near the
// reading lies to it, against how often such a thing happens, is its likelihood (Bayes' rule with normal spreads). How
// often, and the words: common practice, no source.
#include <algorithm>
#include <cmath>

#include "exposure/meter.h"
#include "exposure/shutter.h"
#include "exposure/stops.h"
#include "meter/point_meter.h"
#include "run/reflected.h"
#include "run/run.h"
#include "run/said_reading.h"
#include "spoken/say.h"

namespace easel {
namespace {

// Standard deviations: of ten thousand clean readings one or two lie further off.
constexpr double kAlarm = 3.8;

struct Hypothesis {
  Cause cause;
  double stops;   // over what is expected
  double prior;   // against 1 for a clean reading
  double spread;  // besides the readings' own
};

// What the meter reads of a light that is held as the step says, but for what is changed.
struct Held {
  const Scene& scene;
  Vec3 at, looks, lamp;

  Held(const Scene& s, const PlacedSet& set, const PlacedLight& light) : scene(s), lamp(light.pose.centre) {
    const HeldMeter own = worksIn(scene, set, light);
    at = own.at;
    looks = own.looks;
  }
  double lux(const Source& s, Receptor receptor, bool direct = true) const {
    const auto hold = bouncePoints(scene, at, looks, receptor, 192);
    return direct ? meteredLux(scene, s, hold, 256) : bouncedLux(scene, s, hold);
  }
};

}  // namespace

Judgement judge(const Scene& scene, const PlacedSet& set, const Answers& answers, const RunStep& step, double fNumber,
                const JudgeBy& by, std::optional<double> again, const Spelling& spelling) {
  Judgement j;
  const Camera& cam = set.camera;
  const double floor = kShowsNothing;
  const auto stops = [&](double f, double than) { return 2 * std::log2(std::max(f, floor) / std::max(than, floor)); };
  j.off = stops(fNumber, step.expected);
  const double c = calibrationConstant(step.meter.hold.receptor);
  const auto fOf = [&](double luxSeconds) { return apertureForExposure(luxSeconds, cam.iso, c); };

  if (step.kind == RunStep::Kind::AllOff) {
    // Four stops under the target nothing of it shows beside the flash: common practice, no source.
    const double under = stops(cam.aperture, fNumber);
    j.verdict = under >= 4 ? Judgement::Verdict::OnPeg : Judgement::Verdict::Off;
    j.sentence = under >= 4
                     ? say("{}, {:.1f} stops under the target: nothing of the room will show.",
                           spelling.aperture(fNumber), under)
                     : say("{}, only {:.1f} stops under the target: the room will show. Darken it, or set the shutter "
                           "to {} or faster, up to the sync time.",
                           spelling.aperture(fNumber), under, writeShutter(cam.shutter / 2));
    return j;
  }

  // What else could have been read.
  std::vector<Hypothesis> all;
  const auto add = [&](Misreading what, const std::string& light, double f, double prior, double spread,
                       std::string sentence) {
    all.push_back({{what, light, f, 0, std::move(sentence)}, stops(f, step.expected), prior, spread});
  };
  const LightAnswer* own = answers.light(step.light);
  const PlacedLight* light = set.light(step.light);
  if (step.kind == RunStep::Kind::Alone && own && light && light->lamp) {
    const double alone = own->alone.total();
    const double ambient = evenly(step.meter.hold.receptor, set.ambientExposure());
    for (const auto& [id, under] : own->others) {
      const PlacedLight* other = set.light(id);
      if (!other || !other->light.on || under < -4) continue;
      const double theirs = alone * std::exp2(under);
      add(Misreading::TwoLights, id, fOf(alone + theirs), 0.06, 0,
          say("{} was on as well: the two together read {}. Switch it off at the trigger and read again.", id,
              spelling.aperture(fOf(alone + theirs))));
      add(Misreading::WrongGroup, id, fOf(theirs), 0.03, 0,
          say("{} fired instead of {}: alone it reads {} here. Look which modelling lamp burns, then at group and "
              "channel.",
              id, step.light, spelling.aperture(fOf(theirs))));
    }
    const Unit& unit = light->lamp->unit;
    if (unit.kind == UnitKind::Flash) {
      add(Misreading::NothingFired, {}, fOf(ambient), 0.08, 0.3,
          say("Nothing fired: that is the room alone. Is {} switched on, its trigger on the group, the ready lamp lit?",
              step.light));
      add(Misreading::NotRecycled, {}, fOf(alone / 2), again ? 0.005 : 0.05, 0.15,
          say("{} had not recycled: about a stop low. Wait for the ready lamp and read again; a second reading that is "
              "right settles it.",
              step.light));
      if (!light->light.modelling && unit.modellingLumens > 0) {
        Lamp burning = *light->lamp;
        burning.modelling = true;
        const LampEnergy e = burning.gives(light->light.power, cam);
        const double with = e.flash > 0 ? alone * (1 + e.steady / e.flash) : alone;
        add(Misreading::ModellingLamp, {}, fOf(with), 0.03, 0,
            say("Its modelling lamp was counted: with it {}. Switch it off for the reading, or use the meter's flash "
                "mode at {}.",
                spelling.aperture(fOf(with)), writeShutter(cam.shutter)));
      }
    }
    const Held held(scene, set, *light);
    const Source source = sourceOf(scene, set, *light);
    const double energy = light->energy(cam);
    Held nearer = held;
    nearer.at = held.at + (held.lamp - held.at) * 0.5f;
    const double half = fOf(energy * nearer.lux(source, step.meter.hold.receptor) + ambient);
    add(Misreading::HalfWay, {}, half, 0.05, 0.15,
        say("The meter was held half-way to {}: there it reads {:.1f} stops more. At the skin.", step.light,
            stops(half, step.expected)));
    const Receptor other = step.meter.hold.receptor == Receptor::Flat ? Receptor::Dome : Receptor::Flat;
    const double turned = apertureForExposure(energy * held.lux(source, other), cam.iso, calibrationConstant(other));
    add(Misreading::Receptor, {}, turned, 0.05, 0,
        step.meter.hold.receptor == Receptor::Flat
            ? say("The dome was out: with it {}. Turn it in, or take the dome's school for all readings.",
                  spelling.aperture(turned))
            : say("The dome was in: flat it reads {}. Turn it out.", spelling.aperture(turned)));
    if (const double other =
            !step.meter.hold.on.empty() ? 0 : reflectedOver(scene, set, step.meter.spot, step.meter.at);
        std::abs(other) > 0.3)
      add(Misreading::Reflected, {}, step.expected * std::exp2(other / 2), 0.01, 0.15,
          step.meter.spot == "backdrop"
              ? say("That is a reflected reading: a spot meter takes this cloth for mid grey and reads {} stops. "
                    "Hold the incident meter there.",
                    spelling.stops(other))
              : say("That is a reflected reading: a spot meter takes this skin for mid grey and reads {} stops. "
                    "Use the incident receptor.",
                    spelling.stops(other)));
    const double shadow = fOf(energy * held.lux(source, step.meter.hold.receptor, false) + ambient);
    add(Misreading::InShadow, {}, shadow, 0.04, 0.4,
        say("The meter was in a shadow, of a hand or a stand: without the direct light {}. Step aside.",
            spelling.aperture(shadow)));
    // Off by as much at the other lights too, or right there.
    double same = 0, right = 0;
    for (const double o : by.others) {
      same += std::abs(o - j.off) < std::max(0.3, 3 * by.spread);
      right += std::abs(o) < std::max(0.3, 3 * by.spread);
    }
    const double seldom = same > right ? 1 : right > 0 ? 0.001 : 0.02;
    for (const double steps : {1.0, -1.0, 2.0, -2.0})
      add(Misreading::MeterSettings, {}, step.expected * std::exp2(steps / 2), seldom, 0,
          say("The meter's ISO or shutter is not the plan's ({:.0f}, {}): everything reads {:.0f} stop{} {}.", cam.iso,
              writeShutter(cam.shutter), std::abs(steps), std::abs(steps) > 1 ? "s" : "",
              steps > 0 ? say("too much") : say("too little")));
  }

  // Clean: about what is expected, or, more seldom, the set differs from the plan by some tenths.
  const auto density = [](double x, double s) { return std::exp(-x * x / (2 * s * s)) / s; };
  const double near = density(j.off, by.spread), off = 0.1 * density(j.off, std::max(0.35, 2 * by.spread));
  double sum = near + off;
  for (Hypothesis& h : all) {
    h.cause.likelihood = h.prior * density(j.off - h.stops, std::hypot(by.spread, h.spread));
    sum += h.cause.likelihood;
  }
  std::stable_sort(all.begin(), all.end(),
                   [](const Hypothesis& a, const Hypothesis& b) { return a.cause.likelihood > b.cause.likelihood; });
  const double clean = (near + off) / std::max(1e-300, sum);
  const bool implausible = !all.empty() && std::abs(j.off) > kAlarm * by.spread && clean < 0.5;
  const std::string reads = spelling.aperture(fNumber), wanted = spelling.aperture(step.expected);
  if (implausible) {
    j.verdict = Judgement::Verdict::Implausible;
    for (Hypothesis& h : all) {
      h.cause.likelihood /= std::max(1e-300, sum);
      // The same thing at another amount is the same thing.
      const bool known = std::any_of(j.causes.begin(), j.causes.end(), [&](const Cause& k) {
        return k.what == h.cause.what && k.light == h.cause.light;
      });
      if (h.cause.likelihood > 0.02 && !known) j.causes.push_back(h.cause);
    }
    j.sentence = say("{} for {}: {} stops cannot be the light alone.", reads, wanted, spelling.stops(j.off));
    return j;
  }
  // Two stops and nothing that usually happens: nobody's gear differs by that.
  if (step.kind == RunStep::Kind::Alone && std::abs(j.off) > std::max(kAlarm * by.spread, 2.0)) {
    j.verdict = Judgement::Verdict::Implausible;
    j.sentence =
        say("{} for {}: {} stops, and nothing that usually happens reads so. Look whether stand, modifier, group and "
            "power are those of the plan, then read again.",
            reads, wanted, spelling.stops(j.off));
    return j;
  }
  const double fromPeg = j.off + (step.kind == RunStep::Kind::Alone ? step.fromTarget : 0);
  if (std::abs(fromPeg) <= by.tolerance + 1e-9) {
    j.sentence = say("{}: on its peg.", reads);
    return j;
  }
  j.verdict = Judgement::Verdict::Off;
  if (step.kind != RunStep::Kind::Alone || !light || !light->lamp) {
    j.sentence = say("{} for {}: {} stops.", reads, wanted, spelling.stops(j.off));
    return j;
  }
  const PowerScale& scale = light->lamp->unit.scale;
  const PowerScale::Setting given = scale.settingFor(step.power - fromPeg);
  const bool stays = std::abs(given.stops - step.power) < 1e-6;  // no step of its scale is nearer
  if (!stays) j.power = given.stops;
  j.left = step.power - fromPeg - given.stops;
  j.sentence = stays ? say("{}, {} stops off its peg, and no setting of {} is nearer.", reads, spelling.stops(fromPeg),
                           step.light)
                     : say("{}, {} stops off its peg: set {} to {}.", reads, spelling.stops(fromPeg), step.light,
                           spelling.power(scale, given.stops));
  if (std::abs(j.left) > by.tolerance + 1e-9) {
    // Nearer by d(1 - 2^(-left / 2)), or one more sheet: what the scale cannot do.
    const double nearer = own ? own->distance * (1 - std::exp2(-j.left / 2)) : 0;
    j.sentence += j.left > 0 ? say(" That leaves {:.1f} stops: {} nearer.", j.left, spelling.length(nearer))
                             : say(" That leaves {:.1f} stops too much: {} further, feathered off, or a sheet of ND.",
                                   -j.left, spelling.length(-nearer));
  }
  return j;
}

}  // namespace easel
