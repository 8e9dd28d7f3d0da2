// How figures are written out: the user's choice of units, handed to whatever makes a sentence.
#pragma once

#include <string>

#include "exposure/aperture.h"
#include "exposure/power_scale.h"
#include "exposure/stops.h"
#include "spoken/length.h"

namespace easel {

struct Spelling {
  LengthUnit lengths = LengthUnit::Metres;
  ApertureStyle apertures = ApertureStyle::Tenths;

  std::string length(double metres) const { return writeLength(metres, lengths); }
  std::string aperture(double fNumber) const { return writeAperture(fNumber, apertures); }
  StopFraction step() const { return apertures == ApertureStyle::Thirds ? StopFraction::Third : StopFraction::Tenth; }
  /// "+1.7" or "+1 2/3"; the amount alone, "1.7" or "1 2/3".
  std::string stops(double stops) const { return signedStops(stops, step()); }
  std::string amount(double stops) const { return amountOfStops(stops, step()); }
  /// As engraved on the unit; what is set in thirds as thirds.
  std::string power(const PowerScale& scale, double stops) const { return scale.write(stops, step()); }
  bool operator==(const Spelling&) const = default;
};

}  // namespace easel
