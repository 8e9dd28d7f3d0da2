#include "colour/colour.h"

#include <gtest/gtest.h>

namespace easel {
namespace {

TEST(Colour, EqualTemperaturesAreNeutral) {
  for (double k : {2700.0, 3200.0, 4000.0, 5600.0, 9000.0}) {
    const Vec3 c = lightColour(k, k);
    EXPECT_NEAR(c.x, 1, 1e-5);
    EXPECT_NEAR(c.y, 1, 1e-5);
    EXPECT_NEAR(c.z, 1, 1e-5);
  }
}

TEST(Colour, WarmLampUnderDaylightBalanceLooksWarmAtTheSameLuminance) {
  const Vec3 warm = lightColour(3200, 5600), cool = lightColour(9000, 5600);
  EXPECT_GT(warm.x, warm.z * 1.5);
  EXPECT_GT(cool.z, cool.x);
  EXPECT_NEAR(luminance(warm), 1, 1e-5);
  EXPECT_NEAR(luminance(cool), 1, 1e-5);
}

TEST(Colour, EncodeAndDecodeAreInverse) {
  for (int i = 0; i <= 255; ++i) EXPECT_NEAR(srgbEncode(srgbDecode(i / 255.0)), i / 255.0, 1e-6);
}

}  // namespace
}  // namespace easel
