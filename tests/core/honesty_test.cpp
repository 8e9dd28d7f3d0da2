// Numbers and words that can be trusted: no light is said to be none, a balance comes out, words go by role, gear is a
// value, what can be interrupted is.
#include <gtest/gtest.h>

#include <atomic>
#include <cmath>
#include <nlohmann/json.hpp>

#include "balance/advice.h"
#include "balance/backdrop_tone.h"
#include "balance/balance.h"
#include "colour/colour.h"
#include "exposure/meter.h"
#include "exposure/stops.h"
#include "gear/inventory.h"
#include "meter/quality.h"
#include "meter/spots.h"
#include "plan/check.h"
#include "plan/roles.h"
#include "propose/propose.h"
#include "rendering/renderer.h"
#include "support.h"

namespace easel {
namespace {

TEST(NoLight, IsSaidAndNotReckonedWith) {
  Plan p = test::demoPlan();
  p.ambient.lux = 0;
  for (Light& l : p.lights) l.on = false;
  const Answers a = test::answersOf(p);
  EXPECT_EQ(a.face.total(), 0);
  EXPECT_EQ(signedStops(a.ambientStops), "no light");
  EXPECT_EQ(signedStops(a.backdropStops), "no light");
  EXPECT_EQ(toneName(a.backdropValue), "black");
  for (const Finding& f : adviceOn(p, a, nullptr))
    EXPECT_EQ(f.sentence.find("9.0 stops"), std::string::npos) << f.sentence;
}

TEST(NoLight, ALightThatPointsAwayKeepsItsPower) {
  Plan p = test::demoPlan();
  p.lights[0].modifier = "snoot";
  p.lights[0].pan = 180;
  p.room.wallReflectance = p.room.floorReflectance = p.room.ceilingReflectance = 0;
  p.backdrop.material = "velvet-deep";
  Answers a = test::answersOf(p);
  for (LightAnswer& r : a.lights) r.apertureFull = 0;
  EXPECT_EQ(powerForAperture(a, p.lights[0], 8).stops, p.lights[0].power);
}

TEST(NoLight, AProfileOfZerosOrBeyondAllMeasureIsRefused) {
  EXPECT_THROW(AngularProfile({0, 90}, {0}, {{0, 0}}), std::invalid_argument);
  EXPECT_THROW(AngularProfile({0, 90}, {0}, {{1e300, 1e300}}), std::invalid_argument);
  EXPECT_THROW(AngularProfile({0, 90}, {0}, {{NAN, 1}}), std::invalid_argument);
  EXPECT_NO_THROW(AngularProfile({0, 90}, {0}, {{1, 0}}));
}

TEST(Csv, FieldsAreEscapedAndDarknessHasAFloor) {
  Plan p = test::demoPlan();
  SpotTable t;
  t.spots = {{"pin-1", "The \"glue pot\", left", {}, {}}, {"pin-2", "=1+1", {}, {}}, {"pin-3", "two\nlines", {}, {}}};
  t.lights = {"A"};
  t.luxSeconds = {{1e-30}, {1}, {0}};
  t.together = {1e-30, 1, 0};
  const std::string csv = writeSpotCsv(t, p.camera);
  EXPECT_NE(csv.find("pin-1,\"The \"\"glue pot\"\", left\",flat,0,,,0,,,"), std::string::npos) << csv;
  EXPECT_NE(csv.find("pin-2,'=1+1,"), std::string::npos) << csv;
  EXPECT_NE(csv.find("\"two\nlines\""), std::string::npos) << csv;
  EXPECT_EQ(csv.find("-0.00"), std::string::npos) << csv;
}

// With ambient, a locked light and one at its lowest power the sum must still come out.
TEST(Balance, BySumReachesTheApertureWhateverStandsStill) {
  Plan p = test::demoPlan();
  p.lights.push_back(proposeLight(p, "fill-opposite").light);
  p.lights.push_back(proposeLight(p, "fill-lens").light);
  p.lights[1].locked = true;
  p.lights[1].power = -4;
  p.lights[2].unit = "mains-1200";  // cannot go low enough
  p.lights[2].targetStops = -6;
  p.ambient.lux = 60;
  const double wanted = exposureForAperture(p.camera.aperture, p.camera.iso, calibrationConstant(p.receptor));
  // The locked light is put where it takes a good part of the whole, but not all of it.
  Answers a = test::answersOf(p);
  p.lights[1].power += std::log2(0.35 * wanted / a.lights[1].atFace.total());
  a = test::answersOf(p);
  const Balanced b = balance(p, a, BalanceBy::Sum);
  Plan after = p;
  after.lights = b.lights;
  EXPECT_EQ(after.lights[1], p.lights[1]);
  const double off = std::log2(test::answersOf(after).face.total() / wanted);
  EXPECT_LT(std::abs(off), 0.08) << "left: " << off;
}

TEST(Balance, BySumSaysWhenItCannot) {
  Plan p = test::demoPlan();
  p.lights.push_back(proposeLight(p, "fill-opposite").light);
  p.lights[1].locked = true;
  p.lights[1].power = 0;
  p.lights[1].unit = "mains-1200";
  p.lights[1].distance = 0.6;
  const Balanced b = balance(p, test::answersOf(p), BalanceBy::Sum);
  ASSERT_FALSE(b.outOfReach.empty());
  EXPECT_NE(b.outOfReach[0].find("over"), std::string::npos) << b.outOfReach[0];
}

struct KitInUse {
  explicit KitInUse(const Inventory& k) { takeIntoUse(k); }
  ~KitInUse() { takeIntoUse({}); }
};

TEST(Proposals, TakeNoMoreOfAKindThanTheKitHas) {
  Inventory k;
  k.units = {{"mains-400", 2}, {"battery-200", 1}};
  k.modifiers = {{"octa-90", 1}, {"softbox-60x90", 1}, {"reflector-18", 1}, {"strip-30x120-grid", 1}};
  const KitInUse kit(k);
  for (const char* look : {"carved"}) {
    Wish w;
    w.look = look;
    for (const Proposed& p : propose(w, test::demoPlan(), {}, 1)) {
      std::map<std::string, int> units, fronts;
      for (const Light& l : p.plan.lights) {
        EXPECT_LE(++units[l.unit], k.units[l.unit]) << p.name << " " << l.unit;
        EXPECT_LE(++fronts[l.modifier], k.modifiers[l.modifier]) << p.name << " " << l.modifier;
      }
    }
  }
}

TEST(Remedies, OfferOnlyWhatCanBeMeant) {
  Plan p = test::demoPlan();
  p.lights[0].distance = 5;
  p.camera.aperture = 22;
  p.room.depth = 12;
  const Answers a = test::answersOf(p);
  std::string all;
  for (const std::string& s : adviceOnPower(p, p.lights[0], a.lights[0])) all += s + "\n";
  EXPECT_NE(all, "");
  for (const char* never : {"Window", "Lamp in the picture", "Ring", "LED", "iffusion"})
    EXPECT_EQ(all.find(never), std::string::npos) << all;
}

TEST(Words, GoByTheLightsRole) {
  Plan p = test::demoPlan();
  p.lights.push_back(proposeLight(p, "background").light);
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  for (const LightQuality& q : lightQualities(*s.scene(), placedSetOf(p))) {
    std::string all;
    for (const std::string& w : q.words) all += w + "\n";
    if (p.light(q.light)->role == Role::Background) {
      EXPECT_EQ(all.find("Feather it"), std::string::npos) << all;
      EXPECT_EQ(all.find("nose"), std::string::npos) << all;
      EXPECT_NE(all.find("backdrop"), std::string::npos) << all;
    } else {
      EXPECT_NE(all.find("nose"), std::string::npos) << all;
    }
  }
}

TEST(Gear, IsAValueForTheLayersTracedWithIt) {
  Inventory k;
  Modifier box = *findModifier("softbox-60x90");
  box.id = "own-box";
  k.ownModifiers = {box};
  const KitInUse kit(k);
  Plan p = test::demoPlan();
  p.lights[0].modifier = "own-box";
  ProgressiveRender s(40, 50);
  s.setPlan(p);
  s.finish(2);
  s.setPlan(p);
  EXPECT_TRUE(s.layers().current);
  k.ownModifiers[0].width = 0.2;
  takeIntoUse(k);
  s.setPlan(p);
  EXPECT_FALSE(s.layers().current) << "its size has changed, its id has not";
}

TEST(Gear, IntegralsAreRememberedByValue) {
  Modifier m = *findModifier("softbox-40x40-grid");
  const double first = m.profileIntegral();
  EXPECT_EQ(m.profileIntegral(), first);
  m.grid = 20;
  EXPECT_LT(m.profileIntegral(), first) << "another grid is another shape";
}

TEST(Interrupts, EndATableOfSpots) {
  Plan p = test::demoPlan();
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  std::atomic<std::uint64_t> epoch{1};
  const Interrupt raised(epoch, 0);
  EXPECT_TRUE(spotTable(*s.scene(), placedSetOf(p), raised).spots.empty());
  EXPECT_TRUE(lightQualities(*s.scene(), placedSetOf(p), raised).empty());
  EXPECT_FALSE(spotTable(*s.scene(), placedSetOf(p)).spots.empty());
}

TEST(WhiteBalance, NeitherBurstsNorSteps) {
  for (double white = 1700; white <= 2200; white += 10) {
    const Vec3 lamp = lightColour(5600, white), own = lightColour(white, white);
    for (int c = 0; c < 3; ++c) {
      EXPECT_LT(lamp[c], 12) << white << " K";
      EXPECT_NEAR(own[c], 1, 2e-3) << white << " K";
    }
  }
  // One kelvin more is a step that nobody sees, at 4000 K too.
  for (double k = 1700; k < 12000; k += 1) {
    const Vec3 a = lightColour(k, 5600), b = lightColour(k + 1, 5600);
    for (int c = 0; c < 3; ++c) EXPECT_NEAR(a[c], b[c], 0.004) << k << " K";
  }
}

TEST(Check, SaysWhatItShowsAsSomethingElse) {
  Plan p = test::demoPlan();
  p.backdrop.material = "no such cloth";
  p.room.paint = "plaid";
  p.lights[0].fittings.gel = "mauve";
  int aside = 0;
  for (const Finding& f : checkPlan(p)) aside += f.leftAside;
  EXPECT_EQ(aside, 3);
}

TEST(Check, SpeaksInFeetWhenAsked) {
  Plan p = test::demoPlan();
  p.lights[0].height = 4;
  p.backdrop.distance = 9;
  for (const Finding& f : checkPlan(p, {LengthUnit::Feet, ApertureStyle::Tenths}))
    EXPECT_EQ(f.sentence.find(" m "), std::string::npos) << f.sentence;
}

}  // namespace
}  // namespace easel
