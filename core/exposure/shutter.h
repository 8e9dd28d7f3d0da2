// Shutter times and film speeds in the series that cameras offer.
//
// Time value Tv = log2(1/t), speed value Sv = log2(S/3.125) (APEX). Times in seconds, speeds in ISO arithmetic.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "exposure/stops.h"

namespace easel {

/// The engraved shutter series in thirds from 30 s to 1/8000 s, in seconds, exact values (2^(k/3)).
const std::vector<double>& shutterThirds();

/// "1/200", "1/8", "0.8 s", "2 s": nearest engraved third of `seconds`.
std::string writeShutter(double seconds);

/// Reads "1/200", "1/200 s", "0.5", "2s". Engraved values mean their exact third. Throws std::invalid_argument.
double readShutter(std::string_view text);

/// The ISO series in thirds: 25 ... 25600.
const std::vector<double>& isoThirds();
/// Nearest engraved ISO.
double nominalIso(double iso);

}  // namespace easel
