#include "shoot/mains.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "gear/kit.h"
#include "plan/placement.h"
#include "spoken/say.h"

namespace easel {
namespace {

Vec3 floorAt(double hour, double distance) { return towardsHour(hour) * float(distance); }

struct Spread {
  const std::vector<Circuit>& circuits;
  const std::vector<Consumer>& consumers;
  std::vector<std::vector<std::pair<int, double>>> nearest;  ///< of each consumer on each circuit: socket, metres

  Spread(const std::vector<Circuit>& c, const std::vector<Consumer>& all) : circuits(c), consumers(all) {
    for (const Consumer& one : all) {
      auto& row = nearest.emplace_back();
      for (const Circuit& circuit : c) {
        std::pair<int, double> best{-1, 1e9};
        for (size_t s = 0; s < circuit.sockets.size(); ++s)
          if (const double m = cableWanted(one, circuit.sockets[s]); m < best.second) best = {int(s), m};
        row.push_back(best);
      }
    }
  }
  // Watts over what may be: at the breaker they count most, then those over the continuous share, then cable.
  double cost(const std::vector<int>& on) const {
    double out = 0;
    for (size_t c = 0; c < circuits.size(); ++c) {
      double steady = 0, peak = 0;
      for (size_t i = 0; i < on.size(); ++i)
        if (on[i] == int(c)) {
          steady += consumers[i].steady;
          peak += consumers[i].peak();
        }
      out += 1e6 * std::max(0.0, peak - circuits[c].watts()) +
             1e4 * std::max(0.0, steady - kContinuousShare * circuits[c].watts());
    }
    for (size_t i = 0; i < on.size(); ++i) out += nearest[i][size_t(on[i])].second;
    return out;
  }
};

}  // namespace

std::vector<Consumer> consumersOf(const Plan& plan, const std::vector<PluggedIn>& others) {
  std::vector<Consumer> all;
  for (const Light& l : plan.lights) {
    const Unit* u = findUnit(l.unit);
    if (!u || !u->mains) continue;
    Consumer c;
    c.what = c.light = l.id;
    c.steady = u->modellingWatts;
    if (u->kind == UnitKind::Continuous) c.steady *= std::exp2(std::min(0.0, l.power));
    if (u->kind == UnitKind::Flash && u->recycle > 0) c.recharging = u->wattSeconds / u->recycle / kChargingEfficiency;
    const Vec3 at = lightPose(plan, l).centre;
    c.hour = hourOf(double(at.x), double(at.z));
    c.distance = std::hypot(double(at.x), double(at.z));
    c.height = double(at.y);
    all.push_back(c);
  }
  for (const PluggedIn& p : others)
    if (const Appliance* a = findAppliance(p.appliance))
      all.push_back({.what = a->name,
                     .light = {},
                     .steady = a->watts,
                     .recharging = 0,
                     .hour = p.hour,
                     .distance = p.distance,
                     .height = 0.8});
  return all;
}

double windOf(const std::vector<PluggedIn>& things) {
  double wind = 0;
  for (const PluggedIn& p : things)
    if (const Appliance* a = findAppliance(p.appliance)) wind = std::max(wind, a->wind);
  return wind;
}

double cableWanted(const Consumer& consumer, const Socket& socket) {
  const Vec3 way = floorAt(consumer.hour, consumer.distance) - floorAt(socket.hour, socket.distance);
  return 1.2 * double(length(way)) + consumer.height;
}

MainsLoad spreadOver(const std::vector<Circuit>& circuits, const std::vector<Consumer>& consumers,
                     const Spelling& spelling) {
  MainsLoad out;
  std::vector<Circuit> usable;
  std::vector<int> which;
  for (size_t c = 0; c < circuits.size(); ++c)
    if (!circuits[c].sockets.empty()) {
      usable.push_back(circuits[c]);
      which.push_back(int(c));
    }
  for (const Circuit& c : circuits) out.circuits.push_back({0, 0, kContinuousShare * c.watts(), c.watts()});
  const Spread spread(usable, consumers);
  std::vector<int> on(consumers.size(), 0);
  if (!usable.empty()) {
    std::vector<size_t> heaviest(consumers.size());
    std::iota(heaviest.begin(), heaviest.end(), size_t(0));
    std::stable_sort(heaviest.begin(), heaviest.end(),
                     [&](size_t a, size_t b) { return consumers[a].peak() > consumers[b].peak(); });
    const auto better = [&](double& cost) {
      if (const double now = spread.cost(on); now < cost - 1e-9) {
        cost = now;
        return true;
      }
      return false;
    };
    double cost = spread.cost(on);
    for (bool changed = true; changed;) {
      changed = false;
      for (const size_t i : heaviest) {
        for (int c = 0; c < int(usable.size()); ++c) {
          const int before = std::exchange(on[i], c);
          if (better(cost))
            changed = true;
          else
            on[i] = before;
        }
        for (const size_t j : heaviest) {
          std::swap(on[i], on[j]);
          if (better(cost))
            changed = true;
          else
            std::swap(on[i], on[j]);
        }
      }
    }
  }
  for (size_t i = 0; i < consumers.size(); ++i) {
    MainsLoad::Plug plug{consumers[i], -1, -1, 0, 0};
    if (!usable.empty()) {
      plug.circuit = which[size_t(on[i])];
      std::tie(plug.socket, plug.cable) = spread.nearest[i][size_t(on[i])];
      for (const double length : usualDay().cables)
        if (length >= plug.cable && plug.taken == 0) plug.taken = length;
      if (plug.taken == 0)
        out.problems.push_back(
            say("{} stands {} of cable away from the nearest socket that has room, and no cable is that long. Move it, "
                "or have a socket brought nearer.",
                plug.consumer.what, spelling.length(plug.cable)));
      auto& circuit = out.circuits[size_t(plug.circuit)];
      circuit.steady += consumers[i].steady;
      circuit.peak += consumers[i].peak();
    }
    out.plugs.push_back(plug);
  }
  if (usable.empty() && !consumers.empty()) {
    const double peak = std::accumulate(consumers.begin(), consumers.end(), 0.0,
                                        [](double sum, const Consumer& c) { return sum + c.peak(); });
    out.problems.push_back(
        say("{:.0f} W at most hang on the mains, and no circuit with a socket is written down for the room. Write "
            "down its breakers and sockets.",
            peak));
  }
  for (size_t c = 0; c < out.circuits.size(); ++c) {
    const auto& load = out.circuits[c];
    const std::string name = circuits[c].name.empty() ? say("Circuit {}", c + 1) : circuits[c].name;
    if (load.peak > load.most)
      out.problems.push_back(
          say("{}: {:.0f} W while the flashes recharge, its breaker holds {:.0f} W. Turn modelling lamps off, set the "
              "heads to slow recharging, or find another circuit.",
              name, load.peak, load.most));
    else if (load.steady > load.allowed)
      out.problems.push_back(say(
          "{}: {:.0f} W all day, and {:.0f} W (80 % of the breaker) is what it takes for hours. Turn modelling lamps "
          "off or find another circuit.",
          name, load.steady, load.allowed));
  }
  return out;
}

std::string loadCaution() {
  return say(
      "An estimate for planning, on a level floor and from usual figures. Makers' ratings, local codes and licensed "
      "electricians or "
      "riggers decide; no strips on strips, cables uncoiled and taped.");
}

}  // namespace easel
