// The layers of a set and the pictures that are developed from them, without tracing anything again: power, colour,
// exposure and what is switched on are weights. Values; any thread.
#pragma once

#include <cstdint>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "meter/answers.h"
#include "picture/layer.h"
#include "placed/placed_set.h"
#include "transport/view.h"

namespace easel {

/// The layers of a plan as far as they have come, with all that is needed to develop pictures from them.
struct Layers {
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

/// Develops at full size, or every `reduce`-th pixel, the light averaged (1, 2, 4...). `set` gives power, on/off,
/// exposure, white balance: it may be newer than the layers. Solo shows a light even when it is off.
Picture developPicture(const Layers& layers, const PlacedSet& set, const Show& show = {}, int reduce = 1);
/// Linear planes before the tone curve.
void linearPicture(const Layers& layers, const PlacedSet& set, const Show& show, std::vector<float> planes[3]);

/// What shows at a place of the picture, in pixels of the layers; empty when nothing does.
std::optional<SurfacePoint> surfaceAt(const Layers& layers, double px, double py);
/// The same as Scene::intersect() tells it with Colours::None.
std::optional<SurfacePoint> bareAt(const Scene& scene, const View& view, double px, double py);
/// Where a point of the studio shows in the picture, in pixels; empty when it is behind the camera or out of frame.
std::optional<Vec2> pixelOf(const View& view, Vec3 point);
inline std::optional<Vec2> pixelOf(const Layers& layers, Vec3 point) { return pixelOf(layers.view, point); }

/// The meter under the pointer: reads the surface that shows at a place of the picture (in pixels of the layers).
/// Surface Nothing when there is none. A fraction of a millisecond a light.
SpotReading readPixel(const Layers& layers, const PlacedSet& set, double px, double py);

}  // namespace easel
