// Cut-outs drawn as grey pictures: SVG by librsvg, PNG by cairo.
//
// What comes from a stranger is drawn in a process of its own (files/apart): a few kilobytes of SVG can ask for
// gigabytes or minutes, or end the process that draws them.
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace easel {

enum class DrawingKind { Svg, Png };
constexpr int kDrawingSize = 512;  ///< pixels a side

/// Luminance over black, rows from the top, kDrawingSize squared. `name` is for the sentences. Throws
/// std::runtime_error.
std::vector<std::uint8_t> draw(std::string_view bytes, DrawingKind kind, const std::string& name);

/// The same in a process of its own: 5 s of processor time, 10 s in all, 768 MB. Throws std::runtime_error with a
/// sentence when it cannot be drawn within them. Blocking; any thread.
std::vector<std::uint8_t> drawApart(std::string_view bytes, DrawingKind kind, const std::string& name);

}  // namespace easel
