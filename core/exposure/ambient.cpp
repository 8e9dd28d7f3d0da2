#include "exposure/ambient.h"

#include <cmath>
#include <stdexcept>

#include "exposure/aperture.h"
#include "exposure/meter.h"
#include "exposure/shutter.h"
#include "spoken/number.h"
#include "spoken/say.h"

namespace easel {

double luxFromMeter(double fNumber, double seconds, double iso) { return exposureForAperture(fNumber, iso) / seconds; }
double apertureOfLux(double lux, double seconds, double iso) { return apertureForExposure(lux * seconds, iso); }

double readAmbient(std::string_view text, double iso) {
  const auto refuse = [&] {
    return std::invalid_argument(
        say("\"{}\" is not an ambient level. Write lux, like 15, or what the meter says, like f/2.8 at 1/15.", text));
  };
  Spoken s(text);
  if (s.take("dark") && s.atEnd()) return 0;
  if (const Spoken start = s; s.take("f")) {
    // "f/2.8 at 1/15", "f/2.8 1/15 s": the time is what follows "at", or the last word but a unit.
    s = start;
    std::string all(s.rest());
    size_t parts = all.find(" at ");
    size_t time = parts + 4;
    if (parts == std::string::npos) {
      std::string_view words(all);
      words = words.substr(0, words.find_last_not_of(' ') + 1);
      if (words.ends_with(" s")) words.remove_suffix(2);
      parts = words.find_last_of(' ');
      if (parts == std::string::npos) throw refuse();
      time = parts + 1;
    }
    return luxFromMeter(readAperture(std::string_view(all).substr(0, parts)),
                        readShutter(std::string_view(all).substr(time)), iso);
  }
  const auto lux = s.number();
  s.takeAny({"lux", "lx"});
  if (!lux || !s.atEnd() || *lux < 0) throw refuse();
  return *lux;
}

std::string writeAmbient(double lux, double iso) {
  if (!(lux > 0)) return "dark";
  for (int stops = 9; stops >= -5; --stops) {  // 1/512 ... 32 s by whole stops, named as engraved
    const double seconds = std::exp2(-stops);
    const double n = apertureOfLux(lux, seconds, iso);
    if (n >= 2 || stops == -5) return say("{} at {}", writeAperture(n, ApertureStyle::Tenths), writeShutter(seconds));
  }
  return {};
}

}  // namespace easel
