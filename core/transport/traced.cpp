#include "transport/traced.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <stdexcept>

#include "colour/colour.h"
#include "spoken/say.h"
#include "transport/runs.h"
#include "transport/sampling.h"
#include "transport/shared.h"

namespace easel {
namespace {

struct Context {
  RTCIntersectContext embree;
  bool thresholds = false, corneas = false;
  // Of rays that are asked how much passes: their ids are places in these.
  const std::uint32_t* seeds = nullptr;
  float* passed = nullptr;

  std::uint32_t seed(unsigned id) const { return seeds ? seeds[id] : id; }
};

Context contextOf(const RayQuery& how) {
  Context c;
  rtcInitIntersectContext(&c.embree);
  if (how.together) c.embree.flags = RTC_INTERSECT_CONTEXT_FLAG_COHERENT;
  c.thresholds = how.thresholds;
  c.corneas = how.corneas;
  return c;
}

// The four texels about a place, each with its weight.
template <class Take>
void aboutTexel(const Texture& t, Vec2 uv, Take take) {
  const float x = uv.x * float(t.width) - 0.5f, y = (1 - uv.y) * float(t.height) - 0.5f;
  const float fx = std::floor(x), fy = std::floor(y);
  for (int k = 0; k < 4; ++k) {
    const int px = std::clamp(int(fx) + (k & 1), 0, t.width - 1), py = std::clamp(int(fy) + (k >> 1), 0, t.height - 1);
    const float w = ((k & 1) ? x - fx : 1 - (x - fx)) * ((k >> 1) ? y - fy : 1 - (y - fy));
    take(&t.rgba[(size_t(py) * size_t(t.width) + size_t(px)) * 4], w);
  }
}

float fetchAlpha(const Texture& t, Vec2 uv) {
  float alpha = 0;
  aboutTexel(t, uv, [&](const std::uint8_t* p, float w) { alpha += float(p[3]) * w; });
  return alpha / 255;
}

}  // namespace

Texel texelAt(const Texture& t, Vec2 uv) {
  const auto& lin = linearOfCodes();
  Vec3 sum;
  float alpha = 0;
  aboutTexel(t, uv, [&](const std::uint8_t* p, float w) {
    const float a = float(p[3]) / 255 * w;
    sum += Vec3{lin[p[0]], lin[p[1]], lin[p[2]]} * a;
    alpha += a;
  });
  return {alpha > 1e-4f ? sum / alpha : Vec3{}, alpha};
}

Vec3 coded(const Texture& t, Vec2 uv) {
  Vec3 sum;
  aboutTexel(t, uv, [&](const std::uint8_t* p, float w) {
    sum += Vec3{float(p[0]), float(p[1]), float(p[2])} * (w / 127.5f);
  });
  return sum - Vec3{1, 1, 1};
}

Vec2 uvAt(const MeshPart& p, std::uint32_t triangle, float u, float v) {
  const std::uint32_t* i = &p.triangles[size_t(triangle) * 3];
  return p.uv[i[0]] * (1 - u - v) + p.uv[i[1]] * u + p.uv[i[2]] * v;
}
Vec3 restAt(const MeshPart& p, std::uint32_t triangle, float u, float v) {
  const std::uint32_t* i = &p.triangles[size_t(triangle) * 3];
  return p.position[i[0]] * (1 - u - v) + p.position[i[1]] * u + p.position[i[2]] * v;
}

namespace {

void cardFilter(const RTCFilterFunctionNArguments* args) {
  const auto* g = static_cast<const Geometry*>(args->geometryUserPtr);
  const auto* context = reinterpret_cast<const Context*>(args->context);
  for (unsigned k = 0; k < args->N; ++k) {
    if (args->valid[k] != -1) continue;
    const unsigned triangle = RTCHitN_primID(args->hit, args->N, k);
    const float u = RTCHitN_u(args->hit, args->N, k), v = RTCHitN_v(args->hit, args->N, k);
    const float alpha = fetchAlpha(*g->texture, uvAt(*g->part, triangle, u, v));
    if (alpha >= 0.97f) continue;
    const std::uint32_t id = context->seed(RTCRayN_id(args->ray, args->N, k));
    // Every triangle shifts the pixel's threshold by its own amount: cards that overlap stay independent.
    const float limit = unitFloat(context->thresholds ? id + hash32(triangle * 2654435761u + 29u)
                                                      : hashPair(id, triangle * 2654435761u + 17u));
    if (alpha <= 0.03f || limit >= alpha) args->valid[k] = 0;
  }
}

// Light goes on past strands, in part: each that stands in its way takes its share, until hardly any is left.
void strandFilter(const RTCFilterFunctionNArguments* args) {
  constexpr float kHardlyAny = 0.03f;
  const auto* g = static_cast<const Geometry*>(args->geometryUserPtr);
  const auto* context = reinterpret_cast<const Context*>(args->context);
  for (unsigned k = 0; k < args->N; ++k) {
    if (args->valid[k] != -1) continue;
    float& passed = context->passed[RTCRayN_id(args->ray, args->N, k)];
    passed *= g->passes;
    if (passed > kHardlyAny) args->valid[k] = 0;
  }
}

// A cut-out: its quad's corners are (0,0), (1,0), (1,1), (0,1), the triangles 0 1 2 and 0 2 3.
void cutOutFilter(const RTCFilterFunctionNArguments* args) {
  const auto* g = static_cast<const Geometry*>(args->geometryUserPtr);
  const auto* context = reinterpret_cast<const Context*>(args->context);
  for (unsigned k = 0; k < args->N; ++k) {
    if (args->valid[k] != -1) continue;
    const unsigned triangle = RTCHitN_primID(args->hit, args->N, k);
    const float u = RTCHitN_u(args->hit, args->N, k), v = RTCHitN_v(args->hit, args->N, k);
    const Vec2 at = triangle == 0 ? Vec2{u + v, v} : Vec2{u, u + v};
    const float passes = g->pattern->at(1 - 2 * at.x, 2 * at.y - 1);
    const std::uint32_t id = context->seed(RTCRayN_id(args->ray, args->N, k));
    if (passes > 0.97f || unitFloat(hashPair(id, 0xc07u + triangle)) < passes) args->valid[k] = 0;
  }
}

// Clear: no light is stopped, and a ray goes on to the iris once it knows the coat's normal.
void corneaStopsNothing(const RTCFilterFunctionNArguments* args) {
  for (unsigned k = 0; k < args->N; ++k) args->valid[k] = 0;
}
void corneaFilter(const RTCFilterFunctionNArguments* args) {
  if (!reinterpret_cast<const Context*>(args->context)->corneas) corneaStopsNothing(args);
}

// One for the process: all scenes are built by the same threads. It goes with the process.
RTCDevice device() {
  static const RTCDevice one = rtcNewDevice(nullptr);
  if (!one) throw std::runtime_error(say("The ray tracing library could not be started on this machine."));
  return one;
}

}  // namespace

std::unique_ptr<Geometry> quadOf(Surface surface, Vec3 albedo, float mottle, Vec3 corner, Vec3 across, Vec3 up) {
  auto g = std::make_unique<Geometry>();
  g->surface = surface;
  g->albedo = albedo;
  g->mottle = mottle;
  g->position = {corner, corner + across, corner + across + up, corner + up};
  g->normal.assign(4, normalize(cross(across, up)));
  g->triangles = {0, 1, 2, 0, 2, 3};
  return g;
}

Traced::Traced() : scene_(rtcNewScene(device())) {}
Traced::~Traced() { rtcReleaseScene(scene_); }

namespace {

void shareTriangles(RTCGeometry geometry, Geometry& g) {
  // Embree reads four bytes past the last vertex: the pad keeps that inside the vector.
  g.position.push_back({});
  const auto& triangles = g.part ? g.part->triangles : g.triangles;
  rtcSetSharedGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, g.position.data(), 0, sizeof(Vec3),
                             g.position.size() - 1);
  rtcSetSharedGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, triangles.data(), 0,
                             3 * sizeof(std::uint32_t), triangles.size() / 3);
}
void shareStrands(RTCGeometry geometry, const Strands& s) {
  static_assert(sizeof(Strands::Point) == 4 * sizeof(float));
  rtcSetSharedGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT4, s.points.data(), 0,
                             sizeof(Strands::Point), s.points.size());
  rtcSetSharedGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT, s.segments.data(), 0,
                             sizeof(std::uint32_t), s.segments.size());
}

}  // namespace

