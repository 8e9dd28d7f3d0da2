// One file: what the ray library calls back reads what is built here, and nobody else may see either.
#include "transport/scene.h"

#include <embree3/rtcore.h>

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <mutex>
#include <stdexcept>
#include <vector>

#include "colour/colour.h"
#include "gear/kit.h"
#include "plan/leaves.h"
#include "plan/placement.h"
#include "sitters/colouring.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "spoken/say.h"
#include "transport/interreflection.h"
#include "transport/runs.h"
#include "transport/sampling.h"

namespace easel {
namespace {

struct Geometry {
  const MeshPart* part = nullptr;  // sitter's arrays (uv, triangles); null for the studio's quads
  const Texture* texture = nullptr;
  Surface surface = Surface::Nothing;
  Vec3 albedo{0.5f, 0.5f, 0.5f};
  float mottle = 0;
  float meanLuminance = 1;              // hair: of the opaque part of the texture, linear
  Vec3 backAlbedo{0.5f, 0.5f, 0.5f};    // panels: of the side that faces away from `normal`
  std::shared_ptr<const Gobo> pattern;  // cut out of the quad
  std::vector<Vec3> position, normal;
  std::vector<std::uint32_t> triangles;  // studio only
  int side = -1, behind = -1;            // of Scene::sides(), the way `normal` looks and the other; -1: the sitter's
};

struct Context {
  RTCIntersectContext embree;
  float threshold = -1;  // camera rays: the pixel's own stratified threshold instead of a random one
};

const std::array<float, 256>& linearOf() {
  static const auto table = [] {
    std::array<float, 256> t{};
    for (size_t i = 0; i < 256; ++i) t[i] = float(srgbDecode(double(i) / 255));
    return t;
  }();
  return table;
}

struct Texel {
  Vec3 colour;  // linear, straight
  float alpha;
};

// Bilinear on premultiplied values, so that transparent texels do not bleed their colour into the edge.
Texel fetch(const Texture& t, Vec2 uv) {
  const auto& lin = linearOf();
  const float x = uv.x * float(t.width) - 0.5f, y = (1 - uv.y) * float(t.height) - 0.5f;
  const float fx = std::floor(x), fy = std::floor(y);
  Vec3 sum;
  float alpha = 0;
  for (int k = 0; k < 4; ++k) {
    const int px = std::clamp(int(fx) + (k & 1), 0, t.width - 1), py = std::clamp(int(fy) + (k >> 1), 0, t.height - 1);
    const float w = ((k & 1) ? x - fx : 1 - (x - fx)) * ((k >> 1) ? y - fy : 1 - (y - fy));
    const std::uint8_t* p = &t.rgba[(size_t(py) * size_t(t.width) + size_t(px)) * 4];
    const float a = float(p[3]) / 255 * w;
    sum += Vec3{lin[p[0]], lin[p[1]], lin[p[2]]} * a;
    alpha += a;
  }
  return {alpha > 1e-4f ? sum / alpha : Vec3{}, alpha};
}
float opaqueLuminance(const Texture& t) {
  const auto& lin = linearOf();
  double sum = 0, weight = 0;
  for (size_t i = 0; i < t.rgba.size(); i += 4) {
    const double a = t.rgba[i + 3];
    sum += a * double(luminance({lin[t.rgba[i]], lin[t.rgba[i + 1]], lin[t.rgba[i + 2]]}));
    weight += a;
  }
  return weight > 0 ? std::max(1e-4f, float(sum / weight)) : 1.f;
}
float fetchAlpha(const Texture& t, Vec2 uv) {
  const float x = uv.x * float(t.width) - 0.5f, y = (1 - uv.y) * float(t.height) - 0.5f;
  const float fx = std::floor(x), fy = std::floor(y);
  float alpha = 0;
  for (int k = 0; k < 4; ++k) {
    const int px = std::clamp(int(fx) + (k & 1), 0, t.width - 1), py = std::clamp(int(fy) + (k >> 1), 0, t.height - 1);
    const float w = ((k & 1) ? x - fx : 1 - (x - fx)) * ((k >> 1) ? y - fy : 1 - (y - fy));
    alpha += float(t.rgba[(size_t(py) * size_t(t.width) + size_t(px)) * 4 + 3]) * w;
  }
  return alpha / 255;
}

Vec2 uvAt(const MeshPart& p, std::uint32_t triangle, float u, float v) {
  const std::uint32_t* i = &p.triangles[size_t(triangle) * 3];
  const Vec2 a = p.uv[i[0]], b = p.uv[i[1]], c = p.uv[i[2]];
  const float w = 1 - u - v;
  return {a.x * w + b.x * u + c.x * v, a.y * w + b.y * u + c.y * v};
}

void cardFilter(const RTCFilterFunctionNArguments* args) {
  const auto* g = static_cast<const Geometry*>(args->geometryUserPtr);
  const auto* context = reinterpret_cast<const Context*>(args->context);
  for (unsigned k = 0; k < args->N; ++k) {
    if (args->valid[k] != -1) continue;
    const unsigned triangle = RTCHitN_primID(args->hit, args->N, k);
    const float u = RTCHitN_u(args->hit, args->N, k), v = RTCHitN_v(args->hit, args->N, k);
    const float alpha = fetchAlpha(*g->texture, uvAt(*g->part, triangle, u, v));
    if (alpha >= 0.97f) continue;
    float limit = unitFloat(hashPair(RTCRayN_id(args->ray, args->N, k), triangle * 2654435761u + 17u));
    if (context->threshold >= 0) {
      // Every triangle shifts the pixel's threshold by its own amount: cards that overlap stay independent.
      limit = context->threshold + unitFloat(hash32(triangle * 2654435761u + 29u));
      limit -= std::floor(limit);
    }
    if (alpha <= 0.03f || limit >= alpha) args->valid[k] = 0;
  }
}

// A cut-out: its quad's corners are (0,0), (1,0), (1,1), (0,1), the triangles 0 1 2 and 0 2 3.
void cutOutFilter(const RTCFilterFunctionNArguments* args) {
  const auto* g = static_cast<const Geometry*>(args->geometryUserPtr);
  for (unsigned k = 0; k < args->N; ++k) {
    if (args->valid[k] != -1) continue;
    const unsigned triangle = RTCHitN_primID(args->hit, args->N, k);
    const float u = RTCHitN_u(args->hit, args->N, k), v = RTCHitN_v(args->hit, args->N, k);
    const Vec2 at = triangle == 0 ? Vec2{u + v, v} : Vec2{u, u + v};
    const float passes = g->pattern->at(1 - 2 * at.x, 2 * at.y - 1);
    if (passes > 0.97f || unitFloat(hashPair(RTCRayN_id(args->ray, args->N, k), 0xc07u + triangle)) < passes)
      args->valid[k] = 0;
  }
}

// Cloth of Marrow Lane: a linen shirt in blue-grey, and the black apron with its bib and straps drawn on the chest.
// `t` is the place on the unturned body in metres (x, y below the eyes); front tells the chest from the back.
Vec3 clothAlbedo(const MeshPart& part, Vec2 t, bool front) {
  const Garment garment = part.garment;
  const Vec3 shirt{0.235f, 0.25f, 0.275f}, apron{0.030f, 0.030f, 0.032f}, trousers{0.085f, 0.082f, 0.080f},
      leather{0.045f, 0.033f, 0.026f};
  if (garment == Garment::Apron) return apron;
  if (garment == Garment::Shoes) return leather;
  if (garment == Garment::Trousers)  // seated, the skirt of the apron lies on the thighs
    return front && part.wear == "seated" && t.y > -1.02f && std::abs(t.x) < 0.26f ? apron : trousers;
  const float x = std::abs(t.x), bibTop = -0.335f;
  bool onApron = false;
  if (front) {
    onApron = t.y < bibTop && x < 0.105f + std::max(0.f, bibTop - t.y) * 0.12f;
    // Straps run from the corners of the bib up to the neck.
    const float strapX = 0.088f + (t.y - bibTop) * -0.10f;
    onApron |= t.y >= bibTop - 0.01f && std::abs(x - strapX) < 0.013f;
  } else {
    onApron = std::abs(x - (0.075f + (t.y + 0.20f) * -0.10f)) < 0.013f;
  }
  return onApron ? apron : shirt;
}

}  // namespace

struct Scene::Impl {
  RTCDevice device = nullptr;
  RTCScene all = nullptr;    // everything, with the corneas
  RTCScene solid = nullptr;  // what stops light: without the corneas
  std::vector<std::unique_ptr<Geometry>> geometries;
  std::shared_ptr<const Sitter> sitter;
  HeadPose pose;
  Plan plan;
  std::vector<Side> sides;
  int firstBody = 0;
  std::once_flag reckoned;
  std::unique_ptr<Interreflection> interreflection;
  Vec3 hairTint{1, 1, 1}, skinTint{1, 1, 1};

