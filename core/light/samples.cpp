#include "light/samples.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include "light/sampling.h"

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
  return {std::int16_t(std::lround(x * 32767)), std::int16_t(std::lround(y * 32767))};
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
  auto code = [](float v) { return std::uint8_t(std::lround(std::sqrt(std::clamp(v, 0.f, 1.f)) * 255)); };
  return {code(c.x), code(c.y), code(c.z), s};
}
Vec3 PackedColour::unpacked() const {
  auto decode = [](std::uint8_t v) {
    const float f = float(v) / 255;
    return f * f;
  };
  return {decode(r), decode(g), decode(b)};
}

Vec3 View::direction(float px, float py) const {
  const float y = (1 - 2 * py / float(height)) * camera.tanHalfHeight;
  const float x = (2 * px / float(width) - 1) * camera.tanHalfHeight * float(width) / float(height);
  return normalize(camera.frame.u * x + camera.frame.v * y - camera.frame.n);
}

SampleSets::SampleSets(std::shared_ptr<const Scene> scene, const View& view, std::uint32_t seed)
    : scene_(std::move(scene)), view_(view), seed_(seed) {}

bool SampleSets::build(int k, const Interrupt& interrupt) {
  if (k < complete_) return true;
  const int across = (view_.width + kTile - 1) / kTile, down = (view_.height + kTile - 1) / kTile;
  auto& set = sets_[k];
  if (set.empty()) {
    set.resize(size_t(view_.width) * size_t(view_.height));
    tileDone_.assign(size_t(across) * size_t(down), 0);
  }
  tbb::parallel_for(0, across * down, [&](int tile) {
    if (tileDone_[size_t(tile)] || interrupt.raised()) return;
    buildTile(k, tile % across, tile / across);
    tileDone_[size_t(tile)] = 1;
  });
  for (std::uint8_t done : tileDone_)
    if (!done) return false;
  finishMean(k);
  complete_ = k + 1;
  return true;
}

void SampleSets::buildTile(int k, int tileX, int tileY) {
  for (int y = tileY * kTile; y < std::min((tileY + 1) * kTile, view_.height); ++y)
    for (int x = tileX * kTile; x < std::min((tileX + 1) * kTile, view_.width); ++x) {
      const size_t pixel = size_t(y) * size_t(view_.width) + size_t(x);
      const std::uint32_t key = hash32(std::uint32_t(pixel) + 0x5151u + seed_ * 0x632be59bu);
      const Vec2 j = sobol2(std::uint32_t(k), key);
      const Vec3 direction = view_.direction(float(x) + j.x, float(y) + j.y);
      PixelSample p;
      // Thresholds in van der Corput order: any prefix of the sets is spread evenly.
      constexpr float kOrder[kSampleSets] = {0, 4, 2, 6, 1, 5, 3, 7};
      float threshold = unitFloat(hash32(key)) + kOrder[k] / kSampleSets;
      threshold -= std::floor(threshold);
      const auto hit = scene_->meet(view_.camera.eye, direction, hashPair(key, std::uint32_t(k)), threshold);
      if (hit) {
        p.position = hit->position;
        p.normal = PackedDirection::of(hit->normal);
        p.facet = PackedDirection::of(hit->facet);
        p.special = PackedDirection::of(hit->surface == Surface::Hair ? hit->tangent : hit->coatNormal);
        p.albedo = PackedColour::of(hit->albedo, hit->surface);
        const Vec3 out = cosineDirection(anyFrame(hit->normal), sobol2(std::uint32_t(k), key ^ 0xb0b0b0u));
        // Directions below the facet (shading normals do that) see the surface itself: no light from there.
        if (dot(out, hit->facet) > 0) {
          const auto far = scene_->meet(hit->position + hit->facet * 2e-4f, out, hashPair(key, std::uint32_t(k) + 77));
          if (far) {
            p.bouncePosition = far->position + far->facet * 2e-4f;
            p.bounceNormal = PackedDirection::of(far->normal);
            p.bounceAlbedo = PackedColour::of(far->albedo, far->surface);
          }
        } else {
          p.bounceAlbedo = PackedColour::of({}, Surface::Skin);
          p.bouncePosition = hit->position;
          p.bounceNormal = p.facet;
        }
      }
      sets_[k][pixel] = p;
    }
}

void SampleSets::finishMean(int k) {
  const int n = k + 1;
  if ((n & (n - 1)) != 0) return;
  int slot = 0;
  while ((1 << slot) < n) ++slot;
  auto& mean = mean_[slot];
  const size_t pixels = sets_[0].size();
  mean.resize(pixels * 3);
  tbb::parallel_for(tbb::blocked_range<size_t>(0, pixels, 8192), [&](const auto& range) {
    for (size_t i = range.begin(); i < range.end(); ++i) {
      Vec3 sum;
      for (int s = 0; s < n; ++s)
        if (sets_[s][i].albedo.surface != Surface::Nothing) sum += sets_[s][i].albedo.unpacked();
      for (int c = 0; c < 3; ++c)
        mean[i * 3 + size_t(c)] = std::uint16_t(std::lround(std::sqrt(sum[c] / float(n)) * 65535));
    }
  });
}

Vec3 SampleSets::meanAlbedo(int passes, size_t pixel) const {
  int slot = 0;
  while (slot < 3 && (2 << slot) <= passes && !mean_[slot + 1].empty()) ++slot;
  const std::uint16_t* m = &mean_[slot][pixel * 3];
  auto decode = [](std::uint16_t v) {
    const float f = float(v) / 65535;
    return f * f;
  };
  return {decode(m[0]), decode(m[1]), decode(m[2])};
}

}  // namespace easel
