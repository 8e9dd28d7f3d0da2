// Close-ups of the two eyes, as the planned camera would see them with a very long lens.
#pragma once

#include <array>

#include "rendering/progressive_render.h"

namespace easel {

struct EyePicture {
  Picture picture;    ///< square; empty when the eye lies outside what was rendered
  Vec2 iris;          ///< its middle [pixels]
  double radius = 0;  ///< of the iris [pixels]
  bool seen = false;  ///< by the camera: not turned away
};
/// [0] the sitter's left eye, [1] the right; empty when they are not `wanted` any more. Some seconds of work. Throws as
/// ProgressiveRender::improve().
std::array<EyePicture, 2> renderEyes(const Plan& plan, const std::function<bool()>& wanted = {});

}  // namespace easel
