#include "formats/sheet.h"

#include <cairo.h>

#include <stdexcept>

#include "formats/sheet_font.h"
#include "formats/surface_pixels.h"
#include "spoken/say.h"

namespace easel {
namespace {

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

struct Sheet::Impl {
  std::unique_ptr<cairo_surface_t, void (*)(cairo_surface_t*)> surface;
  std::unique_ptr<cairo_t, void (*)(cairo_t*)> context;
  Impl(int w, int h)
      : surface(cairo_image_surface_create(CAIRO_FORMAT_RGB24, w, h), cairo_surface_destroy),
        context(cairo_create(surface.get()), cairo_destroy) {}
};

Sheet::Sheet(int width, int height, double grey) : impl_(std::make_unique<Impl>(width, height)) {
  cairo_t* c = impl_->context.get();
  if (cairo_status(c) != CAIRO_STATUS_SUCCESS) throw std::runtime_error(say("The sheet is too large to be drawn."));
  cairo_set_source_rgb(c, grey, grey, grey);
  cairo_paint(c);
  cairo_set_font_face(c, sheetFont(FontWeight::Regular));
}
Sheet::~Sheet() = default;

void Sheet::ink(double red, double green, double blue) { cairo_set_source_rgb(impl_->context.get(), red, green, blue); }

void Sheet::write(double x, double y, double points, double width, const std::string& text, double anchor) {
  cairo_t* c = impl_->context.get();
  cairo_set_font_size(c, points);
  const std::string shown = fitting(c, text, width);
  cairo_text_extents_t e;
  cairo_text_extents(c, shown.c_str(), &e);
  cairo_move_to(c, x - anchor * e.x_advance, y);
  cairo_show_text(c, shown.c_str());
}

void Sheet::fill(double x, double y, double width, double height) {
  cairo_rectangle(impl_->context.get(), x, y, width, height);
  cairo_fill(impl_->context.get());
}

void Sheet::line(double x0, double y0, double x1, double y1, double width) {
  cairo_t* c = impl_->context.get();
  cairo_set_line_width(c, width);
  cairo_move_to(c, x0, y0);
  cairo_line_to(c, x1, y1);
  cairo_stroke(c);
}

void Sheet::put(int x, int y, const Picture& p) { putPixels(impl_->surface.get(), x, y, p); }

Picture Sheet::picture() const { return pixelsOf(impl_->surface.get()); }

}  // namespace easel
