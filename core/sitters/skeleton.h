// The bones under a sitter's clothes, and how a pose moves them.
//
// Local space of the sitter (sitter.h), metres. The trunk leans about the pivot of the neck, so that the eyes stay
// where the plan has them; arms are placed by where the wrist is to be (two bones and an elbow have one answer once it
// is said which way the elbow points). Vertices follow several bones by dual quaternions (L. Kavan and others, 2007,
// "Skinning with dual quaternions"): sleeves keep their girth where they bend and twist. Any thread.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include "geometry/vec.h"

namespace easel {

struct Sitter;
struct MeshPart;

constexpr float kSeatedBend = 84;  ///< degrees of hips and knees on the stool

/// Of each arm: two halves of the upper arm, two of the forearm, the hand, three of the thumb and of each finger.
struct Bones {
  enum : std::uint8_t { Trunk, Legs, Head, Arms };
  enum : std::uint8_t { Upper, UpperTwist, Fore, ForeTwist, Hand, Digits };
  static constexpr int kDigits = 5, kPhalanges = 3;
  static constexpr int kOfArm = Digits + kDigits * kPhalanges, kAll = Arms + 2 * kOfArm;
  static constexpr int ofArm(int side, int bone) { return Arms + side * kOfArm + bone; }
};

/// Which bones a vertex follows: up to four, shares out of 255.
struct Binding {
  std::array<std::uint8_t, 4> bone{};
  std::array<std::uint8_t, 4> share{255, 0, 0, 0};
  bool operator==(const Binding&) const = default;
};

/// Where bones begin, standing with arms a little off the body; left, right.
struct Joints {
  std::vector<Vec3> of;  ///< by bone; those of trunk, legs and head say nothing
  std::array<Vec3, 2> hip, knee;
};

/// How an arm is held. Directions in the frame of the trunk, x away from it on the arm's own side.
struct ArmPose {
  bool onThigh = false;
  /// Of the wrist. From between the shoulders: half the shoulders' width, shoulder to hip, length of the arm. On a
  /// thigh: metres out and above its axis, share of the way to the knee.
  Vec3 wrist{1.3f, -0.95f, 0.08f};
  Vec3 elbow{0.4f, 0, -1};  ///< which way the elbow points
  Vec3 fingers{0, -1, 0.1f}, palm{-1, 0, -0.2f};
  double curl = 22;  ///< degrees that each joint of a finger bends
  double clear = 0;  ///< metres that forearm and hand keep off the body
};
struct Pose {
  std::string id, name;
  bool sits = false;            ///< for a sitter on the stool alone
  std::string seatedAs;         ///< id of what it is for whoever sits; empty: the same
  double lean = 0;              ///< degrees forward, more than the plan's
  std::array<ArmPose, 2> arms;  ///< left, right
};

/// Head attitude, degrees. Turn > 0: to the sitter's left (camera right); tilt > 0: towards the sitter's left shoulder;
/// nod > 0: chin down.
struct HeadPose {
  double turn = 0, tilt = 0, nod = 0;
};
struct Attitude {
  HeadPose head;
  double shoulders = 0;  ///< degrees that the body is turned to the sitter's left; the head is turned by its own alone
  double lean = 0;       ///< degrees forward
  bool sits = false;
  Pose pose;
};

/// A turn and a shift.
struct Motion {
  Vec3 x{1, 0, 0}, y{0, 1, 0}, z{0, 0, 1}, shift;
  Vec3 turn(Vec3 d) const { return x * d.x + y * d.y + z * d.z; }
  Vec3 operator()(Vec3 p) const { return turn(p) + shift; }
  Vec3 turnBack(Vec3 d) const { return {dot(d, x), dot(d, y), dot(d, z)}; }
  Vec3 back(Vec3 p) const { return turnBack(p - shift); }
  /// What comes of that one first and then this.
  Motion after(const Motion& first) const {
    return {turn(first.x), turn(first.y), turn(first.z), (*this)(first.shift)};
  }
};

/// A turn and a shift: quaternions x, y, z, w; of the turn, and half the shift times it.
struct DualQuaternion {
  std::array<float, 4> real{0, 0, 0, 1}, dual{0, 0, 0, 0};
};

class Posture {
 public:
  Posture(const Sitter& sitter, const Attitude& attitude);

  /// Moves vertices and normals of a part of the sitter.
  void place(const MeshPart& part, std::vector<Vec3>& position, std::vector<Vec3>& normal) const;
  Motion trunk() const { return body_.after(lean_); }
  const Motion& head() const { return head_; }
  /// Of skin that follows the head by `weight` (0 to 1) and the trunk by the rest.
  Motion neck(float weight) const;
  /// Of the seat: turned with the body, shifted with the hips.
  Motion seat() const { return body_.after({.shift = hipShift_}); }

 private:
  struct Blend;
  Blend blended(const Binding& binding, float headWeight) const;
  void holdArm(const Sitter& sitter, int side, const ArmPose& arm, bool sits);

  HeadPose onTrunk_;  // of the head, as against the trunk
  Vec3 pivot_, hipShift_;
  Motion head_, body_, lean_;  // the last as against the body
  std::array<DualQuaternion, Bones::kAll> bone_;
};

}  // namespace easel
