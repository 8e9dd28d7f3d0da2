#include "picture/lit_points.h"

#include <cmath>

#include "transport/levels.h"
#include "transport/sampling.h"

namespace easel {
namespace {

constexpr auto kSkin = std::int32_t(Surface::Skin), kCloth = std::int32_t(Surface::Cloth),
               kScrim = std::int32_t(Surface::Scrim);

EASEL_INSIDE float notBelow0(float x) { return x > 0 ? x : 0; }

// A light at a grazing angle shines from a small part of the modifier: points taken all over it seldom meet that part,
// mirror directions do. Both are tried and weighted by their densities (balance heuristic: E. Veach, L. Guibas,
// "Optimally combining sampling techniques", 1995). Density per solid angle of a mirror direction, half of it each
// lobe.
EASEL_INSIDE float sheenPdf(float nh, float vh) {
  return 0.5f * (trowbridgeReitz(nh, kBroad) + trowbridgeReitz(nh, kOily)) * nh / (4 * (vh > 1e-4f ? vh : 1e-4f));
}

// PackedDirection::unpacked()
EASEL_INSIDE void unpackRun(int n, const PackedRun& packed, Run3& out) {
  EASEL_AT_ONCE
  for (int i = 0; i < n; ++i) {
    const auto k = size_t(i);
    const float x = packed.x[k] * (1 / 32767.f), y = packed.y[k] * (1 / 32767.f), z = 1 - std::abs(x) - std::abs(y);
    const float fx = (1 - std::abs(y)) * (x >= 0 ? 1.f : -1.f), fy = (1 - std::abs(x)) * (y >= 0 ? 1.f : -1.f);
    const float ux = z < 0 ? fx : x, uy = z < 0 ? fy : y, one = 1 / std::sqrt(ux * ux + uy * uy + z * z);
    out.x[k] = ux * one;
    out.y[k] = uy * one;
    out.z[k] = z * one;
  }
}

}  // namespace

void LitPoints::add(const PixelSample& s, std::uint32_t key, std::uint32_t seedOf, std::uint32_t passOf) {
  const auto k = size_t(n++);
  sample[k] = &s;
  pixelKey[k] = key;
  seed[k] = seedOf;
  pass[k] = passOf;
  surface[k] = std::int32_t(s.albedo.surface);
  const ClothCode cloth = s.albedo.surface == Surface::Cloth ? clothOf(s.special.code()) : ClothCode{0, 1, 0};
  const ScrimCode scrim = s.albedo.surface == Surface::Scrim ? ScrimCode::of(s.special.code()) : ScrimCode{};
  before[k] = scrim.before;
  behind[k] = scrim.behind;
  share[k] = s.albedo.surface == Surface::Skin ? oilOf(s.special.code()) : cloth.sheen;
  roughness[k] = cloth.roughness;
  fuzz[k] = cloth.fuzz;
  position.set(int(k), s.position);
  packedNormal.set(k, s.normal);
  packedFacet.set(k, s.facet);
}

EASEL_EACH_LEVEL void LitPoints::unpack(Vec3 eye) {
  unpackRun(n, packedNormal, normal);
  unpackRun(n, packedFacet, facet);
  EASEL_AT_ONCE
  for (int i = 0; i < n; ++i) {
    const auto k = size_t(i);
    const float x = eye.x - position.x[k], y = eye.y - position.y[k], z = eye.z - position.z[k];
    const float one = 1 / std::sqrt(x * x + y * y + z * z);
    toEye.x[k] = x * one;
    toEye.y[k] = y * one;
    toEye.z[k] = z * one;
  }
}

void BounceRun::add(const PixelSample& s, const BounceSample& b, size_t placeOf, std::uint32_t seedOf,
                    std::uint32_t passOf) {
  const auto k = size_t(n++);
  from[k] = &s;
  to[k] = &b;
  place[k] = placeOf;
  seed[k] = seedOf;
  pass[k] = passOf;
  here.set(int(k), s.position);
  there.set(int(k), b.position);
  packedHere.set(k, s.normal);
  packedThere.set(k, b.normal);
}

EASEL_EACH_LEVEL void BounceRun::unpack() {
  unpackRun(n, packedHere, hereNormal);
  unpackRun(n, packedThere, thereNormal);
}

EASEL_EACH_LEVEL void fromHere(const BounceRun& p, const Plane& lamps, Plane& weight) {
  EASEL_AT_ONCE
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    const float dx = p.there.x[k] - p.here.x[k], dy = p.there.y[k] - p.here.y[k], dz = p.there.z[k] - p.here.z[k];
    const float all = dx * dx + dy * dy + dz * dz, d2 = all > 1e-8f ? all : 1e-8f;
    const float near = dx * p.hereNormal.x[k] + dy * p.hereNormal.y[k] + dz * p.hereNormal.z[k];
    const float far = dx * p.thereNormal.x[k] + dy * p.thereNormal.y[k] + dz * p.thereNormal.z[k];
    const float ours = notBelow0(near) * std::abs(far) / (kPiF * d2 * d2);
    weight[k] = ours > 0 ? ours / (ours + lamps[k]) : 0.f;
  }
}

