#include "picture/layer.h"

#include <algorithm>

#include "picture/smooth.h"
#include "transport/parallel.h"
#include "transport/rays.h"

namespace easel {
namespace {

constexpr float kOffset = 2e-4f;  // metres: leaves the surface, below any detail of the meshes

struct Place {
  int x = 0, y = 0;
};

// Eight bounces a pixel are few and the later rounds of passes would only meet them again, so those take the bounce of
// a neighbour a few pixels off on the same surface: the light that arrives there is the same but for a hair's breadth.
const PixelSample& bounceFor(const std::vector<PixelSample>& set, const View& view, int x, int y, int pass) {
  const size_t own = size_t(y) * size_t(view.width) + size_t(x);
  const PixelSample& s = set[own];
  if (pass < kSampleSets || s.albedo.surface == Surface::Nothing) return s;
  constexpr float kReach = 6;  // pixels
  const Vec2 d = concentricDisc(sobol2(std::uint32_t(pass / kSampleSets), hash32(std::uint32_t(own) ^ 0xb0a7u)));
  const int nx = x + int(std::lround(d.x * kReach)), ny = y + int(std::lround(d.y * kReach));
  if (nx < 0 || ny < 0 || nx >= view.width || ny >= view.height) return s;
  const PixelSample& q = set[size_t(ny) * size_t(view.width) + size_t(nx)];
  if (q.albedo.surface != s.albedo.surface) return s;
  const Vec3 n = s.normal.unpacked(), apart = q.position - s.position;
  // Cosine-distributed about its own normal: only where the normals nearly agree is it a fair sample here.
  if (dot(n, q.normal.unpacked()) < 0.9f || std::abs(dot(apart, n)) > 0.35f * length(apart)) return s;
  return q;
}

// The preview asks for the light of panels, which changes slowly, at every second of its pixels and counts it
// that many times; the filter spreads it. Numbers of passes stand in blocks of 4 x 4 there: along diagonals of them.
bool isOneOf(std::uint32_t pass, std::uint32_t oneOf) { return ((pass ^ pass >> 2) & (oneOf - 1)) == 0; }

}  // namespace

// Light that comes by one or more diffuse reflections, from points that the camera's side has kept: irradiance / pi.
// Panels are sampled as emitters of their own; what they do not cover there comes from the room's cells. The first
// surface is found in two ways, from here and from the lamp, weighted by their densities (balance heuristic, as for
// sheen): from here alone a lamp close to a wall or a ceiling would be a matter of luck.
void Layer::bounced(BounceRun& p, const Scene& scene, Run3& out) const {
  p.unpack();
  Run2 u, choice;
  Run3 direction;
  alignas(64) Plane distance, geometry, lamps, weight;
  sobolRun(p.n, p.pass, p.seed, 0x77e1a5u, u);
  emitter_->sampleRun(p.n, p.there, u, direction, distance, geometry);
  source_->returned()->lamp().landingRun(p.n, p.there, p.thereNormal, lamps);
  fromHere(p, lamps, weight);
  const Returned& room = *source_->returned();
  Rays rays;
  std::array<Vec3, kRun> lux;
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    lux[k] = {};
    const Surface surface = p.sample[k]->bounceAlbedo.surface;
    if (surface == Surface::Nothing) continue;
    lux[k] = room.further(p.sample[k]->bounceSide, p.there[i]);
    if (surface == Surface::Panel || surface == Surface::Scrim) continue;
    const float nl = dot(p.thereNormal[i], direction[i]);
    if (!(geometry[k] > 0) || nl <= 0) continue;
    weight[k] *= geometry[k] * nl;
    rays.add(i, p.there[i] + direction[i] * kOffset, direction[i], distance[k] * 0.9999f - kOffset,
             hashPair(p.seed[k], p.pass[k] + 991));
  }
  scene.occluded(rays);
  for (size_t r = 0; r < size_t(rays.n); ++r)
    if (!rays.blocked[r]) lux[size_t(rays.of[r])] += Vec3{1, 1, 1} * weight[size_t(rays.of[r])];
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    const PackedColour& albedo = p.sample[k]->bounceAlbedo;
    if (source_->feedsPanels() && albedo.surface < Surface::Panel) {
      const auto b = source_->sample(&scene, p.there[i], p.pass[k], p.seed[k] ^ 0x6a09u);
      const float nl = dot(p.thereNormal[i], b.direction);
      if (nl > 0 && luminance(b.lux) > 0 &&
          !scene.occluded(p.there[i], b.direction, kOffset, b.distance * 0.9999f, hashPair(p.seed[k], p.pass[k] + 881)))
        lux[k] += b.lux * nl;
    }
    out.set(i, albedo.unpacked() * lux[k] * (1 / kPiF));
  }
  const auto& all = room.landed();
  if (all.empty()) return;
  // Rays that landed nowhere that counts stand for nothing: the mean over all rays, of which these are a part.
  const float share = float(all.size()) / float(room.rays());
  sobolRun(p.n, p.pass, p.seed, 0x1a3du, choice);
  rays.n = 0;
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    const Landed& l = all[std::min(all.size() - 1, size_t(choice.x[k] * float(all.size())))];
    const Vec3 d = l.position - p.here[i];
    const float d2 = dot(d, d), far = std::sqrt(d2);
    const float nl = dot(p.hereNormal[i], d) / far, away = -dot(l.normal, d) / far;
    if (!(nl > 0 && away > 0 && d2 > 1e-8f)) continue;
    const float ours = nl * away / (kPiF * d2);
    const float given = l.flux * share * nl * away / d2 * (1 - ours / (ours + l.density));
    if (!(given > 0)) continue;
    lux[k] = l.albedo * (given / (kPiF * kPiF));
    const Vec3 on = d / far;
    rays.add(i, p.here[i] + p.sample[k]->facet.unpacked() * kOffset + on * kOffset, on, far * 0.9999f - kOffset,
             hashPair(p.seed[k], p.pass[k] + 771));
  }
  scene.occluded(rays);
  for (size_t r = 0; r < size_t(rays.n); ++r)
    if (const int i = rays.of[r]; !rays.blocked[r]) out.set(i, out[i] + lux[size_t(i)]);
}

