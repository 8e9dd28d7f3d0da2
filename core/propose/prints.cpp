#include "propose/prints.h"

#include <algorithm>
#include <exception>
#include <utility>

#include "plan/framing.h"
#include "propose/propose.h"

namespace easel {
namespace {

// A print this small shows a head or nothing.
Plan closeUp(Plan plan) {
  for (const Framing& f : framings())
    if (f.id == "headshot") plan.camera = framed(plan, f);
  return plan;
}

}  // namespace

void printSets(std::vector<ToPrint> sets, const Plan& here, int width, int height,
               const std::function<bool(const std::string& id, std::optional<Picture>)>& put) {
  const auto turn = [&](const ToPrint& t) { return t.look ? turnOf(*t.look, here) : t.own ? t.own->sitter.turn : 0; };
  std::stable_sort(sets.begin(), sets.end(), [&](const ToPrint& a, const ToPrint& b) {
    return std::pair(turn(a) != 0, turn(a)) < std::pair(turn(b) != 0, turn(b));
  });
  // Twice the size and two passes: eight samples to a pixel of the print.
  constexpr int kScale = 2;
  PlanReader reader(8, 8, 1);
  ProgressiveRender studio(kScale * width, kScale * height);
  studio.setOnlyLast(true);
  for (const ToPrint& t : sets) {
    std::optional<Picture> print;
    try {
      const Plan plan = closeUp(t.look ? sketchOf(*t.look, here) : reader.balanced(t.own.value()));
      studio.setPlan(plan);
      studio.finish(kScale);
      print = developPicture(studio.layers(), *studio.set(), {}, kScale);
    } catch (const std::exception&) {
      print.reset();
    }
    if (!put(t.id, std::move(print))) return;
  }
}

}  // namespace easel