EASEL_EACH_LEVEL void cosinesTo(const LitPoints& p, const Run3& d, Plane& normal, Plane& facet) {
  EASEL_AT_ONCE
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    normal[k] = p.normal.x[k] * d.x[k] + p.normal.y[k] * d.y[k] + p.normal.z[k] * d.z[k];
    facet[k] = p.facet.x[k] * d.x[k] + p.facet.y[k] * d.y[k] + p.facet.z[k] * d.z[k];
  }
}

EASEL_EACH_LEVEL void receiveRun(const LitPoints& p, const Run3& d, const Plane& nl, const Plane& lux,
                                 const Plane& sampled, Plane& irradiance, Plane& sheen) {
  EASEL_AT_ONCE
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    const float lx = d.x[k], ly = d.y[k], lz = d.z[k], vx = p.toEye.x[k], vy = p.toEye.y[k], vz = p.toEye.z[k];
    const float nx = p.normal.x[k], ny = p.normal.y[k], nz = p.normal.z[k];
    const float cosine = p.surface[k] == kScrim ? nl[k] * (nl[k] > 0 ? p.before[k] : -p.behind[k]) : nl[k];
    const float falls = lux[k] * cosine;
    irradiance[k] = falls;
    const float hx = lx + vx, hy = ly + vy, hz = lz + vz, h2 = hx * hx + hy * hy + hz * hz;
    const float one = 1 / std::sqrt(h2 > 1e-12f ? h2 : 1e-12f);
    const float toEye = nx * vx + ny * vy + nz * vz, nv = toEye > kLeastToEye ? toEye : kLeastToEye;
    const float nh = notBelow0((nx * hx + ny * hy + nz * hz) * one), vh = (vx * hx + vy * hy + vz * hz) * one;
    const float lit = cosine > 0 ? cosine : 0.f;
    const float skin = skinSheen(lit, nv, nh, vh, p.share[k]) * (sampled[k] / (sampled[k] + sheenPdf(nh, vh)));
    const float cloth = clothSheen(lit, nv, nh, vh, p.share[k], p.roughness[k], p.fuzz[k]);
    const float gives = p.surface[k] == kSkin ? skin : p.surface[k] == kCloth ? cloth : 0.f;
    sheen[k] = falls > 0 ? falls * gives : 0.f;
  }
}

EASEL_EACH_LEVEL void mirroredRun(const LitPoints& p, const Run2& u, const std::array<std::uint8_t, kRun>& oily,
                                  Run3& direction, Plane& weight, Plane& pdf) {
  alignas(64) std::array<float, kRun> alpha;
  for (int i = 0; i < p.n; ++i) alpha[size_t(i)] = oily[size_t(i)] ? kOily : kBroad;
  EASEL_AT_ONCE
  for (int i = 0; i < p.n; ++i) {
    const auto k = size_t(i);
    const float a2 = alpha[k] * alpha[k], c2 = (1 - u.x[k]) / (1 + (a2 - 1) * u.x[k]);
    const float c = std::sqrt(c2), s = std::sqrt(notBelow0(1 - c2)), turn = 2 * kPiF * u.y[k];
    const float tu = s * std::cos(turn), tv = s * std::sin(turn);
    // anyFrame() of the normal.
    const float nx = p.normal.x[k], ny = p.normal.y[k], nz = p.normal.z[k];
    const float sign = nz >= 0 ? 1.f : -1.f, a = -1 / (sign + nz), b = nx * ny * a;
    const float hx = (1 + sign * nx * nx * a) * tu + b * tv + nx * c,
                hy = sign * b * tu + (sign + ny * ny * a) * tv + ny * c, hz = -sign * nx * tu - ny * tv + nz * c;
    const float vx = p.toEye.x[k], vy = p.toEye.y[k], vz = p.toEye.z[k];
    const float vh = vx * hx + vy * hy + vz * hz, nh = nx * hx + ny * hy + nz * hz;
    const float lx = hx * 2 * vh - vx, ly = hy * 2 * vh - vy, lz = hz * 2 * vh - vz;
    const float nl = nx * lx + ny * ly + nz * lz;
    const float toEye = nx * vx + ny * vy + nz * vz, nv = toEye > kLeastToEye ? toEye : kLeastToEye;
    direction.x[k] = lx;
    direction.y[k] = ly;
    direction.z[k] = lz;
    const bool counts = (p.surface[k] == kSkin) & (vh > 0) & (nl > 0);
    const float gives = nl * skinSheen(nl > 0 ? nl : 0.f, nv, nh, vh, p.share[k]);
    weight[k] = counts ? gives : 0.f;
    pdf[k] = sheenPdf(nh, vh);
  }
}

}  // namespace easel
