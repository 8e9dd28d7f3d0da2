#include "gear/pattern.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <fstream>
#include <map>
#include <mutex>
#include <stdexcept>

#include "gear/drawing.h"
#include "gear/own_patterns.h"

namespace easel {
namespace {

constexpr std::uintmax_t kLargest = 16u << 20;  // bytes of a file

Pattern patternOf(const std::vector<std::uint8_t>& drawn) {
  Pattern p;
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

bool isName(const std::string& id) {
  return !id.empty() && id.front() != '.' && id.find('/') == std::string::npos && id.size() < 200;
}
std::string lowerEnding(const std::filesystem::path& file) {
  std::string e = file.extension().string();
  std::transform(e.begin(), e.end(), e.begin(), [](unsigned char c) { return char(std::tolower(c)); });
  return e;
}

}  // namespace

float Pattern::at(float x, float y) const {
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

std::filesystem::path patternFolder() {
  const char* data = std::getenv("XDG_DATA_HOME");
  if (data && *data) return std::filesystem::path(data) / "jolly-easel" / "patterns";
  const char* home = std::getenv("HOME");
  return std::filesystem::path(home ? home : ".") / ".local/share/jolly-easel/patterns";
}

std::vector<PatternName> patterns() {
  std::vector<PatternName> out;
  for (const OwnPattern& p : kOwnPatterns) out.push_back({p.id, p.name});
  std::error_code ignored;
  std::vector<PatternName> users;
  for (const auto& entry : std::filesystem::directory_iterator(patternFolder(), ignored)) {
    const std::string ending = lowerEnding(entry.path());
    if (ending == ".svg" || ending == ".png")
      users.push_back({entry.path().filename().string(), entry.path().filename().string()});
  }
  std::sort(users.begin(), users.end(), [](const auto& a, const auto& b) { return a.id < b.id; });
  out.insert(out.end(), users.begin(), users.end());
  return out;
}

Pattern readPattern(const std::filesystem::path& file) {
  const std::string name = file.filename().string(), ending = lowerEnding(file);
  if (ending != ".svg" && ending != ".png")
    throw std::runtime_error(fmt::format("{} is neither SVG nor PNG. Save the cut-out as one of them.", name));
  std::error_code error;
  const auto size = std::filesystem::file_size(file, error);
  if (error) throw std::runtime_error(fmt::format("{} cannot be read. Is it still there?", name));
  if (size > kLargest)
    throw std::runtime_error(fmt::format("{} is larger than 16 MB. Save a smaller picture of the cut-out.", name));
  std::ifstream in(file, std::ios::binary);
  const std::string bytes((std::istreambuf_iterator<char>(in)), {});
  return patternOf(drawApart(bytes, ending == ".svg" ? DrawingKind::Svg : DrawingKind::Png, name));
}

namespace {

// What has been drawn, by id; a pattern that cannot be read is kept as null, so that it is tried once.
struct Kept {
  std::filesystem::file_time_type when;
  std::shared_ptr<const Pattern> pattern;
};
std::mutex guard;
std::map<std::string, Kept> kept;

const OwnPattern* ownPattern(const std::string& id) {
  for (const OwnPattern& p : kOwnPatterns)
    if (id == p.id) return &p;
  return nullptr;
}

}  // namespace

PatternState patternState(const std::string& id) {
  if (!isName(id) || id == "none") return PatternState::Missing;
  if (ownPattern(id)) return PatternState::Usable;
  std::error_code gone;
  const auto when = std::filesystem::last_write_time(patternFolder() / id, gone);
  if (gone) return PatternState::Missing;
  const std::scoped_lock lock(guard);
  const auto at = kept.find(id);
  if (at == kept.end() || at->second.when != when) return PatternState::NotTried;
  return at->second.pattern ? PatternState::Usable : PatternState::Unreadable;
}

std::shared_ptr<const Pattern> findPattern(const std::string& id) {
  if (!isName(id) || id == "none") return nullptr;
  const OwnPattern* own = ownPattern(id);
  std::filesystem::file_time_type when{};
  if (!own) {
    std::error_code gone;
    when = std::filesystem::last_write_time(patternFolder() / id, gone);
    if (gone) return nullptr;
  }
  {
    const std::scoped_lock lock(guard);
    if (const auto at = kept.find(id); at != kept.end() && at->second.when == when) return at->second.pattern;
  }
  // Drawn outside the lock: it may take seconds, and others only want to know whether it is there.
  std::shared_ptr<const Pattern> pattern;
  try {
    pattern = std::make_shared<const Pattern>(own ? patternOf(draw(own->svg, DrawingKind::Svg, own->name))
                                                  : readPattern(patternFolder() / id));
  } catch (const std::runtime_error&) {
  }
  const std::scoped_lock lock(guard);
  // Another thread may have been quicker: one pattern has one address.
  Kept& k = kept[id];
  if (k.pattern && k.when == when) return k.pattern;
  k = {when, pattern};
  return pattern;
}

std::string importPattern(const std::filesystem::path& file) {
  readPattern(file);  // refuse what cannot be used before anything is written
  const std::string id = file.filename().string();
  if (!isName(id)) throw std::runtime_error("A pattern wants a plain file name. Rename the file.");
  std::error_code error;
  std::filesystem::create_directories(patternFolder(), error);
  std::filesystem::copy_file(file, patternFolder() / id, std::filesystem::copy_options::overwrite_existing, error);
  if (error)
    throw std::runtime_error(
        fmt::format("{} could not be kept in {}: {}.", id, patternFolder().string(), error.message()));
  return id;
}

}  // namespace easel
