// Points of a picture lit by a lamp, many at once: the arithmetic of their surfaces.
//
// Diffuse light as irradiance, apart from the albedo; sheen of skin and cloth. Hair, lashes and eyes have models
// of their own and are worked out one by one, in the layer. Planes as in runs.h. One thread each.
#pragma once

#include <cstdint>

#include "picture/samples.h"
#include "transport/cloth.h"
#include "transport/microfacet.h"
#include "transport/runs.h"

namespace easel {

/// Fresnel's reflection after Schlick (1994).
inline float schlick(float f0, float cosine) {
  const float m = 1 - (cosine > 0 ? (cosine < 1 ? cosine : 1.f) : 0.f), m2 = m * m;
  return f0 + (1 - f0) * m2 * m2 * m;
}
/// Two lobes of skin's sheen, a broad one and the oily one on top, by its share (transport/skin.h): F0 0.028
/// (index 1.4). Cosines as in microfacet.h.
constexpr float kBroad = 0.32f, kOily = 0.11f;
inline float skinSheen(float nl, float nv, float nh, float vh, float oil) {
  return schlick(0.028f, vh) * ((1 - oil) * microfacet(nl, nv, nh, kBroad) + oil * microfacet(nl, nv, nh, kOily));
}
/// Of cloth that mirrors that share straight ahead, and of its fibres (transport/cloth.h).
inline float clothSheen(float nl, float nv, float nh, float vh, float share, float roughness, float fuzz) {
  const float fibres = 2 / kPiF * (1 - nh * nh) / (4 * (nl + nv - nl * nv));  // of width one half
  return 0.5f * schlick(2 * share, vh) * microfacet(nl, nv, nh, roughness) + fuzz * fibres;
}
/// Least cosine to the eye that sheen is computed with.
constexpr float kLeastToEye = 0.05f;

/// Directions as they are kept with the samples, in planes.
struct PackedRun {
  alignas(64) Plane x, y;
  void set(size_t k, PackedDirection d) {
    x[k] = d.x;
    y[k] = d.y;
  }
};

struct LitPoints {
  int n = 0;
  std::array<const PixelSample*, kRun> sample;
  RunOf32 pixelKey, seed, pass;
  std::array<std::int32_t, kRun> surface;
  alignas(64) Plane share, roughness, fuzz;  ///< of cloth; `share` of skin: of its oily lobe
  alignas(64) Plane before, behind;          ///< of a scrim
  PackedRun packedNormal, packedFacet;
  Run3 position, normal, facet, toEye;

  /// Appends a point; `sample` must stay where it is. There must be room.
  void add(const PixelSample& sample, std::uint32_t pixelKey, std::uint32_t seed, std::uint32_t pass);
  bool full() const { return n == kRun; }

  /// Normals and the way to the eye, once all points are in.
  void unpack(Vec3 eye);
};

/// Points whose indirect light is sampled: from `here` a cosine-distributed ray has ended `there`.
struct BounceRun {
  int n = 0;
  std::array<const PixelSample*, kRun> from;
  std::array<const BounceSample*, kRun> to;
  std::array<size_t, kRun> place;  ///< where the sums go
  RunOf32 seed, pass;
  PackedRun packedHere, packedThere;
  Run3 here, hereNormal, there, thereNormal;

  /// Both must stay where they are. There must be room.
  void add(const PixelSample& from, const BounceSample& to, size_t place, std::uint32_t seed, std::uint32_t pass);
  bool full() const { return n == kRun; }
  void unpack();
};
/// Weight of the way from here, by the cosine, to a place that rays of the lamp reach with the pdf `lamps`; one
/// sample of each way.
void fromHere(const BounceRun& points, const Plane& lamps, Plane& weight);

/// Cosines to the light: of the normal and of the facet.
void cosinesTo(const LitPoints& points, const Run3& direction, Plane& normal, Plane& facet);

/// What surfaces make of `lux` (illuminance across its direction) at the cosine `nl`: irradiance, and sheen of skin and
/// cloth. Of skin's sheen only the share that sampling the lamp has beside sampling the mirror directions, when the
/// lamp is sampled there with the pdf `sampled` per solid angle.
void receiveRun(const LitPoints& points, const Run3& direction, const Plane& nl, const Plane& lux, const Plane& sampled,
                Plane& irradiance, Plane& sheen);

/// Directions in which skin mirrors, spread as its lobes are, for all light that receiveRun() counts: the smooth normal
/// alone decides which that is; `oily` says by which of the two. `weight` is the sheen
/// per unit of luminance there, times the pdf of the choice, and `pdf` that pdf per solid angle;
/// weight 0: no skin, or no direction that counts.
void mirroredRun(const LitPoints& points, const Run2& u, const std::array<std::uint8_t, kRun>& oily, Run3& direction,
                 Plane& weight, Plane& pdf);

}  // namespace easel
