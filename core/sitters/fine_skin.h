// What is finer about the skin of a head than its mesh says: lids that are wet where they lie on the eye, ears that are
// thin enough to glow.
//
// Found on the neutral face; an expression takes it along with its vertices. Any thread.
#pragma once

#include <vector>

#include "sitters/sitter.h"

namespace easel {

struct FineSkin {
  const MeshPart* of = nullptr;  ///< the part with the head, all vectors by its vertices
  std::vector<float> wet;        ///< 0 dry to 1: the line of tears along the lids
  std::vector<float> thickness;  ///< metres to the skin on the other side, up to kThick
  static constexpr float kThick = 0.008f;

  double bytes() const { return double(wet.capacity() + thickness.capacity()) * sizeof(float); }
};

/// Points into `sitter`, which must outlive it. Takes some tens of milliseconds.
FineSkin fineSkinOf(const Sitter& sitter);

}  // namespace easel
