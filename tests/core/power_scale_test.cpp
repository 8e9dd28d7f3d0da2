#include "exposure/power_scale.h"

#include <gtest/gtest.h>

#include <cmath>

#include "gear/kit.h"

namespace easel {
namespace {

const PowerScale kTenths{PowerNotation::Fraction, -8, 0.1, 10, 400};
const PowerScale kThirds{PowerNotation::Fraction, -7, 1.0 / 3, 10, 60};
const PowerScale kNumbers{PowerNotation::StopNumber, -8, 0.1, 10, 400};
const PowerScale kPercent{PowerNotation::Percent, -6.6, 0.1, 10, 0};
const PowerScale kWattSeconds{PowerNotation::WattSeconds, -6, 0.1, 10, 400};

TEST(PowerScale, WritesInItsOwnNotation) {
  EXPECT_EQ(kTenths.write(0), "1/1");
  EXPECT_EQ(kTenths.write(-1), "1/2");
  EXPECT_EQ(kTenths.write(-8), "1/256");
  EXPECT_EQ(kTenths.write(-2.7), "1/8 + 0.3");
  EXPECT_EQ(kTenths.write(-0.3), "1/2 + 0.7");
  EXPECT_EQ(kThirds.write(-2 - 2.0 / 3), "1/8 + 0.3");
  EXPECT_EQ(kNumbers.write(-3.3), "6.7");
  EXPECT_EQ(kPercent.write(-1), "50 %");
  EXPECT_EQ(kWattSeconds.write(-1), "200 Ws");
}

TEST(PowerScale, ReadsWhatItWrites) {
  for (const PowerScale& s : {kTenths, kThirds, kNumbers})
    for (double stops = s.lowestStops; stops <= 1e-9; stops += s.step)
      EXPECT_NEAR(s.read(s.write(stops)), stops, 0.04) << s.write(stops);
  EXPECT_NEAR(kThirds.read("1/8 + 0.3"), -3 + 1.0 / 3, 1e-9) << "0.3 on a unit in thirds is a third";
  EXPECT_NEAR(kTenths.read("1/2+0.7"), -0.3, 1e-9);
  EXPECT_NEAR(kTenths.read("full"), 0, 1e-9);
  EXPECT_NEAR(kPercent.read("25 %"), -2, 1e-9);
  EXPECT_NEAR(kWattSeconds.read("100 Ws"), -2, 1e-9);
}

TEST(PowerScale, RefusesNonsense) {
  for (const char* text : {"", "lots", "1/0", "0/4", "1/2 + x", "-1/4", "1/2/3", "1/2+0.7z"})
    EXPECT_THROW(kTenths.read(text), std::exception) << text;
}

TEST(PowerScale, SettingKeepsToStepAndRange) {
  auto s = kThirds.settingFor(-2.4);
  EXPECT_NEAR(s.stops, -2 - 1.0 / 3, 1e-9);
  EXPECT_EQ(s.shortfall, 0);
  s = kTenths.settingFor(1.2);
  EXPECT_EQ(s.stops, 0);
  EXPECT_NEAR(s.shortfall, 1.2, 1e-9) << "too weak by this much";
  s = kTenths.settingFor(-9.5);
  EXPECT_EQ(s.stops, -8);
  EXPECT_NEAR(s.shortfall, -1.5, 1e-9) << "too strong by this much";
  EXPECT_EQ(kTenths.settingFor(0.04).shortfall, 0) << "within half a step of the end is as good as anywhere";
  EXPECT_EQ(kTenths.settingFor(-INFINITY).stops, -8);
}

TEST(Kit, FullPowerOfTheUnits) {
  const Unit* mains = findUnit("mains-400");
  ASSERT_TRUE(mains);
  EXPECT_DOUBLE_EQ(mains->lumenSeconds(0, 1), 400 * 25);
  EXPECT_DOUBLE_EQ(mains->lumenSeconds(-2, 1.0 / 8000), 400 * 25 / 4.0) << "the shutter does not change flash";
  const Unit* led = findUnit("led-150");
  ASSERT_TRUE(led);
  EXPECT_DOUBLE_EQ(led->lumenSeconds(0, 1.0 / 100) * 2, led->lumenSeconds(0, 1.0 / 50))
      << "continuous light adds up over the shutter time";
  EXPECT_FALSE(findUnit("none"));
}

TEST(Kit, EveryFigureNamesItsSource) {
  for (const Unit& u : units()) EXPECT_FALSE(u.source.empty()) << u.id;
  for (const Modifier& m : modifiers()) {
    EXPECT_FALSE(m.source.empty()) << m.id;
    EXPECT_GT(m.area(), 0) << m.id;
    EXPECT_LE(m.transmission, 1) << m.id;
  }
}

// Whoever thinks in thirds sees thirds on a unit that is set in them; one that is set in tenths shows what is on it.
TEST(PowerScale, ThirdsAreWrittenWhereTheyAreSet) {
  PowerScale thirds, tenths, numbers;
  thirds.step = numbers.step = 1.0 / 3;
  numbers.notation = PowerNotation::StopNumber;
  EXPECT_EQ(thirds.write(-2 - 1.0 / 3, StopFraction::Third), "1/8 + 2/3");
  EXPECT_EQ(thirds.write(-2 - 1.0 / 3), "1/8 + 0.7");
  EXPECT_EQ(tenths.write(-2.3, StopFraction::Third), "1/8 + 0.7");
  EXPECT_EQ(numbers.write(-3 - 1.0 / 3, StopFraction::Third), "6 2/3");
  for (const double stops : {-4 - 2.0 / 3, -1.0 / 3, -3.0, 0.0})
    for (const PowerScale& s : {thirds, numbers})
      EXPECT_NEAR(s.read(s.write(stops, StopFraction::Third)), stops, 1e-9) << "what is written is read";
}

}  // namespace
}  // namespace easel
