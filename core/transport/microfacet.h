// Gloss of rough surfaces: skin's sheen, cloth, silver.
//
// Trowbridge-Reitz distribution with Smith's height-correlated shadowing (Walter et al., EGSR 2007; Heitz, JCGT 2014).
// Cosines: nl, nv of normal to light and eye, nh of normal to the half vector; alpha is the roughness, 0..1.
#pragma once

#include <cmath>

#include "geometry/vec.h"

namespace easel {

/// Density of normals about the mean one [1/sr].
inline float trowbridgeReitz(float nh, float alpha) {
  const float a2 = alpha * alpha, d = nh * nh * (a2 - 1) + 1;
  return a2 / (kPiF * d * d);
}

/// D * G / (4 nl nv), without Fresnel [1/sr]: times F and nl it is the share of irradiance sent that way.
inline float microfacet(float nl, float nv, float nh, float alpha) {
  const float a2 = alpha * alpha;
  const float vis = 0.5f / (nl * std::sqrt(nv * nv * (1 - a2) + a2) + nv * std::sqrt(nl * nl * (1 - a2) + a2) + 1e-6f);
  return trowbridgeReitz(nh, alpha) * vis;
}

}  // namespace easel
