#include "placed/placed_set.h"

#include <algorithm>
#include <cmath>

#include "gear/panel_kinds.h"
#include "plan/gaze.h"
#include "plan/placement.h"

namespace easel {
namespace {

// Where it stands, once its gear and the things that it may work on are there.
void stand(PlacedLight& l, const PlacedSet& set) {
  const auto on = std::find_if(set.panels.begin(), set.panels.end(),
                               [&](const Panel& p) { return p.on && p.id == l.light.worksOn; });
  l.worksOn = l.light.worksOn.empty() || on == set.panels.end() ? -1 : int(on - set.panels.begin());
  const Panel* panel = set.workedOn(l);
  l.pose = l.onLens ? poseOnLens(set.cameraPose) : lightPose(l.light, panel ? spotOf(*panel).at : set.face);
  const Vec3 fromFace = l.pose.centre - set.face;
  l.distance = double(length(fromFace));
  l.elevation = double(degrees(std::asin(std::clamp(normalize(fromFace).y, -1.f, 1.f))));
  l.focus = l.light.fittings.focus > 0 ? l.light.fittings.focus : l.distance;
}

std::vector<std::shared_ptr<const Model>> modelsOf(const std::vector<Panel>& panels) {
  std::vector<std::shared_ptr<const Model>> out(panels.size());
  for (size_t i = 0; i < panels.size(); ++i)
    if (panels[i].on && shapeOf(panels[i].kind) == PanelShape::Object) out[i] = findModel(panels[i].model);
  return out;
}

}  // namespace

const PlacedLight* PlacedSet::light(const std::string& id) const {
  for (const PlacedLight& l : lights)
    if (l.light.id == id) return &l;
  return nullptr;
}

const PlacedLight* PlacedSet::key() const {
  for (const PlacedLight& l : lights)
    if (l.light.role == Role::Key && l.burns()) return &l;
  return nullptr;
}

PlacedSet placedSetOf(const Plan& plan, const Catalogue& catalogue) {
  PlacedSet s;
  s.room = plan.room;
  s.sitter = plan.sitter;
  s.lookedAt = lookedAt(plan);
  s.face = facePoint(plan);
  s.camera = plan.camera;
  s.cameraPose = cameraPose(plan);
  s.backdrop = plan.backdrop;
  s.ambient = plan.ambient;
  s.haze = plan.haze;
  s.receptor = plan.receptor;
  s.meterAim = plan.meterAim;
  s.spots = plan.spots;
  s.panels = plan.panels;
  s.leaves = leavesOf(plan.panels);
  s.models = modelsOf(plan.panels);
  s.lights.reserve(plan.lights.size());
  for (const Light& l : plan.lights) {
    PlacedLight p;
    p.light = l;
    p.lamp = lampOf(l, catalogue);
    const Modifier* modifier = p.lamp ? &p.lamp->modifier : catalogue.modifier(l.modifier);
    p.onLens = modifier && modifier->mount == Mount::Lens;
    if (p.lamp && modifier->projects) p.pattern = findGobo(l.fittings.pattern);
    stand(p, s);
    s.lights.push_back(std::move(p));
  }
  return s;
}

PlacedLight placedAs(const PlacedSet& set, const PlacedLight& like, const Light& now) {
  PlacedLight out = like;
  out.light = now;
  if (out.lamp) out.lamp->power = now.power;
  stand(out, set);
  return out;
}

PlacedSet without(const PlacedSet& set, size_t panel) {
  PlacedSet out = set;
  out.panels[panel].on = false;
  out.leaves = leavesOf(out.panels);
  out.models[panel] = nullptr;
  return out;
}

bool samePanels(const PlacedSet& a, const PlacedSet& b) {
  const auto standing = [](const PlacedSet& s) {
    std::vector<Panel> out;
    for (Panel q : s.panels)
      if (q.on) {
        q.name.clear();
        q.extra.clear();
        q.locked = false;
        out.push_back(std::move(q));
      }
    return out;
  };
  const auto drawn = [](const PlacedSet& s) {
    std::vector<const void*> out;
    for (const Leaf& l : s.leaves) out.insert(out.end(), {l.pattern.get(), l.painted.get()});
    for (const auto& m : s.models)
      if (m) out.push_back(m.get());
    return out;
  };
  return standing(a) == standing(b) && drawn(a) == drawn(b);
}

bool sameSource(const PlacedLight& a, const PlacedLight& b) {
  if (!a.lamp || !b.lamp) return !a.lamp && !b.lamp;
  return a.pose == b.pose && a.focus == b.focus && a.pattern == b.pattern &&
         a.lamp->fittings.doors == b.lamp->fittings.doors && a.lamp->front == b.lamp->front;
}

}  // namespace easel
