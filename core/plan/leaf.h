// A panel or piece of the set as flat faces in studio space: what rays hit and what reflects light.
//
// Metres. Unknown kinds are boards; unknown finishes are grey. Any thread; a pattern is read from the disk the first
// time.
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "gear/gobo.h"
#include "gear/panel_kinds.h"
#include "geometry/vec.h"
#include "plan/parts.h"

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
  /// How the light that it passes on is computed: by points of its area, like a lamp's (boards, cloth); by cells, like
  /// a wall's (large faces of pieces); by the rays that hit it alone (a leg, a slat, a leaf). None: it only stands for
  /// a mesh on dial and rail, where its box is enough.
  enum class Sampling { ByArea, ByCells, ByRays, None } sampling = Sampling::ByArea;

  /// Of the rectangle, or of that about the disc, round it.
  std::array<Vec3, 4> corners() const {
    const Vec3 u = frame.u * halfWidth, v = frame.v * halfHeight;
    return {centre - u - v, centre + u - v, centre + u + v, centre - u + v};
  }
  float area() const { return disc ? kPiF * halfWidth * halfWidth : 4 * halfWidth * halfHeight; }
};

/// Of one panel or piece, whether it is in the set or not.
std::vector<Leaf> leavesOf(const Panel& panel, int index = 0);
/// The same without what is cut out of it or painted on it: nothing is read from the disk, so the interface may ask.
std::vector<Leaf> outlinesOf(const Panel& panel);
/// Of all that are in the set.
std::vector<Leaf> leavesOf(const std::vector<Panel>& panels);

}  // namespace easel