  ~Impl() {
    if (all) rtcReleaseScene(all);
    if (solid) rtcReleaseScene(solid);
    if (device) rtcReleaseDevice(device);
  }

  void attach(std::unique_ptr<Geometry> g) {
    RTCGeometry geometry = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_TRIANGLE);
    // Embree reads four bytes past the last vertex: the pad keeps that inside the vector.
    g->position.push_back({});
    const auto& triangles = g->part ? g->part->triangles : g->triangles;
    rtcSetSharedGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, g->position.data(), 0,
                               sizeof(Vec3), g->position.size() - 1);
    rtcSetSharedGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, triangles.data(), 0,
                               3 * sizeof(std::uint32_t), triangles.size() / 3);
    rtcSetGeometryUserData(geometry, g.get());
    if (g->surface == Surface::Hair || g->surface == Surface::Brow || g->surface == Surface::Lash) {
      rtcSetGeometryIntersectFilterFunction(geometry, cardFilter);
      rtcSetGeometryOccludedFilterFunction(geometry, cardFilter);
    }
    if (g->pattern) {
      rtcSetGeometryIntersectFilterFunction(geometry, cutOutFilter);
      rtcSetGeometryOccludedFilterFunction(geometry, cutOutFilter);
    }
    rtcCommitGeometry(geometry);
    const auto id = unsigned(geometries.size());
    rtcAttachGeometryByID(all, geometry, id);
    if (g->surface != Surface::Cornea) rtcAttachGeometryByID(solid, geometry, id);
    rtcReleaseGeometry(geometry);
    geometries.push_back(std::move(g));
  }

  // The side of a quad that looks along `normal`, turned so that cells stand alike on both.
  int addSide(Vec3 corner, Vec3 across, Vec3 up, Vec3 normal, Vec3 reflectance) {
    Side s;
    s.corner = corner;
    s.across = across;
    s.up = up;
    s.normal = normal;
    s.reflectance = reflectance;
    sides.push_back(s);
    return int(sides.size()) - 1;
  }

  enum class Faces { None, In, Both };  // whose light goes on: a thing's in the room, a wall's inside, a cloth's

  void addQuad(Surface surface, Vec3 albedo, float mottle, Vec3 corner, Vec3 across, Vec3 up, Faces faces = Faces::None,
               Vec3 inwards = {}) {
    auto g = std::make_unique<Geometry>();
    g->surface = surface;
    g->albedo = albedo;
    g->mottle = mottle;
    g->position = {corner, corner + across, corner + across + up, corner + up};
    g->normal.assign(4, normalize(cross(across, up)));
    g->triangles = {0, 1, 2, 0, 2, 3};
    const Vec3 n = g->normal.front();
    if (faces == Faces::In) {
      const Vec3 in = dot(inwards, n) >= 0 ? n : -n;
      g->side = g->behind = addSide(corner, across, up, in, albedo);
    } else if (faces == Faces::Both) {
      g->side = addSide(corner, across, up, n, albedo);
      g->behind = addSide(corner, across, up, -n, albedo);
    }
    attach(std::move(g));
  }

  // Parts of the sitter and of what they sit on: six ways that a surface can look, in three heights.
  static constexpr int kHeights = 3, kBodies = 6 * kHeights;
  int bodySide(Vec3 at, Vec3 normal) const {
    const float eyes = float(plan.sitter.eyeHeight);
    const int height = at.y > eyes - 0.22f ? 0 : at.y > eyes - 0.75f ? 1 : 2;
    const Vec3 a{std::abs(normal.x), std::abs(normal.y), std::abs(normal.z)};
    const int axis = a.x >= a.y && a.x >= a.z ? 0 : a.y >= a.z ? 1 : 2;
    return firstBody + height * 6 + axis * 2 + (normal[axis] < 0 ? 1 : 0);
  }

  void addStudio() {
    const Room& r = plan.room;
    const float w = float(r.width), h = float(r.height),
                back = -float(std::max(r.behind, plan.backdrop.distance + 0.02));
    // The wall behind the photographer never comes between lens and sitter.
    const float front = float(std::max(r.depth - r.behind, plan.camera.distance + 0.3));
    auto grey = [](double v) { return Vec3{float(v), float(v), float(v)}; };
    Vec3 wall = paintColour(r.paint) * float(r.wallReflectance);
    for (int c = 0; c < 3; ++c) wall[c] = std::min(wall[c], 0.95f);
    auto inner = [&](Surface surface, Vec3 albedo, float mottle, Vec3 corner, Vec3 across, Vec3 up, Vec3 inwards) {
      addQuad(surface, albedo, mottle, corner, across, up, Faces::In, inwards);
    };
    inner(Surface::Floor, grey(r.floorReflectance), 0.1f, {-w / 2, 0, front}, {w, 0, 0}, {0, 0, back - front},
          {0, 1, 0});
    inner(Surface::Wall, grey(r.ceilingReflectance), 0, {-w / 2, h, back}, {w, 0, 0}, {0, 0, front - back}, {0, -1, 0});
    inner(Surface::Wall, wall, 0, {-w / 2, 0, back}, {w, 0, 0}, {0, h, 0}, {0, 0, 1});
    inner(Surface::Wall, wall, 0, {w / 2, 0, front}, {-w, 0, 0}, {0, h, 0}, {0, 0, -1});
    inner(Surface::Wall, wall, 0, {-w / 2, 0, front}, {0, 0, back - front}, {0, h, 0}, {1, 0, 0});
    inner(Surface::Wall, wall, 0, {w / 2, 0, back}, {0, 0, front - back}, {0, h, 0}, {-1, 0, 0});
    const Backdrop& b = plan.backdrop;
    const BackdropMaterial* m = findBackdrop(b.material);
    if (!m) m = &backdropMaterials().front();
    // Cloth that reaches past walls and ceiling ends there: nothing sees it, and light goes nowhere from it.
    const float across = std::min(float(b.width), w), up = std::min(float(b.height), h) - 0.001f;
    addQuad(Surface::Backdrop, {float(m->reflectance[0]), float(m->reflectance[1]), float(m->reflectance[2])},
            float(m->mottle), {-across / 2, 0.001f, -float(b.distance)}, {across, 0, 0}, {0, up, 0}, Faces::Both);
  }

  void addPanels() {
    for (const Leaf& l : leavesOf(plan)) {
      auto g = std::make_unique<Geometry>();
      g->surface = l.front.through > 0 || l.back.through > 0 ? Surface::Scrim : Surface::Panel;
      // Light that goes through is seen like light that is thrown back; the gloss is mostly elsewhere.
      auto shown = [](const Finish& f) { return f.diffuse + f.gloss * 0.4f + Vec3{1, 1, 1} * (f.through * 0.3f); };
      g->albedo = shown(l.front);
      g->backAlbedo = shown(l.back);
      g->pattern = l.pattern;
      const Vec3 u = l.frame.u * l.halfWidth, v = l.frame.v * l.halfHeight;
      if (l.disc) {
        constexpr std::uint32_t n = 40;
        g->position.push_back(l.centre);
        for (std::uint32_t k = 0; k < n; ++k) {
          const float a = 2 * kPiF * float(k) / n;
          g->position.push_back(l.centre + u * std::cos(a) + v * std::sin(a));
          for (std::uint32_t i : {0u, k + 1, (k + 1) % n + 1}) g->triangles.push_back(i);
        }
      } else {
        g->position = {l.centre - u - v, l.centre + u - v, l.centre + u + v, l.centre - u + v};
        g->triangles = {0, 1, 2, 0, 2, 3};
      }
      g->normal.assign(g->position.size(), l.frame.n);
      g->side = addLeafSide(l, l.front, l.frame.n, g->albedo);
      g->behind = addLeafSide(l, l.back, -l.frame.n, g->backAlbedo);
      sides[size_t(g->side)].other = g->behind;
      sides[size_t(g->behind)].other = g->side;
      attach(std::move(g));
    }
  }

  int addLeafSide(const Leaf& l, const Finish& f, Vec3 normal, Vec3 shown) {
    const Vec3 u = l.frame.u * l.halfWidth, v = l.frame.v * l.halfHeight;
    const int at = addSide(l.centre - u - v, u * 2, v * 2, normal, f.diffuse + f.gloss);
    Side& s = sides[size_t(at)];
    s.through = f.through;
    s.panel = true;
    s.disc = l.disc;
    s.shown = shown;
    return at;
  }

  static float seatedSoles(const Sitter& s) {
    float lowest = 0;
    for (const MeshPart& p : s.parts)
      if (p.wear == "seated")
        for (Vec3 q : p.position) lowest = std::min(lowest, q.y);
    return lowest;
  }

  // A plain wooden stool with its top at `height`.
  void addStool(float height) {
    if (height < 0.1f) return;
    const Vec3 wood{0.16f, 0.105f, 0.065f};
    const float h = 0.17f, z = 0.02f, top = height, low = height - 0.04f, leg = 0.02f;
    auto box = [&](Vec3 a, Vec3 b) {
      addQuad(Surface::Floor, wood, 0.1f, {a.x, b.y, b.z}, {b.x - a.x, 0, 0}, {0, 0, a.z - b.z});  // top
      addQuad(Surface::Floor, wood, 0.1f, {a.x, a.y, b.z}, {b.x - a.x, 0, 0}, {0, b.y - a.y, 0});  // front
      addQuad(Surface::Floor, wood, 0.1f, {a.x, a.y, a.z}, {0, 0, b.z - a.z}, {0, b.y - a.y, 0});  // left
      addQuad(Surface::Floor, wood, 0.1f, {b.x, a.y, b.z}, {0, 0, a.z - b.z}, {0, b.y - a.y, 0});  // right
      addQuad(Surface::Floor, wood, 0.1f, {b.x, a.y, a.z}, {a.x - b.x, 0, 0}, {0, b.y - a.y, 0});  // back
    };
    box({-h, low, z - h}, {h, top, z + h});
    for (float sx : {-1.f, 1.f})
      for (float sz : {-1.f, 1.f}) {
        const float x = sx * (h - 2 * leg), d = z + sz * (h - 2 * leg);
        box({x - leg, 0, d - leg}, {x + leg, low, d + leg});
      }
  }

  void addSitter() {
    const Vec3 up{0, float(plan.sitter.eyeHeight), 0};
    const Vec3 pivot = sitter->landmarks.neckPivot;
    hairTint = sitter->hairTint;
    skinTint = sitter->skinTint;
    if (const Colouring* hair = findHairColour(plan.sitter.hairColour); hair && hair->id != "own")
      hairTint = hair->reflectance;
    const Vec3 own = sitter->faceReflectance;
    if (const Colouring* skin = findSkinTone(plan.sitter.skinTone); skin && skin->id != "own") {
      for (int c = 0; c < 3; ++c) skinTint[c] *= skin->reflectance[c] / std::max(0.01f, own[c]);
    } else {
      // The textures are painted for the eye, up to a stop too light; a predicted picture wants the reflectance of
      // skin.
      for (const Person& s : sitterCatalogue())
        if (s.id == plan.sitter.id) skinTint *= float(s.skin) / std::max(0.01f, luminance(own));
    }
    const bool sits = seated(-double(sitter->soles), plan.sitter.eyeHeight);
    const float legsFrom = sitter->hips - (sits ? 0.12f : 0.f);
    const float soles = sits ? seatedSoles(*sitter) : sitter->soles;
    const float legLength = std::clamp((float(plan.sitter.eyeHeight) + legsFrom) / (legsFrom - soles), 0.6f, 1.4f);
    if (sits) addStool(sitter->hips + up.y - 0.11f);
    for (const MeshPart& p : sitter->parts) {
      const bool legs = p.wear == "standing" || p.wear == "seated";
      if (!worn(*sitter, p, plan.sitter.hairStyle, plan.sitter.eyeHeight)) continue;
      auto g = std::make_unique<Geometry>();
      g->part = &p;
      g->surface = p.surface;
      g->texture = p.texture >= 0 ? &sitter->textures[size_t(p.texture)] : nullptr;
      if (g->surface == Surface::Hair) g->meanLuminance = opaqueLuminance(*g->texture);
      g->position.resize(p.position.size());
      g->normal.resize(p.normal.size());
      for (size_t i = 0; i < p.position.size(); ++i) {
        Vec3 rest = p.position[i];
        // Legs are as long as the floor is far.
        if (legs && rest.y < legsFrom) rest.y = legsFrom + (rest.y - legsFrom) * legLength;
        g->position[i] = posed(rest, p.headWeight[i], pivot, pose) + up;
        g->normal[i] = posedDirection(p.normal[i], p.headWeight[i], pose);
      }
      attach(std::move(g));
    }
  }

  void place(SurfacePoint& s, const Geometry& g, const RTCRayHit& r, Vec3 direction) const {
    const auto& triangles = g.part ? g.part->triangles : g.triangles;
    const std::uint32_t* i = &triangles[size_t(r.hit.primID) * 3];
    const float u = r.hit.u, v = r.hit.v, w = 1 - u - v;
    const Vec3 p[3] = {g.position[i[0]], g.position[i[1]], g.position[i[2]]};
    const Vec3 n[3] = {g.normal[i[0]], g.normal[i[1]], g.normal[i[2]]};
    s.surface = g.surface;
    s.distance = r.ray.tfar;
    s.position = p[0] * w + p[1] * u + p[2] * v;
    s.facet = normalize(Vec3{r.hit.Ng_x, r.hit.Ng_y, r.hit.Ng_z});
    s.normal = normalize(n[0] * w + n[1] * u + n[2] * v);
    if (dot(s.facet, direction) > 0) s.facet = -s.facet;
    const bool flipped = dot(s.normal, s.facet) < 0;
    if (flipped) s.normal = -s.normal;
    if (g.surface == Surface::Skin || g.surface == Surface::Cloth || g.surface == Surface::Eye) {
      Vec3 lift;
      const float weight[3] = {w, u, v};
      for (int k = 0; k < 3; ++k) {
        const Vec3 nk = flipped ? -n[k] : n[k];
        lift += nk * (-std::min(0.f, dot(s.position - p[k], nk)) * weight[k]);
      }
      s.position += lift;
    }
    s.coatNormal = s.normal;
    s.side = std::int16_t(g.side < 0 ? bodySide(s.position, s.facet) : flipped ? g.behind : g.side);
  }

  using Tell = void (Impl::*)(SurfacePoint&, const Geometry&, const RTCRayHit&, Vec3) const;
  std::optional<SurfacePoint> meet(Vec3 origin, Vec3 direction, std::uint32_t seed, float threshold, Tell tell) const;

  // The colour, and what is finer than the mesh.
  void shade(SurfacePoint& s, const Geometry& g, const RTCRayHit& r, Vec3 direction) const {
    place(s, g, r, direction);
    const auto& triangles = g.part ? g.part->triangles : g.triangles;
    const std::uint32_t* i = &triangles[size_t(r.hit.primID) * 3];
    const float u = r.hit.u, v = r.hit.v, w = 1 - u - v;
    switch (g.surface) {
      case Surface::Skin: {
        const Texel t = fetch(*g.texture, uvAt(*g.part, r.hit.primID, u, v));
        // The unposed place is what pores and blotches are fixed to.
        const Vec3 rest = g.part->position[i[0]] * w + g.part->position[i[1]] * u + g.part->position[i[2]] * v;
        const float blotch = fractalNoise(rest * 90.f, 3), pore = fractalNoise(rest * 900.f, 2);
        s.albedo = t.colour * skinTint * (1 + 0.05f * blotch + 0.05f * pore);
        s.albedo.x *= 1 + 0.03f * blotch;
        // Fine relief at the scale of pores: three offsets of the same noise give the slope.
        const float e = 0.0006f;
        const float here = fractalNoise(rest * 700.f, 2);
        const Vec3 slope{fractalNoise((rest + Vec3{e, 0, 0}) * 700.f, 2) - here,
                         fractalNoise((rest + Vec3{0, e, 0}) * 700.f, 2) - here,
                         fractalNoise((rest + Vec3{0, 0, e}) * 700.f, 2) - here};
        s.normal = normalize(s.normal - (slope - s.normal * dot(slope, s.normal)) * 0.16f);
        break;
      }
      case Surface::Eye: {
        s.albedo = fetch(*g.texture, uvAt(*g.part, r.hit.primID, u, v)).colour;
        // The package's irises are too saturated; the white of a real eye is greyer than paper.
        const float y = luminance(s.albedo);
        s.albedo = lerp(s.albedo, {y, y, y}, 0.35f) * 0.75f;
        break;
      }
      case Surface::Brow:
      case Surface::Lash:
        s.albedo = fetch(*g.texture, uvAt(*g.part, r.hit.primID, u, v)).colour * 0.8f;
        if (g.surface == Surface::Lash) s.albedo = {0.02f, 0.018f, 0.016f};
        if (g.surface == Surface::Brow) {
          const float y = std::min(1.f, luminance(s.albedo) * 1.5f + 0.2f);
          s.albedo = (hairTint * 0.55f + Vec3{0.02f, 0.016f, 0.012f}) * y;
        }
        break;
      case Surface::Hair: {
        const Vec2 t = uvAt(*g.part, r.hit.primID, u, v);
        const float y = luminance(fetch(*g.texture, t).colour);
        // The texture gives the strands, the tint the colour: only its contrast about its own mean is used.
        s.albedo = hairTint * std::clamp(0.12f + 0.88f * std::pow(y / g.meanLuminance, 0.8f), 0.1f, 1.7f);
        for (int c = 0; c < 3; ++c) s.albedo[c] = std::min(s.albedo[c], 0.92f);
        // Strands run along v of the texture.
        const Vec2 ta = g.part->uv[i[0]], tb = g.part->uv[i[1]], tc = g.part->uv[i[2]];
        const float ub = tb.x - ta.x, vb = tb.y - ta.y, uc = tc.x - ta.x, vc = tc.y - ta.y;
        const float det = ub * vc - uc * vb;
        const Vec3 p[3] = {g.position[i[0]], g.position[i[1]], g.position[i[2]]};
        Vec3 along = std::abs(det) > 1e-12f ? ((p[2] - p[0]) * ub - (p[1] - p[0]) * uc) / det : p[1] - p[0];
        along = along - s.normal * dot(along, s.normal);
        s.tangent = normalize(along);
        break;
      }
      case Surface::Cloth: {
        const Vec2 t = uvAt(*g.part, r.hit.primID, u, v);
        s.albedo = clothAlbedo(*g.part, t, s.normal.z > -0.05f);
        const float weave = fractalNoise(Vec3{t.x * 1400.f, t.y * 500.f, 3.f}, 1) * 0.5f +
                            fractalNoise(Vec3{t.x * 400.f, t.y * 1500.f, 9.f}, 1) * 0.5f;
        s.albedo *= 1 + 0.16f * weave;
        break;
      }
      case Surface::Panel:
      case Surface::Scrim:
        s.albedo = s.side == g.side ? g.albedo : g.backAlbedo;
        break;
      default:
        s.albedo = g.albedo;
        if (g.mottle > 0) {
          const float m = fractalNoise(s.position * (g.surface == Surface::Floor ? 9.f : 3.1f), 4);
          s.albedo *= 1 + g.mottle * m;
        }
    }
  }
};

