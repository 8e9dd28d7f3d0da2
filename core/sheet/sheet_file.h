// Sheets on disk, and plans out of what sheets carry.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "sheet/attached.h"
#include "sheet/blocks.h"

namespace easel {

struct SheetForm {
  Paper paper = paperOf("a4");
  Ink ink = Ink::Black;
};
/// By the ending: .pdf (with `attached`), .html, .svg or .png; of the last two each page a file, the second and further
/// ones NAME_2.svg. Gives what was written. Atomic. Throws std::runtime_error, std::invalid_argument for an ending.
std::vector<std::filesystem::path> saveSheet(const std::filesystem::path& file, const Pages& pages,
                                             const SheetForm& form, const std::vector<Attachment>& attached = {});
/// The plan as the file that a PDF carries.
Attachment attachedPlan(const Plan& plan);

/// A plan from its own file, from the PDF of a sheet, or from a text with a packed plan. Throws as loadPlan().
Plan openPlan(const std::filesystem::path& file);

}  // namespace easel
