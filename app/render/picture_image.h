// From core's picture to Qt's image.
#pragma once

#include <QImage>

#include "rendering/progressive_render.h"

namespace easel::app {

/// A copy; null for an empty picture.
inline QImage imageOf(const Picture& p) {
  return p.rgba.empty() ? QImage()
                        : QImage(p.rgba.data(), p.width, p.height, p.width * 4, QImage::Format_RGBA8888).copy();
}

/// And back.
inline Picture pictureOf(const QImage& image) {
  const QImage rgba = image.convertToFormat(QImage::Format_RGBA8888);
  Picture p{rgba.width(), rgba.height(), {}};
  for (int y = 0; y < rgba.height(); ++y)
    p.rgba.insert(p.rgba.end(), rgba.constScanLine(y), rgba.constScanLine(y) + size_t(rgba.width()) * 4);
  return p;
}

}  // namespace easel::app
