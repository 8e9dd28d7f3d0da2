#include "sheet/sheet_file.h"

#include <fmt/format.h>

#include <algorithm>

#include "files/atomic_file.h"
#include "formats/picture_file.h"
#include "formats/plan_json.h"
#include "sheet/html.h"
#include "sheet/layout.h"
#include "sheet/packed_plan.h"
#include "sheet/plan_sheet.h"
#include "spoken/say.h"

namespace easel {
namespace {

std::string endingOf(const std::filesystem::path& file) {
  std::string e = file.extension().string();
  std::transform(e.begin(), e.end(), e.begin(), [](unsigned char c) { return char(std::tolower(c)); });
  return e;
}
std::filesystem::path numbered(const std::filesystem::path& file, size_t page) {
  if (page == 0) return file;
  return file.parent_path() / fmt::format("{}_{}{}", file.stem().string(), page + 1, file.extension().string());
}

}  // namespace

std::vector<std::filesystem::path> saveSheet(const std::filesystem::path& file, const Pages& pages,
                                             const SheetForm& form, const std::vector<Attachment>& attached) {
  const std::string ending = endingOf(file);
  std::vector<std::filesystem::path> written;
  const auto write = [&](size_t page, const std::string& bytes) {
    written.push_back(numbered(file, page));
    writeFileAtomically(written.back(), bytes);
  };
  if (ending == ".pdf") {
    const std::string pdf = sheetPdf(pages, form.paper, form.ink);
    write(0, attached.empty() ? pdf : withAttached(pdf, attached));
  } else if (ending == ".html" || ending == ".htm") {
    write(0, sheetHtml(pages, form.ink));
  } else if (ending == ".svg") {
    const auto all = sheetSvg(pages, form.paper, form.ink);
    for (size_t i = 0; i < all.size(); ++i) write(i, all[i]);
  } else if (ending == ".png") {
    const auto all = sheetPictures(pages, form.paper, form.ink, 6);
    for (size_t i = 0; i < all.size(); ++i) write(i, pngText(all[i].width, all[i].height, all[i].rgba));
  } else {
    throw std::invalid_argument(
        say("A sheet is written as .pdf, .html, .svg or .png. {} ends in none of them.", file.filename().string()));
  }
  return written;
}

Attachment attachedPlan(const Plan& plan) {
  return {sheetFileName(plan.title, "plan", "easel.json"), "application/json", writePlanText(plan)};
}

Plan openPlan(const std::filesystem::path& file) {
  const std::string ending = endingOf(file);
  if (ending != ".pdf" && ending != ".txt") return loadPlan(file);
  const std::string bytes = readWholeFile(file);
  if (ending == ".txt") return unpackedPlan(bytes);
  std::optional<std::string> plan;
  try {
    plan = planAttachedTo(bytes, foreign(file.filename().string()));
  } catch (const std::exception& e) {
    throw FileError(say("{}: this PDF cannot be read ({}). Open the plan's own file, or another copy.",
                        foreign(file.filename().string()), foreign(e.what())));
  }
  if (!plan)
    throw FileError(
        say("{}: no plan is attached to this PDF. Open the plan's own file.", foreign(file.filename().string())));
  return readPlanText(*plan);
}

}  // namespace easel
