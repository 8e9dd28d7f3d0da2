#include "picture/rows.h"

#include <algorithm>
#include <cmath>

#include "transport/levels.h"

namespace easel {
namespace {

constexpr int kChunk = 256;  // pixels: sums of five planes stay in the first cache
constexpr auto kNothing = std::int32_t(Surface::Nothing), kEye = std::int32_t(Surface::Eye),
               kHair = std::int32_t(Surface::Hair), kSkin = std::int32_t(Surface::Skin);

EASEL_INSIDE float notBelow0(float x) { return x > 0 ? x : 0; }
EASEL_INSIDE float squared(float x) { return x * x; }

using How = RowFilter::How;

// What a neighbour counts, from how it faces, how far off the tangent plane it is (in steps) and how its light differs
// (in what it may).
template <How how>
EASEL_INSIDE float weigh(float facing, float off, float light, bool hair) {
  if constexpr (how == How::Noise) return 1;
  const float f8 = squared(squared(squared(facing))), apart = off * off;
  if constexpr (how == How::Even) return f8 / (1 + apart);
  if constexpr (how == How::First) return f8 / ((1 + apart) * (1 + light * light * light));
  if constexpr (how == How::Known) return squared(squared(f8)) / ((1 + apart) * (1 + light * light * light));
  // The cards of hair turn every way; the tuft as a whole is what the room lights.
  const float top = hair ? 0.1f + squared(facing) : f8, less = hair ? 0.1f : 1.f;
  return top / (1 + apart * less);
}

template <How how>
EASEL_INSIDE void filterChunk(const RowFilter& f, int y, int x0, int x1) {
  constexpr bool oneplane = how == How::Even || how == How::Noise, compares = how == How::First || how == How::Known;
  constexpr int channels = oneplane ? 1 : 4, reach = how == How::Noise ? 2 : 1;
  const Guides& g = *f.guides;
  const int n = x1 - x0;
  const size_t own = g.at(x0, y);
  alignas(32) float plane[kChunk], stop[kChunk], weights[kChunk], sum[channels][kChunk];
  for (int x = 0; x < n; ++x) {
    plane[x] = 1 / (2.0f * g.spread[own + size_t(x)] * float(f.step) + 1e-6f);
    weights[x] = 0;
    if constexpr (how == How::First) stop[x] = 1 / (0.3f * f.compared[own + size_t(x)] + 1e-7f);
    if constexpr (how == How::Known)
      stop[x] = 1 / (f.noiseScale * f.noise[own + size_t(x)] + 1e-7f + 0.004f * f.compared[own + size_t(x)]);
    if constexpr (!compares) stop[x] = 0;
    for (auto& s : sum) s[x] = 0;
  }
  const float *px = &g.px[own], *py = &g.py[own], *pz = &g.pz[own], *nx = &g.nx[own], *ny = &g.ny[own],
              *nz = &g.nz[own];
  const std::int32_t* surface = &g.surface[own];
  const float* light = compares ? f.compared + own : nullptr;
  constexpr float kKernel[3] = {0.25f, 0.5f, 0.25f};
  for (int dy = -reach; dy <= reach; ++dy) {
    if (y + dy * f.step < 0 || y + dy * f.step >= g.height) continue;
    for (int dx = -reach; dx <= reach; ++dx) {
      const int from = std::max(0, -dx * f.step - x0), to = std::min(n, g.width - dx * f.step - x0);
      const std::ptrdiff_t away = std::ptrdiff_t(dy) * f.step * g.width + std::ptrdiff_t(dx) * f.step;
      const float kernel = how == How::Noise ? 1.f : kKernel[(dx + 1) & 3] * kKernel[(dy + 1) & 3];
      const float *qx = px + away, *qy = py + away, *qz = pz + away, *mx = nx + away, *my = ny + away, *mz = nz + away;
      const std::int32_t* other = surface + away;
      const float* lit = compares ? light + away : nullptr;
      const float* v[channels];
      for (int c = 0; c < channels; ++c) v[c] = f.from[size_t(c)] + own + away;
      EASEL_AT_ONCE
      for (int x = from; x < to; ++x) {
        float facing = 1, off = 0, differs = 0;
        if constexpr (how != How::Noise) {
          facing = notBelow0(nx[x] * mx[x] + ny[x] * my[x] + nz[x] * mz[x]);
          off = std::abs((qx[x] - px[x]) * nx[x] + (qy[x] - py[x]) * ny[x] + (qz[x] - pz[x]) * nz[x]) * plane[x];
        }
        if constexpr (compares) differs = std::abs(lit[x] - light[x]) * stop[x];
        const float all = kernel * weigh<how>(facing, off, differs, surface[x] == kHair);
        const float w = other[x] == surface[x] ? all : 0.f;
        weights[x] += w;
        for (int c = 0; c < channels; ++c) sum[c][x] += w * v[c][x];
      }
    }
  }
  for (int c = 0; c < channels; ++c) {
    const float* is = f.from[size_t(c)] + own;
    float* out = f.to[size_t(c)] + own;
    // The mirror in the eye is no texture to be smoothed.
    const std::int32_t kept = c == 3 ? kEye : kNothing;
    EASEL_AT_ONCE
    for (int x = 0; x < n; ++x) {
      const float mean = sum[c][x] / std::max(weights[x], 1e-6f);
      if constexpr (how == How::Noise)
        out[x] = std::sqrt(mean);
      else
        out[x] = surface[x] == kNothing || surface[x] == kept ? is[x] : mean;
    }
  }
}

template <How how>
EASEL_INSIDE void inChunks(const RowFilter& f, int y, int x0, int x1) {
  for (int x = x0; x < x1; x += kChunk) filterChunk<how>(f, y, x, std::min(x1, x + kChunk));
}

EASEL_INSIDE void blurChunk(const SkinBlur& b, int y, int x0, int x1) {
  const Guides& g = *b.guides;
  const int n = x1 - x0;
  const size_t own = g.at(x0, y);
  // What shares a pixel with the skin (a hair, the backdrop beyond the outline) has light of its own: only pixels of
  // nothing but skin take part.
  const std::int32_t* pure = &g.pure[own];
  bool any = false;
  for (int x = 0; x < n; ++x) any |= pure[x] == kSkin;
  if (!any) {
    for (size_t c = 0; c < 3; ++c) std::copy_n(b.from[c] + own, n, b.to[c] + own);
    return;
  }
  alignas(32) float weights[3][kChunk], sum[3][kChunk];
  for (size_t c = 0; c < 3; ++c)
    for (int x = 0; x < n; ++x) weights[c][x] = sum[c][x] = 0;
  const float *px = &g.px[own], *py = &g.py[own], *pz = &g.pz[own];
  const auto end = float(b.entries);
  for (int k = -b.reach; k <= b.reach; ++k) {
    if (b.down && (y + k < 0 || y + k >= g.height)) continue;
    const int from = b.down ? 0 : std::max(0, -k - x0), to = b.down ? n : std::min(n, g.width - k - x0);
    const std::ptrdiff_t away = b.down ? std::ptrdiff_t(k) * g.width : k;
    const float *qx = px + away, *qy = py + away, *qz = pz + away;
    const std::int32_t* other = pure + away;
    const auto least = float(k * k);
    const float* v[3] = {b.from[0] + own + away, b.from[1] + own + away, b.from[2] + own + away};
    EASEL_AT_ONCE
    for (int x = from; x < to; ++x) {
      // Distance in space, so that the nose does not bleed onto the cheek behind it.
      const float far = (squared(qx[x] - px[x]) + squared(qy[x] - py[x]) + squared(qz[x] - pz[x])) * b.perPixel2;
      const float place = (far > least ? far : least) * float(SkinBlur::kSteps);
      const int entry = int(place < end ? place : end);
      const int index = other[x] == kSkin ? entry : b.entries;
      for (int c = 0; c < 3; ++c) {
        const float w = b.table[size_t(c)][index];
        weights[c][x] += w;
        sum[c][x] += w * v[c][x];
      }
    }
  }
  for (size_t c = 0; c < 3; ++c) {
    const float* is = b.from[c] + own;
    float* out = b.to[c] + own;
    EASEL_AT_ONCE
    for (int x = 0; x < n; ++x) {
      const float mean = sum[c][x] / std::max(weights[c][x], 1e-6f);
      out[x] = pure[x] == kSkin ? mean : is[x];
    }
  }
}

}  // namespace

EASEL_EACH_LEVEL void filterRun(const RowFilter& f, int y, int x0, int x1) {
  switch (f.how) {
    case How::Even:
      return inChunks<How::Even>(f, y, x0, x1);
    case How::First:
      return inChunks<How::First>(f, y, x0, x1);
    case How::Known:
      return inChunks<How::Known>(f, y, x0, x1);
    case How::Wide:
      return inChunks<How::Wide>(f, y, x0, x1);
    case How::Noise:
      return inChunks<How::Noise>(f, y, x0, x1);
  }
}

EASEL_EACH_LEVEL void blurRun(const SkinBlur& b, int y, int x0, int x1) {
  for (int x = x0; x < x1; x += kChunk) blurChunk(b, y, x, std::min(x1, x + kChunk));
}

EASEL_EACH_LEVEL void finishRun(const float* light, const float* sheen, const std::uint16_t* albedo, float least,
                                float* out, size_t n) {
  EASEL_AT_ONCE
  for (size_t i = 0; i < n; ++i) {
    const float root = float(albedo[i]) * (1 / 65535.f), a = root * root;
    out[i] = light[i] * (a > least ? a : least) + sheen[i];
  }
}

EASEL_EACH_LEVEL void doubledRun(const float* a, const float* b, float part, int n, float* out, int wide) {
  float mixed[kChunk + 1];
  for (int from = 0; from < n; from += kChunk) {
    const int count = std::min(kChunk, n - from), more = std::min(count + 1, n - from);
    EASEL_AT_ONCE
    for (int i = 0; i < more; ++i) mixed[i] = a[from + i] * (1 - part) + b[from + i] * part;
    if (more == count) mixed[count] = mixed[count - 1];
    float* to = out + 2 * from;
    const int pairs = std::min(count, (wide - 2 * from) / 2);
    EASEL_AT_ONCE
    for (int i = 0; i < pairs; ++i) {
      to[2 * i] += mixed[i];
      to[2 * i + 1] += 0.5f * (mixed[i] + mixed[i + 1]);
    }
    if (pairs < count && 2 * (from + pairs) < wide) to[2 * pairs] += mixed[pairs];
  }
}

EASEL_EACH_LEVEL void luminanceRun(const float* r, const float* g, const float* b, float* out, size_t n) {
  EASEL_AT_ONCE
  for (size_t i = 0; i < n; ++i) out[i] = 0.2126f * r[i] + 0.7152f * g[i] + 0.0722f * b[i];
}

}  // namespace easel
