#include "light/layer.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include "light/smooth.h"

namespace easel {
namespace {

constexpr float kOffset = 2e-4f;  // metres: leaves the surface, below any detail of the meshes

// Trowbridge-Reitz microfacet sheen with Smith's height-correlated shadowing (Walter et al., EGSR 2007; Heitz, JCGT
// 2014).
float microfacet(float nl, float nv, float nh, float alpha) {
  const float a2 = alpha * alpha, d = nh * nh * (a2 - 1) + 1;
  const float D = a2 / (kPiF * d * d);
  const float vis = 0.5f / (nl * std::sqrt(nv * nv * (1 - a2) + a2) + nv * std::sqrt(nl * nl * (1 - a2) + a2) + 1e-6f);
  return D * vis;
}
float schlick(float f0, float cosine) {
  const float m = 1 - std::clamp(cosine, 0.f, 1.f), m2 = m * m;
  return f0 + (1 - f0) * m2 * m2 * m;
}

// Two lobes, a broad one and the oily one on top: F0 of skin 0.028 (index 1.4).
float skinSheen(float nl, float nv, float nh, float vh) {
  return schlick(0.028f, vh) * (0.75f * microfacet(nl, nv, nh, 0.32f) + 0.25f * microfacet(nl, nv, nh, 0.11f));
}

}  // namespace

Layer::Light Layer::lightAt(const PixelSample& s, const View& view, const Scene& scene, std::uint32_t pass,
                            std::uint32_t pixelKey, Vec3 viewRay) const {
  Light out;
  const Surface surface = s.albedo.surface;
  if (surface == Surface::Nothing) {
    if (emitter_)
      if (const auto l = emitter_->seen(view.camera.eye, viewRay, 1e6f)) out.sheen = *l;
    return out;
  }
  const Vec3 albedo = s.albedo.unpacked();

  if (!emitter_) {
    // Ambient: what is not sitter glows evenly; the sitter's own surfaces pass on a part of it.
    const Surface b = s.bounceAlbedo.surface;
    const bool own = b <= Surface::Cloth;
    out.diffuse = albedo * (own ? s.bounceAlbedo.unpacked() * 0.45f : Vec3{1, 1, 1}) * (1 / kPiF);
    return out;
  }

  const std::uint32_t seed = hashPair(pixelKey, key_);
  const Vec3 normal = s.normal.unpacked(), facet = s.facet.unpacked();
  const Vec3 toEye = -viewRay;
  const Emitter::Point e = emitter_->sample(s.position, sobol2(pass, seed));
  if (e.geometry > 0) {
    const float nl = dot(normal, e.direction);
    const bool hair = surface == Surface::Hair;
    if ((nl > 0 || hair) && dot(facet, e.direction) > (hair ? -1.f : 0.f)) {
      const Vec3 side = dot(facet, e.direction) >= 0 ? facet : -facet;
      if (!scene.occluded(s.position + side * kOffset, e.direction, 0, e.distance * 0.9999f, hashPair(seed, pass))) {
        if (hair) {
          // A strand is a cylinder: diffuse with the sine to the strand, two highlights along it (Kajiya and Kay,
          // 1989).
          const Vec3 t = s.special.unpacked();
          const Vec3 h = normalize(e.direction + toEye);
          const float tl = dot(t, e.direction), sinTL = std::sqrt(std::max(0.f, 1 - tl * tl));
          const float th = dot(t, h), sin2 = std::max(0.f, 1 - th * th);
          // The card's side still matters: the mass of hair behind it shades.
          const float mass = std::clamp(0.35f + 0.65f * nl, 0.f, 1.f);
          const float s4 = sin2 * sin2, s8 = s4 * s4, s16 = s8 * s8;
          const float broad = s8 * 0.9f, narrow = s16 * s16 * s8;
          out.diffuse += albedo * (e.geometry * mass * (0.62f * sinTL + 0.45f * broad) / kPiF);
          out.sheen += e.geometry * mass * 0.016f * narrow;
        } else {
          const float lux = e.geometry * nl;
          out.diffuse += albedo * (lux / kPiF);
          const Vec3 h = normalize(e.direction + toEye);
          const float nv = std::max(0.05f, dot(normal, toEye)), nh = std::max(0.f, dot(normal, h)), vh = dot(toEye, h);
          if (surface == Surface::Skin)
            out.sheen += lux * skinSheen(nl, nv, nh, vh);
          else if (surface == Surface::Cloth)
            out.sheen += lux * schlick(0.03f, vh) * microfacet(nl, nv, nh, 0.65f) * 0.5f;
          else if (surface == Surface::Brow || surface == Surface::Lash)
            out.sheen += lux * 0.02f * microfacet(nl, nv, nh, 0.5f);
        }
      }
    }
  }
  // One diffuse bounce, from the point that the camera's side has kept.
  if (s.bounceAlbedo.surface != Surface::Nothing) {
    const Vec3 n = s.bounceNormal.unpacked();
    const Emitter::Point b = emitter_->sample(s.bouncePosition, sobol2(pass, seed ^ 0x77e1a5u));
    const float nl = dot(n, b.direction);
    if (b.geometry > 0 && nl > 0 &&
        !scene.occluded(s.bouncePosition, b.direction, kOffset, b.distance * 0.9999f, hashPair(seed, pass + 991)))
      out.diffuse += albedo * s.bounceAlbedo.unpacked() * (std::min(b.geometry * nl, 40.f) / kPiF);
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
  }
  // A lamp inside the frame is seen itself.
  const float depth = length(s.position - view.camera.eye);
  if (const auto l = emitter_->seen(view.camera.eye, viewRay, depth)) out = {{}, *l};
  return out;
}

bool Layer::trace(const SampleSets& sets, const Interrupt& interrupt) {
  const View& view = sets.view();
  const int across = (view.width + kTile - 1) / kTile, down = (view.height + kTile - 1) / kTile;
  const size_t pixels = size_t(view.width) * size_t(view.height);
  if (sum_.empty()) {
    sum_.assign(pixels * 4, 0);
    evenSum_.assign(pixels, 0);
  }
  if (tileDone_.empty()) tileDone_.assign(size_t(across) * size_t(down), 0);
  const auto& set = sets.set(passes_ % kSampleSets);
  const bool even = passes_ % 2 == 0;
  tbb::parallel_for(0, across * down, [&](int tile) {
    if (tileDone_[size_t(tile)] || interrupt.raised()) return;
    const int x0 = tile % across * kTile, y0 = tile / across * kTile;
    for (int y = y0; y < std::min(y0 + kTile, view.height); ++y)
      for (int x = x0; x < std::min(x0 + kTile, view.width); ++x) {
        const size_t i = size_t(y) * size_t(view.width) + size_t(x);
        const PixelSample& s = set[i];
        const Vec3 ray = s.albedo.surface == Surface::Nothing ? view.direction(float(x) + 0.5f, float(y) + 0.5f)
                                                              : normalize(s.position - view.camera.eye);
        const Light l = lightAt(s, view, sets.scene(), std::uint32_t(passes_), hash32(std::uint32_t(i)), ray);
        float* out = &sum_[i * 4];
        out[0] += l.diffuse.x;
        out[1] += l.diffuse.y;
        out[2] += l.diffuse.z;
        out[3] += l.sheen;
        if (even) evenSum_[i] += luminance(l.diffuse);
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
  Irradiance half(w, h);
  const int across = (w + kTile - 1) / kTile, down = (h + kTile - 1) / kTile;
  tbb::parallel_for(0, across * down, [&](int tile) {
    const int x0 = tile % across * kTile, y0 = tile / across * kTile;
    for (int y = y0; y < std::min(y0 + kTile, h); ++y)
      for (int x = x0; x < std::min(x0 + kTile, w); ++x) {
        const size_t full = size_t(std::min(2 * y + (x & 1), view.height - 1)) * size_t(view.width) +
                            size_t(std::min(2 * x, view.width - 1));
        const PixelSample& s = set[full];
        const Vec3 ray = s.albedo.surface == Surface::Nothing ? view.direction(float(2 * x) + 0.5f, float(2 * y) + 0.5f)
                                                              : normalize(s.position - view.camera.eye);
        // One pattern of pass numbers per 4x4 block spreads the noise evenly for the filter.
        const Light l = lightAt(s, view, sets.scene(), std::uint32_t((x & 3) + 4 * (y & 3)), 0x1234567u, ray);
        half.set(x, y, l.diffuse, s.albedo.unpacked(), l.sheen, s.albedo.surface != Surface::Nothing);
      }
  });
  half.guideFromHalf(sets);
  half.smooth(3, 1);
  return half.joinedToFull(sets);
}

std::shared_ptr<const LayerPicture> Layer::picture(const SampleSets& sets, bool smooth) const {
  const View& view = sets.view();
  auto out = std::make_shared<LayerPicture>();
  out->width = view.width;
  out->height = view.height;
  out->passes = passes_;
  const size_t pixels = size_t(view.width) * size_t(view.height);
  out->r.resize(pixels);
  out->g.resize(pixels);
  out->b.resize(pixels);
  const float scale = 1 / float(std::max(1, passes_));
  if (!smooth) {
    tbb::parallel_for(tbb::blocked_range<size_t>(0, pixels, 8192), [&](const auto& range) {
      for (size_t i = range.begin(); i < range.end(); ++i) {
        const float* s = &sum_[i * 4];
        out->r[i] = (s[0] + s[3]) * scale;
        out->g[i] = (s[1] + s[3]) * scale;
        out->b[i] = (s[2] + s[3]) * scale;
      }
    });
    return out;
  }
  Irradiance full(view.width, view.height);
  tbb::parallel_for(tbb::blocked_range<int>(0, view.height, 16), [&](const auto& rows) {
    for (int y = rows.begin(); y < rows.end(); ++y)
      for (int x = 0; x < view.width; ++x) {
        const size_t i = size_t(y) * size_t(view.width) + size_t(x);
        const float* s = &sum_[i * 4];
        const Vec3 diffuse{s[0] * scale, s[1] * scale, s[2] * scale};
        full.set(x, y, diffuse, sets.meanAlbedo(passes_, i), s[3] * scale,
                 sets.set(0)[i].albedo.surface != Surface::Nothing);
        if (passes_ > 1) {
          const int evens = (passes_ + 1) / 2, odds = passes_ / 2;
          const float evenMean = evenSum_[i] / float(evens);
          const float oddMean = (luminance({s[0], s[1], s[2]}) - evenSum_[i]) / float(odds);
          full.setNoise(x, y, (evenMean - oddMean) / 2, luminance(sets.meanAlbedo(passes_, i)));
        }
      }
  });
  full.guideFromFull(sets);
  // The filter fades as the passes mount. More rounds lower the noise of skin no further and cost hair and shadow edges
  // (measured against 512 passes).
  const int rounds = passes_ <= 24 ? 2 : passes_ < 48 ? 1 : 0;
  if (rounds) full.smooth(rounds, passes_);
  full.scatterInSkin();
  full.finish(sets, *out);
  return out;
}

}  // namespace easel
