// Glare on glasses: which lights and boards the lenses mirror into the camera, how much of a lens they cover and how
// bright.
//
// Each surface of a lens is a sphere that mirrors by the law of reflection, its share by Fresnel's equations for index
// 1.5 (sitters/glasses.h). Any thread.
#pragma once

#include <string>
#include <vector>

#include "placed/placed_set.h"
#include "transport/scene.h"

namespace easel {

struct Glare {
  std::string light;    ///< letter; empty: a board
  std::string panel;    ///< number of the board; empty: a light
  int lens = 0;         ///< 0 the sitter's left, 1 the right
  double share = 0;     ///< of the lens as the camera sees it, 0..1
  double onEye = 0;     ///< of what shows the eye, 11 mm about the middle of the iris
  double overSkin = 0;  ///< stops by which it is brighter than lit skin beside it; below 0: darker
  Vec3 place;           ///< its middle, studio
};

/// Of every light that is on and every board, on either lens. `luxSeconds` of the key at the face; `skin` its luminous
/// reflectance.
std::vector<Glare> readGlare(const Scene& scene, const PlacedSet& set, double luxSeconds, double skin);

}  // namespace easel
