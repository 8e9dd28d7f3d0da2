// Fresnel's equations: what the smooth surface of a dielectric mirrors of light that is not polarised.
#pragma once

#include <algorithm>
#include <cmath>

namespace easel {

/// Share of light, 0..1, that comes from air at that cosine to the normal onto glass, keratin ... of that index.
inline float fresnel(float cosine, float index) {
  const float c = std::clamp(cosine, 0.f, 1.f), in = std::sqrt(1 - (1 - c * c) / (index * index));
  const float across = (c - index * in) / (c + index * in), along = (index * c - in) / (index * c + in);
  return (across * across + along * along) / 2;
}

}  // namespace easel
