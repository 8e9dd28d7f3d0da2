#include "transport/scene.h"

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <mutex>
#include <utility>
#include <vector>

#include "colour/colour.h"
#include "gear/kit.h"
#include "placed/gear_bodies.h"
#include "transport/cloth.h"
#include "transport/figure.h"
#include "transport/interreflection.h"
#include "transport/rays.h"
#include "transport/sampling.h"

namespace easel {
namespace {
constexpr float kOff = 1e-5f;  // metres: a ray that begins on a surface does not meet it
}

struct Scene::Impl {
  std::shared_ptr<const Figure> figure;
  Traced traced;  // the studio round it: room, backdrop, panels
  PlacedSet set;
  std::vector<Side> sides;
  int firstBody = 0;
  Vec3 low, high;  // the room
  std::vector<Solid> gear;
  std::vector<Thing> objects;
  bool panels = false;
  std::once_flag computed;
  std::unique_ptr<Interreflection> interreflection;
  std::atomic<double> bytesOfInterreflection{0};  // 0 until it stands

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
    auto g = quadOf(surface, albedo, mottle, corner, across, up);
    const Vec3 n = g->normal.front();
    if (faces == Faces::In) {
      const Vec3 in = dot(inwards, n) >= 0 ? n : -n;
      g->side = g->behind = addSide(corner, across, up, in, albedo);
    } else if (faces == Faces::Both) {
      g->side = addSide(corner, across, up, n, albedo);
      g->behind = addSide(corner, across, up, -n, albedo);
    }
    traced.attach(std::move(g));
  }

  // Parts of the sitter and of what they sit on: six ways that a surface can look, in three heights. Small parts of
  // pieces and gear are bodies apart from those: what falls on a flash under the ceiling is not the hair's.
  static constexpr int kHeights = 3, kParts = 6 * kHeights, kBodies = 2 * kParts;
  int bodySide(Vec3 at, Vec3 normal, Surface surface) const {
    const float eyes = float(set.sitter.eyeHeight);
    const int height = at.y > eyes - 0.22f ? 0 : at.y > eyes - 0.75f ? 1 : 2;
    const Vec3 a{std::abs(normal.x), std::abs(normal.y), std::abs(normal.z)};
    const int axis = a.x >= a.y && a.x >= a.z ? 0 : a.y >= a.z ? 1 : 2;
    return firstBody + (surface == Surface::Piece ? kParts : 0) + height * 6 + axis * 2 + (normal[axis] < 0 ? 1 : 0);
  }

  void addStudio() {
    const Room& r = set.room;
    const float w = float(r.width), h = float(r.height),
                back = -float(std::max(r.behind, set.backdrop.distance + 0.02));
    // The wall behind the photographer never comes between lens and sitter.
    const float front = float(std::max(r.depth - r.behind, set.camera.distance + 0.3));
    low = {-w / 2, 0, back};
    high = {w / 2, h, front};
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
    const Backdrop& b = set.backdrop;
    const BackdropMaterial* m = findBackdrop(b.material);
    if (!m) m = &backdropMaterials().front();
    // Cloth that reaches past walls and ceiling ends there: nothing sees it, and light goes nowhere from it.
    const float across = std::min(float(b.width), w), up = std::min(float(b.height), h) - 0.001f;
    addQuad(Surface::Backdrop, {float(m->reflectance[0]), float(m->reflectance[1]), float(m->reflectance[2])},
            float(m->mottle), {-across / 2, 0.001f, -float(b.distance)}, {across, 0, 0}, {0, up, 0}, Faces::Both);
  }

