#include "sheet/canvas.h"

#include <cairo-pdf.h>
#include <cairo-svg.h>
#include <cairo.h>

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "formats/surface_pixels.h"
#include "spoken/say.h"

namespace easel {
namespace {

constexpr double kPoint = 72 / 25.4;  // points a millimetre

struct Colour {
  double r, g, b;
};
Colour colourOf(Canvas::Tone tone, Ink ink) {
  using T = Canvas::Tone;
  if (tone == T::White) return {1, 1, 1};
  if (tone == T::Black) return {0, 0, 0};
  if (ink == Ink::Black) {
    switch (tone) {
      case T::Ink:
        return {0, 0, 0};
      case T::Soft:
        return {0.33, 0.33, 0.33};
      case T::Faint:
        return {0.72, 0.72, 0.72};
      case T::Accent:
        return {0.62, 0.28, 0.05};
      default:
        return {1, 1, 1};
    }
  }
  switch (tone) {
    case T::Ink:
      return {0.82, 0.80, 0.77};
    case T::Soft:
      return {0.64, 0.62, 0.59};
    case T::Faint:
      return {0.32, 0.31, 0.30};
    case T::Accent:
      return {0.90, 0.60, 0.30};
    default:
      break;
  }
  return {0.09, 0.09, 0.085};
}

cairo_status_t append(void* to, const unsigned char* bytes, unsigned length) {
  static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(bytes), length);
  return CAIRO_STATUS_SUCCESS;
}

}  // namespace

const std::vector<Paper>& papers() {
  static const std::vector<Paper> all{{"a4", say("A4"), 210, 297, 12, 3.5, false},
                                      {"letter", say("Letter"), 215.9, 279.4, 12, 3.5, false},
                                      {"a5", say("A5"), 148, 210, 9, 3.0, true},
                                      {"phone", say("Telephone"), 90, 180, 5, 3.4, true},
                                      {"stand", say("A4 for the stand"), 210, 297, 12, 9, true}};
  return all;
}
const Paper& paperOf(std::string_view id) {
  std::string known;
  for (const Paper& p : papers()) {
    if (p.id == id) return p;
    known += (known.empty() ? "" : ", ") + p.id;
  }
  throw std::invalid_argument(say("There is no paper \"{}\". There are {}.", id.substr(0, 40), known));
}

struct Canvas::Impl {
  std::string bytes;
  Kind kind;
  Ink ink;
  std::unique_ptr<cairo_surface_t, void (*)(cairo_surface_t*)> surface{nullptr, cairo_surface_destroy};
  std::unique_ptr<cairo_t, void (*)(cairo_t*)> context{nullptr, cairo_destroy};
  double scale = 1;

  void ground(double width, double height) {
    if (ink == Ink::Black && kind != Kind::Pixels) return;  // paper is white
    const Colour c = colourOf(Tone::Ground, ink);
    cairo_set_source_rgb(context.get(), c.r, c.g, c.b);
    cairo_rectangle(context.get(), 0, 0, width, height);
    cairo_fill(context.get());
  }
};

