#include "spoken/length.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "spoken/number.h"
#include "spoken/say.h"

namespace easel {
namespace {
constexpr double kFoot = 0.3048, kInch = 0.0254;
}  // namespace

double readLength(std::string_view text, LengthUnit unit) {
  Spoken s(text);
  const auto refuse = [&] {
    return std::invalid_argument(say("\"{}\" is not a length. Write it like 1.32 m, 132 cm or 4 ft 4 in.", text));
  };
  const auto first = s.amount();
  if (!first) throw refuse();
  double metres = *first;
  if (s.takeAny({"mm", "millimetres"})) {
    metres /= 1000;
  } else if (s.takeAny({"cm", "centimetres"})) {
    metres /= 100;
  } else if (s.takeAny({"m", "metres", "metre", "meters", "meter"})) {
  } else if (s.takeAny({"ft", "feet", "foot", "'"})) {
    metres *= kFoot;
    if (!s.atEnd()) {
      const auto inches = s.amount();
      if (!inches || *inches < 0) throw refuse();
      s.takeAny({"inches", "inch", "in", "\""});
      metres += (*first < 0 ? -1 : 1) * *inches * kInch;
    }
  } else if (s.takeAny({"inches", "inch", "in", "\""})) {
    metres *= kInch;
  } else if (unit == LengthUnit::Feet) {
    metres *= kFoot;
  }
  if (!s.atEnd() || !std::isfinite(metres)) throw refuse();
  return metres;
}

std::string writeLength(double metres, LengthUnit unit) {
  if (!std::isfinite(metres)) return "--";
  if (unit == LengthUnit::Metres) return fmt::format("{:.2f} m", std::abs(metres) < 0.005 ? 0.0 : metres);
  const long inches = std::lround(std::abs(metres) / kInch);
  return say("{}{} ft {} in", metres < 0 && inches ? "-" : "", inches / 12, inches % 12);
}

bool couldBeLength(std::string_view text) {
  // What is being typed may stop anywhere; only signs that no length has are refused at once.
  return std::all_of(text.begin(), text.end(), [](unsigned char c) {
    return c >= 128 || std::isalnum(c) || c == ' ' || c == '.' || c == ',' || c == '-' || c == '+' || c == '\'' ||
           c == '"' || c == '/';
  });
}

}  // namespace easel