// Single scattering in even air: what is seen fades by exp(-extinction * depth), and one point of the ray, chosen in
// proportion to what fades there, sends light of the lamp on. Henyey and Greenstein's phase function (1941), forward
// by 0.5 as fog is: light from behind shows, light from the camera's side hardly. The way from the lamp to that point
// is short and taken as clear.
Layer::Radiance Layer::throughHaze(const Radiance& seen, float depth, const View& view, const Scene& scene,
                                   std::uint32_t pass, std::uint32_t pixelKey, Vec3 viewRay) const {
  const float sigma = scene.haze(), clear = std::exp(-sigma * depth);
  Radiance out{seen.direct * clear, seen.sheen * clear};
  if (!emitter_) {
    out.sheen += (1 - clear) / kPiF;
    return out;
  }
  const std::uint32_t seed = hashPair(pixelKey, key_ ^ 0xf09u);
  const float t = -std::log(1 - sobol2(pass, seed).x * (1 - clear)) / sigma;
  const Vec3 p = view.camera.eye + viewRay * t;
  const auto e = emitter_->sample(p, sobol2(pass, seed ^ 0x33u));
  if (e.geometry <= 0 || scene.occluded(p, e.direction, 0, e.distance * 0.9999f, hashPair(seed, pass))) return out;
  constexpr float g = 0.5f;
  const float base = 1 + g * g - 2 * g * dot(e.direction, viewRay);
  const float phase = (1 - g * g) / (4 * kPiF * base * std::sqrt(base));
  out.sheen += (1 - clear) * std::min(e.geometry, 60.f) * phase;
  return out;
}

// Of what no lamp has to be asked for: the ambient, and what shows no surface.
Layer::Radiance Layer::plainly(const PixelSample& s, const View& view, const Scene& scene, std::uint32_t pass,
                               std::uint32_t pixelKey, Vec3 viewRay) const {
  Radiance seen;
  const bool nothing = s.albedo.surface == Surface::Nothing;
  if (nothing && emitter_) {
    if (const auto l = emitter_->seen(view.camera.eye, viewRay, 1e6f)) seen.sheen = *l;
  } else if (!nothing) {
    // What is not sitter glows evenly; the sitter's own surfaces pass on a part of it, panels their share.
    const Surface b = s.bounceAlbedo.surface;
    const bool own = b <= Surface::Cloth, panel = b == Surface::Panel || b == Surface::Scrim;
    const Vec3 passed = s.bounceAlbedo.unpacked();
    seen.direct = s.albedo.unpacked() * (own ? passed * 0.45f : panel ? passed : Vec3{1, 1, 1}) * (1 / kPiF);
  }
  if (scene.haze() <= 0) return seen;
  const float depth = nothing ? 12.f : length(s.position - view.camera.eye);
  return throughHaze(seen, depth, view, scene, pass, pixelKey, viewRay);
}

