#include "sitters/cover.h"

#include <algorithm>
#include <cmath>

#include "geometry/triangles.h"

namespace easel {
namespace {

constexpr int kRound = 96, kUp = 64;
constexpr float kFar = 1e3f, kClear = 0.003f;

}  // namespace

MeshPart tippedBack(const MeshPart& hat, const Sitter& sitter, double degrees) {
  MeshPart out = hat;
  const Vec3 about = sitter.landmarks.middleOfHead();
  for (Vec3& p : out.position) p = about + rotateAbout(p - about, {1, 0, 0}, -radians(float(degrees)));
  for (Vec3& n : out.normal) n = rotateAbout(n, {1, 0, 0}, -radians(float(degrees)));
  return out;
}

Cover::Cover(const MeshPart& hat, const Sitter& sitter)
    : middle_(sitter.landmarks.middleOfHead()), room_(kRound * kUp, kFar) {
  for (size_t t = 0; t < hat.triangles.size(); t += 3) {
    const Vec3 a = hat.position[hat.triangles[t]], b = hat.position[hat.triangles[t + 1]],
               c = hat.position[hat.triangles[t + 2]];
    overTriangle(a, b, c, 0.003f, 60, [&](float u, float v) {
      const Vec3 way = a + (b - a) * u + (c - a) * v - middle_;
      float& room = room_[cell(way)];
      room = std::min(room, length(way) - kClear);
    });
  }
}

// Azimuth round the head, and the height as the sine of the elevation.
size_t Cover::cell(Vec3 d) const {
  const float up = normalize(d).y, round = std::atan2(d.x, d.z);
  const int i = std::clamp(int((round / (2 * kPiF) + 0.5f) * kRound), 0, kRound - 1);
  const int j = std::clamp(int((up + 1) / 2 * kUp), 0, kUp - 1);
  return size_t(j) * size_t(kRound) + size_t(i);
}

Vec3 Cover::under(Vec3 p) const {
  // Where two directions meet what is pressed may land in the other, with less room.
  for (int landing = 0; landing < 2; ++landing) {
    const Vec3 way = p - middle_;
    const float far = length(way), room = room_[cell(way)];
    if (!(far > room)) break;
    p = middle_ + way * (room / far);
  }
  return p;
}

}  // namespace easel