  // Wood grows along the longer way.
  static Vec3 grainOf(const Leaf& l) { return l.halfWidth >= l.halfHeight ? l.frame.u : l.frame.v; }
  static std::unique_ptr<Geometry> partOf(const Leaf& l) {
    auto g = std::make_unique<Geometry>();
    g->surface = Surface::Piece;
    g->albedo = l.front.diffuse + l.front.gloss;
    g->backAlbedo = l.back.diffuse + l.back.gloss;
    g->painted = l.painted;
    g->grain = l.front.grain;
    g->grainAlong = grainOf(l);
    return g;
  }
  static void addOutline(const Leaf& l, Geometry& g) {
    const Vec3 u = l.frame.u * l.halfWidth, v = l.frame.v * l.halfHeight;
    const auto first = std::uint32_t(g.position.size());
    if (l.disc) {
      const std::uint32_t n = l.halfWidth > 0.1f ? 40 : 8;
      g.position.push_back(l.centre);
      for (std::uint32_t k = 0; k < n; ++k) {
        const float a = 2 * kPiF * float(k) / float(n);
        g.position.push_back(l.centre + u * std::cos(a) + v * std::sin(a));
        for (std::uint32_t i : {0u, k + 1, (k + 1) % n + 1}) g.triangles.push_back(first + i);
      }
    } else {
      for (const Vec3& corner : l.corners()) g.position.push_back(corner);
      for (std::uint32_t i : {0u, 1u, 2u, 0u, 2u, 3u}) g.triangles.push_back(first + i);
    }
    g.normal.resize(g.position.size(), l.frame.n);
  }

  void addPanels() {
    std::unique_ptr<Geometry> part;  // all of a piece in one finish is one thing to rays: foliage is many leaves
    const Leaf* like = nullptr;
    for (const Leaf& l : set.leaves) {
      if (l.sampling == Leaf::Sampling::None) continue;
      if (l.sampling == Leaf::Sampling::ByRays) {
        const bool same = like && like->panel == l.panel && like->front.id == l.front.id &&
                          std::abs(dot(grainOf(*like), grainOf(l))) > 0.99f;
        if (part && (!same || part->painted || l.painted)) traced.attach(std::exchange(part, nullptr));
        if (!part) part = partOf(l);
        addOutline(l, *part);
        like = &l;
        continue;
      }
      if (l.sampling == Leaf::Sampling::ByCells) {
        auto g = partOf(l);
        addOutline(l, *g);
        g->side = addLeafSide(l, l.front, l.frame.n, g->albedo);
        g->behind = addLeafSide(l, l.back, -l.frame.n, g->backAlbedo);
        traced.attach(std::move(g));
        continue;
      }
      auto g = std::make_unique<Geometry>();
      g->surface = l.front.through > 0 || l.back.through > 0 ? Surface::Scrim : Surface::Panel;
      // Light that goes through is seen like light that is thrown back; the gloss is mostly elsewhere.
      const auto thrownBack = [](const Finish& f) { return f.diffuse + f.gloss * 0.4f; };
      const auto shown = [&](const Finish& f) { return thrownBack(f) + Vec3{1, 1, 1} * (f.through * 0.3f); };
      g->albedo = shown(l.front);
      g->backAlbedo = shown(l.back);
      const auto look = [&](const Finish& seen, const Finish& other) {
        const float whole = std::max(1e-3f, luminance(shown(seen)));
        return ScrimCode{luminance(thrownBack(seen)) / whole, other.through / whole}.code();
      };
      g->scrim = look(l.front, l.back);
      g->behindScrim = look(l.back, l.front);
      g->pattern = l.pattern;
      g->grain = l.front.grain;
      g->grainAlong = grainOf(l);
      addOutline(l, *g);
      g->side = addLeafSide(l, l.front, l.frame.n, g->albedo);
      g->behind = addLeafSide(l, l.back, -l.frame.n, g->backAlbedo);
      sides[size_t(g->side)].other = g->behind;
      sides[size_t(g->behind)].other = g->side;
      traced.attach(std::move(g));
    }
    if (part) traced.attach(std::exchange(part, nullptr));
  }