Geometry& Traced::attach(std::unique_ptr<Geometry> g) {
  const bool strands = !g->strands.segments.empty();
  // Flat towards the ray, which is a third of the time: what a strand is round for, its scattering knows.
  RTCGeometry geometry =
      rtcNewGeometry(device(), strands ? RTC_GEOMETRY_TYPE_FLAT_LINEAR_CURVE : RTC_GEOMETRY_TYPE_TRIANGLE);
  if (strands)
    shareStrands(geometry, g->strands);
  else
    shareTriangles(geometry, *g);
  rtcSetGeometryUserData(geometry, g.get());
  // Of hair that passes hardly any, asking takes longer than it is worth.
  if (strands && g->passes > 0.04f) rtcSetGeometryOccludedFilterFunction(geometry, strandFilter);
  const bool cards = g->surface == Surface::Lash;
  if (cards || g->pattern) {
    rtcSetGeometryIntersectFilterFunction(geometry, cards ? cardFilter : cutOutFilter);
    rtcSetGeometryOccludedFilterFunction(geometry, cards ? cardFilter : cutOutFilter);
  }
  if (g->surface == Surface::Cornea || g->surface == Surface::Lens) {
    rtcSetGeometryIntersectFilterFunction(geometry, corneaFilter);
    rtcSetGeometryOccludedFilterFunction(geometry, corneaStopsNothing);
  }
  rtcCommitGeometry(geometry);
  rtcAttachGeometryByID(scene_, geometry, unsigned(geometries_.size()));
  rtcReleaseGeometry(geometry);
  geometries_.push_back(std::move(g));
  return *geometries_.back();
}

