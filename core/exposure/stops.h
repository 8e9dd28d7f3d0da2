// Stops: the photographer's logarithm. One stop is a factor of two in light.
//
// Everything that adds (light on light) is added in lux-seconds and only then turned into stops;
// stops are for comparing and for speaking, never for summing.
#pragma once

#include <cmath>
#include <string>

namespace easel {

/// Ratio of light -> stops. `ratio` must be > 0; 2 -> +1, 0.5 -> -1.
inline double stopsFromRatio(double ratio) { return std::log2(ratio); }

/// Stops by which one amount of light exceeds another; `none` where one of them is no light.
inline double stopsOver(double light, double than, double none = 0) {
  return light > 0 && than > 0 ? stopsFromRatio(light / than) : none;
}

/// Stops by which one f-number calls for more light than another; both > 0.
inline double aperturesApart(double fNumber, double than) { return 2 * std::log2(fNumber / than); }

/// Stops -> ratio of light. +1 -> 2, -1 -> 0.5.
inline double ratioFromStops(double stops) { return std::exp2(stops); }

/// The grid that a reading or a setting is written in.
enum class StopFraction { Full = 1, Half = 2, Third = 3, Tenth = 10 };

/// `stops` moved to the nearest mark of the grid.
inline double roundToStep(double stops, StopFraction step) {
  const double n = static_cast<int>(step);
  return std::round(stops * n) / n;
}

/// Stops at and below this mean that no light is there: further down than any meter, film or eye goes.
constexpr double kNoLight = -30;

/// Rounded to 1/per, and never -0.
double unsignedZero(double v, double per);

/// "+1.5", "-0.3", "0", "no light": for sentences, tables and the shell. In thirds "+1 2/3", "-1/3"; other steps:
/// tenths.
std::string signedStops(double stops, StopFraction step = StopFraction::Tenth);
/// The amount alone, without a sign: "1.7", "1 2/3", "0".
std::string amountOfStops(double stops, StopFraction step = StopFraction::Tenth);

}  // namespace easel
