#include <gtest/gtest.h>

#include "exposure/aperture.h"
#include "exposure/meter.h"
#include "exposure/shutter.h"
#include "exposure/stops.h"

namespace easel {
namespace {

TEST(Aperture, WritesWhatPhotographersSay) {
  const double third = fNumberFromAv(6 + 1.0 / 3);  // f/8 and a third
  EXPECT_EQ(writeAperture(third, ApertureStyle::Nominal), "f/9");
  EXPECT_EQ(writeAperture(third, ApertureStyle::Thirds), "f/8 1/3");
  EXPECT_EQ(writeAperture(third, ApertureStyle::Tenths), "f/8 + 0.3");
  EXPECT_EQ(writeAperture(8, ApertureStyle::Tenths), "f/8");
  EXPECT_EQ(writeAperture(fNumberFromAv(4.3), ApertureStyle::Tenths), "f/4 + 0.3");
  EXPECT_EQ(writeAperture(fNumberFromAv(4.3), ApertureStyle::Nominal), "f/4.5");
  EXPECT_EQ(writeAperture(0, ApertureStyle::Tenths), "f/--");
  EXPECT_EQ(writeAperture(std::nan(""), ApertureStyle::Nominal), "f/--");
}

TEST(Aperture, JustBelowAFullStopIsWrittenOnIt) {
  EXPECT_EQ(writeAperture(7.99, ApertureStyle::Tenths), "f/8");
  EXPECT_EQ(writeAperture(7.99, ApertureStyle::Thirds), "f/8");
}

TEST(Aperture, ReadsTheUsualSpellings) {
  const double third = fNumberFromAv(6 + 1.0 / 3);
  for (const char* text : {"f/8 1/3", "F8 1/3", "8 and a third", "f/8 + 1/3", "f/9", "9"})
    EXPECT_NEAR(readAperture(text), third, 1e-9) << text;
  EXPECT_NEAR(readAperture("f/5.6"), std::sqrt(32.0), 1e-9);
  EXPECT_NEAR(readAperture("f/5.6 + 0.3"), fNumberFromAv(5.3), 1e-9);
  EXPECT_NEAR(readAperture("f/5,6"), std::sqrt(32.0), 1e-9);
  EXPECT_NEAR(readAperture("f/8 - 1/3"), fNumberFromAv(6 - 1.0 / 3), 1e-9);
  EXPECT_NEAR(readAperture("f/7.5"), 7.5, 1e-9) << "what is not engraved is taken as it is";
}

TEST(Aperture, RefusesNonsenseWithASentence) {
  for (const char* text : {"", "f/", "eight", "f/8 1/0", "f/8 x", "f/0", "-8", "f/1000", "nan", "f/8 1/3 1/3"}) {
    try {
      readAperture(text);
      FAIL() << text;
    } catch (const std::invalid_argument& e) {
      EXPECT_GT(std::string(e.what()).size(), 20u) << text;
    }
  }
}

TEST(Aperture, EveryWrittenThirdReadsBack) {
  for (int k = -2; k <= 42; ++k) {
    const double n = fNumberFromAv(k / 3.0);
    if (n < 0.7 || n > 128) continue;
    for (auto style : {ApertureStyle::Thirds})
      EXPECT_NEAR(avFromFNumber(readAperture(writeAperture(n, style))), k / 3.0, 1e-6);
    EXPECT_NEAR(avFromFNumber(readAperture(writeAperture(n, ApertureStyle::Nominal))), k / 3.0, 1e-6)
        << writeAperture(n, ApertureStyle::Nominal);
  }
}

TEST(Shutter, WritesAndReadsTheEngravedSeries) {
  EXPECT_EQ(writeShutter(1.0 / 200), "1/200");
  EXPECT_EQ(writeShutter(1.0 / 160), "1/160");
  EXPECT_EQ(writeShutter(0.5), "1/2");
  EXPECT_EQ(writeShutter(2), "2 s");
  for (double t : shutterThirds()) EXPECT_NEAR(readShutter(writeShutter(t)), t, t * 1e-9) << writeShutter(t);
  EXPECT_THROW(readShutter("fast"), std::invalid_argument);
  EXPECT_THROW(readShutter("1/0"), std::invalid_argument);
  EXPECT_THROW(readShutter("-1"), std::invalid_argument);
}

TEST(Iso, NearestEngraved) {
  EXPECT_EQ(nominalIso(99), 100);
  EXPECT_EQ(nominalIso(410), 400);
  EXPECT_EQ(nominalIso(1e9), 25600);
}

TEST(Meter, EquationAndItsInverse) {
  const double h = exposureForAperture(8, 100);
  EXPECT_DOUBLE_EQ(h, 64 * 250 / 100.0);
  EXPECT_DOUBLE_EQ(apertureForExposure(h, 100), 8);
  EXPECT_EQ(apertureForExposure(0, 100), 0);
  // The dome needs more light for the same reading: its constant is larger.
  EXPECT_LT(apertureForExposure(h, 100, calibrationConstant(Receptor::Dome)), 8);
}

TEST(Meter, LightAddsInLuxSecondsNotInStops) {
  const double key = exposureForAperture(8, 100);
  EXPECT_NEAR(apertureForExposure(2 * key, 100), 8 * std::sqrt(2.0), 1e-12) << "two equal lights: one stop";
  EXPECT_NEAR(avFromFNumber(apertureForExposure(key + key / 4, 100)) - 6, std::log2(1.25), 1e-12);
}

TEST(Meter, ShareOfFlash) {
  EXPECT_DOUBLE_EQ((LuminousExposure{9, 1}.flashShare()), 0.9);
  EXPECT_DOUBLE_EQ((LuminousExposure{}.flashShare()), 0);
}

TEST(Stops, InThirdsAreWrittenInThirds) {
  for (const auto& [stops, thirds, tenths] : {std::tuple{0.0, "0", "0"},
                                              {0.04, "0", "0"},
                                              {1.0 / 3, "+1/3", "+0.3"},
                                              {-2.0 / 3, "-2/3", "-0.7"},
                                              {1.7, "+1 2/3", "+1.7"},
                                              {-2.95, "-3", "-3.0"},
                                              {-40.0, "no light", "no light"}}) {
    EXPECT_EQ(signedStops(stops, StopFraction::Third), thirds);
    EXPECT_EQ(signedStops(stops), tenths);
  }
}

}  // namespace
}  // namespace easel
