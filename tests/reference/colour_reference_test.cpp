#include <gtest/gtest.h>

#include "colour/colour.h"

namespace easel {
namespace {

TEST(ColourReference, Srgb) {
  // IEC 61966-2-1: linear 0.0031308 <-> 0.04045; mid grey 0.18 encodes to 0.4614 (118 of 255).
  EXPECT_NEAR(srgbEncode(0.0031308), 0.04045, 1e-5);
  EXPECT_NEAR(srgbEncode(0.18) * 255, 117.66, 0.1);
  EXPECT_NEAR(srgbDecode(0.5), 0.21404, 1e-5);
  EXPECT_EQ(srgbEncode(0), 0);
  EXPECT_NEAR(srgbEncode(1), 1, 1e-12);
}

TEST(ColourReference, Daylight) {
  // CIE 15: D50, D55, D65, D75 chromaticities; their temperatures on the present scale are 5003, 5503, 6504, 7504 K.
  struct Row {
    double kelvin, x, y;
  };
  for (const Row& r :
       {Row{5003, 0.3457, 0.3585}, {5503, 0.3324, 0.3474}, {6504, 0.3127, 0.3290}, {7504, 0.2990, 0.3149}}) {
    const Chromaticity c = chromaticityOf(r.kelvin);
    EXPECT_NEAR(c.x, r.x, 0.0005) << r.kelvin;
    EXPECT_NEAR(c.y, r.y, 0.0005) << r.kelvin;
  }
}

TEST(ColourReference, Planck) {
  // CIE standard illuminant A: 2856 K, x 0.4476, y 0.4074 (CIE 15). 3200 K: 0.4234, 0.3990 (Planckian locus tables).
  const Chromaticity a = chromaticityOf(2856), b = chromaticityOf(3200);
  EXPECT_NEAR(a.x, 0.4476, 0.001);
  EXPECT_NEAR(a.y, 0.4074, 0.001);
  EXPECT_NEAR(b.x, 0.4234, 0.001);
  EXPECT_NEAR(b.y, 0.3990, 0.001);
}

TEST(ColourReference, D65IsWhite) {
  const Vec3 c = rawLightColour(6504);
  EXPECT_NEAR(c.x, 1, 0.01);
  EXPECT_NEAR(c.y, 1, 0.01);
  EXPECT_NEAR(c.z, 1, 0.01);
}

TEST(ColourReference, Mired) {
  // 5600 K to 3200 K is a shift of 134 mired (definition: 1e6 / T).
  EXPECT_NEAR(mired(3200) - mired(5600), 133.93, 0.01);
}

}  // namespace
}  // namespace easel
