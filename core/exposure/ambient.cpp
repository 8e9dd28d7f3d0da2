#include "exposure/ambient.h"

#include <fmt/format.h>

#include <cmath>
#include <stdexcept>

#include "exposure/aperture.h"
#include "exposure/meter.h"
#include "exposure/shutter.h"

namespace easel {

double luxFromMeter(double fNumber, double seconds, double iso) { return exposureForAperture(fNumber, iso) / seconds; }
double apertureOfLux(double lux, double seconds, double iso) { return apertureForExposure(lux * seconds, iso); }

double readAmbient(std::string_view text, double iso) {
  std::string t(text);
  const auto shown =
      fmt::format("\"{}\" is not an ambient level. Write lux, like 15, or what the meter says, like f/2.8 at 1/15.", t);
  auto trim = [](std::string s) {
    const auto a = s.find_first_not_of(" \t"), b = s.find_last_not_of(" \t");
    return a == std::string::npos ? std::string() : s.substr(a, b - a + 1);
  };
  t = trim(t);
  if (t.rfind("f", 0) == 0 || t.rfind("F", 0) == 0) {
    // The time is the last word that is not a unit; "at" between is for people.
    std::string rest = t;
    if (rest.size() > 2 && rest.substr(rest.size() - 2) == " s") rest = trim(rest.substr(0, rest.size() - 2));
    const auto gap = rest.find_last_of(" \t");
    if (gap == std::string::npos) throw std::invalid_argument(shown);
    std::string stop = trim(rest.substr(0, gap)), time = trim(rest.substr(gap));
    if (stop.size() > 3 && stop.substr(stop.size() - 3) == " at") stop = trim(stop.substr(0, stop.size() - 3));
    return luxFromMeter(readAperture(stop), readShutter(time), iso);
  }
  size_t end = 0;
  double lux = -1;
  try {
    lux = std::stod(t, &end);
  } catch (const std::exception&) {
    throw std::invalid_argument(shown);
  }
  const std::string unit = trim(t.substr(end));
  if (!(unit.empty() || unit == "lx" || unit == "lux") || !(lux >= 0) || lux > 200000 || !std::isfinite(lux))
    throw std::invalid_argument(shown);
  return lux;
}

std::string writeAmbient(double lux, double iso) {
  if (!(lux > 0)) return "dark";
  for (int stops = 9; stops >= -5; --stops) {  // 1/512 ... 32 s by whole stops, named as engraved
    const double seconds = std::exp2(-stops);
    const double n = apertureOfLux(lux, seconds, iso);
    if (n >= 2 || stops == -5)
      return fmt::format("{} at {}", writeAperture(n, ApertureStyle::Tenths), writeShutter(seconds));
  }
  return {};
}

}  // namespace easel
