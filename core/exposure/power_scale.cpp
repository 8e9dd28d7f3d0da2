#include "exposure/power_scale.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "spoken/number.h"
#include "spoken/say.h"

namespace easel {

PowerScale::Setting PowerScale::settingFor(double wantedStops) const {
  Setting s;
  if (wantedStops > 0 || wantedStops < lowestStops) {
    s.stops = wantedStops > 0 ? 0.0 : lowestStops;
    s.shortfall = wantedStops - s.stops;
    // Within half a step of the end of the scale the unit does what is asked as well as anywhere else.
    if (std::abs(s.shortfall) <= step / 2 + 1e-9) s.shortfall = 0;
    return s;
  }
  s.stops = std::clamp(std::round(wantedStops / step) * step, lowestStops, 0.0);
  return s;
}

std::string PowerScale::write(double stops, StopFraction part) const {
  if (!std::isfinite(stops)) return "off";
  const bool thirds = part == StopFraction::Third && std::abs(step - 1.0 / 3) < 1e-9;
  switch (notation) {
    case PowerNotation::Fraction: {
      // Counted up from the next lower full fraction: a third of a stop over 1/8 is "1/8 + 0.3".
      const double marks = std::round(stops / step) * step;
      double full = std::floor(marks + 1e-6);
      double rest = marks - full;
      if (rest < step / 4) rest = 0;
      const std::string base = fmt::format("1/{:.0f}", std::exp2(-full));
      if (rest <= 0) return base;
      return base + " + " + (thirds ? amountOfStops(rest, StopFraction::Third) : fmt::format("{:.1f}", rest));
    }
    case PowerNotation::StopNumber:
      if (thirds) {
        const long marks = std::lround((topNumber + stops) * 3);
        if (marks > 0 && marks % 3) return fmt::format("{} {}/3", marks / 3, marks % 3);
        if (marks >= 0) return fmt::format("{}", marks / 3);
      }
      return fmt::format("{:.1f}", topNumber + stops);
    case PowerNotation::Percent: {
      const double p = 100 * std::exp2(stops);
      return p >= 9.95 ? fmt::format("{:.0f} %", p) : fmt::format("{:.2g} %", p);
    }
    case PowerNotation::WattSeconds: {
      const double e = fullWattSeconds * std::exp2(stops);
      return e >= 9.95 ? say("{:.0f} Ws", e) : say("{:.1f} Ws", e);
    }
  }
  return {};
}

double PowerScale::read(std::string_view text) const {
  const auto refuse = [&] {
    return std::invalid_argument(
        say("\"{}\" is not a power on this unit. Write it like {} or {}.", text, write(0), write(-2.3)));
  };
  Spoken s(text);
  if (s.take("full") && s.atEnd()) return 0;
  const auto first = s.number();
  if (!first) throw refuse();
  double stops = 0;
  if (s.take("/")) {
    const auto below = s.number();
    if (!below) throw refuse();
    stops = std::log2(*first / *below);
    if (!s.atEnd()) {
      s.take("and");
      auto part = s.amount();
      s.takeAny({"stops", "stop"});
      if (!part) throw refuse();
      // Units in thirds write 0.3 and 0.7.
      if (std::abs(step - 1.0 / 3) < 1e-9)
        for (const double third : {1.0 / 3, 2.0 / 3})
          if (std::abs(std::abs(*part) - std::round(third * 10) / 10) < 1e-9) part = std::copysign(third, *part);
      stops += *part;
    }
  } else if (s.take("%")) {
    stops = std::log2(*first / 100);
  } else if (s.takeAny({"ws", "j"})) {
    stops = std::log2(*first / fullWattSeconds);
  } else if (notation == PowerNotation::StopNumber && !s.atEnd()) {
    const auto part = s.amount();
    if (!part) throw refuse();
    stops = *first + *part - topNumber;
  } else if (!s.atEnd()) {
    throw refuse();
  } else if (notation == PowerNotation::StopNumber) {
    stops = *first - topNumber;
  } else if (notation == PowerNotation::Percent) {
    stops = std::log2(*first / 100);
  } else if (notation == PowerNotation::WattSeconds) {
    stops = std::log2(*first / fullWattSeconds);
  } else if (*first != 1) {
    throw refuse();
  }
  if (!s.atEnd() || !std::isfinite(stops)) throw refuse();
  return stops;
}

}  // namespace easel
