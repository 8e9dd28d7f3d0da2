#include "picture/lighting.h"

#include <algorithm>

#include "sitters/glasses.h"
#include "transport/fibre.h"
#include "transport/rays.h"
#include "transport/skin.h"

namespace easel {
namespace {

constexpr int kTried = 4;         // points of the front, of a strand
constexpr float kOffset = 2e-4f;  // metres: leaves the surface, below any detail of the meshes

// The preview asks for the light of panels, which changes slowly, at every second of its pixels and counts it
// that many times; the filter spreads it. Numbers of passes stand in blocks of 4 x 4 there: along diagonals of them.
bool isOneOf(std::uint32_t pass, std::uint32_t oneOf) { return ((pass ^ pass >> 2) & (oneOf - 1)) == 0; }

// Of the ambient: what is not sitter glows evenly; the sitter's own surfaces pass on a part of it, panels their share.
Vec3 evenLight(const PackedColour& hit) {
  const Vec3 passed = hit.unpacked();
  if (putUp(hit.surface)) return passed * (1 / kPiF);
  return (ofSitter(hit.surface) ? passed * 0.45f : Vec3{1, 1, 1}) * (1 / kPiF);
}

}  // namespace

void Lighting::bounced(BounceRun& p, const View& view, const Scene& scene, const Source::Points& panels,
                       Run3& out) const {
  p.unpack();
  if (ambient())
    for (int i = 0; i < p.n; ++i) out.set(i, evenLight(p.to[size_t(i)]->albedo));
  else
    bouncedOfLamp(p, scene, panels, out);
  if (scene.haze() > 0)
    for (int i = 0; i < p.n; ++i) out.set(i, out[i] * std::exp(-scene.haze() * length(p.here[i] - view.camera.eye)));
}

// Light that comes by one or more diffuse reflections, from points that the camera's side has kept: irradiance / pi.
// Panels are sampled as emitters of their own; what they do not cover there comes from the room's cells. The first
// surface is found in two ways, from here and from the lamp, weighted by their densities (balance heuristic, as for
// sheen): from here alone a lamp close to a wall or a ceiling would be a matter of luck.
void Lighting::bouncedOfLamp(const BounceRun& p, const Scene& scene, const Source::Points& panels, Run3& out) const {
  Run2 u, choice;
  Run3 direction;
  alignas(64) Plane distance, geometry, lamps, weight;
  sobolRun(p.n, p.pass, p.seed, 0x77e1a5u, u);
  emitter_->sampleRun(p.n, p.there, u, direction, distance, geometry);
  source_->indirect()->lamp().pdfRun(p.n, p.there, p.thereNormal, lamps);
  fromHere(p, lamps, weight);
  const IndirectLight& room = *source_->indirect();
  Rays rays;
  std::array<Vec3, kRun> lux, fromBoards;
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    lux[k] = fromBoards[k] = {};
    const Surface surface = p.to[k]->albedo.surface;
    if (surface == Surface::Nothing) continue;
    lux[k] = room.further(p.to[k]->side, p.there[i]);
    if (sampledByArea(surface)) {
      if (p.from[k]->albedo.surface == Surface::Panel) fromBoards[k] = boardFromBoard(p, i, scene);
      continue;
    }
    const float nl = dot(p.thereNormal[i], direction[i]);
    if (!(geometry[k] > 0) || nl <= 0) continue;
    weight[k] *= geometry[k] * nl;
    rays.add(i, p.there[i] + direction[i] * kOffset, direction[i], distance[k] * 0.9999f - kOffset,
             hashPair(p.seed[k], p.pass[k] + 991));
  }
  scene.occluded(rays);
  for (size_t r = 0; r < size_t(rays.n); ++r)
    lux[size_t(rays.of[r])] += Vec3{1, 1, 1} * (weight[size_t(rays.of[r])] * rays.transmittance[r]);
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    const PackedColour& albedo = p.to[k]->albedo;
    if (source_->feedsPanels() && !sampledByArea(albedo.surface) && albedo.surface != Surface::Nothing) {
      const std::uint32_t seed = p.seed[k] ^ 0x6a09u;
      const auto b = panels.empty() ? source_->sample(&scene, p.there[i], p.pass[k], seed)
                                    : Source::seenFrom(panels.at(p.pass[k], seed), p.there[i]);
      const float nl = dot(p.thereNormal[i], b.direction);
      if (nl > 0 && luminance(b.lux) > 0 &&
          !scene.occluded(p.there[i], b.direction, kOffset, b.distance * 0.9999f, hashPair(p.seed[k], p.pass[k] + 881)))
        lux[k] += b.lux * nl;
    }
    out.set(i, albedo.unpacked() * lux[k] * (1 / kPiF) + fromBoards[k]);
  }
  const auto& all = room.virtualLights();
  if (all.empty()) return;
  // Rays that landed nowhere that counts stand for nothing: the mean over all rays, of which these are a part.
  const float share = float(all.size()) / float(room.rays());
  sobolRun(p.n, p.pass, p.seed, 0x1a3du, choice);
  rays.n = 0;
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    const VirtualLight& l = all[std::min(all.size() - 1, size_t(choice.x[k] * float(all.size())))];
    const Vec3 d = l.position - p.here[i];
    const float d2 = dot(d, d), far = std::sqrt(d2);
    const float nl = dot(p.hereNormal[i], d) / far, away = -dot(l.normal, d) / far;
    if (!(nl > 0 && away > 0 && d2 > 1e-8f)) continue;
    const float ours = nl * away / (kPiF * d2);
    const float given = l.flux * share * nl * away / d2 * (1 - ours / (ours + l.pdf));
    if (!(given > 0)) continue;
    lux[k] = l.albedo * (given / (kPiF * kPiF));
    const Vec3 on = d / far;
    rays.add(i, p.here[i] + p.from[k]->facet.unpacked() * kOffset + on * kOffset, on, far * 0.9999f - kOffset,
             hashPair(p.seed[k], p.pass[k] + 771));
  }
  scene.occluded(rays);
  for (size_t r = 0; r < size_t(rays.n); ++r)
    if (const int i = rays.of[r]; rays.transmittance[r] > 0)
      out.set(i, out[i] + lux[size_t(i)] * rays.transmittance[r]);
}

