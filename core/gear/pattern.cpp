#include "gear/pattern.h"

#include <cairo.h>
#include <fmt/format.h>
#include <librsvg/rsvg.h>

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <fstream>
#include <map>
#include <mutex>
#include <stdexcept>

#include "gear/own_patterns.h"

namespace easel {
namespace {

constexpr int kSize = 512;
constexpr std::uintmax_t kLargest = 16u << 20;  // bytes of a file

struct Surface {
  cairo_surface_t* s;
  explicit Surface(cairo_surface_t* surface) : s(surface) {}
  ~Surface() { cairo_surface_destroy(s); }
  Surface(const Surface&) = delete;
  Surface& operator=(const Surface&) = delete;
};

Pattern taken(cairo_surface_t* s) {
  cairo_surface_flush(s);
  Pattern p;
  p.size = kSize;
  p.passes.resize(size_t(kSize) * kSize);
  const unsigned char* data = cairo_image_surface_get_data(s);
  const int stride = cairo_image_surface_get_stride(s);
  double sum = 0;
  for (int y = 0; y < kSize; ++y)
    for (int x = 0; x < kSize; ++x) {
      const unsigned char* c = data + size_t(y) * size_t(stride) + size_t(x) * 4;  // BGRX
      const float v = (0.0722f * c[0] + 0.7152f * c[1] + 0.2126f * c[2]) / 255;
      p.passes[size_t(y) * kSize + size_t(x)] = v;
      sum += double(v);
    }
  p.mean = sum / double(p.passes.size());
  return p;
}

Pattern fromSvg(const char* bytes, size_t n, const std::string& name) {
  GError* error = nullptr;
  RsvgHandle* handle = rsvg_handle_new_from_data(reinterpret_cast<const guint8*>(bytes), n, &error);
  if (!handle) {
    const std::string why = error ? error->message : "unknown";
    g_clear_error(&error);
    throw std::runtime_error(fmt::format("{} is no drawing that can be read ({}). Save it as plain SVG.", name, why));
  }
  Surface surface(cairo_image_surface_create(CAIRO_FORMAT_RGB24, kSize, kSize));
  cairo_t* c = cairo_create(surface.s);
  cairo_set_source_rgb(c, 0, 0, 0);
  cairo_paint(c);
  const RsvgRectangle all{0, 0, kSize, kSize};
  const bool drawn = rsvg_handle_render_document(handle, c, &all, nullptr);
  cairo_destroy(c);
  g_object_unref(handle);
  if (!drawn) throw std::runtime_error(fmt::format("{} cannot be drawn. Save it as plain SVG with a size.", name));
  return taken(surface.s);
}

Pattern fromPng(const std::filesystem::path& file) {
  Surface in(cairo_image_surface_create_from_png(file.c_str()));
  const int w = cairo_image_surface_get_width(in.s), h = cairo_image_surface_get_height(in.s);
  if (cairo_surface_status(in.s) != CAIRO_STATUS_SUCCESS || w < 1 || h < 1 || w > 16384 || h > 16384)
    throw std::runtime_error(
        fmt::format("{} is no PNG that can be read, or larger than 16384 pixels a side. "
                    "Save it anew as PNG.",
                    file.filename().string()));
  Surface surface(cairo_image_surface_create(CAIRO_FORMAT_RGB24, kSize, kSize));
  cairo_t* c = cairo_create(surface.s);
  cairo_set_source_rgb(c, 0, 0, 0);
  cairo_paint(c);
  const double scale = double(kSize) / std::max(w, h);
  cairo_translate(c, (kSize - w * scale) / 2, (kSize - h * scale) / 2);
  cairo_scale(c, scale, scale);
  cairo_set_source_surface(c, in.s, 0, 0);
  cairo_paint(c);
  cairo_destroy(c);
  return taken(surface.s);
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
  std::error_code ignored;
  const std::string name = file.filename().string(), ending = lowerEnding(file);
  const auto bytes = std::filesystem::file_size(file, ignored);
  if (ignored) throw std::runtime_error(fmt::format("{} cannot be read. Is it still there?", name));
  if (bytes > kLargest)
    throw std::runtime_error(fmt::format("{} is larger than 16 MB. Save a smaller picture of the cut-out.", name));
  if (ending == ".png") return fromPng(file);
  if (ending != ".svg")
    throw std::runtime_error(fmt::format("{} is neither SVG nor PNG. Save the cut-out as one of them.", name));
  std::ifstream in(file, std::ios::binary);
  const std::string text((std::istreambuf_iterator<char>(in)), {});
  return fromSvg(text.data(), text.size(), name);
}

std::shared_ptr<const Pattern> findPattern(const std::string& id) {
  static std::mutex guard;
  struct Kept {
    std::filesystem::file_time_type when;
    std::shared_ptr<const Pattern> pattern;
  };
  static std::map<std::string, Kept> kept;
  if (!isName(id) || id == "none") return nullptr;
  const std::scoped_lock lock(guard);
  for (const OwnPattern& p : kOwnPatterns)
    if (id == p.id) {
      Kept& k = kept[id];
      if (!k.pattern) k.pattern = std::make_shared<const Pattern>(fromSvg(p.svg, std::string(p.svg).size(), p.name));
      return k.pattern;
    }
  const auto file = patternFolder() / id;
  std::error_code gone;
  const auto when = std::filesystem::last_write_time(file, gone);
  if (gone) return nullptr;
  Kept& k = kept[id];
  if (!k.pattern || k.when != when) try {
      k = {when, std::make_shared<const Pattern>(readPattern(file))};
    } catch (const std::runtime_error&) {
      k = {when, nullptr};
    }
  return k.pattern;
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
