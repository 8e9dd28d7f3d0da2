// The run without a meter: a grey card where the meter would be, and its value in a test picture.
//
// The camera is the meter then: a card at the metered exposure comes out at a value that is known (118 of 255, what
// the picture's tone curve makes of 18 %), one that is brighter or darker tells by how many stops. Flat, with the
// card where the receptor would be and turned as it would be. Near the ends of the curve a value says little, which is
// said instead of guessed.
#pragma once

#include <string_view>

#include "plan/parts.h"

namespace easel {

/// 0..255, of a card under light that meters at `fNumber`, in a picture with that camera.
int cardValue(const Camera& camera, double fNumber);

/// Stops over (+) or under (-) a metered grey card that a value of the picture stands for, as this program's tone curve
/// has it; a camera's own picture style may bend it by some tenths. Of a value at an end: how far at least. -12..12.
double stopsOfValue(const Camera& camera, double value);

/// The f-number that a meter would have shown. `said`: "card 131", or 131. Throws std::invalid_argument with a sentence
/// when it is no value, or one at the ends of the curve, which could be any light.
double apertureOfCard(const Camera& camera, std::string_view said);

}  // namespace easel