namespace {
std::uint64_t nextSerial() {
  static std::atomic<std::uint64_t> last{0};
  return ++last;
}
}  // namespace

Scene::Scene(const Plan& plan, std::shared_ptr<const Sitter> sitter)
    : impl_(std::make_unique<Impl>()), serial_(nextSerial()) {
  impl_->sitter = std::move(sitter);
  impl_->plan = plan;
  impl_->pose = {plan.sitter.turn, plan.sitter.tilt, plan.sitter.nod};
  impl_->device = rtcNewDevice(nullptr);
  if (!impl_->device) throw std::runtime_error(say("The ray tracing library could not be started on this machine."));
  impl_->all = rtcNewScene(impl_->device);
  impl_->solid = rtcNewScene(impl_->device);
  impl_->addStudio();
  impl_->addPanels();
  impl_->firstBody = int(impl_->sides.size());
  impl_->sides.resize(impl_->sides.size() + Impl::kBodies);
  if (impl_->sitter) impl_->addSitter();
  for (RTCScene s : {impl_->all, impl_->solid}) rtcCommitScene(s);
  if (const RTCError error = rtcGetDeviceError(impl_->device); error != RTC_ERROR_NONE)
    throw std::runtime_error(say("The scene could not be built (ray tracing error {}).", int(error)));
}

