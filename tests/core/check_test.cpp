#include "plan/check.h"

#include <gtest/gtest.h>

#include <filesystem>

#include "rendering/progressive_render.h"
#include "support.h"

namespace easel {
namespace {

bool says(const Plan& plan, const std::string& where, Severity severity) {
  for (const Finding& f : checkPlan(plan))
    if (f.where == where && f.severity == severity) return !f.sentence.empty();
  return false;
}

TEST(Check, TheDemoIsClean) {
  for (const Finding& f : checkPlan(test::demoPlan())) EXPECT_EQ(f.severity, Severity::Note) << f.sentence;
}
TEST(Check, ALightInsideTheHeadIsRefused) {
  Plan p = test::demoPlan();
  p.lights[0].distance = 0.1;
  p.lights[0].height = p.sitter.eyeHeight;
  EXPECT_TRUE(says(p, "light A", Severity::Error));
}
TEST(Check, TheBackdropInTheHeadOrBehindTheCameraIsRefused) {
  Plan p = test::demoPlan();
  p.backdrop.distance = 0;
  EXPECT_TRUE(says(p, "backdrop", Severity::Error));
  p.backdrop.distance = -3;
  EXPECT_TRUE(says(p, "backdrop", Severity::Error));
}
TEST(Check, UnknownGearIsRefusedByName) {
  Plan p = test::demoPlan();
  p.lights[0].modifier = "colander";
  bool named = false;
  for (const Finding& f : checkPlan(p))
    named |= f.sentence.find("colander") != std::string::npos && f.severity == Severity::Error;
  EXPECT_TRUE(named);
}
TEST(Check, CeilingFloorAndWalls) {
  Plan p = test::demoPlan();
  p.lights[0].height = 2.55;
  EXPECT_TRUE(says(p, "light A", Severity::Warning));
  p = test::demoPlan();
  p.lights[0].height = 0.1;
  EXPECT_TRUE(says(p, "light A", Severity::Warning));
  p = test::demoPlan();
  p.lights[0].distance = 6;
  EXPECT_TRUE(says(p, "light A", Severity::Warning));
}
TEST(Check, ALightBehindTheBackdrop) {
  Plan p = test::demoPlan();
  p.backdrop.distance = 0.6;
  p.lights[0].hour = 12;
  p.lights[0].distance = 1.2;
  EXPECT_TRUE(says(p, "light A", Severity::Warning));
}
TEST(Check, ShutterOverSyncMattersForFlashOnly) {
  Plan p = test::demoPlan();
  p.camera.shutter = 1.0 / 500;
  EXPECT_TRUE(says(p, "camera", Severity::Warning));
  p.lights[0].unit = "led-150";
  EXPECT_FALSE(says(p, "camera", Severity::Warning));
}
TEST(Check, ABoomOverTheSitterIsCautioned) {
  Plan p = test::demoPlan();
  p.lights[0].distance = 0.2;
  p.lights[0].height = 2.1;
  EXPECT_TRUE(says(p, "light A", Severity::Note));
}

TEST(Demo, EveryPlanStandsInItsRoomAndItsLightsStandOnTheirTargets) {
  int plans = 0;
  for (const auto& entry : std::filesystem::directory_iterator(std::string(EASEL_SOURCE_DIR) + "/demo")) {
    if (entry.path().extension() != ".json") continue;
    ++plans;
    const Plan p = loadPlan(entry.path());
    for (const Finding& f : checkPlan(p)) EXPECT_EQ(f.severity, Severity::Note) << entry.path() << ": " << f.sentence;
    ProgressiveRender s(8, 8);
    s.setPlan(p);
    const Answers a = computeAnswers(*s.scene(), placedSetOf(p));
    for (const Light& l : p.lights)
      EXPECT_NEAR(a.light(l.id)->stopsFromWorking, l.targetStops, 0.18) << entry.path() << " " << l.id;
    EXPECT_EQ(p.title.rfind("Marrow Lane Luthiers", 0), 0u);
  }
  EXPECT_GE(plans, 3);
}

}  // namespace
}  // namespace easel
