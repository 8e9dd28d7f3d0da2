#include "run/by_eye.h"

#include <cmath>
#include <stdexcept>
#include <string>

#include "exposure/stops.h"
#include "picture/overlays.h"
#include "spoken/number.h"
#include "spoken/say.h"

namespace easel {
namespace {

// Under 8 and over 250 a step of one in the value is a third of a stop and more.
constexpr int kDarkest = 8, kBrightest = 250;

}  // namespace

int cardValue(const Camera& camera, double fNumber) {
  return greyCardValue(camera, aperturesApart(fNumber, camera.aperture));
}

double stopsOfValue(const Camera& camera, double value) {
  // The curve rises everywhere. A value of whole numbers stands for a band of light: from where to where it reaches.
  double from = -12, until = 12, dark = -12, bright = 12;
  for (int i = 0; i < 40; ++i) {
    const double a = (from + bright) / 2, b = (dark + until) / 2;
    (greyCardValue(camera, a) < value ? from : bright) = a;
    (greyCardValue(camera, b) <= value ? dark : until) = b;
  }
  return value <= 0 ? dark : value >= 255 ? bright : (bright + dark) / 2;
}

double apertureOfCard(const Camera& camera, std::string_view said) {
  std::string text(said);
  for (char& c : text) c = c >= 'A' && c <= 'Z' ? char(c | 0x20) : c;
  if (const size_t at = text.find("card"); at != std::string::npos) text.erase(0, at + 4);
  const auto value = wholeAmount(text);
  if (!value || !(*value >= 0 && *value <= 255))
    throw std::invalid_argument(
        say("The card's value in the picture is a number from 0 to 255, as the camera's picture or the histogram shows "
            "it."));
  if (*value <= kDarkest)
    throw std::invalid_argument(
        say("A card at {:.0f} is lost in black and could be any light. Open the aperture by two stops for this picture "
            "and subtract them by hand.",
            *value));
  if (*value >= kBrightest)
    throw std::invalid_argument(
        say("A card at {:.0f} is burnt out and could be any light. Close the aperture for this picture, or look at a "
            "darker card.",
            *value));
  return camera.aperture * std::exp2(stopsOfValue(camera, *value) / 2);
}

}  // namespace easel
