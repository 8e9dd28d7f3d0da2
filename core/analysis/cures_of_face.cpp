#include "analysis/cures.h"
#include "plan/panels.h"

namespace easel::rules {

void Cures::eyesInTheDark() {
  height(key, range(-0.1, -0.9, -0.1));
  distance(key, {1.2, 1.4, 1.7, 2.0});
  if (fill.empty())
    add("fill-below", {-2.5, -2, -1.5});
  else
    target(fill, {0.5, 1.0, 1.5});
  if (fault.id == "dead-eyes") hourTowardsCamera(key, range(0.25, 1.5, 0.25));
  whole({-4, -8, -12}, [&](Plan& p, double d) {
    p.sitter.nod += d;
    return say("Ask for the chin {:.0f} degrees higher", -d);
  });
}

void Cures::glareOnGlasses() {
  whole(range(2, 10, 2), [&](Plan& p, double d) -> std::string {
    p.sitter.templesUp = rangeOf("sitter.templesUp").clamp(p.sitter.templesUp + d);
    return say("Lift the temples of the glasses by {:.0f} degrees", p.sitter.templesUp);
  });
  whole(range(3, 12, 3), [&](Plan& p, double d) {
    p.sitter.nod += d;
    return say("Ask for the chin {:.0f} degrees lower", d);
  });
  height(id, range(0.1, 0.8, 0.1));
  hourTowardsCamera(id, range(-0.25, -1.75, -0.25));
  whole({-0.1, 0.1, -0.2, 0.2, -0.3, 0.3}, [&](Plan& p, double d) {
    p.camera.height = rangeOf("camera.height").clamp(p.camera.height + d);
    return say("Move the camera to {}", length(p.camera.height));
  });
  feather(id, range(8, 32, 8));
  board({-0.5, 0.5, -1, 1, -1.5, 1.5}, [&](Panel& x, double d) {
    x.hour = roundBy(x.hour, d);
    return say("Move {} round to {} o'clock", called(x), clock(x.hour));
  });
  board({-0.3, 0.3, -0.6, 0.6}, [&](Panel& x, double d) {
    x.above = rangeOf("panel.above").clamp(std::max(0.2, x.above + d));
    return say("Put the middle of {} at {}", called(x), length(x.above));
  });
}

void Cures::brimShadow() {
  whole(range(4, 24, 4), [&](Plan& p, double d) {
    p.sitter.hatBack = rangeOf("sitter.hatBack").clamp(p.sitter.hatBack + d);
    return say("Tip the hat back by {:.0f} degrees", p.sitter.hatBack);
  });
  height(id, range(-0.1, -0.9, -0.1));
  whole({-4, -8, -12}, [&](Plan& p, double d) {
    p.sitter.nod += d;
    return say("Ask for the chin {:.0f} degrees higher", -d);
  });
  if (fill.empty())
    add("fill-below", {-2, -1.5, -1});
  else
    target(fill, {0.5, 1.0, 1.5});
}

void Cures::twoNoseShadows() {
  target(id, {-0.5, -1, -1.5, -2});
  const Light* l = plan.light(id);
  if (l && l->role == Role::Fill) {
    light(id, {1, 0}, [&](Light& x, double lens) {
      Plan without = plan;
      std::erase_if(without.lights, [&](const Light& o) { return o.id == id; });
      Light n = proposeLight(without, lens > 0 ? "fill-lens" : "fill-key-side").light;
      x.hour = n.hour;
      x.distance = n.distance;
      x.height = n.height;
      x.pan = x.tiltOffset = 0;
      if (findModifier(x.modifier) && findModifier(n.modifier) &&
          findModifier(x.modifier)->area() < findModifier(n.modifier)->area())
        x.modifier = n.modifier;
      return lens > 0 ? say("Place {} over the lens", x.id) : say("Place {} near the camera on the key's side", x.id);
    });
  }
  off(id);
}

void Cures::fillOverKey() {
  light(id, range(-0.5, -3, -0.5), [&](Light& l, double d) {
    l.targetStops = (plan.light(key) ? plan.light(key)->targetStops : 0) + d;
    return say("Set {} {:.1f} stops under the key", l.id, -d);
  });
}

void Cures::unevenFill() {
  distance(fill, {1.25, 1.5, 1.8, 2.2, 2.8});
  height(fill, r.measures.fillTopToBottom < 0 ? range(0.15, 0.9, 0.15) : range(-0.15, -0.9, -0.15));
}

void Cures::fromBelow() {
  height(id, range(0.2, 1.6, 0.2));
  if (id != key) target(id, range(-0.5, -2.5, -0.5));
}

void Cures::hotFromBehind() {
  if (fault.id == "on-the-nose" && lamp && lamp->role == Role::Background) grid(id);
  if (lamp && lamp->role != Role::Key) target(id, range(-0.5, -2.5, -0.5));
  if (fault.id == "on-the-nose") {
    light(id, range(0.05, 0.6, 0.05), [&](Light& l, double d) {
      l.distance += d;
      return say("Move {} further behind, to {}", l.id, length(l.distance));
    });
    if (lamp) hour(id, lamp->hour > 6 ? range(0.15, 1.5, 0.15) : range(-0.15, -1.5, -0.15));
    tilt(id, range(6, 42, 6));
    height(id, range(-0.1, -0.7, -0.1));
  } else {
    feather(id, range(6, 36, 6));
    distance(id, {1.2, 1.45, 1.75, 2.1});
  }
}

void Cures::strayCatchlight() {
  feather(id, range(8, 48, 8));
  if (lamp) hour(id, lamp->hour > 6 ? range(0.25, 1.5, 0.25) : range(-0.25, -1.5, -0.25));
  off(id);
}

void Cures::burnt() {
  Trials again{{say("Set all lights to their targets again"), plan, true}};
  for (Light& l : again[0].plan.lights)
    if (const LightAnswer* a = answers.light(l.id); a && !l.locked && l.on) l.power = a->setting.stops;
  again[0].repower = false;
  if (!(again[0].plan == plan)) kinds.push_back(again);
  whole(range(-0.3, -2.1, -0.3), [&](Plan& p, double d) {
    for (Light& l : p.lights)
      if (l.on && !l.locked) l.targetStops += d;
    return say("Lower every light by {:.1f} stops", -d);
  });
}

void Cures::meterInShadow() {
  whole(range(-0.5, -3, -0.5), [&](Plan& p, double d) {
    Light* l = p.light(key);
    if (!l || l->locked) return std::string();
    l->targetStops += d;
    return say("Meter where it falls: {} {:.1f} stops lower", key, -d);
  });
  hour(key, {0.15, -0.15, 0.3, -0.3, 0.5, -0.5});
}

}  // namespace easel::rules
