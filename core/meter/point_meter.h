// The meter at a point: luminous exposure on a receptor, with occlusion, and one bounce from the room.
//
// Per unit of light from the head (1 lm s -> lx s, or 1 lm -> lx). Owen-scrambled Sobol points over the emitter's area;
// against the closed forms (element to disc, element to rectangle) the estimate agrees far below the meter's 0.1 stop.
#pragma once

#include "exposure/meter.h"
#include "transport/scene.h"
#include "transport/source.h"

namespace easel {

/// Where the meter is held at a face: four centimetres before the nose, and which way the face looks.
struct MeterPlace {
  Vec3 at, out;
};
MeterPlace beforeTheNose(const Scene& scene);
/// On the backdrop, just under the height of the eyes, behind the head.
Vec3 onTheBackdrop(const Plan& plan);

/// Direct light of one emitter at `point`, receptor facing `normal` (unit). `scene` null: nothing in between.
/// `samples` 64 gives about 0.01 stop on open points. Result >= 0.
double directLux(const Scene* scene, const Emitter& emitter, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                 std::uint32_t seed = 1);

/// Light of the same source that panels pass on to the point, all of them or one of the plan (`only` >= 0).
double panelLux(const Scene& scene, const Source& source, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                int only = -1, std::uint32_t seed = 1);

/// Light of the same source that arrives by one diffuse reflection from the surfaces of the scene other than panels.
double bouncedLux(const Scene& scene, const Source& source, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                  std::uint32_t seed = 1);

/// Where light can come from by one reflection: the same for every source, so several share them.
struct BouncePoint {
  Vec3 from, normal;
  float passed = 0;  ///< share of the illuminance there that arrives at the receptor
  std::uint32_t index = 0;
};
std::vector<BouncePoint> bouncePoints(const Scene& scene, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                                      std::uint32_t seed = 1);
double bouncedLux(const Scene& scene, const Source& source, const std::vector<BouncePoint>& points,
                  std::uint32_t seed = 1);

/// All three: what a meter reads of this light.
double meteredLux(const Scene& scene, const Source& source, Vec3 point, Vec3 normal, Receptor receptor, int direct,
                  int bounced, std::uint32_t seed = 1);

}  // namespace easel
