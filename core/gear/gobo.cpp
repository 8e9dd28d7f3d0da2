#include "gear/gobo.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <stdexcept>

#include "data/shipped.h"
#include "files/atomic_file.h"
#include "files/own_files.h"
#include "files/places.h"
#include "gear/drawing.h"
#include "spoken/say.h"

namespace easel {
namespace {

constexpr std::uintmax_t kLargest = 16u << 20;  // bytes of a file

Gobo goboOf(const std::vector<std::uint8_t>& drawn) {
  Gobo p;
  p.size = kDrawingSize;
  p.passes.reserve(drawn.size());
  double sum = 0;
  for (const std::uint8_t v : drawn) {
    p.passes.push_back(float(v) / 255);
    sum += v / 255.0;
  }
  p.mean = sum / double(drawn.size());
  return p;
}

const std::vector<GoboName>& shippedGobos() {
  static const std::vector<GoboName> all = {{"panes", say("Window with six panes")},
                                            {"slats", say("Slats of a blind")},
                                            {"slit", say("Slit")},
                                            {"leaves", say("Leaves")},
                                            {"branch", say("Branch")}};
  return all;
}

}  // namespace

float Gobo::at(float x, float y) const {
  if (!(std::abs(x) < 1 && std::abs(y) < 1)) return 0;
  const float px = (x + 1) / 2 * float(size) - 0.5f, py = (1 - y) / 2 * float(size) - 0.5f;
  const int ix = int(std::floor(px)), iy = int(std::floor(py));
  const float fx = px - float(ix), fy = py - float(iy);
  auto pixel = [&](int a, int b) {
    return passes[size_t(std::clamp(b, 0, size - 1)) * size_t(size) + size_t(std::clamp(a, 0, size - 1))];
  };
  return (pixel(ix, iy) * (1 - fx) + pixel(ix + 1, iy) * fx) * (1 - fy) +
         (pixel(ix, iy + 1) * (1 - fx) + pixel(ix + 1, iy + 1) * fx) * fy;
}

std::filesystem::path goboFolder() { return ownFolder() / "patterns"; }

std::vector<GoboName> gobos() {
  std::vector<GoboName> out = shippedGobos();
  std::error_code ignored;
  std::vector<GoboName> users;
  for (const auto& entry : std::filesystem::directory_iterator(goboFolder(), ignored)) {
    const std::string ending = lowerEnding(entry.path());
    if (ending == ".svg" || ending == ".png")
      users.push_back({entry.path().filename().string(), entry.path().filename().string()});
  }
  std::sort(users.begin(), users.end(), [](const auto& a, const auto& b) { return a.id < b.id; });
  out.insert(out.end(), users.begin(), users.end());
  return out;
}

Gobo readGobo(const std::filesystem::path& file) {
  const std::string name = file.filename().string(), ending = lowerEnding(file);
  if (ending != ".svg" && ending != ".png")
    throw std::runtime_error(say("{} is neither SVG nor PNG. Save the cut-out as one of them.", name));
  const std::string bytes = readWholeFile(file, kLargest);
  return goboOf(drawApart(bytes, ending == ".svg" ? DrawingKind::Svg : DrawingKind::Png, name));
}

namespace {

ReadFiles<Gobo> drawn;

bool ships(const std::string& id) {
  const auto& all = shippedGobos();
  return std::any_of(all.begin(), all.end(), [&](const GoboName& p) { return p.id == id; });
}

}  // namespace

GoboState goboState(const std::string& id) {
  if (!isPlainName(id) || id == "none") return GoboState::Missing;
  if (ships(id)) return GoboState::Usable;
  const auto when = writtenAt(goboFolder() / id);
  if (!when) return GoboState::Missing;
  using State = ReadFiles<Gobo>::State;
  const State state = drawn.state(id, *when);
  return state == State::NotTried ? GoboState::NotTried
         : state == State::Usable ? GoboState::Usable
                                  : GoboState::Unreadable;
}

std::shared_ptr<const Gobo> findGobo(const std::string& id) {
  if (!isPlainName(id) || id == "none") return nullptr;
  if (ships(id))
    return drawn.get(id, {}, [&] { return goboOf(draw(std::string(shippedText(id + ".svg")), DrawingKind::Svg, id)); });
  const auto when = writtenAt(goboFolder() / id);
  return when ? drawn.get(id, *when, [&] { return readGobo(goboFolder() / id); }) : nullptr;
}

std::string importGobo(const std::filesystem::path& file) {
  readGobo(file);  // refuse what cannot be used before anything is written
  const std::string id = file.filename().string();
  if (!isPlainName(id)) throw std::runtime_error(say("A gobo needs a plain file name. Rename the file."));
  keepIn(goboFolder(), file);
  return id;
}

}  // namespace easel
