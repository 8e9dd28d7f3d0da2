// Places on the dial as hours and minutes: camera at 6:00, backdrop at 12:00. Kept in hours, above 0 up to 12.
#pragma once

#include <string>
#include <string_view>

namespace easel {

/// "4:18". Rounded to a minute; what is no number is "--".
std::string writeClock(double hours);

/// The nearest full hour, 1 to 12: "at 12 o'clock" for 11:50 and 0:10.
int wholeHour(double hours);

/// "4:18", "4 h 18", "4.3 h", "half past four", "quarter to five", "ten past 4", "4 o'clock", "4". "4.30" is refused
/// with both readings named, for it could be half past four or 4:18. Throws std::invalid_argument with a sentence.
double readClock(std::string_view text);

/// The same place within 0 < hour <= 12, however often it went round.
double roundTheClock(double hours);

}  // namespace easel
