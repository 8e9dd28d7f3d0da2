// A light of the plan with all that passes its light on: the emitter itself, and the panels it feeds.
//
// A panel is a secondary emitter of the light that falls on it: diffusely, along the mirror direction (Trowbridge-Reitz
// lobe), or through cloth to its other side. Points are sampled on the panels explicitly, chosen in proportion to the
// flux that each can pass on, so a board fills a face with as little noise as a lamp does. Light goes over one panel;
// with one scrim over one more (through it, then off a board), with two and three over four and seven. A panel before
// the last is found in two ways, by its area and by a direction, weighted by their densities (balance heuristic: E.
// Veach, L. Guibas, "Optimally combining sampling techniques", 1995): scrims may hang a hand's breadth from one
// another. Units as for the emitter: lux per lumen.
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "plan/leaf.h"
#include "transport/emitter.h"
#include "transport/interreflection.h"
#include "transport/scene.h"

namespace easel {

class Source {
 public:
  /// Of leaves those that give their light by name.
  Source(Emitter emitter, std::vector<Leaf> leaves);

  const Emitter& emitter() const { return emitter_; }
  /// Whether any panel passes on some of its light.
  bool feedsPanels() const { return total_ > 0; }

  /// Whether light is followed to and fro between scrims: it takes more samples than a board.
  bool betweenScrims() const { return before_ > 1; }

  /// The same with what the room makes of its light after the first surface.
  Source in(const Scene& scene) const;
  /// Null unless in() has put it there.
  const IndirectLight* indirect() const { return indirect_.get(); }

  /// Light that a point of a panel sends to a receiver.
  struct FromPanel {
    Vec3 direction;  ///< unit, from the receiver
    float distance = 0;
    Vec3 lux;  ///< times cos at the receiver: lux per lumen, divided by the pdf of the choice. Linear RGB; 0: none
    int panel = -1;
    float pdf = 0;  ///< of the choice, per solid angle
    Vec3 at;        ///< the point, lifted off the panel: rays from beside the receiver end there
  };
  /// Light that comes to a point of a panel: from the lamp, and from another panel (of cut-outs, several in a row).
  struct Arriving {
    struct {
      Vec3 direction, lux;  ///< unit; on the leaf, per lumen
    } from[4];
    int n = 0;
  };
  struct PanelPoint {
    const Leaf* leaf = nullptr;  ///< null: none
    Vec3 position;
    Vec2 place;
    Arriving arriving;
    float weight = 0;  ///< area over the pdf of the choice
  };
  /// Point `index` of the sequence `seed`; visibility between receiver and panel is left to the caller, that
  /// beyond the panel is in. `only` >= 0: that panel of the plan alone. `scene` null: nothing stands between.
  FromPanel sample(const Scene* scene, Vec3 receiver, std::uint32_t index, std::uint32_t seed, int only = -1) const;
  /// The two halves of sample(): a point of a panel with the light that comes to it, and what that sends to a receiver.
  /// For many receivers with the same index and seed the first is needed only once.
  PanelPoint panelPoint(const Scene* scene, std::uint32_t index, std::uint32_t seed, int only = -1) const;
  static FromPanel seenFrom(const PanelPoint& point, Vec3 receiver);
  /// Points of panels for millions of samples: where a point lies and what comes to it does not depend on
  /// who looks, so some thousand do for all. Empty where no panel is fed, and where one mirrors: of those few would
  /// count for one receiver, and the same for those beside it. Some milliseconds.
  class Points {
   public:
    Points() = default;
    Points(const Source& source, const Scene& scene);
    bool empty() const { return all_.empty(); }
    /// As panelPoint() has it: any run of them with one seed is spread evenly.
    const PanelPoint& at(std::uint32_t index, std::uint32_t seed) const;

