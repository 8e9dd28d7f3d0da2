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

double stopsOver(double f, double than) {
  return aperturesApart(std::max(f, kShowsNothing), std::max(than, kShowsNothing));
}

// One reading: what else could have given it, how likely each is, and what follows.
class Judge {
 public:
  Judge(const Scene& scene, const PlacedSet& set, const Answers& answers, const RunStep& step, double fNumber,
        const JudgeBy& by, std::optional<double> again, const Spelling& spelling)
      : scene_(scene),
        set_(set),
        step_(step),
        by_(by),
        again_(again),
        spelling_(spelling),
        fNumber_(fNumber),
        own_(answers.light(step.light)),
        light_(set.light(step.light)) {
    judgement_.off = stopsOver(fNumber, step.expected);
  }

  Judgement judge() {
    if (step_.kind == RunStep::Kind::AllOff) {
      roomAlone();
      return judgement_;
    }
    if (step_.kind == RunStep::Kind::Alone && own_ && light_ && light_->lamp) {
      ambient_ = evenly(step_.meter.hold.receptor, set_.ambientExposure());
      otherLights();
      ownUnit();
      otherHolds();
      meterSettings();
    }
    if (!implausible()) findPower();
    return judgement_;
  }

 private:
  void roomAlone();
  // What a reading alone can be instead.
  void otherLights();
  void ownUnit();
  void otherHolds();
  void meterSettings();
  // Whether something else is likelier than the light itself.
  bool implausible();
  void findPower();

  double fOf(double luxSeconds) const {
    return apertureForExposure(luxSeconds, set_.camera.iso, calibrationConstant(step_.meter.hold.receptor));
  }
  void add(Misreading what, const std::string& light, double f, double prior, double spread, std::string sentence) {
    all_.push_back({{what, light, f, 0, std::move(sentence)}, stopsOver(f, step_.expected), prior, spread});
  }

  const Scene& scene_;
  const PlacedSet& set_;
  const RunStep& step_;
  const JudgeBy& by_;
  const std::optional<double> again_;
  const Spelling& spelling_;
  const double fNumber_;
  const LightAnswer* own_;
  const PlacedLight* light_;
  double ambient_ = 0;
  std::vector<Hypothesis> all_;
  Judgement judgement_;
};

void Judge::roomAlone() {
  // Four stops under the target nothing of it shows beside the flash: common practice, no source.
  const double under = stopsOver(set_.camera.aperture, fNumber_);
  judgement_.verdict = under >= 4 ? Judgement::Verdict::OnTarget : Judgement::Verdict::Off;
  judgement_.sentence =
      under >= 4 ? say("{}, {:.1f} stops under the target: nothing of the room will show.",
                       spelling_.aperture(fNumber_), under)
                 : say("{}, only {:.1f} stops under the target: the room will show. Darken it, or set the shutter "
                       "to {} or faster, up to the sync time.",
                       spelling_.aperture(fNumber_), under, writeShutter(set_.camera.shutter / 2));
}

void Judge::otherLights() {
  const double alone = own_->alone.total();
  for (const auto& [id, under] : own_->others) {
    const PlacedLight* other = set_.light(id);
    if (!other || !other->light.on || under < -4) continue;
    const double theirs = alone * std::exp2(under);
    add(Misreading::TwoLights, id, fOf(alone + theirs), 0.06, 0,
        say("{} was on as well: the two together read {}. Switch it off at the trigger and read again.", id,
            spelling_.aperture(fOf(alone + theirs))));
    add(Misreading::WrongGroup, id, fOf(theirs), 0.03, 0,
        say("{} fired instead of {}: alone it reads {} here. Check which modelling lamp is on, then group and channel.",
            id, step_.light, spelling_.aperture(fOf(theirs))));
  }
}

void Judge::ownUnit() {
  const double alone = own_->alone.total();
  const Unit& unit = light_->lamp->unit;
  if (unit.kind != UnitKind::Flash) return;
  add(Misreading::NothingFired, {}, fOf(ambient_), 0.08, 0.3,
      say("Nothing fired: that is the room alone. Is {} switched on, its trigger on the group, the ready lamp lit?",
          step_.light));
  add(Misreading::NotRecycled, {}, fOf(alone / 2), again_ ? 0.005 : 0.05, 0.15,
      say("{} had not recycled: about a stop low. Wait for the ready lamp and read again; a second reading that is "
          "right settles it.",
          step_.light));
  if (!light_->light.modelling && unit.modellingLumens > 0) {
    Lamp burning = *light_->lamp;
    burning.modelling = true;
    const LampEnergy e = burning.gives(light_->light.power, set_.camera);
    const double with = e.flash > 0 ? alone * (1 + e.steady / e.flash) : alone;
    add(Misreading::ModellingLamp, {}, fOf(with), 0.03, 0,
        say("Its modelling lamp was counted: with it {}. Switch it off for the reading, or use the meter's flash "
            "mode at {}.",
            spelling_.aperture(fOf(with)), writeShutter(set_.camera.shutter)));
  }
}