  void addSolids() {
    objects = objectsOf(set);
    for (const Solid& s : gear) addSolid(s);
    for (const Thing& t : objects) addSolid(t.solid);
  }
  void addSolid(const Solid& s) {
    auto g = std::make_unique<Geometry>();
    g->surface = Surface::Piece;
    g->albedo = g->backAlbedo = s.albedo;
    // Flat faces: no corner is shared.
    for (size_t k = 0; k + 2 < s.triangles.size(); k += 3) {
      const Vec3 a = s.position[s.triangles[k]], b = s.position[s.triangles[k + 1]], c = s.position[s.triangles[k + 2]];
      const Vec3 across = cross(b - a, c - a);
      if (!(dot(across, across) > 0)) continue;
      for (const Vec3& p : {a, b, c}) {
        g->triangles.push_back(std::uint32_t(g->position.size()));
        g->position.push_back(p);
        g->normal.push_back(normalize(across));
      }
    }
    if (!g->triangles.empty()) traced.attach(std::move(g));
  }

  int addLeafSide(const Leaf& l, const Finish& f, Vec3 normal, Vec3 shown) {
    const Vec3 u = l.frame.u * l.halfWidth, v = l.frame.v * l.halfHeight;
    const int at = addSide(l.centre - u - v, u * 2, v * 2, normal, f.diffuse + f.gloss);
    Side& s = sides[size_t(at)];
    s.through = f.through;
    s.panel = l.sampling == Leaf::Sampling::ByArea;
    s.piece = l.sampling == Leaf::Sampling::ByCells;
    s.disc = l.disc;
    s.shown = shown;
    return at;
  }

  // Whether anything of the studio can stand between: the room is hollow, so of two places in it only backdrop and
  // panels can part them.
  bool mayPart(Vec3 from, Vec3 to) const {
    constexpr float kNear = 1e-3f;  // metres: beside a wall the triangles are asked
    auto within = [&](Vec3 p) {
      return p.x > low.x + kNear && p.x < high.x - kNear && p.y > low.y + kNear && p.y < high.y - kNear &&
             p.z > low.z + kNear && p.z < high.z - kNear;
    };
    const auto cloth = -float(set.backdrop.distance);
    return panels || !within(from) || !within(to) || from.z < cloth + kNear || to.z < cloth + kNear;
  }

  // On its axis, and facing whoever looks.
  void placeOnStrand(SurfacePoint& s, const Hit& hit, Vec3 direction) const {
    const Strands& of = hit.geometry->strands;
    const std::uint32_t first = of.segments[hit.ray.hit.primID];
    const float t = hit.ray.hit.u;
    s.surface = hit.geometry->surface;
    s.distance = hit.distance();
    s.position = lerp(of.points[first].at, of.points[first + 1].at, t);
    s.tangent = normalize(lerp(of.along[first], of.along[first + 1], t));
    s.normal = s.facet = s.coatNormal = normalize(s.tangent * dot(s.tangent, direction) - direction);
    s.side = std::int16_t(bodySide(s.position, s.facet, s.surface));
  }

  void place(SurfacePoint& s, const Hit& hit, Vec3 direction) const {
    const Geometry& g = *hit.geometry;
    const RTCRayHit& r = hit.ray;
    if (!g.strands.segments.empty()) return placeOnStrand(s, hit, direction);
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
    if (g.thickness) {
      const float thick = g.thickness[i[0]] * w + g.thickness[i[1]] * u + g.thickness[i[2]] * v;
      s.thickness = thick < FineSkin::kThick ? thick : 0;
    }
    s.side = std::int16_t(g.side < 0 ? bodySide(s.position, s.facet, s.surface) : flipped ? g.behind : g.side);
  }

