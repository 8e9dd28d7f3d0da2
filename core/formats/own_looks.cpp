#include "formats/own_looks.h"

#include <algorithm>
#include <stdexcept>

#include "formats/plan_json.h"
#include "gear/pattern.h"

namespace easel {

namespace fs = std::filesystem;

fs::path ownLooksFolder() { return patternFolder().parent_path() / "looks"; }

std::vector<OwnLook> ownLooks() {
  std::vector<OwnLook> out;
  std::error_code none;
  for (const auto& entry : fs::directory_iterator(ownLooksFolder(), none)) {
    const std::string file = entry.path().filename().string();
    const std::string end = ".easel.json";
    if (!file.ends_with(end)) continue;
    try {
      const Plan p = loadPlan(entry.path());
      out.push_back({p.title.empty() ? file.substr(0, file.size() - end.size()) : p.title, entry.path()});
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
    throw std::invalid_argument("A look wants a name with at least one letter or figure in it.");
  if (file.size() > 80) file.resize(80);
  fs::create_directories(ownLooksFolder());
  Plan kept = plan;
  kept.title = name;
  const fs::path path = ownLooksFolder() / (file + ".easel.json");
  savePlan(path, kept);
  return {name, path};
}

void forgetLook(const OwnLook& look) {
  std::error_code none;
  fs::remove(look.file, none);
}

}  // namespace easel
