// What cloth does with light beside throwing it back evenly: a sheen straight ahead, and fibres that stand off.
//
// Fibres: A. Estevez and C. Kulla, "Production friendly microfacet sheen BRDF", 2017, with the visibility term of
// D. Neubelt and M. Pettineo (2013). What sheen and fibres take the even part no longer gives (givesOn()).
#pragma once

#include <algorithm>
#include <cstdint>

#include "sitters/wardrobe.h"

namespace easel {

/// A cloth in four bytes that travel with a sample: sheen, roughness, fuzz. Fibres are dyed like the rest.
inline std::uint32_t clothCode(const Cloth& c, float reflectance) {
  auto byte = [](double v, double most) { return std::uint32_t(std::clamp(v / most, 0.0, 1.0) * 255 + 0.5); };
  return byte(c.sheen, 0.25) | byte(c.roughness, 1) << 8 |
         byte(c.fuzz * std::min(1.0, 0.03 + 2.5 * double(reflectance)), 1) << 16;
}
struct ClothCode {
  float sheen, roughness, fuzz;
};
inline ClothCode clothOf(std::uint32_t code) {
  return {float(code & 255) * (0.25f / 255), std::max(0.05f, float(code >> 8 & 255) / 255),
          float(code >> 16 & 255) / 255};
}
/// Share of light that goes into the even part: what the rest takes of light from everywhere, seen up to 40 degrees off
/// straight on (a test holds it); at a grazing look the fibres send more.
inline float givesOn(const ClothCode& c) { return 1 - c.sheen - 0.17f * c.fuzz; }

/// A scrim as it is seen, in four bytes that travel with a sample: of SurfacePoint::albedo, how much of the light from
/// before it is thrown back and how much of that from behind comes through.
struct ScrimCode {
  float before = 1, behind = 1;
  static constexpr float kUnit = 1 / 8192.f;
  std::uint32_t code() const {
    const auto part = [](float v) { return std::uint32_t(std::clamp(v / kUnit + 0.5f, 0.f, 65535.f)); };
    return part(before) | part(behind) << 16;
  }
  static ScrimCode of(std::uint32_t code) { return {float(code & 0xffff) * kUnit, float(code >> 16) * kUnit}; }
};

}  // namespace easel
