#include "plan/edit.h"

#include <fmt/format.h>

#include <algorithm>
#include <stdexcept>
#include <utility>

namespace easel {
namespace {

struct Applier {
  Plan& plan;

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
  Edit operator()(const SetLight& e) {
    Light& l = *need(e.light.id);
    if (l.locked) {
      Light same = e.light;
      same.name = l.name;
      same.on = l.on;
      same.locked = l.locked;
      same.role = l.role;
      if (!(same == l))
        throw std::invalid_argument(
            fmt::format("Light {} is locked. Unlock it (Ctrl+Shift+K) to change its place or power.", l.id));
    }
    return SetLight{std::exchange(l, e.light)};
  }
  Edit operator()(const AddLight& e) {
    if (plan.light(e.light.id)) throw std::invalid_argument(fmt::format("There is already a light {}.", e.light.id));
    plan.lights.insert(plan.lights.begin() + long(std::min(e.at, plan.lights.size())), e.light);
    return RemoveLight{e.light.id};
  }
  Edit operator()(const RemoveLight& e) {
    const auto at = size_t(need(e.id) - plan.lights.data());
    if (plan.lights[at].locked)
      throw std::invalid_argument(fmt::format("Light {} is locked. Unlock it (Ctrl+Shift+K) to remove it.", e.id));
    AddLight back{plan.lights[at], at};
    plan.lights.erase(plan.lights.begin() + long(at));
    return back;
  }
  Edit operator()(const SetLights& e) { return SetLights{std::exchange(plan.lights, e.lights)}; }
  Edit operator()(const SetPanel& e) {
    Panel& p = *needPanel(e.panel.id);
    if (p.locked) {
      Panel same = e.panel;
      same.name = p.name;
      same.on = p.on;
      same.locked = p.locked;
      if (!(same == p))
        throw std::invalid_argument(fmt::format("Panel {} is locked. Unlock it to change its place.", p.id));
    }
    return SetPanel{std::exchange(p, e.panel)};
  }
  Edit operator()(const AddPanel& e) {
    if (plan.panel(e.panel.id)) throw std::invalid_argument(fmt::format("There is already a panel {}.", e.panel.id));
    if (plan.panels.size() >= kMostPanels)
      throw std::invalid_argument("Sixteen panels are the most a plan can hold. Remove one first.");
    plan.panels.insert(plan.panels.begin() + long(std::min(e.at, plan.panels.size())), e.panel);
    return RemovePanel{e.panel.id};
  }
  Edit operator()(const RemovePanel& e) {
    const auto at = size_t(needPanel(e.id) - plan.panels.data());
    if (plan.panels[at].locked)
      throw std::invalid_argument(fmt::format("Panel {} is locked. Unlock it to remove it.", e.id));
    AddPanel back{plan.panels[at], at};
    plan.panels.erase(plan.panels.begin() + long(at));
    return back;
  }
  Edit operator()(const SetHaze& e) { return SetHaze{std::exchange(plan.haze, e.haze)}; }
  Edit operator()(const SetWanted& e) { return SetWanted{std::exchange(plan.wanted, e.wanted)}; }
  Edit operator()(const SetPlan& e) { return SetPlan{std::exchange(plan, e.plan)}; }
  Panel* needPanel(const std::string& id) {
    for (Panel& p : plan.panels)
      if (p.id == id) return &p;
    throw std::invalid_argument(fmt::format("There is no panel {} in this plan.", id));
  }
  Light* need(const std::string& id) {
    Light* l = plan.light(id);
    if (!l) throw std::invalid_argument(fmt::format("There is no light {} in this plan.", id));
    return l;
  }
};

}  // namespace

Edit apply(Plan& plan, const Edit& edit) { return std::visit(Applier{plan}, edit); }

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
