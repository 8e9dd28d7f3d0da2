#include "plan/edit.h"

#include <algorithm>
#include <stdexcept>
#include <utility>

#include "plan/gaze.h"
#include "plan/panels.h"
#include "plan/pose.h"
#include "plan/ranges.h"
#include "plan/roles.h"
#include "spoken/say.h"

namespace easel {
namespace {

// What a lock holds: place, modifier, unit and power; not the letter, its trigger group, name, role, on and off.
bool samePlace(const Light& a, Light b) {
  b.id = a.id;
  b.group = a.group;
  b.name = a.name;
  b.role = a.role;
  b.on = a.on;
  b.locked = a.locked;
  return a == b;
}
bool samePlace(const Panel& a, Panel b) {
  b.id = a.id;
  b.name = a.name;
  b.on = a.on;
  b.locked = a.locked;
  return a == b;
}
enum class Wish { Change, Remove, MoveLamp };
std::invalid_argument lockedError(const Light& l, Wish wish) {
  return std::invalid_argument(
      wish == Wish::Remove ? say("Light {} is locked. Unlock it (Ctrl+Shift+K) to remove it.", l.id)
                           : say("Light {} is locked. Unlock it (Ctrl+Shift+K) to change its place or power.", l.id));
}
std::invalid_argument lockedError(const Panel& p, Wish wish) {
  const std::string it = calledFirst(p);
  return std::invalid_argument(wish == Wish::Remove     ? say("{} is locked. Unlock it to remove it.", it)
                               : wish == Wish::MoveLamp ? say("{} is locked. Unlock it to move the lamp in it.", it)
                                                        : say("{} is locked. Unlock it to change its place.", it));
}
std::invalid_argument missingError(const Light*, const std::string& id) {
  return std::invalid_argument(say("There is no light {} in this plan.", id));
}
std::invalid_argument missingError(const Panel*, const std::string& id) {
  return std::invalid_argument(say("There is no board {} in this plan.", id));
}

// Every locked thing of `before` stands in `after` as it stood, under whatever letter.
template <class List>
void requireLocksKept(const List& before, const List& after) {
  std::vector<bool> used(after.size());
  for (const auto& held : before) {
    if (!held.locked) continue;
    bool kept = false;
    // Its own letter first: of two locked lights in one place each keeps its own.
    for (const bool own : {true, false})
      for (size_t i = 0; i < after.size() && !kept; ++i)
        if (!used[i] && (after[i].id == held.id) == own && samePlace(held, after[i])) used[i] = kept = true;
    if (!kept) throw lockedError(held, Wish::Change);
  }
}

template <class Thing>
Thing* find(std::vector<Thing>& list, const std::string& id) {
  for (Thing& one : list)
    if (one.id == id) return &one;
  throw missingError(list.data(), id);
}

// Changes the plan and gives back the inverse. `asked`: by the user, so that locks hold; undo takes back what locks
// would not let through, the lock itself included.
struct Applier {
  Plan& plan;
  bool asked;

  Edit operator()(const SetTitle& e) {
    return SetTitle{std::exchange(plan.title, e.title), std::exchange(plan.notes, e.notes)};
  }
  Edit operator()(const SetRoom& e) { return SetRoom{std::exchange(plan.room, e.room)}; }
  Edit operator()(const SetSitter& e) { return SetSitter{std::exchange(plan.sitter, e.sitter)}; }
  Edit operator()(const SetCamera& e) { return SetCamera{std::exchange(plan.camera, e.camera)}; }
  Edit operator()(const SetBackdrop& e) { return SetBackdrop{std::exchange(plan.backdrop, e.backdrop)}; }
  Edit operator()(const SetAmbient& e) { return SetAmbient{std::exchange(plan.ambient, e.ambient)}; }
  Edit operator()(const SetReceptor& e) {
    return SetReceptor{std::exchange(plan.receptor, e.receptor), std::exchange(plan.meterAim, e.aim)};
  }
  Edit operator()(const SetSpots& e) { return SetSpots{std::exchange(plan.spots, e.spots)}; }
  Edit operator()(const SetHaze& e) { return SetHaze{std::exchange(plan.haze, e.haze)}; }
  Edit operator()(const SetWanted& e) { return SetWanted{std::exchange(plan.wanted, e.wanted)}; }