namespace {

// What arrives along a direction, on surfaces that lit_points.h leaves out, and what panels send to any.
struct Arriving {
  Vec3 from, lux;
};
void receive(const LitPoints& p, int i, const Arriving& light, Vec3& direct, float& sheen) {
  const auto surface = Surface(p.surface[size_t(i)]);
  const Vec3 normal = p.normal[i], toEye = p.toEye[i], from = light.from;
  const PixelSample& s = *p.sample[size_t(i)];
  const Vec3 albedo = s.albedo.unpacked();
  const Vec3 h = normalize(from + toEye);
  float nl = dot(normal, from);
  if (surface == Surface::Hair) {
    // A strand is a cylinder: diffuse with the sine to the strand, two highlights along it (Kajiya and Kay, 1989).
    const Vec3 t = s.special.unpacked();
    const float tl = dot(t, from), sinTL = std::sqrt(std::max(0.f, 1 - tl * tl));
    const float th = dot(t, h), sin2 = std::max(0.f, 1 - th * th);
    // The card's side still matters: the mass of hair behind it shades.
    const float mass = std::clamp(0.35f + 0.65f * nl, 0.f, 1.f);
    const float s4 = sin2 * sin2, s8 = s4 * s4, s16 = s8 * s8;
    const float broad = s8 * 0.9f, narrow = s16 * s16 * s8;
    direct += albedo * light.lux * (mass * (0.62f * sinTL + 0.45f * broad) / kPiF);
    sheen += luminance(light.lux) * mass * 0.016f * narrow;
    return;
  }
  if (surface == Surface::Scrim) nl = std::abs(nl);
  const Vec3 falls = light.lux * nl;
  direct += albedo * falls * (1 / kPiF);
  const float nv = std::max(kLeastToEye, dot(normal, toEye)), nh = std::max(0.f, dot(normal, h)), vh = dot(toEye, h);
  if (surface == Surface::Skin)
    sheen += luminance(falls) * skinSheen(nl, nv, nh, vh);
  else if (surface == Surface::Cloth)
    sheen += luminance(falls) * clothSheen(nl, nv, nh, vh);
  else if (surface == Surface::Brow || surface == Surface::Lash)
    sheen += luminance(falls) * 0.02f * microfacet(nl, nv, nh, 0.5f);
}
bool fibre(std::int32_t surface) {
  return surface == std::int32_t(Surface::Hair) || surface == std::int32_t(Surface::Brow) ||
         surface == std::int32_t(Surface::Lash);
}
// Lit from both sides.
bool through(std::int32_t surface) {
  return surface == std::int32_t(Surface::Hair) || surface == std::int32_t(Surface::Scrim);
}

}  // namespace

void Layer::light(LitPoints& p, const View& view, const Scene& scene, std::uint32_t oneOf,
                  std::span<const Source::PanelPoint> panelPoints, Lit& out) const {
  p.unpack(view.camera.eye);
  fromTheLamp(p, scene, out);
  mirroredBySkin(p, scene, out);
  if (source_->feedsPanels()) fromPanels(p, scene, oneOf, panelPoints, out);
  const bool inFrame = emitter_->mayLight(view.camera.eye);
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    if (p.surface[k] == std::int32_t(Surface::Eye)) mirroredByEye(p, i, scene, out);
    // A lamp inside the frame is seen itself.
    const float depth = inFrame || scene.haze() > 0 ? length(p.position[i] - view.camera.eye) : 0;
    if (const auto l = inFrame ? emitter_->seen(view.camera.eye, -p.toEye[i], depth) : std::nullopt) {
      out.direct.set(i, {});
      out.sheen[k] = *l;
      out.panelDirect.set(i, {});
      out.panelSheen[k] = 0;
    }
    if (scene.haze() > 0) {
      const Radiance r =
          throughHaze({out.direct[i], out.sheen[k]}, depth, view, scene, p.pass[k], p.pixelKey[k], -p.toEye[i]);
      out.direct.set(i, r.direct);
      out.sheen[k] = r.sheen;
      const float clear = std::exp(-scene.haze() * depth);
      out.panelDirect.set(i, out.panelDirect[i] * clear);
      out.panelSheen[k] *= clear;
    }
  }
}

void Layer::fromTheLamp(const LitPoints& p, const Scene& scene, Lit& out) const {
  Run2 u;
  Run3 direction;
  alignas(64) Plane distance, geometry, nl, fl, lux, sampled, irradiance;
  sobolRun(p.n, p.pass, p.seed, 0, u);
  emitter_->sampleRun(p.n, p.position, u, direction, distance, geometry);
  cosinesTo(p, direction, nl, fl);
  Rays rays;
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    lux[k] = 0;
    if (geometry[k] <= 0 || (!through(p.surface[k]) && (nl[k] <= 0 || fl[k] <= 0))) continue;
    const Vec3 side = fl[k] >= 0 ? p.facet[i] : -p.facet[i];
    // The ray starts that much nearer: it must not end in the panel that it asks for.
    rays.add(i, p.position[i] + side * kOffset, direction[i], distance[k] * 0.9999f - 2 * kOffset,
             hashPair(p.seed[k], p.pass[k]));
  }
  scene.occluded(rays);
  for (size_t r = 0; r < size_t(rays.n); ++r)
    if (!rays.blocked[r]) lux[size_t(rays.of[r])] = geometry[size_t(rays.of[r])];
  emitter_->densityRun(p.n, direction, distance, sampled);
  receiveRun(p, direction, nl, lux, sampled, irradiance, out.sheen);
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    Vec3 direct;
    if (!fibre(p.surface[k]))
      direct = p.sample[k]->albedo.unpacked() * (irradiance[k] / kPiF);
    else if (lux[k] > 0)
      receive(p, i, {direction[i], Vec3{1, 1, 1} * lux[k]}, direct, out.sheen[k]);
    out.direct.set(i, direct);
    out.panelDirect.set(i, {});
    out.panelSheen[k] = 0;
  }
}