   private:
    static constexpr std::uint32_t kBlock = 64, kBlocks = 64;
    std::vector<PanelPoint> all_;
  };
  /// The same of one leaf, taken for certain: what several leaves give is the sum over them.
  FromPanel sampleLeaf(const Scene* scene, Vec3 receiver, size_t leaf, std::uint32_t index, std::uint32_t seed) const;
  const std::vector<Leaf>& leaves() const { return leaves_; }
  /// How much of a number of samples is well spent on it, 0..1; all together 1.
  float shareOf(size_t leaf) const { return total_ > 0 ? weight_[leaf] / total_ : 0; }

  struct SeenPanel {
    int panel;  ///< index into Plan::panels
    float distance;
    Vec3 luminance;  ///< linear RGB, per lumen, by one random point of the emitter: noisy
    float pdf = 0;   ///< that sample() takes this very point with, per solid angle
  };
  /// The panel that a ray meets before `limit`; empty when it meets none or the ray passes.
  std::optional<SeenPanel> seenPanel(const Scene& scene, Vec3 origin, Vec3 direction, float limit, std::uint32_t index,
                                     std::uint32_t seed) const;

 private:
  /// `more`: over so many other panels at most. `sentTo`: the side whose light is wanted, the front or not; empty:
  /// either.
  Arriving arriving(const Scene* scene, size_t leaf, Vec3 point, std::optional<bool> sentTo, std::uint32_t index,
                    std::uint32_t seed, int more) const;
  /// A point of another leaf whose light comes to a point of this one.
  struct Onward {
    size_t leaf = 0;
    Vec2 place;
    Vec3 direction;
    float distance = 0;
    float weight = 0;  ///< cosine here over the pdf of both ways together, per solid angle
  };
  using Onwards = std::array<Onward, 3>;
  int others(size_t leaf, Vec3 point, std::optional<bool> sentTo, std::uint32_t index, std::uint32_t seed,
             Onwards& out) const;
  int othersAlong(size_t leaf, Vec3 point, Vec3 direction, Onwards& out) const;
  /// Density of taking that place of the leaf, once the leaf is chosen, per square metre.
  float densityAt(size_t leaf, Vec2 place) const;
  void lookAround();
  /// Luminance that a place of a leaf sends towards somebody.
  static Vec3 sent(const Leaf& leaf, Vec2 place, const Arriving& arriving, Vec3 towards);
  PanelPoint pointOfLeaf(const Scene* scene, size_t leaf, std::uint32_t index, std::uint32_t seed, float weight) const;
  template <class May>
  int choose(float u, May may, float* probability) const;
  float chanceBeside(size_t leaf, size_t other) const { return weight_[other] / (total_ - weight_[leaf]); }
  /// A leaf is lit unevenly, a scrim close to a lamp most of all: points are taken more often where more falls on it.
  /// Cells of the unit square that pointOn() maps to the leaf: up to and with each, the share of the points.
  static constexpr int kCells = 8;
  using Cells = std::array<float, kCells * kCells>;
  /// Where on the leaf, and how much denser than even that choice is.
  static Vec2 withinCells(const Cells& upTo, Vec2 u, float* pdf);

  Emitter emitter_;
  std::vector<Leaf> leaves_;
  std::vector<float> weight_;
  std::vector<Cells> cells_;
  /// How a point of a leaf looks for the next, by what other leaves send there.
  struct Around {
    float front = 0.5f;                  ///< chance of its front, whichever side is wanted
    std::array<float, 2> same = {};      ///< of the same side, when the light of the back or of the front is wanted
    std::array<float, 2> byDirection{};  ///< by a direction, once the side is chosen: back, front
  };
  std::vector<Around> around_;  ///< by leaf, where light is followed over more than one
  float total_ = 0;
  int before_ = 0;  ///< panels that light is followed over before the last
  std::shared_ptr<const IndirectLight> indirect_;
};

/// Throws as emitterOf().
Source sourceOf(const PlacedSet& set, const PlacedLight& light);
/// In its room; the first time for a light some milliseconds.
inline Source sourceOf(const Scene& scene, const PlacedSet& set, const PlacedLight& light) {
  return sourceOf(set, light).in(scene);
}

}  // namespace easel