  void shade(SurfacePoint& s, const Hit& hit, Colours colours) const {
    if (colours == Colours::None) return;
    const bool fine = colours == Colours::Fine;
    const Geometry& g = *hit.geometry;
    if (figure->colour(s, hit, fine)) return;
    if (putUp(g.surface)) {
      const bool oneSided = g.surface == Surface::Piece && g.side < 0 && !g.painted;
      const bool front = g.side < 0 ? dot(s.facet, g.normal.front()) > 0 : s.side == g.side;
      s.cloth = front ? g.scrim : g.behindScrim;
      s.albedo = front || oneSided ? g.albedo : g.backAlbedo;
      if (g.painted && front) {
        const Vec3 across = g.position[1] - g.position[0], up = g.position[3] - g.position[0],
                   at = s.position - g.position[0];
        const float x = dot(at, across) / dot(across, across), y = dot(at, up) / dot(up, up);
        s.albedo = lerp(g.backAlbedo, g.albedo, g.painted->at(2 * x - 1, 2 * y - 1));
      }
      if (fine && g.grain > 0) {
        const float along = dot(s.position, g.grainAlong);
        const Vec3 across = s.position - g.grainAlong * along;
        s.albedo *= std::max(0.f, 1 + g.grain * fractalNoise(across * 55.f + g.grainAlong * (along * 2.2f), 4));
      }
      return;
    }
    s.albedo = g.albedo;
    if (fine && g.mottle > 0)
      s.albedo *= 1 + g.mottle * fractalNoise(s.position * (g.surface == Surface::Floor ? 9.f : 3.1f), 4);
  }

  bool studioToo(const Hit& hit) const {
    const RTCRay& r = hit.ray.ray;
    const Vec3 from{r.org_x, r.org_y, r.org_z};
    return !hit.geometry || mayPart(from, from + Vec3{r.dir_x, r.dir_y, r.dir_z} * hit.distance());
  }
  Hit nearest(const RTCRay& ray, RayQuery how) const {
    Hit hit{{ray, {}}};
    figure->traced().intersect(hit, how);
    if (studioToo(hit)) traced.intersect(hit, how);
    return hit;
  }
  // `wants` tells of a point what it shall be coloured with; nothing: it is of no use.
  template <class Wants>
  void tell(const Hit& hit, Vec3 direction, RayQuery how, Wants wants, SurfacePoint& s) const {
    s = {};
    s.distance = INFINITY;
    if (!hit.geometry) return;
    place(s, hit, direction);
    if (hit.geometry->surface == Surface::Cornea) return tellBehind(hit, direction, how, wants, s);
    if (hit.geometry->surface == Surface::Lens) return tellThroughLens(hit, direction, how, wants, s);
    if (const std::optional<Colours> colours = wants(s))
      shade(s, hit, *colours);
    else
      s = {};
  }
  // Clear too: both its surfaces mirror, one of them by turns in the other's stead.
  template <class Wants>
  void tellThroughLens(const Hit& lens, Vec3 direction, const RayQuery& how, Wants wants, SurfacePoint& s) const {
    const std::uint32_t seed = lens.ray.ray.id;
    const Vec3 normal = figure->lensNormal(lens, hash32(seed ^ 0x1e45u) & 1);
    const float mirrored = mirroredByGlass(-dot(normal, direction));
    RTCRay on = lens.ray.ray;
    on.tnear = lens.distance() + 1e-5f;
    on.tfar = INFINITY;
    tell(nearest(on, how), direction, how, wants, s);
    s.lensNormal = normal;
    s.albedo *= (1 - mirrored) * (1 - mirrored);
  }
  // Clear: the coat keeps its own normal for the reflection, the ray goes straight on to the iris.
  template <class Wants>
  void tellBehind(const Hit& coat, Vec3 direction, RayQuery how, Wants wants, SurfacePoint& s) const {
    const Vec3 normal = s.normal;
    RTCRay on = coat.ray.ray;
    on.tnear = coat.distance() + 1e-5f;
    on.tfar = INFINITY;
    how.corneas = how.together = false;
    tell(nearest(on, how), direction, how, wants, s);
    s.coatNormal = normal;
  }
  template <class Wants>
  void intersect(const Rays& rays, Wants wants, std::array<SurfacePoint, kRun>& points) const {
    const RayQuery how{rays.thresholds, true, rays.together};
    std::array<Hit, kRun> hits, further;
    std::array<size_t, kRun> of;
    for (size_t i = 0; i < size_t(rays.n); ++i)
      hits[i] = {{rayOf(rays.origin[i], rays.direction[i], kOff, rays.far[i], rays.seed[i]), {}}};
    figure->traced().intersect(hits.data(), rays.n, how);
    size_t left = 0;
    for (size_t i = 0; i < size_t(rays.n); ++i) {
      if (!studioToo(hits[i])) continue;
      of[left] = i;
      further[left++] = hits[i];
    }
    if (left) traced.intersect(further.data(), int(left), how);
    for (size_t k = 0; k < left; ++k) hits[of[k]] = further[k];
    for (size_t i = 0; i < size_t(rays.n); ++i) tell(hits[i], rays.direction[i], how, wants, points[i]);
  }
};

