#include "exposure/ratio.h"

#include <fmt/format.h>

#include <cmath>
#include <stdexcept>

#include "spoken/number.h"
#include "spoken/say.h"

namespace easel {

double ratioOf(double s, RatioSchool school) {
  switch (school) {
    case RatioSchool::UnitToUnit:
      return std::exp2(s);
    case RatioSchool::LitToShadow:
      return std::exp2(s) + 1;
    case RatioSchool::StopsUnder:
      break;
  }
  return s;
}

double stopsUnderFromRatio(double ratio, RatioSchool school) {
  if (school == RatioSchool::StopsUnder) return ratio;
  const double units = school == RatioSchool::LitToShadow ? ratio - 1 : ratio;
  if (!(units > 0) || !std::isfinite(units))
    throw std::invalid_argument(school == RatioSchool::LitToShadow
                                    ? say("A ratio of lit to shadow side is above 1:1; {:g}:1 cannot be lit.", ratio)
                                    : say("{:g}:1 is not a ratio of two lights.", ratio));
  return std::log2(units);
}

std::string writeRatio(double s, RatioSchool school) {
  if (school == RatioSchool::StopsUnder) {
    if (std::abs(s) < 0.05) return say("equal");
    return s > 0 ? sayMany(s, "{:.1f} stop under", "{:.1f} stops under", s)
                 : sayMany(-s, "{:.1f} stop over", "{:.1f} stops over", -s);
  }
  const double r = ratioOf(s, school);
  if (r >= 10 || std::abs(r - std::round(r)) < 0.05) return fmt::format("{:.0f}:1", r);
  return fmt::format("{:.1f}:1", r);
}

double readRatio(std::string_view text, RatioSchool school) {
  Spoken s(text);
  const auto refuse = [&] {
    return std::invalid_argument(say("\"{}\" is not a ratio. Write it like 3:1, or 1.5 stops for stops under.", text));
  };
  if (s.take("equal") && s.atEnd()) return 0;
  auto first = s.amount();
  bool stops = false;
  // "a stop and two thirds under"
  const auto takeStops = [&] { stops |= s.takeAny({"stops", "stop"}); };
  if (!first && s.takeAny({"a", "one"}) && s.take("stop")) {
    first = 1;
    stops = true;
  }
  if (!first) throw refuse();
  double value = *first;
  if (s.take(":")) {
    const auto second = s.number();
    if (!second || !(*second > 0) || !s.atEnd()) throw refuse();
    value /= *second;
    return stopsUnderFromRatio(value, school == RatioSchool::StopsUnder ? RatioSchool::UnitToUnit : school);
  }
  takeStops();
  if (s.take("and")) {
    const auto part = s.amount();
    if (!part) throw refuse();
    value += *part;
    takeStops();
  }
  // Once a stop is named, stops are meant, whichever school leads.
  if (s.take("under")) {
    stops = true;
  } else if (s.take("over")) {
    stops = true;
    value = -value;
  }
  if (!s.atEnd()) throw refuse();
  return stopsUnderFromRatio(value, stops ? RatioSchool::StopsUnder : school);
}

}  // namespace easel
