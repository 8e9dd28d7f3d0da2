// Moments about a boom's pivot and about the feet of a stand, against the law of the lever and figures worked by hand.
#include "shoot/statics.h"

#include <gtest/gtest.h>

namespace easel {
namespace {

// The lever (Archimedes, On the Equilibrium of Planes, I.6): weights balance at distances that go inversely.
TEST(Statics, TheLever) {
  EXPECT_NEAR(counterweightFor({2.0, 1.0, 0}, 4, 1.5), 6, 1e-12);
  EXPECT_NEAR(counterweightFor({2.0, 1.0, 0}, 6, 0.5), 3, 1e-12);
}

// By hand: an even arm of 2 m and 2 kg, its pivot 0.5 m from the back end, has its middle 0.5 m before the pivot: it
// turns with 2 * 0.5 = 1 kg m. A head of 3 kg at 1.2 m adds 3.6. At 0.5 m behind: 4.6 / 0.5 = 9.2 kg.
TEST(Statics, AnArmHasAWeightOfItsOwn) {
  const BoomArm arm{1.5, 0.5, 2};
  EXPECT_NEAR(boomMoment(arm, 3, 1.2), 4.6, 1e-12);
  EXPECT_NEAR(counterweightFor(arm, 3, 1.2), 9.2, 1e-12);
  EXPECT_EQ(counterweightFor({0.5, 2.0, 4}, 0.5, 0.5), 0);  // the back is heavier: nothing to add
}

// By hand: feet on a circle of 0.6 m make a triangle whose sides pass 0.3 m from its middle. 6 kg in all hold
// 6 * 9.80665 * 0.3 = 17.65 N m; a nudge of 12 N at 2 m turns with 24. (24 - 17.65) / (9.80665 * 0.3) = 2.158 kg.
TEST(Statics, AStandTipsOverTheLineBetweenTwoFeet) {
  const OnFeet stand{.kilograms = 6, .feet = 0.6, .eccentric = 0, .height = 2, .wind = 0};
  EXPECT_NEAR(resisting(stand), 17.652, 1e-3);
  EXPECT_NEAR(overturning(stand), 24, 1e-12);
  EXPECT_NEAR(sandbagFor(stand), 2.158, 1e-3);
  // With that bag it just holds.
  OnFeet weighted = stand;
  weighted.kilograms += sandbagFor(stand);
  EXPECT_NEAR(resisting(weighted), overturning(weighted), 1e-9);
  EXPECT_NEAR(sandbagFor(weighted), 0, 1e-12);
}

// By hand: 1/2 * 1.2 * 4^2 * 1.2 = 11.52 N/m^2.
TEST(Statics, WindOnABox) { EXPECT_NEAR(windOn(1.08, 4), 12.4416, 1e-9); }

}  // namespace
}  // namespace easel
