// Numbers as people write them: one reader, comma and point, whatever the locale.
#include <gtest/gtest.h>

#include <clocale>
#include <cmath>
#include <cstdlib>
#include <stdexcept>

#include "exposure/ambient.h"
#include "exposure/aperture.h"
#include "exposure/power_scale.h"
#include "exposure/ratio.h"
#include "exposure/shutter.h"
#include "exposure/spelling.h"
#include "exposure/stops.h"
#include "rendering/series.h"
#include "spoken/clock.h"
#include "spoken/length.h"
#include "spoken/number.h"

namespace easel {
namespace {

// The run under a comma is only worth something if its locale is what it says.
TEST(Spoken, TheCommasRunIsUnderAComma) {
  if (!std::getenv("EASEL_COMMA")) GTEST_SKIP() << "the run under the point";
  EXPECT_STREQ(std::localeconv()->decimal_point, ",");
}

TEST(Spoken, CommaAndPointPartWholeFromFraction) {
  EXPECT_EQ(wholeNumber("5.6"), 5.6);
  EXPECT_EQ(wholeNumber("5,6"), 5.6);
  EXPECT_EQ(wholeNumber(" -,25 "), -0.25);
  EXPECT_EQ(wholeNumber("+3"), 3);
  EXPECT_EQ(wholeNumber("1e-3"), 0.001);
}

TEST(Spoken, WhatIsNoNumberIsNone) {
  for (const char* text :
       {"", " ", "-", ".", ",", "1.250,5", "1,250.5", "1.2.3", "nan", "inf", "0x10", "1e999", "5 6", "e5", "--3"})
    EXPECT_FALSE(wholeNumber(text)) << text;
  EXPECT_FALSE(wholeNumber(std::string(500, '9')));
}

TEST(Spoken, AmountsAreFractionsToo) {
  EXPECT_DOUBLE_EQ(*wholeAmount("1/3"), 1.0 / 3);
  EXPECT_DOUBLE_EQ(*wholeAmount("1 1/3"), 4.0 / 3);
  EXPECT_DOUBLE_EQ(*wholeAmount("1\u2153"), 4.0 / 3);
  EXPECT_DOUBLE_EQ(*wholeAmount("-2/3"), -2.0 / 3);
  EXPECT_DOUBLE_EQ(*wholeAmount("- 2/3"), -2.0 / 3);
  EXPECT_DOUBLE_EQ(*wholeAmount("\u22120,3"), -0.3);
  EXPECT_DOUBLE_EQ(*wholeAmount("two thirds"), 2.0 / 3);
  EXPECT_DOUBLE_EQ(*wholeAmount("a half"), 0.5);
  EXPECT_FALSE(wholeAmount("1/0"));
  EXPECT_FALSE(wholeAmount("a fish"));
}

TEST(Spoken, WordsEndWhereTheirLettersEnd) {
  Spoken s("From 3 stops");
  EXPECT_FALSE(s.take("f"));
  EXPECT_TRUE(s.take("from"));
  EXPECT_EQ(s.number(), 3);
  EXPECT_FALSE(s.take("stop"));
  EXPECT_TRUE(s.take("stops"));
  EXPECT_TRUE(s.atEnd());
}

TEST(Spoken, LengthsInBothUnits) {
  const auto m = [](const char* t) { return readLength(t, LengthUnit::Metres); };
  const auto ft = [](const char* t) { return readLength(t, LengthUnit::Feet); };
  EXPECT_DOUBLE_EQ(m("1,32"), 1.32);
  EXPECT_DOUBLE_EQ(m("132 cm"), 1.32);
  EXPECT_DOUBLE_EQ(m("1320mm"), 1.32);
  EXPECT_DOUBLE_EQ(ft("5"), 5 * 0.3048);
  EXPECT_DOUBLE_EQ(m("4 ft 4 in"), 52 * 0.0254);
  EXPECT_DOUBLE_EQ(m("4'4\""), 52 * 0.0254);
  EXPECT_DOUBLE_EQ(m("4\u20324\u2033"), 52 * 0.0254);
  EXPECT_DOUBLE_EQ(m("4 1/2 ft"), 4.5 * 0.3048);
  EXPECT_DOUBLE_EQ(m("-1 ft 6 in"), -18 * 0.0254);
  for (const char* bad : {"", "m", "3 x", "4 ft -2 in", "4 ft 4 in 3", "1.2.3 m"})
    EXPECT_THROW(m(bad), std::invalid_argument) << bad;
}

TEST(Spoken, LengthsReadBackAsWritten) {
  for (LengthUnit unit : {LengthUnit::Metres, LengthUnit::Feet})
    for (double v : {0.0, 0.01, 0.05, 1.0, 1.32, 12.7, -0.3})
      EXPECT_NEAR(readLength(writeLength(v, unit), unit), v, 0.0128) << writeLength(v, unit);
  EXPECT_EQ(writeLength(-0.001, LengthUnit::Metres), "0.00 m") << "no minus before nothing";
  EXPECT_EQ(writeLength(-0.001, LengthUnit::Feet), "0 ft 0 in");
}

TEST(Spoken, TwelveIsNeverNought) {
  EXPECT_EQ(wholeHour(0.2), 12);
  EXPECT_EQ(wholeHour(11.8), 12);
  EXPECT_EQ(wholeHour(12), 12);
  EXPECT_EQ(wholeHour(0.6), 1);
  EXPECT_EQ(wholeHour(6.4), 6);
  EXPECT_EQ(wholeHour(7), 7);
}

TEST(Spoken, TheClockIsAClock) {
  EXPECT_DOUBLE_EQ(readClock("4:18"), 4.3);
  EXPECT_DOUBLE_EQ(readClock("4.3 h"), 4.3);
  EXPECT_DOUBLE_EQ(readClock("4,3h"), 4.3);
  EXPECT_DOUBLE_EQ(readClock("4 h 18"), 4.3);
  EXPECT_DOUBLE_EQ(readClock("4.5"), 4.5);
  EXPECT_DOUBLE_EQ(readClock("half past four"), 4.5);
  EXPECT_DOUBLE_EQ(readClock("quarter to five"), 4.75);
  EXPECT_DOUBLE_EQ(readClock("a quarter past 12"), 0.25);
  EXPECT_DOUBLE_EQ(readClock("ten past four"), 4 + 10 / 60.0);
  EXPECT_DOUBLE_EQ(readClock("twenty five to ten"), 9 + 35 / 60.0);
  EXPECT_DOUBLE_EQ(readClock("4 o'clock"), 4);
  EXPECT_DOUBLE_EQ(readClock("Twelve"), 12);
  EXPECT_DOUBLE_EQ(readClock("0:30"), 0.5);
  EXPECT_DOUBLE_EQ(readClock("12:30"), 0.5);
  for (const char* bad : {"", "4:75", "4:", "13:00", "noon", "half past", "-3", "4:18:20", "4.5:10", "99 o'clock"})
    EXPECT_THROW(readClock(bad), std::invalid_argument) << bad;
}

TEST(Spoken, AClockThatCouldBeTwoPlacesIsAskedAbout) {
  try {
    readClock("4.30");
    FAIL();
  } catch (const std::invalid_argument& e) {
    EXPECT_NE(std::string(e.what()).find("4:30"), std::string::npos) << e.what();
    EXPECT_NE(std::string(e.what()).find("4:18"), std::string::npos) << e.what();
  }
  EXPECT_DOUBLE_EQ(readClock("4.75"), 4.75) << "no hour has 75 minutes";
}

TEST(Spoken, EveryMinuteOfTheClockReadsBack) {
  for (int minute = 1; minute <= 720; ++minute) {
    const double h = roundTheClock(minute / 60.0);
    EXPECT_NEAR(readClock(writeClock(h)), h, 1e-9) << writeClock(h);
  }
  EXPECT_EQ(writeClock(12), "12:00");
  EXPECT_EQ(writeClock(0.001), "12:00");
  EXPECT_DOUBLE_EQ(roundTheClock(12.1), 0.1);
  EXPECT_DOUBLE_EQ(roundTheClock(-0.1), 11.9);
  EXPECT_DOUBLE_EQ(roundTheClock(0), 12);
  EXPECT_DOUBLE_EQ(roundTheClock(NAN), 12);
}

TEST(Spoken, AperturesWithACommaAndInWords) {
  EXPECT_NEAR(readAperture("f/5,6"), readAperture("f/5.6"), 1e-12);
  EXPECT_NEAR(readAperture("F 5,6"), std::exp2(2.5), 1e-9);
  EXPECT_NEAR(readAperture("f/8 and two thirds"), 8 * std::exp2(1.0 / 3), 1e-9);
  EXPECT_NEAR(readAperture("f/8 + 0,3"), 8 * std::exp2(0.15), 1e-9);
  EXPECT_NEAR(readAperture("8 -1/3 stop"), 8 * std::exp2(-1.0 / 6), 1e-9);
  for (ApertureStyle style : {ApertureStyle::Thirds, ApertureStyle::Tenths})
    for (double av = 0; av <= 13; av += 0.1) {
      const std::string text = writeAperture(std::exp2(av / 2), style);
      EXPECT_EQ(writeAperture(readAperture(text), style), text);
    }
}

TEST(Spoken, ShutterPowerRatioAndAmbientReadTheirOwnText) {
  for (double t : shutterThirds()) EXPECT_DOUBLE_EQ(readShutter(writeShutter(t)), t) << writeShutter(t);
  EXPECT_DOUBLE_EQ(readShutter("2 s"), 2) << "two seconds were two and a half once, under a comma locale";
  EXPECT_DOUBLE_EQ(readShutter("0,5 s"), 0.5);
  EXPECT_DOUBLE_EQ(readShutter("1/200 sec"), readShutter("1/200"));
  EXPECT_THROW(readShutter("1/0"), std::invalid_argument);
  EXPECT_THROW(readShutter("-1"), std::invalid_argument);

  PowerScale thirds{PowerNotation::Fraction, -7, 1.0 / 3, 10, 200};
  EXPECT_NEAR(thirds.read("1/4 + 0,3"), -2 + 1.0 / 3, 1e-12);
  EXPECT_NEAR(thirds.read("1/4 and 2/3"), -2 + 2.0 / 3, 1e-12);
  EXPECT_NEAR(thirds.read("1/8 - 0.7"), -3 - 2.0 / 3, 1e-12);
  PowerScale percent{PowerNotation::Percent, -7, 0.1, 10, 200};
  EXPECT_NEAR(percent.read("12,5 %"), -3, 1e-12);
  EXPECT_NEAR(percent.read("25 ws"), -3, 1e-12);
  for (const PowerScale& scale : {thirds, percent, PowerScale{PowerNotation::StopNumber, -8, 0.1, 10, 400},
                                  PowerScale{PowerNotation::WattSeconds, -6, 0.1, 10, 600}})
    for (double s = 0; s >= scale.lowestStops; s -= scale.step)
      EXPECT_EQ(scale.write(scale.read(scale.write(s))), scale.write(s));
  for (const char* bad : {"1/4 +", "+0.3", "full moon", "1//4", "-1/4"})
    EXPECT_THROW(thirds.read(bad), std::invalid_argument) << bad;

  EXPECT_NEAR(readRatio("2,5:1", RatioSchool::UnitToUnit), std::log2(2.5), 1e-12);
  EXPECT_NEAR(readRatio("a stop and two thirds under", RatioSchool::UnitToUnit), 5.0 / 3, 1e-12);
  EXPECT_NEAR(readRatio("1 1/3 stops under", RatioSchool::LitToShadow), 4.0 / 3, 1e-12);
  EXPECT_NEAR(readRatio("0.5 stops over", RatioSchool::StopsUnder), -0.5, 1e-12);
  EXPECT_NEAR(readRatio("3:1", RatioSchool::LitToShadow), 1, 1e-12);
  for (const char* bad : {"", "3:", "3:0", ":1", "3:1:1", "three"})
    EXPECT_THROW(readRatio(bad, RatioSchool::UnitToUnit), std::invalid_argument) << bad;

  EXPECT_DOUBLE_EQ(readAmbient("15,5 lx", 100), 15.5);
  EXPECT_NEAR(readAmbient("f/2,8 at 1/15", 100), readAmbient("f/2.8 1/15 s", 100), 1e-9);
  EXPECT_DOUBLE_EQ(readAmbient("dark", 100), 0);
  EXPECT_THROW(readAmbient("f/2.8", 100), std::invalid_argument);
}

TEST(Spoken, ASeriesTakesCommasWhereTheyAreClear) {
  EXPECT_EQ(readVariation("light.A.distance=0,5:3:6").values.front(), 0.5);
  EXPECT_EQ(readVariation("light.A.hour=3,4.5,6").values, (std::vector<double>{3, 4.5, 6}));
  EXPECT_EQ(readVariation("light.A.hour=3;4,5;6").values, (std::vector<double>{3, 4.5, 6}));
  EXPECT_THROW(readVariation("light.A.hour=3,,6"), std::invalid_argument);
}

TEST(Spoken, NoMinusStandsBeforeZero) {
  EXPECT_EQ(signedStops(-0.04), "0");
  EXPECT_EQ(signedStops(0.04), "0");
  EXPECT_EQ(signedStops(-0.06), "-0.1");
  EXPECT_EQ(signedStops(-99), "no light");
  EXPECT_EQ(signedStops(NAN), "no light");
  EXPECT_FALSE(std::signbit(unsignedZero(-0.001, 10)));
}

TEST(Spoken, FiguresFollowTheChosenSpelling) {
  const Spelling feet{LengthUnit::Feet, ApertureStyle::Thirds};
  EXPECT_EQ(feet.length(1.524), "5 ft 0 in");
  EXPECT_EQ(feet.aperture(9), "f/8 1/3");
  EXPECT_EQ(Spelling{}.length(1.524), "1.52 m");
}

}  // namespace
}  // namespace easel
