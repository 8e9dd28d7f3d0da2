// A reading as it is called across the studio: "five six and a half", "eight and a third", "eleven two thirds", "f/5.6
// + 0.3", "sixteen minus a third".
#pragma once

#include <string>
#include <string_view>

namespace easel {

/// What stands for a reading when the meter shows none: too dark for it.
constexpr double kShowsNothing = 0.35;

/// The f-number of it, exact. Takes whatever readAperture() takes, and the engraved numbers and parts of a stop in
/// words, in any case, with or without "f"; "nothing" or "too dark" when the meter shows none. Throws
/// std::invalid_argument with a sentence.
double saidAperture(std::string_view text);

}  // namespace easel
