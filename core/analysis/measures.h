// What the predicted picture measures: shadow edges, the ratio on the skin, separation all round the outline, the tone
// of the backdrop, what is burnt out or blocked.
//
// Differences of light in stops; differences of tone also in CIE lightness of the finished picture
// (colour/lightness.h). Picture places are in pixels of the layers.
#pragma once

#include <cmath>
#include <string>
#include <vector>

#include "analysis/pattern.h"
#include "exposure/spelling.h"
#include "meter/quality.h"
#include "meter/spots.h"
#include "picture/layers.h"

namespace easel {

/// A stretch of the sitter's outline against the backdrop.
struct OutlinePlace {
  enum class Part { Hair, Face, Shoulder } part = Part::Hair;
  Vec2 pixel;
  double inside = 0, outside = 0;  ///< lightness L* of the sitter and of the backdrop beside it
  double stops = 0;                ///< sitter over backdrop, linear picture values
  double difference() const { return inside - outside; }
  bool merges() const;
};
/// Lightness difference that reads as an edge from two metres; below it the parts run together, and so do two tones
/// that are both as good as black. Common practice, no source.
constexpr double kSeparates = 4, kAsGoodAsBlack = 9;
inline bool OutlinePlace::merges() const {
  return std::abs(difference()) < kSeparates || (inside < kAsGoodAsBlack && outside < kAsGoodAsBlack);
}

struct Measures {
  ShadowEdge nose, jaw;
  double cheekEdge = 0;        ///< mm on the skin over which the key's light falls from 90 to 10 % round the far cheek
  double lit = 0, shadow = 0;  ///< cheeks with everything on, stops against the target aperture
  double ratioStops() const { return lit - shadow; }
  double unitStops = 0;  ///< the strongest fill under the key, each metered alone (stopsUnder()); 0 without a fill
  bool hasFill = false;
  double acrossStops = 0;             ///< fall-off of the key by distance alone, cheek to cheek
  double fillTopToBottom = 0;         ///< light of all fills, forehead over the foot of the throat, stops
  double burnt = 0, blocked = 0;      ///< shares of the face as the camera sees it
  std::vector<OutlinePlace> outline;  ///< round from the left shoulder of the picture over the head to the right
  int weakest = -1;                   ///< place of the least difference; -1: no outline in the picture
  double hairMerged = 0;              ///< share of the hair's outline that merges
  bool backdropShows = false;
  double backdropLightness = 0;  ///< mean L*
  std::string backdropTone;
  double backdropGradient = 0;  ///< stops between its brightest and its darkest place in the picture
  Vec2 backdropBrightest;
  double brightestBelowEyes = 0;  ///< of that place against the eyes, metres at the backdrop's distance, > 0 below
  double brightestAside = 0;      ///< m beside the head
  std::vector<std::string> words;
};

/// `layers` must be usable and of this set. `quality` may be empty.
Measures measurePicture(const Layers& layers, const PlacedSet& set, const Answers& answers, const SpotTable& table,
                        const std::vector<LightQuality>& quality, const LightingAnalysis& lighting,
                        const FaceChart& chart, const Spelling& spelling = {});

}  // namespace easel
