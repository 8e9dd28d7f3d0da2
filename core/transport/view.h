// What a picture of so many pixels sees through the planned lens: pixels to directions.
#pragma once

#include <optional>

#include "plan/pose.h"

namespace easel {

struct View {
  CameraPose camera;
  int width = 0, height = 0;
  /// A part of a larger picture: its place in it and the size of the whole, in the same pixels. 0: it is the whole.
  int left = 0, top = 0, wholeWidth = 0, wholeHeight = 0;

  int whole() const { return wholeHeight > 0 ? wholeHeight : height; }
  /// What one pixel subtends at the picture's middle, as a length a metre away.
  float pixelAt1m() const { return 2 * camera.tanHalfHeight / float(whole()); }
  bool operator==(const View&) const = default;
  /// Unit direction through a place of the picture in pixels.
  Vec3 direction(float px, float py) const;
  /// Where a point of the studio shows, in pixels, in the picture or beside it; nothing when it is not before the lens.
  std::optional<Vec2> place(Vec3 point) const;
};

}  // namespace easel
