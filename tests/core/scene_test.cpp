#include "transport/scene.h"

#include <gtest/gtest.h>

#include "plan/placement.h"
#include "rendering/progressive_render.h"
#include "sitters/sitter_file.h"
#include "support.h"

namespace easel {
namespace {

class SceneTest : public ::testing::Test {
 protected:
  Plan plan = test::demoPlan();
  std::shared_ptr<const Sitter> sitter = loadSitter(plan.sitter.id);
  Scene scene{placedSetOf(plan), sitter};
  Vec3 eye = cameraPose(plan, 0.8).eye;
  std::optional<SurfacePoint> towards(Vec3 local) {
    return scene.intersect(eye, normalize(scene.studioPoint(local) - eye), 1);
  }
};

TEST_F(SceneTest, TheCameraSeesTheFaceWhereItsLandmarksAre) {
  const auto nose = towards(sitter->landmarks.noseTip);
  ASSERT_TRUE(nose);
  EXPECT_EQ(nose->surface, Surface::Skin);
  EXPECT_NEAR(length(nose->position - scene.studioPoint(sitter->landmarks.noseTip)), 0, 0.004);
  EXPECT_GT(dot(nose->normal, normalize(eye - nose->position)), 0.5) << "normals face the viewer";
}

TEST_F(SceneTest, TheCorneaIsClearAndMirrors) {
  int eyes = 0;
  for (int i = -4; i <= 4; ++i)
    if (const auto e = towards(sitter->landmarks.eyeLeft + Vec3{0.001f * float(i), 0, 0.012f});
        e && e->surface == Surface::Eye) {
      ++eyes;
      EXPECT_NEAR(length(e->coatNormal), 1, 1e-3);
    }
  EXPECT_GE(eyes, 5);
}

TEST_F(SceneTest, TheHeadThrowsAShadowAndTheCorneaDoesNot) {
  const Vec3 nose = scene.studioPoint(sitter->landmarks.noseTip);
  EXPECT_TRUE(scene.occluded(nose + Vec3{0, 0, 0.02f}, {0, 0, -1}, 0, 5, 1));
  EXPECT_FALSE(scene.occluded(nose + Vec3{0, 0, 0.02f}, {0, 0, 1}, 0, 1, 1));
}

TEST_F(SceneTest, HairLetsSomeRaysThroughAndTheSameSeedAlwaysAnswersAlike) {
  int through = 0, stopped = 0;
  for (int i = 0; i < 4000; ++i) {
    // Grazing rays over the top of the head.
    const Vec3 from = scene.studioPoint(sitter->landmarks.crown + Vec3{-0.3f, -0.03f + 0.00001f * float(i), 0.02f});
    const bool a = scene.occluded(from, {1, 0, 0}, 0, 0.6f, std::uint32_t(i));
    EXPECT_EQ(a, scene.occluded(from, {1, 0, 0}, 0, 0.6f, std::uint32_t(i)));
    (a ? stopped : through)++;
  }
  EXPECT_GT(stopped, 0);
  EXPECT_GT(through, 0);
}

TEST_F(SceneTest, EverythingHasAnAlbedoBetweenZeroAndOne) {
  View view{cameraPose(plan, 0.8), 60, 75};
  for (int y = 0; y < 75; ++y)
    for (int x = 0; x < 60; ++x)
      if (const auto s = scene.intersect(view.camera.eye, view.direction(float(x), float(y)), 3)) {
        for (int c = 0; c < 3; ++c) {
          ASSERT_GE(s->albedo[c], 0);
          ASSERT_LE(s->albedo[c], 1.1) << int(s->surface);
        }
        ASSERT_NEAR(length(s->normal), 1, 1e-3);
        ASSERT_GE(dot(s->facet, -view.direction(float(x), float(y))), -1e-4);
      }
}

TEST_F(SceneTest, TheBackdropIsWhereThePlanPutsIt) {
  const auto b = scene.intersect({0.9f, 1.2f, 0.5f}, {0, 0, -1}, 1);
  ASSERT_TRUE(b);
  EXPECT_EQ(b->surface, Surface::Backdrop);
  EXPECT_NEAR(b->position.z, -plan.backdrop.distance, 1e-3);
}

TEST_F(SceneTest, HeadTurnMovesTheMesh) {
  plan.sitter.turn = 45;
  const Scene turned(placedSetOf(plan), sitter);
  const Vec3 was = scene.studioPoint(sitter->landmarks.noseTip), is = turned.studioPoint(sitter->landmarks.noseTip);
  EXPECT_GT(is.x - was.x, 0.05);
  const auto hit = turned.intersect(is + Vec3{0.3f, 0, 0.3f}, normalize(Vec3{-1, 0, -1}), 1);
  ASSERT_TRUE(hit);
  EXPECT_NEAR(length(hit->position - is), 0, 0.006);
}

}  // namespace
}  // namespace easel