// What a board that is met by a bounced ray sends of the lamp's light, with the weight of this way to find it.
Vec3 Lighting::boardFromBoard(const BounceRun& p, int i, const Scene& scene) const {
  if (!source_->feedsPanels()) return {};
  const auto k = size_t(i);
  const Vec3 way = p.there[i] - p.here[i];
  const float distance = length(way), cosine = dot(p.hereNormal[i], way) / distance;
  const auto seen =
      source_->seenPanel(scene, p.here[i], way / distance, distance + 1e-3f, p.pass[k], p.seed[k] ^ 0x51e7u);
  if (!seen || !(cosine > 0)) return {};
  const float ours = cosine / kPiF;
  return seen->luminance * (ours / (ours + seen->pdf));
}

// Single scattering in even air: what is seen fades by exp(-extinction * depth), and one point of the ray, chosen in
// proportion to what fades there, sends light of the lamp on. Henyey and Greenstein's phase function (1941), forward
// by 0.5 as fog is: light from behind shows, light from the camera's side hardly. The way from the lamp fades too, in
// what the emitter says.
Radiance Lighting::throughHaze(const Radiance& seen, float depth, const View& view, const Scene& scene,
                               std::uint32_t pass, std::uint32_t pixelKey, Vec3 viewRay) const {
  const float sigma = scene.haze(), clear = std::exp(-sigma * depth);
  Radiance out{seen.direct * clear, seen.sheen * clear};
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

Vec3 Lighting::firstBounce(const PixelSample& from, const BounceSample& to, const View& view,
                           const Scene& scene) const {
  const Vec3 light = ambient() ? evenLight(to.albedo)
                               : to.albedo.unpacked() * (1 / kPiF) * source_->indirect()->all(to.side, to.position);
  return scene.haze() > 0 ? light * std::exp(-scene.haze() * length(from.position - view.camera.eye)) : light;
}

float Lighting::glow(const Scene& scene, float depth) const {
  return ambient() ? (1 - std::exp(-scene.haze() * depth)) / kPiF : 0;
}

Radiance Lighting::beyond(const View& view, const Scene& scene, std::uint32_t pass, std::uint32_t pixelKey,
                          Vec3 viewRay) const {
  float depth = kNothingAt;
  const auto lamp = emitter_->seen(view.camera.eye, viewRay, 1e6f, &depth);
  // A lamp that is seen has faded on its way already.
  Radiance seen =
      scene.haze() > 0 ? throughHaze({}, lamp ? depth : kNothingAt, view, scene, pass, pixelKey, viewRay) : Radiance{};
  if (lamp) seen.sheen += *lamp;
  return seen;
}

namespace {

// What arrives along a direction, on surfaces that lit_points.h leaves out, and what panels send to any.
struct Arriving {
  Vec3 from, lux;
  float passed = 1;  ///< of what was sent
};
void receive(const LitPoints& p, int i, const Fibre& fibre, const Arriving& light, Vec3& direct, float& sheen) {
  const auto surface = Surface(p.surface[size_t(i)]);
  const Vec3 normal = p.normal[i], toEye = p.toEye[i], from = light.from;
  const PixelSample& s = *p.sample[size_t(i)];
  const Vec3 albedo = s.albedo.unpacked();
  const Vec3 h = normalize(from + toEye);
  float nl = dot(normal, from);
  if (surface == Surface::Hair) {
    const Fibre::Sent sent = fibre.sent(s.special.unpacked(), toEye, from);
    const Vec3 lux = light.lux * fibre.tinted(light.passed);
    direct += lux * (sent.coloured * (luminance(albedo) / fibre.meant()) + Vec3{1, 1, 1} * sent.mirrored);
    return;
  }
  if (surface == Surface::Scrim) nl *= nl > 0 ? p.before[size_t(i)] : -p.behind[size_t(i)];
  const Vec3 falls = light.lux * nl;
  direct += albedo * falls * (1 / kPiF);
  const float nv = std::max(kLeastToEye, dot(normal, toEye)), nh = std::max(0.f, dot(normal, h)), vh = dot(toEye, h);
  if (surface == Surface::Skin)
    sheen += luminance(falls) * skinSheen(nl, nv, nh, vh, p.share[size_t(i)]);
  else if (surface == Surface::Cloth)
    sheen +=
        luminance(falls) * clothSheen(nl, nv, nh, vh, p.share[size_t(i)], p.roughness[size_t(i)], p.fuzz[size_t(i)]);
  else if (surface == Surface::Lash)
    sheen += luminance(falls) * 0.02f * microfacet(nl, nv, nh, 0.5f);
}
bool fibre(std::int32_t surface) {
  return surface == std::int32_t(Surface::Hair) || surface == std::int32_t(Surface::Lash);
}
// Of skin that is lit from behind, else 0.
float thinAt(const LitPoints& p, int i) {
  const auto k = size_t(i);
  return p.surface[k] == std::int32_t(Surface::Skin) ? thicknessOf(p.sample[k]->special.code()) : 0;
}
constexpr float kBehind = 1.3f;  // of the thickness: an ear is not even
// Turned to the light. Skin and cloth are lifted to where the smooth surface is (SurfacePoint::position), and their
// facets turn away from light sooner than it does, each by itself: its normal alone decides.
bool faces(const LitPoints& p, int i, float normal, float facet) {
  const auto surface = Surface(p.surface[size_t(i)]);
  return normal > 0 && (facet > 0 || surface == Surface::Skin || surface == Surface::Cloth);
}
// Lit from both sides.
bool through(std::int32_t surface) {
  return surface == std::int32_t(Surface::Hair) || surface == std::int32_t(Surface::Scrim);
}

}  // namespace

bool Lighting::mayLight(const SurfacePoint& s, const View& view, const Scene& scene) const {
  // Panels and haze send light where the lamp sends none, and a lamp in the frame is seen itself.
  if (source_->feedsPanels() || scene.haze() > 0 || emitter_->mayLight(view.camera.eye)) return true;
  const bool anyWay =
      through(std::int32_t(s.surface)) || s.surface == Surface::Eye || s.throughLens() || s.thickness > 0;
  return anyWay ? emitter_->mayLight(s.position)
                : emitter_->mayLight(s.position, s.facet) || emitter_->mayLight(s.position, s.normal);
}

void Lighting::light(LitPoints& p, const View& view, const Scene& scene, const Source::Points& panels, Lit& out) const {
  Source::PanelPoint own;
  const auto panelOf = [&](size_t k) -> const Source::PanelPoint* {
    const std::uint32_t seed = p.seed[k] ^ kPanels;
    if (!panels.empty()) return &panels.at(p.pass[k], seed);
    own = source_->panelPoint(&scene, p.pass[k], seed);
    return &own;
  };
  light(p, view, scene, false, 1, panelOf, out);
}

void Lighting::firstLook(LitPoints& p, const View& view, const Scene& scene, std::uint32_t oneOf,
                         std::span<const Source::PanelPoint> panelPoints, Lit& out) const {
  light(
      p, view, scene, true, float(oneOf),
      [&](size_t k) { return isOneOf(p.pass[k], oneOf) ? &panelPoints[p.pass[k] / oneOf] : nullptr; }, out);
}

void Lighting::light(LitPoints& p, const View& view, const Scene& scene, bool firstLook, float panelWeight,
                     const PanelOf& panelOf, Lit& out) const {
  p.unpack(view.camera.eye);
  fromTheLamp(p, scene, firstLook, out);
  mirroredBySkin(p, scene, out);
  if (source_->feedsPanels()) fromPanels(p, scene, firstLook, panelWeight, panelOf, out);
  const bool inFrame = emitter_->mayLight(view.camera.eye);
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    if (p.surface[k] == std::int32_t(Surface::Eye)) mirroredByEye(p, i, scene, out);
    if (p.sample[k]->throughLens()) mirroredByLens(p, i, scene, out);
    // A lamp inside the frame is seen itself.
    float depth = inFrame || scene.haze() > 0 ? length(p.position[i] - view.camera.eye) : 0;
    float lampAt = 0;
    const auto lamp = inFrame ? emitter_->seen(view.camera.eye, -p.toEye[i], depth, &lampAt) : std::nullopt;
    if (lamp) {
      depth = lampAt;
      out.direct.set(i, {});
      out.sheen[k] = 0;
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
    if (lamp) out.sheen[k] += *lamp;  // faded on its way already
  }
}

// Of strands, several points of the front are tried and one is asked about, chosen by what it would give with nothing
// in its way; it stands for the mean of them all (J. Talbot, D. Cline, P. Egbert, "Importance resampling for global
// illumination", EGSR 2005). What a strand makes of a front differs more from one end of it to the other than what
// stands between. Of a skin the points are better left as evenly spread as they are.
void Lighting::chooseForStrands(const LitPoints& p, const Fibre& fibre, Run3& direction, Plane& distance,
                                Plane& geometry) const {
  std::array<int, kRun> at;
  RunOf32 index, seed;
  Run3 position, towards;
  Run2 u, choice;
  alignas(64) Plane far, sent;
  int n = 0;
  for (int i = 0; i < p.n; ++i)
    if (p.surface[size_t(i)] == std::int32_t(Surface::Hair)) {
      seed[size_t(n)] = p.seed[size_t(i)];
      index[size_t(n)] = p.pass[size_t(i)];
      position.set(n, p.position[i]);
      at[size_t(n++)] = i;
    }
  if (n == 0) return;
  sobolRun(n, index, seed, 0xc401u, choice);
  for (size_t k = 0; k < size_t(n); ++k) index[k] *= kTried;
  struct Chosen {
    Vec3 direction;
    float distance = 0, geometry = 0, gives = 0, sum = 0;
  };
  std::array<Chosen, kRun> chosen;
  for (int c = 0; c < kTried; ++c) {
    sobolRun(n, index, seed, 0, u);
    emitter_->sampleRun(n, position, u, towards, far, sent);
    for (int j = 0; j < n; ++j) {
      const auto k = size_t(j);
      ++index[k];
      if (!(sent[k] > 0)) continue;
      const PixelSample& s = *p.sample[size_t(at[k])];
      const Fibre::Sent by = fibre.sent(s.special.unpacked(), p.toEye[at[k]], towards[j]);
      const float gives =
          sent[k] * (luminance(by.coloured) * luminance(s.albedo.unpacked()) / fibre.meant() + by.mirrored);
      if (!(gives > 0)) continue;
      // One pass, one number: what has been kept is given up by its share, and the number spread anew over the rest.
      Chosen& one = chosen[k];
      one.sum += gives;
      const float share = gives / one.sum;
      float& number = choice.x[k];
      if (number < share) {
        number /= share;
        one.direction = towards[j];
        one.distance = far[k];
        one.geometry = sent[k];
        one.gives = gives;
      } else {
        number = (number - share) / (1 - share);
      }
    }
  }
  for (size_t k = 0; k < size_t(n); ++k) {
    const Chosen& one = chosen[k];
    direction.set(at[k], one.direction);
    distance[size_t(at[k])] = one.distance;
    geometry[size_t(at[k])] = one.gives > 0 ? one.geometry * one.sum / (kTried * one.gives) : 0;
  }
}

void Lighting::fromTheLamp(const LitPoints& p, const Scene& scene, bool firstLook, Lit& out) const {
  Run2 u;
  Run3 direction;
  alignas(64) Plane distance, geometry, nl, fl, lux, sampled, irradiance;
  sobolRun(p.n, p.pass, p.seed, 0, u);
  emitter_->sampleRun(p.n, p.position, u, direction, distance, geometry);
  if (!firstLook) chooseForStrands(p, scene.fibre(), direction, distance, geometry);
  cosinesTo(p, direction, nl, fl);
  Rays rays;
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    lux[k] = 0;
    const float thickness = nl[k] < 0 ? thinAt(p, i) : 0;
    const bool turned = faces(p, i, nl[k], fl[k]);
    if (geometry[k] <= 0 || !(turned || through(p.surface[k]) || thickness > 0)) continue;
    const Vec3 side = fl[k] >= 0 || turned ? p.facet[i] : -p.facet[i];
    // The ray starts that much nearer: it must not end in the panel that it asks for.
    rays.add(i, p.position[i] + side * (kOffset + kBehind * thickness), direction[i],
             distance[k] * 0.9999f - 2 * kOffset, hashPair(p.seed[k], p.pass[k]));
  }
  scene.occluded(rays);
  for (size_t r = 0; r < size_t(rays.n); ++r)
    lux[size_t(rays.of[r])] = geometry[size_t(rays.of[r])] * rays.transmittance[r];
  emitter_->pdfRun(p.n, p.position, direction, distance, sampled);
  receiveRun(p, direction, nl, lux, sampled, irradiance, out.sheen);
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    Vec3 direct;
    if (!fibre(p.surface[k])) {
      direct = p.sample[k]->albedo.unpacked() * (irradiance[k] / kPiF);
      if (irradiance[k] < 0) direct = direct * -throughSkin(thinAt(p, i));
    } else if (lux[k] > 0)
      receive(p, i, scene.fibre(), {direction[i], Vec3{1, 1, 1} * lux[k], lux[k] / geometry[k]}, direct, out.sheen[k]);
    out.direct.set(i, direct);
    out.panelDirect.set(i, {});
    out.panelSheen[k] = 0;
  }
}

