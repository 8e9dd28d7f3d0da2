// easel sheet and easel day: paper for the studio.
#pragma once

#include <string>

#include "plan/plan.h"

namespace easel {

struct SheetWishes {
  std::string out, paper = "a4", kind = "whole", school = "unit";
  bool dim = false;
};
void writeSheet(const Plan& plan, const SheetWishes& wish);

struct DayWishes {
  std::string file, out, packing, reorder, sheets, paper = "a4";
  bool dim = false;
};
/// 0: everybody is done in time, 1: somebody is kept too long, or no order keeps what has to hold.
int showDay(const DayWishes& wish);

}  // namespace easel
