// Blocks on paper: pages, breaks, tables whose head is said again.
#pragma once

#include <string>
#include <vector>

#include "sheet/blocks.h"

namespace easel {

/// The whole as one PDF.
std::string sheetPdf(const Pages& pages, const Paper& paper, Ink ink);
/// Each page as SVG.
std::vector<std::string> sheetSvg(const Pages& pages, const Paper& paper, Ink ink);
/// Each page as a picture, for a preview; `scale` pixels a millimetre.
std::vector<Picture> sheetPictures(const Pages& pages, const Paper& paper, Ink ink, double scale);

}  // namespace easel
