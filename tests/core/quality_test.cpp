#include "meter/quality.h"

#include <gtest/gtest.h>

#include "meter/panel_shares.h"
#include "plan/placement.h"
#include "support.h"

namespace easel {
namespace {

Plan keyAt(const char* modifier, double distance, double hour = 4.9, double height = 1.75) {
  Plan p = test::demoPlan();
  Light& l = p.lights[0];
  l.modifier = modifier;
  l.distance = distance;
  l.hour = hour;
  l.height = p.sitter.eyeHeight + (height - p.sitter.eyeHeight) * distance / 1.1;
  p.room = {12, 16, 6, 6, 0.35, 0.2, 0.55, "neutral", {}};
  return p;
}
LightQuality qualityOf(const Plan& p) {
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  return lightQualities(*s.scene(), placedSetOf(p)).front();
}

TEST(Quality, ALargerOrNearerFrontMakesASofterEdge) {
  const LightQuality small = qualityOf(keyAt("reflector-18", 2.5)), near = qualityOf(keyAt("softbox-60x90", 1.1)),
                     far = qualityOf(keyAt("softbox-60x90", 3.5));
  ASSERT_EQ(small.nose.kind, ShadowEdge::Kind::Edge);
  EXPECT_LT(small.nose.width, 6);
  ASSERT_NE(far.nose.kind, ShadowEdge::Kind::None);
  EXPECT_GT(far.nose.width, small.nose.width);
  EXPECT_GT(near.nose.width, 1.5 * far.nose.width);
  EXPECT_GT(near.apparentSize, 2.5 * far.apparentSize);
}

TEST(Quality, TheEdgeFollowsTheSizeOfTheSource) {
  // Twice the diameter, twice the edge, by similar triangles; the mesh under it is the same.
  const double narrow = qualityOf(keyAt("reflector-18", 5)).nose.width,
               wide = qualityOf(keyAt("reflector-18", 2.5)).nose.width;
  EXPECT_NEAR(wide / narrow, 2, 0.7);
}

TEST(Quality, TheEdgeIsThatOfSimilarTrianglesAcrossIt) {
  // A tall front, the same lying, and one that leans: what counts is how wide it is across the edge that was followed.
  Plan p = keyAt("strip-30x120", 2.5, 4.9);
  ProgressiveRender studio(8, 8);
  studio.setPlan(p);
  const auto scene = studio.scene();
  const LightPose stands = lightPose(p, p.lights[0]);
  const Vec3 forward = normalize(scene->studioPoint({0, 0, 1}) - scene->studioPoint({0, 0, 0})),
             tip = scene->studioPoint(scene->sitter().landmarks.noseTip);
  const Vec3 to = normalize(stands.centre - tip), away = -normalize(to - forward * dot(to, forward));
  int found = 0;
  for (float roll : {0.f, 45.f, 90.f, 135.f}) {
    LightPose pose = stands;
    pose.frame.u = rotateAbout(stands.frame.u, stands.frame.n, radians(roll));
    pose.frame.v = rotateAbout(stands.frame.v, stands.frame.n, radians(roll));
    const Emitter e(*findModifier("strip-30x120"), pose);
    for (float turn : {-40.f, 0.f, 40.f}) {
      const ShadowEdge edge = followShadow(*scene, e, tip, forward, rotateAbout(away, forward, radians(turn)));
      if (edge.kind != ShadowEdge::Kind::Edge || edge.expected <= 0 || edge.thrown < 8) continue;
      ++found;
      EXPECT_NEAR(std::log2(edge.width / edge.expected), 0, 0.65)
          << "rolled " << roll << ", line " << turn << ": " << edge.width << " mm, thrown " << edge.thrown
          << " mm, across " << edge.across << ", along " << edge.along << " degrees, leans " << edge.lean;
      EXPECT_GT(edge.across, 6);
      EXPECT_LT(edge.across, 42);
    }
  }
  EXPECT_GE(found, 4);
}

TEST(Quality, ATallFrontIsHardOneWayAndSoftTheOther) {
  const LightQuality q = qualityOf(keyAt("strip-30x120", 1.6, 4.4));
  ASSERT_EQ(q.nose.kind, ShadowEdge::Kind::Edge);
  // 0.3 and 1.2 m seen from 1.6: 10.7 and 41 degrees.
  EXPECT_NEAR(q.wide, 10.7, 1);
  EXPECT_NEAR(q.tall, 41, 2.5);
  const auto says = [&](const char* what) {
    return std::any_of(q.words.begin(), q.words.end(),
                       [&](const std::string& w) { return w.find(what) != std::string::npos; });
  };
  EXPECT_TRUE(says("upright see 11 degrees of it (Firm), level ones"));
  for (const std::string& w : q.words) EXPECT_EQ(w.rfind("Hard", 0), std::string::npos) << w;
}

TEST(Quality, FallOffIsThatOfTheDistances) {
  const LightQuality near = qualityOf(keyAt("softbox-40x40", 0.6, 3.5)),
                     far = qualityOf(keyAt("softbox-40x40", 3.5, 3.5));
  EXPECT_GT(near.cheekToCheek, 0.2);
  EXPECT_LT(far.cheekToCheek, 0.12);
  EXPECT_GT(near.foreheadToChin, 0.05) << "from above the forehead gets more";
  EXPECT_GT(far.backdrop, near.backdrop) << "far lights fill the backdrop";
}

TEST(Quality, FromTheLensThereIsNoShadowToMeasure) {
  Plan p = keyAt("ring-20", 1.1);
  EXPECT_EQ(qualityOf(p).nose.kind, ShadowEdge::Kind::None);
}

TEST(Quality, EveryModifierGetsWords) {
  Plan p = keyAt("octa-90", 1.1);
  for (const Modifier& m : modifiers()) {
    p.lights[0].modifier = m.id;
    for (const std::string& w : qualityOf(p).words) {
      EXPECT_GT(w.size(), 20u) << m.id;
      EXPECT_EQ(w.find("nan"), std::string::npos) << m.id << ": " << w;
      EXPECT_EQ(w.find("inf"), std::string::npos) << m.id << ": " << w;
    }
  }
}

TEST(Haze, ShowsLightFromBehindAndDimsWhatIsFar) {
  Plan p = test::demoPlan();
  p.ambient.lux = 0;
  Light& l = p.lights[0];
  l.modifier = "reflector-18";
  l.hour = 11;
  l.distance = 1.6;
  l.height = 2.2;
  l.power = 0;
  auto mean = [&](double haze) {
    p.haze = haze;
    ProgressiveRender s(64, 80);
    s.setPlan(p);
    s.finish(8);
    std::vector<float> planes[3];
    linearPicture(s.layers(), placedSetOf(p), {}, planes);
    double sum = 0;
    for (int x = 0; x < 64; ++x) sum += double(planes[1][size_t(6 * 64 + x)]);  // the air over the head
    return sum / 64;
  };
  const double clear = mean(0), thin = mean(0.02), thick = mean(0.1);
  EXPECT_GT(thin, clear * 1.05);
  EXPECT_GT(thick - clear, 2.5 * (thin - clear));
  EXPECT_LT(thick - clear, 6 * (thin - clear));
}

}  // namespace
}  // namespace easel
