// The map of patterns as a picture: every hour and height round a face, one map a face.
#pragma once

#include <string>
#include <utility>
#include <vector>

#include "analysis/map.h"
#include "rendering/progressive_render.h"

namespace easel {

/// How a pattern is marked on a map: tones from bright to dark as the faces are, and a letter that says it without
/// colour.
struct PatternSign {
  char letter;
  double red, green, blue;  ///< sRGB, 0..1
};
PatternSign signOf(FacePattern pattern);

/// One map for each caption, `columns` beside one another. Letters and tones: B butterfly, L loop, R Rembrandt, S
/// split, F flat, T top light, K back light; two small letters: between the two. Throws std::runtime_error when there
/// is none.
Picture patternSheet(const std::vector<std::pair<std::string, PatternMap>>& maps, int columns,
                     const std::string& title);

}  // namespace easel
