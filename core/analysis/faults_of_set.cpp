#include <algorithm>
#include <array>
#include <cmath>

#include "analysis/fault_search.h"
#include "balance/advice.h"
#include "meter/point_meter.h"
#include "plan/check.h"
#include "plan/subject.h"
#include "spoken/say.h"

namespace easel::rules {

void collisions(FaultSearch& c) {
  struct Body {
    const Light* light;
    LightPose pose;
    float hw, hh, depth;
  };
  std::vector<Body> bodies;
  for (const PlacedLight& l : c.set.lights) {
    if (!l.lamp || l.onLens) continue;
    const Modifier& m = l.lamp->modifier;
    bodies.push_back({&l.light, l.pose, float(m.width) / 2, float(m.height > 0 ? m.height : m.width) / 2,
                      std::max(0.12f, float(m.depth))});
  }
  const Vec3 head = c.scene.studioPoint({0, 0, 0.05f});
  for (const Body& b : bodies) {
    // The nearest point of the front to the head.
    const Vec3 d = head - b.pose.centre;
    const Vec3 q = b.pose.centre + b.pose.frame.u * std::clamp(dot(d, b.pose.frame.u), -b.hw, b.hw) +
                   b.pose.frame.v * std::clamp(dot(d, b.pose.frame.v), -b.hh, b.hh);
    if (const double near = double(length(head - q)); near < kNearest)
      c.tell("touches-sitter", lightSubject(b.light->id),
             say("The front of {} is {} from the middle of the head.", b.light->id, c.spelling.length(near)), {q});
  }
  for (size_t i = 0; i < bodies.size(); ++i)
    for (size_t j = i + 1; j < bodies.size(); ++j) {
      const Body &a = bodies[i], &b = bodies[j];
      bool inside = false;
      for (const auto& [p, q] : {std::pair{&a, &b}, std::pair{&b, &a}})
        for (float u : {-1.f, 0.f, 1.f})
          for (float v : {-1.f, 0.f, 1.f}) {
            const Vec3 point = p->pose.centre + p->pose.frame.u * (u * p->hw) + p->pose.frame.v * (v * p->hh);
            const Vec3 d = point - q->pose.centre;
            const float n = dot(d, q->pose.frame.n);
            inside |= std::abs(dot(d, q->pose.frame.u)) < q->hw && std::abs(dot(d, q->pose.frame.v)) < q->hh &&
                      n < 0.03f && n > -q->depth;
          }
      if (inside)
        c.tell("stands-collide", lightSubject(b.light->id),
               say("{} and {} stand in the same place.", a.light->id, b.light->id), {b.pose.centre});
    }
}

void burnt(FaultSearch& c) {
  if (const double share = c.measures().burnt; share > 0.015)
    c.tell("burnt", "face", say("{:.0f} % of the face is burnt out.", 100 * share));
}

void reach(FaultSearch& c) {
  for (const LightAnswer& a : c.answers().lights) {
    const PlacedLight* l = c.set.light(a.id);
    if (!l || !l->burns() || std::abs(a.setting.shortfall) < 0.15) continue;
    const auto help = adviceOnPower(c.of.plan, l->light, a, c.spelling);
    c.tell(
        "out-of-reach", lightSubject(a.id),
        a.setting.shortfall > 0
            ? sayMany(a.setting.shortfall, "{} is {:.1f} stop too weak at full power for its target where it stands.",
                      "{} is {:.1f} stops too weak at full power for its target where it stands.", a.id,
                      a.setting.shortfall)
            : sayMany(-a.setting.shortfall,
                      "{} is {:.1f} stop too strong at its lowest power for its target where it stands.",
                      "{} is {:.1f} stops too strong at its lowest power for its target where it stands.", a.id,
                      -a.setting.shortfall),
        {}, false, help.empty() ? say("Its power cannot be set there.") : help.front());
  }
}

void roomLight(FaultSearch& c) {
  bool flash = false;
  for (const PlacedLight& l : c.set.lights) flash |= l.burns() && l.lamp->unit.kind == UnitKind::Flash;
  const double ambient = c.answers().ambient.total(), face = c.answers().face.total();
  if (flash && face > 0 && ambient > kAmbientShare * face)
    c.tell("ambient", "ambient", say("{:.0f} % of the light at the face is the room's own.", 100 * ambient / face));
}

// The meter held in a pattern's or a panel's shadow reads for the shadow.
void meterInShadow(FaultSearch& c) {
  if (c.key() < 0 || !c.onFace()) return;
  const auto key = size_t(c.key());
  const Source source = sourceOf(c.set, c.set.lights[key]);
  const Vec3 at = c.answers().meterSpot, to = normalize(source.emitter().pose().centre - at);
  const double here = directLux(&c.scene, source.emitter(), at, to, Receptor::Flat, 64) +
                      panelLux(c.scene, source, at, to, Receptor::Flat, 128);
  const double under = stopsOf(double(c.lights()[key].reference), here);
  if (here > 0 && under <= 1.0) return;
  c.tell("meter-in-shadow", lightSubject(c.lighting().key),
         here > 0
             ? say("The meter's place before the nose lies in a shadow of {}: {:.1f} stops under what it gives the "
                   "brightest parts of the face.",
                   c.lighting().key, under)
             : say("The meter's place before the nose lies in a shadow of {}.", c.lighting().key),
         {at});
}

void fromCheck(FaultSearch& c) {
  for (const Finding& f : checkPlan(c.of.plan, c.spelling)) {
    if (f.id.empty()) continue;
    c.tell(f.id, f.where, f.sentence, {}, f.id == "boom");
  }
}

}  // namespace easel::rules
