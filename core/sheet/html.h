// The same sheet as one HTML file that needs nothing else: real text and tables, pictures within it.
#pragma once

#include <string>

#include "sheet/blocks.h"

namespace easel {

std::string sheetHtml(const Pages& pages, Ink ink);

}  // namespace easel