// See sheenPdf(): the other of the two ways in which skin's sheen is sampled.
void Lighting::mirroredBySkin(const LitPoints& p, const Scene& scene, Lit& out) const {
  if (std::none_of(p.surface.begin(), p.surface.begin() + p.n,
                   [](std::int32_t s) { return s == std::int32_t(Surface::Skin); }))
    return;
  Run2 u;
  Run3 direction;
  alignas(64) Plane weight, pdf, gives;
  std::array<std::uint8_t, kRun> oily, may;
  for (size_t k = 0; k < size_t(p.n); ++k) oily[k] = (p.pass[k] ^ (p.pass[k] / kSampleSets)) & 1;
  sobolRun(p.n, p.pass, p.seed, 0x5ee2u, u);
  mirroredRun(p, u, oily, direction, weight, pdf);
  emitter_->maySee(p.n, p.position, direction, may);
  Rays rays;
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    if (!(weight[k] > 0) || !may[k]) continue;
    float distance = 0;
    const auto luminance = emitter_->seen(p.position[i], direction[i], 1e6f, &distance);
    if (!luminance || *luminance <= 0) continue;
    gives[k] = *luminance * weight[k] / (emitter_->pdf(p.position[i], direction[i], distance) + pdf[k]);
    rays.add(i, p.position[i] + p.facet[i] * kOffset, direction[i], distance * 0.9999f,
             hashPair(p.seed[k], p.pass[k] + 57));
  }
  scene.occluded(rays);
  for (size_t r = 0; r < size_t(rays.n); ++r)
    out.sheen[size_t(rays.of[r])] += gives[size_t(rays.of[r])] * rays.transmittance[r];
}

