// Between the drawing library's pixels and a Picture.
#pragma once

#include "rendering/progressive_render.h"

typedef struct _cairo_surface cairo_surface_t;

namespace easel {

/// Of an image surface without transparency.
Picture pixelsOf(cairo_surface_t* surface);
/// Writes the picture with its left upper corner at x, y; it has to fit.
void putPixels(cairo_surface_t* surface, int x, int y, const Picture& picture);

}  // namespace easel
