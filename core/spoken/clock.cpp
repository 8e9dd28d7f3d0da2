#include "spoken/clock.h"

#include <fmt/format.h>

#include <cmath>
#include <stdexcept>

#include "spoken/number.h"
#include "spoken/say.h"

namespace easel {
namespace {

std::string hoursAndMinutes(long minutes) {
  minutes = ((minutes % 720) + 720) % 720;
  if (minutes < 60) minutes += 720;
  return fmt::format("{}:{:02}", minutes / 60, minutes % 60);
}

}  // namespace

int wholeHour(double hours) {
  const int h = int(std::lround(std::remainder(hours, 12.0)));
  return h > 0 ? h : h + 12;
}

double roundTheClock(double hours) {
  if (!std::isfinite(hours)) return 12;
  // Steps of a tenth add up to 5.999999: a place is kept to a thousandth of a minute.
  double h = std::round(std::fmod(hours, 12) * 60000) / 60000;
  if (h <= 0) h += 12;
  return h;
}

std::string writeClock(double hours) {
  if (!std::isfinite(hours)) return "--";
  return hoursAndMinutes(std::lround(hours * 60));
}

double readClock(std::string_view text) {
  const auto refuse = [&](const std::string& why) {
    return std::invalid_argument(
        say("\"{}\" is not a place on the clock{}. Write it like 4:18, 4.3 h or half past four.", text, why));
  };
  Spoken s(text);
  const auto ends = [&] {
    s.takeAny({"o'clock", "oclock"});
    return s.atEnd();
  };
  const auto place = [&](double hours) {
    if (!(hours >= 0 && hours <= 12.999)) throw refuse(say(": it goes from 12:01 round to 12:00"));
    return roundTheClock(hours);
  };
  // "half past four", "ten to 5"
  const Spoken start = s;
  double minutes = -1;
  if (s.take("half"))
    minutes = 30;
  else if (s.take("quarter") || (s.take("a") && s.take("quarter")))
    minutes = 15;
  else if (s.take("twenty"))
    minutes = 20 + (s.take("five") ? 5 : 0);
  else if (const auto n = s.count())
    minutes = *n;
  if (minutes >= 0 && minutes < 60) {
    s.takeAny({"minutes", "minute"});
    const bool past = s.take("past"), to = !past && s.take("to");
    if (past || to) {
      const auto hour = s.count();
      if (!hour || !ends()) throw refuse("");
      return place(*hour + (past ? minutes : -minutes) / 60);
    }
  }
  s = start;
  if (const auto word = s.count(); word && !s.atEnd() && s.rest().find_first_of(".,:h") == 0) {
    s = start;
  } else if (word) {
    if (!ends()) throw refuse("");
    return place(*word);
  }
  s = start;
  const auto hours = s.number();
  if (!hours || *hours < 0) throw refuse("");
  if (s.take(":") || (*hours == std::floor(*hours) && s.take("h") && !s.atEnd())) {
    const auto m = s.count();
    s.takeAny({"min", "m"});
    if (*hours != std::floor(*hours) || !m || *m > 59 || !ends()) throw refuse("");
    return place(*hours + *m / 60.0);
  }
  if (s.takeAny({"h", "hours", "hour"})) {
    if (!s.atEnd()) throw refuse("");
    return place(*hours);
  }
  // Two figures after the mark could be minutes.
  const size_t mark = text.find_first_of(".,");
  size_t figures = 0;
  if (mark != std::string_view::npos)
    while (mark + 1 + figures < text.size() && text[mark + 1 + figures] >= '0' && text[mark + 1 + figures] <= '9')
      ++figures;
  const double whole = std::floor(*hours), decimals = std::round((*hours - whole) * 100);
  if (figures == 2 && decimals > 0 && decimals < 60)
    throw std::invalid_argument(
        say("\"{}\" could be {} or {}. Write {} or {:g} h.", text, hoursAndMinutes(std::lround(whole * 60 + decimals)),
            hoursAndMinutes(std::lround(*hours * 60)), hoursAndMinutes(std::lround(whole * 60 + decimals)), *hours));
  if (!ends()) throw refuse("");
  return place(*hours);
}

}  // namespace easel