// Of boards the light of other boards is met by bounced rays too (boardFromBoard): two that fold touch one another.
void Lighting::fromPanels(const LitPoints& p, const Scene& scene, bool firstLook, float panelWeight,
                          const PanelOf& panelOf, Lit& out) const {
  Rays rays;
  std::array<Vec3, kRun> lux;
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    const Source::PanelPoint* panel = panelOf(k);
    if (!panel) continue;
    const auto from = Source::seenFrom(*panel, p.position[i]);
    const float nl = dot(p.normal[i], from.direction), fl = dot(p.facet[i], from.direction);
    const bool turned = faces(p, i, nl, fl);
    if (!(maxOf(from.lux) > 0) || !(turned || through(p.surface[k]))) continue;
    const bool board = p.surface[k] == std::int32_t(Surface::Panel) && !firstLook;
    lux[k] = from.lux * (board ? from.pdf / (from.pdf + nl / kPiF) : panelWeight);
    const Vec3 start = p.position[i] + (fl >= 0 || turned ? p.facet[i] : -p.facet[i]) * kOffset, way = from.at - start;
    const float far = length(way);
    rays.add(i, start, way / far, far * 0.9999f, hashPair(p.seed[k], p.pass[k] + 313));
  }
  scene.occluded(rays);
  for (size_t r = 0; r < size_t(rays.n); ++r) {
    if (!(rays.transmittance[r] > 0)) continue;
    const int i = rays.of[r];
    Vec3 direct;
    receive(p, i, scene.fibre(), {rays.direction[r], lux[size_t(i)] * rays.transmittance[r], rays.transmittance[r]},
            direct, out.panelSheen[size_t(i)]);
    out.panelDirect.set(i, direct);
  }
}