namespace {
std::uint64_t nextSerial() {
  static std::atomic<std::uint64_t> last{0};
  return ++last;
}
}  // namespace

Scene::Scene(const PlacedSet& set, std::shared_ptr<const Sitter> sitter)
    : impl_(std::make_unique<Impl>()), serial_(nextSerial()) {
  impl_->figure = figureOf(set.sitter, sitter, sitter ? gazeOf(set, *sitter).gaze : Gaze{});
  impl_->set = set;
  impl_->gear = gearThatMatters(set);
  impl_->panels = !set.leaves.empty() || !impl_->gear.empty();
  impl_->addStudio();
  impl_->addPanels();
  impl_->addSolids();
  impl_->firstBody = int(impl_->sides.size());
  impl_->sides.resize(impl_->sides.size() + Impl::kBodies);
  impl_->traced.commit();
}

Scene::~Scene() = default;

std::optional<SurfacePoint> Scene::intersect(Vec3 origin, Vec3 direction, std::uint32_t seed, float threshold,
                                             Colours colours) const {
  const RayQuery how{threshold >= 0, true, false};
  if (how.thresholds) seed = std::uint32_t(threshold * 0x1p32f);
  SurfacePoint s;
  impl_->tell(
      impl_->nearest(rayOf(origin, direction, kOff, INFINITY, seed), how), direction, how,
      [=](const SurfacePoint&) { return std::optional(colours); }, s);
  if (s.surface == Surface::Nothing) return {};
  return s;
}
void Scene::intersect(const Rays& rays, Colours colours, std::array<SurfacePoint, kRun>& hits) const {
  impl_->intersect(
      rays, [=](const SurfacePoint&) { return colours; }, hits);
}
void Scene::intersectIf(const Rays& rays, const std::function<bool(const SurfacePoint&)>& wants,
                        std::array<SurfacePoint, kRun>& hits) const {
  impl_->intersect(
      rays, [&](const SurfacePoint& s) { return wants(s) ? std::optional(Colours::Fine) : std::nullopt; }, hits);
}

bool Scene::occluded(Vec3 origin, Vec3 direction, float near, float far, std::uint32_t seed) const {
  const RTCRay r = rayOf(origin, direction, near, far, seed);
  return impl_->figure->traced().occluded(r) ||
         (impl_->mayPart(origin + direction * near, origin + direction * far) && impl_->traced.occluded(r));
}

void Scene::occluded(Rays& rays) const {
  std::array<RTCRay, kRun> asked;
  std::array<size_t, kRun> of;
  std::array<float, kRun> left;
  for (size_t i = 0; i < size_t(rays.n); ++i) {
    asked[i] = rayOf(rays.origin[i], rays.direction[i], 0, rays.far[i], rays.seed[i]);
    rays.transmittance[i] = 1;
  }
  impl_->figure->traced().occluded(asked.data(), rays.n, rays.transmittance.data());
  size_t n = 0;
  for (size_t i = 0; i < size_t(rays.n); ++i) {
    if (!(rays.transmittance[i] > 0) ||
        !impl_->mayPart(rays.origin[i], rays.origin[i] + rays.direction[i] * rays.far[i]))
      continue;
    of[n] = i;
    left[n] = 1;
    asked[n++] = asked[i];
  }
  if (n) impl_->traced.occluded(asked.data(), int(n), left.data());
  for (size_t k = 0; k < n; ++k) rays.transmittance[of[k]] *= left[k];
}

