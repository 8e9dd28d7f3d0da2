#include "sheet_and_day.h"

#include <fmt/format.h>

#include <cmath>
#include <filesystem>
#include <stdexcept>

#include "files/atomic_file.h"
#include "formats/day_json.h"
#include "formats/kit_json.h"
#include "sheet/day_sheet.h"
#include "sheet/plan_sheet.h"
#include "sheet/sheet_file.h"
#include "shoot/forecast.h"
#include "terminal.h"

namespace easel {
namespace {

Inventory kitInUse() {
  try {
    return std::filesystem::exists(kitFile()) ? loadKit(kitFile()) : Inventory{};
  } catch (const std::exception&) {
    return {};  // said already, when it was taken into use
  }
}
SheetForm formOf(const std::string& paper, bool dim) { return {paperOf(paper), dim ? Ink::Dim : Ink::Black}; }
void tell(const std::vector<std::filesystem::path>& files) {
  for (const auto& f : files) put("{}\n", f.string());
}

}  // namespace

void writeSheet(const Plan& plan, const SheetWishes& wish) {
  SheetWish w;
  w.kit = kitInUse();
  w.school = wish.school == "lit"     ? RatioSchool::LitToShadow
             : wish.school == "stops" ? RatioSchool::StopsUnder
                                      : RatioSchool::UnitToUnit;
  const bool stand = wish.kind == "stand";
  w.eyes = wish.kind == "whole";
  const PlanSheet sheet = planSheet(plan, w);
  const Pages pages = stand ? standPagesOf(sheet) : wish.kind == "growing" ? growingPagesOf(sheet) : pagesOf(sheet);
  tell(saveSheet(wish.out, pages, formOf(stand && wish.paper == "a4" ? "stand" : wish.paper, wish.dim),
                 {attachedPlan(plan)}));
}

int showDay(const DayWishes& wish) {
  OpenedDay opened = loadDay(wish.file);
  Day& day = opened.day;
  for (const std::string& p : opened.problems) putError("easel: {}\n", p);
  for (const std::string& p : checkDay(day)) put("{}\n", p);
  const DayCosts costs(day, usualDay().times, paceIn(journalFile()));
  const Order order = bestOrder(day, costs);
  if (!order.problem.empty()) {
    put("{}\n", order.problem);
    return 1;
  }
  const auto why = whyThisOrder(day, order, usualDay().times);
  for (size_t i = 0; i < order.turns.size(); ++i) {
    const Turn& s = order.turns[i];
    const DayLook& l = day.looks[s.look];
    put("{}  {}. {}: {} to set, done {}\n", writeTimeAt(s.begin), l.id, l.name(), writeSpan(s.change),
        writeTimeAt(s.end));
    if (!s.waitsFor.empty()) put("       waits for {}\n", s.waitsFor);
    if (!why[i].empty()) put("       {}\n", why[i]);
  }
  put("{} of changing, {} moves{}\n", writeSpan(order.work), order.moves, order.exact ? "" : " (searched, not proved)");
  for (const Relief& r : reliefs(day, costs, order)) put("{}\n", r.sentence);
  const Inventory kit = kitInUse();
  if (!wish.reorder.empty()) {
    Day ordered = day;
    ordered.looks.clear();
    for (const Turn& s : order.turns) ordered.looks.push_back(day.looks[s.look]);
    saveDay(wish.reorder, forFolder(ordered, std::filesystem::absolute(wish.file).parent_path(),
                                    std::filesystem::absolute(wish.reorder).parent_path()));
  }
  if (!wish.out.empty()) {
    std::vector<Picture> prints;
    for (const Turn& s : order.turns) prints.push_back(renderPicture(day.looks[s.look].plan, 200, 250, 6));
    tell(saveSheet(wish.out, dayPages(day, order, prints, kit), formOf(wish.paper, wish.dim)));
  }
  if (!wish.packing.empty()) {
    if (wish.packing.ends_with(".csv"))
      writeFileAtomically(wish.packing, packingCsv(packingFor(day, kit), day));
    else
      tell(saveSheet(wish.packing, packingPages(day, kit), formOf(wish.paper, wish.dim)));
  }
  if (!wish.sheets.empty()) {
    const std::vector<std::string> names = sheetNames(day);
    for (const Turn& s : order.turns) {
      const DayLook& l = day.looks[s.look];
      SheetWish w;
      w.kit = kit;
      w.pluggedIn = day.pluggedIn;
      const PlanSheet sheet = planSheet(l.plan, w);
      tell(saveSheet(std::filesystem::path(wish.sheets) / names[s.look], pagesOf(sheet, l.name()),
                     formOf(wish.paper, wish.dim), {attachedPlan(l.plan)}));
    }
  }
  return order.late > 0 ? 1 : 0;
}

}  // namespace easel
