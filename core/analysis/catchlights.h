// Catchlights: which lights the eyes mirror, where, in which shape, and what hides them.
//
// Cornea and white are the two spheres that the picture is made with (sitters/eyes.h). A point of a light is mirrored
// where the law of reflection holds on one of them between it and the lens; a light lives in the eye when part of its
// front is mirrored where the lids leave the eye open, and nothing stands in the light's way to it.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "sitters/eyes.h"
#include "transport/source.h"

namespace easel {

/// The sitter's eyes in the studio: [0] the left, [1] the right; none without a sitter.
std::vector<Eye> eyesInStudio(const Scene& scene);

/// Where a sphere mirrors `light` for `eye` (both outside it): the point whose normal halves the angle between them.
Vec3 mirrorPoint(Vec3 centre, float radius, Vec3 eye, Vec3 light);

struct Catchlight {
  std::string light;     ///< letter, or "panel 2"
  int eye = 0;           ///< 0 the sitter's left, 1 the right
  double visible = 0;    ///< share of the front that is mirrored, 0..1
  bool lives = false;    ///< enough of it to be seen
  std::string hiddenBy;  ///< "the upper lid", "lashes", "the brow" ..., or why it cannot show; empty when it lives
  bool onIris = false;   ///< within the iris as the camera sees it; else on the white
  Vec3 point;            ///< its middle on the cornea, studio
  double x = 0, y = 0;   ///< beside and above the iris's middle as the camera sees it, in iris diameters
  double hour = 12;      ///< the same on the eye's clock; 12 up, 3 to the right of the picture
  double width = 0, height = 0;  ///< mm on the eye
  std::string shape;             ///< "round", "square", "tall strip", "wide strip", "ring"
  double lowerTo = 0;            ///< height of the light [m] at which it would live, 0: none found
};

struct Catchlights {
  std::vector<Catchlight> all;  ///< every light that is on, in both eyes; living ones first
  int living(int eye) const;
  bool seesEye[2] = {true, true};  ///< whether the camera sees that eye at all
};
Catchlights readCatchlights(const Scene& scene, const PlacedSet& set);

}  // namespace easel
