// From core's picture to Qt's image.
#pragma once

#include <QImage>

#include "picture/studio.h"

namespace easel::app {

/// A copy; null for an empty picture.
inline QImage imageOf(const Picture& p) {
  return p.rgba.empty() ? QImage()
                        : QImage(p.rgba.data(), p.width, p.height, p.width * 4, QImage::Format_RGBA8888).copy();
}

}  // namespace easel::app
