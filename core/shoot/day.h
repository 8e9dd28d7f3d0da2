// The shooting day: who comes when, which looks, in which order, with what is at hand.
//
// Times are minutes since midnight. A look keeps a copy of its plan as it was last seen; where it names a file, that
// file is the plan and the copy stands in when the file is gone. The file: docs/formats/day.md.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "plan/plan.h"
#include "shoot/mains.h"

namespace easel {

struct DaySitter {
  std::string name;
  int arrives = 9 * 60, leaves = 17 * 60;
  int makeUp = 0;  ///< hair and make-up before the first look [min]
  std::string notes;
  std::string extra;
  bool operator==(const DaySitter&) const = default;
};

struct DayLook {
  std::string id;     ///< "1", "2" ...: unique in the day, stays when the order changes
  std::string title;  ///< empty: the plan's
  std::string file;   ///< of the plan, against the day's folder; empty: the copy is all there is
  Plan plan;
  std::vector<std::string> sitters;  ///< by name
  std::string outfit, framing;
  int frames = 30;
  bool must = true;                  ///< else it may be dropped when the day runs late
  bool first = false, last = false;  ///< where it has to stand
  std::string after;                 ///< id of a look that has to come before; empty: any
  std::string notes;
  std::string begun, done;  ///< on the running clock, "10:42"; empty: not yet
  std::string extra;
  std::string name() const { return title.empty() ? plan.title : title; }
  bool operator==(const DayLook&) const = default;
};

struct DayBreak {
  int from = 12 * 60 + 30, to = 13 * 60;
  std::string what;
  bool operator==(const DayBreak&) const = default;
};

/// What was packed, by key of the packing list: to go out, and to go home.
struct Packed {
  bool out = false, home = false;
  bool operator==(const Packed&) const = default;
};

struct Day {
  std::string title = "Untitled day";
  std::string date;  ///< "2026-11-28"; empty: not fixed
  std::string studio;
  std::string notes;
  int start = 9 * 60, end = 17 * 60;
  int setUp = 0;               ///< min before the first change, for unloading
  double secondsPerFrame = 8;  ///< with talk, pose and a look at the screen: common practice, no source
  int outfitMinutes = 8;       ///< to change clothes
  bool backdropOnce = true;    ///< a paper or cloth is put up once: its looks stand together
  std::vector<DayBreak> breaks;
  std::vector<DaySitter> sitters;
  std::vector<DayLook> looks;  ///< in their running order
  std::vector<Circuit> circuits;
  std::vector<PluggedIn> pluggedIn;
  std::map<std::string, Packed> packed;
  std::string extra;

  const DayLook* look(const std::string& id) const;
  const DaySitter* sitter(const std::string& name) const;
  bool operator==(const Day&) const = default;
};
constexpr size_t kMostLooks = 40;

/// Takes a look out, and out of what the others name.
void dropLook(Day& day, size_t look);

/// Whether two days are the same, whatever the files hold that their looks name.
bool sameApartFromFiles(const Day& a, const Day& b);

/// "09:05". Reads "9", "9:05", "0905", "9.05"; throws std::invalid_argument with a sentence.
std::string writeTime(int minutes);
/// The same of a moment in seconds since midnight, to the nearest minute.
std::string writeTimeAt(double seconds);
int readTime(std::string_view text);
/// "1 h 05 min", "4 min", "40 s".
std::string writeSpan(double seconds);

/// What is wrong with a day, in sentences that say what to do: no time, a sitter nobody knows, a look after itself ...
std::vector<std::string> checkDay(const Day& day);

}  // namespace easel
