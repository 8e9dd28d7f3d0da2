// What guides the smoothing of a picture: surface, place and normal of every pixel, in planes, so that the filters can
// work on eight pixels at once.
//
// They follow from sitter, room and camera alone and are kept with the samples: a light that moves finds them there.
#pragma once

#include <cstdint>
#include <vector>

#include "geometry/vec.h"
#include "sitters/sitter.h"

namespace easel {

struct Guides {
  int width = 0, height = 0;
  std::vector<float> px, py, pz, nx, ny, nz;  ///< where it is [m], and the way it faces
  std::vector<float> spread;                  ///< how far a step of one pixel goes on the surface [m]
  std::vector<std::int32_t> surface;          ///< what most of the pixel shows
  std::vector<std::int32_t> pure;             ///< the same where all of the pixel shows it, else -1
  /// Where surfaces share the pixel: the second of them, and how much of what the pixel throws back is its. Empty
  /// until that is known.
  std::vector<std::int8_t> other;
  std::vector<float> otherShare;
  /// Since findEven(): the pixel and its neighbours to the right, below and between show one surface that faces one
  /// way, so that what lies between them may be interpolated.
  std::vector<std::uint8_t> even;

  Guides() = default;
  Guides(int w, int h);
  size_t at(int x, int y) const { return size_t(y) * size_t(width) + size_t(x); }
  Vec3 position(size_t i) const { return {px[i], py[i], pz[i]}; }
  Vec3 normal(size_t i) const { return {nx[i], ny[i], nz[i]}; }

  void set(size_t i, Vec3 position, Vec3 normal, Surface surface, bool wholly);
  /// Every second pixel of a picture twice the size, up and down in turn.
  void takeHalf(const Guides& full);
  /// The spreads, seen from there; what a pixel subtends as a length a metre away.
  void measure(Vec3 eye, float pixelAt1m);
  void findEven();
};

}  // namespace easel