// See sheenDensity(): the other of the two ways in which skin's sheen is sampled.
void Layer::mirroredBySkin(const LitPoints& p, const Scene& scene, Lit& out) const {
  if (std::none_of(p.surface.begin(), p.surface.begin() + p.n,
                   [](std::int32_t s) { return s == std::int32_t(Surface::Skin); }))
    return;
  Run2 u;
  Run3 direction;
  alignas(64) Plane weight, density, gives;
  std::array<std::uint8_t, kRun> oily, may;
  for (size_t k = 0; k < size_t(p.n); ++k) oily[k] = (p.pass[k] ^ (p.pass[k] / kSampleSets)) & 1;
  sobolRun(p.n, p.pass, p.seed, 0x5ee2u, u);
  mirroredRun(p, u, oily, direction, weight, density);
  emitter_->maySee(p.n, p.position, direction, may);
  Rays rays;
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    if (!(weight[k] > 0) || !may[k]) continue;
    float distance = 0;
    const auto luminance = emitter_->seen(p.position[i], direction[i], 1e6f, &distance);
    if (!luminance || *luminance <= 0) continue;
    gives[k] = *luminance * weight[k] / (emitter_->density(direction[i], distance) + density[k]);
    rays.add(i, p.position[i] + p.facet[i] * kOffset, direction[i], distance * 0.9999f,
             hashPair(p.seed[k], p.pass[k] + 57));
  }
  scene.occluded(rays);
  for (size_t r = 0; r < size_t(rays.n); ++r)
    if (!rays.blocked[r]) out.sheen[size_t(rays.of[r])] += gives[size_t(rays.of[r])];
}

void Layer::fromPanels(const LitPoints& p, const Scene& scene, std::uint32_t oneOf,
                       std::span<const Source::PanelPoint> panelPoints, Lit& out) const {
  Rays rays;
  std::array<Vec3, kRun> lux;
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    if (p.surface[k] == std::int32_t(Surface::Panel) || !isOneOf(p.pass[k], oneOf)) continue;
    const std::uint32_t index = p.pass[k] / oneOf;
    const auto from = index < panelPoints.size() ? Source::seenFrom(panelPoints[index], p.position[i])
                                                 : source_->sample(&scene, p.position[i], index, p.seed[k] ^ 0x9a7eu);
    const float nl = dot(p.normal[i], from.direction), fl = dot(p.facet[i], from.direction);
    if (!(maxOf(from.lux) > 0) || (!through(p.surface[k]) && (nl <= 0 || fl <= 0))) continue;
    lux[k] = from.lux * float(oneOf);
    rays.add(i, p.position[i] + (fl >= 0 ? p.facet[i] : -p.facet[i]) * kOffset, from.direction,
             from.distance * 0.9999f - 2 * kOffset, hashPair(p.seed[k], p.pass[k] + 313));
  }
  scene.occluded(rays);
  for (size_t r = 0; r < size_t(rays.n); ++r) {
    if (rays.blocked[r]) continue;
    const int i = rays.of[r];
    Vec3 direct;
    receive(p, i, {rays.direction[r], lux[size_t(i)]}, direct, out.panelSheen[size_t(i)]);
    out.panelDirect.set(i, direct);
  }
}

// The wet eye mirrors the modifier itself: a catchlight of its real shape.
void Layer::mirroredByEye(const LitPoints& p, int i, const Scene& scene, Lit& out) const {
  const auto k = size_t(i);
  const Vec3 coat = p.sample[k]->special.unpacked(), toEye = p.toEye[i];
  const Vec3 mirrored = normalize(coat * (2 * dot(toEye, coat)) - toEye);
  float distance = 0;
  const Vec3 from = p.position[i] + coat * 0.003f;  // in front of the cornea
  if (const auto l = emitter_->seen(from, mirrored, 1e6f, &distance))
    if (!scene.occluded(from, mirrored, 0.001f, distance * 0.999f, hashPair(p.seed[k], p.pass[k])))
      out.sheen[k] += *l * schlick(0.025f, dot(toEye, coat));
  if (!source_->feedsPanels()) return;
  if (const auto l = source_->seenPanel(scene, from, mirrored, 20, p.pass[k], p.seed[k] ^ 0x3e3eu, &distance))
    if (!scene.occluded(from, mirrored, 0.001f, distance * 0.999f, hashPair(p.seed[k], p.pass[k] + 7)))
      out.sheen[k] += luminance(*l) * schlick(0.025f, dot(toEye, coat));
}

