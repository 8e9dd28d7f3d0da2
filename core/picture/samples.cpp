#include "picture/samples.h"

#include <algorithm>

#include "threads/parallel.h"
#include "transport/rays.h"
#include "transport/sampling.h"

namespace easel {

PackedDirection PackedDirection::of(Vec3 d) {
  const float s = std::abs(d.x) + std::abs(d.y) + std::abs(d.z);
  if (!(s > 0)) return {0, 0};
  float x = d.x / s, y = d.y / s;
  if (d.z < 0) {
    const float ox = x;
    x = (1 - std::abs(y)) * (ox >= 0 ? 1.f : -1.f);
    y = (1 - std::abs(ox)) * (y >= 0 ? 1.f : -1.f);
  }
  auto code = [](float v) { return std::int16_t(v * 32767 + std::copysign(0.5f, v)); };
  return {code(x), code(y)};
}
Vec3 PackedDirection::unpacked() const {
  Vec3 d{float(x) / 32767, float(y) / 32767, 0};
  d.z = 1 - std::abs(d.x) - std::abs(d.y);
  if (d.z < 0) {
    const float ox = d.x;
    d.x = (1 - std::abs(d.y)) * (ox >= 0 ? 1.f : -1.f);
    d.y = (1 - std::abs(ox)) * (d.y >= 0 ? 1.f : -1.f);
  }
  return normalize(d);
}
PackedColour PackedColour::of(Vec3 c, Surface s) {
  auto code = [](float v) { return std::uint8_t(std::sqrt(std::clamp(v, 0.f, 1.f)) * 255 + 0.5f); };
  return {code(c.x), code(c.y), code(c.z), s};
}
Vec3 PackedColour::unpacked() const {
  auto decode = [](std::uint8_t v) {
    const float f = float(v) / 255;
    return f * f;
  };
  return {decode(r), decode(g), decode(b)};
}

SampleSets::SampleSets(std::shared_ptr<const Scene> scene, const View& view, std::uint32_t seed)
    : scene_(std::move(scene)), view_(view), seed_(seed) {}

SampleSets::SampleSets(std::shared_ptr<const Scene> scene, const View& view, std::uint32_t seed, SampleSets before)
    : SampleSets(std::move(scene), view, seed) {
  if (!(before.view_ == view_) || before.seed_ != seed_) return;
  auto moved = scene_->movedSince(*before.scene_);
  if (!moved) return;
  moved_ = std::move(*moved);
  for (const Box& b : moved_) patches_.push_back(patchOf(b));
  known_ = before.complete_;
  for (int k = 0; k < known_; ++k) {
    sets_[k] = std::move(before.sets_[k]);
    bounces_[k] = std::move(before.bounces_[k]);
  }
}

SampleSets::Patch SampleSets::patchOf(const Box& box) const {
  Patch p{INFINITY, INFINITY, -INFINITY, -INFINITY};
  for (int k = 0; k < 8; ++k) {
    const auto at =
        view_.place({k & 1 ? box.high.x : box.low.x, k & 2 ? box.high.y : box.low.y, k & 4 ? box.high.z : box.low.z});
    if (!at) return {-INFINITY, -INFINITY, INFINITY, INFINITY};  // it reaches behind the lens
    p = {std::min(p.left, at->x), std::min(p.top, at->y), std::max(p.right, at->x), std::max(p.bottom, at->y)};
  }
  return {p.left - 1, p.top - 1, p.right + 1, p.bottom + 1};
}

// Whether a sample sees what was moved, or saw it.
bool SampleSets::moved(const PixelPass& at) const {
  const auto x = float(at.x), y = float(at.y);
  if (std::none_of(patches_.begin(), patches_.end(),
                   [=](const Patch& p) { return x >= p.left && x <= p.right && y >= p.top && y <= p.bottom; }))
    return false;
  const size_t pixel = size_t(at.y) * size_t(view_.width) + size_t(at.x);
  const Vec2 j = sobol2(std::uint32_t(at.k), keyOf(pixel));
  const Vec3 way = view_.direction(float(at.x) + j.x, float(at.y) + j.y);
  const PixelSample& s = sets_[at.k][pixel];
  const float far = s.albedo.surface == Surface::Nothing
                        ? INFINITY
                        : length(s.position - view_.camera.eye) + 0.02f;  // the eye's coat
  return std::any_of(moved_.begin(), moved_.end(), [&](const Box& b) { return b.entry(view_.camera.eye, way) < far; });
}
bool SampleSets::moved(const PixelSample& from, const BounceSample& to) const {
  const Vec3 way = to.position - from.position;
  return to.albedo.surface == Surface::Nothing ||
         std::any_of(moved_.begin(), moved_.end(), [&](const Box& b) { return b.entry(from.position, way) < 1.01f; });
}

bool SampleSets::build(int k, const Interrupt& interrupt) {
  if (k < complete_) return true;
  const int across = (view_.width + kTile - 1) / kTile, down = (view_.height + kTile - 1) / kTile;
  if (tileDone_.empty()) {
    sets_[k].resize(size_t(view_.width) * size_t(view_.height));
    bounces_[k].resize(size_t((view_.width + 1) / 2) * size_t((view_.height + 1) / 2));
    tileDone_.assign(size_t(across) * size_t(down), 0);
  }
  inParallel(size_t(across) * size_t(down), [&](size_t at) {
    const int tile = int(at);
    if (tileDone_[at] || interrupt.raised()) return;
    buildTile(k, tile % across, tile / across);
    tileDone_[at] = 1;
  });
  if (!std::all_of(tileDone_.begin(), tileDone_.end(), [](std::uint8_t done) { return done; })) return false;
  tileDone_.clear();
  finishMean(k);
  complete_ = k + 1;
  if (k == 0) guideByFirst();
  if (complete_ == kSampleSets) survey();
  if (k == 0 || complete_ == kSampleSets) finishGuides();
  return true;
}

std::uint32_t SampleSets::keyOf(size_t pixel) const {
  return hash32(std::uint32_t(pixel) + 0x5151u + seed_ * 0x632be59bu);
}

Rays SampleSets::cameraRays(std::span<const PixelPass> of) const {
  Rays rays;
  rays.thresholds = rays.together = true;
  for (const auto [x, y, k] : of) {
    const std::uint32_t key = keyOf(size_t(y) * size_t(view_.width) + size_t(x));
    const Vec2 j = sobol2(std::uint32_t(k), key);
    // Thresholds in van der Corput order: any prefix of the samples is spread evenly.
    const std::uint32_t threshold = hash32(key) + sobol::reverseBits(std::uint32_t(k));
    rays.add(rays.n, view_.camera.eye, view_.direction(float(x) + j.x, float(y) + j.y), INFINITY, threshold);
  }
  return rays;
}

namespace {
PixelSample packed(const SurfacePoint& hit) {
  PixelSample p;
  p.position = hit.position;
  p.normal = PackedDirection::of(hit.normal);
  p.facet = PackedDirection::of(hit.facet);
  p.special = hit.surface == Surface::Cloth || hit.surface == Surface::Scrim ? PackedDirection::ofCode(hit.cloth)
              : hit.surface == Surface::Skin
                  ? PackedDirection::ofCode(skinCode(hit.cloth, hit.thickness))
                  : PackedDirection::of(hit.surface == Surface::Hair ? hit.tangent : hit.coatNormal);
  if (hit.throughLens()) p.lens = PackedDirection::of(hit.lensNormal);
  p.albedo = PackedColour::of(hit.albedo, hit.surface);
  return p;
}
}  // namespace

void SampleSets::fresh(std::span<const PixelPass> of, const std::function<bool(const SurfacePoint&)>& wants,
                       PixelSample* out, std::uint8_t* wanted) const {
  std::array<SurfacePoint, kRun> hits;
  Rays rays = cameraRays(of);
  rays.together = false;  // rough pixels lie apart
  scene_->intersectIf(rays, wants, hits);
  for (size_t i = 0; i < of.size(); ++i) {
    out[i] = hits[i].surface == Surface::Nothing ? PixelSample{} : packed(hits[i]);
    wanted[i] = hits[i].surface != Surface::Nothing || hits[i].distance > 0;
  }
}

void SampleSets::buildTile(int k, int tileX, int tileY) {
  std::array<PixelPass, kRun> of;
  std::array<SurfacePoint, kRun> hits;
  size_t asked = 0;
  const auto take = [&] {
    scene_->intersect(cameraRays({of.data(), asked}), Colours::Fine, hits);
    for (size_t i = 0; i < asked; ++i)
      sets_[k][size_t(of[i].y) * size_t(view_.width) + size_t(of[i].x)] =
          hits[i].surface != Surface::Nothing ? packed(hits[i]) : PixelSample{};
    asked = 0;
  };
  const bool known = k < known_;
  std::array<std::uint8_t, size_t(kTile) * kTile> anew;
  for (int y = tileY * kTile; y < std::min((tileY + 1) * kTile, view_.height); ++y)
    for (int x = tileX * kTile; x < std::min((tileX + 1) * kTile, view_.width); ++x) {
      const PixelPass at{x, y, k};
      std::uint8_t& is = anew[size_t(y % kTile) * kTile + size_t(x % kTile)];
      is = !known || moved(at);
      if (!is) continue;
      of[asked++] = at;
      if (asked == kRun) take();
    }
  if (asked) take();

  constexpr int half = kTile / 2;
  const int w = (view_.width + 1) / 2, h = (view_.height + 1) / 2;
  std::array<PixelPass, half * half> from;
  std::array<BounceSample, half * half> to;
  static_assert(half * half <= kRun);
  size_t n = 0;
  for (int y = tileY * half; y < std::min((tileY + 1) * half, h); ++y)
    for (int x = tileX * half; x < std::min((tileX + 1) * half, w); ++x) {
      const size_t pixel = pixelOfHalf(x, y);
      const size_t px = pixel % size_t(view_.width), py = pixel / size_t(view_.width);
      // The lowest row of an odd picture belongs to the tile above.
      const bool here = int(py) / kTile == tileY && int(px) / kTile == tileX;
      if (known && here && !anew[py % kTile * kTile + px % kTile] &&
          !moved(sets_[k][pixel], bounces_[k][size_t(y) * size_t(w) + size_t(x)]))
        continue;
      from[n++] = {x, y, k};
    }
  bounce({from.data(), n}, to.data());
  for (size_t i = 0; i < n; ++i) bounces_[k][size_t(from[i].y) * size_t(w) + size_t(from[i].x)] = to[i];
}

void SampleSets::bounce(std::span<const PixelPass> from, BounceSample* out) const {
  Rays rays;
  for (size_t i = 0; i < from.size(); ++i) {
    out[i] = {};
    const auto [x, y, k] = from[i];
    const size_t pixel = pixelOfHalf(x, y);
    const PixelSample& p = sets_[k % kSampleSets][pixel];
    if (p.albedo.surface == Surface::Nothing) continue;
    const std::uint32_t key = keyOf(pixel);
    const Vec3 facet = p.facet.unpacked();
    const Vec3 way = cosineDirection(anyFrame(p.normal.unpacked()), sobol2(std::uint32_t(k), key ^ 0xb0b0b0u));
    // Directions below the facet (shading normals do that) see the surface itself: no light from there.
    if (dot(way, facet) <= 0)
      out[i] = {p.position, p.facet, PackedColour::of({}, Surface::Skin)};
    else
      rays.add(int(i), p.position + facet * 2e-4f, way, INFINITY, hashPair(key, std::uint32_t(k) + 77));
  }
  std::array<SurfacePoint, kRun> hits;
  scene_->intersect(rays, Colours::Plain, hits);
  for (size_t r = 0; r < size_t(rays.n); ++r)
    if (const SurfacePoint& far = hits[r]; far.surface != Surface::Nothing)
      out[size_t(rays.of[r])] = {far.position + far.facet * 2e-4f, PackedDirection::of(far.normal),
                                 PackedColour::of(far.albedo, far.surface), far.side};
}

// What a pixel mostly shows is the surface that most of its samples met, with their mean place and normal.
void SampleSets::survey() {
  const size_t pixels = sets_[0].size();
  rough_.assign(pixels, 0);
  Guides& g = guides_[0];
  g.other.assign(pixels, -1);
  g.otherShare.assign(pixels, 0);
  inParallel(size_t(pixels), 8192, [&](size_t first, size_t last) {
    for (size_t i = first; i < last; ++i) {
      int votes[kSurfaces] = {};
      for (const auto& set : sets_) ++votes[size_t(set[i].albedo.surface)];
      const auto most = Surface(std::max_element(votes, votes + kSurfaces) - votes);
      const int share = votes[size_t(most)];
      if (share < kSampleSets) {
        float back[kSurfaces] = {}, all = 0;  // what each of them throws back
        for (const auto& set : sets_) {
          const float y = luminance(set[i].albedo.unpacked());
          back[size_t(set[i].albedo.surface)] += y;
          all += y;
        }
        back[size_t(most)] = 0;
        if (const auto second = std::max_element(back, back + kSurfaces); *second > 0) {
          g.other[i] = std::int8_t(second - back);
          g.otherShare[i] = *second / all;
        }
      }
      Vec3 position, normal;
      float least = 1, greatest = 0;
      for (const auto& set : sets_) {
        if (set[i].albedo.surface != most) continue;
        position += set[i].position / float(share);
        normal += set[i].normal.unpacked();
        const float y = luminance(set[i].albedo.unpacked());
        least = std::min(least, y);
        greatest = std::max(greatest, y);
      }
      g.set(i, position, normalize(normal), most, share == kSampleSets);
      // The mean of unit normals is shorter than one where they spread: here by more than about four degrees.
      constexpr float kSpread = 0.997f;
      // A black strap on a white shirt is an edge between surfaces of one name.
      constexpr float kOtherCloth = 0.5f;
      rough_[i] = share < kSampleSets || most == Surface::Hair || most == Surface::Lash ||
                  least < kOtherCloth * greatest ||
                  (most != Surface::Nothing && length(normal) < kSpread * kSampleSets);
    }
  });
  // A bright rim may take a twentieth of a pixel that all eight samples have passed by: what lies beside a rough pixel
  // or another surface is rough too.
  std::vector<std::uint8_t> near = rough_;
  auto spread = [&](size_t a, size_t b) {
    if (g.surface[a] != g.surface[b] || rough_[a] || rough_[b]) near[a] = near[b] = 1;
  };
  for (int y = 0; y < view_.height; ++y)
    for (int x = 0; x < view_.width; ++x) {
      const size_t i = g.at(x, y);
      if (x + 1 < view_.width) spread(i, i + 1);
      if (y + 1 < view_.height) spread(i, i + size_t(view_.width));
    }
  rough_.swap(near);
  // Stray strands stand off the hair by more than a pixel, and eight places pass most of them by.
  constexpr int kStray = 3;
  for (int y = 0; y < view_.height; ++y)
    for (int x = 0; x < view_.width; ++x) {
      if (g.surface[g.at(x, y)] != std::int32_t(Surface::Hair)) continue;
      const bool inside = x > 0 && y > 0 && x + 1 < view_.width && y + 1 < view_.height &&
                          g.surface[g.at(x - 1, y)] == std::int32_t(Surface::Hair) &&
                          g.surface[g.at(x + 1, y)] == std::int32_t(Surface::Hair) &&
                          g.surface[g.at(x, y - 1)] == std::int32_t(Surface::Hair) &&
                          g.surface[g.at(x, y + 1)] == std::int32_t(Surface::Hair);
      if (inside) continue;
      for (int b = std::max(0, y - kStray); b <= std::min(view_.height - 1, y + kStray); ++b)
        for (int a = std::max(0, x - kStray); a <= std::min(view_.width - 1, x + kStray); ++a)
          if (g.surface[g.at(a, b)] > std::int32_t(Surface::Cloth)) rough_[g.at(a, b)] = 1;
    }
}

namespace {
constexpr int kOutlineSamples = 64;  // of each pixel
constexpr int kCounted = 192;        // more places, of a pixel where hardly any of those meets the front
constexpr float kHardlyAny = 0.25f;  // share

// What is in front where two surfaces share a pixel.
bool inFront(Surface s, bool hair) { return hair ? s == Surface::Hair : ofSitter(s); }
}  // namespace

bool SampleSets::buildOutlines(const Interrupt& interrupt) {
  if (complete_ < kSampleSets) return false;
  if (outlineAt_.empty()) {
    outlineAt_.assign(sets_[0].size(), -1);
    for (size_t i = 0; i < sets_[0].size(); ++i)
      if (outline(i)) {
        outlineAt_[i] = std::int32_t(outlinePixels_.size());
        outlinePixels_.push_back(i);
      }
    outlines_.resize(outlinePixels_.size());
    outlineSamples_.resize(outlinePixels_.size() * kOutlineSamples);
  }
  constexpr size_t kAtOnce = 512;  // some 20 ms
  while (outlinesDone_ < outlinePixels_.size()) {
    if (interrupt.raised()) return false;
    const size_t n = std::min(kAtOnce, outlinePixels_.size() - outlinesDone_);
    inParallel(n, 8, [&](size_t from, size_t to) {
      for (size_t k = from; k < to; ++k) lookAtOutline(outlinesDone_ + k);
    });
    outlinesDone_ += n;
  }
  return true;
}

void SampleSets::lookAtOutline(size_t which) {
  const size_t pixel = outlinePixels_[which];
  const int x = int(pixel % size_t(view_.width)), y = int(pixel / size_t(view_.width));
  std::array<PixelPass, kRun> of;
  std::array<std::uint8_t, kRun> wanted;
  static_assert(kOutlineSamples <= kRun && kCounted % kOutlineSamples == 0);
  const auto ask = [&](int from) {
    for (int k = 0; k < kOutlineSamples; ++k) of[size_t(k)] = {x, y, from + k};
  };
  PixelSample* samples = &outlineSamples_[which * kOutlineSamples];
  ask(kSampleSets);
  fresh(
      {of.data(), size_t(kOutlineSamples)}, [](const SurfacePoint&) { return true; }, samples, wanted.data());
  const bool hair = std::any_of(samples, samples + kOutlineSamples,
                                [](const PixelSample& s) { return s.albedo.surface == Surface::Hair; });
  const PixelSample* behind = std::stable_partition(
      samples, samples + kOutlineSamples, [&](const PixelSample& s) { return inFront(s.albedo.surface, hair); });
  Outline& out = outlines_[which];
  out.front = std::uint8_t(behind - samples);
  out.share = float(out.front) / kOutlineSamples;
  if (out.front == 0 || out.share >= kHardlyAny) return;
  int inFrontOf = out.front;
  std::array<PixelSample, kRun> none;
  for (int from = kOutlineSamples; from < kOutlineSamples + kCounted; from += kOutlineSamples) {
    ask(kSampleSets + from);
    fresh(
        {of.data(), size_t(kOutlineSamples)},
        [&](const SurfacePoint& s) {
          inFrontOf += inFront(s.surface, hair);
          return false;
        },
        none.data(), wanted.data());
  }
  out.share = float(inFrontOf) / (kOutlineSamples + kCounted);
}

std::optional<SampleSets::Halves> SampleSets::halves(size_t pixel) const {
  if (outlineAt_.empty() || outlineAt_[pixel] < 0) return {};
  const auto which = size_t(outlineAt_[pixel]);
  if (which >= outlinesDone_) return {};
  const Outline& o = outlines_[which];
  if (o.front == 0 || o.front == kOutlineSamples) return {};
  const std::span all(&outlineSamples_[which * kOutlineSamples], size_t(kOutlineSamples));
  return Halves{o.share, all.first(o.front), all.subspan(o.front)};
}

void SampleSets::guideByFirst() {
  guides_[0] = Guides(view_.width, view_.height);
  guides_[1] = Guides((view_.width + 1) / 2, (view_.height + 1) / 2);
  inParallel(sets_[0].size(), 8192, [&](size_t first, size_t last) {
    for (size_t i = first; i < last; ++i) {
      const PixelSample& s = sets_[0][i];
      guides_[0].set(i, s.position, s.normal.unpacked(), s.albedo.surface, true);
    }
  });
}

void SampleSets::finishGuides() {
  const float pixel = view_.pixelAt1m();
  guides_[0].measure(view_.camera.eye, pixel);
  guides_[1].takeHalf(guides_[0]);
  guides_[1].measure(view_.camera.eye, 2 * pixel);
  guides_[1].findEven();
}

void SampleSets::finishMean(int k) {
  const int n = k + 1;
  if ((n & (n - 1)) != 0) return;
  int slot = 0;
  while ((1 << slot) < n) ++slot;
  auto& mean = mean_[slot];
  const size_t pixels = sets_[0].size();
  mean.resize(pixels * 3);
  inParallel(size_t(pixels), 8192, [&](size_t first, size_t last) {
    for (size_t i = first; i < last; ++i) {
      Vec3 sum;
      for (int s = 0; s < n; ++s)
        if (sets_[s][i].albedo.surface != Surface::Nothing) sum += sets_[s][i].albedo.unpacked();
      for (int c = 0; c < 3; ++c)
        mean[size_t(c) * pixels + i] = std::uint16_t(std::lround(std::sqrt(sum[c] / float(n)) * 65535));
    }
  });
}

int SampleSets::meanSlot(int passes) const {
  int slot = 0;
  while (slot < 3 && (2 << slot) <= passes && !mean_[slot + 1].empty()) ++slot;
  return slot;
}

const std::uint16_t* SampleSets::meanAlbedoPlane(int passes, size_t channel) const {
  return mean_[meanSlot(passes)].data() + channel * sets_[0].size();
}

Vec3 SampleSets::meanAlbedo(int passes, size_t pixel) const {
  const std::uint16_t* m = &mean_[meanSlot(passes)][pixel];
  const size_t pixels = sets_[0].size();
  auto decode = [](std::uint16_t v) {
    const float f = float(v) / 65535;
    return f * f;
  };
  return {decode(m[0]), decode(m[pixels]), decode(m[2 * pixels])};
}

}  // namespace easel
