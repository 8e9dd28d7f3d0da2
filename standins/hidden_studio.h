// The studio as it really is: the plan as a tired person has set it up, with heads, modifiers, walls and a meter that
// differ from the catalogue. What differs comes from a seed and is hidden from whoever plans; the light in it is
// computed as everywhere in core/. Stops, metres, degrees; one standard deviation each. Not thread-safe.
#pragma once

#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <string>

#include "meter/answers.h"
#include "rendering/progressive_render.h"
#include "transport/scene.h"

namespace easel {

/// Common practice, no source: gear differs from what is printed on it by about so much.
struct Differences {
  double head = 0.2, modifier = 0.18, meter = 0.12;  ///< stops
  double place = 0.02, turn = 1.5;                   ///< of each stand: metres along each axis, degrees
  double walls = 0.25;                               ///< stops of what the paint reflects
  double hand = 0.03;                                ///< stops of each reading
};

/// What goes wrong, of its own accord or because somebody wants to see it.
enum class Mishap {
  None,
  Misfire,        ///< no flash came
  WrongGroup,     ///< another light fired instead
  TwoLights,      ///< another light was on as well
  NotRecycled,    ///< about a stop low
  FlatBattery,    ///< two stops low, and each time
  ModellingLamp,  ///< it burns and is counted
  HalfWay,        ///< the meter half-way to the lamp
  Receptor,       ///< the other receptor
  InShadow,       ///< a hand or a stand before the meter
  MeterSettings   ///< the meter's ISO is a stop off
};
constexpr int kMishaps = 11;
std::string mishapName(Mishap mishap);  ///< "half-way": as scripts call it
std::optional<Mishap> mishapOf(const std::string& name);

/// What flashed: of each letter the share of its energy (1: all), and whether its modelling lamp burns.
struct Fired {
  double energy = 1;
  bool modelling = false;
};

class HiddenStudio {
 public:
  explicit HiddenStudio(std::uint64_t seed, const Differences& differences = {});

  /// Where everything really stands, and what the walls really are. The same plan gives the same set.
  Plan asItStands(const Plan& plan) const;
  /// Stops over (+) or under (-) the catalogue.
  double gives(const std::string& unit, const std::string& modifier) const;
  double meterReads() const;

  /// What the meter shows, held as the plan means for `light` (empty: as the camera is set by), f-number. `hold`: as
  /// the person was told. The mishaps of the meter are done here; those of the trigger are in `fired`.
  double read(const Plan& plan, const std::string& light, const std::map<std::string, Fired>& fired,
              Mishap mishap = Mishap::None);

  /// What a camera takes, rendered from how it really is, with what fired. Seconds.
  Picture picture(const Plan& plan, const std::map<std::string, Fired>& fired, int width, int height, int passes) const;

 private:
  double own(const std::string& what) const;  ///< a standard normal number that belongs to the name
  std::uint64_t seed_;
  Differences by_;
  int readings_ = 0;
  // The last set that was read: a scene takes long to build.
  std::optional<Plan> planned_, stands_;
  std::shared_ptr<const Scene> scene_;
};

/// What a trigger makes of "fire": the lights that are on in the plan, with what goes wrong.
std::map<std::string, Fired> whatFires(const Plan& plan, Mishap mishap);

}  // namespace easel