namespace {
constexpr int kEven = 4;  // passes that the whole picture gets alike
// After those, in samples a pass and pixel: what all pixels get, what those get that nothing has reached yet, what
// rough ones get beside light (eight places may have passed a bright edge by, and their own noise says nothing of
// that), the mean of what is handed out by noise, and the most that one may have.
constexpr float kLeast = 0.125f, kDarkLeast = 0.03125f, kRoughLeast = 1, kHandedOut = 0.45f, kMost = 48;
int tilesAcross(const View& v) { return (v.width + kTile - 1) / kTile; }
int tilesDown(const View& v) { return (v.height + kTile - 1) / kTile; }

// Mean over (2 r + 1)^2 pixels, edge pixels over what is there. A single pixel's own estimate of its noise is noise.
void boxMean(std::vector<float>& v, int w, int h, int r) {
  std::vector<float> across(v.size());
  inParallel(size_t(h), [&](size_t at) {
    const int y = int(at);
    for (int x = 0; x < w; ++x) {
      float sum = 0;
      const int x0 = std::max(0, x - r), x1 = std::min(w - 1, x + r);
      for (int k = x0; k <= x1; ++k) sum += v[size_t(y) * size_t(w) + size_t(k)];
      across[size_t(y) * size_t(w) + size_t(x)] = sum / float(x1 - x0 + 1);
    }
  });
  inParallel(size_t(h), [&](size_t at) {
    const int y = int(at);
    const int y0 = std::max(0, y - r), y1 = std::min(h - 1, y + r);
    for (int x = 0; x < w; ++x) {
      float sum = 0;
      for (int k = y0; k <= y1; ++k) sum += across[size_t(k) * size_t(w) + size_t(x)];
      v[size_t(y) * size_t(w) + size_t(x)] = sum / float(y1 - y0 + 1);
    }
  });
}
}  // namespace

// The total error is least when samples go in proportion to the standard deviation of one (Neyman's allocation).
// Outlines and hair are averaged among their own kind: a rim is a line one pixel wide, and its noise is not that of the
// cheek beside it.
void Layer::shareOut(const SampleSets& sets) {
  const View& view = sets.view();
  const size_t pixels = count_.size();
  double total = 0;
  for (size_t i = 0; i < pixels; ++i)
    total += double(luminance({sum_[i * 4], sum_[i * 4 + 1], sum_[i * 4 + 2]})) / std::max(1u, count_[i]);
  const auto floor = float(0.05 * total / double(pixels) + 1e-12);
  std::vector<float> deviation(pixels), fine(pixels), kind(pixels);
  inParallel(size_t(pixels), 8192, [&](size_t first, size_t last) {
    for (size_t i = first; i < last; ++i) {
      const float* s = &sum_[i * 4];
      const int n = int(count_[i]), evens = (n + 1) / 2, odds = n / 2;
      kind[i] = sets.rough(i);
      if (odds < 1) continue;
      const float all = luminance({s[0], s[1], s[2]}) + s[3], even = evenSum_[i] + evenSheen_[i];
      const float difference = even / float(evens) - (all - even) / float(odds);
      // As the eye weighs it: the tone curve is near a square root. Times n / 4: variance of a single sample.
      (kind[i] > 0 ? fine : deviation)[i] = difference * difference * float(n) / (all / float(n) + floor);
    }
  });
  const std::vector<float> rough = kind;
  for (auto* v : {&deviation, &fine, &kind}) boxMean(*v, view.width, view.height, 2);
  double sum = 0;
  for (size_t i = 0; i < pixels; ++i) {
    deviation[i] = std::sqrt(rough[i] > 0 ? fine[i] / kind[i] : deviation[i] / (1 - kind[i]));
    sum += double(deviation[i]);
  }
  share_.resize(pixels);
  const float scale = sum > 0 ? float(kHandedOut * double(pixels) / sum) : 0.f;
  for (size_t i = 0; i < pixels; ++i)
    share_[i] = std::uint16_t(std::lround(16 * std::min(kMost, (deviation[i] <= 0 ? kDarkLeast
                                                                : rough[i] > 0    ? kRoughLeast
                                                                                  : kLeast) +
                                                                   deviation[i] * scale)));
}

