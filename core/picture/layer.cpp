#include "picture/layer.h"

#include <algorithm>

#include "picture/smooth.h"
#include "transport/microfacet.h"
#include "transport/parallel.h"

namespace easel {
namespace {

constexpr float kOffset = 2e-4f;  // metres: leaves the surface, below any detail of the meshes

float schlick(float f0, float cosine) {
  const float m = 1 - std::clamp(cosine, 0.f, 1.f), m2 = m * m;
  return f0 + (1 - f0) * m2 * m2 * m;
}

// Two lobes, a broad one and the oily one on top: F0 of skin 0.028 (index 1.4).
constexpr float kBroad = 0.32f, kOily = 0.11f;
float skinSheen(float nl, float nv, float nh, float vh) {
  return schlick(0.028f, vh) * (0.75f * microfacet(nl, nv, nh, kBroad) + 0.25f * microfacet(nl, nv, nh, kOily));
}

// A light at a grazing angle shines from a small part of the modifier: points taken all over it seldom meet that part,
// mirror directions do. Both are tried and weighted by their densities (balance heuristic: E. Veach, L. Guibas,
// "Optimally combining sampling techniques", 1995). Density per solid angle of sheenDirection(), half of it each lobe.
float normalDistribution(float nh, float alpha) {
  const float a2 = alpha * alpha, d = nh * nh * (a2 - 1) + 1;
  return a2 / (kPiF * d * d);
}
float sheenDensity(float nh, float vh) {
  return 0.5f * (normalDistribution(nh, kBroad) + normalDistribution(nh, kOily)) * nh / (4 * std::max(1e-4f, vh));
}
Vec3 sheenHalfVector(Vec3 normal, Vec2 u, bool oily) {
  const float a2 = oily ? kOily * kOily : kBroad * kBroad;
  const float c2 = (1 - u.x) / (1 + (a2 - 1) * u.x), c = std::sqrt(c2), s = std::sqrt(std::max(0.f, 1 - c2));
  return anyFrame(normal).toWorld({s * std::cos(2 * kPiF * u.y), s * std::sin(2 * kPiF * u.y), c});
}

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

namespace {
// Weight of the way from here, by the cosine, to a place that rays of the lamp reach with the density `lamps`; one
// sample of each way.
float fromHere(Vec3 at, Vec3 normal, Vec3 there, Vec3 thereNormal, float lamps) {
  const Vec3 d = there - at;
  const float d2 = std::max(1e-8f, dot(d, d));
  const float ours = std::max(0.f, dot(normal, d)) * std::abs(dot(thereNormal, d)) / (kPiF * d2 * d2);
  return ours > 0 ? ours / (ours + lamps) : 0;
}
}  // namespace

// Light that comes by one or more diffuse reflections, from a point that the camera's side has kept: irradiance / pi.
// Panels are sampled as emitters of their own; what they do not cover there comes from the room's cells. The first
// surface is found in two ways, from here and from the lamp, weighted by their densities (balance heuristic, as above):
// from here alone a lamp close to a wall or a ceiling would be a matter of luck.
Vec3 Layer::bouncedAt(const PixelSample& s, const Scene& scene, std::uint32_t pass, std::uint32_t pixelKey) const {
  const Vec3 here = s.normal.unpacked();
  const std::uint32_t seed = hashPair(pixelKey, key_);
  const Returned& room = *source_->returned();
  Vec3 out;
  const Surface there = s.bounceAlbedo.surface;
  if (there != Surface::Nothing) {
    const Vec3 n = s.bounceNormal.unpacked(), albedo = s.bounceAlbedo.unpacked();
    Vec3 lux;
    if (there != Surface::Panel && there != Surface::Scrim) {
      if (emitter_->mayLight(s.bouncePosition, n)) {
        const auto b = emitter_->sample(s.bouncePosition, sobol2(pass, seed ^ 0x77e1a5u));
        const float nl = dot(n, b.direction);
        if (b.geometry > 0 && nl > 0 &&
            !scene.occluded(s.bouncePosition, b.direction, kOffset, b.distance * 0.9999f, hashPair(seed, pass + 991)))
          lux =
              Vec3{1, 1, 1} * (b.geometry * nl *
                               fromHere(s.position, here, s.bouncePosition, n, emitter_->landing(s.bouncePosition, n)));
      }
      if (source_->feedsPanels()) {
        const auto b = source_->sample(&scene, s.bouncePosition, pass, seed ^ 0x6a09u);
        const float nl = dot(n, b.direction);
        if (nl > 0 && luminance(b.lux) > 0 &&
            !scene.occluded(s.bouncePosition, b.direction, kOffset, b.distance * 0.9999f, hashPair(seed, pass + 881)))
          lux += b.lux * nl;
      }
    }
    lux += room.further(s.bounceSide, s.bouncePosition);
    out = albedo * lux * (1 / kPiF);
  }
  if (const auto& all = room.landed(); !all.empty()) {
    const float chosen = sobol2(pass, seed ^ 0x1a3du).x * float(all.size());
    const Landed& l = all[std::min(all.size() - 1, size_t(chosen))];
    const Vec3 d = l.position - s.position;
    const float d2 = dot(d, d), distance = std::sqrt(d2);
    const float nl = dot(here, d) / distance, away = -dot(l.normal, d) / distance;
    if (nl > 0 && away > 0 && d2 > 1e-8f) {
      // Rays that landed nowhere that counts stand for nothing: the mean over all rays, of which these are a part.
      const float share = float(all.size()) / float(room.rays());
      const float weight =
          l.flux * share * nl * away / d2 * (1 - fromHere(s.position, here, l.position, l.normal, l.density));
      if (weight > 0 && !scene.occluded(s.position + s.facet.unpacked() * kOffset, d / distance, kOffset,
                                        distance * 0.9999f, hashPair(seed, pass + 771)))
        out += l.albedo * (weight / (kPiF * kPiF));
    }
  }
  return out;
}

Layer::Radiance Layer::lightAt(const PixelSample& s, const View& view, const Scene& scene, std::uint32_t pass,
                               std::uint32_t pixelKey, Vec3 viewRay, std::uint32_t oneOf, Radiance* fromPanels) const {
  const Radiance seen = onSurface(s, view, scene, pass, pixelKey, viewRay, oneOf, fromPanels);
  if (scene.haze() <= 0) return seen;
  const float depth = s.albedo.surface == Surface::Nothing ? 12.f : length(s.position - view.camera.eye);
  if (fromPanels) {
    const float clear = std::exp(-scene.haze() * depth);
    *fromPanels = {fromPanels->direct * clear, fromPanels->sheen * clear};
  }
  return throughHaze(seen, depth, view, scene, pass, pixelKey, viewRay);
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

Layer::Radiance Layer::onSurface(const PixelSample& s, const View& view, const Scene& scene, std::uint32_t pass,
                                 std::uint32_t pixelKey, Vec3 viewRay, std::uint32_t oneOf,
                                 Radiance* fromPanels) const {
  Radiance out;
  const Surface surface = s.albedo.surface;
  if (surface == Surface::Nothing) {
    if (emitter_)
      if (const auto l = emitter_->seen(view.camera.eye, viewRay, 1e6f)) out.sheen = *l;
    return out;
  }
  const Vec3 albedo = s.albedo.unpacked();

  if (!emitter_) {
    // Ambient: what is not sitter glows evenly; the sitter's own surfaces pass on a part of it, panels their share.
    const Surface b = s.bounceAlbedo.surface;
    const bool own = b <= Surface::Cloth, panel = b == Surface::Panel || b == Surface::Scrim;
    const Vec3 passed = s.bounceAlbedo.unpacked();
    out.direct = albedo * (own ? passed * 0.45f : panel ? passed : Vec3{1, 1, 1}) * (1 / kPiF);
    return out;
  }

  const std::uint32_t seed = hashPair(pixelKey, key_);
  const Vec3 facet = s.facet.unpacked(), toEye = -viewRay, normal = s.normal.unpacked();
  const bool hair = surface == Surface::Hair, scrim = surface == Surface::Scrim;
  // What arrives along a direction; `weight` is the share of the sheen that this way of sampling has.
  auto receive = [&](Vec3 from, Vec3 lux, float weight, Radiance& into) {
    float nl = dot(normal, from);
    if (hair) {
      // A strand is a cylinder: diffuse with the sine to the strand, two highlights along it (Kajiya and Kay, 1989).
      const Vec3 t = s.special.unpacked();
      const Vec3 h = normalize(from + toEye);
      const float tl = dot(t, from), sinTL = std::sqrt(std::max(0.f, 1 - tl * tl));
      const float th = dot(t, h), sin2 = std::max(0.f, 1 - th * th);
      // The card's side still matters: the mass of hair behind it shades.
      const float mass = std::clamp(0.35f + 0.65f * nl, 0.f, 1.f);
      const float s4 = sin2 * sin2, s8 = s4 * s4, s16 = s8 * s8;
      const float broad = s8 * 0.9f, narrow = s16 * s16 * s8;
      into.direct += albedo * lux * (mass * (0.62f * sinTL + 0.45f * broad) / kPiF);
      into.sheen += luminance(lux) * mass * 0.016f * narrow;
      return;
    }
    if (scrim) nl = std::abs(nl);
    const Vec3 falls = lux * nl;
    into.direct += albedo * falls * (1 / kPiF);
    const Vec3 h = normalize(from + toEye);
    const float nv = std::max(0.05f, dot(normal, toEye)), nh = std::max(0.f, dot(normal, h)), vh = dot(toEye, h);
    if (surface == Surface::Skin)
      into.sheen += luminance(falls) * skinSheen(nl, nv, nh, vh) * weight;
    else if (surface == Surface::Cloth)
      into.sheen += luminance(falls) * schlick(0.03f, vh) * microfacet(nl, nv, nh, 0.65f) * 0.5f;
    else if (surface == Surface::Brow || surface == Surface::Lash)
      into.sheen += luminance(falls) * 0.02f * microfacet(nl, nv, nh, 0.5f);
  };
  // Whether light from there can count at all, and nothing stands between.
  auto open = [&](Vec3 from, float distance, std::uint32_t salt) {
    const float nl = dot(normal, from), fl = dot(facet, from);
    if (!(hair || scrim) && (nl <= 0 || fl <= 0)) return false;
    const Vec3 side = fl >= 0 ? facet : -facet;
    // The ray starts that much nearer: it must not end in the panel that it asks for.
    const float far = distance * 0.9999f - 2 * kOffset;
    return !scene.occluded(s.position + side * kOffset, from, 0, far, hashPair(seed, pass + salt));
  };

  const bool may = hair || scrim ? emitter_->mayLight(s.position) : emitter_->mayLight(s.position, facet);
  if (const auto e = may ? emitter_->sample(s.position, sobol2(pass, seed)) : Emitter::Point{};
      e.geometry > 0 && open(e.direction, e.distance, 0)) {
    float weight = 1;
    if (surface == Surface::Skin) {
      const Vec3 h = normalize(e.direction + toEye);
      const float here = emitter_->density(e.direction, e.distance);
      weight = here / (here + sheenDensity(std::max(0.f, dot(normal, h)), dot(toEye, h)));
    }
    receive(e.direction, Vec3{1, 1, 1} * e.geometry, weight, out);
  }
  if (source_->feedsPanels() && (surface != Surface::Panel || scrim) && isOneOf(pass, oneOf)) {
    const auto p = source_->sample(&scene, s.position, pass / oneOf, seed ^ 0x9a7eu);
    if (maxOf(p.lux) > 0 && open(p.direction, p.distance, 313))
      receive(p.direction, p.lux * float(oneOf), 1, fromPanels ? *fromPanels : out);
  }
  if (surface == Surface::Skin && may) {
    const Vec3 h = sheenHalfVector(normal, sobol2(pass, seed ^ 0x5ee2u), (pass ^ (pass / kSampleSets)) & 1);
    const float vh = dot(toEye, h), nh = dot(normal, h);
    const Vec3 l = h * (2 * vh) - toEye;
    const float nl = dot(normal, l);
    float distance = 0;
    if (vh > 0 && nl > 0 && dot(facet, l) > 0)
      if (const auto luminance = emitter_->seen(s.position, l, 1e6f, &distance))
        if (!scene.occluded(s.position + facet * kOffset, l, 0, distance * 0.9999f, hashPair(seed, pass + 57)))
          out.sheen += *luminance * nl * skinSheen(nl, std::max(0.05f, dot(normal, toEye)), nh, vh) /
                       (emitter_->density(l, distance) + sheenDensity(nh, vh));
  }
  // The wet eye mirrors the modifier itself: a catchlight of its real shape.
  if (surface == Surface::Eye) {
    const Vec3 coat = s.special.unpacked();
    const Vec3 mirrored = normalize(viewRay - coat * (2 * dot(viewRay, coat)));
    float distance = 0;
    const Vec3 from = s.position + coat * 0.003f;  // in front of the cornea
    if (const auto l = emitter_->seen(from, mirrored, 1e6f, &distance))
      if (!scene.occluded(from, mirrored, 0.001f, distance * 0.999f, hashPair(seed, pass)))
        out.sheen += *l * schlick(0.025f, dot(toEye, coat));
    if (source_->feedsPanels())
      if (const auto l = source_->seenPanel(scene, from, mirrored, 20, pass, seed ^ 0x3e3eu, &distance))
        if (!scene.occluded(from, mirrored, 0.001f, distance * 0.999f, hashPair(seed, pass + 7)))
          out.sheen += luminance(*l) * schlick(0.025f, dot(toEye, coat));
  }
  // A lamp inside the frame is seen itself.
  const float depth = length(s.position - view.camera.eye);
  if (const auto l = emitter_->seen(view.camera.eye, viewRay, depth)) out = {{}, *l};
  return out;
}

namespace {
constexpr int kEven = 4;  // passes that the whole picture gets alike
// After those, in samples a pass and pixel: what all pixels get, what those get that nothing has reached yet, the mean
// of what is handed out by noise, and the most that one may have.
constexpr float kLeast = 0.125f, kDarkLeast = 0.03125f, kHandedOut = 0.45f, kMost = 48;
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
    share_[i] = std::uint16_t(
        std::lround(16 * std::min(kMost, (deviation[i] > 0 ? kLeast : kDarkLeast) + deviation[i] * scale)));
}

// The bounce is asked for at one pixel of four, that of the half-resolution picture; after the first round of the sets
// at a quarter of those in turn.
bool Layer::bounceDue(int x, int y) const {
  const int shift = x / 2 & 1;
  if (x % 2 != 0 || y < shift || (y - shift) % 2 != 0) return false;
  return passes_ < kSampleSets || ((x / 2 + y / 2 * 2 + passes_) & 3) == 0;
}

void Layer::addBounce(const SampleSets& sets, int x, int y, std::uint32_t pixelKey) {
  const View& view = sets.view();
  const size_t i = size_t(y) * size_t(view.width) + size_t(x);
  const int n = passes_ < kSampleSets ? passes_ : kSampleSets + (passes_ - kSampleSets) / 4;
  const Surface mostly = sets.guide(i).surface;
  float* sum = &bounced_[(size_t(y / 2) * size_t((view.width + 1) / 2) + size_t(x / 2)) * 4];
  // Once all sets stand it may turn out that the first had met the lesser part of the pixel.
  if (n == kSampleSets && mostly != sets.set(0)[i].albedo.surface) std::fill_n(sum, 4, 0.f);
  const auto& set = sets.set(n % kSampleSets);
  if (mostly == Surface::Nothing || set[i].albedo.surface != mostly) return;
  const Vec3 light = bouncedAt(bounceFor(set, view, x, y, n), sets.scene(), std::uint32_t(n), pixelKey);
  sum[0] += light.x;
  sum[1] += light.y;
  sum[2] += light.z;
  ++sum[3];
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
  inParallel(size_t(tiles), [&](size_t at) {
    const int tile = int(at);
    if (tileDone_[size_t(tile)] || interrupt.raised()) return;
    const int x0 = tile % across * kTile, y0 = tile / across * kTile;
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
          PixelSample s = own ? sets.fresh(x, y, n) : sets.set(n % kSampleSets)[i];
          // What is traced anew has no bounce; a pixel's eight tell what the room shows it, which is all that the
          // ambient asks. Without them hair would stand under an open sky.
          if (own && !emitter_) s.bounceAlbedo = sets.set(n % std::max(1, sets.complete()))[i].bounceAlbedo;
          const Vec3 ray = s.albedo.surface == Surface::Nothing ? view.direction(float(x) + 0.5f, float(y) + 0.5f)
                                                                : normalize(s.position - view.camera.eye);
          const Radiance l = lightAt(s, view, sets.scene(), std::uint32_t(n), pixelKey, ray);
          float* out = &sum_[i * 4];
          out[0] += l.direct.x;
          out[1] += l.direct.y;
          out[2] += l.direct.z;
          out[3] += l.sheen;
          if (n % 2 == 0) {
            evenSum_[i] += luminance(l.direct);
            evenSheen_[i] += l.sheen;
          }
        }
        if (emitter_ && bounceDue(x, y)) addBounce(sets, x, y, pixelKey);
      }
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
  const int across = (w + kTile - 1) / kTile, down = (h + kTile - 1) / kTile;
  inParallel(size_t(across) * size_t(down), [&](size_t at) {
    const int tile = int(at);
    const int x0 = tile % across * kTile, y0 = tile / across * kTile;
    for (int y = y0; y < std::min(y0 + kTile, h); ++y)
      for (int x = x0; x < std::min(x0 + kTile, w); ++x) {
        const size_t full = size_t(std::min(2 * y + (x & 1), view.height - 1)) * size_t(view.width) +
                            size_t(std::min(2 * x, view.width - 1));
        const PixelSample& s = set[full];
        const Vec3 ray = s.albedo.surface == Surface::Nothing ? view.direction(float(2 * x) + 0.5f, float(2 * y) + 0.5f)
                                                              : normalize(s.position - view.camera.eye);
        // One pattern of pass numbers per 4x4 block spreads the noise evenly for the filter.
        const auto pattern = std::uint32_t((x & 3) + 4 * (y & 3));
        Radiance wide;
        const Radiance l = lightAt(s, view, sets.scene(), pattern, 0x1234567u, ray, 2, &wide);
        const Vec3 albedo = s.albedo.unpacked();
        const bool bounces = emitter_ && s.albedo.surface != Surface::Nothing;
        // The room's cells know all that arrives at a place, near enough for a first look, and ask for no ray.
        const Vec3 bounced = bounces ? albedo * s.bounceAlbedo.unpacked() * (1 / kPiF) *
                                           source_->returned()->all(s.bounceSide, s.bouncePosition)
                                     : Vec3{};
        const bool solid = s.albedo.surface != Surface::Nothing;
        half.set(x, y, overPanels ? l.direct : l.direct + bounced, albedo, l.sheen, solid);
        if (soft) soft->set(x, y, wide.direct + bounced, albedo, wide.sheen, solid);
      }
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
        full.set(x, y, Vec3{s[0], s[1], s[2]} * scale, albedo, s[3] * scale, sets.guide(i).surface != Surface::Nothing);
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
    for (int y = 0; y < h; ++y)
      for (int x = 0; x < w; ++x) {
        const float* b = &bounced_[(size_t(y) * size_t(w) + size_t(x)) * 4];
        bounced.set(x, y, Vec3{b[0], b[1], b[2]} / std::max(1.f, b[3]), {1, 1, 1}, 0, b[3] > 0);
      }
    // The bounce changes slowly over a surface: however many passes, it is smoothed further than shadow edges may be.
    if (smooth) bounced.smoothWide(4);
    bounced.addToFull(full);
  }
  if (smooth) full.scatterInSkin();
  return finished(full, sets);
}

}  // namespace easel