Canvas::Canvas(Kind kind, const Paper& paper, Ink ink, double scale)
    : impl_(std::make_unique<Impl>()), width_(paper.width), height_(paper.height) {
  impl_->kind = kind;
  impl_->ink = ink;
  impl_->scale = kind == Kind::Pixels ? scale : kPoint;
  const double w = paper.width * impl_->scale, h = paper.height * impl_->scale;
  switch (kind) {
    case Kind::Pdf:
      impl_->surface.reset(cairo_pdf_surface_create_for_stream(append, &impl_->bytes, w, h));
      break;
    case Kind::Svg:
      impl_->surface.reset(cairo_svg_surface_create_for_stream(append, &impl_->bytes, w, h));
      cairo_svg_surface_set_document_unit(impl_->surface.get(), CAIRO_SVG_UNIT_PT);
      break;
    case Kind::Pixels:
      impl_->surface.reset(cairo_image_surface_create(CAIRO_FORMAT_RGB24, int(std::ceil(w)), int(std::ceil(h))));
      break;
  }
  impl_->context.reset(cairo_create(impl_->surface.get()));
  if (cairo_status(impl_->context.get()) != CAIRO_STATUS_SUCCESS)
    throw std::runtime_error(say("The sheet is too large to be drawn."));
  cairo_scale(impl_->context.get(), impl_->scale, impl_->scale);
  // Advances in proportion to the size, or lines that were measured to fit would not.
  std::unique_ptr<cairo_font_options_t, void (*)(cairo_font_options_t*)> options(cairo_font_options_create(),
                                                                                 cairo_font_options_destroy);
  cairo_font_options_set_hint_metrics(options.get(), CAIRO_HINT_METRICS_OFF);
  cairo_font_options_set_hint_style(options.get(), CAIRO_HINT_STYLE_NONE);
  cairo_set_font_options(impl_->context.get(), options.get());
  cairo_set_line_cap(impl_->context.get(), CAIRO_LINE_CAP_ROUND);
  cairo_set_line_join(impl_->context.get(), CAIRO_LINE_JOIN_ROUND);
  impl_->ground(width_, height_);
  tone(Tone::Ink);
}
Canvas::~Canvas() = default;
Canvas::Canvas(Canvas&&) noexcept = default;

void Canvas::newPage() {
  cairo_show_page(impl_->context.get());
  impl_->ground(width_, height_);
  tone(Tone::Ink);
}

void Canvas::title(const std::string& text, const std::string& subject) {
  if (impl_->kind != Kind::Pdf) return;
  cairo_pdf_surface_set_metadata(impl_->surface.get(), CAIRO_PDF_METADATA_TITLE, text.c_str());
  cairo_pdf_surface_set_metadata(impl_->surface.get(), CAIRO_PDF_METADATA_SUBJECT, subject.c_str());
  cairo_pdf_surface_set_metadata(impl_->surface.get(), CAIRO_PDF_METADATA_CREATOR, "Jolly Easel");
}

void Canvas::tone(Tone tone) {
  const Colour c = colourOf(tone, impl_->ink);
  cairo_set_source_rgb(impl_->context.get(), c.r, c.g, c.b);
}

void Canvas::text(double x, double y, double size, std::string_view text, double anchor, FontWeight weight) {
  cairo_t* c = impl_->context.get();
  if (anchor != 0) x -= anchor * textWidth(size, text, weight);
  cairo_set_font_face(c, sheetFont(weight));
  cairo_set_font_size(c, size);
  cairo_move_to(c, x, y);
  cairo_show_text(c, std::string(text).c_str());
}

double Canvas::textWidth(double size, std::string_view text, FontWeight weight) {
  cairo_t* c = impl_->context.get();
  cairo_set_font_face(c, sheetFont(weight));
  cairo_set_font_size(c, 100);
  cairo_text_extents_t e;
  cairo_text_extents(c, std::string(text).c_str(), &e);
  return e.x_advance * size / 100;
}

std::vector<std::string> Canvas::wrapped(double size, std::string_view text, double width, FontWeight weight) {
  std::vector<std::string> lines;
  std::string line;
  const auto flush = [&] {
    lines.push_back(line);
    line.clear();
  };
  const auto word = [&](std::string w) {
    const std::string longer = line.empty() ? w : line + " " + w;
    if (textWidth(size, longer, weight) <= width) {
      line = longer;
      return;
    }
    if (!line.empty()) flush();
    // A word wider than the line is broken between whole characters.
    while (textWidth(size, w, weight) > width && w.size() > 1) {
      size_t cut = w.size();
      do {
        do --cut;
        while (cut > 1 && (static_cast<unsigned char>(w[cut]) & 0xc0) == 0x80);
      } while (cut > 1 && textWidth(size, w.substr(0, cut), weight) > width);
      lines.push_back(w.substr(0, cut));
      w.erase(0, cut);
    }
    line = w;
  };
  size_t at = 0;
  while (at <= text.size()) {
    const size_t end = std::min(text.find_first_of(" \n", at), text.size());
    if (end > at) word(std::string(text.substr(at, end - at)));
    if (end < text.size() && text[end] == '\n') flush();
    at = end + 1;
  }
  if (!line.empty() || lines.empty()) flush();
  return lines;
}

