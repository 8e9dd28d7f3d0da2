// What practitioners see, asked of the predicted picture: common practice, no source, unless one is named.
#include "rendering/progressive_render.h"

#include <gtest/gtest.h>

#include "meter/point_meter.h"
#include "sitters/sitter_file.h"
#include "support.h"

namespace easel {
namespace {

// How much of the light each place sees, along a line across the upper lip, in steps of half a millimetre: the nose's
// shadow.
std::vector<double> seenAcross(const Plan& plan) {
  ProgressiveRender s(8, 8);
  s.setPlan(plan);
  const auto scene = s.scene();
  const Emitter e = emitterOf(placedSetOf(plan), test::placed(plan, plan.lights[0]));
  const Vec3 eye = cameraPose(plan, 0.8).eye;
  std::vector<double> row;
  for (int i = -80; i <= 80; ++i) {
    const Vec3 to = scene->studioPoint(scene->sitter().landmarks.noseTip + Vec3{0.0005f * float(i), -0.02f, -0.012f});
    const auto hit = scene->intersect(eye, normalize(to - eye), 1);
    if (!hit) continue;
    const Vec3 p = hit->position + hit->facet * 5e-4f, n = normalize(e.pose().centre - p);
    row.push_back(directLux(scene.get(), e, p, n, Receptor::Flat, 1024) /
                  directLux(nullptr, e, p, n, Receptor::Flat, 1024));
  }
  return row;
}

// Steepest change of that over 2 mm: the harder the edge, the larger.
double steepest(const std::vector<double>& row) {
  double most = 0;
  for (size_t i = 0; i + 4 < row.size(); ++i) most = std::max(most, std::abs(row[i + 4] - row[i]));
  return most;
}

Plan shadowPlan(const char* modifier, double distance) {
  Plan p = test::demoPlan();
  p.lights[0].modifier = modifier;
  p.lights[0].hour = 4.2;
  p.lights[0].distance = distance;
  p.lights[0].height = p.sitter.eyeHeight + 0.55 * distance;
  p.room.width = 12;
  p.room.depth = 12;
  p.room.height = 6;
  p.room.behind = 4;
  return p;
}

TEST(Practice, ALargerModifierAtTheSamePlaceIsSofter) {
  const double hard = steepest(seenAcross(shadowPlan("reflector-18", 1.2))),
               soft = steepest(seenAcross(shadowPlan("octa-120", 1.2)));
  EXPECT_GT(hard, 1.5 * soft);
  EXPECT_GT(hard, 0.2) << "there is an edge at all";
}

TEST(Practice, TheSameModifierFartherAwayIsHarder) {
  EXPECT_GT(steepest(seenAcross(shadowPlan("octa-90", 4.0))), 1.5 * steepest(seenAcross(shadowPlan("octa-90", 0.8))));
}

TEST(Practice, TheBackdropDarkensWithDistanceAndTheFaceStays) {
  Plan p = test::demoPlan();
  p.room.depth = 12;
  p.room.behind = 6;
  double last = 99, face = 0;
  for (double d : {0.5, 1.0, 2.0, 4.0}) {
    p.backdrop.distance = d;
    ProgressiveRender s(8, 8);
    s.setPlan(p);
    const Answers a = computeAnswers(*s.scene(), placedSetOf(p));
    EXPECT_LT(a.backdropStops, last - 0.3) << d;
    last = a.backdropStops;
    if (face == 0) face = a.aperture;
    EXPECT_NEAR(2 * std::log2(a.aperture / face), 0, 0.1) << "the face's reading stays";
  }
}

TEST(Practice, TheCatchlightShowsTheModifiersShape) {
  // A window on each eye: with the light in front there are bright pixels in it, with the light behind there are none.
  auto brightest = [](double hour) {
    Plan p = test::demoPlan();
    p.lights[0].hour = hour;
    p.camera.focalLength = 1000;  // one eye fills the picture
    p.camera.aimBelowEyes = 0.0;
    p.camera.height = p.sitter.eyeHeight;
    p.sitter.id = "wren";
    ProgressiveRender s(200, 250);
    s.setPlan(p);
    s.finish(8);
    std::vector<float> planes[3];
    linearPicture(s.layers(), placedSetOf(p), {Show::What::Solo, "A"}, planes);
    float most = 0;
    for (float v : planes[1]) most = std::max(most, v);
    return most;
  };
  EXPECT_GT(brightest(5), 4 * brightest(11));
}

TEST(ProgressiveRenders, AMissingSitterIsASentence) {
  Plan p = test::demoPlan();
  p.sitter.id = "nobody";
  ProgressiveRender s(16, 16);
  s.setPlan(p);
  try {
    s.improve(Interrupt());
    FAIL();
  } catch (const std::runtime_error& e) {
    EXPECT_NE(std::string(e.what()).find("nobody.sitter"), std::string::npos);
  }
  p.sitter.id = "wren";
  s.setPlan(p);
  EXPECT_NO_THROW(s.improve(Interrupt())) << "and the studio goes on with one that is there";
}

TEST(ProgressiveRenders, AnImpossiblePlanIsRefusedAndTheNextOneWorks) {
  Plan p = test::demoPlan(), bad = p;
  bad.backdrop.distance = -5;
  ProgressiveRender s(16, 16);
  s.setPlan(bad);
  EXPECT_THROW(s.improve(Interrupt()), std::runtime_error);
  s.setPlan(p);
  s.finish(1);
  EXPECT_TRUE(s.layers().usable);
}

TEST(ProgressiveRenders, OnlyTheLightThatMovedStartsAgain) {
  Plan p = test::demoPlan();
  Light b = p.lights[0];
  b.id = "B";
  b.hour = 8;
  p.lights.push_back(b);
  ProgressiveRender s(40, 50);
  s.setPlan(p);
  s.finish(4);
  const auto keptA = s.layers().lights.at("A");
  const auto scene = s.layers().scene;
  p.lights[1].height += 0.2;
  p.lights[0].power -= 1;
  s.setPlan(p);
  s.improve(Interrupt());
  EXPECT_EQ(s.layers().lights.at("A"), keptA) << "power does not touch the layer";
  EXPECT_EQ(s.layers().scene, scene);
  EXPECT_EQ(s.layers().lights.at("B")->passes, 0) << "a preview stands for the one that moved";
}

TEST(ProgressiveRenders, LargePicturesAndOddSizesWork) {
  Plan p = test::demoPlan();
  for (auto [w, h] : {std::pair{17, 31}, {1, 1}, {33, 16}}) {
    ProgressiveRender s(w, h);
    s.setPlan(p);
    s.finish(2);
    EXPECT_EQ(developPicture(s.layers(), placedSetOf(p)).rgba.size(), size_t(w) * size_t(h) * 4);
  }
}

}  // namespace
}  // namespace easel
