// The studio: keeps scene, samples and layers of one plan, does again only what an edit has made untrue, and gets
// better in small steps. One thread at a time; what it gives out is immutable and may be read by any.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "picture/layers.h"
#include "picture/samples.h"
#include "placed/gear_bodies.h"
#include "placed/placed_set.h"
#include "plan/plan.h"

namespace easel {

/// A plan's picture from nothing, with so many passes; empty when it is not `wanted` any more. Throws as
/// ProgressiveRender::improve().
Picture renderPicture(const Plan& plan, int width, int height, int passes, const std::function<bool()>& wanted = {});
class ProgressiveRender {
 public:
  ProgressiveRender(int width, int height) : width_(width), height_(height) {}

  /// Bytes that a picture of that size takes while it is made, about: measured at 640x800 and 1280x1600 with one and
  /// four lights and all eight sets of samples (606 and 744 bytes a pixel).
  static double bytesWanted(int width, int height, size_t lights) {
    return double(width) * height * (560.0 + 46.0 * double(lights)) + 1e8;
  }

  void setSize(int width, int height);
  /// The picture is a part of a larger one, with its left upper corner there; all in pixels.
  void setPart(int left, int top, int wholeWidth, int wholeHeight);
  /// Takes the plan; drops only what it changes. Never throws; what is wrong comes out of improve().
  void setPlan(const Plan& plan);

  enum class Progress { Nothing, Interrupted, Improved, Done };
  /// The next piece of work, most useful first. Throws std::runtime_error with a sentence when the sitter is missing or
  /// the plan cannot be computed (checkPlan errors).
  Progress improve(const Interrupt& interrupt, int enough = 64);

  /// No previews and nothing published before the last pass: for who wants the end only, two thirds of the time.
  void setOnlyLast(bool only) { onlyLast_ = only; }

  /// Everything up to `passes` passes on every layer. False as soon as it is not `wanted` any more, which is asked
  /// between two steps of some milliseconds.
  bool finish(int passes, const std::function<bool()>& wanted = {});

  const Layers& layers() const { return layers_; }
  /// The present plan as it stands; null before the first.
  const std::shared_ptr<const PlacedSet>& set() const { return set_; }
  /// Scene of the present plan, building it if need be. Throws as improve().
  std::shared_ptr<const Scene> scene();
  /// Throws what improve() would say of a plan that cannot be computed.
  void refuseImpossible() const;
  /// What the picture will be a view of.
  View view() const;
  /// Whether scene() is there already.
  bool sceneStands() const { return scene_ != nullptr; }
  /// Plain means without smoothing, for measuring errors.
  void setSmooth(bool smooth) { smooth_ = smooth; }
  /// Other samples throughout: independent pictures whose mean is a reference. Before the first improve().
  void setSeed(std::uint32_t seed) { seed_ = seed; }

 private:
  struct Kept {
    PlacedLight light;  ///< what it was traced with, as a value
    std::unique_ptr<Layer> layer;
    int published = -1;  ///< passes in the published picture; -1 none, 0 preview
  };
  void publish(Kept& kept, const std::string& id);

  int width_, height_;
  struct Part {
    int left = 0, top = 0, wholeWidth = 0, wholeHeight = 0;
  } part_;
  bool smooth_ = true, onlyLast_ = false;
  std::uint32_t seed_ = 0;
  Plan plan_;
  std::shared_ptr<const PlacedSet> set_;  ///< of plan_; null before the first
  std::vector<Solid> gear_;               ///< of set_, that matters to the picture
  std::shared_ptr<const Sitter> sitter_;
  std::shared_ptr<const Scene> scene_;
  std::unique_ptr<SampleSets> sets_;
  std::unique_ptr<SampleSets> before_;  ///< of the scene before something was moved: most of it still holds
  std::map<std::string, Kept> kept_;
  Kept ambient_;
  Layers layers_;
};

}  // namespace easel
