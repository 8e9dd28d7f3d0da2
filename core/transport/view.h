// What a picture of so many pixels sees through the planned lens: pixels to directions.
#pragma once

#include "plan/placement.h"

namespace easel {

struct View {
  CameraPose camera;
  int width = 0, height = 0;
  /// Unit direction through a place of the picture in pixels.
  Vec3 direction(float px, float py) const;
};

}  // namespace easel
