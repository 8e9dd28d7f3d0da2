#include "shoot/supports.h"

#include <algorithm>
#include <cmath>

#include "data/by_id.h"
#include "gear/panel_kinds.h"
#include "plan/check.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "shoot/statics.h"
#include "shoot/usual.h"
#include "spoken/say.h"

namespace easel {
namespace {

constexpr double kFittings = 0.3;  // kg of grid or doors, from memory
constexpr double kClear = 1.1;     // m from the sitter's axis to the column of a boom, common practice, no source

bool owned(const Inventory& kit, const Support& s) {
  if (kit.supports.empty()) return true;
  const auto found = kit.supports.find(s.id);
  return found != kit.supports.end() && found->second > 0;
}

struct Want {
  double height, kilograms, reach;
  bool boom, panel;
};
bool holds(const Support& s, const Want& w) {
  return s.boom == w.boom && s.panels == w.panel && s.highest >= w.height - 1e-6 && s.load >= w.kilograms - 1e-6 &&
         (!w.boom || s.armFront >= w.reach - 1e-6);
}
// The lightest that holds it; of the kit first.
const Support* fitting(const Inventory& kit, const Want& w) {
  for (const bool own : {true, false}) {
    const Support* best = nullptr;
    for (const Support& s : supports())
      if ((!own || owned(kit, s)) && holds(s, w) && (!best || s.kilograms < best->kilograms)) best = &s;
    if (best) return best;
  }
  return nullptr;
}

void standOnFeet(Carried& c, const Support& s, double area, double wind) {
  OnFeet feet{.kilograms = s.kilograms + c.kilograms / c.supports,
              .feet = s.feet,
              .eccentric = 0,
              .height = c.height,
              .wind = windOn(area / c.supports, wind)};
  if (c.boom) {
    const BoomArm arm{s.armFront, s.armBack, s.armKilograms};
    c.counterweight = counterweightFor(arm, c.kilograms, c.reach);
    // Weights come in steps: half of the smallest is left over or wanting.
    const auto& steps = usualDay().weights;
    feet.eccentric = s.armBack * (steps.empty() ? 1.25 : steps.front()) / 2;
    feet.kilograms += s.armKilograms + c.counterweight;
  }
  c.overturning = overturning(feet);
  c.resisting = resisting(feet);
  c.sandbag = sandbagFor(feet);
}

Carried carriedLight(const Plan& plan, const Light& light, const Inventory& kit, double wind,
                     const Spelling& spelling) {
  Carried c;
  c.what = c.light = light.id;
  const Unit* unit = findUnit(light.unit);
  const Modifier* front = findModifier(light.modifier);
  c.needsSupport = !onLens(light) && !(unit && unit->fixed);
  c.kilograms = weightOf(light, c.weightsKnown);
  const Vec3 at = lightPose(plan, light).centre;
  c.height = double(at.y);
  if (!c.needsSupport) return c;
  c.boom = wantsBoom(plan, light);
  if (c.boom) c.reach = std::max(0.6, kClear - (hangsOver(plan, at) ? std::hypot(double(at.x), double(at.z)) : 0));
  const Support* s = fitting(kit, {c.height, c.kilograms, c.reach, c.boom, false});
  if (!s) {
    c.problem =
        c.boom ? say("No boom that is known holds {:.1f} kg at {}. Lower it, take a lighter head or modifier, or hang "
                     "it from what the building has, with whoever is licensed to.",
                     c.kilograms, spelling.length(c.height))
               : say("No stand that is known holds {:.1f} kg at {}. Lower it, take a lighter head or modifier, or hang "
                     "it from what the building has, with whoever is licensed to.",
                     c.kilograms, spelling.length(c.height));
    return c;
  }
  c.support = s->id;
  standOnFeet(c, *s, front ? front->area() : 0, wind);
  return c;
}

Carried carriedPanel(const Panel& panel, const Inventory& kit, double wind, const Spelling& spelling) {
  Carried c;
  c.what = called(panel);
  const PanelKind* kind = findPanelKind(panel.kind);
  const PanelShape shape = shapeOf(panel.kind);
  const double area = panel.width * panel.height * (shape == PanelShape::Fold ? 2 : 1);
  c.weightsKnown = kind && kind->kilograms > 0;
  // Of the size that the catalogue weighs; a larger one weighs more in proportion.
  c.kilograms =
      c.weightsKnown ? kind->kilograms * panel.width * panel.height / (kind->width * kind->height) : 1.2 * area;
  c.height = panel.above;
  // A piece of the set stands by itself or hangs; a branch is held.
  c.needsSupport = shape != PanelShape::Photographer && shape != PanelShape::Fold &&
                   (!isPiece(shape) || shape == PanelShape::Branch);
  if (shape == PanelShape::Photographer) c.kilograms = 0;
  if (!c.needsSupport) return c;
  c.supports = panel.width > 1.4 ? 2 : 1;
  const Support* s = fitting(kit, {c.height, c.kilograms / c.supports, 0, false, c.supports == 1});
  if (!s) s = fitting(kit, {c.height, c.kilograms / c.supports, 0, false, false});
  if (!s) {
    c.problem = say("No stand that is known holds {:.1f} kg at {}. Lower it, or take a smaller board.", c.kilograms,
                    spelling.length(c.height));
    return c;
  }
  c.support = s->id;
  standOnFeet(c, *s, area, wind);
  return c;
}

}  // namespace

double weightOf(const Light& light, bool& known) {
  const Unit* u = findUnit(light.unit);
  const Modifier* m = findModifier(light.modifier);
  known = true;
  double kg = 0;
  if (u && u->kilograms > 0)
    kg += u->kilograms;
  else if (!u || !u->fixed) {
    known = false;
    kg += u ? 1 + u->wattSeconds / 200 + (u->kind == UnitKind::Continuous ? u->modellingWatts / 100 : 0) : 2;
  }
  // Zoom heads, tubes and rings are of one piece with their light.
  if (m && m->kilograms > 0)
    kg += m->kilograms;
  else if (m && m->source.empty()) {
    known = false;
    kg += 0.3 + m->area();
  }
  if (light.fittings.grid > 0 || light.fittings.doors.closed()) kg += kFittings;
  return kg;
}

bool wantsBoom(const Plan& plan, const Light& light) {
  const Unit* unit = findUnit(light.unit);
  if (onLens(light) || (unit && unit->fixed)) return false;
  const Vec3 at = lightPose(plan, light).centre;
  // Low on the floor before the backdrop a small foot stands behind the sitter; a tall column does not.
  return hangsOver(plan, at) || (double(at.y) > 0.9 && columnShows(plan, double(at.x), double(at.z), double(at.y)));
}

bool columnShows(const Plan& plan, double x, double z, double top) {
  const CameraPose camera = cameraPose(plan);
  for (double y = 0.05; y < top; y += 0.05) {
    const Vec3 to = Vec3{float(x), float(y), float(z)} - camera.eye;
    const double depth = -double(dot(to, camera.frame.n));
    if (depth <= 0.05 || z < -plan.backdrop.distance) continue;
    const double up = double(dot(to, camera.frame.v)) / depth / double(camera.tanHalfHeight);
    const double across = double(dot(to, camera.frame.u)) / depth / (double(camera.tanHalfHeight) * plan.camera.frame);
    // Behind the sitter's shoulders nothing of it shows: half a metre of them, up to a hand below the eyes.
    const bool hidden = z < -0.1 && y < plan.sitter.eyeHeight - 0.1 && std::abs(x) * plan.camera.distance / depth < 0.2;
    if (!hidden && std::abs(up) < 1 && std::abs(across) < 1) return true;
  }
  return false;
}

std::vector<Carried> carriedIn(const Plan& plan, const Inventory& kit, double wind, const Spelling& spelling) {
  std::vector<Carried> all;
  for (const Light& l : plan.lights) all.push_back(carriedLight(plan, l, kit, wind, spelling));
  for (const Panel& p : plan.panels)
    if (p.on) all.push_back(carriedPanel(p, kit, wind, spelling));
  return all;
}

std::string describe(const Carried& c, const Spelling& spelling) {
  if (!c.needsSupport) return c.kilograms > 0 ? say("{:.1f} kg, no stand.", c.kilograms) : say("No stand.");
  if (!c.problem.empty()) return c.problem;
  const Support* s = byId(supports(), c.support);
  const std::string height = spelling.length(c.height), name = s ? s->name : c.support;
  const double load = s ? s->load : 0;
  std::string out = c.supports > 1
                        ? say("{:.1f} kg at {} on two of: {} (holds {:.0f} kg).", c.kilograms, height, name, load)
                        : say("{:.1f} kg at {} on {} (holds {:.0f} kg).", c.kilograms, height, name, load);
  if (c.boom)
    out += " " + say("Head {} before the pivot, counterweight {:.1f} kg {} behind it.", spelling.length(c.reach),
                     c.counterweight, spelling.length(s ? s->armBack : 0));
  if (c.sandbag > 0.05)
    out += " " + (c.supports > 1 ? say("Sandbag {:.0f} kg on each.", std::ceil(c.sandbag))
                                 : say("Sandbag {:.0f} kg on its feet.", std::ceil(c.sandbag)));
  if (!c.weightsKnown) out += " " + say("Its weight is guessed by its size: weigh it.");
  return out;
}

}  // namespace easel
