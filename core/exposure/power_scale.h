// The power scale engraved on a unit, both ways.
//
// Inside, power is in stops below full: 0 is full, -3 an eighth. Units show it as fractions ("1/8 + 0.3"), as plain
// stop numbers with a range of their own (7.0 of 2.0 to 10.0), in percent, or in watt-seconds. A scale knows its unit's
// lowest power and its step, so a wish comes back as what can be set, and by how much that misses.
#pragma once

#include <string>
#include <string_view>

#include "exposure/stops.h"

namespace easel {

enum class PowerNotation { Fraction, StopNumber, Percent, WattSeconds };

struct PowerScale {
  PowerNotation notation = PowerNotation::Fraction;
  double lowestStops = -8;       ///< lowest power, in stops below full, < 0 (1/256 is -8)
  double step = 0.1;             ///< the unit's step in stops: 0.1, 1/3, 0.5, 1
  double topNumber = 10;         ///< StopNumber: the number that means full power
  double fullWattSeconds = 400;  ///< WattSeconds: energy at full power

  /// What can be set for a wanted power.
  struct Setting {
    double stops = 0;      ///< what the unit will give, in stops below full, on its step and within its range
    double shortfall = 0;  ///< wanted - given when out of range: > 0 too weak by so many stops, < 0 too strong; else 0
  };
  /// The nearest setting to `wantedStops` (stops below full; any real, +-inf clamps).
  Setting settingFor(double wantedStops) const;

  /// As engraved: "1/8 + 0.3", "6.7", "42 %", "168 Ws". With `part` Third a unit that is set in thirds of a stop has
  /// them written so, "1/8 + 1/3" and "6 2/3"; one that is set in tenths shows tenths whatever its reader likes.
  std::string write(double stops, StopFraction part = StopFraction::Tenth) const;
  /// Reads what write() writes, and the obvious variants ("1/8", "1/2+0.7", "full"). Does not clamp.
  /// Throws std::invalid_argument with a sentence.
  double read(std::string_view text) const;
};

}  // namespace easel
