// Edits of a set with several lights: locks, copies, order, letters, pins.
#include "plan/edit.h"

#include <gtest/gtest.h>

#include "balance/balance.h"
#include "formats/plan_json.h"
#include "gear/inventory.h"
#include "gear/kit.h"
#include "meter/spots.h"
#include "plan/history.h"
#include "plan/panels.h"
#include "plan/pins.h"
#include "plan/placement.h"
#include "plan/roles.h"
#include "rendering/progressive_render.h"
#include "support.h"

namespace easel {
namespace {

TEST(Lock, KeepsPlaceAndPowerButNotTheSwitch) {
  Plan p = test::masterPlan();
  p.lights[0].locked = true;
  const Plan before = p;
  Light moved = p.lights[0];
  moved.hour = 7;
  EXPECT_THROW(apply(p, SetLight{moved}), std::invalid_argument);
  EXPECT_THROW(apply(p, RemoveLight{"A"}), std::invalid_argument);
  EXPECT_TRUE(p == before);
  Light off = p.lights[0];
  off.on = false;
  off.name = "the old key";
  apply(p, SetLight{off});
  EXPECT_FALSE(p.lights[0].on);
  off.locked = false;
  apply(p, SetLight{off});
  apply(p, SetLight{moved = [&] {
          Light l = off;
          l.hour = 7;
          return l;
        }()});
  EXPECT_EQ(p.lights[0].hour, 7);
}

TEST(Lock, BalanceWorksRoundALockedLight) {
  Plan p = test::masterPlan();
  p.lights[1].locked = true;
  p.lights[1].power = -2;
  p.lights[2].power = -1;
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  const Balanced b = balance(p, computeAnswers(*s.scene(), placedSetOf(p)), BalanceBy::EachAlone);
  EXPECT_EQ(b.lights[1].power, -2);
  EXPECT_NE(b.lights[2].power, -1);
}

TEST(Order, MovedTakesItsPlaceAndLettersFollowWhenAsked) {
  Plan p = test::masterPlan();
  p.lights = movedTo(p, "D", 1);
  std::string order;
  for (const Light& l : p.lights) order += l.id;
  EXPECT_EQ(order, "ADBC");
  EXPECT_EQ(movedTo(p, "Z", 0).size(), 4u);
  EXPECT_EQ(movedTo(p, "A", 99).back().id, "A");
  const Role second = p.lights[1].role;
  p.lights = withLettersInOrder(p);
  order.clear();
  for (const Light& l : p.lights) order += l.id;
  EXPECT_EQ(order, "ABCD");
  EXPECT_EQ(p.lights[1].role, second);
  EXPECT_EQ(p.lights[1].group, "B") << "a group of its own goes with the letter";
}

TEST(Copies, StandBesideAndAreFree) {
  Plan p = test::masterPlan();
  p.lights[0].locked = true;
  const Light c = copyOf(p, p.lights[0]);
  EXPECT_EQ(c.id, "E");
  EXPECT_FALSE(c.locked);
  EXPECT_NE(c.hour, p.lights[0].hour);
  EXPECT_EQ(c.modifier, p.lights[0].modifier);
  while (p.lights.size() < 16) p.lights.push_back(copyOf(p, p.lights[0]));
  EXPECT_THROW(copyOf(p, p.lights[0]), std::invalid_argument);
}

TEST(Copies, OfAVeryLongNameAreNamedToo) {
  Plan p = test::masterPlan();
  for (const size_t length : {1u, 95u, 100u}) {
    std::string name;
    for (size_t i = 0; i < length; ++i) name += "\u00fc";
    p.lights[0].name = name;
    Plan with = p;
    EXPECT_NO_THROW(apply(with, AddLight{copyOf(p, p.lights[0]), 99})) << length;
    EXPECT_EQ(with.lights.back().name.rfind(", copy"), with.lights.back().name.size() - 6);
  }
}

// As many as there may be, one after the other, as by the key for the next light.
TEST(NextLight, NeverStandsWhereAnotherStands) {
  Plan p = test::demoPlan();
  p.lights.resize(1);
  while (p.lights.size() < 12) {
    const Light l = proposeLight(p, nextInUsualOrder(p)).light;
    for (const Light& o : p.lights) {
      const Vec3 a = towardsHour(l.hour) * float(l.distance), b = towardsHour(o.hour) * float(o.distance);
      EXPECT_GT(std::hypot(double(a.x - b.x), double(a.z - b.z), l.height - o.height), 0.3) << l.id << " on " << o.id;
    }
    p.lights.push_back(l);
  }
}

TEST(NextLight, ComesWithTheHeadThatThePlanWorksWithAndWhatTheKitHasLeft) {
  Plan p = test::demoPlan();
  p.lights.resize(1);
  p.lights[0].unit = "battery-600";
  p.lights[0].modifier = "octa-90";
  takeIntoUse({});
  EXPECT_EQ(proposeLight(p, "fill-lens").light.unit, "battery-600") << "as the key's";
  Inventory kit;
  kit.units = {{"battery-600", 1}, {"battery-200", 2}};
  kit.modifiers = {{"octa-90", 1}, {"softbox-90x120", 1}, {"softbox-60x90", 1}};
  takeIntoUse(kit);
  const Light fill = proposeLight(p, "fill-lens").light;
  EXPECT_EQ(fill.unit, "battery-200") << "the only one of the key's kind stands already";
  EXPECT_EQ(fill.modifier, "softbox-90x120") << "nearest in size to the octa that the method would have";
  takeIntoUse({});
}

// What an edit brings with it holds to locks, too.
TEST(Lock, HoldsALampWhenItsShadeIsMovedAndAShadeWhenItsLampIs) {
  Plan p = test::demoPlan();
  p.panels = {proposePanel(p, "shade").panel};
  p.lights[0].inside = p.panels[0].id;
  apply(p, SetTitle{"with a shade", ""});
  Panel moved = p.panels[0];
  moved.hour += 1;
  Plan locked = p;
  locked.lights[0].locked = true;
  const Plan before = locked;
  EXPECT_THROW(apply(locked, SetPanel{moved}), std::invalid_argument);
  EXPECT_EQ(locked, before);
  locked = p;
  locked.panels[0].locked = true;
  Light pulled = p.lights[0];
  pulled.hour += 1;
  EXPECT_THROW(apply(locked, SetLight{pulled}), std::invalid_argument);
  Plan free = p;
  EXPECT_NO_THROW(apply(free, SetPanel{moved}));
}

TEST(RemovedPiece, IsNamedByNoLightAndComesBackWithUndo) {
  Plan p = test::demoPlan();
  p.panels = {proposePanel(p, "shade").panel, proposePanel(p, "table").panel};
  p.panels[0].id = "1";
  p.panels[1].id = "2";
  p.lights.resize(1);
  p.lights[0].inside = "1";
  p.lights.push_back(copyOf(p, p.lights[0]));
  p.lights[1].worksOn = "2";
  History h(p);
  h.perform(SetTitle{"set", ""}, "title");
  const Plan before = h.plan();
  h.perform(RemovePanel{"1"}, "away");
  h.perform(RemovePanel{"2"}, "away");
  EXPECT_EQ(h.plan().lights[0].inside, "");
  EXPECT_EQ(h.plan().lights[1].worksOn, "");
  Panel board = proposePanel(h.plan(), "board").panel;
  board.id = "1";
  const Light lamp = h.plan().lights[0];
  h.perform(AddPanel{board, 0}, "a board");
  EXPECT_EQ(h.plan().lights[0], lamp) << "the board that gets the number does not swallow it";
  for (int i = 0; i < 3; ++i) h.undo();
  EXPECT_EQ(h.plan(), before);
}

// A file may name a piece that is gone.
TEST(RemovedPiece, ThatAFileStillNamesSwallowsNothing) {
  Plan p = test::demoPlan();
  p.lights[0].inside = "3";
  const Light lamp = p.lights[0];
  History h(p);
  Panel board = proposePanel(p, "board").panel;
  board.id = "3";
  h.perform(AddPanel{board, 0}, "a board");
  EXPECT_EQ(h.plan().lights[0].hour, lamp.hour);
  EXPECT_EQ(h.plan().lights[0].distance, lamp.distance);
  h.undo();
  EXPECT_EQ(h.plan(), p);
}

TEST(OtherSchool, GoesRoundTheSchoolsOfTheRole) {
  Plan p = test::masterPlan();
  p.lights[1] = proposeLight(
                    [&] {
                      Plan without = p;
                      without.lights.erase(without.lights.begin() + 1);
                      return without;
                    }(),
                    "fill-opposite")
                    .light;
  p.lights[1].power = -5;
  const Light first = p.lights[1];
  std::vector<std::string> names;
  for (int i = 0; i < 4; ++i) {
    const Proposal next = byOtherSchool(p, p.lights[1]);
    EXPECT_EQ(next.light.id, first.id);
    EXPECT_EQ(next.light.power, -5);
    EXPECT_FALSE(next.why.empty());
    apply(p, SetLight{next.light});
    names.push_back(next.light.name);
  }
  EXPECT_EQ(names.back(), first.name) << "four schools of fill, and round";
  EXPECT_NE(names[0], names[1]);
  EXPECT_EQ(p.lights[1].hour, first.hour);
  EXPECT_THROW(byOtherSchool(p, p.lights[0]), std::invalid_argument) << "a key";
}

TEST(KeySide, SwapsTheLightsAndLeavesTheSitter) {
  const Plan p = test::masterPlan();
  const Plan s = keySideSwapped(p);
  EXPECT_NEAR(s.lights[0].hour, 7.5, 1e-9);
  EXPECT_EQ(s.sitter.turn, p.sitter.turn);
  EXPECT_TRUE(keySideSwapped(s).lights == p.lights);
}

TEST(Roles, TwoBackgroundLightsAtTenAndTwoAreEvenOnWhite) {
  Plan p = test::masterPlan();
  p.backdrop.material = "paper-white";
  std::erase_if(p.lights, [](const Light& l) { return l.role != Role::Key; });
  for (int i = 0; i < 2; ++i) {
    const Proposal one = proposeLight(p, "background-side");
    EXPECT_EQ(one.light.hour, i ? 2 : 10);
    p.lights.push_back(one.light);
  }
  p.lights[0].on = false;
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  const SpotTable t = spotTable(*s.scene(), placedSetOf(p));
  double least = 1e9, most = 0;
  for (size_t i = 0; i < t.spots.size(); ++i)
    if (t.spots[i].id.rfind("backdrop", 0) == 0) {
      least = std::min(least, t.together[i]);
      most = std::max(most, t.together[i]);
    }
  EXPECT_LT(std::log2(most / least), 0.8) << "across the picture";
}

TEST(Pins, GoWithTheHeadAndSurviveTheFile) {
  Plan p = test::masterPlan();
  p.sitter.turn = 0;
  ProgressiveRender s(80, 100);
  s.setPlan(p);
  s.finish(1);
  const auto hit = surfaceAt(s.layers(), 40, 48);
  ASSERT_TRUE(hit && hit->surface == Surface::Skin);
  p.spots.push_back(pinAt(*s.scene(), placedSetOf(p), *hit));
  p.spots.push_back(pinInAir(p, 0.5, 0.8));
  EXPECT_TRUE(p.spots[0].onHead);
  EXPECT_EQ(p.spots[1].id, "pin-2");
  const Plan back = readPlanText(writePlanText(p));
  EXPECT_TRUE(back == p);

  auto spotOf = [](const Plan& plan, const char* id) {
    ProgressiveRender st(8, 8);
    st.setPlan(plan);
    for (const MeterSpot& m : meterSpots(*st.scene(), placedSetOf(plan)))
      if (m.id == id) return m;
    ADD_FAILURE() << id;
    return MeterSpot{};
  };
  const MeterSpot before = spotOf(p, "pin-1");
  EXPECT_LT(length(before.position - hit->position), 0.02f);
  Plan turned = p;
  turned.sitter.turn = 40;
  const MeterSpot after = spotOf(turned, "pin-1");
  EXPECT_GT(after.position.x, before.position.x + 0.03f) << "the head turns to camera right and takes the pin along";
  EXPECT_EQ(spotOf(turned, "pin-2").position.x, 0.5f);
}

TEST(Pins, APixelIsWhereItsPointShows) {
  Plan p = test::masterPlan();
  ProgressiveRender s(80, 100);
  s.setPlan(p);
  s.finish(1);
  for (auto [x, y] : {std::pair{40.0, 50.0}, {10.0, 20.0}, {60.0, 90.0}}) {
    const auto hit = surfaceAt(s.layers(), x, y);
    ASSERT_TRUE(hit);
    const auto px = pixelOf(s.layers(), hit->position);
    ASSERT_TRUE(px);
    EXPECT_NEAR(px->x, x, 0.2);
    EXPECT_NEAR(px->y, y, 0.2);
  }
  EXPECT_FALSE(pixelOf(s.layers(), {0, 1, 50}));
}

TEST(PlanFile, OlderFilesGetTheAimOfTheirReceptor) {
  const char* head = R"({"format":"jolly-easel-plan","version":1,)";
  EXPECT_EQ(readPlanText(std::string(head) + R"("receptor":"dome"})").meterAim, MeterAim::Camera);
  EXPECT_EQ(readPlanText(std::string(head) + R"("receptor":"flat"})").meterAim, MeterAim::Light);
  EXPECT_EQ(readPlanText(std::string(head) + R"("receptor":"flat","meterAim":"camera"})").meterAim, MeterAim::Camera);
  EXPECT_THROW(readPlanText(std::string(head) + R"("spots":[{"id":"a","nx":0,"ny":0,"nz":0}]})"), PlanFileError);
  EXPECT_THROW(readPlanText(std::string(head) + R"("spots":[{"id":"a","x":1e9}]})"), PlanFileError);
}

}  // namespace
}  // namespace easel
