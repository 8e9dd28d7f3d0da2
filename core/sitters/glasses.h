// Glasses: a frame fitted to a sitter's face, and its two lenses as the mirrors that they are.
//
// Local space of the sitter, head unturned: metres. A lens is a shell of two spheres with no power of its own; which
// way it looks follows from its pantoscopic angle (the front leans back under the eyes) and from how far up the temples
// sit. Any thread.
#pragma once

#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "sitters/sitter.h"

namespace easel {

/// A frame, as data (docs/formats/people.md). Lengths in metres.
struct GlassesFrame {
  std::string id, name;
  double width = 0.05, height = 0.04;  ///< of a lens
  double roundness = 2;                ///< exponent of its outline: 2 an ellipse, 8 nearly a rectangle
  double rim = 0.0025;                 ///< how thick it is
  Vec3 reflectance{0.02f, 0.02f, 0.02f};
};
/// "own" first, then "none".
const std::vector<GlassesFrame>& glassesFrames();
const GlassesFrame* findGlasses(std::string_view id);

struct Lens {
  Vec3 pole;              ///< of its front, in the middle of the outline
  Vec3 axis, across, up;  ///< unit: the way it looks, to the sitter's left, up along it
  float halfWidth = 0, halfHeight = 0, roundness = 2;
  static constexpr float kFront = 0.1325f, kBack = 0.122f;  ///< radii of its surfaces: a base curve of four dioptres

  bool inside(float x, float y) const;
  Vec3 point(float x, float y) const;            ///< on the front, at such places across and up from the pole
  Vec3 normal(Vec3 onFront, bool ofBack) const;  ///< unit, outwards, of either surface there
};
/// Share of light that one surface of a lens mirrors: Fresnel's equations for index 1.5.
float mirroredByGlass(float cosine);

struct Glasses {
  std::array<Lens, 2> lens;  ///< the sitter's left, right
  MeshPart rims;             ///< with bridge and temples
  MeshPart panes;            ///< the fronts, the left one's triangles first
};
/// `templesUp`: degrees that the temples sit higher than usual; the lenses look down by so much.
Glasses fittedGlasses(const Sitter& sitter, const GlassesFrame& frame, double templesUp);

}  // namespace easel
