#include "picture/layer.h"

#include <algorithm>

#include "picture/smooth.h"
#include "threads/parallel.h"

namespace easel {
namespace {

struct Place {
  int x = 0, y = 0;
};

float depthOf(const Guides& g, size_t i, const View& view) {
  return g.surface[i] == std::int32_t(Surface::Nothing) ? Lighting::kNothingAt
                                                        : length(g.position(i) - view.camera.eye);
}

constexpr int kByHalves = 64;  // samples of an outline
constexpr int kEven = 2;       // passes that the whole picture gets alike
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
// Hair, and outlines that several surfaces share, are averaged among their own kind: a rim is a line one pixel wide, a
// stray strand on the backdrop takes a twentieth of its pixel, and their noise is not that of what lies beside them.
void Layer::shareOut(const SampleSets& sets) {
  const View& view = sets.view();
  const size_t pixels = count_.size();
  double total = 0;
  for (size_t i = 0; i < pixels; ++i)
    total += double(luminance({sum_[i * 4], sum_[i * 4 + 1], sum_[i * 4 + 2]})) / std::max(1u, count_[i]);
  const auto floor = float(0.05 * total / double(pixels) + 1e-12);
  enum Kind : std::uint8_t { Smooth, Rough, Outline };
  constexpr size_t kKinds = 3;
  std::vector<std::uint8_t> kind(pixels);
  std::array<std::vector<float>, kKinds> deviations, many;
  for (size_t k = 0; k < kKinds; ++k) {
    deviations[k].assign(pixels, 0);
    many[k].assign(pixels, 0);
  }
  inParallel(size_t(pixels), 8192, [&](size_t first, size_t last) {
    for (size_t i = first; i < last; ++i) {
      const float* s = &sum_[i * 4];
      const int n = int(count_[i]), evens = (n + 1) / 2, odds = n / 2;
      kind[i] = !sets.rough(i) ? Smooth : sets.outline(i) ? Outline : Rough;
      many[kind[i]][i] = 1;
      if (odds < 1) continue;
      const float all = luminance({s[0], s[1], s[2]}) + s[3], even = evenSum_[i] + evenSheen_[i];
      const float difference = even / float(evens) - (all - even) / float(odds);
      // As the eye weighs it: the tone curve is near a square root. Times n / 4: variance of a single sample.
      deviations[kind[i]][i] = difference * difference * float(n) / (all / float(n) + floor);
    }
  });
  for (size_t k = 0; k < kKinds; ++k) {
    boxMean(deviations[k], view.width, view.height, 2);
    boxMean(many[k], view.width, view.height, 2);
  }
  std::vector<float> deviation(pixels);
  double sum = 0;
  for (size_t i = 0; i < pixels; ++i) {
    deviation[i] = std::sqrt(deviations[kind[i]][i] / many[kind[i]][i]);
    sum += double(deviation[i]);
  }
  share_.resize(pixels);
  const float scale = sum > 0 ? float(kHandedOut * double(pixels) / sum) : 0.f;
  for (size_t i = 0; i < pixels; ++i)
    share_[i] = std::uint16_t(std::lround(16 * std::min(kMost, (deviation[i] <= 0   ? kDarkLeast
                                                                : kind[i] != Smooth ? kRoughLeast
                                                                                    : kLeast) +
                                                                   deviation[i] * scale)));
}

// The bounce is asked for at one pixel of four, that of the half-resolution picture: at each of those in the first
// pass, at half of them in turn while the sets last, and then at a quarter. At twice as many of the rough ones: they
// are few of their kind, and no filter finds many to even them out with.
void Layer::bounceInTile(const SampleSets& sets, int x0, int y0) {
  const Guides &full = sets.guides(1), &half = sets.guides(2);
  constexpr int kHalf = kTile / 2;
  std::array<PixelPass, kHalf * kHalf> from;
  std::array<BounceSample, kHalf * kHalf> to;
  static_assert(kHalf * kHalf <= kRun);
  size_t n = 0;
  for (int y = y0 / 2; y < std::min(y0 / 2 + kHalf, half.height); ++y)
    for (int x = x0 / 2; x < std::min(x0 / 2 + kHalf, half.width); ++x) {
      const size_t i = sets.pixelOfHalf(x, y);
      int k = passes_;
      const int inTurn = k == 0 ? 1 : (k < kSampleSets ? 2 : 4) / (sets.rough(i) ? 2 : 1);
      if ((x + y * 2 + k) % inTurn != 0) continue;
      if (k >= kSampleSets) k = kSampleSets + (k - kSampleSets) / inTurn;
      const auto mostly = Surface(full.surface[i]);
      // Once all sets stand it may turn out that the first had met the lesser part of the pixel.
      if (k == kSampleSets && mostly != sets.set(0)[i].albedo.surface)
        std::fill_n(&bounced_[half.at(x, y) * 4], 4, 0.f);
      if (mostly == Surface::Nothing || sets.set(k % kSampleSets)[i].albedo.surface != mostly) continue;
      to[n] = passes_ < kSampleSets ? sets.bounces(k)[half.at(x, y)] : BounceSample{};
      from[n++] = {x, y, k};
    }
  if (n == 0) return;
  if (passes_ >= kSampleSets) sets.bounce({from.data(), n}, to.data());
  BounceRun points;
  for (size_t j = 0; j < n; ++j) {
    const size_t i = sets.pixelOfHalf(from[j].x, from[j].y);
    points.add(sets.set(from[j].k % kSampleSets)[i], to[j], half.at(from[j].x, from[j].y),
               lighting_.seedOf(hash32(std::uint32_t(i))), std::uint32_t(from[j].k));
  }
  Run3 light;
  lighting_.bounced(points, sets.view(), sets.scene(), panels_, light);
  for (int j = 0; j < points.n; ++j) {
    float* sum = &bounced_[points.place[size_t(j)] * 4];
    for (int c = 0; c < 3; ++c) sum[c] += light[j][c];
    ++sum[3];
  }
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

void Layer::traceTile(const SampleSets& sets, int x0, int y0) {
  const View& view = sets.view();
  // What the lamp cannot reach needs no colour, nor what is finer than the mesh.
  const std::function<bool(const SurfacePoint&)> mayBeLit = [&](const SurfacePoint& s) {
    return lighting_.mayLight(s, view, sets.scene());
  };
  LitPoints points;
  Lighting::Lit lit;
  std::array<size_t, kRun> pixel;
  std::array<float, kRun> weight;
  const auto take = [&] {
    if (points.n == 0) return;
    lighting_.light(points, view, sets.scene(), panels_, lit);
    for (int k = 0; k < points.n; ++k) {
      const float w = weight[size_t(k)];
      count(pixel[size_t(k)], int(points.pass[size_t(k)]),
            {(lit.direct[k] + lit.panelDirect[k]) * w, (lit.sheen[size_t(k)] + lit.panelSheen[size_t(k)]) * w});
    }
    points.n = 0;
  };
  const auto add = [&](const PixelSample& s, const PixelPass& at, float share = 1) {
    const size_t i = size_t(at.y) * size_t(view.width) + size_t(at.x);
    const std::uint32_t pixelKey = hash32(std::uint32_t(i));
    if (s.albedo.surface == Surface::Nothing) {
      const Vec3 ray = view.direction(float(at.x) + 0.5f, float(at.y) + 0.5f);
      const Radiance beyond = lighting_.beyond(view, sets.scene(), std::uint32_t(at.k), pixelKey, ray);
      count(i, at.k, {beyond.direct * share, beyond.sheen * share});
      return;
    }
    weight[size_t(points.n)] = share;
    pixel[size_t(points.n)] = i;
    points.add(s, pixelKey, lighting_.seedOf(pixelKey), std::uint32_t(at.k));
    if (points.full()) take();
  };
  std::array<PixelPass, kRun> anew;
  std::array<PixelSample, kRun> fresh;
  std::array<std::uint8_t, kRun> wanted;
  size_t asked = 0;
  const auto takeAnew = [&] {
    take();
    sets.fresh({anew.data(), asked}, mayBeLit, fresh.data(), wanted.data());
    for (size_t k = 0; k < asked; ++k)
      if (wanted[k]) add(fresh[k], anew[k]);  // else dark for certain
    take();
    asked = 0;
  };
  for (int y = y0; y < std::min(y0 + kTile, view.height); ++y)
    for (int x = x0; x < std::min(x0 + kTile, view.width); ++x) {
      const size_t i = size_t(y) * size_t(view.width) + size_t(x);
      int samples = 1;
      if (!share_.empty()) {
        // Shares are sixteenths: every pixel has its own phase, so that a part of them is due in every pass.
        const int phase = int(hash32(std::uint32_t(i)) & 15), share = share_[i];
        samples = ((passes_ + 1) * share + phase) / 16 - (passes_ * share + phase) / 16;
      }
      // Of an outline both its halves are asked about, each by its share; in the end chance alone knows better.
      const auto halves = sets.halves(i);
      for (; samples > 0; --samples) {
        const int n = int(count_[i]++);
        if (halves && n < kByHalves) {
          add(halves->front[size_t(n) % halves->front.size()], {x, y, n}, halves->share);
          add(halves->behind[size_t(n) % halves->behind.size()], {x, y, n}, 1 - halves->share);
          continue;
        }
        // A noisy pixel may be ahead of the sets that stand.
        if (n % kSampleSets >= sets.complete() || (n >= kSampleSets && sets.rough(i))) {
          anew[asked++] = {x, y, n};
          if (asked == kRun) takeAnew();
        } else {
          add(sets.set(n % kSampleSets)[i], {x, y, n});
        }
      }
    }
  takeAnew();
}

bool Layer::trace(const SampleSets& sets, const Interrupt& interrupt) {
  const View& view = sets.view();
  const int across = tilesAcross(view), tiles = across * tilesDown(view);
  const size_t pixels = size_t(view.width) * size_t(view.height);
  const bool lamp = !lighting_.ambient();
  if (bounced_.empty()) {
    bounced_.assign(sets.guides(2).surface.size() * 4, 0);
    if (lamp) {
      panels_ = Source::Points(lighting_.source(), sets.scene());
      sum_.assign(pixels * 4, 0);
      evenSum_.assign(pixels, 0);
      evenSheen_.assign(pixels, 0);
      count_.assign(pixels, 0);
    }
  }
  if (tileDone_.empty()) {
    tileDone_.assign(size_t(tiles), 0);
    if (lamp && passes_ >= kEven && passes_ % (passes_ < 16 ? 2 : 8) == 0) shareOut(sets);
  }
  inParallel(size_t(tiles), [&](size_t at) {
    const int x0 = int(at) % across * kTile, y0 = int(at) / across * kTile;
    if (tileDone_[at] || interrupt.raised()) return;
    if (lamp) traceTile(sets, x0, y0);
    bounceInTile(sets, x0, y0);
    tileDone_[at] = 1;
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
  const auto& bounces = sets.bounces(0);
  // Light over panels and light that has bounced come from wide about: asked for at some pixels only, they are smooth
  // by nature and may be smoothed far more than the edge of a shadow.
  const bool lamp = !lighting_.ambient();
  const bool overPanels = lamp && lighting_.source().feedsPanels();
  Irradiance half(sets.guides(2));
  std::optional<Irradiance> soft;
  if (overPanels) soft.emplace(sets.guides(2));
  // All pixels have one key and sixteen pass numbers: panels are met at a few points, the same for all.
  constexpr std::uint32_t kOneKey = 0x1234567u, kOneOf = 2, kPatterns = 16;
  std::vector<Source::PanelPoint> panelPoints;
  for (std::uint32_t k = 0; overPanels && k < kPatterns / kOneOf; ++k)
    panelPoints.push_back(lighting_.source().panelPoint(&sets.scene(), k, lighting_.panelSeedOf(kOneKey)));
  const int across = (w + kTile - 1) / kTile, down = (h + kTile - 1) / kTile;
  inParallel(size_t(across) * size_t(down), [&](size_t at) {
    const int tile = int(at);
    const int x0 = tile % across * kTile, y0 = tile / across * kTile;
    LitPoints points;
    Lighting::Lit lit;
    std::array<Place, kRun> place;
    const auto put = [&](int x, int y, const PixelSample& s, const Radiance& l, const Radiance& wide) {
      const Vec3 albedo = s.albedo.unpacked();
      const bool solid = s.albedo.surface != Surface::Nothing;
      const Vec3 bounced =
          solid ? albedo * lighting_.firstBounce(s, bounces[sets.guides(2).at(x, y)], view, sets.scene()) : Vec3{};
      half.set(x, y, soft ? l.direct : l.direct + bounced, albedo, l.sheen, solid);
      if (soft) soft->set(x, y, wide.direct + bounced, albedo, wide.sheen, solid);
    };
    const auto take = [&] {
      lighting_.firstLook(points, view, sets.scene(), kOneOf, panelPoints, lit);
      for (int k = 0; k < points.n; ++k)
        put(place[size_t(k)].x, place[size_t(k)].y, *points.sample[size_t(k)], lit.own(k), lit.overPanels(k));
      points.n = 0;
    };
    for (int y = y0; y < std::min(y0 + kTile, h); ++y)
      for (int x = x0; x < std::min(x0 + kTile, w); ++x) {
        const PixelSample& s = set[sets.pixelOfHalf(x, y)];
        // One pattern of pass numbers per 4x4 block spreads the noise evenly for the filter.
        const auto pattern = std::uint32_t((x & 3) + 4 * (y & 3));
        if (lamp && s.albedo.surface != Surface::Nothing) {
          place[size_t(points.n)] = {x, y};
          points.add(s, kOneKey, lighting_.seedOf(kOneKey), pattern);
          if (points.full()) take();
          continue;
        }
        if (lamp)
          put(x, y, s,
              lighting_.beyond(view, sets.scene(), pattern, kOneKey,
                               view.direction(float(2 * x) + 0.5f, float(2 * y) + 0.5f)),
              {});
        else
          put(x, y, s, {{}, lighting_.glow(sets.scene(), depthOf(sets.guides(2), sets.guides(2).at(x, y), view))}, {});
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

void Layer::fillDirect(const SampleSets& sets, bool smooth, Irradiance& full) const {
  const View& view = sets.view();
  // The filter fades as the passes mount. More rounds lower the noise of skin no further and cost hair and shadow edges
  // (measured against 512 passes).
  const int rounds = !smooth ? 0 : passes_ <= 8 ? 2 : passes_ <= 64 ? 1 : 0;
  inParallel(size_t(view.height), 16, [&](size_t first, size_t last) {
    for (int y = int(first); y < int(last); ++y)
      for (int x = 0; x < view.width; ++x) {
        const size_t i = size_t(y) * size_t(view.width) + size_t(x);
        const float* s = &sum_[i * 4];
        const int n = std::max(1, int(count_[i]));
        const float scale = 1 / float(n);
        // Where several surfaces share the pixel, their light is not one irradiance times the mean albedo: that is
        // taken out and put back the same.
        const Vec3 albedo = sets.meanAlbedo(sets.rough(i) ? sets.complete() : n, i);
        full.set(x, y, Vec3{s[0], s[1], s[2]} * scale, albedo, s[3] * scale,
                 sets.guides(1).surface[i] != std::int32_t(Surface::Nothing));
        if (rounds && n > 1 && !(passes_ > 16 && sets.rough(i))) {
          const int evens = (n + 1) / 2, odds = n / 2;
          const float evenMean = evenSum_[i] / float(evens);
          const float oddMean = (luminance({s[0], s[1], s[2]}) - evenSum_[i]) / float(odds);
          // A filter that its own noise stops leaves it: where pixels stand for one surface, neighbours may differ by
          // twice of it.
          full.setNoise(x, y, (evenMean - oddMean) / (sets.rough(i) ? 2 : 1), luminance(albedo));
        }
      }
  });
  if (!rounds) return;
  const Source& source = lighting_.source();
  full.smooth(
      rounds, passes_,
      source.feedsPanels() ? std::nullopt : std::optional(source.emitter().pose().centre));  // boards: from elsewhere
}

std::shared_ptr<const LayerPicture> Layer::picture(const SampleSets& sets, bool smooth) const {
  const bool lamp = !lighting_.ambient();
  Irradiance full(sets.guides(1)), bounced(sets.guides(2));
  if (lamp) fillDirect(sets, smooth, full);
  const Guides& half = sets.guides(2);
  inParallel(size_t(half.height), 16, [&](size_t first, size_t last) {
    for (int y = int(first); y < int(last); ++y)
      for (int x = 0; x < half.width; ++x) {
        const size_t i = half.at(x, y);
        const float* b = &bounced_[i * 4];
        const float haze = lamp ? 0 : lighting_.glow(sets.scene(), depthOf(half, i, sets.view()));
        bounced.set(x, y, Vec3{b[0], b[1], b[2]} / std::max(1.f, b[3]), {1, 1, 1}, haze, b[3] > 0);
      }
  });
  // The bounce changes slowly over a surface: however many passes, it is smoothed further than shadow edges may be.
  if (smooth) bounced.smoothWide(lamp ? 4 : 2);
  bounced.addToFull(full);
  if (smooth) full.scatterInSkin();
  return finished(full, sets);
}

}  // namespace easel