void Canvas::line(double x0, double y0, double x1, double y1, double thick, bool dashed) {
  cairo_t* c = impl_->context.get();
  const double dashes[] = {1.2, 1.2};
  cairo_set_dash(c, dashes, dashed ? 2 : 0, 0);
  cairo_set_line_width(c, thick);
  cairo_move_to(c, x0, y0);
  cairo_line_to(c, x1, y1);
  cairo_stroke(c);
  cairo_set_dash(c, nullptr, 0, 0);
}
void Canvas::box(double x, double y, double width, double height, double thick) {
  cairo_set_line_width(impl_->context.get(), thick);
  cairo_rectangle(impl_->context.get(), x, y, width, height);
  cairo_stroke(impl_->context.get());
}
void Canvas::fill(double x, double y, double width, double height) {
  cairo_rectangle(impl_->context.get(), x, y, width, height);
  cairo_fill(impl_->context.get());
}
void Canvas::circle(double x, double y, double radius, double thick) {
  cairo_t* c = impl_->context.get();
  cairo_set_line_width(c, thick);
  cairo_new_sub_path(c);
  cairo_arc(c, x, y, radius, 0, 2 * kPi);
  cairo_stroke(c);
}
void Canvas::disc(double x, double y, double radius) {
  cairo_t* c = impl_->context.get();
  cairo_new_sub_path(c);
  cairo_arc(c, x, y, radius, 0, 2 * kPi);
  cairo_fill(c);
}
void Canvas::path(const std::vector<std::pair<double, double>>& points, bool closed, double thick, bool filled) {
  cairo_t* c = impl_->context.get();
  cairo_new_path(c);
  for (const auto& [x, y] : points) cairo_line_to(c, x, y);
  if (closed) cairo_close_path(c);
  cairo_set_line_width(c, thick);
  filled ? cairo_fill(c) : cairo_stroke(c);
}

void Canvas::picture(const Picture& p, double x, double y, double width, double height) {
  if (p.width <= 0 || p.height <= 0) return;
  std::unique_ptr<cairo_surface_t, void (*)(cairo_surface_t*)> image(
      cairo_image_surface_create(CAIRO_FORMAT_RGB24, p.width, p.height), cairo_surface_destroy);
  putPixels(image.get(), 0, 0, p);
  cairo_t* c = impl_->context.get();
  cairo_save(c);
  cairo_translate(c, x, y);
  cairo_scale(c, width / p.width, height / p.height);
  cairo_set_source_surface(c, image.get(), 0, 0);
  cairo_pattern_set_filter(cairo_get_source(c), CAIRO_FILTER_GOOD);
  cairo_pattern_set_extend(cairo_get_source(c), CAIRO_EXTEND_PAD);
  cairo_rectangle(c, 0, 0, p.width, p.height);
  cairo_fill(c);
  cairo_restore(c);
  tone(Tone::Ink);
}

std::string Canvas::finish() {
  cairo_show_page(impl_->context.get());
  impl_->context.reset();
  cairo_surface_finish(impl_->surface.get());
  if (cairo_surface_status(impl_->surface.get()) != CAIRO_STATUS_SUCCESS)
    throw std::runtime_error(say("The sheet could not be written."));
  return std::move(impl_->bytes);
}

Picture Canvas::pixels() { return pixelsOf(impl_->surface.get()); }

}  // namespace easel
