// Runs of points, in planes: the arithmetic of light for up to kRun points at once, between the rays.
//
// The same formulas as Emitter::sample() and sobol2(), to a millionth. Units as there; `n` is at most kRun. Any thread.
#pragma once

#include <array>
#include <cstdint>

#include "gear/kit.h"
#include "geometry/vec.h"

namespace easel {

constexpr int kRun = 128;  // points: their planes stay in the second cache

using Plane = std::array<float, kRun>;
struct Run3 {
  alignas(64) Plane x, y, z;
  Vec3 operator[](int i) const { return {x[size_t(i)], y[size_t(i)], z[size_t(i)]}; }
  void set(int i, Vec3 v) {
    x[size_t(i)] = v.x;
    y[size_t(i)] = v.y;
    z[size_t(i)] = v.z;
  }
};
/// Points of the unit square.
struct Run2 {
  alignas(64) Plane x, y;
};
using RunOf32 = std::array<std::uint32_t, kRun>;

/// sobol2(index, seed ^ salt) of each.
void sobolRun(int n, const RunOf32& index, const RunOf32& seed, std::uint32_t salt, Run2& out);

/// A flat front whose luminance is a formula: see Emitter.
struct FlatFront {
  Outline outline = Outline::Rectangle;
  Frame frame;
  Vec3 centre;
  float halfWidth = 0, halfHeight = 0, hole = 0, area = 0, peak = 0, lobe = 1, hot = 0, gridTangent = 0, back = 0,
        cutCosine = 0;
  bool squareCells = false;
};
/// Light from the places `u` of the front: unit directions to it, distances, and Emitter::Point::geometry.
void lightOfFront(const FlatFront& front, int n, const Run3& receiver, const Run2& u, Run3& direction, Plane& distance,
                  Plane& geometry);
/// How rays leave a flat front, by rings of equal angle about its axis: see LampRays.
constexpr int kRings = 45;
struct LampRayTable {
  std::array<Vec3, 4> places;
  Vec3 axis;
  std::array<float, kRings> ring;
  float backwards = 0, nearest2 = 0;
};
/// LampRays::pdf() of each.
void pdfOfLampRays(const LampRayTable& rays, int n, const Run3& point, const Run3& normal, Plane& out);

/// Which rays cross the rectangle round the front from before, or from behind when light leaves there too.
void meetFront(const FlatFront& front, int n, const Run3& origin, const Run3& direction,
               std::array<std::uint8_t, kRun>& meets);

}  // namespace easel