Scene::~Scene() = default;

namespace {
// `seed` travels with the ray, so that rays may be asked about in any company.
RTCRayHit rayOf(Vec3 o, Vec3 d, float near, std::uint32_t seed) {
  RTCRayHit r{};
  r.ray.id = seed;
  r.ray.org_x = o.x;
  r.ray.org_y = o.y;
  r.ray.org_z = o.z;
  r.ray.dir_x = d.x;
  r.ray.dir_y = d.y;
  r.ray.dir_z = d.z;
  r.ray.tnear = near;
  r.ray.tfar = INFINITY;
  r.ray.mask = ~0u;
  r.hit.geomID = RTC_INVALID_GEOMETRY_ID;
  return r;
}
}  // namespace

std::optional<SurfacePoint> Scene::meet(Vec3 origin, Vec3 direction, std::uint32_t seed, float threshold) const {
  return impl_->meet(origin, direction, seed, threshold, &Impl::shade);
}
std::optional<SurfacePoint> Scene::meetBare(Vec3 origin, Vec3 direction, std::uint32_t seed, float threshold) const {
  return impl_->meet(origin, direction, seed, threshold, &Impl::place);
}

std::optional<SurfacePoint> Scene::Impl::meet(Vec3 origin, Vec3 direction, std::uint32_t seed, float threshold,
                                              Tell tell) const {
  Context context;
  rtcInitIntersectContext(&context.embree);
  context.threshold = threshold;
  RTCRayHit r = rayOf(origin, direction, 1e-5f, seed);
  rtcIntersect1(all, &context.embree, &r);
  if (r.hit.geomID == RTC_INVALID_GEOMETRY_ID) return {};
  SurfacePoint s;
  const Geometry* g = geometries[r.hit.geomID].get();
  if (g->surface == Surface::Cornea) {
    // Clear: the coat keeps its own normal for the reflection, the ray goes straight on to the iris.
    (this->*tell)(s, *g, r, direction);
    const Vec3 coat = s.normal;
    RTCRayHit inner = rayOf(origin, direction, r.ray.tfar + 1e-5f, seed);
    rtcIntersect1(solid, &context.embree, &inner);
    if (inner.hit.geomID == RTC_INVALID_GEOMETRY_ID) return {};
    s = {};
    (this->*tell)(s, *geometries[inner.hit.geomID], inner, direction);
    s.coatNormal = coat;
    return s;
  }
  (this->*tell)(s, *g, r, direction);
  return s;
}

