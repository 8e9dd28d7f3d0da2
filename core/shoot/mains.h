// What hangs on the mains, on which circuit, and through how much cable.
//
// A flash draws its modelling lamp all the time and, while it recharges, its stored energy over its recycling time and
// the efficiency of charging (0.7, from memory); all heads recharge together, so that is the load that trips a breaker.
// What burns for hours may take 80 % of a circuit (NFPA 70, article 210: a breaker is chosen for 125 % of the
// continuous load; value from memory; local codes decide). Watts, volts, amperes, metres; power factor 1.
#pragma once

#include <string>
#include <vector>

#include "exposure/spelling.h"
#include "plan/plan.h"
#include "shoot/usual.h"

namespace easel {

/// A socket in the room, by the clock of the plan.
struct Socket {
  std::string name;
  double hour = 6, distance = 3;
  bool operator==(const Socket&) const = default;
};
struct Circuit {
  std::string name;
  double volts = 230, amperes = 16;
  std::vector<Socket> sockets;
  double watts() const { return volts * amperes; }
  bool operator==(const Circuit&) const = default;
};
/// Something of the day that is plugged in besides lights.
struct PluggedIn {
  std::string appliance;  ///< id
  double hour = 9, distance = 3;
  bool operator==(const PluggedIn&) const = default;
};

/// m/s that blow at the stands, of the strongest of them; 0: none makes wind.
double windOf(const std::vector<PluggedIn>& things);

struct Consumer {
  std::string what;       ///< "A", or the appliance's name
  std::string light;      ///< its letter; empty: an appliance
  double steady = 0;      ///< W all the time
  double recharging = 0;  ///< W more while a flash recharges
  double hour = 6, distance = 0, height = 0;
  double peak() const { return steady + recharging; }
};
constexpr double kChargingEfficiency = 0.7;
constexpr double kContinuousShare = 0.8;

/// Of the plan's lights on the mains (off or on: they are plugged in), and of what else there is.
std::vector<Consumer> consumersOf(const Plan& plan, const std::vector<PluggedIn>& others);

/// Cable from socket to thing: along the floor with a fifth for going round, and up to it [m].
double cableWanted(const Consumer& consumer, const Socket& socket);

struct MainsLoad {
  struct Plug {
    Consumer consumer;
    int circuit = -1, socket = -1;  ///< -1: no circuit is known
    double cable = 0;               ///< length that is wanted [m]
    double taken = 0;               ///< the shortest cable that there is [m]; 0: none is long enough
  };
  struct OnCircuit {
    double steady = 0, peak = 0;  ///< W
    double allowed = 0;           ///< W for long: 80 %
    double most = 0;              ///< W at which it trips
  };
  std::vector<Plug> plugs;
  std::vector<OnCircuit> circuits;
  std::vector<std::string> problems;  ///< sentences; the load and what to do
};
/// Which socket takes what: no circuit over its share as long as one can be found, then the shortest cables. Heaviest
/// first, then single moves and exchanges until none helps.
MainsLoad spreadOver(const std::vector<Circuit>& circuits, const std::vector<Consumer>& consumers,
                     const Spelling& spelling = {});

/// The sentence that stands beside every estimate of load.
std::string loadCaution();

}  // namespace easel
