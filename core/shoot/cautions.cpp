#include "shoot/cautions.h"

#include <fmt/format.h>

#include <algorithm>

#include "gear/panel_kinds.h"
#include "shoot/supports.h"
#include "spoken/say.h"

namespace easel {
std::vector<Caution> cautionsFor(const Plan& plan, const Inventory& kit, const std::vector<PluggedIn>& others,
                                 const Spelling& spelling) {
  std::vector<Caution> out;
  std::vector<std::string> booms, mains, lamps, gels, packs, flashes, glass, tall, shades;
  const double wind = windOf(others);
  bool haze = plan.haze > 0, heat = false;
  for (const PluggedIn& p : others)
    if (const Appliance* a = findAppliance(p.appliance)) {
      haze |= a->haze;
      heat |= a->heat;
    }
  for (const Carried& c : carriedIn(plan, kit, wind, spelling)) {
    if (c.boom) booms.push_back(c.light);
    if (!c.problem.empty()) out.push_back({"support", c.what + ": " + c.problem});
  }
  for (const Light& l : plan.lights) {
    const Unit* u = findUnit(l.unit);
    const Modifier* m = findModifier(l.modifier);
    if (!u || u->fixed) continue;
    if (u->mains) mains.push_back(l.id);
    if (!l.inside.empty()) shades.push_back(l.id);
    if (u->kind == UnitKind::Flash) {
      flashes.push_back(l.id);
      if (!u->mains) packs.push_back(l.id);
    }
    if (u->modellingWatts >= 100) lamps.push_back(l.id);
    if (u->modellingWatts > 0 && (l.fittings.gel != "none" || l.fittings.diffusion != "none")) gels.push_back(l.id);
    if (m && m->outline == Outline::Ball) glass.push_back(l.id);
  }
  for (const Panel& p : plan.panels) {
    const PanelKind* kind = findPanelKind(p.kind);
    if (p.on && p.height >= 1.8 && !(kind && kind->shape == PanelShape::Photographer)) tall.push_back(p.id);
  }
  if (!booms.empty())
    out.push_back({"boom", say("{} on a boom: counterweight, safety line and sandbag; nobody under it while it is "
                               "moved; the head comes off after "
                               "the counterweight. Makers' ratings and local rules decide.",
                               fmt::join(booms, ", "))});
  if (!mains.empty())
    out.push_back({"mains", say("{} on the mains: count what hangs on each circuit, no strips on strips, cables "
                                "uncoiled, liquids apart. Local codes and a "
                                "licensed electrician decide.",
                                fmt::join(mains, ", "))});
  if (!mains.empty() || !others.empty())
    out.push_back({"cables", say("Cables across the way of sitter and photographer: taped down or under a ramp.")});
  if (!shades.empty())
    out.push_back(
        {"shade", say("{} burns in a shade of paper or cloth: a cold lamp or a flash without its modelling lamp, "
                      "clear of the shade all round, never left alone; the foot weighted and the lead taped.",
                      fmt::join(shades, ", "))});
  if (!lamps.empty() || heat)
    out.push_back({"heat", lamps.empty()
                               ? say("Something hot stands in the room: clear of cloth and paper, never left alone.")
                               : say("Modelling lamps of {} get hot: air round them, gloves for grids, never left "
                                     "alone under cloth or paper.",
                                     fmt::join(lamps, ", "))});
  if (!gels.empty())
    out.push_back({"gels", say("Sheets before a lamp ({}): rated for heat, with an air gap, the lamp turned down.",
                               fmt::join(gels, ", "))});
  if (!tall.empty())
    out.push_back({"tall", say("Tall boards ({}): two stands or weights on the foot, none of them in a draught.",
                               fmt::join(tall, ", "))});
  if (wind > 0)
    out.push_back(
        {"wind",
         say("Wind machine: boards and boxes are sails, so weight them; hair and cloth clear of the blades; eyes.")});
  if (haze)
    out.push_back(
        {"haze",
         say("Haze: ventilate, ask about asthma, tell whoever minds the smoke detectors. The venue's rules decide.")});
  if (!flashes.empty())
    out.push_back({"flicker", say("Repeated flashing ({}): ask about photosensitivity first; small children and "
                                  "animals at a distance and through "
                                  "diffusion.",
                                  fmt::join(flashes, ", "))});
  if (!packs.empty())
    out.push_back({"lithium", say("Lithium packs ({}): contacts covered, in the cabin and not in the hold; carriers' "
                                  "and local rules decide.",
                                  fmt::join(packs, ", "))});
  if (!glass.empty())
    out.push_back({"glass", say("Bare bulbs or tubes ({}): a guard, and out of reach.", fmt::join(glass, ", "))});
  return out;
}

}  // namespace easel
