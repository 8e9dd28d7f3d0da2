#include "exposure/power_scale.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <stdexcept>

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

std::string PowerScale::write(double stops) const {
  if (!std::isfinite(stops)) return "off";
  switch (notation) {
    case PowerNotation::Fraction: {
      // Counted up from the next lower full fraction: a third of a stop over 1/8 is "1/8 + 0.3".
      const double marks = std::round(stops / step) * step;
      double full = std::floor(marks + 1e-6);
      double rest = marks - full;
      if (rest < step / 4) rest = 0;
      const std::string base = fmt::format("1/{:.0f}", std::exp2(-full));
      if (rest <= 0) return base;
      return base + fmt::format(" + {:.1f}", rest);
    }
    case PowerNotation::StopNumber:
      return fmt::format("{:.1f}", topNumber + stops);
    case PowerNotation::Percent: {
      const double p = 100 * std::exp2(stops);
      return p >= 10 ? fmt::format("{:.0f} %", p) : fmt::format("{:.2g} %", p);
    }
    case PowerNotation::WattSeconds: {
      const double e = fullWattSeconds * std::exp2(stops);
      return e >= 10 ? fmt::format("{:.0f} Ws", e) : fmt::format("{:.1f} Ws", e);
    }
  }
  return {};
}

double PowerScale::read(std::string_view text) const {
  std::string s(text);
  s.erase(std::remove_if(s.begin(), s.end(), [](unsigned char c) { return std::isspace(c); }), s.end());
  std::replace(s.begin(), s.end(), ',', '.');
  auto refuse = [&]() {
    return std::invalid_argument(
        fmt::format("\"{}\" is not a power on this unit. Write it like {} or {}.", text, write(0), write(-2.3)));
  };
  if (s == "full") return 0;
  double value = 0;
  try {
    size_t used = 0;
    value = std::stod(s, &used);
    s.erase(0, used);
    if (!s.empty() && s[0] == '/') {
      const double below = std::stod(s.substr(1), &used);
      s.erase(0, used + 1);
      double stops = std::log2(value / below);
      if (!s.empty() && (s[0] == '+' || s[0] == '-')) {
        const double sign = s[0] == '-' ? -1 : 1;
        double part = std::stod(s.substr(1), &used);
        s.erase(0, used + 1);
        if (!s.empty() && s[0] == '/') {
          part /= std::stod(s.substr(1), &used);
          s.erase(0, used + 1);
        } else if (std::abs(part - 0.3) < 1e-9 && std::abs(step - 1.0 / 3) < 1e-9) {
          part = 1.0 / 3;  // units in thirds write 0.3 and 0.7
        } else if (std::abs(part - 0.7) < 1e-9 && std::abs(step - 1.0 / 3) < 1e-9) {
          part = 2.0 / 3;
        }
        stops += sign * part;
      }
      if (!s.empty() || !std::isfinite(stops)) throw refuse();
      return stops;
    }
  } catch (const std::exception&) {
    throw refuse();
  }
  double stops = 0;
  if (s == "%")
    stops = std::log2(value / 100);
  else if (s == "Ws" || s == "J")
    stops = std::log2(value / fullWattSeconds);
  else if (!s.empty())
    throw refuse();
  else if (notation == PowerNotation::StopNumber)
    stops = value - topNumber;
  else if (notation == PowerNotation::Percent)
    stops = std::log2(value / 100);
  else if (notation == PowerNotation::WattSeconds)
    stops = std::log2(value / fullWattSeconds);
  else if (value == 1)
    stops = 0;
  else
    throw refuse();
  if (!std::isfinite(stops)) throw refuse();
  return stops;
}

}  // namespace easel
