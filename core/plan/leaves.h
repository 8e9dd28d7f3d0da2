// Panels of the plan as flat leaves in studio space, and where a new one usually goes.
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "gear/gobo.h"
#include "gear/panel_kinds.h"
#include "geometry/vec.h"
#include "plan/plan.h"

namespace easel {

/// One flat face of a panel: centre, frame (n = where its front looks), half sizes [m].
struct Leaf {
  int panel = 0;  ///< index into Plan::panels
  Vec3 centre;
  Frame frame;
  float halfWidth = 0.5f, halfHeight = 0.5f;
  bool disc = false;  ///< of radius halfWidth
  Finish front, back;
  std::shared_ptr<const Gobo> pattern;  ///< cut out of it; null: whole
  std::shared_ptr<const Gobo> painted;  ///< on its front, in the back finish; null: nothing
  /// How the light that it passes on is found: asked for by name, like a lamp's (boards, cloth); met by rays like a
  /// wall's, with cells of its own (large faces of pieces); met by rays alone (a leg, a slat, a leaf). Outline:
  /// it only stands for a mesh on dial and rail, where its box is enough.
  enum class Gives { ByName, AsWall, AsMet, Outline } gives = Gives::ByName;

  /// Of the rectangle, or of that about the disc, round it.
  std::array<Vec3, 4> corners() const {
    const Vec3 u = frame.u * halfWidth, v = frame.v * halfHeight;
    return {centre - u - v, centre + u - v, centre + u + v, centre - u + v};
  }
  float area() const { return disc ? kPiF * halfWidth * halfWidth : 4 * halfWidth * halfHeight; }
};

/// Leaves of all panels and pieces that are in the set. Unknown kinds are boards; unknown finishes are grey.
std::vector<Leaf> leavesOf(const Plan& plan);
std::vector<Leaf> leavesOf(const Plan& plan, const Panel& panel, int index = 0);

/// "board 3", "table 3": how sentences call it, and as their first word.
std::string called(const Panel& panel);
std::string calledFirst(const Panel& panel);
/// Where spotOf() is: "on table 1", "in the opening of wall with a window 2", "before lamp with a shade 3".
std::string atSpotOf(const Panel& panel);

/// Whether two plans have the same panels standing in the same places.
bool samePanels(const Plan& a, const Plan& b);

/// Whether it is a piece of the set that stands on the floor.
bool standsOnFloor(const Panel& panel);
/// The same thing of another height: a piece that stands on the floor goes on standing there.
Panel ofHeight(Panel panel, double height);

/// The same thing with that mesh (gear/model.h), as large as the file says; a block without one.
Panel withModel(Panel panel, const std::string& model);

/// A panel or piece of that kind where it usually stands for this plan's key, and why. Throws std::invalid_argument
/// when the kind is unknown or all sixteen stand.
struct PanelProposal {
  Panel panel;
  std::string reason;
};
PanelProposal proposePanel(const Plan& plan, const std::string& kind);

}  // namespace easel
