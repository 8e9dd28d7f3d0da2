// What the camera sees, kept: per pixel and pass one surface point, and for one pixel of four the point that the next
// bounce of light comes from.
//
// Both depend on sitter, room and camera only, so moving a light costs shadow rays alone. Eight passes with their own
// sub-pixel place give the edges; later passes use them again with other light samples, except where eight are too few
// (hair, outlines, skin seen at a grazing angle): fresh() continues from there.
#pragma once

#include <algorithm>
#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "picture/guides.h"
#include "plan/pose.h"
#include "sitters/fine_skin.h"
#include "transport/interrupt.h"
#include "transport/rays.h"
#include "transport/scene.h"
#include "transport/view.h"

namespace easel {

/// Unit vector in four bytes (octahedral map; Cigolle et al., "A survey of efficient representations of independent
/// unit vectors", JCGT 2014).
struct PackedDirection {
  std::int16_t x = 0, y = 0;
  static PackedDirection of(Vec3 d);
  static PackedDirection ofCode(std::uint32_t code) { return {std::int16_t(code & 0xffff), std::int16_t(code >> 16)}; }
  std::uint32_t code() const { return std::uint16_t(x) | std::uint32_t(std::uint16_t(y)) << 16; }
  Vec3 unpacked() const;
};
/// Linear reflectance 0..1 in three bytes, square-root coded.
struct PackedColour {
  std::uint8_t r = 0, g = 0, b = 0;
  Surface surface = Surface::Nothing;
  static PackedColour of(Vec3 c, Surface s);
  Vec3 unpacked() const;
};

struct PixelSample {
  Vec3 position;
  PackedDirection normal, facet;
  /// Hair: tangent; eye: normal of the wet coat; cloth, scrim: its code (transport/cloth.h); skin: skinCode().
  PackedDirection special;
  PackedDirection lens = kNoLens;  ///< seen through glasses: normal of what mirrors there
  PackedColour albedo;
  static constexpr PackedDirection kNoLens{-32768, -32768};
  bool throughLens() const { return lens.x != kNoLens.x; }
};

/// Of skin: how oily, 0..255, and how thick [m] where light comes through, else 0.
inline std::uint32_t skinCode(std::uint32_t oil, float thickness) {
  return std::min(oil, 255u) | std::uint32_t(thickness / FineSkin::kThick * 255) << 8;
}
inline float oilOf(std::uint32_t skinCode) { return float(skinCode & 255) / 255; }
inline float thicknessOf(std::uint32_t skinCode) { return float(skinCode >> 8 & 255) * (FineSkin::kThick / 255); }

/// Where one cosine-distributed ray from there ends.
struct BounceSample {
  Vec3 position;
  PackedDirection normal;
  PackedColour albedo;     ///< surface Nothing: it leaves the studio
  std::int16_t side = -1;  ///< of Scene::sides()
};

/// Sample `k` of a pixel, from 0 on without end.
struct PixelPass {
  int x = 0, y = 0, k = 0;
};

constexpr int kSampleSets = 8;

class SampleSets {
 public:
  /// Another `seed` gives other sub-pixel places and bounces: for measuring errors against an independent picture.
  SampleSets(std::shared_ptr<const Scene> scene, const View& view, std::uint32_t seed = 0);
  /// What `before` knew is kept where nothing was moved: the same result in a fraction of the time. Of another view or
  /// another room nothing is.
  SampleSets(std::shared_ptr<const Scene> scene, const View& view, std::uint32_t seed, SampleSets before);

  /// Builds set `k` as far as the interrupt lets it; a later call goes on. True when it is complete.
  bool build(int k, const Interrupt& interrupt);
  int complete() const { return complete_; }  ///< sets 0..complete-1 are there
  /// Once all sets are complete: what the outlines show, as far as the interrupt lets it. True when all of it is known.
  bool buildOutlines(const Interrupt& interrupt);
  const std::vector<PixelSample>& set(int k) const { return sets_[size_t(k)]; }
  /// From the pixels that half resolution takes, in its order.
  const std::vector<BounceSample>& bounces(int k) const { return bounces_[size_t(k)]; }
  /// The pixel that one of half resolution stands on: every second, up and down in turn.
  size_t pixelOfHalf(int x, int y) const {
    return size_t(std::min(2 * y + (x & 1), view_.height - 1)) * size_t(view_.width) +
           size_t(std::min(2 * x, view_.width - 1));
  }
  const View& view() const { return view_; }
  /// Whether any of it stands from before something was moved.
  bool goesOn() const { return known_ > 0; }
  const Scene& scene() const { return *scene_; }
  std::shared_ptr<const Scene> sceneShared() const { return scene_; }

