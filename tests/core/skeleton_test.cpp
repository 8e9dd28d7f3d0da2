#include "sitters/skeleton.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "support.h"
#include "transport/figure.h"
#include "transport/scene.h"

namespace easel {
namespace {

Attitude held(const Pose& pose, bool sits = false) {
  Attitude as;
  as.sits = sits;
  as.pose = pose;
  return as;
}

// The joints of the arms, as vertices that follow their bones wholly.
MeshPart jointsOf(const Sitter& sitter) {
  MeshPart part;
  part.position = sitter.joints.of;
  part.normal.assign(part.position.size(), {0, 0, 1});
  part.headWeight.assign(part.position.size(), 0);
  part.binding.resize(part.position.size());
  for (size_t i = 0; i < part.binding.size(); ++i) part.binding[i].bone[0] = std::uint8_t(i);
  return part;
}
std::vector<Vec3> placed(const MeshPart& part, const Posture& posture) {
  std::vector<Vec3> at = part.position, normal = part.normal;
  posture.place(part, at, normal);
  return at;
}

TEST(Skeleton, BonesKeepTheirLengthInEveryPose) {
  for (const Person& person : sitterCatalogue()) {
    const auto sitter = loadSitter(person.id);
    const MeshPart joints = jointsOf(*sitter);
    for (const Pose& pose : poses())
      for (bool sits : {false, true}) {
        const auto at = placed(joints, Posture(*sitter, held(poseOf(pose.id, sits), sits)));
        for (int side : {0, 1})
          for (auto [a, b] : {std::pair<int, int>{Bones::Upper, Bones::Fore},
                              {Bones::Fore, Bones::Hand},
                              {Bones::Digits, Bones::Digits + 1},
                              {Bones::Digits + 7, Bones::Digits + 8}}) {
            const auto i = size_t(Bones::ofArm(side, a)), j = size_t(Bones::ofArm(side, b));
            EXPECT_NEAR(length(at[i] - at[j]), length(joints.position[i] - joints.position[j]), 1e-4)
                << person.id << " " << pose.id;
          }
      }
  }
}

TEST(Skeleton, HandsOnTheLapLieOnTheThighs) {
  for (const Person& person : sitterCatalogue()) {
    const auto sitter = loadSitter(person.id);
    const auto at = placed(jointsOf(*sitter), Posture(*sitter, held(poseOf("relaxed", true), true)));
    for (int side : {0, 1}) {
      const Vec3 wrist = at[size_t(Bones::ofArm(side, Bones::Hand))], hip = sitter->joints.hip[size_t(side)];
      EXPECT_NEAR(wrist.y, hip.y + 0.13, 0.05) << person.id;
      EXPECT_GT(wrist.z, hip.z + 0.15) << person.id;
      EXPECT_LT(std::abs(wrist.x - hip.x), 0.08) << person.id;
    }
  }
}

TEST(Skeleton, FoldedArmsStayBeforeTheBody) {
  for (const Person& person : sitterCatalogue()) {
    const auto sitter = loadSitter(person.id);
    const Posture posture(*sitter, held(poseOf("folded", false)));
    const auto at = placed(jointsOf(*sitter), posture);
    for (int side : {0, 1}) {
      const Vec3 wrist = at[size_t(Bones::ofArm(side, Bones::Hand))],
                 elbow = at[size_t(Bones::ofArm(side, Bones::Fore))];
      for (float t : {0.5f, 0.75f, 1.f})
        EXPECT_GT(sitter->bodyField.at(lerp(elbow, wrist, t)), 0.015) << person.id << t;
      EXPECT_LT(wrist.x * (side ? -1 : 1), 0) << person.id << ": across the chest";
    }
  }
}

TEST(Skeleton, ShouldersTurnApartFromTheHead) {
  const auto sitter = loadSitter("wren");
  Attitude as = held(poseOf("relaxed", false));
  as.head = {20, 5, -3};
  const Posture before(*sitter, as);
  as.shoulders = 50;
  const Posture after(*sitter, as);
  const Vec3 nose = sitter->landmarks.noseTip;
  EXPECT_LT(length(before.head()(nose) - after.head()(nose)), 1e-5);
  EXPECT_LT(length(after.head()(nose) - posed(nose, 1, sitter->landmarks.neckPivot, as.head)), 1e-5);
  const auto axis = [&](const Posture& p) {
    const auto at = placed(jointsOf(*sitter), p);
    return at[size_t(Bones::ofArm(0, 0))] - at[size_t(Bones::ofArm(1, 0))];
  };
  const Vec3 was = axis(before), is = axis(after);
  EXPECT_NEAR(degrees(std::atan2(-is.z, is.x)) - degrees(std::atan2(-was.z, was.x)), 50, 0.01)
      << "to the sitter's left: the left shoulder goes back";
  // The skin of the head is where the head is; that of the neck goes between.
  for (const MeshPart& part : sitter->parts) {
    if (part.surface != Surface::Skin || !part.of.empty()) continue;
    const auto a = placed(part, before), b = placed(part, after);
    for (size_t i = 0; i < a.size(); ++i) {
      if (part.headWeight[i] > 0.999f) {
        ASSERT_LT(length(a[i] - b[i]), 1e-4);
      }
    }
  }
}

TEST(Skeleton, WhatStandsOnTheNeckGoesWithItsSkin) {
  const auto sitter = loadSitter("mosi");
  Attitude as = held(poseOf("relaxed", false));
  as.head = {55, -8, 6};
  as.shoulders = 12;
  as.lean = 9;
  const Posture posture(*sitter, as);
  int between = 0;
  for (const MeshPart& part : sitter->parts) {
    if (part.surface != Surface::Skin || !part.of.empty()) continue;
    const auto at = placed(part, posture);
    for (size_t i = 0; i < at.size(); ++i) {
      const float w = part.headWeight[i];
      const bool trunk = part.binding.empty() || part.binding[i] == Binding{};
      if (!trunk) continue;
      between += w > 0.1f && w < 0.9f;
      ASSERT_LT(length(posture.neck(w)(part.position[i]) - at[i]), 1e-5) << w;
    }
  }
  EXPECT_GT(between, 500);
}

TEST(Skeleton, LeaningLeavesTheEyesAndTakesTheHipsBack) {
  const auto sitter = loadSitter("mosi");
  Attitude as = held(poseOf("relaxed", true), true);
  const Posture upright(*sitter, as);
  as.lean = 20;
  const Posture leaning(*sitter, as);
  EXPECT_LT(length(upright.head()(sitter->landmarks.eyeLeft) - leaning.head()(sitter->landmarks.eyeLeft)), 1e-5);
  EXPECT_LT(leaning.seat().shift.z, -0.12);
  EXPECT_NEAR(length(leaning.trunk()(sitter->joints.hip[0]) - sitter->landmarks.neckPivot),
              length(sitter->joints.hip[0] - sitter->landmarks.neckPivot), 1e-5);
}

// Sleeves keep their girth and hands their shape: no edge of a mesh is drawn out or folded away.
TEST(Skeleton, NoPoseTearsAMesh) {
  const auto sitter = loadSitter("isaura");
  for (const Pose& pose : poses()) {
    const bool sits = pose.sits;
    const Posture posture(*sitter, held(pose, sits));
    for (const MeshPart& part : sitter->parts) {
      if (!worn(*sitter, part, {"female_elegantsuit01", false}, sits ? 1.1 : 1.5)) continue;
      const auto at = placed(part, posture);
      size_t torn = 0;
      for (size_t t = 0; t < part.triangles.size(); t += 3)
        for (size_t k = 0; k < 3; ++k) {
          const auto i = part.triangles[t + k], j = part.triangles[t + (k + 1) % 3];
          const float was = length(part.position[i] - part.position[j]), is = length(at[i] - at[j]);
          torn += is > 2.5f * was + 0.004f;
        }
      EXPECT_LE(double(torn), 0.002 * double(part.triangles.size())) << pose.id;
    }
  }
}

// From eight sides: of the body only head, neck and hands may be seen, whatever is worn.
TEST(Skeleton, NoSkinStandsOutOfTheClothesInAnyPose) {
  Plan plan = test::demoPlan();
  plan.sitter.hairStyle = "shaved";
  plan.sitter.beard = "none";
  plan.sitter.turn = plan.sitter.tilt = plan.sitter.nod = 0;
  plan.backdrop.distance = 3;
  std::vector<std::string> closed;
  for (const Outfit& outfit : outfits())
    if (outfit.id != "coat" && outfit.id != "dress") closed.push_back(outfit.id);
  size_t next = 0;
  for (const Person& person : sitterCatalogue())
    for (const Pose& pose : poses()) {
      plan.sitter.id = person.id;
      plan.sitter.pose = pose.id;
      plan.sitter.outfit = closed[next++ % closed.size()];
      plan.sitter.eyeHeight = pose.sits || next % 2 ? 1.22 : 1.6;
      const auto sitter = loadSitter(person.id);
      const Scene scene(placedSetOf(plan), sitter);
      const Posture posture = postureOf(plan.sitter, *sitter);
      const auto joints = placed(jointsOf(*sitter), posture);
      const auto bare = [&](Vec3 p) {
        p.y -= float(plan.sitter.eyeHeight);
        // A collar is open as far as the breastbone.
        const Vec3 neck = sitter->landmarks.neckPivot, own = posture.trunk().back(p);
        if (own.y > neck.y - 0.08f || (own.z > neck.z && own.y > neck.y - 0.24f && std::abs(own.x) < 0.08f))
          return true;
        return std::any_of(joints.begin() + Bones::Arms, joints.end(), [&](const Vec3& j) {
          const auto bone = (&j - joints.data() - Bones::Arms) % Bones::kOfArm;
          return bone >= Bones::Hand && length(p - j) < (bone == Bones::Hand ? 0.09f : 0.055f);
        });
      };
      int cloth = 0, out = 0;
      for (int way = 0; way < 8; ++way) {
        const float angle = float(way) * kPiF / 4;
        const Vec3 d{-std::sin(angle), 0, -std::cos(angle)}, aside{std::cos(angle), 0, -std::sin(angle)};
        for (float y = 0.1f; y < 1.4f; y += 0.01f)
          for (float x = -0.4f; x < 0.4f; x += 0.01f) {
            const auto hit = scene.intersect(Vec3{0, y, 0} + aside * x - d * 1.4f, d, 1);
            if (!hit) continue;
            cloth += hit->surface == Surface::Cloth;
            out += hit->surface == Surface::Skin && !bare(hit->position);
          }
      }
      EXPECT_GT(cloth, 8000);
      EXPECT_EQ(out, 0) << person.id << " " << pose.id << " " << plan.sitter.outfit;
    }
}

TEST(Skeleton, EveryPoseHasWhatItComesTo) {
  for (const Pose& pose : poses()) {
    EXPECT_FALSE(poseOf(pose.id, false).sits) << "nobody leans on thighs while standing";
    EXPECT_TRUE(pose.seatedAs.empty() || findPose(pose.seatedAs));
  }
  EXPECT_EQ(poseOf("relaxed", true).id, "lap");
  EXPECT_EQ(poseOf("no-such", false).id, poses().front().id);
}

}  // namespace
}  // namespace easel
