#include "exposure/ratio.h"

#include <fmt/format.h>

#include <cmath>
#include <stdexcept>

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
    throw std::invalid_argument(
        school == RatioSchool::LitToShadow
            ? fmt::format("A ratio of lit to shadow side is above 1:1; {:g}:1 cannot be lit.", ratio)
            : fmt::format("{:g}:1 is not a ratio of two lights.", ratio));
  return std::log2(units);
}

std::string writeRatio(double s, RatioSchool school) {
  if (school == RatioSchool::StopsUnder) {
    if (std::abs(s) < 0.05) return "equal";
    return fmt::format("{:.1f} {} {}", std::abs(s), std::abs(s) < 1.05 ? "stop" : "stops", s > 0 ? "under" : "over");
  }
  const double r = ratioOf(s, school);
  if (r >= 10 || std::abs(r - std::round(r)) < 0.05) return fmt::format("{:.0f}:1", r);
  return fmt::format("{:.1f}:1", r);
}

double readRatio(std::string_view text, RatioSchool school) {
  const std::string s(text);
  size_t used = 0;
  double first = 0;
  try {
    first = std::stod(s, &used);
  } catch (const std::exception&) {
    throw std::invalid_argument(fmt::format("\"{}\" is not a ratio. Write it like 3:1, or 1.5 for stops under.", text));
  }
  std::string rest = s.substr(used);
  rest.erase(0, std::min(rest.find_first_not_of(' '), rest.size()));
  if (!rest.empty() && rest[0] == ':') {
    const double second = std::strtod(rest.c_str() + 1, nullptr);
    if (!(second > 0)) throw std::invalid_argument(fmt::format("\"{}\" is not a ratio. Write it like 3:1.", text));
    first /= second;
    if (school == RatioSchool::StopsUnder) return stopsUnderFromRatio(first, RatioSchool::UnitToUnit);
  } else if (!rest.empty() && rest.rfind("stop", 0) != 0 && rest != "under") {
    throw std::invalid_argument(fmt::format("\"{}\" is not a ratio. Write it like 3:1, or 1.5 for stops under.", text));
  }
  return stopsUnderFromRatio(first, school);
}

}  // namespace easel
