// The pattern that a light makes on this face, read from where its light lies on the sitter's own skin.
//
// Names and signs: docs/face-patterns.md, common practice, no source. A place of the skin counts as dark when less than
// half of the light's front is seen from it, or when the skin turns away from it; that is where the eye puts a shadow's
// edge. Everything is read on the face, so the same light gives another pattern when the head turns.
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "analysis/face.h"

namespace easel {

enum class FacePattern { None, Flat, Butterfly, Loop, Rembrandt, Split, BackLight, Top };
enum class Breadth { Straight, Broad, Short };  ///< which side of a turned face is lit: near the camera, or away

std::string patternName(FacePattern p);  ///< "Rembrandt"
const char* patternId(FacePattern p);    ///< "rembrandt", as in files
std::optional<FacePattern> patternOfId(const std::string& id);

/// Signs on the face, millimetres on the chart.
struct PatternSigns {
  double nearCheek = 0, farCheek = 0;  ///< lit share of the cheek on the light's side, and of the other, 0..1
  double face = 0;                     ///< lit share of the whole face
  double farHalf = 0;                  ///< lit share of the half away from the light
  double aside = 0;                    ///< nose's shadow beyond the wing, away from the light
  double under = 0;                    ///< height of what is dark under the tip, mean over the nose's width
  double lean = 0;                     ///< middle of the nose's shadow beside the nose line, in half widths of the nose
  bool joined = false;                 ///< it meets the shadow side of the cheek
  double gap = 0;                      ///< lit skin between the two, when it does not
  double triangleWidth = 0, triangleLength = 0, triangleArea = 0;  ///< mm, mm, mm^2; 0: none
  double eyeWidth = 0, noseLength = 0;
};

struct PatternAnalysis {
  FacePattern pattern = FacePattern::None;
  FacePattern next = FacePattern::None;  ///< between `pattern` and this one; None: it is the pattern
  PatternSigns signs;
  FaceDirection light;  ///< of the key, from the face
};

/// What lies where on the chart, for the evidence.
struct PatternMasks {
  std::vector<std::uint8_t> dark, noseShadow, triangle;
};

/// Reads one light. `side` > 0: it stands on the sitter's left. `masks` may be null.
PatternAnalysis readPattern(const FaceChart& chart, const LightOnFace& light, const FaceDirection& from,
                            PatternMasks* masks = nullptr);

/// The same set as seen by the camera.
struct LightingAnalysis {
  std::string key;  ///< letter; empty without one
  PatternAnalysis pattern;
  Breadth breadth = Breadth::Straight;
  bool litLeft = false;  ///< the sitter's left side is the lit one
  bool clamshell = false, cross = false, profile = false, silhouette = false;
  std::string other;     ///< the fill from below of a clamshell, the second key of a cross light
  std::string name;      ///< "Short Rembrandt", "Between loop and Rembrandt"
  std::string sentence;  ///< what is seen, with its figures
  /// Outlines on the skin, studio space: pairs of points.
  LightOnFace light;  ///< of the key, on the chart that was read
  using Outline = std::vector<std::pair<Vec3, Vec3>>;
  Outline noseShadow, triangle, terminator;
};
/// Of the plan's key: the first light of that role that is on; else the light that gives the face most.
LightingAnalysis readLighting(const Scene& scene, const PlacedSet& set, const FaceChart& chart);

/// The light whose pattern is read; nullptr when none is on.
const PlacedLight* patternKey(const Scene& scene, const PlacedSet& set);

}  // namespace easel
