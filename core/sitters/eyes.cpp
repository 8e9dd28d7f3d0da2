#include "sitters/eyes.h"

#include <Eigen/QR>
#include <algorithm>
#include <cmath>

namespace easel {
namespace {

// Of the limbus, where the cornea's cap stands on the globe.
const float kLimbusOut = std::sqrt(kGlobe * kGlobe - kIris * kIris);  // from the globe's centre
const float kCapOut = std::sqrt(kCornea * kCornea - kIris * kIris);   // from the cornea's
const float kLimbusAngle = std::asin(kIris / kGlobe), kCapAngle = std::asin(kIris / kCornea);
constexpr float kBehindLimbus = 0.0003f;  // metres: the iris hangs so far behind
// Over these angles from straight ahead the globe goes over to the package's ball. Degrees.
constexpr float kOwnTo = 48, kTheirsFrom = 64;

// The package's texture of an eye: both painted from the front.
constexpr Vec2 kPainted[2] = {{0.293f, 0.301f}, {0.705f, 0.703f}};
constexpr float kPaintedIris = 0.1135f, kPaintedWhite = 0.265f;  // radii in uv, the white's at a right angle

// Where both balls meet, 9.5 mm from the axis: there lids lie.
Vec3 globeIn(const EyeSocket& s) {
  constexpr float kMeet = 0.0095f;
  const float theirs = std::sqrt(s.radius * s.radius - kMeet * kMeet),
              ours = std::sqrt(kGlobe * kGlobe - kMeet * kMeet);
  return s.centre + Vec3{0, 0, theirs - ours};
}

// The surface along a direction from the globe's centre, and how it looks there.
struct OnBall {
  Vec3 place, normal;
};
OnBall onBall(const EyeSocket& socket, Vec3 centre, Vec3 out) {
  const float angle = degrees(std::acos(std::clamp(out.z, -1.f, 1.f)));
  const float k = std::clamp((angle - kOwnTo) / (kTheirsFrom - kOwnTo), 0.f, 1.f), theirs = k * k * (3 - 2 * k);
  const Vec3 from = centre - socket.centre;
  const float b = dot(from, out),
              far = -b + std::sqrt(std::max(0.f, b * b - dot(from, from) + socket.radius * socket.radius));
  const Vec3 place = centre + out * std::lerp(kGlobe, far, theirs);
  return {place, normalize(lerp(out, normalize(place - socket.centre), theirs))};
}

// Rings about an axis, each of so many points; the first may be a single place.
class Rings {
 public:
  static constexpr std::uint32_t kRound = 64;
  explicit Rings(MeshPart& to) : to_(to), first_(std::uint32_t(to.position.size())) {}
  template <class Point>
  void add(Point point) {
    for (std::uint32_t k = 0; k < kRound; ++k) point(2 * kPiF * float(k) / float(kRound));
    if (rings_++ == 0) return;
    const std::uint32_t inner = first_ + (rings_ - 2) * kRound, outer = inner + kRound;
    for (std::uint32_t k = 0; k < kRound; ++k) {
      const std::uint32_t next = (k + 1) % kRound;
      for (const std::uint32_t i : {inner + k, outer + k, outer + next, inner + k, outer + next, inner + next})
        to_.triangles.push_back(i);
    }
  }

