// Hair as strands, grown from the scalp of a sitter in a style: curves for whoever draws or traces them.
//
// Local space of the sitter, the head posed: metres. The same sitter, style and posture give the same strands. Growing
// takes some tens of milliseconds; any thread.
#pragma once

#include <cstdint>
#include <vector>

#include "sitters/cover.h"
#include "sitters/hair_style.h"
#include "sitters/sitter.h"

namespace easel {

struct Strands {
  /// A place on the axis of a strand and its radius.
  struct Point {
    Vec3 at;
    float radius = 0;
  };
  std::vector<Point> points;
  std::vector<Vec3> along;              ///< unit, by point
  std::vector<float> shade;             ///< by point: what the colour is multiplied with, about 1
  std::vector<std::uint32_t> segments;  ///< the first point of each piece; the next point is its end
};

Strands grown(const Sitter& sitter, const HairStyle& style, const Posture& posture, const Cover* hat = nullptr);

}  // namespace easel
