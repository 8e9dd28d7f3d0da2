// A series as one picture: prints in rows, a caption and a reading under each, a title over all.
//
// Drawn with cairo (text through FreeType, in the font that ships inside the program); neutral grey ground, so that the
// prints can be compared.
#pragma once

#include <string>
#include <vector>

#include "rendering/series.h"

namespace easel {

struct SheetText {
  std::string title;     ///< "Marrow Lane Luthiers: the master"
  std::string subtitle;  ///< "Distance of light A, its reading kept"
};

/// The sheet, as many columns as keep it near the shape of a page. Throws std::runtime_error when there is no picture
/// or the font cannot be read.
Picture contactSheet(const std::vector<SeriesPicture>& series, const SheetText& text);

}  // namespace easel
