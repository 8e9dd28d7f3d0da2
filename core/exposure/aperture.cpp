#include "exposure/aperture.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <span>
#include <stdexcept>

#include "spoken/number.h"
#include "spoken/say.h"

namespace easel {
namespace {

// Engraved series from f/0.7 (Av -1) upward, as found on lenses and meters (common engraving, also ISO 517 for
// the full stops; ISO 517 from memory).
constexpr std::array kFull = {0.7, 1.0, 1.4, 2.0, 2.8, 4.0, 5.6, 8.0, 11.0, 16.0, 22.0, 32.0, 45.0, 64.0, 90.0, 128.0};
constexpr std::array kHalf = {0.7,  0.8,  1.0,  1.2,  1.4,  1.7,  2.0,  2.4,   2.8,  3.3,  4.0,
                              4.8,  5.6,  6.7,  8.0,  9.5,  11.0, 13.0, 16.0,  19.0, 22.0, 27.0,
                              32.0, 38.0, 45.0, 54.0, 64.0, 76.0, 90.0, 108.0, 128.0};
constexpr std::array kThird = {0.7,  0.8,  0.9,  1.0,  1.1,  1.2,  1.4,  1.6,   1.8,   2.0,  2.2,  2.5,
                               2.8,  3.2,  3.5,  4.0,  4.5,  5.0,  5.6,  6.3,   7.1,   8.0,  9.0,  10.0,
                               11.0, 13.0, 14.0, 16.0, 18.0, 20.0, 22.0, 25.0,  29.0,  32.0, 36.0, 40.0,
                               45.0, 51.0, 57.0, 64.0, 72.0, 80.0, 90.0, 102.0, 114.0, 128.0};

constexpr double kFirstAv = -1.0;

struct Series {
  std::span<const double> marks;
  int perStop;
};
Series seriesOf(StopFraction step) {
  switch (step) {
    case StopFraction::Full:
      return {kFull, 1};
    case StopFraction::Half:
      return {kHalf, 2};
    default:
      return {kThird, 3};
  }
}

std::string number(double n) {
  if (n >= 10 || n == std::floor(n)) return fmt::format("{:.0f}", n);
  return fmt::format("{:.1f}", n);
}

[[noreturn]] void refuse(std::string_view text) {
  throw std::invalid_argument(say("\"{}\" is not an aperture. Write it like f/8, f/8 1/3, f/9 or f/5.6 + 0.3.", text));
}

}  // namespace

double fNumberFromAv(double av) { return std::exp2(av / 2); }
double avFromFNumber(double n) { return 2 * std::log2(n); }

double exactFromEngraved(double written) {
  for (StopFraction step : {StopFraction::Full, StopFraction::Third, StopFraction::Half}) {
    const Series s = seriesOf(step);
    for (size_t i = 0; i < s.marks.size(); ++i)
      if (std::abs(s.marks[i] - written) < 1e-6) return fNumberFromAv(kFirstAv + double(i) / s.perStop);
  }
  return written;
}

double nominalFNumber(double n, StopFraction step) {
  const Series s = seriesOf(step);
  const double index = (avFromFNumber(n) - kFirstAv) * s.perStop;
  const auto last = double(s.marks.size() - 1);
  return s.marks[size_t(std::clamp(std::round(index), 0.0, last))];
}

std::string writeAperture(double n, ApertureStyle style) {
  if (!std::isfinite(n) || n <= 0) return "f/--";
  if (n < 0.66) return say("under f/0.7");
  if (n > 135) return say("over f/128");
  if (style == ApertureStyle::Nominal) return "f/" + number(nominalFNumber(n, StopFraction::Third));

  const double av = avFromFNumber(n);
  const int per = style == ApertureStyle::Thirds ? 3 : 10;
  const long marks = std::lround(av * per);
  const long full = (marks >= 0 ? marks / per : -((-marks + per - 1) / per));
  const long rest = marks - full * per;
  const std::string base = "f/" + number(nominalFNumber(fNumberFromAv(double(full)), StopFraction::Full));
  if (rest == 0) return base;
  if (style == ApertureStyle::Thirds) return base + fmt::format(" {}/3", rest);
  return base + fmt::format(" + {:.1f}", rest / 10.0);
}

double readAperture(std::string_view text) {
  Spoken s(text);
  if (s.take("f")) s.take("/");
  const auto written = s.number();
  if (!written || *written <= 0) refuse(text);
  double n = exactFromEngraved(*written);
  if (!s.atEnd()) {
    s.take("and");
    const auto stops = s.amount();
    s.takeAny({"stops", "stop"});
    if (!stops || !s.atEnd()) refuse(text);
    n = fNumberFromAv(avFromFNumber(n) + *stops);
  }
  if (!std::isfinite(n) || n < 0.5 || n > 512) throw std::invalid_argument(say("f/{:g} is outside f/0.5 to f/512.", n));
  return n;
}

}  // namespace easel
