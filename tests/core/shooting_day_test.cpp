// The day: what is moved from look to look, the order that moves least, what a late day can give up; its file.
#include <gtest/gtest.h>

#include <algorithm>
#include <numeric>
#include <random>

#include "files/atomic_file.h"
#include "formats/day_json.h"
#include "formats/plan_json.h"
#include "shoot/forecast.h"
#include "support.h"

namespace easel {
namespace {

const std::filesystem::path kDemo =
    std::filesystem::path(EASEL_SOURCE_DIR) / "demo/open-day/marrow-lane-open-day.day.json";

Day demoDay() { return loadDay(kDemo).day; }
DayCosts usual(const Day& day) { return DayCosts(day, usualDay().times); }

// Everything in every order: what the search is held against.
struct Full {
  double late = 1e18, work = 1e18;
  size_t tried = 0;
};
bool allowed(const Day& day, const std::vector<size_t>& way) {
  const auto at = [&](size_t look) { return std::find(way.begin(), way.end(), look) - way.begin(); };
  for (size_t i = 0; i < day.looks.size(); ++i) {
    const DayLook& l = day.looks[i];
    if (l.first && at(i) != 0) return false;
    if (l.last && at(i) + 1 != long(way.size())) return false;
    for (size_t k = 0; k < day.looks.size(); ++k)
      if (!l.after.empty() && day.looks[k].id == l.after && at(k) > at(i)) return false;
  }
  if (!day.backdropOnce) return true;
  // A cloth that has come down does not come back.
  std::vector<std::string> seen;
  for (const size_t i : way) {
    const std::string& m = day.looks[i].plan.backdrop.material;
    if (!seen.empty() && seen.back() == m) continue;
    if (std::find(seen.begin(), seen.end(), m) != seen.end()) return false;
    seen.push_back(m);
  }
  return true;
}
Full fullSearch(const Day& day, const DayCosts& costs) {
  Full out;
  std::vector<size_t> way(day.looks.size());
  std::iota(way.begin(), way.end(), size_t(0));
  do {
    if (!allowed(day, way)) continue;
    ++out.tried;
    const Order o = timed(day, costs, way);
    if (o.late < out.late - 1e-6 || (std::abs(o.late - out.late) <= 1e-6 && o.work < out.work)) {
      out.late = o.late;
      out.work = o.work;
    }
  } while (std::next_permutation(way.begin(), way.end()));
  return out;
}

Plan withLights(const std::vector<std::pair<std::string, double>>& lights) {
  Plan p;
  p.lights.clear();
  for (const auto& [modifier, hour] : lights) {
    Light l;
    l.id = std::string(1, char('A' + p.lights.size()));
    l.modifier = modifier;
    l.hour = hour;
    p.lights.push_back(l);
  }
  return p;
}

TEST(Changeovers, TheSameSetTakesNothing) {
  const Plan p = withLights({{"octa-90", 4.5}, {"softbox-60x90", 7.5}});
  const Changeover c = changeover(&p, p, usualDay().times);
  EXPECT_EQ(c.moves(), 0);
  EXPECT_EQ(c.seconds, 0);
  EXPECT_EQ(c.stays.size(), 3u);  // two fronts and the backdrop
}

// Letters are no things: exchanging them moves no stand, and only the names on the heads change.
TEST(Changeovers, AStandIsNotMovedBecauseItsLetterChanges) {
  const Plan a = withLights({{"octa-90", 4.5}, {"softbox-60x90", 7.5}});
  const Plan b = withLights({{"softbox-60x90", 7.5}, {"octa-90", 4.5}});
  EXPECT_EQ(changeover(&a, b, usualDay().times).moves(), 0);
}

TEST(Changeovers, AWayIsAsLongAsTheFloorBetween) {
  Plan a = withLights({{"octa-90", 6}});
  Plan b = withLights({{"octa-90", 3}});
  b.lights[0].distance = a.lights[0].distance = 1;
  const Changeover c = changeover(&a, b, usualDay().times);
  ASSERT_FALSE(c.chores.empty());
  EXPECT_EQ(c.chores[0].kind, Chore::Kind::Stand);
  EXPECT_NEAR(c.chores[0].metres, std::sqrt(2), 1e-6);
  const ShootTimes& t = usualDay().times;
  EXPECT_NEAR(c.seconds, t.moveStand + t.perMetre * std::sqrt(2) + t.meterLight + t.meterAll, 1e-5);
}

TEST(Changeovers, WhatIsNotNeededGoesBeforeWhatIsNewComes) {
  const Plan a = withLights({{"octa-90", 4.5}, {"snoot", 2}}), b = withLights({{"octa-90", 4.5}});
  const Changeover c = changeover(&a, b, usualDay().times);
  ASSERT_EQ(c.moves(), 1);
  EXPECT_EQ(c.chores[0].from, "B");
  EXPECT_TRUE(c.chores[0].to.empty());
}

// Against all permutations, on matrices with ties and without.
TEST(Changeovers, TheAssignmentIsTheLeast) {
  std::mt19937 random(7);
  for (int round = 0; round < 60; ++round) {
    const size_t n = 1 + size_t(round) % 6;
    std::vector<std::vector<double>> cost(n, std::vector<double>(n));
    for (auto& row : cost)
      for (double& c : row) c = double(random() % (round % 2 ? 5 : 1000));
    std::vector<int> columns(n);
    std::iota(columns.begin(), columns.end(), 0);
    double least = 1e18;
    do {
      double sum = 0;
      for (size_t i = 0; i < n; ++i) sum += cost[i][size_t(columns[i])];
      least = std::min(least, sum);
    } while (std::next_permutation(columns.begin(), columns.end()));
    const std::vector<int> found = leastAssignment(cost);
    double sum = 0;
    std::vector<bool> used(n, false);
    for (size_t i = 0; i < n; ++i) {
      sum += cost[i][size_t(found[i])];
      EXPECT_FALSE(used[size_t(found[i])]);
      used[size_t(found[i])] = true;
    }
    EXPECT_EQ(sum, least) << n;
  }
}

TEST(RunningOrder, EightLooksAreOrderedAsFullSearchOrdersThem) {
  const Day day = demoDay();
  ASSERT_EQ(day.looks.size(), 8u);
  const DayCosts costs = usual(day);
  const Order best = bestOrder(day, costs);
  ASSERT_TRUE(best.problem.empty()) << best.problem;
  EXPECT_TRUE(best.exact);
  const Full full = fullSearch(day, costs);
  EXPECT_GT(full.tried, 10u);
  EXPECT_NEAR(best.late, full.late, 1e-6);
  EXPECT_LE(best.work, full.work * 1.01);
  EXPECT_GE(best.work, full.work - 1e-6);
}

// Every kind of rule at once, in days that chance made: seven looks each, so that the whole search takes no time.
TEST(RunningOrder, DaysOfChanceAreOrderedAsFullSearchOrdersThem) {
  std::mt19937 random(11);
  const Day demo = demoDay();
  for (int round = 0; round < 12; ++round) {
    Day day = demo;
    std::shuffle(day.looks.begin(), day.looks.end(), random);
    day.looks.resize(7);
    day.backdropOnce = round % 3 != 0;
    day.end = 60 * (11 + round % 4);  // some of them too short
    for (DaySitter& s : day.sitters) {
      s.arrives = 9 * 60 + int(random() % 120);
      s.leaves = 12 * 60 + int(random() % 240);
      s.makeUp = int(random() % 40);
    }
    for (DayLook& l : day.looks) l.first = l.last = false;
    if (round % 2) day.looks[2].first = true;
    if (round % 4 == 1) day.looks[5].last = true;
    if (round % 3 == 1) day.looks[0].after = day.looks[4].id;
    const DayCosts costs = usual(day);
    const Order best = bestOrder(day, costs);
    const Full full = fullSearch(day, costs);
    if (full.tried == 0) {
      EXPECT_FALSE(best.problem.empty());
      continue;
    }
    ASSERT_TRUE(best.problem.empty()) << best.problem;
    EXPECT_NEAR(best.late, full.late, 1e-6) << round;
    EXPECT_NEAR(best.work, full.work, 1e-6) << round;
    std::vector<size_t> way;
    for (const Turn& s : best.turns) way.push_back(s.look);
    EXPECT_TRUE(allowed(day, way)) << round;
  }
}

// The way that is taken beyond twelve looks, tried where the exact one is known.
TEST(RunningOrder, TheLongDaysSearchComesWithinAHundredthOfTheExactOne) {
  Day day = demoDay();
  std::mt19937 random(3);
  for (size_t i = 0; day.looks.size() < 11; ++i) {
    DayLook l = day.looks[i % 8];
    l.id = std::to_string(day.looks.size() + 1);
    l.first = false;
    for (Light& light : l.plan.lights) light.hour = 1 + double(random() % 110) / 10;
    day.looks.push_back(l);
  }
  day.end = 20 * 60;
  const DayCosts costs = usual(day);
  const Order exact = bestOrder(day, costs, {}, 12), other = bestOrder(day, costs, {}, 1);
  EXPECT_TRUE(exact.exact);
  EXPECT_FALSE(other.exact);
  EXPECT_NEAR(other.late, exact.late, 1e-6);
  EXPECT_LE(other.work, exact.work * 1.01);
}

TEST(RunningOrder, TheDemoDaySavesAThirdOfTheMovesOfARandomOrder) {
  const Day day = demoDay();
  const DayCosts costs = usual(day);
  const Order best = bestOrder(day, costs);
  std::mt19937 random(5);
  std::vector<size_t> way(day.looks.size());
  std::iota(way.begin(), way.end(), size_t(0));
  double moves = 0, work = 0;
  constexpr int kOrders = 400;
  for (int k = 0; k < kOrders; ++k) {
    std::shuffle(way.begin(), way.end(), random);
    const Order o = timed(day, costs, way);
    moves += o.moves / double(kOrders);
    work += o.work / kOrders;
  }
  RecordProperty("moves", best.moves);
  RecordProperty("movesOfRandomOrders", std::to_string(moves));
  EXPECT_LE(best.moves, moves * 2 / 3) << best.moves << " against " << moves;
  EXPECT_LE(best.work, work * 0.7) << best.work << " against " << work;
}

TEST(RunningOrder, NobodyIsKeptWhenThereIsAWay) {
  const Day day = demoDay();
  const Order best = bestOrder(day, usual(day));
  EXPECT_EQ(best.late, 0);
  for (const Turn& s : best.turns)
    for (const std::string& name : day.looks[s.look].sitters) {
      EXPECT_LE(s.end, day.sitter(name)->leaves * 60.0);
      EXPECT_GE(s.begin, (day.sitter(name)->arrives) * 60.0);
    }
  for (const Turn& s : best.turns)
    for (const DayBreak& b : day.breaks) EXPECT_TRUE(s.end <= b.from * 60.0 || s.begin >= b.to * 60.0);
}

TEST(RunningOrder, ALateDaySaysWhatToDropAndWhatThatSaves) {
  Day day = demoDay();
  const DayCosts costs = usual(day);
  const Order best = bestOrder(day, costs);
  // The first look was shot, and the morning went by.
  const Standing standing{{best.turns[0].look}, best.turns[0].end + 3.5 * 3600};
  const Order now = bestOrder(day, costs, standing);
  EXPECT_EQ(now.turns.size(), 7u);
  EXPECT_GE(now.turns.front().from, standing.now);
  ASSERT_GT(now.late, 0);
  const auto what = reliefs(day, costs, now, standing);
  ASSERT_FALSE(what.empty());
  for (size_t i = 0; i < what.size(); ++i) {
    EXPECT_FALSE(what[i].sentence.empty());
    if (what[i].kind == Relief::Kind::Drop)
      for (const size_t look : what[i].looks) {
        EXPECT_FALSE(day.looks[look].must);
      }
    if (i) {
      EXPECT_LE(what[i - 1].late <= 1e-6 ? 0 : 1, what[i].late <= 1e-6 ? 0 : 1) << "what is enough stands first";
    }
  }
  // What is said holds: without that look the rest is so late.
  const auto drop = std::find_if(what.begin(), what.end(),
                                 [](const Relief& r) { return r.kind == Relief::Kind::Drop && r.looks.size() == 1; });
  ASSERT_NE(drop, what.end());
  Standing without = standing;
  Day shorter = day;
  shorter.looks.erase(shorter.looks.begin() + long(drop->looks[0]));
  for (size_t& i : without.done) i -= i > drop->looks[0];
  EXPECT_NEAR(bestOrder(shorter, usual(shorter), without).late, drop->late, 1e-6);
}

TEST(RunningOrder, WhyALookStandsWhereItStands) {
  const Day day = demoDay();
  const Order best = bestOrder(day, usual(day));
  const auto why = whyThisOrder(day, best, usualDay().times);
  ASSERT_EQ(why.size(), 8u);
  EXPECT_EQ(why[0], "1 first: it has to be first.");
  EXPECT_TRUE(
      std::any_of(why.begin(), why.end(), [](const std::string& s) { return s.find("stay") != std::string::npos; }));
}

TEST(RunningOrder, WhatCannotBeIsSaid) {
  Day day = demoDay();
  day.looks[0].first = day.looks[1].first = true;
  EXPECT_EQ(checkDay(day).at(0), "Looks 1 and 2 both have to be the first. Free one of them.");
  day = demoDay();
  day.looks[0].after = "2";
  day.looks[1].after = "1";
  EXPECT_FALSE(bestOrder(day, usual(day)).problem.empty());
  day = demoDay();
  day.end = day.start;
  EXPECT_NE(bestOrder(day, usual(day)).problem.find("there is no time in it"), std::string::npos);
  day.looks.clear();
  EXPECT_FALSE(bestOrder(day, usual(day)).problem.empty());
  day = demoDay();
  while (day.looks.size() <= kMostLooks) day.looks.push_back(day.looks.back());
  EXPECT_NE(bestOrder(day, usual(day)).problem.find("Split it into two days"), std::string::npos);
}

TEST(RunningClock, TicksTellWhereTheDayStands) {
  Day day = demoDay();
  EXPECT_TRUE(standingOf(day, -1).done.empty());
  day.looks[2].done = "09:55";
  day.looks[0].done = "09:44";
  day.looks[4].begun = "10:10";
  const Standing s = standingOf(day, 10 * 3600 + 660);
  EXPECT_EQ(s.done, (std::vector<size_t>{0, 2, 4}));
  // Forty frames at nine seconds from ten past ten.
  EXPECT_NEAR(s.now, 10 * 3600 + 600 + 360, 1e-9);
  const DayForecast r = forecast(day, {}, 1, 10 * 3600 + 660);
  EXPECT_EQ(r.planned.turns.size(), 5u);
  EXPECT_GE(r.planned.turns[0].from, s.now);
  EXPECT_LE(r.best.work, r.planned.work + 1e-6);
}

TEST(RunningClock, TheJournalsOwnPaceTakesTheUsualTimesPlace) {
  EXPECT_EQ(paceOf({}), 1);
  const JournalEvent twice{"", "set", "", 100, 200}, lunch{"", "set", "", 100, 5000};
  // By hand: two doublings among four votes are 2^(2/4).
  EXPECT_NEAR(paceOf({twice, twice}), std::sqrt(2), 1e-9);
  EXPECT_NEAR(paceOf({twice, twice, lunch}), std::sqrt(2), 1e-9);
  const Day day = demoDay();
  const DayForecast slow = forecast(day, {}, 2), usual = forecast(day, {}, 1);
  EXPECT_NEAR(slow.planned.work, 2 * usual.planned.work, 1e-6);
}

TEST(RunningClock, WithoutAJournalTheUsualTimesHold) {
  const test::TemporaryFolder folder;
  EXPECT_EQ(paceIn(folder.path / "none.sqlite"), 1);
  writeFileAtomically(folder.path / "broken.sqlite", "no journal");
  EXPECT_EQ(paceIn(folder.path / "broken.sqlite"), 1);
}

TEST(Packing, WhatTheKitLacksIsSaidWithTheDay) {
  Inventory kit;
  kit.units["mains-400"] = 3;
  const auto problems = forecast(demoDay(), kit).problems;
  EXPECT_TRUE(std::any_of(problems.begin(), problems.end(), [](const std::string& s) {
    return s.find("Mains flash 400 Ws (3 of 4)") != std::string::npos;
  }));
}

TEST(RunningOrder, TheDaysOwnOrderSaysWhatItBreaks) {
  Day day = demoDay();
  std::swap(day.looks[0], day.looks[5]);
  const DayForecast r = forecast(day, {});
  EXPECT_TRUE(std::any_of(r.problems.begin(), r.problems.end(),
                          [](const std::string& s) { return s.find("has to be the first") != std::string::npos; }));
  EXPECT_TRUE(std::any_of(r.problems.begin(), r.problems.end(),
                          [](const std::string& s) { return s.find("goes up a second time") != std::string::npos; }));
  EXPECT_TRUE(r.best.problem.empty());
  EXPECT_FALSE(forecast(Day{}, {}).problems.empty());
}

// What is made again for one changed look is what the whole day would give in that order.
TEST(RunningOrder, OneChangedLookIsWorthWhatTheWholeDaySays) {
  const Day day = demoDay();
  const DayCosts costs(day, usualDay().times);
  const std::vector<size_t> ways[] = {{0, 1, 2, 3, 4, 5, 6, 7}, {5, 2, 0, 7, 1, 6, 3, 4}};
  for (const auto& way : ways)
    for (size_t look = 0; look < day.looks.size(); ++look) {
      Day other = day;
      other.looks[look].plan.lights.pop_back();
      const Order quick = timed(other, costs.with(other, look, way, -1), way),
                  whole = timed(other, DayCosts(other, usualDay().times), way);
      EXPECT_EQ(quick.work, whole.work) << look;
      EXPECT_EQ(quick.turns.back().end, whole.turns.back().end) << look;
      EXPECT_EQ(quick.moves, whole.moves) << look;
    }
}

TEST(DayFile, ComesBackAsItWas) {
  const Day day = demoDay();
  EXPECT_EQ(readDayText(writeDayText(day)), day);
  // What a newer program wrote besides stays.
  std::string text = writeDayText(day);
  text.insert(text.find("\"title\""), "\"weather\": \"rain\", ");
  EXPECT_NE(writeDayText(readDayText(text)).find("\"weather\": \"rain\""), std::string::npos);
}

TEST(DayFile, ALookThatIsChangedLaterIsSeenAndOneThatIsGoneIsSaid) {
  const test::TemporaryFolder folder;
  Day day = demoDay();
  savePlan(folder.path / "a.easel.json", day.looks[0].plan);
  day.looks.resize(2);
  day.looks[0].file = "a.easel.json";
  day.looks[1].file = "b.easel.json";
  saveDay(folder.path / "x.day.json", day);
  Plan changed = day.looks[0].plan;
  changed.title = "Changed since";
  savePlan(folder.path / "a.easel.json", changed);
  const OpenedDay opened = loadDay(folder.path / "x.day.json");
  EXPECT_EQ(opened.day.looks[0].plan.title, "Changed since");
  EXPECT_EQ(opened.day.looks[1].plan, day.looks[1].plan);
  ASSERT_EQ(opened.problems.size(), 1u);
  EXPECT_NE(opened.problems[0].find("the plan b.easel.json is gone"), std::string::npos);
}

TEST(DayFile, InAnotherFolderItsPlansHaveOtherNames) {
  Day day = demoDay();
  const Day moved = forFolder(day, "/work/days", "/work/elsewhere/deep");
  EXPECT_EQ(moved.looks[0].file, "../../days/1-door.easel.json");
  EXPECT_EQ(forFolder(moved, "/work/elsewhere/deep", "/work/days"), day);
  day.looks[0].file.clear();
  EXPECT_TRUE(forFolder(day, "/a", "/b").looks[0].file.empty());
}

TEST(DayFile, WhatIsBrokenSaysWhere) {
  const auto refused = [](const std::string& text) {
    try {
      readDayText(text);
    } catch (const FileError& e) {
      return std::string(e.what());
    }
    return std::string("taken");
  };
  EXPECT_NE(refused("{").find("day"), std::string::npos);
  EXPECT_NE(refused(R"({"format":"jolly-easel-day","version":1,"start":"25:99"})").find("not a time of day"),
            std::string::npos);
  EXPECT_NE(refused(R"({"format":"jolly-easel-day","version":1,"looks":[{"id":"1"}]})").find("neither a plan nor"),
            std::string::npos);
  EXPECT_NE(
      refused(
          R"({"format":"jolly-easel-day","version":1,"looks":[{"id":"1","plan":{"format":"jolly-easel-plan","version":1,"lights":[{}]}}]})")
          .find("Look 1"),
      std::string::npos);
  EXPECT_NE(refused(R"({"format":"jolly-easel-day","version":1,"looks":[{"id":"1","frames":-3}]})").find("frames"),
            std::string::npos);
  EXPECT_NE(refused(R"({"format":"jolly-easel-day","version":9})").find("version"), std::string::npos);
}

TEST(DayFile, TimesAreReadAsPeopleWriteThem) {
  for (const char* text : {"9:30", "09:30", "0930", "9.30", "9h30", " 9:30 "}) EXPECT_EQ(readTime(text), 570) << text;
  EXPECT_EQ(readTime("14"), 840);
  EXPECT_EQ(writeTime(570), "09:30");
  for (const char* text : {"", "24:00", "9:60", "9:3", "half nine", "9:30:10", "99999999999"})
    EXPECT_THROW(readTime(text), std::invalid_argument) << text;
}

}  // namespace
}  // namespace easel
