#include "meter/panel_shares.h"

#include <algorithm>
#include <cmath>

#include "exposure/stops.h"
#include "meter/point_meter.h"
#include "meter/spots.h"
#include "sitters/sitter_file.h"
#include "spoken/say.h"
#include "threads/parallel.h"

namespace easel {

namespace {

// Light of the others at every spot, and of each light.
std::vector<std::vector<double>> lightAt(const Scene& scene, const PlacedSet& set,
                                         const std::vector<MeterSpot>& spots) {
  std::vector<std::vector<double>> out(spots.size(), std::vector<double>(set.lights.size(), 0));
  inParallel(set.lights.size(), [&](size_t k) {
    const PlacedLight& l = set.lights[k];
    if (!l.burns()) return;
    const Source source = sourceOf(scene, set, l);
    for (size_t s = 0; s < spots.size(); ++s)
      out[s][k] = l.energy(set.camera) *
                  meteredLux(scene, source, spots[s].position, spots[s].normal, Receptor::Flat, 192, 768);
  });
  return out;
}

bool asWall(const Panel& panel) {
  const std::vector<Leaf> leaves = leavesOf(panel);
  return std::none_of(leaves.begin(), leaves.end(), [](const Leaf& l) { return l.sampling == Leaf::Sampling::ByArea; });
}

std::string saidAdds(const std::string& name, double stops, const PanelShare& share) {
  return sayMany(stops, "{} adds {:.1f} stop where it adds most: {}, from light {}.",
                 "{} adds {:.1f} stops where it adds most: {}, from light {}.", name, stops, share.spotName,
                 share.light);
}

// What a piece gives by its walls is not asked for by name: it is carried out, and the light without it is metered.
PanelShare shareOfPiece(const PlacedSet& set, size_t index, const std::vector<MeterSpot>& spots,
                        const std::vector<std::vector<double>>& with) {
  const Scene bare(without(set, index), loadSitter(set.sitter.id));
  const auto gone = lightAt(bare, set, spots);
  PanelShare share;
  share.panel = set.panels[index].id;
  const double room = set.ambientExposure();
  double most = 0, least = 0;
  size_t adds = 0, takes = 0;
  for (size_t s = 0; s < spots.size(); ++s) {
    double now = room, then = room;
    for (size_t k = 0; k < set.lights.size(); ++k) {
      now += with[s][k];
      then += gone[s][k];
    }
    const double stops = stopsOver(now, then);
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
  for (size_t k = 0; k < set.lights.size(); ++k)
    if (const double by = std::abs(with[where][k] - gone[where][k]); by > feeds) {
      feeds = by;
      share.light = set.lights[k].light.id;
    }
  const std::string name = calledFirst(set.panels[index]);
  share.sentence = std::max(most, -least) < kCounts
                       ? say("{} neither gives light to the sitter nor takes any away.", name)
                   : gives ? saidAdds(name, most, share)
                           : sayMany(-least, "{} takes {:.1f} stop away where it takes most: {}, of light {}.",
                                     "{} takes {:.1f} stops away where it takes most: {}, of light {}.", name, -least,
                                     share.spotName, share.light);
  return share;
}

}  // namespace

std::vector<PanelShare> panelShares(const Scene& scene, const PlacedSet& set) {
  std::vector<MeterSpot> spots;
  for (MeterSpot& s : meterSpots(scene, set))
    if (!s.id.starts_with("backdrop") && !s.id.starts_with("pin") && !s.id.starts_with("panel"))
      spots.push_back(std::move(s));
  const size_t n = set.panels.size();
  // At every spot: all light, and each panel's part of it by light.
  std::vector<double> all(spots.size(), 0);
  std::vector<std::vector<std::vector<double>>> part(
      spots.size(), std::vector<std::vector<double>>(n, std::vector<double>(set.lights.size(), 0)));
  std::vector<std::optional<Source>> sources;
  for (const PlacedLight& l : set.lights)
    sources.push_back(l.burns() ? std::optional(sourceOf(scene, set, l)) : std::nullopt);
  inParallel(spots.size(), [&](size_t s) {
    all[s] = set.ambientExposure();
    for (size_t k = 0; k < sources.size(); ++k) {
      if (!sources[k]) continue;
      const double energy = set.lights[k].energy(set.camera);
      all[s] += energy * meteredLux(scene, *sources[k], spots[s].position, spots[s].normal, Receptor::Flat, 192, 192);
      for (size_t p = 0; p < n; ++p)
        if (set.panels[p].on)
          part[s][p][k] =
              energy * panelLux(scene, *sources[k], spots[s].position, spots[s].normal, Receptor::Flat, 256, int(p));
    }
  });
  std::vector<PanelShare> out;
  std::vector<std::vector<double>> with;  // for pieces
  for (size_t p = 0; p < n; ++p) {
    const Panel& panel = set.panels[p];
    if (!panel.on) continue;
    if (asWall(panel)) {
      if (with.empty()) with = lightAt(scene, set, spots);
      out.push_back(shareOfPiece(set, p, spots, with));
      continue;
    }
    PanelShare share;
    share.panel = panel.id;
    double most = -1;
    size_t where = 0;
    for (size_t s = 0; s < spots.size(); ++s) {
      double mine = 0;
      for (double v : part[s][p]) mine += v;
      const double adds = stopsFromRatio(all[s] / std::max(1e-9, all[s] - std::min(mine, 0.999 * all[s])));
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
    for (size_t k = 0; k < set.lights.size(); ++k)
      if (part[where][p][k] > feeds) {
        feeds = part[where][p][k];
        share.light = set.lights[k].light.id;
      }
    std::string name = panel.name.empty() ? panel.kind : panel.name;
    share.sentence = share.stops < 0.05
                         ? say("{} {} adds nothing that counts; it only keeps light off.", name, panel.id)
                         : saidAdds(name + " " + panel.id, share.stops, share);
    out.push_back(std::move(share));
  }
  return out;
}

}  // namespace easel
