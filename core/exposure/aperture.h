// Aperture: f-numbers, exact and as engraved, and the ways in which photographers say them.
//
// Aperture value Av = 2 log2 N (APEX; ISO 2720 / ANSI PH2.5 usage). f/1 is Av 0, f/8 is Av 6.
// The nominal series (1, 1.4, 2, 2.8 ... and its halves and thirds) is the one engraved on lenses:
// rounded by convention, not by rule, hence the tables. Range handled: f/0.5 to f/512.
#pragma once

#include <string>
#include <string_view>

#include "exposure/stops.h"

namespace easel {

/// Exact f-number of an aperture value: N = 2^(Av/2).
double fNumberFromAv(double av);
/// Aperture value of an f-number N > 0: Av = 2 log2 N.
double avFromFNumber(double n);

/// The engraved number nearest to `n` in a full, half or third stop series (9 for 8.98, 5.6 for 5.657).
/// Tenth gives the nearest third, since lenses are not engraved in tenths.
double nominalFNumber(double n, StopFraction step);

/// The exact f-number that an engraving stands for (5.6 -> 5.657, 22 -> 22.63), or `written` itself when it is none.
double exactFromEngraved(double written);

/// How an f-number is written.
enum class ApertureStyle {
  Nominal,  ///< "f/9"         nearest engraved third
  Thirds,   ///< "f/8 1/3"     full stop and thirds above it, as spoken
  Tenths,   ///< "f/5.6 + 0.3" full stop and tenths above it, as meters show it
};

/// Writes `n` in the wanted style. Non-finite or non-positive: "f/--".
std::string writeAperture(double n, ApertureStyle style);

/// Whether a meter can have shown it: what is further out is no reading, whoever tells it. Common practice, no source.
inline bool canBeRead(double fNumber) { return fNumber >= 0.1 && fNumber <= 1024; }

/// Reads any of "f/8", "8", "F8", "f/8 1/3", "f/8 and a third", "f/9", "f/5.6 + 0.3", "f/8 1/2", "f/8 - 1/3".
/// Engraved numbers mean their exact stop (5.6 -> 5.657); other numbers are taken as they are.
/// Throws std::invalid_argument with a sentence for the user.
double readAperture(std::string_view text);

}  // namespace easel
