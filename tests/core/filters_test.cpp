#include "gear/filters.h"

#include <gtest/gtest.h>

#include "colour/colour.h"
#include "light/develop.h"
#include "plan/check.h"
#include "support.h"

namespace easel {
namespace {

TEST(Filters, WarmFullTakesFlashToTungsten) {
  // 5600 K is 178.6 mired; with 131 more it is 309.6 mired = 3230 K: "5600 K to about 3200 K".
  EXPECT_NEAR(shifted(5600, 131), 3230, 5);
  EXPECT_NEAR(shifted(shifted(5600, 131), -131), 5600, 1);
  EXPECT_EQ(shifted(5600, 1e6), 1667) << "kept in the range of the colour tables";
  // The same sheet does more, in kelvin, to cool light.
  EXPECT_GT(10000 - shifted(10000, 66), 3200 - shifted(3200, 66));
}

TEST(Filters, WarmGelUnderWarmBalanceIsNeutral) {
  Filters f;
  f.gel = "warm-full";
  const Vec3 c = filtered(f, 5600, shifted(5600, 131)).colour;
  EXPECT_NEAR(c.x, 1, 1e-3);
  EXPECT_NEAR(c.z, 1, 1e-3);
  const Vec3 plain = filtered({}, 5600, 3200).colour;
  EXPECT_GT(plain.z, plain.x * 1.5f) << "an unfiltered rim under a warm balance looks blue";
}

TEST(Filters, NothingGainsLight) {
  for (const Gel& g : gels())
    for (double kelvin : {2800.0, 3200.0, 5600.0, 10000.0}) {
      Filters f;
      f.gel = g.id;
      const FilteredLight l = filtered(f, kelvin, 5600);
      EXPECT_GT(l.transmission, 0) << g.id;
      EXPECT_LE(l.transmission, 1) << g.id;
      EXPECT_NEAR(luminance(l.colour), 1, 1e-4) << g.id;
    }
  for (const Modifier& m : modifiers())
    for (const Diffusion& d : diffusions())
      for (double grid : {0.0, 5.0, 20.0, 40.0, 60.0}) {
        Filters f;
        f.diffusion = d.id;
        f.grid = grid;
        const Modifier w = fronted(m, f);
        EXPECT_LE(w.transmission, m.transmission * (1 + 1e-9)) << m.id << " " << d.id << " " << grid;
        EXPECT_GT(w.transmission, 0);
        EXPECT_LE(w.axialIntensity(), m.axialIntensity() * (1 + 1e-9)) << m.id << " " << d.id << " " << grid;
      }
}

TEST(Filters, LossesAddUpToWhatTheMeterLoses) {
  Plan p = test::demoPlan();
  p.lights[0].modifier = "dish-55";
  p.lights[0].distance = 3;
  const double before = test::answersOf(p).lights[0].alone.total();
  Filters& f = p.lights[0].filters;
  f.gel = "warm-half";
  f.nd = 2;
  const double after = test::answersOf(p).lights[0].alone.total();
  double sum = 0;
  for (const auto& [name, stops] : losses(*findModifier("dish-55"), f, 5600)) sum += stops;
  EXPECT_NEAR(std::log2(before / after), sum, 0.01);
  EXPECT_EQ(losses(*findModifier("dish-55"), {}, 5600).size(), 0u);
}

TEST(Filters, AGridOnADishCostsAStopAtMostAndNarrowsThePool) {  // common practice, no source
  const Modifier& dish = *findModifier("dish-55");
  Filters f;
  f.grid = 30;
  const auto lost = losses(dish, f, 5600);
  ASSERT_EQ(lost.size(), 1u);
  EXPECT_GT(lost[0].second, 0.2);
  EXPECT_LE(lost[0].second, 1.0);
  Plan p = test::demoPlan();
  p.lights[0].modifier = "dish-55";
  const LightAnswer open = test::answersOf(p).lights[0];
  p.lights[0].filters.grid = 30;
  const LightAnswer gridded = test::answersOf(p).lights[0];
  EXPECT_LT(gridded.backdropStops, open.backdropStops - 1) << "off the axis, on the backdrop, much more is gone";
}

TEST(Filters, MorePowerMakesAGelPalerOnlyOnceAChannelClips) {
  Filters f;
  f.gel = "red";
  const Vec3 c = filtered(f, 5600, 5600).colour;
  auto saturation = [&](float level) {
    const double r = toneCurve(c.x * level), g = toneCurve(c.y * level);
    return (r - g) / r;
  };
  EXPECT_NEAR(srgbDecode(toneCurve(double(c.y) * 0.02)) / srgbDecode(toneCurve(double(c.x) * 0.02)), c.y / c.x, 1e-3)
      << "below the knee the colour is that of the gel";
  EXPECT_GT(saturation(0.05f), saturation(8.f));
}

TEST(Filters, SurviveTheFileAndUnknownOnesAreSaid) {
  Plan p = test::demoPlan();
  p.lights[0].filters = {"teal", "sock", 1.5, 20};
  EXPECT_EQ(readPlanText(writePlanText(p)), p);
  p.lights[0].filters.gel = "mauve";
  bool said = false;
  for (const Finding& f : checkPlan(p)) said |= f.sentence.find("mauve") != std::string::npos;
  EXPECT_TRUE(said);
  EXPECT_GT(test::answersOf(p).lights[0].alone.total(), 0) << "an unknown gel stops nothing";
}

}  // namespace
}  // namespace easel
