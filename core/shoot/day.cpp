#include "shoot/day.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "spoken/say.h"

namespace easel {

void dropLook(Day& day, size_t look) {
  const std::string gone = day.looks.at(look).id;
  day.looks.erase(day.looks.begin() + long(look));
  for (DayLook& l : day.looks)
    if (l.after == gone) l.after.clear();
}

bool sameApartFromFiles(const Day& a, const Day& b) {
  const auto apart = [](Day day) {
    for (DayLook& l : day.looks)
      if (!l.file.empty()) l.plan = {};
    return day;
  };
  return apart(a) == apart(b);
}

const DayLook* Day::look(const std::string& id) const {
  const auto found = std::find_if(looks.begin(), looks.end(), [&](const DayLook& l) { return l.id == id; });
  return found == looks.end() ? nullptr : &*found;
}
const DaySitter* Day::sitter(const std::string& name) const {
  const auto found = std::find_if(sitters.begin(), sitters.end(), [&](const DaySitter& s) { return s.name == name; });
  return found == sitters.end() ? nullptr : &*found;
}

std::string writeTime(int minutes) {
  const int m = ((minutes % 1440) + 1440) % 1440;
  return fmt::format("{:02}:{:02}", m / 60, m % 60);
}

std::string writeTimeAt(double seconds) { return writeTime(int(std::lround(seconds / 60))); }

int readTime(std::string_view text) {
  std::string digits;
  int separators = 0;
  size_t before = 0;
  for (const char c : text) {
    if (c >= '0' && c <= '9')
      digits += c;
    else if ((c == ':' || c == '.' || c == ',' || c == 'h') && separators++ == 0)
      before = digits.size();
    else if (c != ' ')
      separators = 9;
  }
  if (separators == 0) before = digits.size() <= 2 ? digits.size() : digits.size() - 2;
  const std::string minutes = digits.substr(std::min(before, digits.size()));
  if (separators <= 1 && before >= 1 && before <= 2 && (minutes.empty() || minutes.size() == 2)) {
    const auto number = [](const std::string& s) {
      int v = 0;
      for (const char c : s) v = v * 10 + (c - '0');
      return v;
    };
    const int h = number(digits.substr(0, before)), m = number(minutes);
    if (h <= 23 && m <= 59) return h * 60 + m;
  }
  throw std::invalid_argument(say("\"{}\" is not a time of day. Write it like 9:30 or 14:00.", text.substr(0, 20)));
}

std::string writeSpan(double seconds) {
  const double s = std::abs(seconds);
  if (s < 90) return say("{:.0f} s", s);
  const int minutes = int(std::lround(s / 60));
  return minutes < 60 ? say("{} min", minutes) : say("{} h {:02} min", minutes / 60, minutes % 60);
}

std::vector<std::string> checkDay(const Day& day) {
  std::vector<std::string> out;
  if (day.looks.empty())
    out.push_back(say("The day has no look yet. Add one: an open plan, a file, the shelf or the journal."));
  if (day.end <= day.start)
    out.push_back(say("The day ends at {} and begins at {}: there is no time in it. Give it a later end.",
                      writeTime(day.end), writeTime(day.start)));
  for (const DayBreak& b : day.breaks)
    if (b.to <= b.from)
      out.push_back(say("The break at {} ends before it begins. Give it a later end.", writeTime(b.from)));
  std::set<std::string> ids;
  const DayLook *first = nullptr, *last = nullptr;
  for (const DayLook& l : day.looks) {
    if (!ids.insert(l.id).second)
      out.push_back(say("Two looks have the number {}. Remove one and add it again.", l.id));
    for (const std::string& name : l.sitters)
      if (!day.sitter(name))
        out.push_back(say("Look {}, {}, needs {}, who is not among the sitters. Add them, or choose another.", l.id,
                          l.name(), name));
    if (!l.after.empty() && !day.look(l.after))
      out.push_back(say("Look {} has to come after look {}, which is not there. Choose another.", l.id, l.after));
    if (l.first && first)
      out.push_back(say("Looks {} and {} both have to be the first. Free one of them.", first->id, l.id));
    if (l.last && last)
      out.push_back(say("Looks {} and {} both have to be the last. Free one of them.", last->id, l.id));
    if (l.first) first = &l;
    if (l.last) last = &l;
  }
  // Nobody can come after themselves, however far round.
  for (const DayLook& l : day.looks) {
    const DayLook* at = &l;
    for (size_t k = 0; at && k <= day.looks.size(); ++k) {
      at = at->after.empty() ? nullptr : day.look(at->after);
      if (at == &l) {
        out.push_back(say("Look {} has to come after itself. Free one of the looks in that round.", l.id));
        break;
      }
    }
  }
  for (const DaySitter& s : day.sitters)
    if (s.leaves <= s.arrives + s.makeUp)
      out.push_back(say(
          "{} leaves at {}, and comes at {} with {} min of make-up: no time is left for a picture. Change one of them.",
          s.name, writeTime(s.leaves), writeTime(s.arrives), s.makeUp));
  return out;
}

}  // namespace easel