// The bounce is asked for at one pixel of four, that of the half-resolution picture; after the first round of the sets
// at a quarter of those in turn.
bool Layer::bounceDue(int x, int y) const {
  const int shift = x / 2 & 1;
  if (x % 2 != 0 || y < shift || (y - shift) % 2 != 0) return false;
  return passes_ < kSampleSets || ((x / 2 + y / 2 * 2 + passes_) & 3) == 0;
}

void Layer::addBounce(const SampleSets& sets, int x, int y, std::uint32_t pixelKey, BounceRun& points) {
  const View& view = sets.view();
  const size_t i = size_t(y) * size_t(view.width) + size_t(x);
  const int n = passes_ < kSampleSets ? passes_ : kSampleSets + (passes_ - kSampleSets) / 4;
  const auto mostly = Surface(sets.guides(1).surface[i]);
  const size_t place = size_t(y / 2) * size_t((view.width + 1) / 2) + size_t(x / 2);
  // Once all sets stand it may turn out that the first had met the lesser part of the pixel.
  if (n == kSampleSets && mostly != sets.set(0)[i].albedo.surface) std::fill_n(&bounced_[place * 4], 4, 0.f);
  const auto& set = sets.set(n % kSampleSets);
  if (mostly == Surface::Nothing || set[i].albedo.surface != mostly) return;
  points.add(bounceFor(set, view, x, y, n), place, hashPair(pixelKey, key_), std::uint32_t(n));
}

void Layer::takeBounces(BounceRun& points, const Scene& scene) {
  if (points.n == 0) return;
  Run3 light;
  bounced(points, scene, light);
  for (int k = 0; k < points.n; ++k) {
    float* sum = &bounced_[points.place[size_t(k)] * 4];
    sum[0] += light.x[size_t(k)];
    sum[1] += light.y[size_t(k)];
    sum[2] += light.z[size_t(k)];
    ++sum[3];
  }
  points.n = 0;
}

void Layer::count(size_t pixel, int n, const Radiance& l) {
  float* out = &sum_[pixel * 4];
  out[0] += l.direct.x;
  out[1] += l.direct.y;
  out[2] += l.direct.z;
  out[3] += l.sheen;
  if (n % 2 == 0) {
    evenSum_[pixel] += luminance(l.direct);
    evenSheen_[pixel] += l.sheen;
  }
}

