// The metering run: from stand to stand with a meter in one hand. What to switch on, where to hold the meter and how,
// what to set, what should be read; and what a reading that is not that means.
//
// Order as practice has it: all off first (what the room alone gives), the key, a test picture for its direction, then
// each light alone, then all together. Expected readings are Answers'; a reading is judged in stops against the one
// that is expected. Stops; f-numbers exact. No state: a run is a list of steps, the readings are the caller's.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "exposure/spelling.h"
#include "meter/answers.h"
#include "plan/plan.h"

namespace easel {

struct RunStep {
  enum class Kind { AllOff, Alone, Picture, Together } kind = Kind::Alone;
  std::string light;  ///< Alone, Picture: the letter
  HeldMeter meter;
  double power = 0;       ///< stops below full, as the plan has it
  double expected = 0;    ///< f-number; 0: nothing that a meter shows
  double fromTarget = 0;  ///< of what is expected, stops off its target (target aperture and target of the light)
  double within = 0;      ///< of what is expected, stops, one standard deviation; a course knows it
};
/// What will be done, before anything has been computed: kinds, lights, powers. Lights that are off in the plan, or
/// have no unit or modifier, have no step.
std::vector<RunStep> runOrder(const std::vector<Light>& lights);
/// The same with where the meter goes and what it should read; a light that gives nothing there has no step.
std::vector<RunStep> runSteps(const Scene& scene, const PlacedSet& set, const Answers& answers);
/// "Close to the face, before the nose; flat, towards A."
std::string whereToHold(const HeldMeter& meter);
/// The power in the unit's own scale; empty for a step without a light.
std::string settingOf(const RunStep& step, const Plan& plan, const Spelling& spelling = {});
/// "A alone, set to 1/8 + 0.3. Close to the face, before the nose; flat, towards A. It should read f/8."
std::string describe(const RunStep& step, const Plan& plan, const Spelling& spelling = {});

/// Why a reading can be far from what is expected though nothing is wrong with the light.
enum class Misreading {
  TwoLights,      ///< another light was on as well
  NothingFired,   ///< the ambient alone
  WrongGroup,     ///< another light fired instead
  NotRecycled,    ///< a stop low, right on the second try
  HalfWay,        ///< the meter half-way to the lamp
  Receptor,       ///< dome instead of flat, or the other way round
  InShadow,       ///< the direct light is kept off the meter
  ModellingLamp,  ///< its light was counted
  MeterSettings,  ///< ISO or shutter of the meter are not the plan's
  Reflected       ///< a reflected reading of skin or cloth, not an incident one
};
constexpr int kMisreadings = 10;

struct Cause {
  Misreading what;
  std::string light;      ///< TwoLights, WrongGroup: which
  double expected = 0;    ///< the f-number that it would read
  double likelihood = 0;  ///< against the others and a clean reading, 0..1
  std::string sentence;   ///< what it is and what tells it apart
};

struct Judgement {
  enum class Verdict { OnTarget, Off, Implausible } verdict = Verdict::OnTarget;
  double off = 0;               ///< stops, reading over what is expected
  std::optional<double> power;  ///< Off: the power that brings it to its target, as the unit can be set
  double left = 0;              ///< Off: stops that are left with it, > 0 too weak
  std::vector<Cause> causes;    ///< Implausible: the most likely first
  std::string sentence;
};

struct JudgeBy {
  double tolerance = 0.1;  ///< stops off the target that are let pass
  double spread = 0.1;     ///< of readings about their predictions, one standard deviation
  /// Stops by which the other readings of this run were off: a meter that is set wrongly is off at every light.
  std::vector<double> others = {};
};

/// Judges `fNumber`, read at `step`. `again`: the same step read before, if it was, which tells a flash that had not
/// recycled from one that is weak. The scene serves the holds that nobody planned (half-way, other receptor, shadow).
Judgement judge(const Scene& scene, const PlacedSet& set, const Answers& answers, const RunStep& step, double fNumber,
                const JudgeBy& by = {}, std::optional<double> again = {}, const Spelling& spelling = {});

/// Readings that a change of the plan unsettles: steps of `before` whose expected reading differs in `after` by more
/// than `least` stops, or that are there no more.
struct Unsettled {
  size_t step;   ///< of runSteps(before)
  double stops;  ///< expected now over expected then
};
std::vector<Unsettled> unsettledBy(const std::vector<RunStep>& before, const std::vector<RunStep>& after,
                                   double least = 0.05);

}  // namespace easel