bool Scene::occluded(Vec3 origin, Vec3 direction, float near, float far, std::uint32_t seed) const {
  Context context;
  rtcInitIntersectContext(&context.embree);
  RTCRay r = rayOf(origin, direction, near, seed).ray;
  r.tfar = far;
  rtcOccluded1(impl_->solid, &context.embree, &r);
  return r.tfar < 0;
}

void Scene::occludedRun(int n, const Vec3* origin, const Vec3* direction, const float* far, const std::uint32_t* seed,
                        std::uint8_t* blocked) const {
  Context context;
  rtcInitIntersectContext(&context.embree);
  std::array<RTCRay, kRun> rays;
  for (int from = 0; from < n; from += kRun) {
    const int count = std::min(kRun, n - from);
    for (int i = 0; i < count; ++i) {
      RTCRay& r = rays[size_t(i)];
      r = rayOf(origin[from + i], direction[from + i], 0, seed[from + i]).ray;
      r.tfar = far[from + i];
    }
    rtcOccluded1M(impl_->solid, &context.embree, rays.data(), unsigned(count), sizeof(RTCRay));
    for (int i = 0; i < count; ++i) blocked[from + i] = rays[size_t(i)].tfar < 0;
  }
}

const std::vector<Side>& Scene::sides() const { return impl_->sides; }

const Interreflection& Scene::interreflection() const {
  std::call_once(impl_->reckoned, [&] { impl_->interreflection = std::make_unique<Interreflection>(*this); });
  return *impl_->interreflection;
}

bool Scene::hasPanels() const {
  return std::any_of(impl_->plan.panels.begin(), impl_->plan.panels.end(), [](const Panel& p) { return p.on; });
}
float Scene::haze() const { return float(impl_->plan.haze); }
const Sitter& Scene::sitter() const { return *impl_->sitter; }

Vec3 Scene::studioPoint(Vec3 local) const {
  return posed(local, 1, impl_->sitter->landmarks.neckPivot, impl_->pose) +
         Vec3{0, float(impl_->plan.sitter.eyeHeight), 0};
}

}  // namespace easel
