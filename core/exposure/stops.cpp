#include "exposure/stops.h"

#include <fmt/format.h>

namespace easel {

double unsignedZero(double v, double per) {
  const double r = std::round(v * per) / per;
  return r == 0 ? 0 : r;
}

std::string signedStops(double stops) {
  if (!(stops > kNoLight)) return "no light";
  const double s = unsignedZero(stops, 10);
  return s == 0 ? "0" : fmt::format("{:+.1f}", s);
}

}  // namespace easel
