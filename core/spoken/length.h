// Lengths as they are said in a studio: metres, or feet and inches. Kept in metres.
#pragma once

#include <string>
#include <string_view>

namespace easel {

enum class LengthUnit { Metres, Feet };

/// "1.32 m", "132 cm", "1320 mm", "4 ft 4 in", "4'4\"", "52 in", "4 1/2 ft"; a bare number is in `unit`. Comma or
/// point. Throws std::invalid_argument with a sentence.
double readLength(std::string_view text, LengthUnit unit);

/// "1.32 m" or "4 ft 4 in", with a point in every locale; "--" for what is no number.
std::string writeLength(double metres, LengthUnit unit);

/// Whether the text is a length, or could become one while it is typed further.
bool couldBeLength(std::string_view text);

}  // namespace easel
