// The picture at the pixels of the screen, piece by piece.
//
// A whole picture of three million pixels would take the memory of a film; and who zooms in looks at a part. So it is
// traced in tiles of their own, the face first, each smoothed with a margin round it so that no seam shows, and
// developed at once. A plan of its own weights: whatever changes the plan, this begins anew, while the layers of the
// ordinary picture go on standing. One thread at a time.
#pragma once

#include <optional>
#include <vector>

#include "rendering/progressive_render.h"

namespace easel {

/// How large the whole picture would be and which part of it is wanted, in its pixels.
struct SharpWish {
  int width = 0, height = 0;                    ///< of the whole; 0: nothing is wanted
  int left = 0, top = 0, across = 0, down = 0;  ///< the part
  bool operator==(const SharpWish&) const = default;
};

/// The longest side that is traced [pixels].
constexpr int kSharpest = 2048;

struct SharpTile {
  int left = 0, top = 0;  ///< in pixels of the whole
  Picture picture;
};

class SharpPicture {
 public:
  static constexpr int kTileSide = 512, kPasses = 8;

  SharpPicture(const Plan& plan, const Show& show, const SharpWish& wish);
  /// The next tile; none when it was interrupted (a later call goes on) or all are done. Throws as
  /// ProgressiveRender::improve().
  std::optional<SharpTile> next(const Interrupt& interrupt);
  bool done() const { return at_ >= tiles_.size(); }
  size_t count() const { return tiles_.size(); }

 private:
  struct Place {
    int left, top, width, height;
  };
  Plan plan_;
  Show show_;
  SharpWish wish_;
  std::vector<Place> tiles_;
  size_t at_ = 0;
  ProgressiveRender studio_{8, 8};
  bool begun_ = false;
};

}  // namespace easel
