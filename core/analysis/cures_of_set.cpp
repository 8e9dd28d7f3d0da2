#include "analysis/cures.h"
#include "exposure/aperture.h"
#include "exposure/shutter.h"

namespace easel::rules {

Cures::Cures(const Plan& of, const Fault& what, const FaceAnalysis& reading, const Answers& metered,
             const Spelling& spelled)
    : plan(of), fault(what), r(reading), answers(metered), spelling(spelled), key(reading.lighting.key) {
  id = lightOf(fault.where).value_or("");
  lamp = plan.light(id);
  for (const Light& l : plan.lights) {
    if (l.role == Role::Fill && l.on && fill.empty()) fill = l.id;
    if (l.role == Role::Background && l.on) backgrounds.push_back(l.id);
  }
}

void Cures::touchesSitter() {
  distance(id, {1.1, 1.25, 1.5, 1.8, 2.2});
  height(id, range(0.1, 0.6, 0.1));
}

void Cures::standsCollide() {
  hour(id, {0.3, -0.3, 0.6, -0.6, 1, -1});
  distance(id, {1.2, 1.4, 1.7});
}

void Cures::throughCeilingOrFloor() {
  height(id, fault.id == "ceiling" ? range(-0.05, -1.2, -0.05) : range(0.05, 1.2, 0.05));
}

void Cures::outsideRoom() { distance(id, range(0.95, 0.3, -0.05)); }

void Cures::behindBackdrop() {
  if (!(lamp)) return;
  distance(id, range(0.9, 0.2, -0.1));
  backdropAway({std::abs(double(lightPose(plan, *lamp).centre.z)) + 0.35});
}

void Cures::sync() {
  whole(
      {0},
      [&](Plan& p, double) {
        p.camera.shutter = p.camera.syncShutter;
        return say("Set the shutter to {}", writeShutter(p.camera.syncShutter));
      },
      false);
}

void Cures::ambient() {
  whole(
      {0},
      [&](Plan& p, double) -> std::string {
        if (p.camera.shutter <= p.camera.syncShutter * 1.02) return {};
        p.camera.shutter = p.camera.syncShutter;
        return say("Set the shutter to {}", writeShutter(p.camera.syncShutter));
      },
      false);
  whole(
      {0.5, 0.25, 0.1, 0.02},
      [&](Plan& p, double share) {
        p.ambient.lux *= share;
        return say("Dim the room light to {:.0f} lx", p.ambient.lux);
      },
      false);
  whole({1, 2}, [&](Plan& p, double stops) {
    p.camera.iso = nominalIso(std::max(50.0, p.camera.iso / std::exp2(stops)));
    return say("Lower the ISO to {:.0f} and raise the flashes", p.camera.iso);
  });
}

void Cures::outOfReach() {
  if (!(lamp)) return;
  const LightAnswer* a = answers.light(id);
  const double miss = a ? a->setting.shortfall : 0;
  if (miss > 0) {
    distance(id, range(0.92, 0.35, -0.08));
    whole(range(1.0 / 3, 3, 1.0 / 3), [&](Plan& p, double s) {
      p.camera.iso = nominalIso(p.camera.iso * std::exp2(s));
      return say("Raise the ISO to {:.0f}", p.camera.iso);
    });
  } else {
    light(id, {0.3, 0.6, 0.9, 1.2, 1.8}, [&](Light& l, double nd) {
      l.fittings.nd = nd;
      return say("Put ND {:.1f} on {}", nd, l.id);
    });
    distance(id, range(1.15, 3, 0.2));
  }
  for (const Unit& u : knownUnits()) {
    const Unit* now = findUnit(lamp->unit);
    if (!now || u.kind != now->kind || u.id == now->id) continue;
    if (const auto have = unitsOwned(u.id); have && *have < 1) continue;
    light(id, {0}, [&](Light& l, double) {
      l.unit = u.id;
      return say("Use the {} for {}", u.name, l.id);
    });
  }
}

}  // namespace easel::rules
