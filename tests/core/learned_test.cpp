// What readings teach: simulated studios whose truth is known, and the closed form of the simplest case.
#include "journal/learned.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <random>

namespace easel {
namespace {

using Of = Correction::Of;

TEST(Learned, OneThingReadOnceIsTheClosedForm) {
  // Prior N(0, 1/9), one reading with variance 0.01: mean y / (1 + 0.01 * 9), variance 1 / (9 + 100).
  const Learned l({{"mains-400", "", "", "", 0.3}}, {1.0 / 3, 0.1});
  const Correction* c = l.of(Of::Head, "mains-400");
  ASSERT_TRUE(c);
  // The reading lies within Huber's bound of what it teaches, so it counts in full.
  EXPECT_NEAR(c->stops, 0.3 / 1.09, 1e-9);
  EXPECT_NEAR(c->uncertainty, std::sqrt(1 / 109.0), 1e-9);
  EXPECT_EQ(c->readings, 1);
  const auto other = l.predict({"mains-1200", "", "", "", 0});
  EXPECT_EQ(other.stops, 0);
  EXPECT_NEAR(other.uncertainty, std::hypot(1.0 / 3, 0.1), 1e-9) << "never read: its prior";
  EXPECT_TRUE(Learned({}).corrections().empty());
}

TEST(Learned, WhatAlwaysComesTogetherIsKnownByItsSum) {
  std::vector<TaughtReading> all(20, {"head", "box", "meter", "room", 0.4});
  const Learned l(all);
  EXPECT_GT(l.of(Of::Head, "head")->uncertainty, 0.2) << "head, box, meter or room: nobody can say";
  const auto sum = l.predict({"head", "box", "meter", "room", 0});
  EXPECT_NEAR(sum.stops, 0.4, 0.01);
  EXPECT_LT(sum.uncertainty, 0.12);
}

TEST(Learned, AMisfireTeachesLittleAndIsDoubted) {
  std::vector<TaughtReading> all;
  for (int i = 0; i < 8; ++i) all.push_back({"head", "box", "", "", 0.2 + 0.02 * (i % 3 - 1)});
  const auto before = Learned(all).predict({"head", "box", "", "", 0});
  all.push_back({"head", "box", "", "", -6});
  const Learned l(all);
  EXPECT_NEAR(l.predict({"head", "box", "", "", 0}).stops, before.stops, 0.05);
  EXPECT_EQ(l.doubted(), std::vector<size_t>{8});
}

// Forty studios with heads, fronts, meter and room of their own: predictions of setups that were not read, before and
// after twelve readings. The figures are those of the promise: a third of a stop, a tenth.
TEST(Learned, TwelveReadingsBringUnseenSetupsWithinATenth) {
  double squaresBefore = 0, squaresAfter = 0, told = 0;
  int n = 0;
  for (unsigned seed = 1; seed <= 40; ++seed) {
    std::mt19937 random(seed);
    std::normal_distribution<double> gear(0, 0.19), stand(0, 0.06);
    const std::vector<std::string> heads{"A", "B", "C"}, fronts{"octa", "box", "dish", "reflector"};
    std::map<std::string, double> truth;
    for (const auto& list : {heads, fronts})
      for (const std::string& id : list) truth[id] = gear(random);
    truth["meter"] = gear(random) / 2;
    truth["room"] = gear(random) / 2;
    const auto off = [&](const std::string& h, const std::string& m) {
      return truth[h] + truth[m] + truth["meter"] + truth["room"];
    };
    // The plan of such readings is what teaches most, as the page says it.
    std::vector<TaughtReading> candidates;
    for (const std::string& h : heads)
      for (const std::string& m : fronts)
        if (!(h == "A" && m == "dish") && !(h == "B" && m == "octa") && !(h == "C" && m == "box"))
          candidates.push_back({h, m, "meter", "room", 0});
    std::vector<TaughtReading> read;
    for (int i = 0; i < 12; ++i) {
      const Learned so_far(read, {1.0 / 3, 0.08});
      TaughtReading next = candidates[*so_far.teachesMost(candidates)];
      next.off = off(next.head, next.modifier) + stand(random);
      read.push_back(next);
    }
    const Learned learned(read, {1.0 / 3, 0.08});
    for (const auto& [h, m] : {std::pair{"A", "dish"}, {"B", "octa"}, {"C", "box"}}) {
      const auto p = learned.predict({h, m, "meter", "room", 0});
      squaresBefore += std::pow(off(h, m), 2);
      squaresAfter += std::pow(off(h, m) - p.stops, 2);
      told += std::pow(p.uncertainty, 2);
      ++n;
    }
  }
  const double before = std::sqrt(squaresBefore / n), after = std::sqrt(squaresAfter / n);
  std::printf("unseen setups: %.2f stop before, %.3f after twelve readings, told %.2f\n", before, after,
              std::sqrt(told / n));
  EXPECT_LE(before, 1.0 / 3);
  EXPECT_LE(after, 0.1);
  EXPECT_GE(std::sqrt(told / n), after) << "what is said of the uncertainty is no boast";
  EXPECT_LE(std::sqrt(told / n), 0.2);
}

TEST(Learned, ADriftIsToldAndNoiseIsNot) {
  std::mt19937 random(3);
  std::normal_distribution<double> tenth(0, 0.1);
  int alarms = 0;
  for (int i = 0; i < 200; ++i) {
    std::vector<double> off;
    for (int k = 0; k < 12; ++k) off.push_back(0.2 + tenth(random));
    alarms += drifted(off).has_value();
  }
  EXPECT_LE(alarms, 3) << "three standard errors";
  std::vector<double> ages;
  for (int k = 0; k < 12; ++k) ages.push_back((k < 8 ? 0.1 : -0.4) + tenth(random) / 2);
  ASSERT_TRUE(drifted(ages));
  EXPECT_NEAR(*drifted(ages), -0.5, 0.1);
  EXPECT_FALSE(drifted({0, 0, 5}));
}

TEST(Learned, ADriftingHeadIsToldApartFromTheOthers) {
  std::vector<TaughtReading> readings;
  for (int i = 0; i < 12; ++i) {
    readings.push_back({"old", "box", "m", "r", i < 8 ? 0.0 : -0.5});
    readings.push_back({"new", "dish", "m", "r", 0.1});
  }
  const auto found = drifts(readings, Learned(readings));
  const auto of = [&](const std::string& id) {
    return std::find_if(found.begin(), found.end(), [&](const Drift& d) { return d.id == id; });
  };
  ASSERT_NE(of("old"), found.end());
  EXPECT_NEAR(of("old")->stops, -0.5, 0.1);
  EXPECT_EQ(of("new"), found.end());
  EXPECT_EQ(of("dish"), found.end());
}

}  // namespace
}  // namespace easel
