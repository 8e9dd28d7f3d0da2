#include "picture/smooth.h"

#include "picture/layer.h"
#include "transport/parallel.h"

namespace easel {
namespace {

constexpr float kDark = 0.002f;  // least albedo that light is divided by

float power8(float x) {
  x = std::max(0.f, x);
  x *= x;
  x *= x;
  return x * x;
}
float power32(float x) {
  x = power8(x);
  x *= x;
  return x * x;
}

template <class F>
void rows(int height, F f) {
  inParallel(size_t(height), 8, [&](size_t first, size_t last) {
    for (int y = int(first); y < int(last); ++y) f(y);
  });
}

}  // namespace

Irradiance::Irradiance(int width, int height)
    : width_(width),
      height_(height),
      value_(size_t(width) * size_t(height) * 4),
      noise_(size_t(width) * size_t(height)),
      guide_(size_t(width) * size_t(height)) {}

void Irradiance::set(int x, int y, Vec3 diffuse, Vec3 albedo, float sheen, bool solid) {
  float* v = &value_[at(x, y) * 4];
  v[0] = solid ? diffuse.x / std::max(kDark, albedo.x) : 0;
  v[1] = solid ? diffuse.y / std::max(kDark, albedo.y) : 0;
  v[2] = solid ? diffuse.z / std::max(kDark, albedo.z) : 0;
  v[3] = sheen;
}

void Irradiance::setNoise(int x, int y, float difference, float albedoLuminance) {
  noise_[at(x, y)] = std::abs(difference) / std::max(kDark, albedoLuminance);
}

void Irradiance::guideFrom(const SampleSets& sets, int reduce) {
  const View& v = sets.view();
  const float perMetre = v.pixelAt1m() * float(reduce);
  rows(height_, [&](int y) {
    for (int x = 0; x < width_; ++x) {
      // Half resolution looks at alternating pixels of the four that it stands for.
      const int fx = std::min(reduce * x, v.width - 1),
                fy = std::min(reduce * y + (reduce > 1 ? x & 1 : 0), v.height - 1);
      const PixelGuide g = sets.guide(size_t(fy) * size_t(v.width) + size_t(fx));
      guide_[at(x, y)] = {g.position, g.normal.unpacked(), perMetre * length(g.position - v.camera.eye),
                          std::uint8_t(g.surface), g.share};
    }
  });
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
        for (int x = tx * kTile; x < std::min((tx + 1) * kTile, width_) && !any; ++x) {
          const float* v = &value_[at(x, y) * 4];
          any = v[0] != 0 || v[1] != 0 || v[2] != 0 || v[3] != 0;
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
bool Irradiance::lit(int x, int y) const {
  return lit_[size_t(y / kTile) * size_t((width_ + kTile - 1) / kTile) + size_t(x / kTile)];
}

// Calls `take(neighbour, weight)` for what lies round the pixel on its own surface, `step` pixels apart, weighted by
// the kernel times `weigh(neighbour, off)`.
template <class Weigh, class Take>
void Irradiance::around(int x, int y, int step, Weigh weigh, Take take) const {
  constexpr float kKernel[3] = {0.25f, 0.5f, 0.25f};
  const Guide& g = guide_[at(x, y)];
  const float plane = 1 / (2.0f * g.spread * float(step) + 1e-6f);
  for (int dy = -1; dy <= 1; ++dy) {
    const int yy = y + dy * step;
    if (yy < 0 || yy >= height_) continue;
    for (int dx = -1; dx <= 1; ++dx) {
      const int xx = x + dx * step;
      if (xx < 0 || xx >= width_) continue;
      const size_t j = at(xx, yy);
      const Guide& q = guide_[j];
      if (q.surface != g.surface) continue;
      const float off = std::abs(dot(q.position - g.position, g.normal)) * plane;
      take(j, kKernel[dx + 1] * kKernel[dy + 1] * weigh(j, off));
    }
  }
}

template <class Channels, class Weigh>
void Irradiance::round(int step, Channels channels, Weigh weighFrom) {
  std::vector<float> next(value_.size());
  rows(height_, [&](int y) {
    for (int x = 0; x < width_; ++x) {
      const size_t i = at(x, y);
      if (!lit(x, y)) continue;
      const Guide& g = guide_[i];
      const float* own = &value_[i * 4];
      float* out = &next[i * 4];
      for (int c = 0; c < 4; ++c) out[c] = own[c];
      if (g.surface == std::uint8_t(Surface::Nothing)) continue;
      float sum[4] = {0, 0, 0, 0}, weights = 0;
      around(x, y, step, weighFrom(i), [&](size_t j, float w) {
        for (int c = 0; c < 4; ++c) sum[c] += w * value_[j * 4 + size_t(c)];
        weights += w;
      });
      if (weights > 1e-6f)
        for (int c = 0; c < channels(g); ++c) out[c] = sum[c] / weights;
    }
  });
  value_.swap(next);
}

float Irradiance::lightOf(size_t i) const {
  const float* v = &value_[i * 4];
  return 0.2126f * v[0] + 0.7152f * v[1] + 0.0722f * v[2];
}

// The two-halves estimate is itself noisy: a 5 x 5 mean makes it usable.
std::vector<float> Irradiance::evenNoise() const {
  std::vector<float> noise(noise_.size());
  rows(height_, [&](int y) {
    for (int x = 0; x < width_; ++x) {
      if (!lit(x, y)) continue;
      float sum = 0, count = 0;
      const std::uint8_t surface = guide_[at(x, y)].surface;
      for (int dy = -2; dy <= 2; ++dy) {
        const int yy = std::clamp(y + dy, 0, height_ - 1);
        for (int dx = -2; dx <= 2; ++dx) {
          const size_t j = at(std::clamp(x + dx, 0, width_ - 1), yy);
          if (guide_[j].surface != surface) continue;
          sum += noise_[j] * noise_[j];
          ++count;
        }
      }
      noise[at(x, y)] = std::sqrt(sum / count);
    }
  });
  return noise;
}

// The first look samples in a pattern of four by four pixels, so neighbours differ by what they asked for, not by what
// falls on them. What is compared there is the mean over the pattern: two rounds that know the surface alone have
// their zeros at two and at four pixels. An edge of light comes out softer, the pattern does not come out.
std::vector<float> Irradiance::evenLight() const {
  std::vector<float> light(noise_.size()), next(noise_.size());
  for (size_t i = 0; i < light.size(); ++i) light[i] = lightOf(i);
  for (const int step : {1, 2}) {
    rows(height_, [&](int y) {
      for (int x = 0; x < width_; ++x) {
        const size_t i = at(x, y);
        if (!lit(x, y)) continue;
        next[i] = light[i];
        if (guide_[i].surface == std::uint8_t(Surface::Nothing)) continue;
        float sum = 0, weights = 0;
        around(
            x, y, step,
            [&, normal = guide_[i].normal](size_t j, float off) {
              return power8(dot(guide_[j].normal, normal)) / (1 + off * off);
            },
            [&](size_t j, float w) {
              sum += w * light[j];
              weights += w;
            });
        if (weights > 1e-6f) next[i] = sum / weights;
      }
    });
    light.swap(next);
  }
  return light;
}

void Irradiance::smooth(int rounds, int passes) {
  findLit();
  // After one pass there is no estimate of the noise: what is compared has been evened out, and may differ by a third.
  const bool first = passes <= 1;
  const std::vector<float> even = first ? evenLight() : evenNoise();
  // The mirror in the eye is no texture to be smoothed.
  auto channels = [](const Guide& g) { return g.surface == std::uint8_t(Surface::Eye) ? 3 : 4; };
  auto compared = [&](size_t i) { return first ? even[i] : lightOf(i); };
  for (int k = 0; k < rounds; ++k)
    round(1 << k, channels, [&](size_t i) {
      const float own = compared(i);
      const float stop =
          first ? 1 / (0.3f * own + 1e-7f) : 1 / (1.5f * even[i] * (k == 0 ? 1.f : 0.5f) + 1e-7f + 0.004f * own);
      return [&, own, stop, normal = guide_[i].normal](size_t j, float off) {
        const float light = std::abs(compared(j) - own) * stop;
        const float facing = dot(guide_[j].normal, normal);
        return (first ? power8(facing) : power32(facing)) / ((1 + off * off) * (1 + light * light * light));
      };
    });
}

void Irradiance::smoothWide(int rounds) {
  findLit();
  auto channels = [](const Guide& g) { return g.surface == std::uint8_t(Surface::Eye) ? 3 : 4; };
  for (int k = 0; k < rounds; ++k)
    round(1 << k, channels, [&](size_t i) {
      // The cards of hair turn every way; the tuft as a whole is what the room lights.
      const bool hair = guide_[i].surface == std::uint8_t(Surface::Hair);
      return [&, hair, normal = guide_[i].normal](size_t j, float off) {
        float facing = std::max(0.f, dot(guide_[j].normal, normal));
        facing *= facing;
        return (hair ? 0.1f + facing : facing * facing * facing * facing) / (1 + off * off * (hair ? 0.1f : 1.f));
      };
    });
}

void Irradiance::scatterInSkin() {
  // Widths (standard deviation) on the face: red 1.9 mm, green 0.8 mm, blue 0.45 mm; the order of the published skin
  // profiles (E. d'Eon, D. Luebke, GPU Gems 3, ch. 14, sums of Gaussians), as one Gaussian a channel.
  constexpr float kWidth[3] = {0.0019f, 0.0008f, 0.00045f};
  // One pixel size for all the skin in the picture (a head is shallow against the distance) makes the falloff a table.
  double spreads = 0;
  size_t count = 0;
  for (const Guide& g : guide_)
    if (g.surface == std::uint8_t(Surface::Skin)) {
      spreads += g.spread;
      ++count;
    }
  if (!count) return;
  const float pixel = std::max(1e-5f, float(spreads / double(count)));
  const int reach = std::min(12, int(std::ceil(2.2f * kWidth[0] / pixel)));
  if (kWidth[0] < 0.3f * pixel) return;  // the whole scatter is inside a pixel
  constexpr int kSteps = 4;              // entries per unit of squared distance
  const int entries = (reach * reach + 1) * kSteps;
  std::vector<float> table(size_t(entries) * 3);
  for (int i = 0; i < entries; ++i)
    for (size_t c = 0; c < 3; ++c)
      table[size_t(i) * 3 + c] = std::exp(-0.5f * (float(i) / kSteps) * pixel * pixel / (kWidth[c] * kWidth[c]));
  const float perPixel2 = 1 / (pixel * pixel);
  findLit();

  std::vector<float> next = value_;
  for (int pass = 0; pass < 2; ++pass) {
    rows(height_, [&](int y) {
      for (int x = 0; x < width_; ++x) {
        const size_t i = at(x, y);
        const Guide& g = guide_[i];
        // What shares a pixel with the skin (a hair, the backdrop beyond the outline) has light of its own: only pixels
        // of nothing but skin take part.
        if (g.surface != std::uint8_t(Surface::Skin) || g.share < kSampleSets || !lit(x, y)) continue;
        float sum[3] = {0, 0, 0}, weight[3] = {0, 0, 0};
        for (int k = -reach; k <= reach; ++k) {
          const int xx = pass ? x : x + k, yy = pass ? y + k : y;
          if (xx < 0 || yy < 0 || xx >= width_ || yy >= height_) continue;
          const size_t j = at(xx, yy);
          const Guide& q = guide_[j];
          if (q.surface != g.surface || q.share < kSampleSets) continue;
          // Distance in space, so that the nose does not bleed onto the cheek behind it.
          const Vec3 apart = q.position - g.position;
          const int entry = int(std::max(float(k * k), dot(apart, apart) * perPixel2) * kSteps);
          if (entry >= entries) continue;
          const float* w = &table[size_t(entry) * 3];
          for (size_t c = 0; c < 3; ++c) {
            sum[c] += w[c] * value_[j * 4 + c];
            weight[c] += w[c];
          }
        }
        for (size_t c = 0; c < 3; ++c) next[i * 4 + c] = sum[c] / weight[c];
      }
    });
    value_ = next;
  }
}

void Irradiance::finish(const SampleSets& sets, LayerPicture& out) const {
  const int best = sets.complete();
  rows(height_, [&](int y) {
    for (int x = 0; x < width_; ++x) {
      const size_t i = at(x, y);
      const Vec3 albedo = sets.meanAlbedo(best, i);
      const float* v = &value_[i * 4];
      out.r[i] = v[0] * std::max(kDark, albedo.x) + v[3];
      out.g[i] = v[1] * std::max(kDark, albedo.y) + v[3];
      out.b[i] = v[2] * std::max(kDark, albedo.z) + v[3];
    }
  });
}

void Irradiance::addToFull(Irradiance& full) const {
  // Where the four neighbours agree, as they do on most of a picture, plain interpolation is right and much cheaper.
  std::vector<std::uint8_t> even(value_.size() / 4);
  rows(height_, [&](int y) {
    for (int x = 0; x < width_; ++x) {
      const int x1 = std::min(x + 1, width_ - 1), y1 = std::min(y + 1, height_ - 1);
      const Guide& g = guide_[at(x, y)];
      bool same = true;
      for (size_t j : {at(x1, y), at(x, y1), at(x1, y1)})
        same &= guide_[j].surface == g.surface && dot(guide_[j].normal, g.normal) > 0.97f;
      even[at(x, y)] = same;
    }
  });
  rows(full.height_, [&](int y) {
    for (int x = 0; x < full.width_; ++x) {
      const size_t i = full.at(x, y);
      const Guide& s = full.guide_[i];
      if (const int cx = x / 2, cy = y / 2; even[at(cx, cy)] && guide_[at(cx, cy)].surface == s.surface) {
        const int x1 = std::min(cx + 1, width_ - 1), y1 = std::min(cy + 1, height_ - 1);
        const float fx = (x & 1) ? 0.5f : 0.f, fy = (y & 1) ? 0.5f : 0.f;
        const float *a = &value_[at(cx, cy) * 4], *b = &value_[at(x1, cy) * 4], *c = &value_[at(cx, y1) * 4],
                    *d = &value_[at(x1, y1) * 4];
        float* v = &full.value_[i * 4];
        for (int k = 0; k < 4; ++k)
          v[k] += (a[k] * (1 - fx) + b[k] * fx) * (1 - fy) + (c[k] * (1 - fx) + d[k] * fx) * fy;
        continue;
      }
      const Vec3 n = s.normal;
      const auto surface = s.surface;
      const float hx = float(x) / 2, hy = float(y) / 2;
      float sum[4] = {0, 0, 0, 0}, weights = 0;
      for (int dy = 0; dy <= 1; ++dy)
        for (int dx = 0; dx <= 1; ++dx) {
          const int xx = std::min(int(hx) + dx, width_ - 1), yy = std::min(int(hy) + dy, height_ - 1);
          const size_t j = at(xx, yy);
          const Guide& q = guide_[j];
          const float fx = 1 - std::min(1.f, std::abs(hx - float(xx))),
                      fy = 1 - std::min(1.f, std::abs(hy - float(yy)));
          float w = (fx * fy + 0.02f) * (q.surface == surface ? 1.f : 1e-4f);
          const float facing = std::max(0.f, dot(q.normal, n));
          w *= 0.001f + facing * facing * facing * facing;
          const float* v = &value_[j * 4];
          for (int c = 0; c < 4; ++c) sum[c] += w * v[c];
          weights += w;
        }
      for (size_t c = 0; c < 4; ++c) full.value_[i * 4 + c] += sum[c] / weights;
    }
  });
}

}  // namespace easel
