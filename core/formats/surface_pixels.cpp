#include "formats/surface_pixels.h"

#include <cairo.h>

#include <cstdint>

namespace easel {

void putPixels(cairo_surface_t* s, int x, int y, const Picture& p) {
  cairo_surface_flush(s);
  unsigned char* data = cairo_image_surface_get_data(s);
  const int stride = cairo_image_surface_get_stride(s);
  for (int row = 0; row < p.height; ++row) {
    auto* to = reinterpret_cast<std::uint32_t*>(data + size_t(y + row) * size_t(stride)) + x;
    const std::uint8_t* from = &p.rgba[size_t(row) * size_t(p.width) * 4];
    for (int k = 0; k < p.width; ++k)
      to[k] = std::uint32_t(from[k * 4]) << 16 | std::uint32_t(from[k * 4 + 1]) << 8 | from[k * 4 + 2];
  }
  cairo_surface_mark_dirty(s);
}

Picture pixelsOf(cairo_surface_t* s) {
  cairo_surface_flush(s);
  Picture out;
  out.width = cairo_image_surface_get_width(s);
  out.height = cairo_image_surface_get_height(s);
  const unsigned char* data = cairo_image_surface_get_data(s);
  const int stride = cairo_image_surface_get_stride(s);
  out.rgba.resize(size_t(out.width) * size_t(out.height) * 4);
  for (int y = 0; y < out.height; ++y)
    for (int x = 0; x < out.width; ++x) {
      const std::uint32_t v = reinterpret_cast<const std::uint32_t*>(data + size_t(y) * size_t(stride))[x];
      std::uint8_t* to = &out.rgba[(size_t(y) * size_t(out.width) + size_t(x)) * 4];
      to[0] = std::uint8_t(v >> 16);
      to[1] = std::uint8_t(v >> 8);
      to[2] = std::uint8_t(v);
      to[3] = 255;
    }
  return out;
}

}  // namespace easel
