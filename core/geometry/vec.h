// Three numbers, and the little that a light path needs of them.
//
// Studio space: metres, right-handed, y up, the floor at y = 0. The sitter is the hub at the origin and faces +z, where
// the camera stands (6 o'clock); the backdrop is towards -z (12 o'clock); +x is camera right (3 o'clock).
#pragma once

#include <algorithm>
#include <cmath>
#include <numbers>

namespace easel {

constexpr double kPi = std::numbers::pi;
constexpr float kPiF = std::numbers::pi_v<float>;

struct Vec3 {
  float x = 0, y = 0, z = 0;
  float& operator[](int i) { return (&x)[i]; }
  float operator[](int i) const { return (&x)[i]; }
  bool operator==(const Vec3&) const = default;
};
inline Vec3 operator+(Vec3 a, Vec3 b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
inline Vec3 operator-(Vec3 a, Vec3 b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
inline Vec3 operator-(Vec3 a) { return {-a.x, -a.y, -a.z}; }
inline Vec3 operator*(Vec3 a, Vec3 b) { return {a.x * b.x, a.y * b.y, a.z * b.z}; }
inline Vec3 operator*(Vec3 a, float s) { return {a.x * s, a.y * s, a.z * s}; }
inline Vec3 operator*(float s, Vec3 a) { return a * s; }
inline Vec3 operator/(Vec3 a, float s) { return a * (1 / s); }
inline Vec3& operator+=(Vec3& a, Vec3 b) { return a = a + b; }
inline Vec3& operator*=(Vec3& a, float s) { return a = a * s; }
inline float dot(Vec3 a, Vec3 b) { return a.x * b.x + a.y * b.y + a.z * b.z; }
inline Vec3 cross(Vec3 a, Vec3 b) { return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x}; }
inline float length(Vec3 a) { return std::sqrt(dot(a, a)); }
inline Vec3 normalize(Vec3 a) {
  const float l = length(a);
  return l > 0 ? a / l : Vec3{0, 1, 0};
}
inline Vec3 lerp(Vec3 a, Vec3 b, float t) { return a * (1 - t) + b * t; }
inline float maxOf(Vec3 a) { return std::max({a.x, a.y, a.z}); }
/// Photometric luminance of linear Rec. 709 RGB (the Y row of IEC 61966-2-1).
inline float luminance(Vec3 a) { return 0.2126f * a.x + 0.7152f * a.y + 0.0722f * a.z; }

struct Vec2 {
  float x = 0, y = 0;
};
inline Vec2 operator+(Vec2 a, Vec2 b) { return {a.x + b.x, a.y + b.y}; }
inline Vec2 operator*(Vec2 a, float s) { return {a.x * s, a.y * s}; }
inline Vec2 lerp(Vec2 a, Vec2 b, float t) { return a * (1 - t) + b * t; }

/// Right-handed orthonormal frame; n is the facing direction, u across, v up.
struct Frame {
  Vec3 u{1, 0, 0}, v{0, 1, 0}, n{0, 0, 1};
  /// Frame that faces `n` with v as near to straight up as it can be.
  static Frame facing(Vec3 n) {
    n = normalize(n);
    const Vec3 up = std::abs(n.y) > 0.999f ? Vec3{0, 0, n.y > 0 ? -1.f : 1.f} : Vec3{0, 1, 0};
    const Vec3 u = normalize(cross(up, n));
    return {u, cross(n, u), n};
  }
  bool operator==(const Frame&) const = default;
  Vec3 toWorld(Vec3 a) const { return u * a.x + v * a.y + n * a.z; }
};

/// `p` turned about the unit axis `k` by `angle` radians (Rodrigues).
inline Vec3 rotateAbout(Vec3 p, Vec3 k, float angle) {
  const float c = std::cos(angle), s = std::sin(angle);
  return p * c + cross(k, p) * s + k * (dot(k, p) * (1 - c));
}

inline float radians(float degrees) { return degrees * (kPiF / 180); }
inline float degrees(float radians) { return radians * (180 / kPiF); }

}  // namespace easel
