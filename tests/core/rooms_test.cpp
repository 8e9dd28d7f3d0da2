// The house: a room includes only from rooms that stand before it, in core/ as in app/ (docs/architecture.md).
#include <gtest/gtest.h>

#include <algorithm>
#include <filesystem>
#include <fstream>
#include <regex>

namespace easel {
namespace {

using Rooms = std::vector<std::string>;

const Rooms kCore{"spoken", "files",   "threads", "steps",     "geometry", "data",    "exposure", "colour",
                  "gear",   "sitters", "plan",    "transport", "meter",    "picture", "balance",  "journal",
                  "run",    "wire",    "shoot",   "reading",   "propose",  "formats", "sheet"};
const Rooms kApp{"widgets", "arrange",     "document", "render", "devices",  "controllers",
                 "easel",   "instruments", "cards",    "read",   "metering", "stages",
                 "dialogs", "logbook",     "paper",    "day",    "window"};

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

// That the test can fail: in a house built upside down it finds something.
TEST(Rooms, AnArrowUpwardsIsFound) {
  const Rooms upsideDown(kCore.rbegin(), kCore.rend());
  EXPECT_FALSE(upward(std::filesystem::path(EASEL_SOURCE_DIR) / "core", upsideDown).empty());
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
