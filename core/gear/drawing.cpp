#include "gear/drawing.h"

#include <cairo.h>
#include <librsvg/rsvg.h>

#include <algorithm>
#include <cstring>
#include <stdexcept>

#include "files/apart.h"
#include "spoken/say.h"

namespace easel {
namespace {

constexpr int kSide = 8192;  // pixels of a PNG
constexpr size_t kMemory = size_t(768) << 20;
constexpr int kProcessorSeconds = 5;

struct Surface {
  cairo_surface_t* s;
  explicit Surface(cairo_surface_t* surface) : s(surface) {}
  ~Surface() { cairo_surface_destroy(s); }
  Surface(const Surface&) = delete;
  Surface& operator=(const Surface&) = delete;
};

std::vector<std::uint8_t> taken(cairo_surface_t* s) {
  cairo_surface_flush(s);
  if (cairo_surface_status(s) != CAIRO_STATUS_SUCCESS) throw std::runtime_error(say("There is no memory to draw it."));
  std::vector<std::uint8_t> out(size_t(kDrawingSize) * kDrawingSize);
  const unsigned char* data = cairo_image_surface_get_data(s);
  const int stride = cairo_image_surface_get_stride(s);
  for (int y = 0; y < kDrawingSize; ++y)
    for (int x = 0; x < kDrawingSize; ++x) {
      const unsigned char* c = data + size_t(y) * size_t(stride) + size_t(x) * 4;  // BGRX
      out[size_t(y) * kDrawingSize + size_t(x)] =
          std::uint8_t(std::min(255.f, 0.0722f * c[0] + 0.7152f * c[1] + 0.2126f * c[2] + 0.5f));
    }
  return out;
}

cairo_t* blackCanvas(cairo_surface_t* s) {
  cairo_t* c = cairo_create(s);
  cairo_set_source_rgb(c, 0, 0, 0);
  cairo_paint(c);
  return c;
}

std::vector<std::uint8_t> drawSvg(std::string_view bytes, const std::string& name) {
  GError* error = nullptr;
  RsvgHandle* handle = rsvg_handle_new_from_data(reinterpret_cast<const guint8*>(bytes.data()), bytes.size(), &error);
  if (!handle) {
    const std::string why = error ? error->message : "unknown";
    g_clear_error(&error);
    throw std::runtime_error(
        say("{} is not a drawing that can be read ({}). Save it as plain SVG.", name, why.substr(0, 200)));
  }
  const Surface surface(cairo_image_surface_create(CAIRO_FORMAT_RGB24, kDrawingSize, kDrawingSize));
  cairo_t* c = blackCanvas(surface.s);
  const RsvgRectangle all{0, 0, kDrawingSize, kDrawingSize};
  const bool drawn = rsvg_handle_render_document(handle, c, &all, nullptr);
  cairo_destroy(c);
  g_object_unref(handle);
  if (!drawn) throw std::runtime_error(say("{} cannot be drawn. Save it as plain SVG with a size.", name));
  return taken(surface.s);
}

std::vector<std::uint8_t> drawPng(std::string_view bytes, const std::string& name) {
  // The size stands in the first chunk (ISO/IEC 15948, 11.2.2): looked at before anything is unpacked.
  const auto number = [&](size_t at) {
    std::uint32_t v = 0;
    for (size_t i = 0; i < 4; ++i) v = v << 8 | static_cast<unsigned char>(bytes[at + i]);
    return v;
  };
  const auto refuse = [&] {
    return std::runtime_error(
        say("{} is not a PNG that can be read, or larger than {} pixels a side. Save it again as PNG.", name, kSide));
  };
  if (bytes.size() < 24 || number(16) > kSide || number(20) > kSide) throw refuse();
  const Surface in(cairo_image_surface_create_from_png_stream(
      [](void* left, unsigned char* to, unsigned int n) {
        auto& from = *static_cast<std::string_view*>(left);
        if (n > from.size()) return CAIRO_STATUS_READ_ERROR;
        std::memcpy(to, from.data(), n);
        from.remove_prefix(n);
        return CAIRO_STATUS_SUCCESS;
      },
      &bytes));
  const int w = cairo_image_surface_get_width(in.s), h = cairo_image_surface_get_height(in.s);
  if (cairo_surface_status(in.s) != CAIRO_STATUS_SUCCESS || w < 1 || h < 1) throw refuse();
  const Surface surface(cairo_image_surface_create(CAIRO_FORMAT_RGB24, kDrawingSize, kDrawingSize));
  cairo_t* c = blackCanvas(surface.s);
  const double scale = double(kDrawingSize) / std::max(w, h);
  cairo_translate(c, (kDrawingSize - w * scale) / 2, (kDrawingSize - h * scale) / 2);
  cairo_scale(c, scale, scale);
  cairo_set_source_surface(c, in.s, 0, 0);
  cairo_paint(c);
  cairo_destroy(c);
  return taken(surface.s);
}

}  // namespace

std::vector<std::uint8_t> draw(std::string_view bytes, DrawingKind kind, const std::string& name) {
  return kind == DrawingKind::Svg ? drawSvg(bytes, name) : drawPng(bytes, name);
}

std::vector<std::uint8_t> drawApart(std::string_view bytes, DrawingKind kind, const std::string& name) {
  ApartLimits limits;
  limits.memory = kMemory;
  limits.processorSeconds = kProcessorSeconds;
  limits.output = size_t(kDrawingSize) * kDrawingSize;
  limits.advice = say("Save it as a simpler drawing: plain shapes, no filters.");
  const std::string picture = readApart(kind == DrawingKind::Svg ? "svg" : "png", bytes, name, limits);
  if (picture.size() != limits.output) throw std::runtime_error(say("{} cannot be drawn. {}", name, limits.advice));
  return {picture.begin(), picture.end()};
}

}  // namespace easel