const std::vector<Side>& Scene::sides() const { return impl_->sides; }

double Scene::bytes() const { return impl_->figure->bytes() + impl_->traced.bytes() + impl_->bytesOfInterreflection; }

const Interreflection& Scene::interreflection() const {
  std::call_once(impl_->computed, [&] {
    impl_->interreflection = std::make_unique<Interreflection>(*this);
    impl_->bytesOfInterreflection = impl_->interreflection->bytes();
  });
  return *impl_->interreflection;
}

std::optional<std::vector<Box>> Scene::movedSince(const Scene& before) const {
  const Impl &now = *impl_, &then = *before.impl_;
  if (now.figure != then.figure || now.low != then.low || now.high != then.high || now.set.room != then.set.room ||
      now.set.backdrop != then.set.backdrop || now.set.haze != then.set.haze || now.sides.size() != then.sides.size() ||
      now.set.panels.size() != then.set.panels.size())
    return {};
  constexpr float kAbout = 0.01f;  // metres
  std::vector<Box> out;
  struct Standing {
    Box about;
    int sides = 0;
    std::vector<const Gobo*> drawn;
    const Solid* mesh = nullptr;
  };
  const auto standing = [](const Impl& in, int panel) {
    Standing s;
    for (const Leaf& l : in.set.leaves) {
      if (l.panel != panel) continue;
      if (l.pattern || l.painted) s.drawn = {l.pattern.get(), l.painted.get()};
      s.sides += l.sampling == Leaf::Sampling::ByArea || l.sampling == Leaf::Sampling::ByCells;
      for (const Vec3& corner : l.corners()) s.about.take(corner);
    }
    s.about = s.about.grownBy(kAbout);
    for (const Thing& t : in.objects)
      if (t.panel == panel) s.mesh = &t.solid;
    return s;
  };
  for (size_t i = 0; i < now.set.panels.size(); ++i) {
    const Standing is = standing(now, int(i)), was = standing(then, int(i));
    if (is.sides != was.sides) return {};
    const bool sameMesh = is.mesh && was.mesh ? *is.mesh == *was.mesh : is.mesh == was.mesh;
    if (now.set.panels[i] == then.set.panels[i] && is.drawn == was.drawn && sameMesh) continue;
    out.push_back(is.about);
    out.push_back(was.about);
  }
  if (now.gear == then.gear) return out;
  for (const Impl* in : {&now, &then})
    for (const Solid& s : in->gear) {
      Box box;
      for (const Vec3& p : s.position) box.take(p);
      out.push_back(box.grownBy(kAbout));
    }
  return out;
}

bool Scene::hasPanels() const { return impl_->panels; }
float Scene::haze() const { return float(impl_->set.haze); }
bool Scene::hasHat() const { return impl_->figure->hasHat(); }
bool Scene::hatBetween(Vec3 from, Vec3 to) const { return impl_->figure->hatBetween(from, to); }
const Glasses* Scene::glasses() const { return impl_->figure->glasses(); }
const Fibre& Scene::fibre() const { return impl_->figure->fibre(); }
const Sitter& Scene::sitter() const { return *impl_->figure->sitter(); }

const std::array<Eye, 2>& Scene::eyes() const { return impl_->figure->eyes(); }

Vec3 Scene::studioPoint(Vec3 local) const {
  return impl_->figure->head()(local) + Vec3{0, float(impl_->set.sitter.eyeHeight), 0};
}

}  // namespace easel
