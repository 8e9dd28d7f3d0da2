// Where the key has to stand for a wanted pattern on this face: a global search by dividing rectangles, then a local
// one without derivatives (NLopt). Both are deterministic: the same wish gives the same place.
#pragma once

#include <functional>

#include "analysis/face.h"
#include "propose/shelf.h"
#include "transport/scene.h"

namespace easel {

/// Where the pattern sits in the middle of what it is called; common practice, no source (docs/face-patterns.md).
FaceDirection middleOf(FacePattern pattern);

/// How far a placed key is from what is wanted. Lower is better; below about 0.5 all conditions hold.
struct KeySearch {
  const Scene& scene;
  PlacedSet set;  ///< the studio with the key as its only light, which is moved about
  const FaceChart& chart;
  const Look& look;
  FacePattern pattern;
  Hardness hardness;
  double side;
  std::function<bool()> wanted;  ///< false: stop
  int asked = 0;

  /// A profile is lit from before the face and a little behind it.
  FaceDirection middle() const { return look.profile ? FaceDirection{14, 16} : middleOf(pattern); }
  double cost(double azimuth, double elevation, double distance);
};

struct KeyPlace {
  double azimuth = 40, elevation = 32, distance = 1.1, cost = 1e9;
};
/// The best that was found; what there is so far when `wanted` says stop. About 150 places are tried.
KeyPlace searchKey(KeySearch& search, const Modifier& front);

}  // namespace easel
