#include "exposure/shutter.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <stdexcept>

#include "spoken/number.h"
#include "spoken/say.h"

namespace easel {
namespace {

// As engraved (common engraving of cameras in third stops, value from memory). Index 0 is 2^5 s = "30".
constexpr std::array<const char*, 55> kEngraved = {
    "30 s",  "25 s",   "20 s",   "15 s",   "13 s",   "10 s",   "8 s",    "6 s",    "5 s",    "4 s",    "3.2 s",
    "2.5 s", "2 s",    "1.6 s",  "1.3 s",  "1 s",    "0.8 s",  "0.6 s",  "1/2",    "0.4 s",  "0.3 s",  "1/4",
    "1/5",   "1/6",    "1/8",    "1/10",   "1/13",   "1/15",   "1/20",   "1/25",   "1/30",   "1/40",   "1/50",
    "1/60",  "1/80",   "1/100",  "1/125",  "1/160",  "1/200",  "1/250",  "1/320",  "1/400",  "1/500",  "1/640",
    "1/800", "1/1000", "1/1250", "1/1600", "1/2000", "1/2500", "1/3200", "1/4000", "1/5000", "1/6400", "1/8000"};

double engravedValue(std::string_view text) { return *Spoken(text).amount(); }

}  // namespace

const std::vector<double>& shutterThirds() {
  static const std::vector<double> times = [] {
    std::vector<double> t;
    for (size_t i = 0; i < kEngraved.size(); ++i) t.push_back(std::exp2(5.0 - double(i) / 3));
    return t;
  }();
  return times;
}

std::string writeShutter(double seconds) {
  if (!std::isfinite(seconds) || seconds <= 0) return "--";
  const double index = (5.0 - std::log2(seconds)) * 3;
  return kEngraved[size_t(std::clamp(std::round(index), 0.0, double(kEngraved.size() - 1)))];
}

double readShutter(std::string_view text) {
  Spoken s(text);
  const auto read = s.amount();
  s.takeAny({"seconds", "second", "sec", "s"});
  if (!read || !s.atEnd())
    throw std::invalid_argument(say("\"{}\" is not a shutter time. Write it like 1/200 or 0.5 s.", text));
  const double seconds = *read;
  if (!std::isfinite(seconds) || seconds < 1.0 / 64000 || seconds > 3600)
    throw std::invalid_argument(say("A shutter time of \"{}\" is outside 1/64000 s to one hour.", text));
  for (size_t i = 0; i < kEngraved.size(); ++i) {
    const double written = engravedValue(kEngraved[i]);
    if (std::abs(written - seconds) < 1e-6 * seconds) return shutterThirds()[i];
  }
  return seconds;
}

const std::vector<double>& isoThirds() {
  static const std::vector<double> iso = {25,   32,   40,   50,   64,    80,    100,   125,   160,  200,  250,
                                          320,  400,  500,  640,  800,   1000,  1250,  1600,  2000, 2500, 3200,
                                          4000, 5000, 6400, 8000, 10000, 12800, 16000, 20000, 25600};
  return iso;
}

double nominalIso(double iso) {
  const auto& all = isoThirds();
  return *std::min_element(all.begin(), all.end(), [&](double a, double b) {
    return std::abs(std::log(a / iso)) < std::abs(std::log(b / iso));
  });
}

}  // namespace easel