// What a mirror in front of a point shows of lamp and panels: luminance that comes to `from` out of the mirrored
// direction, past what stands nearer than `near` metres.
float Lighting::mirroredTo(Vec3 from, Vec3 mirrored, float near, std::uint32_t pass, std::uint32_t seed,
                           const Scene& scene) const {
  float sum = 0, distance = 0;
  if (const auto l = emitter_->seen(from, mirrored, 1e6f, &distance))
    if (!scene.occluded(from, mirrored, near, distance * 0.999f, hashPair(seed, pass))) sum += *l;
  if (!source_->feedsPanels()) return sum;
  if (const auto panel = source_->seenPanel(scene, from, mirrored, 20, pass, seed ^ 0x3e3eu))
    if (!scene.occluded(from, mirrored, near, panel->distance * 0.999f, hashPair(seed, pass + 7)))
      sum += luminance(panel->luminance);
  return sum;
}

// A lens mirrors with both its surfaces; a sample knows one of them and stands for two.
void Lighting::mirroredByLens(const LitPoints& p, int i, const Scene& scene, Lit& out) const {
  const auto k = size_t(i);
  const Vec3 glass = p.sample[k]->lens.unpacked(), toEye = p.toEye[i];
  const float cosine = dot(toEye, glass);
  if (!(cosine > 0)) return;
  const Vec3 from = p.position[i] + toEye * 0.016f;  // about where the lens is
  out.sheen[k] +=
      2 * mirroredByGlass(cosine) *
      mirroredTo(from, normalize(glass * (2 * cosine) - toEye), 0.004f, p.pass[k], p.seed[k] ^ 0x7e11u, scene);
}

// The wet eye mirrors the modifier itself: a catchlight of its real shape.
void Lighting::mirroredByEye(const LitPoints& p, int i, const Scene& scene, Lit& out) const {
  const auto k = size_t(i);
  const Vec3 coat = p.sample[k]->special.unpacked(), toEye = p.toEye[i];
  const float cosine = dot(toEye, coat);
  if (!(cosine > 0)) return;                        // at its very edge the coat looks away
  const Vec3 from = p.position[i] + coat * 0.003f;  // in front of the cornea
  out.sheen[k] += schlick(0.025f, cosine) *
                  mirroredTo(from, normalize(coat * (2 * cosine) - toEye), 0.001f, p.pass[k], p.seed[k], scene);
}

}  // namespace easel
