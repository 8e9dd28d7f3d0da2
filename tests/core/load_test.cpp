// What stands and hangs, and on what; packing, cautions. The moments themselves: tests/reference/statics_test.cpp.
#include <gtest/gtest.h>

#include <algorithm>

#include "data/by_id.h"
#include "formats/day_json.h"
#include "shoot/cautions.h"
#include "shoot/packing.h"
#include "shoot/statics.h"
#include "shoot/supports.h"

namespace easel {
namespace {

Plan oneLight(const char* unit, const char* modifier, double hour, double distance, double height) {
  Plan p;
  p.lights.clear();
  Light l;
  l.id = "A";
  l.unit = unit;
  l.modifier = modifier;
  l.hour = hour;
  l.distance = distance;
  l.height = height;
  p.lights.push_back(l);
  return p;
}
const Carried& of(const std::vector<Carried>& all, const std::string& what) {
  return *std::find_if(all.begin(), all.end(), [&](const Carried& c) { return c.what == what; });
}

TEST(Supports, TheLightestStandThatIsHighAndStrongEnough) {
  // A head of 2.8 kg with a box of 1.1 kg is too much for the light stand's 3 kg.
  const auto heavy = carriedIn(oneLight("mains-400", "softbox-60x90", 4.5, 1.2, 1.75), {});
  EXPECT_EQ(of(heavy, "A").support, "stand-heavy");
  EXPECT_NEAR(of(heavy, "A").kilograms, 3.9, 1e-9);
  const auto light = carriedIn(oneLight("battery-200", "umbrella-white", 4.5, 1.2, 1.75), {});
  EXPECT_EQ(of(light, "A").support, "stand-light");
  const auto low = carriedIn(oneLight("battery-200", "reflector-18", 4.5, 1.2, 0.4), {});
  EXPECT_EQ(of(low, "A").support, "stand-low");
  Inventory kit;
  kit.supports["stand-heavy"] = 2;
  EXPECT_EQ(of(carriedIn(oneLight("battery-200", "umbrella-white", 4.5, 1.2, 1.75), kit), "A").support, "stand-heavy");
}

TEST(Supports, OverTheSitterHangsOnABoomWithItsWeight) {
  Plan p = oneLight("battery-200", "softbox-40x40", 12, 0.2, 2.2);
  p.room.height = 3;
  const auto all = carriedIn(p, {});
  const Carried& a = of(all, "A");
  EXPECT_TRUE(a.boom);
  EXPECT_EQ(a.support, "boom");
  const Support& s = *byId(supports(), "boom");
  const BoomArm arm{s.armFront, s.armBack, s.armKilograms};
  EXPECT_NEAR(a.counterweight, counterweightFor(arm, a.kilograms, a.reach), 1e-9);
  EXPECT_NE(describe(a).find("counterweight"), std::string::npos);
}

// Right behind the sitter's shoulder a column would stand in the picture; far out at the side it does not.
TEST(Supports, AColumnThatWouldShowIsABoom) {
  Plan p = oneLight("battery-200", "reflector-18", 11.5, 1.2, 2.2);
  p.camera.focalLength = 50;
  EXPECT_TRUE(columnShows(p, -0.4, -1.1, 2.2));
  EXPECT_FALSE(columnShows(p, -2.0, 0.5, 2.2));
  EXPECT_FALSE(columnShows(p, 0.4, 2.5, 2.2));  // behind the camera
  EXPECT_TRUE(of(carriedIn(p, {}), "A").boom);
}

TEST(Supports, WhatNothingHoldsIsSaid) {
  const auto all = carriedIn(oneLight("mains-1200", "octa-150", 4.5, 2.5, 3.9), {});
  EXPECT_TRUE(of(all, "A").support.empty());
  EXPECT_NE(of(all, "A").problem.find("No stand that is known holds 6.8 kg at 3.90 m"), std::string::npos);
}

TEST(Supports, WindAsksForMoreSand) {
  const Plan p = oneLight("battery-600", "octa-120", 4.5, 1.2, 1.75);
  EXPECT_GT(of(carriedIn(p, {}, 6), "A").sandbag, of(carriedIn(p, {}), "A").sandbag + 2);
}

TEST(Supports, AWindowStandsOnNothing) {
  const auto all = carriedIn(oneLight("window-sky", "window-100x130", 9, 1.5, 1.6), {});
  EXPECT_FALSE(of(all, "A").needsSupport);
}

// By hand: 400 Ws every 1.2 s at 0.7 are 476 W; its modelling lamp burns 150 W beside.
TEST(MainsLoad, AFlashDrawsMostWhileItRecharges) {
  const auto all = consumersOf(oneLight("mains-400", "octa-90", 4.5, 1, 1.75), {});
  ASSERT_EQ(all.size(), 1u);
  EXPECT_NEAR(all[0].steady, 150, 1e-9);
  EXPECT_NEAR(all[0].recharging, 476.19, 0.01);
  EXPECT_TRUE(consumersOf(oneLight("battery-600", "octa-90", 4.5, 1, 1.75), {}).empty());
  // An LED draws what it gives: at half, half.
  Plan led = oneLight("led-150", "softbox-60x90", 4.5, 1, 1.75);
  led.lights[0].power = -1;
  EXPECT_NEAR(consumersOf(led, {})[0].peak(), 75, 1e-9);
}

// By hand: 16 A at 230 V trip at 3680 W and carry 2944 W for hours. Kettle 2200 and heater 2000 do not go together on
// one circuit; on two they do.
TEST(MainsLoad, TwoHeavyThingsGoOnTwoCircuits) {
  const std::vector<PluggedIn> things{{"kettle", 9, 3}, {"heater", 9, 3}};
  const std::vector<Circuit> two{{"window", 230, 16, {{"w", 9, 3}}}, {"door", 230, 16, {{"d", 3, 3}}}};
  Plan p;
  p.lights.clear();
  const MainsLoad good = spreadOver(two, consumersOf(p, things));
  EXPECT_TRUE(good.problems.empty()) << good.problems[0];
  EXPECT_NEAR(good.circuits[0].most, 3680, 1e-9);
  EXPECT_NEAR(good.circuits[0].allowed, 2944, 1e-9);
  EXPECT_NE(good.plugs[0].circuit, good.plugs[1].circuit);
  const MainsLoad bad = spreadOver({two[0]}, consumersOf(p, things));
  ASSERT_EQ(bad.problems.size(), 1u);
  EXPECT_NE(bad.problems[0].find("4200 W while the flashes recharge, its breaker holds 3680 W"), std::string::npos);
}

TEST(MainsLoad, WithoutASocketThatIsSaid) {
  const auto all = consumersOf(oneLight("mains-400", "octa-90", 4.5, 1, 1.75), {});
  const MainsLoad none = spreadOver({}, all);
  ASSERT_EQ(none.problems.size(), 1u);
  EXPECT_EQ(none.plugs[0].circuit, -1);
  const MainsLoad far = spreadOver({{"barn", 230, 16, {{"far", 4.5, 29}}}}, all);
  ASSERT_EQ(far.problems.size(), 1u);
  EXPECT_EQ(far.plugs[0].taken, 0);
}

// By hand: 3 m across the floor and a fifth for going round, and up to the head at 1.75 m.
TEST(MainsLoad, ACableGoesRoundAndUp) {
  EXPECT_NEAR(cableWanted({"A", "A", 0, 0, 3, 1, 1.75}, {"door", 3, 4}), 3 * 1.2 + 1.75, 1e-5);
}

TEST(Cautions, ComeFromWhatIsThere) {
  const auto ids = [](const std::vector<Caution>& all) {
    std::string out;
    for (const Caution& c : all) out += c.id + " ";
    return out;
  };
  EXPECT_EQ(ids(cautionsFor(oneLight("window-sky", "window-100x130", 9, 1.5, 1.6), {})), "");
  EXPECT_EQ(ids(cautionsFor(oneLight("battery-200", "octa-55", 4.5, 1, 1.7), {})), "flicker lithium ");
  EXPECT_EQ(ids(cautionsFor(oneLight("mains-400", "octa-90", 4.5, 1, 1.7), {})), "mains cables heat flicker ");
  Plan p = oneLight("mains-400", "octa-90", 12, 0.2, 2.4);
  p.room.height = 3;
  p.haze = 0.1;
  p.lights[0].fittings.gel = "warm-half";
  EXPECT_EQ(ids(cautionsFor(p, {}, {{"wind-machine", 3, 3}})), "boom mains cables heat gels wind haze flicker ");
  for (const Caution& c : cautionsFor(p, {}))
    if (c.id == "boom" || c.id == "mains") {
      EXPECT_NE(c.sentence.find("decide"), std::string::npos) << c.sentence;
    }
}

Day dayOf(std::vector<Plan> plans) {
  Day day;
  for (Plan& p : plans) {
    DayLook l;
    l.id = std::to_string(day.looks.size() + 1);
    l.plan = std::move(p);
    day.looks.push_back(std::move(l));
  }
  return day;
}
const PackItem* item(const std::vector<PackItem>& all, const std::string& key) {
  for (const PackItem& i : all)
    if (i.key == key) return &i;
  return nullptr;
}

TEST(Packing, OfEachThingAsManyAsOneLookWants) {
  Plan two = oneLight("battery-200", "octa-55", 4.5, 1, 1.7);
  two.lights.push_back(two.lights[0]);
  two.lights[1].id = "B";
  two.lights[1].group = "B";
  two.lights[1].hour = 8;
  const Day day = dayOf({oneLight("battery-200", "octa-55", 4.5, 1, 1.7), two});
  const auto all = packingFor(day, {});
  ASSERT_TRUE(item(all, "unit:battery-200"));
  EXPECT_EQ(item(all, "unit:battery-200")->count, 2);
  EXPECT_EQ(item(all, "unit:battery-200")->why, "looks 1, 2; ready again after 0.2 s at the most");
  EXPECT_FALSE(item(all, "unit:battery-200")->owned);
  EXPECT_TRUE(item(all, "always:meter"));
  EXPECT_TRUE(std::is_sorted(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.group < b.group; }));
}

// By hand: 300 frames at 1/2 and 700 at full are 850 full flashes; a battery gives 350, so three, and one to spare.
TEST(Packing, BatteriesByTheEnergyOfAllFrames) {
  Plan half = oneLight("battery-200", "octa-55", 4.5, 1, 1.7), full = half;
  half.lights[0].power = -1;
  full.lights[0].power = 0;
  Day day = dayOf({half, full});
  day.looks[0].frames = 300;
  day.looks[1].frames = 700;
  const auto use = flashUse(day);
  ASSERT_EQ(use.size(), 1u);
  EXPECT_NEAR(use[0].fullFlashes, 850, 1e-9);
  EXPECT_NEAR(use[0].ready, findUnit("battery-200")->recycle, 1e-9);
  EXPECT_EQ(item(packingFor(day, {}), "battery:battery-200")->count, 4);
}

TEST(Packing, WhatTheKitHasNotIsSaidWithWhatCouldStandIn) {
  const Plan p = oneLight("battery-600", "octa-120", 4.5, 1.2, 1.75);
  Inventory kit;
  kit.units["mains-400"] = 1;
  kit.units["hotshoe-60"] = 1;
  kit.modifiers["octa-90"] = 1;
  kit.modifiers["softbox-90x120"] = 1;
  kit.modifiers["snoot"] = 1;
  const auto all = packingFor(dayOf({p}), kit);
  EXPECT_TRUE(item(all, "unit:battery-600")->missing());
  EXPECT_TRUE(item(all, "modifier:octa-120")->missing());
  const auto in = standInsFor(p, "A", kit);
  ASSERT_EQ(in.size(), 3u);
  // The large ones before the snoot, and none of them says nothing.
  for (const StandIn& s : in) {
    EXPECT_NE(s.id, "snoot");
    EXPECT_FALSE(s.changes.empty());
    EXPECT_NE(s.plan, p);
  }
  EXPECT_TRUE(standInsFor(p, "A", {}).empty());
}

TEST(Packing, AListForASpreadsheet) {
  Day day = dayOf({oneLight("battery-200", "octa-55", 4.5, 1, 1.7)});
  day.packed["unit:battery-200"] = {true, false};
  std::vector<PackItem> items = packingFor(day, {});
  items.push_back({"x", PackGroup::Small, "=1+1, \"quoted\"", 1, 2, {}});
  const std::string csv = packingCsv(items, day);
  EXPECT_EQ(csv.substr(0, csv.find('\n')), "group,thing,count,owned,why,packed,packed again");
  EXPECT_NE(csv.find("Heads,Battery flash 200 Ws,1,,look 1; ready again after 0.2 s at the most,yes,\n"),
            std::string::npos)
      << csv;
  EXPECT_NE(csv.find("\"'=1+1, \"\"quoted\"\"\",1,2"), std::string::npos) << csv;
}

}  // namespace
}  // namespace easel
