// What the camera makes of the light: the lens's extension, a shutter that is faster than its sync time, and what a
// unit gives at its power.
#include <gtest/gtest.h>

#include "balance/balance.h"
#include "exposure/meter.h"
#include "formats/plan_json.h"
#include "plan/check.h"
#include "plan/framing.h"
#include "plan/lamp.h"
#include "plan/lens.h"
#include "plan/placement.h"
#include "plan/sync.h"
#include "support.h"

namespace easel {
namespace {

TEST(Lens, ExtensionIsThatOfTheThinLens) {
  Camera c;
  c.focalLength = 85;
  c.distance = 1.2 + kFaceDepth;
  // 1 / f = 1 / u + 1 / v (thin lens): v = 85 * 1200 / 1115 = 91.5 mm, 7.6 % more; (v / f)^2 is 0.21 stop.
  EXPECT_NEAR(imageDistance(c), 85.0 * 1200 / (1200 - 85), 1e-9);
  EXPECT_NEAR(extensionStops(c), 0.212, 0.001);
  // At life size (u = 2 f) the bellows factor is 4, two stops: tables of close-up photography.
  c.distance = 0.17 + kFaceDepth;
  EXPECT_NEAR(extensionStops(c), 2, 1e-6);
  c.distance = 50;
  EXPECT_LT(extensionStops(c), 0.01);
  c.distance = 0.01;
  EXPECT_NEAR(extensionStops(c), 2, 1) << "nearer than a lens can go: finite";
  c.distance = 1.28;
  c.extends = false;
  EXPECT_EQ(extensionStops(c), 0);
  EXPECT_EQ(imageDistance(c), 85);
}

TEST(Lens, TheFramingIsWhatThePictureShows) {
  for (bool extends : {true, false})
    for (double focal : {50.0, 85.0, 135.0}) {
      Plan p = test::demoPlan();
      p.camera.extends = extends;
      p.camera.focalLength = focal;
      const Framing& wanted = framings()[1];
      p.camera = framed(p, wanted);
      EXPECT_EQ(framingOf(p).id, wanted.id);
      const double shown = 2 * double(cameraPose(p).tanHalfHeight) * focusDistance(p.camera);
      EXPECT_NEAR(shown, wanted.height, 1e-6) << focal;
    }
}

TEST(Lens, NearByThePictureIsDarkerThanAHandHeldMeterKnows) {
  Plan p = test::demoPlan();
  p.camera.distance = 1.28;
  p.camera.focalLength = 85;
  const Answers with = test::answersOf(p);
  p.camera.extends = false;
  const Answers without = test::answersOf(p);
  EXPECT_NEAR(with.aperture, without.aperture, 1e-9) << "the meter is not in the camera";
  EXPECT_NEAR(std::log2(without.backdropValue / with.backdropValue), 0.212, 0.002);
}

Plan flashed(double shutter) {
  Plan p = test::demoPlan();
  p.lights.resize(1);
  p.lights[0].unit = "mains-400";
  p.ambient.lux = 15;
  p.camera.shutter = shutter;
  p.camera.syncShutter = 1.0 / 200;
  return p;
}
std::vector<float> columns(const Plan& p, int width, int height, bool rows = false) {
  ProgressiveRender s(width, height);
  s.setPlan(p);
  s.finish(2);
  std::vector<float> planes[3];
  linearPicture(s.layers(), placedSetOf(p), {}, planes);
  std::vector<float> out(size_t(rows ? height : width), 0.f);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) out[size_t(rows ? y : x)] += planes[1][size_t(y * width + x)];
  return out;
}

TEST(Shutter, OverSyncTheSecondCurtainHidesTheFlash) {
  // 1/250 against 1/200: four fifths of the sensor are open when the flash fires.
  Plan at = flashed(1.0 / 200), over = flashed(1.0 / 250);
  at.ambient.lux = over.ambient.lux = 0;
  const auto whole = columns(at, 80, 100), banded = columns(over, 80, 100);
  for (size_t x = 0; x < 62; ++x) EXPECT_FLOAT_EQ(banded[x], whole[x]) << x;
  for (size_t x = 66; x < 80; ++x) EXPECT_EQ(banded[x], 0) << x;
  EXPECT_NEAR(darkBand(over.camera), 0.2, 1e-9);
  EXPECT_EQ(darkBand(at.camera), 0);
  // A picture that lies has it at its foot: the curtains run along the sensor's short side.
  for (Plan* p : {&at, &over}) p->camera = inFrame(*p, 1.5);
  const auto high = columns(at, 90, 60, true), low = columns(over, 90, 60, true);
  for (size_t y = 0; y < 46; ++y) EXPECT_FLOAT_EQ(low[y], high[y]) << y;
  for (size_t y = 50; y < 60; ++y) EXPECT_EQ(low[y], 0) << y;
}

TEST(Shutter, AmbientIsThereInTheBandAndTheMeterSeesAllOfTheFlash) {
  Plan p = flashed(1.0 / 250);
  const auto lit = columns(p, 80, 100);
  for (float v : lit) EXPECT_GT(v, 0);
  const double over = test::answersOf(p).face.flash;
  p.camera.shutter = 1.0 / 200;
  EXPECT_NEAR(over, test::answersOf(p).face.flash, 1e-9);
}

TEST(Shutter, HighSpeedSyncLightsAllOfTheFrameAtItsPrice) {
  Plan p = flashed(1.0 / 200);
  p.lights[0].unit = "battery-600";
  const Unit& unit = *findUnit("battery-600");
  const double full = lampGives(p.lights[0], 0, p.camera).flash;
  p.camera.shutter = 1.0 / 800;
  ASSERT_EQ(syncOf(unit, p.camera), Sync::HighSpeed);
  // Its own loss, and two stops for a quarter of the time.
  EXPECT_NEAR(std::log2(full / lampGives(p.lights[0], 0, p.camera).flash), unit.highSpeedLoss + 2, 1e-9);
  p.ambient.lux = 0;
  const auto lit = columns(p, 80, 100);
  for (float v : lit) EXPECT_GT(v, 0);
  // The finding speaks of it; a unit without it is warned of, and on sync neither is said.
  const auto said = [](const Plan& plan, const char* what) {
    const auto found = checkPlan(plan);
    return std::any_of(found.begin(), found.end(),
                       [&](const Finding& f) { return f.sentence.find(what) != std::string::npos; });
  };
  EXPECT_TRUE(said(p, "High-speed sync"));
  EXPECT_FALSE(said(p, "gets no flash"));
  p.lights[0].unit = "mains-400";
  EXPECT_TRUE(said(p, "75 % of the picture, on its right, gets no flash from A"));
  p.lights[0].on = false;
  EXPECT_FALSE(said(p, "gets no flash"));
  p.lights[0].on = true;
  p.camera.shutter = 1.0 / 200;
  EXPECT_FALSE(said(p, "gets no flash"));
}

TEST(Shutter, ACropShowsItsPartOfTheBand) {
  Camera c;
  c.shutter = 1.0 / 250;
  c.syncShutter = 1.0 / 200;
  c.sensorWidth = 24;
  c.sensorHeight = 36;
  c.frame = 0.5;  // narrower than the sensor: 18 of 24 mm are used, from 3 to 21; open up to 19.2
  EXPECT_NEAR(darkBand(c), 1.8 / 18, 1e-9);
  EXPECT_NEAR(openAt(c, c.frame, 16.2 / 18), 0.5, 1e-9);
  EXPECT_EQ(openAt(c, c.frame, 0.5), 1);
  EXPECT_EQ(openAt(c, c.frame, 0.99), 0);
}

TEST(Lamp, RecyclesAndLastsByItsPower) {
  const Unit& mains = *findUnit("mains-400");
  EXPECT_NEAR(mains.readyAfter(-1), mains.recycle / 2, 1e-12) << "energy is charged at an even rate";
  const Unit& battery = *findUnit("battery-600");
  EXPECT_NEAR(battery.flashDuration(0), battery.duration, 1e-12);
  EXPECT_NEAR(battery.flashDuration(battery.scale.lowestStops), battery.durationLowest, 1e-12);
  EXPECT_LT(battery.flashDuration(-3), battery.duration);
  Light l = test::demoPlan().lights[0];
  l.unit = "battery-600";
  l.power = -2;
  Camera c;
  const auto words = whatItGives(l, c);
  std::string all;
  for (const std::string& w : words) all += w + " ";
  EXPECT_NE(all.find("Ready again after 0.4 s"), std::string::npos) << all;
  EXPECT_NE(all.find("(t0.1)"), std::string::npos) << all;
  c.shutter = 1.0 / 1000;
  all.clear();
  for (const std::string& w : whatItGives(l, c)) all += w + " ";
  EXPECT_NE(all.find("High-speed sync at 1/1000"), std::string::npos) << all;
}

TEST(Lamp, DriftsWithItsPowerAndShowsIt) {
  Light l = test::demoPlan().lights[0];
  l.unit = "battery-600";
  const Unit& unit = *findUnit(l.unit);
  l.power = 0;
  EXPECT_EQ(lampKelvin(l), unit.kelvin);
  l.power = -6;
  EXPECT_NEAR(1e6 / lampKelvin(l) - 1e6 / unit.kelvin, 6 * unit.drift * 1.0, 0.01) << "in mired";
  const Vec3 low = lampColour(l, unit.kelvin);
  EXPECT_GT(low.z, low.x) << "cut short it is bluer";
  l.unit = "mains-400";
  EXPECT_EQ(lampKelvin(l), findUnit("mains-400")->kelvin) << "none is known of it";
}

TEST(Lamp, AModellingLampThatBurnsOnCountsAsSteadyLight) {
  Plan p = flashed(1.0 / 60);
  p.ambient.lux = 0;
  Light& l = p.lights[0];
  l.power = -8;
  const LuminousExposure off = test::answersOf(p).face;
  EXPECT_EQ(off.steady, 0);
  l.modelling = true;
  const Answers on = test::answersOf(p);
  EXPECT_NEAR(on.face.flash, off.flash, 1e-9);
  // 2400 lm for a sixtieth are 40 lm s; the flash gives 400 * 25 / 256 = 39.
  EXPECT_NEAR(on.face.steady / on.face.flash, 2400.0 / 60 / (400 * 25 / 256.0), 1e-6);
  EXPECT_GT(lampColour(l, 5600).z, 0.9f);
  const Vec3 both = lampOf(l, Catalogue::inUse())->light(p.camera);
  EXPECT_GT(both.x, both.z * 1.3f) << "half of it is warm";
  // What power gives the wanted level: the lamp's share is there already.
  const LightAnswer& a = on.lights[0];
  l.power = a.wantedPower;
  EXPECT_NEAR(test::answersOf(p).lights[0].stopsFromWorking, l.targetStops, 0.01);
  // So does every other way to a power: that for an f-number, and the balance of the sum.
  for (const double f : {a.apertureLowest * 1.5, a.apertureLowest * 2.5}) {
    const auto setting = powerForAperture(on, l, f);
    l.power = setting.stops;
    EXPECT_NEAR(2 * std::log2(test::answersOf(p).lights[0].aperture / f), 0, 0.06) << f;
  }
  p.camera.aperture = a.apertureLowest * 2;
  p.lights.push_back(l);
  p.lights[1].id = "B";
  p.lights[1].role = Role::Fill;
  p.lights[1].hour = 6.5;
  p.lights = balance(p, test::answersOf(p), BalanceBy::Sum).lights;
  EXPECT_NEAR(2 * std::log2(test::answersOf(p).aperture / p.camera.aperture), 0, 0.08);
  // It stays in the file.
  const Plan back = readPlanText(writePlanText(p));
  EXPECT_TRUE(back.lights[0].modelling);
  EXPECT_TRUE(back.camera.extends);
}

}  // namespace
}  // namespace easel
