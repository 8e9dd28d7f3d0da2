// Paper to draw on: PDF, SVG or pixels, by the same strokes. Millimetres from the upper left corner.
//
//   Canvas pdf(Canvas::Kind::Pdf, paperOf("a4"), Ink::Black);
//   pdf.text(20, 30, 4, "Key"); pdf.newPage(); std::string bytes = pdf.finish();
//
// Text is in the shipped font: embedded in a PDF, as outlines in an SVG. One thread at a time.
#pragma once

#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "formats/sheet_font.h"
#include "rendering/progressive_render.h"

namespace easel {

struct Paper {
  std::string id, name;
  double width = 210, height = 297, margin = 12;
  double text = 3.5;    ///< height of body text: 3.5 mm is some 10 points
  bool narrow = false;  ///< tables become cards
};
/// "a4", "letter", "a5", "phone", and "stand": A4 to be read at two metres, capitals of a hundredth of the distance and
/// more.
const std::vector<Paper>& papers();
/// Throws std::invalid_argument that names those that there are.
const Paper& paperOf(std::string_view id);

enum class Ink { Black, Dim };  ///< black on white; light grey on nearly black, for a darkened studio

class Canvas {
 public:
  enum class Kind { Pdf, Svg, Pixels };
  /// SVG and pixels have one page; `scale` is pixels a millimetre.
  Canvas(Kind kind, const Paper& paper, Ink ink, double scale = 4);
  ~Canvas();
  Canvas(Canvas&&) noexcept;

  double width() const { return width_; }
  double height() const { return height_; }
  void newPage();
  void title(const std::string& text, const std::string& subject);

  enum class Tone { Ink, Soft, Faint, Accent, Ground, White, Black };
  void tone(Tone tone);
  /// Baseline at y; `anchor` 0 from the left, 0.5 centred, 1 ends at x. `size`: height of the type.
  void text(double x, double y, double size, std::string_view text, double anchor = 0,
            FontWeight weight = FontWeight::Regular);
  double textWidth(double size, std::string_view text, FontWeight weight = FontWeight::Regular);
  /// In lines no wider than `width`, broken at spaces, or within a word that is wider.
  std::vector<std::string> wrapped(double size, std::string_view text, double width,
                                   FontWeight weight = FontWeight::Regular);
  void line(double x0, double y0, double x1, double y1, double thick = 0.25, bool dashed = false);
  void box(double x, double y, double width, double height, double thick = 0.25);
  void fill(double x, double y, double width, double height);
  void circle(double x, double y, double radius, double thick = 0.25);
  void disc(double x, double y, double radius);
  void path(const std::vector<std::pair<double, double>>& points, bool closed, double thick = 0.25,
            bool filled = false);
  void picture(const Picture& picture, double x, double y, double width, double height);

  /// The file's bytes: PDF or SVG. Not for pixels.
  std::string finish();
  /// Of pixels.
  Picture pixels();

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
  double width_, height_;
};

}  // namespace easel