bool Layer::trace(const SampleSets& sets, const Interrupt& interrupt) {
  const View& view = sets.view();
  const int across = tilesAcross(view), tiles = across * tilesDown(view);
  const size_t pixels = size_t(view.width) * size_t(view.height);
  if (sum_.empty()) {
    sum_.assign(pixels * 4, 0);
    bounced_.assign(size_t((view.width + 1) / 2) * size_t((view.height + 1) / 2) * 4, 0);
    evenSum_.assign(pixels, 0);
    evenSheen_.assign(pixels, 0);
    count_.assign(pixels, 0);
  }
  if (tileDone_.empty()) {
    tileDone_.assign(size_t(tiles), 0);
    if (passes_ >= kEven && passes_ % (passes_ < 16 ? 2 : 8) == 0) shareOut(sets);
  }
  // Where light can come from the lamp alone, what the lamp cannot reach needs no colour, nor what is finer than the
  // mesh.
  const bool onlyLit =
      emitter_ && !source_->feedsPanels() && sets.scene().haze() <= 0 && !emitter_->mayLight(view.camera.eye);
  const std::function<bool(const SurfacePoint&)> mayBeLit = [this, onlyLit](const SurfacePoint& s) {
    if (!onlyLit) return true;
    const bool through = s.surface == Surface::Hair || s.surface == Surface::Scrim;
    return through || s.surface == Surface::Eye ? emitter_->mayLight(s.position)
                                                : emitter_->mayLight(s.position, s.facet);
  };
  inParallel(size_t(tiles), [&](size_t at) {
    const int tile = int(at);
    if (tileDone_[size_t(tile)] || interrupt.raised()) return;
    const int x0 = tile % across * kTile, y0 = tile / across * kTile;
    LitPoints points;
    BounceRun bounces;
    Lit lit;
    std::array<PixelSample, kRun> fresh;
    std::array<size_t, kRun> pixel;
    const auto take = [&] {
      light(points, view, sets.scene(), 1, {}, lit);
      for (int k = 0; k < points.n; ++k)
        count(pixel[size_t(k)], int(points.pass[size_t(k)]),
              {lit.direct[k] + lit.panelDirect[k], lit.sheen[size_t(k)] + lit.panelSheen[size_t(k)]});
      points.n = 0;
    };
    for (int y = y0; y < std::min(y0 + kTile, view.height); ++y)
      for (int x = x0; x < std::min(x0 + kTile, view.width); ++x) {
        const size_t i = size_t(y) * size_t(view.width) + size_t(x);
        const std::uint32_t pixelKey = hash32(std::uint32_t(i));
        int samples = 1;
        if (!share_.empty()) {
          // Shares are sixteenths: every pixel has its own phase, so that a part of them is due in every pass.
          const int phase = int(pixelKey & 15), share = share_[i];
          samples = ((passes_ + 1) * share + phase) / 16 - (passes_ * share + phase) / 16;
        }
        for (int k = 0; k < samples; ++k) {
          const int n = int(count_[i]++);
          // A noisy pixel may be ahead of the sets that stand.
          const bool own = n % kSampleSets >= sets.complete() || (n >= kSampleSets && sets.rough(i));
          if (own) {
            const auto met = sets.fresh(x, y, n, mayBeLit);
            if (!met) continue;  // dark for certain
            fresh[size_t(points.n)] = *met;
          }
          const PixelSample& s = own ? fresh[size_t(points.n)] : sets.set(n % kSampleSets)[i];
          if (emitter_ && s.albedo.surface != Surface::Nothing) {
            pixel[size_t(points.n)] = i;
            points.add(s, pixelKey, hashPair(pixelKey, key_), std::uint32_t(n));
            if (points.full()) take();
            continue;
          }
          // What is traced anew has no bounce; a pixel's eight tell what the room shows it, which is all that the
          // ambient asks. Without them hair would stand under an open sky.
          if (own) fresh[size_t(points.n)].bounceAlbedo = sets.set(n % std::max(1, sets.complete()))[i].bounceAlbedo;
          const Vec3 ray = s.albedo.surface == Surface::Nothing ? view.direction(float(x) + 0.5f, float(y) + 0.5f)
                                                                : normalize(s.position - view.camera.eye);
          count(i, n, plainly(s, view, sets.scene(), std::uint32_t(n), pixelKey, ray));
        }
        if (emitter_ && bounceDue(x, y)) addBounce(sets, x, y, pixelKey, bounces);
        if (bounces.full()) takeBounces(bounces, sets.scene());
      }
    if (points.n) take();
    takeBounces(bounces, sets.scene());
    tileDone_[size_t(tile)] = 1;
  });
  for (std::uint8_t done : tileDone_)
    if (!done) return false;
  tileDone_.clear();
  ++passes_;
  return true;
}

std::shared_ptr<const LayerPicture> Layer::preview(const SampleSets& sets) const {
  const View& view = sets.view();
  const int w = (view.width + 1) / 2, h = (view.height + 1) / 2;
  const auto& set = sets.set(0);
  // Light over panels and light that has bounced come from wide about: asked for at some pixels only, they are smooth
  // by nature and may be smoothed far more than the edge of a shadow.
  const bool overPanels = emitter_ && source_->feedsPanels();
  Irradiance half(sets.guides(2));
  std::optional<Irradiance> soft;
  if (overPanels) soft.emplace(sets.guides(2));
  // All pixels have one key and sixteen pass numbers: panels are met at a few points, the same for all.
  constexpr std::uint32_t kOneKey = 0x1234567u, kOneOf = 2, kPatterns = 16;
  std::vector<Source::PanelPoint> panelPoints;
  for (std::uint32_t k = 0; overPanels && k < kPatterns / kOneOf; ++k)
    panelPoints.push_back(source_->panelPoint(&sets.scene(), k, hashPair(kOneKey, key_) ^ 0x9a7eu));
  const int across = (w + kTile - 1) / kTile, down = (h + kTile - 1) / kTile;
  inParallel(size_t(across) * size_t(down), [&](size_t at) {
    const int tile = int(at);
    const int x0 = tile % across * kTile, y0 = tile / across * kTile;
    LitPoints points;
    Lit lit;
    std::array<Place, kRun> place;
    const auto put = [&](int x, int y, const PixelSample& s, const Radiance& l, const Radiance& wide) {
      const Vec3 albedo = s.albedo.unpacked();
      const bool solid = s.albedo.surface != Surface::Nothing;
      // The room's cells know all that arrives at a place, near enough for a first look, and ask for no ray.
      const Vec3 bounced = emitter_ && solid ? albedo * s.bounceAlbedo.unpacked() * (1 / kPiF) *
                                                   source_->returned()->all(s.bounceSide, s.bouncePosition)
                                             : Vec3{};
      half.set(x, y, soft ? l.direct : l.direct + bounced, albedo, l.sheen, solid);
      if (soft) soft->set(x, y, wide.direct + bounced, albedo, wide.sheen, solid);
    };
    const auto take = [&] {
      light(points, view, sets.scene(), kOneOf, panelPoints, lit);
      for (int k = 0; k < points.n; ++k)
        put(place[size_t(k)].x, place[size_t(k)].y, *points.sample[size_t(k)], {lit.direct[k], lit.sheen[size_t(k)]},
            {lit.panelDirect[k], lit.panelSheen[size_t(k)]});
      points.n = 0;
    };
    for (int y = y0; y < std::min(y0 + kTile, h); ++y)
      for (int x = x0; x < std::min(x0 + kTile, w); ++x) {
        const size_t full = size_t(std::min(2 * y + (x & 1), view.height - 1)) * size_t(view.width) +
                            size_t(std::min(2 * x, view.width - 1));
        const PixelSample& s = set[full];
        // One pattern of pass numbers per 4x4 block spreads the noise evenly for the filter.
        const auto pattern = std::uint32_t((x & 3) + 4 * (y & 3));
        if (emitter_ && s.albedo.surface != Surface::Nothing) {
          place[size_t(points.n)] = {x, y};
          points.add(s, kOneKey, hashPair(kOneKey, key_), pattern);
          if (points.full()) take();
          continue;
        }
        const Vec3 ray = s.albedo.surface == Surface::Nothing ? view.direction(float(2 * x) + 0.5f, float(2 * y) + 0.5f)
                                                              : normalize(s.position - view.camera.eye);
        put(x, y, s, plainly(s, view, sets.scene(), pattern, kOneKey, ray), {});
      }
    if (points.n) take();
  });
  half.smooth(3, 1);
  Irradiance full(sets.guides(1));
  half.addToFull(full);
  if (soft) {
    soft->smoothWide(4);
    soft->addToFull(full);
  }
  return finished(full, sets);
}

