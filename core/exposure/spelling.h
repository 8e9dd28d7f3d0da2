// How figures are written out: the user's choice of units, handed to whatever makes a sentence.
#pragma once

#include <string>

#include "exposure/aperture.h"
#include "spoken/length.h"

namespace easel {

struct Spelling {
  LengthUnit lengths = LengthUnit::Metres;
  ApertureStyle apertures = ApertureStyle::Tenths;

  std::string length(double metres) const { return writeLength(metres, lengths); }
  std::string aperture(double fNumber) const { return writeAperture(fNumber, apertures); }
  bool operator==(const Spelling&) const = default;
};

}  // namespace easel
