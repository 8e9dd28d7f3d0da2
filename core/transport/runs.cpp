#include "transport/runs.h"

#include <cmath>

#include "transport/levels.h"
#include "transport/sampling.h"

namespace easel {
namespace {

template <Outline outline>
EASEL_INSIDE void places(const FlatFront& f, int n, const Run2& u, Plane& px, Plane& py) {
  // The octagon is eight equal triangles about the centre: cosines and sines of their axes.
  constexpr float h = 0.70710678f;
  alignas(32) static constexpr float kCos[8] = {1, h, 0, -h, -1, -h, 0, h}, kSin[8] = {0, h, 1, h, 0, -h, -1, -h};
  constexpr float kTan = 0.41421356f;  // of pi / 8
  EASEL_AT_ONCE
  for (int i = 0; i < n; ++i) {
    const float ux = u.x[size_t(i)], uy = u.y[size_t(i)];
    float x, y;
    if constexpr (outline == Outline::Rectangle) {
      x = (2 * ux - 1) * f.halfWidth;
      y = (2 * uy - 1) * f.halfHeight;
    } else if constexpr (outline == Outline::Octagon) {
      const float scaled = ux * 8;
      const int k = std::min(7, int(scaled));
      // The square root makes the radius uniform by area.
      const float out = f.halfWidth * std::sqrt(uy), aside = out * kTan * (2 * (scaled - float(k)) - 1);
      x = out * kCos[k] - aside * kSin[k];
      y = out * kSin[k] + aside * kCos[k];
    } else if constexpr (outline == Outline::Ring) {
      const float r = std::sqrt(f.hole * f.hole + ux * (f.halfWidth * f.halfWidth - f.hole * f.hole));
      x = r * std::cos(2 * kPiF * uy);
      y = r * std::sin(2 * kPiF * uy);
    } else {
      // concentricDisc()
      const float a = 2 * ux - 1, b = 2 * uy - 1;
      const bool wide = std::abs(a) > std::abs(b);
      const float r = wide ? a : b, other = wide ? b : a;
      const float slope = kPiF / 4 * (r != 0 ? other / r : 0.f), phi = wide ? slope : kPiF / 2 - slope;
      x = f.halfWidth * r * std::cos(phi);
      y = f.halfWidth * r * std::sin(phi);
    }
    px[size_t(i)] = x;
    py[size_t(i)] = y;
  }
}

}  // namespace

EASEL_EACH_LEVEL void sobolRun(int n, const RunOf32& index, const RunOf32& seed, std::uint32_t salt, Run2& out) {
  EASEL_AT_ONCE
  for (int i = 0; i < n; ++i) {
    const Vec2 u = sobol2(index[size_t(i)], seed[size_t(i)] ^ salt);
    out.x[size_t(i)] = u.x;
    out.y[size_t(i)] = u.y;
  }
}

EASEL_EACH_LEVEL void lightOfFront(const FlatFront& f, int n, const Run3& at, const Run2& u, Run3& direction,
                                   Plane& distance, Plane& geometry) {
  alignas(64) Plane px, py;
  switch (f.outline) {
    case Outline::Rectangle:
      places<Outline::Rectangle>(f, n, u, px, py);
      break;
    case Outline::Octagon:
      places<Outline::Octagon>(f, n, u, px, py);
      break;
    case Outline::Ring:
      places<Outline::Ring>(f, n, u, px, py);
      break;
    case Outline::Disc:
    case Outline::Ball:
      places<Outline::Disc>(f, n, u, px, py);
  }
  alignas(64) Plane cosine;
  const Vec3 a = f.frame.u, b = f.frame.v, nn = f.frame.n, c = f.centre;
  EASEL_AT_ONCE
  for (int i = 0; i < n; ++i) {
    const auto k = size_t(i);
    const float dx = c.x + a.x * px[k] + b.x * py[k] - at.x[k], dy = c.y + a.y * px[k] + b.y * py[k] - at.y[k],
                dz = c.z + a.z * px[k] + b.z * py[k] - at.z[k];
    const float d2 = std::max(1e-10f, dx * dx + dy * dy + dz * dz), d = std::sqrt(d2), one = 1 / d;
    direction.x[k] = dx * one;
    direction.y[k] = dy * one;
    direction.z[k] = dz * one;
    distance[k] = d;
    cosine[k] = -(dx * nn.x + dy * nn.y + dz * nn.z) * one;
    geometry[k] = f.area / d2;
  }
  const float perWidth = 1 / f.halfWidth, perHeight = 1 / f.halfHeight, least = std::max(0.f, f.cutCosine);
  EASEL_AT_ONCE
  for (int i = 0; i < n; ++i) {
    const auto k = size_t(i);
    const float cos = cosine[k];
    const float front = cos > 0 && cos >= least ? f.peak : 0.f, back = cos < 0 ? f.back : 0.f;
    geometry[k] *= (front + back) * std::abs(cos);
  }
  // What takes light away counts on the front side alone.
  if (f.hot != 0) {
    EASEL_AT_ONCE
    for (int i = 0; i < n; ++i) {
      const auto k = size_t(i);
      const float x = px[k] * perWidth, y = py[k] * perHeight, r2 = x * x + y * y;
      const float even = std::exp2(-f.hot * (r2 < 1.5f ? r2 : 1.5f));
      geometry[k] *= cosine[k] > 0 ? even : 1.f;
    }
  }
  if (f.lobe != 1) {
    EASEL_AT_ONCE
    for (int i = 0; i < n; ++i) {
      const auto k = size_t(i);
      const float narrow = std::pow(std::max(1e-6f, cosine[k]), f.lobe - 1);
      geometry[k] *= cosine[k] > 0 ? narrow : 1.f;
    }
  }
  if (f.gridTangent > 0 && f.squareCells) {
    EASEL_AT_ONCE
    for (int i = 0; i < n; ++i) {
      const auto k = size_t(i);
      const float one = 1 / (std::max(1e-6f, cosine[k]) * f.gridTangent);
      const float dx = direction.x[k], dy = direction.y[k], dz = direction.z[k];
      const float across = 1 - std::abs(dx * a.x + dy * a.y + dz * a.z) * one,
                  up = 1 - std::abs(dx * b.x + dy * b.y + dz * b.z) * one;
      const float passes = (across > 0 ? across : 0.f) * (up > 0 ? up : 0.f);
      geometry[k] *= cosine[k] > 0 ? passes : 1.f;
    }
  } else if (f.gridTangent > 0) {
    EASEL_AT_ONCE
    for (int i = 0; i < n; ++i) {
      const auto k = size_t(i);
      const float cos = std::max(1e-6f, cosine[k]), s2 = 1 - cos * cos;
      const float off = std::sqrt(s2 > 0 ? s2 : 0.f) / (cos * f.gridTangent), passes = off < 1 ? 1 - off : 0.f;
      geometry[k] *= cosine[k] > 0 ? passes : 1.f;
    }
  }
}

EASEL_EACH_LEVEL void pdfOfLampRays(const LampRayTable& rays, int n, const Run3& point, const Run3& normal,
                                    Plane& out) {
  for (int i = 0; i < n; ++i) out[size_t(i)] = 0;
  const Vec3 axis = rays.axis;
  for (const Vec3 place : rays.places) {
    EASEL_AT_ONCE
    for (int i = 0; i < n; ++i) {
      const auto k = size_t(i);
      const float dx = point.x[k] - place.x, dy = point.y[k] - place.y, dz = point.z[k] - place.z;
      const float all = dx * dx + dy * dy + dz * dz, d2 = all > rays.nearest2 ? all : rays.nearest2;
      const float one = 1 / std::sqrt(d2), cosine = (dx * axis.x + dy * axis.y + dz * axis.z) * one;
      const float before = cosine > 0 ? (cosine < 1 ? cosine : 1.f) : 0.f;
      const int at = std::min(kRings - 1, int(std::acos(before) * (2 * kRings / kPiF)));
      const float pdf = cosine > 0 ? rays.ring[size_t(at)] : rays.backwards * -cosine * (1 / kPiF);
      const float meets = std::abs(dx * normal.x[k] + dy * normal.y[k] + dz * normal.z[k]);
      out[k] += 0.25f * pdf * meets * one / d2;
    }
  }
}

EASEL_EACH_LEVEL void meetFront(const FlatFront& f, int n, const Run3& origin, const Run3& direction,
                                std::array<std::uint8_t, kRun>& meets) {
  const Vec3 a = f.frame.u, b = f.frame.v, nn = f.frame.n, c = f.centre;
  alignas(64) std::array<std::int32_t, kRun> hit;
  // A hair wider than it is: who asks looks again.
  const float halfWidth = f.halfWidth * 1.0001f,
              halfHeight = f.outline == Outline::Rectangle ? f.halfHeight * 1.0001f : halfWidth;
  EASEL_AT_ONCE
  for (int i = 0; i < n; ++i) {
    const auto k = size_t(i);
    const float dx = direction.x[k], dy = direction.y[k], dz = direction.z[k];
    const float ox = c.x - origin.x[k], oy = c.y - origin.y[k], oz = c.z - origin.z[k];
    const float facing = dx * nn.x + dy * nn.y + dz * nn.z, ahead = ox * nn.x + oy * nn.y + oz * nn.z;
    const float safe = std::abs(facing) > 1e-6f ? facing : 1e-6f, t = ahead / safe;
    const float hx = dx * t - ox, hy = dy * t - oy, hz = dz * t - oz;
    const float px = std::abs(hx * a.x + hy * a.y + hz * a.z), py = std::abs(hx * b.x + hy * b.y + hz * b.z);
    hit[k] = ((px <= halfWidth) & (py <= halfHeight) & (t > 1e-4f) & ((facing < 0) | (f.back > 0))) ? 1 : 0;
  }
  for (int i = 0; i < n; ++i) meets[size_t(i)] = std::uint8_t(hit[size_t(i)]);
}

}  // namespace easel
