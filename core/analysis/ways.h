// Three ways to the same pattern: move the light, turn the sitter, or move the camera with the face following it.
//
// The face only knows where the light is as seen from itself; so each way brings the light to the same place on the
// face. The nearest place that gives the pattern is searched on this sitter's own skin, then gone two degrees further,
// so that it does not hang on a hair.
#pragma once

#include <string>
#include <vector>

#include "analysis/pattern.h"
#include "exposure/spelling.h"
#include "plan/plan.h"

namespace easel {

struct Way {
  enum class What { Light, Sitter, Camera } what = What::Light;
  std::string sentence;  ///< "Move A 12 degrees further round, to 3:50, and 0.10 m higher"
  std::string brief;     ///< "A to 3:50, 0.10 m up": under a picture
  Plan plan;
  bool possible = true;  ///< false: the light would leave the room, or the head turn further than heads do
};
struct PatternWays {
  FacePattern wanted = FacePattern::None;
  bool found = false;
  FaceDirection from, to;  ///< of the key, as the face sees it
  std::vector<Way> ways;   ///< light, sitter, camera; empty when the pattern stands already or cannot be had
  std::string sentence;    ///< all in one line, or why not
};

/// For the plan's key. Some 3 ms for every place that is tried, about a fifth of a second.
PatternWays waysTo(const Scene& scene, const Plan& plan, FacePattern wanted, const Spelling& spelling = {});

/// The patterns that can be chosen by name.
inline constexpr FacePattern kAskedFor[] = {FacePattern::Butterfly, FacePattern::Loop, FacePattern::Rembrandt,
                                            FacePattern::Split};

/// What a light whose front is at `place` gives on the chart when it looks at the face; `light` gives its front.
PatternAnalysis patternFrom(const Scene& scene, const PlacedSet& set, const FaceChart& chart, const Modifier& front,
                            FaceDirection place, double distance, int samples = 8);

/// The light put at that place round the face: hour, distance, height.
Light lightAt(const PlacedSet& set, const Scene& scene, const Light& light, FaceDirection place, double distance);

}  // namespace easel