void Judge::otherHolds() {
  const Held held(scene_, set_, *light_);
  const Source source = sourceOf(scene_, set_, *light_);
  const double energy = light_->energy(set_.camera);
  Held nearer = held;
  nearer.at = held.at + (held.lamp - held.at) * 0.5f;
  const double half = fOf(energy * nearer.lux(source, step_.meter.hold.receptor) + ambient_);
  add(Misreading::HalfWay, {}, half, 0.05, 0.15,
      say("The meter was held half-way to {}: there it reads {:.1f} stops more. Hold it at the skin.", step_.light,
          stopsOver(half, step_.expected)));
  const Receptor other = step_.meter.hold.receptor == Receptor::Flat ? Receptor::Dome : Receptor::Flat;
  const double turned =
      apertureForExposure(energy * held.lux(source, other), set_.camera.iso, calibrationConstant(other));
  add(Misreading::Receptor, {}, turned, 0.05, 0,
      step_.meter.hold.receptor == Receptor::Flat
          ? say("The dome was out: with it {}. Turn it in, or use the dome for all readings.",
                spelling_.aperture(turned))
          : say("The dome was in: flat it reads {}. Turn it out.", spelling_.aperture(turned)));
  if (const double over = !step_.meter.hold.on.empty() ? 0 : reflectedOver(scene_, set_, step_.meter);
      std::abs(over) > 0.3)
    add(Misreading::Reflected, {}, step_.expected * std::exp2(over / 2), 0.01, 0.15,
        step_.meter.where == MeteredAt::Backdrop
            ? say("That is a reflected reading: a spot meter takes this cloth for mid grey and reads {} stops. "
                  "Hold the incident meter there.",
                  spelling_.stops(over))
            : say("That is a reflected reading: a spot meter takes this skin for mid grey and reads {} stops. "
                  "Use the incident receptor.",
                  spelling_.stops(over)));
  const double shadow = fOf(energy * held.lux(source, step_.meter.hold.receptor, false) + ambient_);
  add(Misreading::InShadow, {}, shadow, 0.04, 0.4,
      say("The meter was in a shadow, of a hand or a stand: without the direct light {}. Step aside.",
          spelling_.aperture(shadow)));
}

static std::string saidOff(const Camera& cam, int stops) {
  const int by = std::abs(stops);
  const std::string shutter = writeShutter(cam.shutter);
  return stops > 0
             ? sayMany(by,
                       "The meter's ISO or shutter is not the plan's ({:.0f}, {}): everything reads {} stop too much.",
                       "The meter's ISO or shutter is not the plan's ({:.0f}, {}): everything reads {} stops too much.",
                       cam.iso, shutter, by)
             : sayMany(
                   by,
                   "The meter's ISO or shutter is not the plan's ({:.0f}, {}): everything reads {} stop too little.",
                   "The meter's ISO or shutter is not the plan's ({:.0f}, {}): everything reads {} stops too little.",
                   cam.iso, shutter, by);
}

void Judge::meterSettings() {
  // Off by as much at the other lights too, or right there.
  double same = 0, right = 0;
  for (const double o : by_.others) {
    same += std::abs(o - judgement_.off) < std::max(0.3, 3 * by_.spread);
    right += std::abs(o) < std::max(0.3, 3 * by_.spread);
  }
  const double seldom = same > right ? 1 : right > 0 ? 0.001 : 0.02;
  for (const double steps : {1.0, -1.0, 2.0, -2.0})
    add(Misreading::MeterSettings, {}, step_.expected * std::exp2(steps / 2), seldom, 0,
        saidOff(set_.camera, int(steps)));
}

