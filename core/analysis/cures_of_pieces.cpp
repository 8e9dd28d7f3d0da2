#include "analysis/cures.h"
#include "plan/panels.h"

namespace easel::rules {

void Cures::poolOffMark() {
  if (!lamp) return;
  light(id, {0}, [](Light& l, double) -> std::string {
    if (l.pan == 0 && l.tiltOffset == 0) return {};
    l.pan = l.tiltOffset = 0;
    return say("Aim {} at its mark again", l.id);
  });
  light(id, {6, -6, 12, -12, 18, -18}, [](Light& l, double d) {
    l.pan = std::clamp(l.pan + d, -90.0, 90.0);
    return say("Turn {} by {:.0f} degrees", l.id, std::abs(d));
  });
  height(id, range(0.2, 1.0, 0.2));
  distance(id, {0.85, 0.7, 0.55});
  grid(id);
}

void Cures::tableSpill() {
  if (!lamp) return;
  grid(id);
  tilt(id, range(-4, -24, -4));
  hour(id, {0.5, -0.5, 1, -1, 1.5, -1.5, 2, -2});
  light(id, {0}, [](Light& l, double) -> std::string {
    if (l.modifier == "snoot") return {};
    l.modifier = "snoot";
    return say("Put a snoot on {}", l.id);
  });
  target(id, range(-0.5, -2, -0.5));
}

// Power and target together: balancing afterwards leaves it so.
void Cures::lampBurnt() { lampBy(range(-0.5, -5, -0.5)); }
void Cures::lampDim() { lampBy(range(0.5, 5, 0.5)); }
void Cures::lampBy(const std::vector<double>& stops) {
  if (!lamp) return;
  whole(
      stops,
      [&](Plan& p, double d) -> std::string {
        Light& l = *p.light(id);
        const Unit* u = findUnit(l.unit);
        if (l.locked || !u) return {};
        const double to = u->scale.settingFor(l.power + d).stops;
        if (std::abs(to - l.power - d) > 0.3) return {};
        l.power = to;
        l.targetStops += d;
        return say("Set {} to {}", l.id, u->scale.write(to));
      },
      false);
  // What its own scale does not reach, the shutter does: a lamp burns on, a flash does not. And thinner or thicker
  // cloth.
  whole(
      stops,
      [&](Plan& p, double d) -> std::string {
        p.camera.shutter = rangeOf("camera.shutter").clamp(p.camera.shutter * std::exp2(d));
        if (p.camera.shutter < p.camera.syncShutter) return {};
        return say("Set the shutter to {}", writeShutter(p.camera.shutter));
      },
      false);
  whole(
      {1, 2},
      [&](Plan& p, double n) -> std::string {
        const double wanted = stops.front() > 0 ? 1 : -1;
        for (Panel& x : p.panels)
          if (x.id == lamp->inside && !x.locked) {
            x.front = wanted > 0 ? (n < 2 ? "paper-shade" : "scrim-thin") : "paper-warm";
            return wanted > 0 ? say("Give {} thinner cloth", called(x)) : say("Give {} thicker cloth", called(x));
          }
        return {};
      },
      false);
}

void Cures::foundOut() {
  if (!lamp) return;
  height(id, range(0.2, 1.2, 0.2));
  hour(id, {0.4, -0.4, 0.8, -0.8, 1.2, -1.2, 1.8, -1.8});
  grid(id);
  feather(id, range(8, 32, 8));
  distance(id, {0.8, 0.65, 1.25, 1.5});
}

}  // namespace easel::rules
