// Lighting ratios in the three schools that photographers use. All from one number: how many stops the fill is under
// the key.
//
//   A  unit against unit, each metered alone:          2^s : 1        1, 2, 3, 4 stops = 2, 4, 8, 16 : 1
//   B  lit side against shadow side, fill reaches both: (2^s + 1) : 1  1, 2, 3, 4 stops = 3, 5, 9, 17 : 1
//   C  no ratio, only "stops under"
// Common practice, no source.
#pragma once

#include <string>
#include <string_view>

namespace easel {

enum class RatioSchool { UnitToUnit, LitToShadow, StopsUnder };

/// First number of the ratio "x:1" for a fill `stopsUnder` the key. StopsUnder gives the stops back.
double ratioOf(double stopsUnder, RatioSchool school);
/// Stops under from the first number of "x:1". Throws std::invalid_argument when the school has no such ratio
/// (lit to shadow starts above 1:1).
double stopsUnderFromRatio(double ratio, RatioSchool school);

/// "4:1", "2.5:1", "1.5 stops under".
std::string writeRatio(double stopsUnder, RatioSchool school);
/// Reads "3:1", "2.5 : 1", "3", and in StopsUnder "1.5" or "1.5 stops under". Throws std::invalid_argument with a
/// sentence.
double readRatio(std::string_view text, RatioSchool school);

}  // namespace easel