void Traced::commit() {
  rtcCommitScene(scene_);
  if (const RTCError error = rtcGetDeviceError(device()); error != RTC_ERROR_NONE)
    throw std::runtime_error(say("The scene could not be built (ray tracing error {}).", int(error)));
}

double Traced::bytes() const {
  // Fitted to the growth of the process with Embree 3.13: 17 to 73 MB a sitter, met within 14 MB.
  constexpr double kTriangle = 48, kPiece = 10;
  double sum = 0;
  for (const auto& g : geometries_) {
    const Strands& s = g->strands;
    sum += bytesOf(g->position) + bytesOf(g->normal) + bytesOf(g->triangles) + bytesOf(s.points) + bytesOf(s.along) +
           bytesOf(s.shade) + bytesOf(s.segments);
    const size_t triangles = (g->part ? g->part->triangles : g->triangles).size() / 3;
    sum += kTriangle * double(triangles) + kPiece * double(s.segments.size());
  }
  return sum;
}

void Traced::intersect(Hit& hit, const RayQuery& how) const {
  Context context = contextOf(how);
  hit.ray.hit.geomID = RTC_INVALID_GEOMETRY_ID;  // the rest of a former hit stays when there is none
  rtcIntersect1(scene_, &context.embree, &hit.ray);
  if (hit.ray.hit.geomID != RTC_INVALID_GEOMETRY_ID) hit.geometry = geometries_[hit.ray.hit.geomID].get();
}

void Traced::intersect(Hit* hit, int n, const RayQuery& how) const {
  Context context = contextOf(how);
  for (int i = 0; i < n; ++i) hit[i].ray.hit.geomID = RTC_INVALID_GEOMETRY_ID;
  rtcIntersect1M(scene_, &context.embree, &hit->ray, unsigned(n), sizeof(Hit));
  for (int i = 0; i < n; ++i)
    if (hit[i].ray.hit.geomID != RTC_INVALID_GEOMETRY_ID) hit[i].geometry = geometries_[hit[i].ray.hit.geomID].get();
}

bool Traced::occluded(RTCRay ray) const {
  const std::uint32_t seed = ray.id;
  float passed = 1;
  occluded(&ray, 1, &passed);
  return !(passed > unitFloat(hash32(seed + 0x91u)));
}

void Traced::occluded(RTCRay* rays, int n, float* passed) const {
  std::array<std::uint32_t, kRun> seeds;
  for (int i = 0; i < n; ++i) {
    seeds[size_t(i)] = rays[i].id;
    rays[i].id = unsigned(i);
  }
  Context context = contextOf({});
  context.seeds = seeds.data();
  context.passed = passed;
  if (n == 1)
    rtcOccluded1(scene_, &context.embree, rays);
  else
    rtcOccluded1M(scene_, &context.embree, rays, unsigned(n), sizeof(RTCRay));
  for (int i = 0; i < n; ++i) {
    if (rays[i].tfar < 0) passed[i] = 0;
    rays[i].id = seeds[size_t(i)];
  }
}

}  // namespace easel
