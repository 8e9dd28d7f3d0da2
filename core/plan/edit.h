// Edits of a plan: each a value with an inverse, which is what undo keeps.
//
// An edit works on a copy and checks all of the plan: some 10 us for eight lights. A plan is
// one thread's at a time.
#pragma once

#include <string>
#include <variant>

#include "plan/plan.h"

namespace easel {

struct SetTitle {
  std::string title, notes;
};
struct SetRoom {
  Room room;
};
struct SetSitter {
  SitterPlace sitter;
};
struct SetCamera {
  Camera camera;
};
struct SetBackdrop {
  Backdrop backdrop;
};
struct SetAmbient {
  Ambient ambient;
};
struct SetReceptor {
  Receptor receptor;
  MeterAim aim;
};
struct SetSpots {
  std::vector<PinnedSpot> spots;
};
struct SetLight {
  Light light;
};  ///< replaces the light of the same id; the shade that it burns in goes where it goes
struct AddLight {
  Light light;
  size_t at = 0;
};  ///< `at` beyond the end: appended
struct RemoveLight {
  std::string id;
};
struct SetLights {
  std::vector<Light> lights;
};  ///< all of them: balance, order
struct SetPanel {
  Panel panel;
};  ///< replaces the panel of the same id
struct AddPanel {
  Panel panel;
  size_t at = 0;
};  ///< `at` beyond the end: appended
struct RemovePanel {
  std::string id;
};
struct SetHaze {
  double haze;
};
struct SetWanted {
  std::vector<std::string> wanted;
};  ///< faults that are meant to be so
struct SetPlan {
  Plan plan;
};  ///< the whole set: mirror, a cure, a try-out that is applied

using Edit =
    std::variant<SetTitle, SetRoom, SetSitter, SetCamera, SetBackdrop, SetAmbient, SetReceptor, SetSpots, SetLight,
                 AddLight, RemoveLight, SetLights, SetPanel, AddPanel, RemovePanel, SetHaze, SetWanted, SetPlan>;

/// Applies the edit and gives back the one that undoes it. Throws std::invalid_argument (plan untouched) when a light
/// or board is missing, its letter is taken, something locked would change in anything but name, letter, trigger group,
/// role, on and locked, or the plan could not be saved and opened again: plan/ranges.h.
Edit apply(Plan& plan, const Edit& edit);

/// The same for an inverse that apply() or takeBack() gave: undo and redo ignore locks, for the edit that is taken back
/// may be the one that locked.
Edit takeBack(Plan& plan, const Edit& inverse);

/// The first free letter A..P. Empty when all sixteen are taken.
std::string freeLetter(const Plan& plan);
/// The first free panel number "1".."16". Empty when all are taken.
std::string freeNumber(const Plan& plan);

}  // namespace easel
