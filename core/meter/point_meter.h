// The meter at a point: luminous exposure on a receptor, with occlusion, panels and all that the room sends back.
//
// Per unit of light from the head (1 lm s -> lx s, or 1 lm -> lx). Owen-scrambled Sobol points over the emitter's area;
// against the closed forms (element to disc, element to rectangle) the estimate agrees far below the meter's 0.1 stop.
#pragma once

#include <array>

#include "exposure/meter.h"
#include "transport/scene.h"
#include "transport/source.h"

namespace easel {

/// Where the meter is held at a face: four centimetres before the nose, and which way the face looks.
struct MeterPlace {
  Vec3 at, out;
};
MeterPlace beforeTheNose(const Scene& scene);
/// Where a background light is metered: on the backdrop, just under the height of the eyes, behind the head.
Vec3 onTheBackdrop(const PlacedSet& set);
/// Where the camera sees cloth: at the same height, past both sides of the head. There the tone of the backdrop is
/// read.
std::array<Vec3, 2> besideTheHead(const PlacedSet& set);

/// Even light from all sides through a receptor: a flat one has it from half the sphere with the cosine, a dome from
/// all of it with the cardioid, which is twice as much.
constexpr double evenly(Receptor receptor, double lux) { return receptor == Receptor::Dome ? 2 * lux : lux; }

/// Direct light of one emitter at `point`, receptor facing `normal` (unit). `scene` null: nothing in between.
/// `samples` 64 gives about 0.01 stop on open points. Result >= 0.
double directLux(const Scene* scene, const Emitter& emitter, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                 std::uint32_t seed = 1);

/// Light of the same source that panels pass on to the point, all of them or one of the plan (`only` >= 0).
double panelLux(const Scene& scene, const Source& source, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                int only = -1, std::uint32_t seed = 1);

/// Light of the same source that arrives by one or more diffuse reflections from the surfaces of the scene. With what
/// the room makes of it (Source::in) all orders count and lamps close to a surface are sampled from their side too;
/// without, the first reflection alone.
double bouncedLux(const Scene& scene, const Source& source, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                  std::uint32_t seed = 1);

/// Where light can come from by one reflection: the same for every source, so several share them.
struct BouncePoint {
  Vec3 from, normal;
  Vec3 passed;    ///< share of the illuminance there that arrives at the receptor, linear RGB
  float pdf = 0;  ///< of this way to find the point, per square metre, all samples together
  int side = -1;  ///< of Scene::sides()
  bool panel = false;
  std::uint32_t index = 0;
};
/// ... of one hold of the meter.
struct BouncePoints {
  Vec3 at, normal;
  Receptor receptor = Receptor::Flat;
  int samples = 0;
  std::vector<BouncePoint> points;
};
BouncePoints bouncePoints(const Scene& scene, Vec3 point, Vec3 normal, Receptor receptor, int samples,
                          std::uint32_t seed = 1);
/// Which of the rays that a lamp has sent through the room are counted: every `of`-th from `part`. Several readings
/// with a part each are independent of one another and cost what one costs.
struct LampShare {
  int part = 0, of = 1;
};
double bouncedLux(const Scene& scene, const Source& source, const BouncePoints& points, std::uint32_t seed = 1,
                  LampShare share = {});

/// Illuminance at a hold for one lumen of the bare head, by how the light comes.
struct LightPaths {
  double direct = 0;   ///< straight from the front, less what stands between and what haze takes
  double boards = 0;   ///< passed on by boards, scrims and shades
  double bounced = 0;  ///< by one or more reflections from sitter, backdrop and room
  double total() const { return direct + boards + bounced; }
};
LightPaths meteredPaths(const Scene& scene, const Source& source, const BouncePoints& hold, int direct,
                        std::uint32_t seed = 1, LampShare share = {});
/// All three: what a meter reads of this light. With the bounce points of the hold, where several lights are read in
/// it.
double meteredLux(const Scene& scene, const Source& source, const BouncePoints& hold, int direct,
                  std::uint32_t seed = 1, LampShare share = {});
double meteredLux(const Scene& scene, const Source& source, Vec3 point, Vec3 normal, Receptor receptor, int direct,
                  int bounced, std::uint32_t seed = 1);

}  // namespace easel
