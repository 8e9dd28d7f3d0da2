#include "gear/fittings.h"

#include <gtest/gtest.h>

#include "colour/colour.h"
#include "meter/point_meter.h"
#include "picture/develop.h"
#include "plan/check.h"
#include "plan/lamp.h"
#include "plan/placement.h"
#include "support.h"

namespace easel {
namespace {

TEST(Fittings, WarmFullTakesFlashToTungsten) {
  // 5600 K is 178.6 mired; with 131 more it is 309.6 mired = 3230 K: "5600 K to about 3200 K".
  EXPECT_NEAR(shifted(5600, 131), 3230, 5);
  EXPECT_NEAR(shifted(shifted(5600, 131), -131), 5600, 1);
  EXPECT_EQ(shifted(5600, 1e6), 1667) << "kept in the range of the colour tables";
  // The same sheet does more, in kelvin, to cool light.
  EXPECT_GT(10000 - shifted(10000, 66), 3200 - shifted(3200, 66));
}

TEST(Fittings, WarmGelUnderWarmBalanceIsNeutral) {
  Fittings f;
  f.gel = "warm-full";
  const Vec3 c = filtered(f, 5600, shifted(5600, 131)).colour;
  EXPECT_NEAR(c.x, 1, 1e-3);
  EXPECT_NEAR(c.z, 1, 1e-3);
  const Vec3 plain = filtered({}, 5600, 3200).colour;
  EXPECT_GT(plain.z, plain.x * 1.5f) << "an unfiltered rim under a warm balance looks blue";
}

TEST(Fittings, NothingGainsLight) {
  for (const Gel& g : gels())
    for (double kelvin : {2800.0, 3200.0, 5600.0, 10000.0}) {
      Fittings f;
      f.gel = g.id;
      const FilteredLight l = filtered(f, kelvin, 5600);
      EXPECT_GT(l.transmission, 0) << g.id;
      EXPECT_LE(l.transmission, 1) << g.id;
      EXPECT_NEAR(luminance(l.colour), 1, 1e-4) << g.id;
    }
  for (const Modifier& m : modifiers())
    for (const Diffusion& d : diffusions())
      for (double grid : {0.0, 5.0, 20.0, 40.0, 60.0}) {
        Fittings f;
        f.diffusion = d.id;
        f.grid = grid;
        const Modifier w = fronted(m, f);
        EXPECT_LE(w.transmission, m.transmission * (1 + 1e-9)) << m.id << " " << d.id << " " << grid;
        EXPECT_GT(w.transmission, 0);
        // A zoom or a spot gathers by its own setting; what is put on it only takes away.
        EXPECT_LE(w.axialIntensity(), fronted(m, {}).axialIntensity() * (1 + 1e-9))
            << m.id << " " << d.id << " " << grid;
      }
}

TEST(Fittings, LossesAddUpToWhatTheMeterLoses) {
  Plan p = test::demoPlan();
  p.lights[0].modifier = "dish-55";
  p.lights[0].distance = 3;
  const double before = test::answersOf(p).lights[0].alone.total();
  Fittings& f = p.lights[0].fittings;
  f.gel = "warm-half";
  f.nd = 2;
  const double after = test::answersOf(p).lights[0].alone.total();
  double sum = 0;
  for (const auto& [name, stops] : losses(*findModifier("dish-55"), f, 5600)) sum += stops;
  EXPECT_NEAR(std::log2(before / after), sum, 0.01);
  EXPECT_EQ(losses(*findModifier("dish-55"), {}, 5600).size(), 0u);
}

TEST(Fittings, AGridOnADishCostsAStopAtMostAndNarrowsThePool) {  // common practice, no source
  const Modifier& dish = *findModifier("dish-55");
  Fittings f;
  f.grid = 30;
  const auto lost = losses(dish, f, 5600);
  ASSERT_EQ(lost.size(), 1u);
  EXPECT_GT(lost[0].second, 0.2);
  EXPECT_LE(lost[0].second, 1.0);
  Plan p = test::demoPlan();
  p.lights[0].modifier = "dish-55";
  const LightAnswer open = test::answersOf(p).lights[0];
  p.lights[0].fittings.grid = 30;
  const LightAnswer gridded = test::answersOf(p).lights[0];
  EXPECT_LT(gridded.backdropStops, open.backdropStops - 1) << "off the axis, on the backdrop, much more is gone";
}

TEST(Fittings, OneGridHasOneLoss) {
  // Chosen with the front or put on it: the same light on the axis and off it.
  for (const auto& [with, without] :
       {std::pair{"reflector-18-grid20", "reflector-18"}, std::pair{"strip-30x120-grid", "strip-30x120"},
        std::pair{"softbox-40x40-grid", "softbox-40x40"}}) {
    const Modifier& chosen = *findModifier(with);
    Fittings f;
    f.grid = chosen.grid;
    const Modifier put = fronted(*findModifier(without), f);
    EXPECT_NEAR(std::log2(findModifier(without)->axialIntensity() / chosen.axialIntensity()), kGridLoss, 1e-9) << with;
    for (double off : {0.0, 8.0, 15.0})
      EXPECT_NEAR(put.axialIntensity() * put.shape(off), chosen.axialIntensity() * chosen.shape(off), 1e-9) << with;
    // A second grid takes the place of the first.
    EXPECT_NEAR(fronted(chosen, f).axialIntensity(), chosen.axialIntensity(), 1e-9) << with;
  }
}

TEST(Fittings, SheetsCostOnTheAxisOfADishWhatTheTradeSays) {  // common practice, no source
  for (const auto& [id, stops] : {std::pair{"frost", 0.33}, std::pair{"sock", 0.6}, std::pair{"white", 1.25}}) {
    Fittings f;
    f.diffusion = id;
    const auto dish = losses(*findModifier("dish-55"), f, 5600),
               narrow = losses(*findModifier("reflector-18"), f, 5600);
    ASSERT_EQ(dish.size(), 1u);
    EXPECT_NEAR(dish[0].second, stops, 0.005) << id;
    EXPECT_GT(narrow[0].second, stops + 0.2) << id << ": what scatters costs a narrow front more";
    EXPECT_LE(findDiffusion(id)->transmission, 1) << id;
  }
}

TEST(Fittings, NoFrontIsBrighterThanItsTube) {
  // The tube's own luminance, by its surface: 1 / (pi A) for a lumen. A ring of 45 mm in 5 mm glass; 2.5 x 30 mm of a
  // small flash (sizes from memory). The second law holds whatever the lens.
  const double ring = 1 / (kPi * kPi * kPi * 0.045 * 0.005), small = 1 / (kPi * kPi * 0.0025 * 0.03);
  for (const Modifier& m : modifiers()) {
    if (m.family == ModifierFamily::Continuous || m.family == ModifierFamily::Large) continue;
    const double tube = m.zooms ? small : ring;
    for (double set : {3.0, 8.0, 15.0, 35.0})
      for (double zoom : {24.0, 50.0, 200.0}) {
        Fittings f;
        f.spread = set;
        f.zoom = zoom;
        EXPECT_LE(fronted(m, f).axialLuminance(), tube * 1.001) << m.id << " " << set << " " << zoom;
      }
  }
  // Narrowed, a spot keeps its luminance and loses flux; its pool gets no brighter.
  Fittings narrow, wide;
  narrow.spread = 3;
  wide.spread = 12;
  const Modifier &spot = *findModifier("spot"), n = fronted(spot, narrow), w = fronted(spot, wide);
  EXPECT_NEAR(n.axialIntensity(), w.axialIntensity(), 1e-6);
  EXPECT_LT(n.transmission, w.transmission / 10);
}

TEST(Fittings, FrontsStandToOneAnotherAsIsUsual) {  // common practice, no source
  const auto over = [](const char* a, const char* b) {
    return std::log2(findModifier(a)->axialIntensity() / findModifier(b)->axialIntensity());
  };
  EXPECT_NEAR(over("reflector-18", "bare"), 3.3, 0.05);
  EXPECT_GT(over("para-90", "octa-90"), 0.3);
  EXPECT_LT(over("para-90", "octa-90"), 0.5);
}

TEST(Fittings, GuideNumbersAreInTheUsualOrder) {
  // Usual figures from memory, and makers measure generously: 60 to 68 of 400 Ws with an open reflector; a hot-shoe
  // flash of 60 Ws claims 58 at 105 mm, of which a meter finds half a stop to a stop less: 41 to 49.
  EXPECT_GT(guideNumber(*findUnit("mains-400")), 60);
  EXPECT_LT(guideNumber(*findUnit("mains-400")), 68);
  Fittings f;
  f.zoom = 105;
  const double tele = guideNumber(fronted(*findModifier("zoom-head"), f), findUnit("hotshoe-60")->lumenSeconds(0, 1));
  EXPECT_GT(tele, 41);
  EXPECT_LT(tele, 49);
  EXPECT_EQ(guideNumber(*findUnit("led-150")), 0) << "a lamp has none";
  // By its definition: f-number times metres, at any distance, on the meter.
  Plan p = test::demoPlan();
  p.lights.resize(1);
  p.lights[0].modifier = "reflector-18";
  p.lights[0].power = 0;
  p.lights[0].distance = 4;
  p.receptor = Receptor::Flat;
  p.meterAim = MeterAim::Light;
  p.room = {12, 16, 6, 8, 0, 0, 0, "neutral", {}};
  const LightAnswer a = test::answersOf(p).lights[0];
  EXPECT_NEAR(2 * std::log2(a.aperture * (a.distance - 0.05) / guideNumber(*findUnit("mains-400"))), 0, 0.1);
}

TEST(Fittings, TheZoomNarrowsAndBrightens) {
  const Modifier& head = *findModifier("zoom-head");
  Fittings wide, tele;
  wide.zoom = 24;
  tele.zoom = 200;
  const Modifier w = fronted(head, wide), t = fronted(head, tele);
  EXPECT_LT(t.transmission, w.transmission);
  // Twice the guide number is two stops: common practice, no source.
  const double gain = std::log2(t.axialIntensity() / w.axialIntensity());
  EXPECT_GT(gain, 1.5);
  EXPECT_LT(gain, 3);
  // 24 mm covers the picture, 42 degrees off in its corners; half intensity is a little inside them.
  EXPECT_NEAR(w.shape(0.85 * 42.03), 0.5, 0.01);
  EXPECT_LT(t.shape(42), 0.001);
}

TEST(Fittings, WhatIsTakenOutOrPutInHasItsPrice) {
  Fittings f;
  f.inner = false;
  const auto box = losses(*findModifier("softbox-60x90"), f, 5600);
  ASSERT_EQ(box.size(), 1u);
  EXPECT_LT(box[0].second, 0) << "without its inner diffuser a box gains";
  EXPECT_GT(fronted(*findModifier("softbox-60x90"), f).hotCentre, 1) << "and gets a hot centre";
  Fittings d;
  d.deflector = true;
  d.diffusion = "sock";
  d.grid = 30;
  const auto dish = losses(*findModifier("dish-55"), d, 5600);
  ASSERT_EQ(dish.size(), 3u);
  EXPECT_EQ(dish[0].first, "deflector");
  double sum = 0;
  for (const auto& [name, stops] : dish) sum += stops;
  EXPECT_NEAR(
      sum, std::log2(findModifier("dish-55")->axialIntensity() / fronted(*findModifier("dish-55"), d).axialIntensity()),
      1e-6);
}

TEST(Fittings, TheRingSitsRoundTheLens) {
  Plan p = test::demoPlan();
  p.lights[0].modifier = "ring-20";
  const LightPose pose = lightPose(p, p.lights[0]);
  const CameraPose camera = cameraPose(p, 0.8);
  EXPECT_LT(length(pose.centre - camera.eye), 0.1f);
  EXPECT_GT(dot(pose.frame.n, -camera.frame.n), 0.9999f);
  // It moves with the camera, not with what the light says.
  p.lights[0].hour = 2;
  EXPECT_EQ(length(lightPose(p, p.lights[0]).centre - pose.centre), 0);
  p.camera.distance = 3;
  EXPECT_GT(length(lightPose(p, p.lights[0]).centre - pose.centre), 0.9f);
}

TEST(Fittings, MorePowerMakesAGelPalerOnlyOnceAChannelClips) {
  Fittings f;
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

TEST(Fittings, SurviveTheFileAndUnknownOnesAreSaid) {
  Plan p = test::demoPlan();
  Fittings& f = p.lights[0].fittings;
  f.gel = "teal";
  f.diffusion = "sock";
  f.nd = 1.5;
  f.grid = 20;
  f.doors.left = 35;
  f.deflector = true;
  f.inner = false;
  f.pattern = "slats";
  f.spread = 8;
  f.kelvin = 3400;
  EXPECT_EQ(readPlanText(writePlanText(p)), p);
  f.gel = "mauve";
  bool said = false;
  for (const Finding& found : checkPlan(p)) said |= found.sentence.find("mauve") != std::string::npos;
  EXPECT_TRUE(said);
  EXPECT_GT(test::answersOf(p).lights[0].alone.total(), 0) << "an unknown gel stops nothing";
}

TEST(Fittings, EggCrateHasSquareCells) {
  Modifier box = *findModifier("softbox-60x90");
  Fittings f;
  f.grid = 40;
  const Modifier worn = fronted(box, f);
  ASSERT_TRUE(worn.squareCells);
  EXPECT_FALSE(fronted(*findModifier("reflector-18"), f).squareCells);
  EXPECT_EQ(worn.shape(41, 0), 0) << "nothing past its angle across the cells";
  EXPECT_GT(worn.shape(45, 45), 0) << "but a little along their diagonal";
  EXPECT_EQ(worn.shape(51, 45), 0);
  // A ray half way to the angle across, and half way up: 1/2 * 1/2.
  const double half = std::tan(40 * kPi / 180) / 2, off = std::atan(half * std::sqrt(2.0)) * 180 / kPi;
  const double lobe = box.shape(off);
  EXPECT_NEAR(worn.shape(off, 45) / lobe, 0.25, 1e-6);
  // The emitter is the same: its flux by brute force over the hemisphere.
  const Emitter e(worn, {{0, 3, 0}, Frame::facing({0, 0, -1})});
  double lux = 0;
  constexpr int n = 300;
  for (int i = 0; i < n; ++i)
    for (int k = 0; k < n; ++k) {
      const double x = (i + 0.5) / n * 40 - 20, y = (k + 0.5) / n * 40 - 20;
      lux += directLux(nullptr, e, {float(x), float(3 + y), -15}, {0, 0, 1}, Receptor::Flat, 16);
    }
  EXPECT_NEAR(lux * (40.0 / n) * (40.0 / n), worn.transmission, 0.01 * worn.transmission);
}

}  // namespace
}  // namespace easel