 private:
  MeshPart& to_;
  std::uint32_t first_, rings_ = 0;
};

}  // namespace

Vec3 Eye::corneaCentre() const { return centre + frame.n * (kLimbusOut - kCapOut); }
Vec3 Eye::iris() const { return centre + frame.n * kLimbusOut; }

std::array<EyeSocket, 2> socketsOf(const Sitter& sitter) {
  std::array<EyeSocket, 2> out;
  for (size_t k = 0; k < 2; ++k) {
    const Vec3 joint = k ? sitter.landmarks.eyeRight : sitter.landmarks.eyeLeft;
    out[k] = {joint, 0.0146f};
    // Between the iris, which is sunk in, and where the ball is cut off.
    std::vector<Vec3> on;
    for (const MeshPart& p : sitter.parts)
      if (p.surface == Surface::Eye)
        for (const Vec3& v : p.position)
          if ((v.x > 0) == (k == 0) && v.z > joint.z)
            if (const float a = degrees(std::acos(normalize(v - joint).z)); a > 32 && a < 75) on.push_back(v);
    if (on.size() < 16) continue;
    // A sphere by least squares: 2 c x + (r^2 - c^2) = x^2.
    Eigen::MatrixXd a(Eigen::Index(on.size()), 4);
    Eigen::VectorXd b(Eigen::Index(on.size()));
    for (size_t i = 0; i < on.size(); ++i) {
      const Vec3 v = on[i] - joint;
      a.row(Eigen::Index(i)) << 2 * double(v.x), 2 * double(v.y), 2 * double(v.z), 1;
      b[Eigen::Index(i)] = double(dot(v, v));
    }
    const Eigen::Vector4d x = a.colPivHouseholderQr().solve(b);
    const Vec3 off{float(x[0]), float(x[1]), float(x[2])};
    const float radius = float(std::sqrt(std::max(0.0, x[3] + x.head<3>().squaredNorm())));
    if (radius > 0.011f && radius < 0.019f && length(off) < 0.004f) out[k] = {joint + off, radius};
  }
  return out;
}

std::array<Eye, 2> eyesOf(const Sitter& sitter, const Gaze& gaze) {
  std::array<Eye, 2> out;
  for (size_t k = 0; k < 2; ++k) {
    // The axis stands outwards of what is looked at: to the left of the left eye.
    const float left = radians(float(gaze[k].left) / 2 + (k ? -kKappa : kKappa)), up = radians(float(gaze[k].up) / 2);
    const Vec3 n{std::sin(left) * std::cos(up), std::sin(up), std::cos(left) * std::cos(up)};
    const Vec3 u = normalize(cross({0, 1, 0}, n));
    out[k] = {globeIn(sitter.sockets[k]), {u, cross(n, u), n}};
  }
  return out;
}

EyeAim lookAt(const Sitter& sitter, size_t eye, Vec3 place) {
  const Vec3 d = place - globeIn(sitter.sockets[eye]);
  const float left = degrees(std::atan2(d.x, d.z)), up = degrees(std::atan2(d.y, std::hypot(d.x, d.z)));
  const float aside = std::clamp(left, -kAside, kAside), high = std::clamp(up, -kDown, kUp);
  return {{int(std::lround(2 * aside)), int(std::lround(2 * high))}, aside == left, high == up};
}

EyeMeshes eyeMeshes(const Sitter& sitter, const std::array<Eye, 2>& eyes) {
  EyeMeshes out;
  out.white.surface = Surface::Eye;
  out.cornea.surface = Surface::Cornea;
  for (const MeshPart& p : sitter.parts)
    if (p.surface == Surface::Eye) out.white.texture = p.texture;
  for (size_t k = 0; k < 2; ++k) {
    const Eye& eye = eyes[k];
    const auto put = [](MeshPart& to, Vec3 place, Vec3 normal, Vec2 uv) {
      to.position.push_back(place);
      to.normal.push_back(normal);
      to.uv.push_back(uv);
      to.headWeight.push_back(1);
    };
    const auto round = [&](float turn) { return eye.frame.u * std::cos(turn) + eye.frame.v * std::sin(turn); };
    const auto painted = [&](float radius, float turn) {
      return kPainted[k] + Vec2{std::cos(turn), std::sin(turn)} * radius;
    };
    Rings white(out.white);
    constexpr int kOfIris = 9, kOfWhite = 26, kOfCap = 16;
    const auto onIris = [&](float share, float behind) {
      white.add([&](float turn) {
        put(out.white, eye.iris() - eye.frame.n * behind + round(turn) * (kIris * share), eye.frame.n,
            painted(kPaintedIris * share, turn));
      });
    };
    for (int i = 0; i <= kOfIris; ++i) onIris(float(i) / kOfIris, kBehindLimbus);
    constexpr float kLast = 112;  // degrees: behind the lids
    for (int i = 0; i <= kOfWhite; ++i) {
      const float angle = std::lerp(kLimbusAngle, radians(kLast), float(i) / kOfWhite);
      const float past = (angle - kLimbusAngle) / (kPiF / 2 - kLimbusAngle);
      white.add([&](float turn) {
        const OnBall p =
            onBall(sitter.sockets[k], eye.centre, eye.frame.n * std::cos(angle) + round(turn) * std::sin(angle));
        put(out.white, p.place, p.normal, painted(std::lerp(kPaintedIris, kPaintedWhite, std::min(1.05f, past)), turn));
      });
    }
    Rings cap(out.cornea);
    for (int i = 0; i <= kOfCap; ++i) {
      const float angle = kCapAngle * float(i) / kOfCap;
      cap.add([&](float turn) {
        const Vec3 n = eye.frame.n * std::cos(angle) + round(turn) * std::sin(angle);
        put(out.cornea, eye.corneaCentre() + n * kCornea, n, {});
      });
    }
  }
  return out;
}

}  // namespace easel
