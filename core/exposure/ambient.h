// The ambient as the meter gives it: an aperture at a shutter time, instead of lux.
//
//   E = N^2 C / (S t)    (incident-light exposure equation, ISO 2720; C of the flat receptor)
#pragma once

#include <string>
#include <string_view>

namespace easel {

/// Illuminance in lux that meters f-number `fNumber` at `seconds` and `iso`.
double luxFromMeter(double fNumber, double seconds, double iso);
/// The aperture that `lux` meters at `seconds` and `iso`.
double apertureOfLux(double lux, double seconds, double iso);

/// "15 lx", "15", "f/2.8 at 1/15", "f/2.8 1/15 s". Throws std::invalid_argument with a sentence.
double readAmbient(std::string_view text, double iso);
/// "f/2.8 at 1/15": at the first usual time that gives f/2 or more; "dark" for nothing.
std::string writeAmbient(double lux, double iso);

}  // namespace easel
