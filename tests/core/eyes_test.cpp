// Eyes as they are built and as they look.
#include "sitters/eyes.h"

#include <gtest/gtest.h>

#include <set>

#include "analysis/catchlights.h"
#include "balance/advice.h"
#include "plan/check.h"
#include "plan/edit.h"
#include "plan/gaze.h"
#include "plan/placement.h"
#include "plan/roles.h"
#include "rendering/progressive_render.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "support.h"
#include "transport/figure.h"

namespace easel {
namespace {

// The figures that the header names, measured on the meshes.
TEST(Eyes, OfAllTenHaveThePublishedSizes) {
  for (const Person& who : sitterCatalogue()) {
    const auto sitter = loadSitter(who.id);
    const auto eyes = eyesOf(*sitter, {});
    const EyeMeshes meshes = eyeMeshes(*sitter, eyes);
    EXPECT_GE(meshes.white.texture, 0) << who.id;
    for (size_t k = 0; k < 2; ++k) {
      const Eye& eye = eyes[k];
      const auto ours = [&](Vec3 v) { return (v.x > 0) == (k == 0); };
      double widest = 0, apex = 0, pupil = 1;
      for (size_t i = 0; i < meshes.cornea.position.size(); ++i) {
        const Vec3 v = meshes.cornea.position[i];
        if (!ours(v)) continue;
        EXPECT_NEAR(length(v - eye.corneaCentre()), 0.0078, 1e-6) << who.id;
        const Vec3 d = v - eye.centre;
        apex = std::max(apex, double(dot(d, eye.frame.n)));
        widest = std::max(widest, double(length(d - eye.frame.n * dot(d, eye.frame.n))));
        pupil = std::min(pupil, double(length(d - eye.frame.n * dot(d, eye.frame.n))));
      }
      EXPECT_NEAR(2 * widest, 0.0117, 1e-5) << who.id << ": white to white";
      EXPECT_NEAR(apex, 0.0131, 2e-4) << who.id << ": a millimetre before the globe";
      EXPECT_LT(pupil, 1e-6);
      // The white that lids leave bare is the globe.
      for (const Vec3& v : meshes.white.position) {
        const bool bare = dot(normalize(v - eye.centre), Vec3{0, 0, 1}) > std::cos(radians(46.f));
        if (!ours(v) || !bare || length(v - eye.iris()) < 0.0062) continue;
        EXPECT_NEAR(length(v - eye.centre), 0.012, 1e-6) << who.id;
      }
      // Axes stand outwards of the line of sight.
      EXPECT_NEAR(degrees(std::atan2(eye.frame.n.x, eye.frame.n.z)), k ? -5 : 5, 0.01) << who.id;
      EXPECT_NEAR(eye.frame.n.y, 0, 1e-6) << who.id;
    }
    EXPECT_NEAR(eyes[0].centre.x, -eyes[1].centre.x, 1e-5) << who.id;
  }
}

// Lids lie on the package's ball: where they leave the eye bare nothing is hollow and nothing stands out of them.
TEST(Eyes, FillTheLidsOfEverybody) {
  for (const Person& who : sitterCatalogue()) {
    const auto sitter = loadSitter(who.id);
    for (const Gaze gaze :
         {Gaze{}, Gaze{{{50, 0}, {50, 0}}}, Gaze{{{-50, 20}, {-50, 20}}}, Gaze{{{0, -40}, {0, -40}}}}) {
      const auto eyes = eyesOf(*sitter, gaze);
      const EyeMeshes meshes = eyeMeshes(*sitter, eyes);
      for (size_t i = 0; i < meshes.white.position.size(); ++i) {
        const Vec3 v = meshes.white.position[i];
        const size_t k = v.x > 0 ? 0 : 1;
        if (length(v - eyes[k].iris()) < 0.0065) continue;
        const EyeSocket& s = sitter->sockets[k];
        const Vec3 d = normalize(v - eyes[k].centre);
        if (d.z < std::cos(radians(60.f))) continue;
        const float out = length(v - s.centre) - s.radius;
        const float off = degrees(std::acos(d.z));
        if (off < 40) continue;
        EXPECT_NEAR(out, 0, 0.0008) << who.id << ", " << off << " degrees off the axis";
      }
    }
  }
}

struct Looking : testing::Test {
  Plan plan = test::demoPlan();
  std::shared_ptr<const Sitter> sitter = loadSitter(plan.sitter.id);
  // Angle in degrees between the line of sight of an eye and the way to a place.
  double off(Vec3 place, size_t eye) {
    const Scene scene(placedSetOf(plan), sitter);
    const Eye axis = scene.eyes()[eye];
    const Vec3 n = rotateAbout(axis.frame.n, {0, 1, 0}, radians(eye ? kKappa : -kKappa));
    const Vec3 from = scene.studioPoint(axis.centre), to = normalize(scene.studioPoint(axis.centre + n) - from);
    return degrees(std::acos(std::min(1.f, dot(to, normalize(place - from)))));
  }
};

TEST_F(Looking, EyesAreAtTheLensHoweverTheHeadIsHeld) {
  EXPECT_EQ(plan.sitter.gaze, "lens");
  for (const double turn : {-30.0, 0.0, 30.0}) {
    plan.sitter.turn = turn;
    plan.sitter.tilt = turn / 4;
    plan.sitter.nod = 8;
    for (size_t eye : {0u, 1u}) EXPECT_LT(off(cameraPose(plan).eye, eye), 0.8) << turn;
    EXPECT_TRUE(gazeOf(placedSetOf(plan), *sitter).reached);
  }
  plan.sitter.turn = 85;
  EXPECT_EQ(gazeOf(placedSetOf(plan), *sitter).gaze, Gaze{}) << "in a profile they look ahead";
  // What was asked for is tried, and it is said that it is not reached.
  plan.lights[0].hour = 6;
  plan.sitter = withGaze(plan, kLooksAtLight, "A");
  EXPECT_FALSE(gazeOf(placedSetOf(plan), *sitter).reached);
  EXPECT_EQ(gazeOf(placedSetOf(plan), *sitter).gaze[0].left, -2 * int(kAside));
  std::string said;
  for (const Finding& f : adviceOn(plan, test::answersOf(plan), nullptr)) said += f.sentence;
  EXPECT_NE(said.find("cannot look at light A"), std::string::npos) << said;
}

TEST_F(Looking, AtALightAtAPlaceAndAhead) {
  plan.lights[0].hour = 5;
  plan.lights[0].height = plan.sitter.eyeHeight + 0.2;
  plan.sitter = withGaze(plan, kLooksAtLight, "A");
  for (size_t eye : {0u, 1u}) EXPECT_LT(off(lightPose(plan, plan.lights[0]).centre, eye), 0.8);
  EXPECT_EQ(saidGaze(plan), "at light A");
  // A place begins where they look.
  const Gaze before = gazeOf(placedSetOf(plan), *sitter).gaze;
  plan.sitter = withGaze(plan, kLooksAtPoint);
  EXPECT_EQ(gazeOf(placedSetOf(plan), *sitter).gaze, before);
  plan.sitter.gazeHour = 7;
  for (size_t eye : {0u, 1u}) EXPECT_LT(off(*lookedAt(plan), eye), 0.8);
  plan.sitter = withGaze(plan, kLooksAhead);
  EXPECT_EQ(gazeOf(placedSetOf(plan), *sitter).gaze, Gaze{});
  EXPECT_FALSE(lookedAt(plan));
}

TEST_F(Looking, WhatIsNotThereIsSaidAndIsTheLens) {
  plan.sitter.gaze = kLooksAtLight;
  plan.sitter.gazeLight = "P";
  const auto said = [&] {
    std::string all;
    for (const Finding& f : checkPlan(plan)) all += f.sentence;
    return all;
  };
  EXPECT_NE(said().find("light P"), std::string::npos);
  EXPECT_EQ(length(*lookedAt(plan) - cameraPose(plan).eye), 0);
  plan.sitter.gaze = "inwards";
  EXPECT_NE(said().find("inwards"), std::string::npos);
  EXPECT_EQ(length(*lookedAt(plan) - cameraPose(plan).eye), 0);
}

TEST_F(Looking, InTheMirrorTheyLookTheOtherWay) {
  plan.sitter = withGaze(plan, kLooksAtPoint);
  plan.sitter.gazeHour = 4.5;
  plan.sitter.turn = 10;
  const Gaze one = gazeOf(placedSetOf(plan), *sitter).gaze, other = gazeOf(placedSetOf(mirrored(plan)), *sitter).gaze;
  EXPECT_GT(std::abs(one[0].left), 10);
  EXPECT_NEAR(one[0].left, -other[1].left, 1);
  EXPECT_NEAR(one[1].left, -other[0].left, 1);
}

// A catchlight of a lamp at the lens lies to the nose's side of the pupil's middle: the angle kappa, as people have it.
TEST_F(Looking, TheSparkOfALampAtTheLensLiesTowardsTheNose) {
  plan.sitter.turn = plan.sitter.tilt = plan.sitter.nod = 0;
  plan.camera.height = plan.sitter.eyeHeight;
  plan.sitter.hairStyle = "shaved";
  Light& l = plan.lights[0];
  l.modifier = "reflector-18";
  l.hour = 6;
  l.distance = plan.camera.distance - 0.05;
  l.height = plan.camera.height + 0.12;
  const Scene scene(placedSetOf(plan), sitter);
  const Catchlights read = readCatchlights(scene, placedSetOf(plan));
  ASSERT_EQ(read.all.size(), 2u);
  for (const Catchlight& c : read.all) {
    EXPECT_TRUE(c.onIris);
    // The sitter's left eye is at the right of the picture: its nose's side is the left.
    EXPECT_NEAR(c.x, c.eye ? 0.04 : -0.04, 0.02) << "half a millimetre";
  }
}

// The scene that a studio keeps, and shares with others, is one in which the eyes look where the plan says.
TEST_F(Looking, TheEyesFollowALensAndALightThatAreMoved) {
  ProgressiveRender studio(8, 8);
  studio.setPlan(plan);
  const auto follows = [&](const char* what) {
    const Vec3 before = studio.scene()->eyes()[0].frame.n;
    studio.setPlan(plan);
    const Scene fresh(placedSetOf(plan), sitter);
    for (size_t k : {0u, 1u}) EXPECT_EQ(length(studio.scene()->eyes()[k].frame.n - fresh.eyes()[k].frame.n), 0) << what;
    EXPECT_GT(length(studio.scene()->eyes()[0].frame.n - before), 0.01f) << what;
  };
  studio.scene();
  plan.camera.height += 0.3;
  follows("a higher lens");
  plan.sitter = withGaze(plan, kLooksAtLight, "A");
  plan.lights[0].hour = 5.4;
  follows("at a light");
  plan.lights[0].hour = 6.6;
  follows("a light that is moved");
  const auto scene = studio.scene();
  plan.lights[0].power -= 1;
  studio.setPlan(plan);
  EXPECT_EQ(studio.scene(), scene) << "its power moves no eye";
}

TEST_F(Looking, ALightUnderAnotherLetterIsStillLookedAtAndOneThatIsGoneIsNot) {
  plan = test::masterPlan();
  ASSERT_GE(plan.lights.size(), 3u);
  const std::string looked = plan.lights[2].id;
  plan.sitter = withGaze(plan, kLooksAtLight, looked);
  std::swap(plan.lights[0], plan.lights[2]);
  const Plan before = plan;
  const Edit back = apply(plan, SetLights{withLettersInOrder(plan)});
  EXPECT_EQ(plan.sitter.gazeLight, "A") << "first in the order, so it has that letter now";
  takeBack(plan, back);
  EXPECT_EQ(plan, before);
  const Edit again = apply(plan, RemoveLight{looked});
  EXPECT_EQ(plan.sitter.gaze, "lens") << "or the next light of that letter would catch the eye";
  EXPECT_EQ(plan.sitter.gazeLight, "");
  takeBack(plan, again);
  EXPECT_EQ(plan, before);
}

}  // namespace
}  // namespace easel
