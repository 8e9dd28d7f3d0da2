// easel run and easel journal: the metering run by hand, and what it has written.
#pragma once

#include <cstdint>
#include <string>

#include "plan/plan.h"

namespace easel {

struct RunWishes {
  double tolerance = 0.1, spread = 1.0 / 3;
  std::string out, journal, studio = "studio", meter = "meter";
};
/// A line of the input is a reading, or what to do; ends with the input. 0: all set, 1: steps stay open.
int runByHand(const Plan& plan, const RunWishes& wish);

struct JournalWishes {
  std::string file, search, studio, backup, import, plan;
  std::int64_t session = 0, remove = 0;
  bool csv = false, learned = false;
};
void showJournal(const JournalWishes& wish);

}  // namespace easel
