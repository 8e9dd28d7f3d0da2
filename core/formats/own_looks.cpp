#include "formats/own_looks.h"

#include <algorithm>
#include <stdexcept>

#include "files/places.h"
#include "formats/plan_json.h"
#include "plan/ranges.h"
#include "spoken/say.h"

namespace easel {

namespace fs = std::filesystem;

fs::path ownLooksFolder() { return ownFolder() / "looks"; }

std::vector<OwnLook> ownLooks() {
  std::vector<OwnLook> out;
  std::error_code none;
  for (const auto& entry : fs::directory_iterator(ownLooksFolder(), none)) {
    const std::string file = entry.path().filename().string();
    const std::string end = ".easel.json";
    if (!file.ends_with(end)) continue;
    try {
      const Plan p = loadPlan(entry.path());
      out.push_back({p.title.empty() ? file.substr(0, file.size() - end.size()) : p.title, entry.path(), p});
    } catch (const std::exception&) {
      continue;
    }
  }
  std::sort(out.begin(), out.end(), [](const OwnLook& a, const OwnLook& b) { return a.name < b.name; });
  return out;
}

OwnLook keepAsLook(const Plan& plan, const std::string& name) {
  std::string file;
  for (const char c : name)
    file += std::isalnum(static_cast<unsigned char>(c)) || static_cast<unsigned char>(c) >= 128 ? c : '-';
  if (file.find_first_not_of('-') == std::string::npos)
    throw std::invalid_argument(say("A look needs a name with at least one letter or figure in it."));
  // Cut between characters, or the name is no text.
  if (file.size() > 80) {
    size_t end = 80;
    while (end > 0 && (static_cast<unsigned char>(file[end]) & 0xC0) == 0x80) --end;
    file.resize(end);
  }
  fs::create_directories(ownLooksFolder());
  Plan kept = plan;
  kept.title = name;
  requireInRange(kept);
  // Names that differ only by signs that no file name keeps are two looks: the second gets a number.
  const auto pathOf = [&](int n) {
    return ownLooksFolder() / (file + (n ? "-" + std::to_string(n + 1) : std::string()) + ".easel.json");
  };
  const auto isFree = [&](const fs::path& path) {
    std::error_code none;
    if (!fs::exists(path, none)) return true;
    try {
      return loadPlan(path).title == name;
    } catch (const std::exception&) {
      return false;  // somebody's file all the same
    }
  };
  int n = 0;
  while (!isFree(pathOf(n))) ++n;
  const fs::path path = pathOf(n);
  savePlan(path, kept);
  return {name, path, kept};
}

void forgetLook(const OwnLook& look) {
  std::error_code none;
  fs::remove(look.file, none);
}

}  // namespace easel
