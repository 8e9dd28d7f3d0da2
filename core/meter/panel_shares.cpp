#include "meter/panel_shares.h"

#include <algorithm>
#include <cmath>

#include "gear/panel_kinds.h"
#include "meter/point_meter.h"
#include "meter/spots.h"
#include "plan/lamp.h"
#include "plan/leaves.h"
#include "sitters/sitter_file.h"
#include "spoken/say.h"
#include "threads/parallel.h"

namespace easel {

namespace {

// Light of the others at every spot, and of each light.
std::vector<std::vector<double>> lightAt(const Scene& scene, const Plan& plan, const std::vector<MeterSpot>& spots) {
  std::vector<std::vector<double>> out(spots.size(), std::vector<double>(plan.lights.size(), 0));
  inParallel(plan.lights.size(), [&](size_t k) {
    const Light& l = plan.lights[k];
    if (!l.on || !findUnit(l.unit) || !findModifier(l.modifier)) return;
    const Source source = sourceOf(scene, plan, l);
    for (size_t s = 0; s < spots.size(); ++s)
      out[s][k] = lampEnergy(l, plan.camera) *
                  meteredLux(scene, source, spots[s].position, spots[s].normal, Receptor::Flat, 192, 768);
  });
  return out;
}

bool asWall(const Plan& plan, const Panel& panel) {
  const std::vector<Leaf> leaves = leavesOf(plan, panel);
  return std::none_of(leaves.begin(), leaves.end(), [](const Leaf& l) { return l.gives == Leaf::Gives::ByName; });
}

// What a piece gives by its walls is not asked for by name: it is carried out, and the light without it is metered.
PanelShare shareOfPiece(const Plan& plan, size_t index, const std::vector<MeterSpot>& spots,
                        const std::vector<std::vector<double>>& with) {
  Plan out = plan;
  out.panels[index].on = false;
  const Scene bare(out, loadSitter(plan.sitter.id));
  const auto without = lightAt(bare, plan, spots);  // its lights stay aimed where it stood
  PanelShare share;
  share.panel = plan.panels[index].id;
  const double room = plan.ambient.lux * plan.camera.shutter;
  double most = 0, least = 0;
  size_t adds = 0, takes = 0;
  for (size_t s = 0; s < spots.size(); ++s) {
    double now = room, then = room;
    for (size_t k = 0; k < plan.lights.size(); ++k) {
      now += with[s][k];
      then += without[s][k];
    }
    const double stops = now > 0 && then > 0 ? std::log2(now / then) : 0;
    if (stops > most) most = stops, adds = s;
    if (stops < least) least = stops, takes = s;
  }
  constexpr double kCounts = 0.05;  // stops
  const bool gives = most >= kCounts || most >= -least;
  const size_t where = gives ? adds : takes;
  share.spot = spots[where].id;
  share.spotName = spots[where].name;
  share.stops = most;
  double feeds = 0;
  for (size_t k = 0; k < plan.lights.size(); ++k)
    if (const double by = std::abs(with[where][k] - without[where][k]); by > feeds) {
      feeds = by;
      share.light = plan.lights[k].id;
    }
  const std::string name = calledFirst(plan.panels[index]);
  share.sentence = std::max(most, -least) < kCounts
                       ? say("{} neither gives light to the sitter nor takes any away.", name)
                   : gives ? say("{} adds {:.1f} stop{} where it adds most: {}, from light {}.", name, most,
                                 most < 1.05 ? "" : "s", share.spotName, share.light)
                           : say("{} takes {:.1f} stop{} away where it takes most: {}, of light {}.", name, -least,
                                 -least < 1.05 ? "" : "s", share.spotName, share.light);
  return share;
}

}  // namespace

std::vector<PanelShare> panelShares(const Scene& scene, const Plan& plan) {
  std::vector<MeterSpot> spots;
  for (MeterSpot& s : meterSpots(scene, plan))
    if (!s.id.starts_with("backdrop") && !s.id.starts_with("pin") && !s.id.starts_with("panel"))
      spots.push_back(std::move(s));
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
  std::vector<std::vector<double>> with;  // for pieces
  for (size_t p = 0; p < n; ++p) {
    const Panel& panel = plan.panels[p];
    if (!panel.on) continue;
    if (asWall(plan, panel)) {
      if (with.empty()) with = lightAt(scene, plan, spots);
      out.push_back(shareOfPiece(plan, p, spots, with));
      continue;
    }
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
