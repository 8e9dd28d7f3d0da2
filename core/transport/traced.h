// Triangles and strands in the ray library, and its queries.
//
// For the files of transport/ only: others use a Scene.
#pragma once

#include <embree3/rtcore.h>

#include <memory>
#include <vector>

#include "gear/gobo.h"
#include "sitters/sitter.h"
#include "sitters/strands.h"

namespace easel {

struct Geometry {
  const MeshPart* part = nullptr;  // sitter's arrays (uv, triangles); null for the studio's quads
  const Texture* texture = nullptr;
  Surface surface = Surface::Nothing;
  const Texture* relief = nullptr;                   // cloth: map of normals
  const float *wet = nullptr, *thickness = nullptr;  // skin of the head, by vertex (sitters/fine_skin.h)
  std::uint32_t cloth = 0;                           // transport/cloth.h
  float weave = 0;                                   // how much its threads differ
  Vec3 albedo{0.5f, 0.5f, 0.5f};
  float mottle = 0;
  Vec3 backAlbedo{0.5f, 0.5f, 0.5f};         // panels: of the side that faces away from `normal`
  std::uint32_t scrim = 0, behindScrim = 0;  // of both sides: transport/cloth.h, ScrimCode
  std::shared_ptr<const Gobo> pattern;       // cut out of the quad
  std::shared_ptr<const Gobo> painted;       // on its front, in the back colour
  float grain = 0;                           // of wood, along `grainAlong`
  Vec3 grainAlong{1, 0, 0};
  std::vector<Vec3> position, normal;
  std::vector<std::uint32_t> triangles;  // studio only
  Strands strands;                       // instead of triangles: hair
  float passes = 0;                      // strands: transmittance of one
  int side = -1, behind = -1;            // of Scene::sides(), the way `normal` looks and the other; -1: the sitter's
};

/// A quad of that corner; `normal` looks along across x up.
std::unique_ptr<Geometry> quadOf(Surface surface, Vec3 albedo, float mottle, Vec3 corner, Vec3 across, Vec3 up);

struct Texel {
  Vec3 colour;  // linear, straight
  float alpha;
};
/// Bilinear on premultiplied values, so that transparent texels do not bleed their colour into the edge.
Texel texelAt(const Texture& texture, Vec2 uv);
/// A direction that is coded in colours, 0..1 for -1..1.
Vec3 coded(const Texture& texture, Vec2 uv);
Vec2 uvAt(const MeshPart& part, std::uint32_t triangle, float u, float v);
/// The place there on the body as baked, unposed.
Vec3 restAt(const MeshPart& part, std::uint32_t triangle, float u, float v);

/// `seed` decides about half-transparent cards and travels with the ray, so that a ray gives the same answer in any
/// batch.
inline RTCRay rayOf(Vec3 origin, Vec3 direction, float near, float far, std::uint32_t seed) {
  RTCRay r;
  r.org_x = origin.x;
  r.org_y = origin.y;
  r.org_z = origin.z;
  r.tnear = near;
  r.dir_x = direction.x;
  r.dir_y = direction.y;
  r.dir_z = direction.z;
  r.time = 0;
  r.tfar = far;
  r.mask = ~0u;
  r.id = seed;
  r.flags = 0;
  return r;
}

/// How a ray query is answered.
struct RayQuery {
  bool thresholds = false;  ///< seeds are thresholds for cards, in 2^-32, spread evenly over the rays of a pixel
  bool corneas = false;     ///< they are hit
  bool together = false;    ///< many rays that begin at one place and go much the same way
};

/// What a ray hit: nothing without a geometry.
struct Hit {
  RTCRayHit ray;
  const Geometry* geometry = nullptr;
  float distance() const { return ray.ray.tfar; }
};

class Traced {
 public:
  Traced();
  ~Traced();
  Traced(const Traced&) = delete;
  Traced& operator=(const Traced&) = delete;

  Geometry& attach(std::unique_ptr<Geometry> geometry);
  /// After the last geometry. Throws std::runtime_error with a sentence if the library refuses.
  void commit();

  /// Nearer than what `hit` holds already.
  void intersect(Hit& hit, const RayQuery& how) const;
  void intersect(Hit* hits, int n, const RayQuery& how) const;
  bool occluded(RTCRay ray) const;
  /// At most kRun; `transmittance` of each is multiplied with what passes.
  void occluded(RTCRay* rays, int n, float* transmittance) const;

  /// About: its arrays, and what the ray library's trees take, which does not tell.
  double bytes() const;

 private:
  RTCScene scene_;
  std::vector<std::unique_ptr<Geometry>> geometries_;
};

}  // namespace easel
