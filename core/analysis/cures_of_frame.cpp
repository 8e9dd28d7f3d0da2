#include "analysis/cures.h"
#include "balance/backdrop_tone.h"
#include "plan/panels.h"

namespace easel::rules {

void Cures::shadowOnBackdrop() {
  backdropAway({1.0, 1.3, 1.6, 2.0, 2.4});
  height(id, range(0.15, 0.75, 0.15));
  if (lamp) {
    const double away = lamp->hour > 6 ? 1 : -1;
    hour(id, {0.4 * away, 0.8 * away, 1.2 * away});
  }
  whole({0.5, 0}, [&](Plan& p, double t) -> std::string {
    Proposal n = proposeLight(p, "background");
    n.light.targetStops = t;
    p.lights.push_back(n.light);
    return say("Add {}, a background light that fills it", n.light.id);
  });
}

void Cures::halo() {
  for (const std::string& b : backgrounds) {
    height(b, range(-0.1, -0.8, -0.1));
    tilt(b, range(-6, -30, -6));
    target(b, range(-0.5, -2, -0.5));
  }
}

void Cures::greyWhite() {
  whole(
      {1, 0},
      [&](Plan& p, double pure) -> std::string {
        p = withBackdropTone(p, answers, pure > 0 ? "pure-white" : "white");
        return say("Set the background lights for white");
      },
      false);
  whole(range(0.5, 3, 0.5), [&](Plan& p, double d) {
    for (Light& l : p.lights)
      if (l.role == Role::Background && l.on && !l.locked) l.targetStops += d;
    return say("Raise the background lights by {:.1f} stops", d);
  });
  add("background-side", {1, 2});
}

void Cures::whiteFlares() {
  whole(range(-0.3, -2.4, -0.3), [&](Plan& p, double d) {
    for (Light& l : p.lights)
      if (l.role == Role::Background && l.on && !l.locked) l.targetStops += d;
    return say("Lower the background lights by {:.1f} stops", -d);
  });
}

void Cures::spill() {
  grid(id);
  feather(id, range(8, 48, 8));
  backdropAway({1.6, 2.0, 2.5, 3.0});
  distance(id, {0.85, 0.7, 0.55});
  if (lamp && lamp->role != Role::Key) target(id, range(-0.5, -2, -0.5));
}

void Cures::mergedOutline() {
  const bool hair =
      std::any_of(plan.lights.begin(), plan.lights.end(), [](const Light& l) { return l.role == Role::Hair; });
  if (!backgrounds.empty())
    target(backgrounds.front(), {1, 2, 0.5, 3, -1, -2});
  else
    add("background", {99, -1, 0, 1});
  if (!hair) add("hair-under", {99, -1, 0, 1});
  add("rim-under", {99, 0, 1});
  for (const Light& l : plan.lights)
    if ((l.role == Role::Hair || l.role == Role::Rim) && l.on) target(l.id, {0.5, 1, 1.5, 2});
}

void Cures::inFrame() {
  if (!(lamp)) return;
  const bool behind = lightPose(plan, *lamp).centre.z < 0;
  distance(id, {1.15, 1.3, 1.5, 1.8, 2.2});
  const double out = lamp->hour > 6 ? -1 : 1;  // sideways, away from the camera's axis
  const double away = behind ? -out : out;
  hour(id, {0.25 * -away, 0.5 * -away, 0.8 * -away, 1.2 * -away});
  height(id, range(0.1, 0.8, 0.1));
  height(id, range(-0.15, -1.05, -0.15));
  distance(id, {0.85, 0.7, 0.55});
}

void Cures::flare() {
  grid(id);
  feather(id, range(6, 48, 6));
  tilt(id, range(-6, -36, -6));
  target(id, range(-0.5, -2.5, -0.5));
}

void Cures::panelInFrame() {
  board({-0.2, -0.4, -0.6, -0.8}, [&](Panel& x, double d) {
    x.above = rangeOf("panel.above").clamp(std::max(0.2, x.above + d));
    return say("Lower {} to {}", called(x), length(x.above));
  });
  board({0.5, 1, 1.5, 2}, [&](Panel& x, double d) {
    x.hour += x.hour > 6 ? d : -d;
    return say("Move {} aside", called(x));
  });
}

}  // namespace easel::rules
