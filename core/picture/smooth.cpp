#include "picture/smooth.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "picture/layer.h"
#include "threads/parallel.h"
#include "transport/skin.h"

namespace easel {
namespace {

constexpr float kDark = 0.002f;  // least albedo that light is divided by

// Of what a lamp gives at best, what it would give there without shadows, as near as the cosine to its middle tells; a
// tenth where that is nothing. Cloth in relief is as even as its shadows are, once its light is divided by it.
constexpr float kFacingAway = 0.1f;
float unshadowed(const Guides& g, size_t i, Vec3 lamp) {
  const auto surface = Surface(g.surface[i]);
  if (surface != Surface::Skin && surface != Surface::Cloth && surface != Surface::Backdrop) return 1;
  const float facing = dot(normalize(lamp - g.position(i)), g.normal(i));
  return kFacingAway + (1 - kFacingAway) * std::max(0.f, facing);
}

template <class F>
void rows(int height, F f) {
  inParallel(size_t(height), 8, [&](size_t first, size_t last) {
    for (int y = int(first); y < int(last); ++y) f(y);
  });
}

// Share that comes out in a strip of that width, `x` to the side of where light went in.
float scatteredTo(float x, float width) {
  const float from = x - width / 2;
  return scatteredWithin(x + width / 2) - (from < 0 ? -scatteredWithin(-from) : scatteredWithin(from));
}

}  // namespace

Irradiance::Irradiance(const Guides& guides) : guides_(guides), width_(guides.width), height_(guides.height) {
  for (auto& plane : value_) plane.resize(guides.surface.size());
  noise_.resize(guides.surface.size());
}

void Irradiance::set(int x, int y, Vec3 diffuse, Vec3 albedo, float sheen, bool solid) {
  const size_t i = guides_.at(x, y);
  for (int c = 0; c < 3; ++c) value_[size_t(c)][i] = solid ? diffuse[c] / std::max(kDark, albedo[c]) : 0;
  value_[3][i] = sheen;
}

void Irradiance::setNoise(int x, int y, float difference, float albedoLuminance) {
  noise_[guides_.at(x, y)] = std::abs(difference) / std::max(kDark, albedoLuminance);
}

// Most of an edge light's picture is black, and no filter makes light: only tiles with light in them or beside them are
// worked on. No filter here reaches further than a tile.
void Irradiance::findLit() {
  const int across = (width_ + kTile - 1) / kTile, down = (height_ + kTile - 1) / kTile;
  std::vector<std::uint8_t> own(size_t(across) * size_t(down));
  rows(down, [&](int ty) {
    for (int tx = 0; tx < across; ++tx) {
      bool any = false;
      for (int y = ty * kTile; y < std::min((ty + 1) * kTile, height_) && !any; ++y)
        for (const auto& plane : value_) {
          const float* from = &plane[guides_.at(tx * kTile, y)];
          any |= std::any_of(from, from + std::min(kTile, width_ - tx * kTile), [](float v) { return v != 0; });
        }
      own[size_t(ty) * size_t(across) + size_t(tx)] = any;
    }
  });
  lit_.assign(own.size(), 0);
  for (int ty = 0; ty < down; ++ty)
    for (int tx = 0; tx < across; ++tx)
      if (own[size_t(ty) * size_t(across) + size_t(tx)])
        for (int y = std::max(0, ty - 1); y <= std::min(down - 1, ty + 1); ++y)
          for (int x = std::max(0, tx - 1); x <= std::min(across - 1, tx + 1); ++x)
            lit_[size_t(y) * size_t(across) + size_t(x)] = 1;
}

template <class F>
void Irradiance::overLit(F work) const {
  const int across = (width_ + kTile - 1) / kTile;
  rows(height_, [&](int y) {
    const std::uint8_t* lit = &lit_[size_t(y / kTile) * size_t(across)];
    for (int from = 0; from < across;) {
      if (!lit[from]) {
        ++from;
        continue;
      }
      int to = from + 1;
      while (to < across && lit[to]) ++to;
      work(y, from * kTile, std::min(width_, to * kTile));
      from = to;
    }
  });
}

void Irradiance::round(RowFilter filter) {
  filter.guides = &guides_;
  for (size_t c = 0; c < 4; ++c) {
    next_[c].resize(value_[c].size());
    filter.from[c] = value_[c].data();
    filter.to[c] = next_[c].data();
  }
  overLit([&](int y, int x0, int x1) { filterRun(filter, y, x0, x1); });
  value_.swap(next_);
}

void Irradiance::light(std::vector<float>& out) const {
  out.resize(value_[0].size());
  overLit([&](int y, int x0, int x1) {
    const size_t i = guides_.at(x0, y);
    luminanceRun(&value_[0][i], &value_[1][i], &value_[2][i], &out[i], size_t(x1 - x0));
  });
}

// The two-halves estimate is itself noisy: a 5 x 5 mean makes it usable.
std::vector<float> Irradiance::evenNoise() {
  std::vector<float> noise(value_[0].size());
  for (float& v : noise_) v *= v;
  RowFilter filter{RowFilter::How::Noise, &guides_};
  filter.from[0] = noise_.data();
  filter.to[0] = noise.data();
  overLit([&](int y, int x0, int x1) { filterRun(filter, y, x0, x1); });
  return noise;
}

// The first look samples in a pattern of four by four pixels, so neighbours differ by what they asked for, not by what
// falls on them. What is compared there is the mean over the pattern: two rounds that know the surface alone have
// their zeros at two and at four pixels. An edge of light comes out softer, the pattern does not come out.
std::vector<float> Irradiance::evenLight() {
  std::vector<float> is, next(value_[0].size());
  light(is);
  for (const int step : {1, 2}) {
    RowFilter filter{RowFilter::How::Even, &guides_, step};
    filter.from[0] = is.data();
    filter.to[0] = next.data();
    overLit([&](int y, int x0, int x1) { filterRun(filter, y, x0, x1); });
    is.swap(next);
  }
  return is;
}

void Irradiance::smooth(int rounds, int passes, std::optional<Vec3> lamp) {
  findLit();
  // After one pass there is no estimate of the noise: what is compared has been evened out, and may differ by a third.
  const bool first = passes <= 1;
  const auto overPixels = [&](auto work) {
    overLit([&](int y, int x0, int x1) {
      for (size_t i = guides_.at(x0, y), end = guides_.at(x1, y); i < end; ++i) work(i, unshadowed(guides_, i, *lamp));
    });
  };
  if (first) lamp.reset();
  if (lamp)
    overPixels([&](size_t i, float share) {
      for (size_t c = 0; c < 3; ++c) value_[c][i] /= share;
      noise_[i] /= share;
    });
  const std::vector<float> noise = first ? std::vector<float>{} : evenNoise();
  std::vector<float> compared = first ? evenLight() : std::vector<float>{};
  for (int k = 0; k < rounds; ++k) {
    if (!first) light(compared);
    RowFilter filter{first ? RowFilter::How::First : RowFilter::How::Known, &guides_, 1 << k};
    filter.compared = compared.data();
    filter.noise = noise.data();
    filter.noiseScale = k == 0 && passes <= 16 ? 1.5f : 0.75f;
    round(filter);
  }
  if (lamp)
    overPixels([&](size_t i, float share) {
      for (size_t c = 0; c < 3; ++c) value_[c][i] *= share;
    });
}

void Irradiance::smoothWide(int rounds) {
  findLit();
  for (int k = 0; k < rounds; ++k) round({RowFilter::How::Wide, &guides_, 1 << k});
}

void Irradiance::scatterInSkin() {
  const std::array<float, 3>& wide = skinScatter();
  // One pixel size for all the skin in the picture (a head is shallow against the distance) makes the falloff a table.
  double spreads = 0;
  size_t count = 0;
  for (size_t i = 0; i < guides_.surface.size(); ++i)
    if (guides_.surface[i] == std::int32_t(Surface::Skin)) {
      spreads += double(guides_.spread[i]);
      ++count;
    }
  if (!count) return;
  const float pixel = std::max(1e-5f, float(spreads / double(count)));
  if (wide[0] < 0.12f * pixel) return;  // the whole scatter is inside a pixel
  SkinBlur blur{&guides_};
  blur.reach = std::min(12, int(std::ceil(8.4f * wide[0] / pixel)));
  blur.perPixel2 = 1 / (pixel * pixel);
  blur.entries = (blur.reach * blur.reach + 1) * SkinBlur::kSteps;
  std::array<std::vector<float>, 3> table;
  for (size_t c = 0; c < 3; ++c) {
    for (int i = 0; i < blur.entries; ++i)
      table[c].push_back(scatteredTo(std::sqrt(float(i) / SkinBlur::kSteps) * pixel / wide[c], pixel / wide[c]));
    table[c].push_back(0);
    blur.table[c] = table[c].data();
  }
  findLit();
  for (const bool down : {false, true}) {
    blur.down = down;
    for (size_t c = 0; c < 3; ++c) {
      next_[c].resize(value_[c].size());
      blur.from[c] = value_[c].data();
      blur.to[c] = next_[c].data();
    }
    overLit([&](int y, int x0, int x1) { blurRun(blur, y, x0, x1); });
    for (size_t c = 0; c < 3; ++c) value_[c].swap(next_[c]);
  }
}

Vec3 Irradiance::at(int x, int y) const {
  const size_t i = guides_.at(x, y);
  return {value_[0][i], value_[1][i], value_[2][i]};
}

void Irradiance::finish(const SampleSets& sets, LayerPicture& out) const {
  rows(height_, [&](int y) {
    const size_t i = guides_.at(0, y);
    for (auto [c, plane] : {std::pair<size_t, float*>{0, &out.r[i]}, {1, &out.g[i]}, {2, &out.b[i]}})
      finishRun(&value_[c][i], &value_[3][i], sets.meanAlbedoPlane(sets.complete(), c) + i, kDark, plane,
                size_t(width_));
  });
}

// Of a surface that a pixel of full resolution shares: the mean of what lies about.
std::optional<std::array<float, 4>> Irradiance::about(int fullX, int fullY, std::int32_t surface) const {
  constexpr int kReach = 2;
  std::array<float, 4> sum{};
  float weights = 0;
  const int cx = fullX / 2, cy = fullY / 2;
  for (int y = std::max(0, cy - kReach); y <= std::min(height_ - 1, cy + kReach); ++y)
    for (int x = std::max(0, cx - kReach); x <= std::min(width_ - 1, cx + kReach); ++x) {
      const size_t j = guides_.at(x, y);
      if (guides_.surface[j] != surface) continue;
      const float dx = float(x) - float(fullX) / 2, dy = float(y) - float(fullY) / 2;
      const float w = 1 / (0.25f + dx * dx + dy * dy);
      for (size_t c = 0; c < 4; ++c) sum[c] += w * value_[c][j];
      weights += w;
    }
  if (weights <= 0) return {};
  for (float& v : sum) v /= weights;
  return sum;
}

void Irradiance::addToFull(Irradiance& full) const {
  const Guides &own = guides_, &of = full.guides_;
  rows(full.height_, [&](int y) {
    const int cy = y / 2, y1 = std::min(cy + 1, height_ - 1);
    const size_t here = of.at(0, y);
    // Where the four neighbours agree, as they do on most of a picture, plain interpolation is right and much cheaper.
    // The others are taken out of it first and put in afterwards.
    std::vector<std::pair<size_t, std::array<float, 4>>> apart;
    for (int x = 0; x < full.width_; ++x) {
      const size_t i = here + size_t(x), near = own.at(x / 2, cy);
      const float shared = of.otherShare.empty() ? 0 : of.otherShare[i];
      if (own.even[near] && own.surface[near] == of.surface[i] && shared <= 0) continue;
      const float hx = float(x) / 2, hy = float(y) / 2;
      float sum[4] = {0, 0, 0, 0}, weights = 0;
      for (int dy = 0; dy <= 1; ++dy)
        for (int dx = 0; dx <= 1; ++dx) {
          const int xx = std::min(int(hx) + dx, width_ - 1), yy = std::min(int(hy) + dy, height_ - 1);
          const size_t j = own.at(xx, yy);
          const float fx = 1 - std::min(1.f, std::abs(hx - float(xx))),
                      fy = 1 - std::min(1.f, std::abs(hy - float(yy)));
          float w = (fx * fy + 0.02f) * (own.surface[j] == of.surface[i] ? 1.f : 1e-4f);
          const float facing = std::max(0.f, dot(own.normal(j), of.normal(i)));
          w *= 0.001f + facing * facing * facing * facing;
          for (size_t c = 0; c < 4; ++c) sum[c] += w * value_[c][j];
          weights += w;
        }
      auto& [place, value] = apart.emplace_back(i, std::array<float, 4>{});
      for (size_t c = 0; c < 4; ++c) value[c] = sum[c] / weights;
      if (const auto other = shared > 0 ? about(x, y, of.other[i]) : std::nullopt)
        for (size_t c = 0; c < 4; ++c) value[c] += ((*other)[c] - value[c]) * shared;
      for (size_t c = 0; c < 4; ++c) value[c] += full.value_[c][place];
    }
    for (size_t c = 0; c < 4; ++c)
      doubledRun(&value_[c][own.at(0, cy)], &value_[c][own.at(0, y1)], (y & 1) ? 0.5f : 0.f, width_,
                 &full.value_[c][here], full.width_);
    for (const auto& [place, value] : apart)
      for (size_t c = 0; c < 4; ++c) full.value_[c][place] = value[c];
  });
}

}  // namespace easel
