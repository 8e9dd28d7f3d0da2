// What a hat leaves room for: hair stays under it.
//
// Local space of the sitter, head unturned, metres. Told by directions from the middle of the head: the hat's nearest
// place that way. Any thread.
#pragma once

#include <vector>

#include "geometry/vec.h"
#include "sitters/sitter.h"

namespace easel {

/// The part with its front tipped up by `degrees` about the middle of the head.
MeshPart tippedBack(const MeshPart& hat, const Sitter& sitter, double degrees);

class Cover {
 public:
  Cover(const MeshPart& hat, const Sitter& sitter);
  /// `p`, or the place this side of the hat that is nearest on the way to the middle of the head.
  Vec3 under(Vec3 p) const;

 private:
  size_t cell(Vec3 direction) const;
  Vec3 middle_;
  std::vector<float> room_;  // metres, by direction; far where there is no hat
};

}  // namespace easel
