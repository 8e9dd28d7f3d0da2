// The house: a room includes only from rooms that stand before it, in core/ as in app/ (docs/architecture.md).
#include <gtest/gtest.h>

#include <algorithm>
#include <filesystem>
#include <fstream>
#include <map>
#include <regex>
#include <set>
#include <string>
#include <vector>

namespace easel {
namespace {

using Rooms = std::vector<std::string>;

const Rooms kCore{"spoken",  "files", "threads", "undo",      "geometry", "data",    "exposure",  "colour",  "gear",
                  "sitters", "plan",  "placed",  "transport", "meter",    "picture", "rendering", "balance", "journal",
                  "run",     "wire",  "shoot",   "analysis",  "propose",  "formats", "sheet"};
const Rooms kApp{"widgets", "arrange",     "document", "render", "gallery",  "devices", "controllers",
                 "easel",   "instruments", "cards",    "read",   "metering", "stages",  "dialogs",
                 "logbook", "paper",       "day",      "menus",  "window",   "harness"};

std::vector<std::string> upward(const std::filesystem::path& house, const Rooms& rooms) {
  std::vector<std::string> out;
  const auto floorOf = [&](const std::string& room) {
    return std::find(rooms.begin(), rooms.end(), room) - rooms.begin();
  };
  for (const auto& entry : std::filesystem::recursive_directory_iterator(house)) {
    if (entry.path().extension() != ".h" && entry.path().extension() != ".cpp") continue;
    const auto relative = std::filesystem::relative(entry.path(), house);
    if (relative.begin() == std::prev(relative.end())) continue;  // main.cpp stands on the roof
    const std::string here = relative.begin()->string();
    if (floorOf(here) == long(rooms.size())) {
      out.push_back(here + " is no room that is named here");
      continue;
    }
    std::ifstream in(entry.path());
    static const std::regex include("#include \"([a-z]+)/.*");
    for (std::string line; std::getline(in, line);)
      if (std::smatch m; std::regex_match(line, m, include))
        if (const auto floor = floorOf(m[1]); floor < long(rooms.size()) && floor > floorOf(here))
          out.push_back(relative.string() + ": " + line);
  }
  return out;
}

std::string lines(const std::vector<std::string>& all) {
  std::string out;
  for (const std::string& one : all) out += "\n  " + one;
  return out;
}

TEST(Rooms, ArrowsPointOneWay) {
  for (const auto& [house, rooms] : {std::pair{"core", kCore}, {"app", kApp}}) {
    const auto wrong = upward(std::filesystem::path(EASEL_SOURCE_DIR) / house, rooms);
    EXPECT_TRUE(wrong.empty()) << house << lines(wrong);
  }
}

// Headers that a file sees, itself and what they include in turn, by their path within core/.
std::set<std::string> seenBy(const std::filesystem::path& file) {
  std::set<std::string> seen;
  std::vector<std::filesystem::path> open{file};
  while (!open.empty()) {
    std::ifstream in(open.back());
    open.pop_back();
    static const std::regex include("#include \"([a-z]+/[a-z_]+\\.h)\".*");
    for (std::string line; std::getline(in, line);)
      if (std::smatch m; std::regex_match(line, m, include))
        if (seen.insert(m[1]).second) open.push_back(std::filesystem::path(EASEL_SOURCE_DIR) / "core" / m[1].str());
  }
  return seen;
}

// Light, meter and picture compute from the placed set, which is made once a change: they know neither the plan nor
// where gear, patterns and meshes come from.
TEST(Rooms, NothingBelowThePlacedSetSeesThePlan) {
  const auto core = std::filesystem::path(EASEL_SOURCE_DIR) / "core";
  for (const char* room : {"transport", "meter", "picture"})
    for (const auto& entry : std::filesystem::directory_iterator(core / room)) {
      EXPECT_FALSE(seenBy(entry.path()).contains("plan/plan.h")) << entry.path();
      std::ifstream in(entry.path());
      static const std::regex asks(".*\\b(findUnit|findModifier|findGobo|findModel|correctionOf|inUse)\\(.*");
      for (std::string line; std::getline(in, line);)
        EXPECT_FALSE(std::regex_match(line, asks)) << entry.path() << ": " << line;
    }
  EXPECT_TRUE(seenBy(core / "rendering/progressive_render.h").contains("plan/plan.h")) << "who takes plans does";
}

// That the test can fail: in a house built upside down it finds something.
TEST(Rooms, AnArrowUpwardsIsFound) {
  const Rooms upsideDown(kCore.rbegin(), kCore.rend());
  EXPECT_FALSE(upward(std::filesystem::path(EASEL_SOURCE_DIR) / "core", upsideDown).empty());
}

// Functions of a file of ours as it is formatted: they begin and end at the left margin.
std::vector<std::pair<std::string, int>> functionsOf(const std::filesystem::path& file) {
  std::vector<std::string> lines;
  std::ifstream in(file);
  for (std::string line; std::getline(in, line);) lines.push_back(line);
  std::vector<std::pair<std::string, int>> out;
  static const std::regex begins("^(?!namespace|struct|class|enum|using|TEST)[A-Za-z].*\\(.*[^;]$");
  for (size_t i = 0; i < lines.size(); ++i) {
    if (!std::regex_match(lines[i], begins)) continue;
    size_t body = i;
    while (body < lines.size() && !lines[body].empty() && lines[body].back() != '{' && lines[body].back() != ';')
      ++body;
    if (body >= lines.size() || lines[body].empty() || lines[body].back() != '{') continue;
    size_t end = body;
    while (end < lines.size() && lines[end] != "}" && !lines[end].starts_with("};")) ++end;
    out.emplace_back(lines[i], int(end - i) + 1);
    i = end;
  }
  return out;
}

TEST(Rooms, NoFunctionIsLongerThanAHundredLines) {
  int functions = 0;
  for (const char* house : {"core", "app", "cli", "standins", "tools", "apart"})
    for (const auto& entry :
         std::filesystem::recursive_directory_iterator(std::filesystem::path(EASEL_SOURCE_DIR) / house)) {
      if (entry.path().extension() != ".cpp" || entry.path().filename() == "fault_book.cpp") continue;  // a table
      for (const auto& [name, lines] : functionsOf(entry.path())) {
        EXPECT_LE(lines, 100) << entry.path() << ": " << name;
        ++functions;
      }
    }
  EXPECT_GT(functions, 2000) << "they are found";
}

TEST(Rooms, NoneOfTheWindowsIsTooLarge) {
  std::map<std::string, int> count;
  for (const auto& entry :
       std::filesystem::recursive_directory_iterator(std::filesystem::path(EASEL_SOURCE_DIR) / "app")) {
    if (entry.path().extension() != ".h" && entry.path().extension() != ".cpp") continue;
    std::ifstream in(entry.path());
    const auto relative = std::filesystem::relative(entry.path(), std::filesystem::path(EASEL_SOURCE_DIR) / "app");
    for (std::string line; std::getline(in, line);) ++count[relative.begin()->string()];
  }
  for (const auto& [room, n] : count) EXPECT_LE(n, 2000) << "app/" << room;
}

}  // namespace
}  // namespace easel