bool Judge::implausible() {
  // Clean: about what is expected, or, more seldom, the set differs from the plan by some tenths.
  const auto density = [](double x, double s) { return std::exp(-x * x / (2 * s * s)) / s; };
  const double near = density(judgement_.off, by_.spread),
               off = 0.1 * density(judgement_.off, std::max(0.35, 2 * by_.spread));
  double sum = near + off;
  for (Hypothesis& h : all_) {
    h.cause.likelihood = h.prior * density(judgement_.off - h.stops, std::hypot(by_.spread, h.spread));
    sum += h.cause.likelihood;
  }
  std::stable_sort(all_.begin(), all_.end(),
                   [](const Hypothesis& a, const Hypothesis& b) { return a.cause.likelihood > b.cause.likelihood; });
  const double clean = (near + off) / std::max(1e-300, sum);
  const bool implausible = !all_.empty() && std::abs(judgement_.off) > kAlarm * by_.spread && clean < 0.5;
  const std::string reads = spelling_.aperture(fNumber_), wanted = spelling_.aperture(step_.expected);
  if (implausible) {
    judgement_.verdict = Judgement::Verdict::Implausible;
    for (Hypothesis& h : all_) {
      h.cause.likelihood /= std::max(1e-300, sum);
      // The same thing at another amount is the same thing.
      const bool known = std::any_of(judgement_.causes.begin(), judgement_.causes.end(), [&](const Cause& k) {
        return k.what == h.cause.what && k.light == h.cause.light;
      });
      if (h.cause.likelihood > 0.02 && !known) judgement_.causes.push_back(h.cause);
    }
    judgement_.sentence = say("{} instead of {}: {} stops off cannot be this light alone.", reads, wanted,
                              spelling_.stops(judgement_.off));
    return true;
  }
  // Two stops and nothing that usually happens: nobody's gear differs by that.
  if (step_.kind == RunStep::Kind::Alone && std::abs(judgement_.off) > std::max(kAlarm * by_.spread, 2.0)) {
    judgement_.verdict = Judgement::Verdict::Implausible;
    judgement_.sentence =
        say("{} instead of {}: {} stops off, and no usual mistake explains it. Check that stand, modifier, group and "
            "power are those of the plan, then read again.",
            reads, wanted, spelling_.stops(judgement_.off));
    return true;
  }
  return false;
}

void Judge::findPower() {
  const std::string reads = spelling_.aperture(fNumber_), wanted = spelling_.aperture(step_.expected);
  const double offTarget = judgement_.off + (step_.kind == RunStep::Kind::Alone ? step_.fromTarget : 0);
  if (std::abs(offTarget) <= by_.tolerance + 1e-9) {
    judgement_.sentence = say("{}: on target.", reads);
    return;
  }
  judgement_.verdict = Judgement::Verdict::Off;
  if (step_.kind != RunStep::Kind::Alone || !light_ || !light_->lamp) {
    judgement_.sentence = say("{} instead of {}: {} stops off.", reads, wanted, spelling_.stops(judgement_.off));
    return;
  }
  const PowerScale& scale = light_->lamp->unit.scale;
  const PowerScale::Setting given = scale.settingFor(step_.power - offTarget);
  const bool stays = std::abs(given.stops - step_.power) < 1e-6;  // no step of its scale is nearer
  if (!stays) judgement_.power = given.stops;
  judgement_.left = step_.power - offTarget - given.stops;
  judgement_.sentence = stays ? say("{}, {} stops off target, and no setting of {} is nearer.", reads,
                                    spelling_.stops(offTarget), step_.light)
                              : say("{}, {} stops off target: set {} to {}.", reads, spelling_.stops(offTarget),
                                    step_.light, spelling_.power(scale, given.stops));
  if (std::abs(judgement_.left) > by_.tolerance + 1e-9) {
    // Nearer by d(1 - 2^(-left / 2)), or one more sheet: what the scale cannot do.
    const double nearer = own_ ? own_->distance * (1 - std::exp2(-judgement_.left / 2)) : 0;
    judgement_.sentence += judgement_.left > 0
                               ? say(" That leaves {:.1f} stops: {} nearer.", judgement_.left, spelling_.length(nearer))
                               : say(" That leaves {:.1f} stops too much: {} further, feathered off, or a sheet of ND.",
                                     -judgement_.left, spelling_.length(-nearer));
  }
}

}  // namespace

Judgement judge(const Scene& scene, const PlacedSet& set, const Answers& answers, const RunStep& step, double fNumber,
                const JudgeBy& by, std::optional<double> again, const Spelling& spelling) {
  return Judge(scene, set, answers, step, fNumber, by, again, spelling).judge();
}

}  // namespace easel
