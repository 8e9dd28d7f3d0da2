// The map of patterns as a picture: every hour and height round a face, one map a face.
#pragma once

#include <string>
#include <utility>
#include <vector>

#include "analysis/map.h"
#include "rendering/progressive_render.h"

namespace easel {

/// One map for each caption, `columns` beside one another. Letters and tones: B butterfly, L loop, R Rembrandt, S
/// split, F flat, T top light, K back light; two small letters: between the two. Throws std::runtime_error when there
/// is none.
Picture patternSheet(const std::vector<std::pair<std::string, PatternMap>>& maps, int columns,
                     const std::string& title);

}  // namespace easel
