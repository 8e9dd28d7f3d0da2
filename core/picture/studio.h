// The studio: keeps scene, samples and layers of one plan, does again only what an edit has made untrue, and gets
// better in small steps. One thread at a time; what it gives out is immutable and may be read by any.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "gear/gobo.h"
#include "gear/kit.h"
#include "meter/answers.h"
#include "picture/layer.h"
#include "picture/samples.h"
#include "plan/plan.h"

namespace easel {

/// The layers of a plan as far as they have come, with all that is needed to develop pictures from them.
struct Layers {
  Plan plan;
  int width = 0, height = 0;
  View view;
  std::shared_ptr<const Scene> scene;
  std::map<std::string, std::shared_ptr<const LayerPicture>> lights;  ///< by letter; missing until first traced
  std::shared_ptr<const LayerPicture> ambient;
  int passes = 0;        ///< of the layer that has the fewest; 0 while only previews stand
  bool usable = false;   ///< every light has at least a preview, perhaps of where it stood before
  bool current = false;  ///< ... and all of them show the plan as it is
};

/// Which lights a picture shows.
struct Show {
  enum class What { All, Solo, Ambient, UpTo } what = What::All;
  std::string light;     ///< Solo: this one. UpTo: all lights before it in the plan's order, and it
  bool curtains = true;  ///< a shutter over sync hides what it hides
};

/// What the light does, wherever the shutter may stand: a dark band is a fault of its own and of nothing else.
inline const Show kWholeFrame{Show::What::All, {}, false};

struct Picture {
  int width = 0, height = 0;
  std::vector<std::uint8_t> rgba;
};

/// Develops at full size, or every `reduce`-th pixel, the light averaged (1, 2, 4...). `plan` gives power, on/off,
/// exposure, white balance: it may be newer than the layers' own. Solo shows a light even when it is off.
Picture developPicture(const Layers& layers, const Plan& plan, const Show& show = {}, int reduce = 1);
/// A plan's picture from nothing, with so many passes; empty when it is not `wanted` any more. Throws as
/// Studio::step().
Picture renderPicture(const Plan& plan, int width, int height, int passes, const std::function<bool()>& wanted = {});
/// Linear planes before the tone curve.
void linearPicture(const Layers& layers, const Plan& plan, const Show& show, std::vector<float> planes[3]);

/// What shows at a place of the picture, in pixels of the layers; empty when nothing does.
std::optional<SurfacePoint> surfaceAt(const Layers& layers, double px, double py);
/// The same as Scene::meet() tells it with Colours::None.
std::optional<SurfacePoint> bareAt(const Scene& scene, const View& view, double px, double py);
/// Where a point of the studio shows in the picture, in pixels; empty when it is behind the camera or out of frame.
std::optional<Vec2> pixelOf(const View& view, Vec3 point);
inline std::optional<Vec2> pixelOf(const Layers& layers, Vec3 point) { return pixelOf(layers.view, point); }

/// The meter under the pointer: reads the surface that shows at a place of the picture (in pixels of the layers).
/// Surface Nothing when there is none. A fraction of a millisecond a light.
SpotReading readPixel(const Layers& layers, const Plan& plan, double px, double py);

class Studio {
 public:
  Studio(int width, int height) : width_(width), height_(height) {}

  /// Bytes that a picture of that size takes while it is made, about: measured at 640x800 and 1280x1600 with one and
  /// four lights and all eight sets of samples (606 and 744 bytes a pixel).
  static double bytesWanted(int width, int height, size_t lights) {
    return double(width) * height * (560.0 + 46.0 * double(lights)) + 1e8;
  }

  void setSize(int width, int height);
  /// The picture is a part of a larger one, with its left upper corner there; all in pixels.
  void setPart(int left, int top, int wholeWidth, int wholeHeight);
  /// Takes the plan; drops only what it changes. Never throws; what is wrong comes out of step().
  void setPlan(const Plan& plan);

  enum class Progress { Nothing, Interrupted, Improved, Done };
  /// The next piece of work, most useful first. Throws std::runtime_error with a sentence when the sitter is missing or
  /// the plan cannot be computed (checkPlan errors).
  Progress step(const Interrupt& interrupt, int enough = 64);

  /// No previews and nothing published before the last pass: for who wants the end only, two thirds of the time.
  void setOnlyLast(bool only) { onlyLast_ = only; }

  /// Everything up to `passes` passes on every layer. False as soon as it is not `wanted` any more, which is asked
  /// between two steps of some milliseconds.
  bool finish(int passes, const std::function<bool()>& wanted = {});

  const Layers& layers() const { return layers_; }
  /// Scene of the present plan, building it if need be. Throws as step().
  std::shared_ptr<const Scene> scene();
  /// Throws what step() would say of a plan that cannot be computed.
  void refuseImpossible() const;
  /// What the picture will be a view of.
  View view() const;
  /// Whether scene() is there already.
  bool sceneStands() const { return scene_ != nullptr; }
  /// Plain means without smoothing, for measuring errors.
  void setSmooth(bool smooth) { smooth_ = smooth; }
  /// Other samples throughout: independent pictures whose mean is a reference. Before the first step().
  void setSeed(std::uint32_t seed) { seed_ = seed; }

 private:
  struct Kept {
    Light light;
    Modifier front;                       ///< what it was traced with, as values
    std::shared_ptr<const Gobo> pattern;  ///< projected
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
  bool havePlan_ = false;
  std::shared_ptr<const Sitter> sitter_;
  std::shared_ptr<const Scene> scene_;
  std::vector<std::shared_ptr<const void>> cutOuts_;  ///< of the panels in scene_
  std::unique_ptr<SampleSets> sets_;
  std::unique_ptr<SampleSets> before_;  ///< of the scene before something was moved: most of it still holds
  std::map<std::string, Kept> kept_;
  Kept ambient_;
  Layers layers_;
};

}  // namespace easel