  /// Whether eight places do not stand for the whole pixel: hair, an outline, relief seen at a grazing angle. Known
  /// once all sets are complete.
  bool rough(size_t pixel) const { return !rough_.empty() && rough_[pixel]; }
  /// Whether it is rough because surfaces share it, or a backdrop that something may stray over. Known as rough() is.
  bool outline(size_t pixel) const {
    return rough(pixel) &&
           (guides_[0].otherShare[pixel] > 0 || guides_[0].surface[pixel] > std::int32_t(Surface::Cloth));
  }
  /// A pixel of an outline: what stands in front (hair, else the sitter), by how much of the pixel it takes, and what
  /// is behind. Eight places hardly know a stray strand.
  struct Halves {
    float share = 0;  ///< of the front
    std::span<const PixelSample> front, behind;
  };
  /// Nothing for pixels that are no outline, and before buildOutlines().
  std::optional<Halves> halves(size_t pixel) const;
  /// Traced now, at most kRun: the bounces of pixels of half resolution, from their samples of set k % kSampleSets.
  void bounce(std::span<const PixelPass> from, BounceSample* out) const;
  /// Traced now, at most kRun: what samples of pixels hit; `wanted` says of each whether `wants` did so of the bare
  /// point, or nothing was hit.
  void fresh(std::span<const PixelPass> of, const std::function<bool(const SurfacePoint&)>& wants, PixelSample* out,
             std::uint8_t* wanted) const;

  /// What the pixels mostly show, from set 0 alone until all sets are complete; `reduce` 2: of every second, up and
  /// down in turn, as the half-resolution pictures take them.
  const Guides& guides(int reduce) const { return guides_[reduce > 1]; }

  /// Mean albedo over the first n sets, n = 1, 2, 4 or 8 (largest such n <= `passes`), linear.
  Vec3 meanAlbedo(int passes, size_t pixel) const;
  /// One channel of it, square-root coded in 16 bits.
  const std::uint16_t* meanAlbedoPlane(int passes, size_t channel) const;

 private:
  void buildTile(int k, int tileX, int tileY);
  struct Patch {
    float left, top, right, bottom;  ///< pixels
  };
  Patch patchOf(const Box& box) const;
  bool moved(const PixelPass& of) const;
  bool moved(const PixelSample& from, const BounceSample& to) const;
  void lookAtOutline(size_t which);
  void finishMean(int k);
  void guideByFirst();
  void finishGuides();
  int meanSlot(int passes) const;
  void survey();
  std::uint32_t keyOf(size_t pixel) const;
  Rays cameraRays(std::span<const PixelPass> of) const;

  std::shared_ptr<const Scene> scene_;
  View view_;
  std::uint32_t seed_;
  std::vector<PixelSample> sets_[kSampleSets];
  std::vector<BounceSample> bounces_[kSampleSets];
  std::vector<std::uint8_t> tileDone_, rough_;
  struct Outline {
    float share = 0;
    std::uint8_t front = 0;  ///< so many of its samples come first
  };
  std::vector<size_t> outlinePixels_;
  std::vector<Outline> outlines_;            ///< of those
  std::vector<PixelSample> outlineSamples_;  ///< kOutlineSamples each
  std::vector<std::int32_t> outlineAt_;      ///< by pixel; -1: none
  size_t outlinesDone_ = 0;
  Guides guides_[2];
  std::vector<std::uint16_t> mean_[4];  ///< three planes, square-root coded
  int complete_ = 0;
  int known_ = 0;               ///< sets that stand from before, but for what was moved
  std::vector<Box> moved_;      ///< that
  std::vector<Patch> patches_;  ///< of the picture, where those boxes are
};

}  // namespace easel
