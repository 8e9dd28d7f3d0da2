#include "sitters/fine_skin.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "plan/placement.h"
#include "rendering/progressive_render.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "support.h"
#include "transport/skin.h"

namespace easel {
namespace {

// A bare head and, from behind to one side, a lamp too small to be soft.
Plan litFromBehind() {
  Plan plan = test::demoPlan();
  plan.sitter.id = "corin";
  plan.sitter.hairStyle = "shaved";
  plan.sitter.turn = -75;
  plan.lights.resize(1);
  plan.lights[0].modifier = "reflector-18";
  plan.lights[0].hour = 1.2;
  plan.lights[0].distance = 1.6;
  plan.lights[0].height = plan.sitter.eyeHeight + 0.15;
  plan.ambient.lux = 0;
  return plan;
}

TEST(FineSkin, LidsAreWetWhereTheyLieOnTheEyeAndNowhereElse) {
  for (const Person& person : sitterCatalogue()) {
    const auto sitter = loadSitter(person.id);
    const FineSkin fine = fineSkinOf(*sitter);
    ASSERT_TRUE(fine.of);
    const Landmarks& l = sitter->landmarks;
    size_t wet = 0, far = 0;
    for (size_t i = 0; i < fine.wet.size(); ++i) {
      if (fine.wet[i] < 0.5f) continue;
      ++wet;
      const Vec3 p = fine.of->position[i], eye = p.x > 0 ? l.eyeLeft : l.eyeRight;
      far += length(p - eye) > 0.021f;
    }
    EXPECT_GT(wet, 300u) << person.id;
    EXPECT_EQ(far, 0u) << person.id;
  }
}

TEST(FineSkin, EarsAreThinAndTheRestOfTheHeadIsNot) {
  for (const Person& person : sitterCatalogue()) {
    const auto sitter = loadSitter(person.id);
    const FineSkin fine = fineSkinOf(*sitter);
    std::vector<float> thin;
    for (size_t i = 0; i < fine.thickness.size(); ++i) {
      if (fine.thickness[i] >= FineSkin::kThick) continue;
      thin.push_back(fine.thickness[i]);
      EXPECT_GT(std::abs(fine.of->position[i].x), 0.04f) << person.id;
      EXPECT_LT(fine.of->position[i].z, sitter->landmarks.eyeLeft.z) << person.id;
    }
    ASSERT_GT(thin.size(), 1000u) << person.id;
    std::nth_element(thin.begin(), thin.begin() + std::ptrdiff_t(thin.size() / 2), thin.end());
    EXPECT_NEAR(thin[thin.size() / 2], 0.0045f, 0.0015f) << person.id << ": half of an ear, with its lobe and its root";
  }
}

TEST(FineSkin, WhatComesThroughIsRedAndLessTheThickerItIs) {
  for (int c = 0; c < 3; ++c) EXPECT_NEAR(throughSkin(0)[c], 1, 1e-3);
  Vec3 last{1, 1, 1};
  for (float mm = 0.5f; mm < 6; mm += 0.5f) {
    const Vec3 now = throughSkin(mm / 1000);
    EXPECT_GT(now.x, now.y);
    EXPECT_GE(now.y, now.z);
    for (int c = 0; c < 3; ++c) EXPECT_LE(now[c], last[c]);
    last = now;
  }
}

// What the camera sees of a picture that is lit so, point by point, with what it is in red and in blue.
template <class F>
void overPicture(const Plan& plan, F visit) {
  constexpr int kWide = 240, kHigh = 300;
  ProgressiveRender studio(kWide, kHigh);
  studio.setPlan(plan);
  studio.finish(8);
  std::vector<float> planes[3];
  linearPicture(studio.layers(), placedSetOf(plan), {}, planes);
  for (int y = 0; y < kHigh; ++y)
    for (int x = 0; x < kWide; ++x)
      if (const auto at = bareAt(*studio.layers().scene, studio.layers().view, x + 0.5, y + 0.5);
          at && at->surface == Surface::Skin)
        visit(*at, planes[0][size_t(y * kWide + x)], planes[2][size_t(y * kWide + x)]);
}

// The ear that is turned to the camera, its back to the lamp; what the room sends back is three times as red as blue.
TEST(FineSkin, AnEarGlowsRedFromBehind) {
  Plan plan = litFromBehind();
  plan.lights[0].hour = 2;
  plan.camera.focalLength = 200;
  plan.camera.aimBelowEyes = 0.03;
  int thin = 0, glowing = 0;
  overPicture(plan, [&](const SurfacePoint& at, float red, float blue) {
    if (!(at.thickness > 0) || at.thickness > 0.005f) return;
    ++thin;
    glowing += red > 5 * blue;
  });
  EXPECT_GT(thin, 200);
  EXPECT_GT(glowing, thin / 2);
}

// Facets turn away from the light one by one, before the round neck does that they stand for.
TEST(FineSkin, TheEdgeOfTheLightOnANeckHasNoTeeth) {
  Plan plan = litFromBehind();
  plan.camera.focalLength = 260;
  plan.camera.aimBelowEyes = 0.09;
  const Vec3 lamp = lightPose(plan, plan.lights[0]).centre;
  int turned = 0, dark = 0;
  overPicture(plan, [&](const SurfacePoint& at, float red, float) {
    const Vec3 to = normalize(lamp - at.position);
    if (dot(at.facet, to) > -0.01f || dot(at.normal, to) < 0.04f) return;
    ++turned;
    dark += red < 0.05f;
  });
  EXPECT_GT(turned, 20);
  EXPECT_LT(dark, turned / 4);
}

}  // namespace
}  // namespace easel