  Edit operator()(const SetLight& e) {
    SetLight back{set(plan.lights, e.light)};
    // Who moves the lamp moves its shade.
    if (!e.light.inside.empty() && back.light.inside == e.light.inside)
      for (Panel& p : plan.panels)
        if (p.id == e.light.inside) {
          const bool moves = p.hour != e.light.hour || p.distance != e.light.distance || p.above != e.light.height;
          if (asked && p.locked && moves) throw lockedError(p, Wish::MoveLamp);
          p.hour = e.light.hour;
          p.distance = e.light.distance;
          p.above = e.light.height;
        }
    return back;
  }
  Edit operator()(const AddLight& e) {
    if (plan.light(e.light.id)) throw std::invalid_argument(say("There is already a light {}.", e.light.id));
    add(plan.lights, e.light, e.at);
    return RemoveLight{e.light.id};
  }
  Edit operator()(const RemoveLight& e) {
    auto [light, at] = remove(plan.lights, e.id);
    return AddLight{std::move(light), at};
  }
  Edit operator()(const SetLights& e) { return SetLights{std::exchange(plan.lights, e.lights)}; }
  Edit operator()(const SetPanel& e) { return SetPanel{set(plan.panels, e.panel)}; }
  Edit operator()(const AddPanel& e) {
    if (plan.panel(e.panel.id)) throw std::invalid_argument(say("There is already a board or piece {}.", e.panel.id));
    add(plan.panels, e.panel, e.at);
    return RemovePanel{e.panel.id};
  }
  Edit operator()(const RemovePanel& e) {
    auto [panel, at] = remove(plan.panels, e.id);
    return AddPanel{std::move(panel), at};
  }
  Edit operator()(const SetPlan& e) { return SetPlan{std::exchange(plan, e.plan)}; }

 private:
  template <class Thing>
  Thing set(std::vector<Thing>& list, const Thing& wanted) {
    Thing& now = *find(list, wanted.id);
    if (asked && now.locked && !samePlace(now, wanted)) throw lockedError(now, Wish::Change);
    return std::exchange(now, wanted);
  }
  template <class Thing>
  void add(std::vector<Thing>& list, const Thing& thing, size_t at) {
    list.insert(list.begin() + long(std::min(at, list.size())), thing);
  }
  template <class Thing>
  std::pair<Thing, size_t> remove(std::vector<Thing>& list, const std::string& id) {
    const auto at = size_t(find(list, id) - list.data());
    if (asked && list[at].locked) throw lockedError(list[at], Wish::Remove);
    std::pair<Thing, size_t> out{std::move(list[at]), at};
    list.erase(list.begin() + long(at));
    return out;
  }
};

}  // namespace

namespace {

// Lamps burn in the middle of their shades.
void putInside(Plan& plan) {
  for (Light& l : plan.lights)
    if (const Panel* shade = l.inside.empty() ? nullptr : plan.panel(l.inside)) {
      l.hour = shade->hour;
      l.distance = shade->distance;
      l.height = shade->above;
    }
}

// A number that no piece has, a letter that no light has: the next that gets it would swallow the lamp or catch the
// eye.
void dropDangling(Plan& plan) {
  for (Light& l : plan.lights)
    for (std::string* piece : {&l.worksOn, &l.inside})
      if (!piece->empty() && !plan.panel(*piece)) piece->clear();
  if (plan.sitter.gaze == kLooksAtLight && !plan.light(plan.sitter.gazeLight))
    plan.sitter = withGaze(plan, kLooksAtLens);
}

// The light that is looked at goes on being it under another letter.
void followGaze(const Plan& before, Plan& plan) {
  if (plan.sitter.gaze != kLooksAtLight || !(plan.sitter == before.sitter)) return;
  const auto letters = lettersIn(before, plan);
  const auto now = letters.find(plan.sitter.gazeLight);
  plan.sitter.gazeLight = now == letters.end() ? std::string() : now->second;
}

}  // namespace

Edit apply(Plan& plan, const Edit& edit) {
  const Plan before = plan;
  try {
    // As a file may have it; what follows is measured against this.
    dropDangling(plan);
    putInside(plan);
    const std::vector<Light> lights = plan.lights;
    const std::vector<Panel> panels = plan.panels;
    const bool tidied = !(plan == before);
    Edit back = std::visit(Applier{plan, true}, edit);
    const Plan edited = plan;
    followGaze(before, plan);
    dropDangling(plan);
    const bool dropped = !(plan == edited);
    putInside(plan);
    // What an edit brings with it holds to locks as the edit does.
    requireLocksKept(lights, plan.lights);
    requireLocksKept(panels, plan.panels);
    requireInRange(plan);
    return tidied || dropped ? Edit(SetPlan{before}) : back;
  } catch (...) {
    plan = before;
    throw;
  }
}

Edit takeBack(Plan& plan, const Edit& edit) {
  Edit again = std::visit(Applier{plan, false}, edit);
  putInside(plan);
  return again;
}

std::string freeLetter(const Plan& plan) {
  for (char c = 'A'; c <= 'P'; ++c)
    if (!plan.light(std::string(1, c))) return std::string(1, c);
  return {};
}

std::string freeNumber(const Plan& plan) {
  for (size_t i = 1; i <= kMostPanels; ++i)
    if (!plan.panel(std::to_string(i))) return std::to_string(i);
  return {};
}

}  // namespace easel
