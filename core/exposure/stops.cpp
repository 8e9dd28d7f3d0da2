#include "exposure/stops.h"

#include <fmt/format.h>

#include <cmath>

namespace easel {

double unsignedZero(double v, double per) {
  const double r = std::round(v * per) / per;
  return r == 0 ? 0 : r;
}

std::string amountOfStops(double stops, StopFraction step) {
  if (step != StopFraction::Third) {
    const double s = unsignedZero(std::abs(stops), 10);
    return s == 0 ? "0" : fmt::format("{:.1f}", s);
  }
  const long thirds = std::lround(std::abs(stops) * 3), full = thirds / 3, rest = thirds % 3;
  if (rest == 0) return fmt::format("{}", full);
  return full ? fmt::format("{} {}/3", full, rest) : fmt::format("{}/3", rest);
}

std::string signedStops(double stops, StopFraction step) {
  if (!(stops > kNoLight)) return "no light";
  const std::string amount = amountOfStops(stops, step);
  return amount == "0" ? amount : (stops > 0 ? "+" : "-") + amount;
}

}  // namespace easel
