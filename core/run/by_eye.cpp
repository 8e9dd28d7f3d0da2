#include "run/by_eye.h"

#include <cmath>
#include <stdexcept>
#include <string>

#include "picture/overlays.h"
#include "spoken/number.h"
#include "spoken/say.h"

namespace easel {
namespace {

// Under 8 and over 250 a step of one in the value is a third of a stop and more.
constexpr int kDarkest = 8, kBrightest = 250;

}  // namespace

int cardValue(const Plan& plan, double fNumber) {
  return greyCardValue(plan, 2 * std::log2(fNumber / plan.camera.aperture));
}

double apertureOfCard(const Plan& plan, std::string_view said) {
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
        say("A card at {:.0f} is blocked up and could be any light. Open the aperture by two stops, say, for this "
            "picture, and take them off again by hand.",
            *value));
  if (*value >= kBrightest)
    throw std::invalid_argument(
        say("A card at {:.0f} is burnt out and could be any light. Close the aperture for this picture, or look at a "
            "darker card.",
            *value));
  // The curve rises everywhere.
  double dark = -12, bright = 12;
  for (int i = 0; i < 40; ++i) {
    const double middle = (dark + bright) / 2;
    (greyCardValue(plan, middle) < *value ? dark : bright) = middle;
  }
  double above = -12, over = 12;
  for (int i = 0; i < 40; ++i) {
    const double middle = (above + over) / 2;
    (greyCardValue(plan, middle) <= *value ? above : over) = middle;
  }
  // A value of whole numbers stands for a band of light; its middle.
  return plan.camera.aperture * std::exp2((bright + above) / 4);
}

}  // namespace easel
