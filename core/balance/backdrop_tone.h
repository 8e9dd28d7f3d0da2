// Which background light gives a wanted tone: from the reflectance of the backdrop and what the other lights spill on
// it.
//
//   picture value = rho * 2^s,  s = stops of the light on the backdrop over the camera's setting (flat receptor);
//   0.18 is mid grey. So s = log2(value / rho), and the background lights bring what the spill leaves.
#pragma once

#include <string>
#include <vector>

#include "meter/answers.h"
#include "plan/plan.h"

namespace easel {

struct Tone {
  std::string id, name;
  double value;  ///< linear picture value
};
/// From black to pure white.
const std::vector<Tone>& backdropTones();
/// The tone that a linear picture value is called by, and its name: 0.18 is "mid grey".
const Tone& toneOf(double value);
std::string toneName(double value);

struct BackdropLight {
  double onBackdrop = 0;   ///< stops of all light wanted on the backdrop against the camera's setting
  double spill = 0;        ///< stops that the lights which are not background lights bring there now
  double target = 0;       ///< stops each background light should be set to, alone, against the target aperture
  bool needed = false;     ///< false when the spill alone does it; the target says nothing then
  bool reachable = false;  ///< false when the spill alone is too much, or there is no background light
  std::string sentence;    ///< with numbers, and what to do when it is not reachable
};
/// Throws std::invalid_argument for an unknown tone.
BackdropLight backgroundFor(const Plan& plan, const Answers& answers, const std::string& tone);

/// The plan with its background lights on that target and powered for it, or off when none is needed. Unchanged when
/// the tone cannot be reached.
Plan withBackdropTone(const Plan& plan, const Answers& answers, const std::string& tone);

}  // namespace easel
