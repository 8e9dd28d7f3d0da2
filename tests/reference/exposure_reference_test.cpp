// Exposure against published series and equations.
#include <gtest/gtest.h>

#include "exposure/aperture.h"
#include "exposure/meter.h"
#include "exposure/shutter.h"

namespace easel {
namespace {

TEST(ExposureReference, NominalFullStops) {
  // ISO 517:2008, table of standard aperture numbers (value from memory).
  const double engraved[] = {1, 1.4, 2, 2.8, 4, 5.6, 8, 11, 16, 22, 32, 45, 64};
  for (int av = 0; av < 13; ++av) EXPECT_EQ(nominalFNumber(fNumberFromAv(av), StopFraction::Full), engraved[av]);
}

TEST(ExposureReference, NominalThirdsAndHalves) {
  // The engraving of lenses and meters: common practice, no source.
  const double thirds[] = {2.8, 3.2, 3.5, 4, 4.5, 5, 5.6, 6.3, 7.1, 8, 9, 10, 11, 13, 14, 16, 18, 20, 22};
  for (int k = 0; k < 19; ++k) EXPECT_EQ(nominalFNumber(fNumberFromAv(3 + k / 3.0), StopFraction::Third), thirds[k]);
  const double halves[] = {4, 4.8, 5.6, 6.7, 8, 9.5, 11};
  for (int k = 0; k < 7; ++k) EXPECT_EQ(nominalFNumber(fNumberFromAv(4 + k / 2.0), StopFraction::Half), halves[k]);
}

TEST(ExposureReference, ShutterSeries) {
  // Full stops of the shutter (ISO 516, value from memory), each twice the next within the rounding of the engraving.
  const char* series[] = {"1 s", "1/2", "1/4", "1/8", "1/15", "1/30", "1/60", "1/125", "1/250", "1/500", "1/1000"};
  for (int tv = 0; tv < 11; ++tv) EXPECT_EQ(writeShutter(std::exp2(-tv)), series[tv]);
}

TEST(ExposureReference, Apex) {
  // APEX: Av = log2 N^2, Tv = log2 1/t, Sv = log2 S/3.125 (ANSI PH2.5-1960 as usually quoted, value from memory).
  EXPECT_NEAR(avFromFNumber(8), 6, 1e-12);
  EXPECT_NEAR(timeValue(1.0 / 128), 7, 1e-12);
  EXPECT_NEAR(speedValue(100), 5, 1e-12);
  EXPECT_NEAR(speedValue(400), 7, 1e-12);
  // "Sunny sixteen": f/16 at 1/ISO is EV 15 at ISO 100 within a third of a stop (common practice, no source).
  EXPECT_NEAR(exposureValue(16, 1.0 / 100), 14.64, 0.01);
}

TEST(ExposureReference, IncidentEquation) {
  // ISO 2720:1974: N^2 / t = E S / C. With C = 250 (flat receptor): 2500 lx at ISO 100 is EV 10 (2500 = 2.5 * 2^10 for
  // C = 250).
  const double n = apertureForExposure(2.5 * 1024 / 16, 100);
  EXPECT_NEAR(n * n * 16, 1024, 1e-9) << "EV 10 at 1/16 s";
  for (Receptor r : {Receptor::Flat, Receptor::Dome}) {
    const double c = calibrationConstant(r);
    // Ranges of the standard: 240 to 400 flat, 320 to 540 cardioid (from memory).
    EXPECT_GE(c, r == Receptor::Flat ? 240 : 320);
    EXPECT_LE(c, r == Receptor::Flat ? 400 : 540);
  }
}

TEST(ExposureReference, AperturesOfCombinedLights) {
  // Worked example of handbooks: apertures add as the root of the sum of squares. f/8 with f/4: 8.94, f/8 and a third.
  const double sum = exposureForAperture(8, 100) + exposureForAperture(4, 100);
  EXPECT_NEAR(apertureForExposure(sum, 100), std::sqrt(80.0), 1e-9);
  EXPECT_EQ(writeAperture(apertureForExposure(sum, 100), ApertureStyle::Thirds), "f/8 1/3");
  EXPECT_EQ(writeAperture(apertureForExposure(sum, 100), ApertureStyle::Nominal), "f/9");
}

}  // namespace
}  // namespace easel
