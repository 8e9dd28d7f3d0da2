// The day on paper: its running order with times, what is moved when, who comes, what hangs on which circuit; and the
// packing list to tick.
#pragma once

#include "sheet/blocks.h"
#include "shoot/order.h"
#include "shoot/packing.h"

namespace easel {

Pages dayPages(const Day& day, const Order& order, const std::vector<Picture>& prints, const Inventory& kit,
               const Spelling& spelling = {});
Pages packingPages(const Day& day, const Inventory& kit, const Spelling& spelling = {});

/// Names for the files of the looks' sheets, in the day's order: no two are the same, in capitals or small.
std::vector<std::string> sheetNames(const Day& day);

}  // namespace easel
