// The actions of menus and keys on a document alone: no window is needed for them.
#include "controllers/plan_actions.h"

#include <gtest/gtest.h>

#include <QSignalSpy>

#include "balance/camera_setting.h"
#include "rendering/progressive_render.h"
#include "support.h"

namespace easel::app {
namespace {

PinnedSpot pin(int number) {
  PinnedSpot spot;
  spot.id = "pin " + std::to_string(number);
  spot.name = "left hand";
  spot.y = 1;
  return spot;
}

struct Desk {
  Document document;
  std::shared_ptr<const Answers> readings;
  std::shared_ptr<const Scene> scene;
  PlanActions actions{&document,
                      [this](const auto& act) {
                        if (readings) act(readings);
                      },
                      [this] { return scene; }};
  QSignalSpy said{&actions, &PlanActions::said}, chosen{&actions, &PlanActions::chosen};
  Desk() {
    document.take(readPlanFile(test::demoFile()));
    actions.setSelected("A");
  }
  const Plan& plan() const { return document.plan(); }
  size_t lights() const { return plan().lights.size(); }
};

TEST(PlanActions, EachIsOneStepOfUndo) {
  Desk d;
  const Plan before = d.plan();
  const std::vector<std::function<void()>> all{
      [&] { d.actions.addLight(); },      [&] { d.actions.copyLight(); },  [&] { d.actions.mirror(); },
      [&] { d.actions.toggleLight(0); },  [&] { d.actions.toggleLock(); }, [&] { d.actions.rename(" Window light "); },
      [&] { d.actions.featherToEdge(); }, [&] { d.actions.pin(pin(1)); },  [&] { d.actions.removeLight(); },
  };
  for (size_t i = 0; i < all.size(); ++i) {
    all[i]();
    EXPECT_NE(d.plan(), before) << i;
    d.document.undo();
    EXPECT_EQ(d.plan(), before) << i;
    EXPECT_FALSE(d.document.history().canUndo()) << i;
  }
}

TEST(PlanActions, ALightThatIsPutUpIsChosenAndExplained) {
  Desk d;
  const size_t before = d.lights();
  d.actions.addLight();
  ASSERT_EQ(d.lights(), before + 1);
  ASSERT_EQ(d.chosen.size(), 1);
  EXPECT_EQ(d.chosen.back().front().toString(), QString::fromStdString(d.plan().lights.back().id));
  ASSERT_FALSE(d.said.isEmpty());
  EXPECT_FALSE(d.said.back()[1].toBool()) << "a reason is no problem";
  EXPECT_GT(d.said.back()[0].toString().size(), 20);
}

TEST(PlanActions, ALightThatIsPutUpStandsOnItsTarget) {
  Desk d;
  ProgressiveRender studio(8, 8);
  studio.setPlan(d.plan());
  d.scene = studio.scene();
  for (int more = 0; more < 3; ++more) {
    d.actions.addLight();
    const Light& l = d.plan().lights.back();
    const Answers answers = computeAnswers(*d.scene, placedSetOf(d.plan()));
    const LightAnswer* a = answers.light(l.id);
    ASSERT_TRUE(a);
    EXPECT_TRUE(a->setting.shortfall != 0 || std::abs(a->stopsFromWorking - l.targetStops) < 0.06) << l.id;
    EXPECT_NEAR(l.power, a->setting.stops, 1e-6) << l.id;
  }
}

TEST(PlanActions, WithoutReadingsNothingIsBalanced) {
  Desk d;
  const Plan before = d.plan();
  d.actions.balanceAll(false);
  d.actions.setCamera(0);
  EXPECT_EQ(d.plan(), before);

  ProgressiveRender studio(8, 8);
  studio.setPlan(d.plan());
  d.readings = std::make_shared<const Answers>(computeAnswers(*studio.scene(), placedSetOf(d.plan())));
  d.actions.changeLight("Off its target", [](Light& l) { l.power -= 2; });
  d.actions.balanceAll(false);
  EXPECT_NEAR(d.plan().lights[0].power, before.lights[0].power, 0.15);
  EXPECT_TRUE(d.said.back()[0].toString().startsWith("Each light alone is on target"));
}

TEST(PlanActions, WithNoLightChosenTheyLeaveThePlanAlone) {
  Desk d;
  d.actions.setSelected({});
  const Plan before = d.plan();
  d.actions.copyLight();
  d.actions.removeLight();
  d.actions.toggleLock();
  d.actions.featherToEdge();
  d.actions.otherSchool();
  d.actions.togglePanel("7");
  d.actions.toggleLight(15);
  EXPECT_EQ(d.plan(), before);
  EXPECT_FALSE(d.document.history().canUndo());
}

TEST(PlanActions, TheSixtyFifthPinIsRefusedInASentence) {
  Desk d;
  for (int i = 0; i < 65; ++i) d.actions.pin(pin(i + 1));
  EXPECT_EQ(d.plan().spots.size(), 64u);
  EXPECT_TRUE(d.said.back()[1].toBool());
  EXPECT_TRUE(d.said.back()[0].toString().contains("at most 64"));
}

}  // namespace
}  // namespace easel::app
