#include "meter/panel_shares.h"

#include <cmath>

#include "gear/panel_kinds.h"
#include "meter/point_meter.h"
#include "meter/spots.h"
#include "plan/lamp.h"
#include "spoken/say.h"
#include "transport/parallel.h"

namespace easel {

std::vector<PanelShare> panelShares(const Scene& scene, const Plan& plan) {
  std::vector<MeterSpot> spots;
  for (MeterSpot& s : meterSpots(scene, plan))
    if (s.id.rfind("backdrop", 0) != 0 && s.id.rfind("pin", 0) != 0) spots.push_back(std::move(s));
  const size_t n = plan.panels.size();
  // At every spot: all light, and each panel's part of it by light.
  std::vector<double> all(spots.size(), 0);
  std::vector<std::vector<std::vector<double>>> part(
      spots.size(), std::vector<std::vector<double>>(n, std::vector<double>(plan.lights.size(), 0)));
  std::vector<std::optional<Source>> sources;
  for (const Light& l : plan.lights)
    sources.push_back(l.on && findUnit(l.unit) && findModifier(l.modifier) ? std::optional(sourceOf(scene, plan, l))
                                                                           : std::nullopt);
  inParallel(spots.size(), [&](size_t s) {
    all[s] = plan.ambient.lux * plan.camera.shutter;
    for (size_t k = 0; k < sources.size(); ++k) {
      if (!sources[k]) continue;
      const double energy = lampEnergy(plan.lights[k], plan.camera);
      all[s] += energy * meteredLux(scene, *sources[k], spots[s].position, spots[s].normal, Receptor::Flat, 192, 192);
      for (size_t p = 0; p < n; ++p)
        if (plan.panels[p].on)
          part[s][p][k] =
              energy * panelLux(scene, *sources[k], spots[s].position, spots[s].normal, Receptor::Flat, 256, int(p));
    }
  });
  std::vector<PanelShare> out;
  for (size_t p = 0; p < n; ++p) {
    const Panel& panel = plan.panels[p];
    if (!panel.on) continue;
    PanelShare share;
    share.panel = panel.id;
    double most = -1;
    size_t where = 0;
    for (size_t s = 0; s < spots.size(); ++s) {
      double mine = 0;
      for (double v : part[s][p]) mine += v;
      const double adds = std::log2(all[s] / std::max(1e-9, all[s] - std::min(mine, 0.999 * all[s])));
      if (adds > most) {
        most = adds;
        where = s;
      }
    }
    if (spots.empty()) continue;
    share.spot = spots[where].id;
    share.spotName = spots[where].name;
    share.stops = std::max(0.0, most);
    double feeds = 0;
    for (size_t k = 0; k < plan.lights.size(); ++k)
      if (part[where][p][k] > feeds) {
        feeds = part[where][p][k];
        share.light = plan.lights[k].id;
      }
    std::string name = panel.name.empty() ? panel.kind : panel.name;
    share.sentence = share.stops < 0.05
                         ? say("{} {} adds nothing that counts; it only keeps light off.", name, panel.id)
                         : say("{} {} adds {:.1f} stop{} where it adds most: {}, from light {}.", name, panel.id,
                               share.stops, share.stops < 1.05 ? "" : "s", share.spotName, share.light);
    out.push_back(std::move(share));
  }
  return out;
}

}  // namespace easel
