// Building a set light by light: ratios, roles, balance, mirror.
#include <gtest/gtest.h>

#include "balance/balance.h"
#include "exposure/ratio.h"
#include "plan/check.h"
#include "plan/history.h"
#include "plan/placement.h"
#include "plan/roles.h"
#include "rendering/progressive_render.h"
#include "support.h"

namespace easel {
namespace {

using test::answersOf;

Plan built(const std::vector<std::string>& schools) {
  Plan p = test::demoPlan();
  p.lights.clear();
  for (const auto& s : schools) apply(p, AddLight{proposeLight(p, s).light, 99});
  return p;
}

TEST(Ratio, TheTablesOfTheSchools) {
  // 1, 2, 3, 4 stops: 2, 4, 8, 16 : 1 unit to unit; 3, 5, 9, 17 : 1 lit to shadow. Common practice, no source.
  const double unit[] = {2, 4, 8, 16}, lit[] = {3, 5, 9, 17};
  for (int s = 1; s <= 4; ++s) {
    EXPECT_NEAR(ratioOf(s, RatioSchool::UnitToUnit), unit[s - 1], 1e-12);
    EXPECT_NEAR(ratioOf(s, RatioSchool::LitToShadow), lit[s - 1], 1e-12);
    EXPECT_NEAR(stopsUnderFromRatio(lit[s - 1], RatioSchool::LitToShadow), s, 1e-12);
    EXPECT_NEAR(stopsUnderFromRatio(unit[s - 1], RatioSchool::UnitToUnit), s, 1e-12);
  }
}
TEST(Ratio, WrittenAndRead) {
  EXPECT_EQ(writeRatio(2, RatioSchool::UnitToUnit), "4:1");
  EXPECT_EQ(writeRatio(1.32, RatioSchool::UnitToUnit), "2.5:1");
  EXPECT_EQ(writeRatio(1, RatioSchool::LitToShadow), "3:1");
  EXPECT_EQ(writeRatio(1.5, RatioSchool::StopsUnder), "1.5 stops under");
  EXPECT_EQ(writeRatio(-1, RatioSchool::StopsUnder), "1.0 stop over");
  EXPECT_NEAR(readRatio("3:1", RatioSchool::LitToShadow), 1, 1e-12);
  EXPECT_NEAR(readRatio("4 : 1", RatioSchool::UnitToUnit), 2, 1e-12);
  EXPECT_NEAR(readRatio("4:1", RatioSchool::StopsUnder), 2, 1e-12);
  EXPECT_NEAR(readRatio("1.5 stops under", RatioSchool::StopsUnder), 1.5, 1e-12);
  for (const char* bad : {"", "much", "1:0", "0:1", "3 apples"})
    EXPECT_THROW(readRatio(bad, RatioSchool::UnitToUnit), std::invalid_argument) << bad;
  EXPECT_THROW(readRatio("1:1", RatioSchool::LitToShadow), std::invalid_argument);
}

TEST(Roles, EverySchoolStandsInTheDemoRoomAndSaysWhy) {
  for (const RoleSchool& school : roleSchools()) {
    Plan p = school.role == Role::Key ? built({}) : built({"key"});
    const Proposal proposal = proposeLight(p, school.id);
    EXPECT_GT(proposal.why.size(), 20u) << school.id;
    EXPECT_EQ(proposal.light.role, school.role);
    apply(p, AddLight{proposal.light, 99});
    for (const Finding& f : checkPlan(p)) EXPECT_EQ(f.severity, Severity::Note) << school.id << ": " << f.sentence;
    EXPECT_EQ(answersOf(p).lights.back().setting.shortfall, 0)
        << school.id << ": the kit's default unit reaches its target";
  }
  EXPECT_THROW(proposeLight(test::demoPlan(), "chandelier"), std::invalid_argument);
}

TEST(Roles, TheFillGoesToTheOtherSideOfTheKey) {
  Plan p = built({"key"});
  p.lights[0].hour = 8;
  EXPECT_NEAR(proposeLight(p, "fill-opposite").light.hour, 4, 1e-9);
  EXPECT_GT(proposeLight(p, "fill-key-side").light.hour, 6);
  EXPECT_EQ(proposeLight(p, "hair-under").light.hour, 1);
}

TEST(Roles, PaleHairTakesLessAndWhiteBackdropsTakeTwoOver) {
  Plan p = built({"key"});
  p.sitter.id = "wren";
  EXPECT_EQ(proposeLight(p, "hair-under").light.targetStops, -1);
  p.sitter.id = "anselm";
  EXPECT_EQ(proposeLight(p, "hair-under").light.targetStops, -2);
  p.backdrop.material = "paper-white";
  EXPECT_EQ(proposeLight(p, "background").light.targetStops, 2);
  p.backdrop.material = "velvet-black";
  EXPECT_EQ(proposeLight(p, "background").light.targetStops, 3);
}

TEST(Roles, UsualOrder) {
  Plan p = built({});
  std::vector<Role> order;
  for (int i = 0; i < 5; ++i) {
    apply(p, AddLight{proposeLight(p, nextInUsualOrder(p)).light, 99});
    order.push_back(p.lights.back().role);
  }
  EXPECT_EQ(order, (std::vector<Role>{Role::Key, Role::Fill, Role::Hair, Role::Background, Role::Rim}));
}

TEST(Roles, TheBackgroundLightFacesTheBackdropAndIsMeteredThere) {
  const Plan p = built({"key", "background"});
  EXPECT_LT(lightPose(p, p.lights[1]).frame.n.z, -0.5);
  const Answers a = answersOf(p);
  EXPECT_EQ(idOf(a.lights[1].held), "backdrop");
  EXPECT_LT(a.lights[1].atFace.total(), 0.1 * a.lights[1].alone.total());
  EXPECT_EQ(idOf(a.lights[0].held), "face");
}

TEST(Balance, EachAloneStandsOnItsTarget) {
  Plan p = built({"key", "fill-opposite", "hair-under", "background", "rim-under"});
  const Balanced b = balance(p, answersOf(p), BalanceBy::EachAlone);
  EXPECT_TRUE(b.outOfReach.empty());
  p.lights = b.lights;
  const Answers after = answersOf(p);
  for (size_t i = 0; i < p.lights.size(); ++i)
    EXPECT_NEAR(after.lights[i].stopsFromWorking, p.lights[i].targetStops, 0.06) << p.lights[i].id;
}

TEST(Balance, BySumTheFaceComesBackToTheWorkingAperture) {
  Plan p = built({"key", "fill-opposite"});
  // Flat with the key a fill a quarter round adds next to nothing: one hold of one meter.
  EXPECT_LT(balance(p, answersOf(p), BalanceBy::Sum).loweredBy, 0.15);
  p.receptor = Receptor::Dome;
  p.meterAim = MeterAim::Camera;
  p.lights = balance(p, answersOf(p), BalanceBy::EachAlone).lights;
  const Balanced b = balance(p, answersOf(p), BalanceBy::Sum);
  // Key and a fill 1 1/2 stops under make 1 + 2^-1.5 = 1.354, 0.44 stop: that much comes off (a third, as practice
  // rounds it).
  EXPECT_NEAR(b.loweredBy, 0.44, 0.1);
  p.lights = b.lights;
  EXPECT_NEAR(2 * std::log2(answersOf(p).aperture / p.camera.aperture), 0, 0.06);
}

TEST(Balance, SaysWhoCannotGetThereAndLeavesLightsThatAreOff) {
  Plan p = built({"key", "fill-opposite"});
  p.lights[1].on = false;
  p.lights[1].power = -7.7;
  p.camera.aperture = 64;
  const Balanced b = balance(p, answersOf(p), BalanceBy::EachAlone);
  ASSERT_EQ(b.outOfReach.size(), 1u);
  EXPECT_EQ(b.outOfReach[0].substr(0, 5), "A is ");
  EXPECT_EQ(b.lights[0].power, 0);
  EXPECT_EQ(b.lights[1].power, -7.7);
}

// Mirroring twice gives the original also where a sign was forgotten.
TEST(Mirror, TurnsEveryAngleThatHasASide) {
  Plan p = test::masterPlan();
  p.sitter.turn = 20;
  p.sitter.tilt = 7;
  p.sitter.nod = 4;
  p.sitter.shoulders = 35;
  p.sitter.lean = 6;
  p.lights[0].hour = 4.5;
  p.lights[0].pan = 12;
  p.lights[0].tiltOffset = -5;
  p.lights[0].fittings.doors.left = 30;
  Panel board;
  board.id = "1";
  board.hour = 8;
  board.turn = 15;
  board.tilt = 10;
  p.panels = {board};
  const Plan m = mirrored(p);
  EXPECT_EQ(m.sitter.turn, -20);
  EXPECT_EQ(m.sitter.tilt, -7);
  EXPECT_EQ(m.sitter.nod, 4);
  EXPECT_EQ(m.sitter.shoulders, -35);
  EXPECT_EQ(m.sitter.lean, 6);
  EXPECT_EQ(m.lights[0].hour, 7.5);
  EXPECT_EQ(m.lights[0].pan, -12);
  EXPECT_EQ(m.lights[0].tiltOffset, -5);
  EXPECT_EQ(m.lights[0].fittings.doors.right, 30);
  EXPECT_EQ(m.lights[0].fittings.doors.left, p.lights[0].fittings.doors.right);
  EXPECT_EQ(m.panels[0].hour, 4);
  EXPECT_EQ(m.panels[0].turn, -15);
  EXPECT_EQ(m.panels[0].tilt, 10);
}

TEST(Mirror, TwiceIsTheSameAndReadingsStay) {
  Plan p = built({"key", "fill-opposite", "hair-under", "background"});
  p.sitter.turn = 20;
  p.lights[0].pan = 12;
  EXPECT_TRUE(mirrored(mirrored(p)) == p);
  const Answers a = answersOf(p), m = answersOf(mirrored(p));
  for (size_t i = 0; i < p.lights.size(); ++i)
    EXPECT_NEAR(2 * std::log2(a.lights[i].aperture / m.lights[i].aperture), 0, 0.1) << "a face is nearly symmetric";
}

TEST(Edits, ManyLightsAtOnceAreOneStep) {
  History h(test::demoPlan());
  std::vector<Light> lights = h.plan().lights;
  lights[0].power = -6;
  h.perform(SetLights{lights}, "Balance");
  h.perform(SetPlan{mirrored(h.plan())}, "Mirror");
  EXPECT_NEAR(h.plan().lights[0].hour, 7.5, 1e-9);
  h.undo();
  h.undo();
  EXPECT_TRUE(h.plan() == test::demoPlan());
}

}  // namespace
}  // namespace easel
