// Everything that follows from a day, at once: what windows, sheets and the shell show of it.
//
//   const DayForecast r = forecast(day, kit, pace, now);   // some milliseconds for eight looks; any thread
//
// `now` in seconds since midnight; less than 0: the day has not begun.
#pragma once

#include "journal/journal.h"
#include "shoot/cautions.h"
#include "shoot/order.h"
#include "shoot/packing.h"
#include "shoot/supports.h"

namespace easel {

struct LookForecast {
  Changeover change;  ///< from the look before it in the day's own order
  std::string why;    ///< it stands after the one before
  MainsLoad mains;
  std::vector<Carried> carried;
  std::vector<Caution> cautions;
};

/// What of the kit could take the place of something that it has not, for that light of that look.
struct StandInFor {
  std::string look, light;  ///< ids
  StandIn one;
};

struct DayForecast {
  Standing standing;
  Order planned;                    ///< of what is left, in the day's own order
  Order best;                       ///< ... and in the one that moves least
  std::vector<LookForecast> looks;  ///< by index of Day::looks
  std::vector<Relief> reliefs;      ///< of the planned order
  std::vector<std::string> problems;
  std::vector<PackItem> packing;
  std::map<std::string, std::vector<StandInFor>> standIns;  ///< of heads and modifiers that are missing, by their key
  double pace = 1;
};
DayForecast forecast(const Day& day, const Inventory& kit, double pace = 1, double now = -1,
                     const Spelling& spelling = {});

/// What is done and since when the next look has been going on, by the ticks of the running clock. A look that was
/// begun counts as done when it should be.
Standing standingOf(const Day& day, double now);

/// What has to hold and does not in that order of looks, in sentences.
std::vector<std::string> brokenRules(const Day& day, const std::vector<size_t>& looks);

/// How many times as long as expected a change takes this user, from what the journal has timed: the geometric mean,
/// drawn to 1 as by two changes that took what was expected; 1 without any.
double paceOf(const std::vector<JournalEvent>& timed);
/// ... from that journal; 1 when there is none or it cannot be read, for the usual times will do.
double paceIn(const std::filesystem::path& journal);

}  // namespace easel
