// A sheet to draw on, with the shipped font: contact sheets, maps. Pixels; colours 0..1, sRGB-encoded.
#pragma once

#include <memory>
#include <string>

#include "rendering/progressive_render.h"

namespace easel {

class Sheet {
 public:
  /// Throws std::runtime_error with a sentence when it is too large.
  Sheet(int width, int height, double grey);
  ~Sheet();

  void ink(double red, double green, double blue);
  /// Text from `x` on the line `y`, cut with dots at `width`; `anchor` 0 from the left, 0.5 centred on x.
  void write(double x, double y, double points, double width, const std::string& text, double anchor = 0);
  void fill(double x, double y, double width, double height);
  void line(double x0, double y0, double x1, double y1, double width);
  void put(int x, int y, const Picture& picture);
  Picture picture() const;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

}  // namespace easel
