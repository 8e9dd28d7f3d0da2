// Small hashes: numbers that look random and are the same every time.
#pragma once

#include <cstdint>

namespace easel {

/// Integer hash with good avalanche (lowbias32 constants of C. Wellons, public domain).
inline std::uint32_t hash32(std::uint32_t x) {
  x ^= x >> 16;
  x *= 0x7feb352du;
  x ^= x >> 15;
  x *= 0x846ca68bu;
  x ^= x >> 16;
  return x;
}
inline std::uint32_t hashPair(std::uint32_t a, std::uint32_t b) {
  return hash32(a ^ (hash32(b) + 0x9e3779b9u + (a << 6) + (a >> 2)));
}
inline float unitFloat(std::uint32_t x) { return float(std::int32_t(x >> 8)) * 0x1p-24f; }

}  // namespace easel
