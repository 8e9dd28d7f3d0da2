#include "sitters/skeleton.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "sitters/sitter.h"
#include "threads/parallel.h"

namespace easel {
namespace {

using Eigen::Quaternionf;
using V = Eigen::Vector3f;

V eigen(Vec3 a) { return {a.x, a.y, a.z}; }
Vec3 vec(const V& a) { return {a.x(), a.y(), a.z()}; }

Quaternionf about(Vec3 axis, float angle) { return Quaternionf(Eigen::AngleAxisf(angle, eigen(normalize(axis)))); }
Quaternionf some(const Quaternionf& q, float share) { return Quaternionf::Identity().slerp(share, q); }

// Turns the frame of two directions into that of two others; the second of each need not be square to the first.
Quaternionf between(Vec3 a, Vec3 b, Vec3 c, Vec3 d) {
  auto frame = [](Vec3 first, Vec3 second) {
    const Vec3 x = normalize(first), z = normalize(cross(x, second)), y = cross(z, x);
    Eigen::Matrix3f m;
    m << eigen(x), eigen(y), eigen(z);
    return m;
  };
  return Quaternionf(frame(c, d) * frame(a, b).transpose());
}
// The part of `q` that turns about `axis`.
Quaternionf twistOf(const Quaternionf& q, Vec3 axis) {
  const V along = eigen(axis) * q.vec().dot(eigen(axis));
  Quaternionf twist(q.w(), along.x(), along.y(), along.z());
  if (twist.norm() < 1e-6f) return Quaternionf::Identity();
  twist.normalize();
  if (twist.w() < 0) twist.coeffs() *= -1;
  return twist;
}

Motion motionOf(const Quaternionf& q, Vec3 shift) {
  const Eigen::Matrix3f m = q.toRotationMatrix();
  return {vec(m.col(0)), vec(m.col(1)), vec(m.col(2)), shift};
}

DualQuaternion dualOf(const Quaternionf& turn, Vec3 shift) {
  const Quaternionf dual = Quaternionf(0, shift.x / 2, shift.y / 2, shift.z / 2) * turn;
  DualQuaternion d;
  for (size_t k = 0; k < 4; ++k) {
    d.real[k] = turn.coeffs()[Eigen::Index(k)];
    d.dual[k] = dual.coeffs()[Eigen::Index(k)];
  }
  return d;
}

// How far forward the body reaches at the height and side of `p`; nowhere: far behind.
float frontOf(const DistanceField& body, Vec3 p) {
  constexpr float kStep = 0.004f;
  const float back = body.low.z;
  for (float z = body.low.z + body.cell * float(body.nz); z > back; z -= kStep)
    if (body.at({p.x, p.y, z}) < kStep) return z;
  return -1;
}

// Two bones and what they lead to.
struct Reach {
  Vec3 shoulder, elbow, wrist;
  Vec3 upper() const { return elbow - shoulder; }
  Vec3 fore() const { return wrist - elbow; }
  float length() const { return easel::length(upper()) + easel::length(fore()); }
  // Puts the elbow where bones as long as those of `rest` have it, towards `pole`; a wrist too far off comes nearer.
  void bend(const Reach& rest, Vec3 pole) {
    const float a = easel::length(rest.upper()), b = easel::length(rest.fore());
    const float d = std::clamp(easel::length(wrist - shoulder), std::abs(a - b) + 0.01f, (a + b) * 0.998f);
    const Vec3 way = normalize(wrist - shoulder);
    wrist = shoulder + way * d;
    const float along = (a * a - b * b + d * d) / (2 * d);
    elbow = shoulder + way * along +
            normalize(pole - way * dot(pole, way)) * std::sqrt(std::max(0.f, a * a - along * along));
  }
};

}  // namespace

Posture::Posture(const Sitter& sitter, const Attitude& as)
    : onTrunk_{as.head.turn - as.shoulders, as.head.tilt, as.head.nod}, pivot_(sitter.landmarks.neckPivot) {
  const Quaternionf lean = about({1, 0, 0}, radians(float(as.lean + as.pose.lean)));
  body_ = motionOf(about({0, 1, 0}, radians(float(as.shoulders))), {});
  lean_ = motionOf(lean, pivot_ - vec(lean * eigen(pivot_)));
  const auto headed = [&](Vec3 d) { return posedDirection(d, 1, as.head); };
  head_ = {headed({1, 0, 0}), headed({0, 1, 0}), headed({0, 0, 1}), {}};
  head_.shift = pivot_ - head_.turn(pivot_);
  bone_[Bones::Trunk] = dualOf(lean, lean_.shift);
  const Vec3 hips = (sitter.joints.hip[0] + sitter.joints.hip[1]) / 2;
  hipShift_ = lean_(hips) - hips;
  bone_[Bones::Legs] = dualOf(Quaternionf::Identity(), hipShift_);
  if (sitter.joints.of.size() != size_t(Bones::kAll)) return;  // arms follow no bone
  for (int side : {0, 1}) holdArm(sitter, side, as.pose.arms[size_t(side)], as.sits);
}

void Posture::holdArm(const Sitter& sitter, int side, const ArmPose& arm, bool sits) {
  const Joints& joints = sitter.joints;
  const auto joint = [&](int bone) { return joints.of[size_t(Bones::ofArm(side, bone))]; };
  const float out = side ? -1.f : 1.f;
  const Quaternionf lean(bone_[Bones::Trunk].real.data());
  const auto ownSide = [&](Vec3 d) { return Vec3{d.x * out, d.y, d.z}; };
  const auto inTrunk = [&](Vec3 d) { return lean_.turn(ownSide(d)); };

  const Vec3 shoulder = joint(Bones::Upper), elbow = joint(Bones::Fore), wrist = joint(Bones::Hand);
  const Vec3 hip = joints.hip[size_t(side)];
  const Reach rest{shoulder, elbow, wrist};
  Reach to{lean_(shoulder), {}, {}};
  if (arm.onThigh) {
    Vec3 thigh = joints.knee[size_t(side)] - hip;
    if (sits) thigh = rotateAbout(thigh, {1, 0, 0}, -radians(kSeatedBend));
    to.wrist = hip + hipShift_ + thigh * arm.wrist.z + ownSide({arm.wrist.x, arm.wrist.y, 0});
  } else {
    const Vec3 middle = (shoulder + joints.of[size_t(Bones::ofArm(1 - side, Bones::Upper))]) / 2;
    to.wrist = lean_(middle + Vec3{std::abs(shoulder.x - middle.x) * arm.wrist.x * out,
                                   (middle.y - hip.y) * arm.wrist.y, rest.length() * arm.wrist.z});
  }
  const Vec3 pole = inTrunk(arm.elbow);
  to.bend(rest, pole);
  // Before the body, whatever its girth: what of the forearm is furthest behind says how far it goes forward.
  for (int round = 0; round < 6 && arm.clear > 0; ++round) {
    float missing = 0;
    for (float t : {0.4f, 0.6f, 0.8f, 1.f, 1.3f}) {
      const Vec3 p = lean_.back(lerp(to.elbow, to.wrist, t));
      missing = std::max(missing, frontOf(sitter.bodyField, p) + float(arm.clear) - p.z);
    }
    if (missing <= 0.001f) break;
    to.wrist += inTrunk({0, 0, missing});
    to.bend(rest, pole);
  }

  const Vec3 hinge = cross(rest.upper(), {0, 0, 1}), hingeThen = cross(to.wrist - to.shoulder, -pole);
  const Quaternionf upper = between(rest.upper(), hinge, to.upper(), hingeThen);
  const Quaternionf swing = Quaternionf::FromTwoVectors(lean * eigen(rest.upper()), eigen(to.upper())) * lean;
  const Quaternionf roll = twistOf(upper * swing.conjugate(), normalize(to.upper()));
  const Quaternionf fore = between(rest.fore(), hinge, to.fore(), hingeThen);
  const int index = Bones::Digits + Bones::kPhalanges, middle = index + Bones::kPhalanges,
            little = Bones::Digits + 4 * Bones::kPhalanges;
  const Vec3 fingers = joint(middle) - wrist, palm = cross(joint(index) - wrist, joint(little) - wrist) * -out;
  const Quaternionf hand = between(fingers, palm, inTrunk(arm.fingers), inTrunk(arm.palm));
  const Quaternionf turn = twistOf(hand * fore.conjugate(), normalize(to.fore()));

  const auto set = [&](int bone, const Quaternionf& q, Vec3 at) {
    bone_[size_t(Bones::ofArm(side, bone))] = dualOf(q, at - vec(q * eigen(joint(bone))));
  };
  const auto share = [&](int bone, Vec3 from, Vec3 way) { return dot(joint(bone) - from, way) / dot(way, way); };
  // What turns about its own length does so little by little.
  set(Bones::Upper, some(roll, 0.3f) * swing, to.shoulder);
  set(Bones::UpperTwist, upper, lerp(to.shoulder, to.elbow, share(Bones::UpperTwist, shoulder, rest.upper())));
  set(Bones::Fore, some(turn, 0.15f) * fore, to.elbow);
  set(Bones::ForeTwist, some(turn, 0.65f) * fore,
      lerp(to.elbow, to.wrist, share(Bones::ForeTwist, elbow, rest.fore())));
  set(Bones::Hand, hand, to.wrist);
  for (int digit = 0; digit < Bones::kDigits; ++digit) {
    const int first = Bones::Digits + digit * Bones::kPhalanges;
    const Vec3 axis = cross(joint(first + 2) - joint(first), palm);
    // The thumb bends little; the small finger more than the first.
    const float each = radians(float(arm.curl)) * (digit == 0 ? 0.35f : 0.7f + 0.14f * float(digit));
    Vec3 at = to.wrist + vec(hand * eigen(joint(first) - wrist));
    for (int k = first; k < first + Bones::kPhalanges; ++k) {
      const Quaternionf bent = hand * about(axis, each * (float(k - first) + 0.9f));
      set(k, bent, at);
      if (k + 1 < first + Bones::kPhalanges) at += vec(bent * eigen(joint(k + 1) - joint(k)));
    }
  }
}

// Of several dual quaternions, once it is a turn and a shift again.
struct Posture::Blend {
  Vec3 r, e;
  float rw = 1, ew = 0;
  Vec3 turn(Vec3 d) const { return d + cross(r, cross(r, d) + d * rw) * 2; }
  Vec3 operator()(Vec3 p) const { return turn(p) + (e * rw - r * ew + cross(r, e)) * 2; }
};

Posture::Blend Posture::blended(const Binding& b, float w) const {
  std::array<float, 4> real = bone_[Bones::Head].real, dual = bone_[Bones::Head].dual;
  for (size_t k = 0; k < 4; ++k) {
    real[k] *= w;
    dual[k] *= w;
  }
  const DualQuaternion& first = bone_[b.bone[0]];
  for (size_t n = 0; n < 4 && b.share[n] > 0; ++n) {
    const DualQuaternion& d = bone_[b.bone[n]];
    float share = float(b.share[n]) / 255 * (1 - w), same = 0;
    for (size_t k = 0; k < 4; ++k) same += d.real[k] * (w > 0 ? bone_[Bones::Head].real[k] : first.real[k]);
    if (same < 0) share = -share;
    for (size_t k = 0; k < 4; ++k) {
      real[k] += d.real[k] * share;
      dual[k] += d.dual[k] * share;
    }
  }
  const Vec3 r{real[0], real[1], real[2]}, e{dual[0], dual[1], dual[2]};
  const float scale = 1 / std::max(1e-6f, std::sqrt(dot(r, r) + real[3] * real[3]));
  return {r * scale, e * scale, real[3] * scale, dual[3] * scale};
}

Motion Posture::neck(float weight) const {
  if (weight >= 1) return head_;
  const Blend by = blended({}, weight);
  const auto turn = [&](Vec3 d) { return body_.turn(posedDirection(by.turn(d), weight, onTrunk_)); };
  return {turn({1, 0, 0}), turn({0, 1, 0}), turn({0, 0, 1}), body_.turn(posed(by({}), weight, pivot_, onTrunk_))};
}

void Posture::place(const MeshPart& part, std::vector<Vec3>& position, std::vector<Vec3>& normal) const {
  const Binding trunk;
  const auto move = [&](size_t i) {
    const Binding& b = part.binding.empty() ? trunk : part.binding[i];
    const float w = part.headWeight[i];
    if (w >= 1) {
      position[i] = head_(position[i]);
      normal[i] = head_.turn(normal[i]);
      return;
    }
    const Blend by = blended(b, w);
    position[i] = body_.turn(posed(by(position[i]), w, pivot_, onTrunk_));
    normal[i] = body_.turn(posedDirection(by.turn(normal[i]), w, onTrunk_));
  };
  inParallel(position.size(), 2048, [&](size_t from, size_t to) {
    for (size_t i = from; i < to; ++i) move(i);
  });
}

}  // namespace easel
