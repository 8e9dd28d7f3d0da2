// The face as the sitter's mesh has it: features measured on it, and a chart on which light is read.
//
// Features are in the sitter's own space (metres, head unturned; sitters/sitter.h), found by rays from in front, so
// they follow the shape of each head. The chart is an even grid seen from in front of the face; it goes with the head's
// turn, tilt and nod, so a light's place on it is what the face sees, whatever the camera does.
#pragma once

#include <memory>
#include <vector>

#include "transport/scene.h"
#include "transport/source.h"

namespace easel {

struct FaceFeatures {
  Vec3 noseTip, noseBase;          ///< tip; where the nose meets the upper lip
  float noseLength = 0.05f;        ///< between the eyes to noseBase
  float noseHalfWidth = 0.018f;    ///< middle to the wing
  float eyeWidth = 0.028f;         ///< between the lids' corners, mean of both
  float eyeLine = 0, lidLine = 0;  ///< height of the eyes; under the lower lids
  float mouthLine = 0, chinLine = 0, browLine = 0;
  float halfWidth = 0.065f;  ///< middle to where the cheek turns away, at the nose's height
};
FaceFeatures measureFace(const Scene& scene);

struct FaceCell {
  Vec3 position;  ///< studio, a little off the skin
  Vec3 normal;    ///< shading normal
  Surface surface = Surface::Nothing;
};

struct FaceChart {
  FaceFeatures features;
  int width = 0, height = 0;
  float step = 0, left = 0, top = 0;  ///< local x of the first column's middle, y of the first row's
  std::vector<FaceCell> cells;        ///< rows from the top; x grows towards the sitter's left
  std::vector<std::uint32_t> skins;   ///< which of them are skin

  size_t index(int i, int j) const { return size_t(j) * size_t(width) + size_t(i); }
  float x(int i) const { return left + step * float(i); }
  float y(int j) const { return top - step * float(j); }
  bool skin(size_t k) const { return cells[k].surface == Surface::Skin; }
  double bytes() const {
    return double(cells.capacity()) * sizeof(FaceCell) + double(skins.capacity()) * sizeof(std::uint32_t);
  }
};
/// Forehead to under the chin, ear to ear. `step` in metres. Some ten milliseconds the first time for a scene.
std::shared_ptr<const FaceChart> chartFace(const Scene& scene, float step = 0.0025f);

/// One light on the chart, per lumen (second) of its head: lux (seconds) on the skin.
struct LightOnFace {
  std::vector<float> arrives;  ///< with what stands between
  std::vector<float> open;     ///< without the sitter in the way; panels stay
  float reference = 0;         ///< 90th percentile of `arrives` over skin: "fully lit"
};
/// Direct light, and what panels send on. Some 1 us a cell and light with 16 samples.
LightOnFace lightOnFace(const Scene& scene, const FaceChart& chart, const Source& source, int samples = 16);

/// Place of a light as the face sees it, degrees: azimuth 0 straight in front of the nose, > 0 towards the sitter's
/// left, +-180 behind; elevation above the face.
struct FaceDirection {
  double azimuth = 0, elevation = 0;
};
FaceDirection directionFromFace(const PlacedSet& set, const Scene& scene, Vec3 point);

}  // namespace easel