std::shared_ptr<const LayerPicture> Layer::finished(const Irradiance& full, const SampleSets& sets) const {
  auto out = std::make_shared<LayerPicture>();
  out->width = sets.view().width;
  out->height = sets.view().height;
  out->passes = passes_;
  const size_t pixels = size_t(out->width) * size_t(out->height);
  for (auto* plane : {&out->r, &out->g, &out->b}) plane->resize(pixels);
  full.finish(sets, *out);
  return out;
}

std::shared_ptr<const LayerPicture> Layer::picture(const SampleSets& sets, bool smooth) const {
  const View& view = sets.view();
  Irradiance full(sets.guides(1));
  inParallel(size_t(view.height), 16, [&](size_t first, size_t last) {
    for (int y = int(first); y < int(last); ++y)
      for (int x = 0; x < view.width; ++x) {
        const size_t i = size_t(y) * size_t(view.width) + size_t(x);
        const float* s = &sum_[i * 4];
        const int n = std::max(1, count_.empty() ? 1 : int(count_[i]));
        const float scale = 1 / float(n);
        // Where several surfaces share the pixel, their light is not one irradiance times the mean albedo: that is
        // taken out and put back the same.
        const Vec3 albedo = sets.meanAlbedo(sets.rough(i) ? sets.complete() : n, i);
        full.set(x, y, Vec3{s[0], s[1], s[2]} * scale, albedo, s[3] * scale,
                 sets.guides(1).surface[i] != std::int32_t(Surface::Nothing));
        if (smooth && n > 1) {
          const int evens = (n + 1) / 2, odds = n / 2;
          const float evenMean = evenSum_[i] / float(evens);
          const float oddMean = (luminance({s[0], s[1], s[2]}) - evenSum_[i]) / float(odds);
          full.setNoise(x, y, (evenMean - oddMean) / 2, luminance(albedo));
        }
      }
  });
  // The filter fades as the passes mount. More rounds lower the noise of skin no further and cost hair and shadow edges
  // (measured against 512 passes).
  const int rounds = !smooth ? 0 : passes_ <= 8 ? 2 : passes_ <= 16 ? 1 : 0;
  if (rounds) full.smooth(rounds, passes_);
  if (emitter_) {
    const int w = (view.width + 1) / 2, h = (view.height + 1) / 2;
    Irradiance bounced(sets.guides(2));
    inParallel(size_t(h), 16, [&](size_t first, size_t last) {
      for (int y = int(first); y < int(last); ++y)
        for (int x = 0; x < w; ++x) {
          const float* b = &bounced_[(size_t(y) * size_t(w) + size_t(x)) * 4];
          bounced.set(x, y, Vec3{b[0], b[1], b[2]} / std::max(1.f, b[3]), {1, 1, 1}, 0, b[3] > 0);
        }
    });
    // The bounce changes slowly over a surface: however many passes, it is smoothed further than shadow edges may be.
    if (smooth) bounced.smoothWide(4);
    bounced.addToFull(full);
  }
  if (smooth) full.scatterInSkin();
  return finished(full, sets);
}

}  // namespace easel
