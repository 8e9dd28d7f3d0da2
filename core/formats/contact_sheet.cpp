#include "formats/contact_sheet.h"

#include <cairo-ft.h>
#include <cairo.h>
#include <ft2build.h>
#include FT_FREETYPE_H

#include <algorithm>
#include <cmath>
#include <memory>
#include <stdexcept>

// The font goes into the program as it is: a sheet looks the same on every machine.
__asm__(
    ".section .rodata\n"
    ".global easel_sheet_font\n.global easel_sheet_font_end\n"
    "easel_sheet_font:\n.incbin \"" EASEL_SHEET_FONT
    "\"\n"
    "easel_sheet_font_end:\n.byte 0\n"
    ".previous\n");
extern "C" const unsigned char easel_sheet_font[], easel_sheet_font_end[];

namespace easel {
namespace {

struct Font {
  FT_Library library = nullptr;
  FT_Face face = nullptr;
  cairo_font_face_t* cairo = nullptr;
  Font() {
    if (FT_Init_FreeType(&library) != 0 ||
        FT_New_Memory_Face(library, easel_sheet_font, FT_Long(easel_sheet_font_end - easel_sheet_font), 0, &face) != 0)
      throw std::runtime_error("The font of the contact sheet could not be read.");
    cairo = cairo_ft_font_face_create_for_ft_face(face, 0);
  }
  // Never taken down: cairo keeps faces in a cache of its own until the program ends.
};

std::string fitting(cairo_t* c, std::string text, double width) {
  cairo_text_extents_t e;
  cairo_text_extents(c, text.c_str(), &e);
  if (e.x_advance <= width) return text;
  while (!text.empty()) {
    // Whole UTF-8 characters only.
    do text.pop_back();
    while (!text.empty() && (static_cast<unsigned char>(text.back()) & 0xc0) == 0x80);
    if (!text.empty() && (static_cast<unsigned char>(text.back()) & 0xc0) == 0xc0) text.pop_back();
    const std::string cut = text + "...";
    cairo_text_extents(c, cut.c_str(), &e);
    if (e.x_advance <= width) return cut;
  }
  return text;
}

}  // namespace

Picture contactSheet(const std::vector<SeriesPicture>& series, const SheetText& text) {
  if (series.empty() || series.front().picture.rgba.empty())
    throw std::runtime_error("There is no picture for the sheet.");
  static const Font font;
  const int w = series.front().picture.width, h = series.front().picture.height;
  const double size = std::clamp(w / 18.0, 11.0, 28.0);
  const int gap = int(size * 1.2), foot = int(size * 3.0), head = int(size * 4.6);
  const int n = int(series.size());
  // One row while it is not absurdly long, then rows of even length.
  const int rows = n <= 6 ? 1 : (n + 5) / 6, columns = (n + rows - 1) / rows;
  Picture out;
  out.width = columns * (w + gap) + gap;
  out.height = head + rows * (h + foot) + gap;

  const std::unique_ptr<cairo_surface_t, void (*)(cairo_surface_t*)> surface(
      cairo_image_surface_create(CAIRO_FORMAT_RGB24, out.width, out.height), cairo_surface_destroy);
  const std::unique_ptr<cairo_t, void (*)(cairo_t*)> context(cairo_create(surface.get()), cairo_destroy);
  cairo_t* c = context.get();
  if (cairo_status(c) != CAIRO_STATUS_SUCCESS) throw std::runtime_error("The contact sheet is too large to be drawn.");
  cairo_set_source_rgb(c, 0.46, 0.46, 0.46);
  cairo_paint(c);
  cairo_set_font_face(c, font.cairo);
  cairo_set_source_rgb(c, 1, 1, 1);
  auto write = [&](double x, double y, double points, double width, const std::string& s) {
    cairo_set_font_size(c, points);
    cairo_move_to(c, x, y);
    cairo_show_text(c, fitting(c, s, width).c_str());
  };
  write(gap, size * 1.9, size * 1.3, out.width - 2 * gap, text.title);
  write(gap, size * 3.6, size, out.width - 2 * gap, text.subtitle);
  for (int i = 0; i < n; ++i) {
    const SeriesPicture& p = series[size_t(i)];
    const int x = gap + i % columns * (w + gap), y = head + i / columns * (h + foot);
    if (p.picture.width == w && p.picture.height == h) {
      cairo_surface_flush(surface.get());
      unsigned char* data = cairo_image_surface_get_data(surface.get());
      const int stride = cairo_image_surface_get_stride(surface.get());
      for (int row = 0; row < h; ++row) {
        auto* to = reinterpret_cast<std::uint32_t*>(data + size_t(y + row) * size_t(stride)) + x;
        const std::uint8_t* from = &p.picture.rgba[size_t(row) * size_t(w) * 4];
        for (int k = 0; k < w; ++k)
          to[k] = std::uint32_t(from[k * 4]) << 16 | std::uint32_t(from[k * 4 + 1]) << 8 | from[k * 4 + 2];
      }
      cairo_surface_mark_dirty(surface.get());
    }
    write(x, y + h + size * 1.25, size * 1.05, w, p.caption);
    write(x, y + h + size * 2.4, size * 0.85, w, p.reading.empty() ? std::string() : "face reads " + p.reading);
  }
  cairo_surface_flush(surface.get());
  const unsigned char* data = cairo_image_surface_get_data(surface.get());
  const int stride = cairo_image_surface_get_stride(surface.get());
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
