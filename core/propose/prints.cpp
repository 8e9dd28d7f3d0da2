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
  plan.camera = framed(plan, framingCalled("headshot"));
  return plan;
}

// Twice the size and two passes: eight samples to a pixel of the print.
constexpr int kScale = 2;

std::optional<Picture> printed(ProgressiveRender& studio, const Plan& plan) {
  studio.setPlan(plan);
  studio.finish(kScale);
  return developPicture(studio.layers(), *studio.set(), {}, kScale);
}

Plan asShown(const Plan& plan, PrintShows shows, const std::string& light, double frame, PlanReader& reader) {
  Plan out = plan;
  const auto crop = [&](const char* framing) { out.camera = croppedTo(plan, framingCalled(framing), frame); };
  switch (shows) {
    case PrintShows::Face:
      crop("headshot");
      break;
    case PrintShows::Chest:
      crop("half");
      break;
    case PrintShows::Figure:
      crop("full");
      break;
    case PrintShows::Picture:
      break;
    case PrintShows::OneLight:
      for (Light& l : out.lights) {
        l.on = l.id == light;
        l.targetStops = 0;
        if (!l.on) continue;
        l.locked = false;
        crop(l.worksOn.empty() && l.role != Role::Background ? "tight" : "half");
      }
      return reader.balanced(out);
  }
  return out;
}

}  // namespace

void printChoices(const std::vector<ChoiceToPrint>& choices, PrintShows shows, const std::string& light, int width,
                  int height, const std::function<bool(const std::string& id, std::optional<Picture>)>& put) {
  PlanReader reader(8, 8, 1);
  ProgressiveRender studio(kScale * width, kScale * height);
  studio.setOnlyLast(true);
  for (const ChoiceToPrint& c : choices) {
    std::optional<Picture> print;
    try {
      print = printed(studio, asShown(c.plan, shows, light, double(width) / height, reader));
    } catch (const std::exception&) {
      print.reset();
    }
    if (!put(c.id, std::move(print))) return;
  }
}

void printSets(std::vector<ToPrint> sets, const Plan& here, int width, int height,
               const std::function<bool(const std::string& id, std::optional<Picture>)>& put) {
  const auto turn = [&](const ToPrint& t) { return t.look ? turnOf(*t.look, here) : t.own ? t.own->sitter.turn : 0; };
  std::stable_sort(sets.begin(), sets.end(), [&](const ToPrint& a, const ToPrint& b) {
    return std::pair(turn(a) != 0, turn(a)) < std::pair(turn(b) != 0, turn(b));
  });
  PlanReader reader(8, 8, 1);
  ProgressiveRender studio(kScale * width, kScale * height);
  studio.setOnlyLast(true);
  for (const ToPrint& t : sets) {
    std::optional<Picture> print;
    try {
      print = printed(studio, closeUp(t.look ? sketchOf(*t.look, here) : reader.balanced(t.own.value())));
    } catch (const std::exception&) {
      print.reset();
    }
    if (!put(t.id, std::move(print))) return;
  }
}

}  // namespace easel
