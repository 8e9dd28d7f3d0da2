#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "balance/advice.h"
#include "balance/backdrop_tone.h"
#include "exposure/aperture.h"
#include "formats/answers_json.h"
#include "gear/kit.h"
#include "meter/spots.h"
#include "rendering/progressive_render.h"
#include "support.h"

namespace easel {
namespace {

using test::answersOf;

TEST(Answers, ThePowerItNamesGivesTheApertureAskedFor) {
  Plan p = test::demoPlan();
  for (double n : {2.8, 5.6, 8.0, 11.0}) {
    p.camera.aperture = n;
    const Answers a = answersOf(p);
    ASSERT_EQ(a.lights[0].setting.shortfall, 0) << n;
    Plan set = p;
    set.lights[0].power = a.lights[0].setting.stops;
    EXPECT_NEAR(answersOf(set).lights[0].stopsFromWorking, 0, 0.06) << n << ": within half of the unit's tenth";
    EXPECT_NEAR(powerForAperture(a, p.lights[0], n).stops, a.lights[0].setting.stops, 1e-9);
  }
}

TEST(Answers, OneEighthToOneHalfIsTwoStops) {
  Plan p = test::demoPlan();
  p.lights[0].power = -3;
  const double low = answersOf(p).lights[0].aperture;
  p.lights[0].power = -1;
  EXPECT_NEAR(2 * std::log2(answersOf(p).lights[0].aperture / low), 2, 1e-9);
}

TEST(Answers, TargetMovesThePower) {
  Plan p = test::demoPlan();
  const double key = answersOf(p).lights[0].wantedPower;
  p.lights[0].targetStops = -2;
  EXPECT_NEAR(answersOf(p).lights[0].wantedPower, key - 2, 1e-9);
}

TEST(Answers, OutOfReachComesWithRemedies) {
  Plan p = test::demoPlan();
  p.camera.aperture = 64;
  p.lights[0].distance = 1.5;
  Answers a = answersOf(p);
  EXPECT_GT(a.lights[0].setting.shortfall, 0.5);
  auto help = adviceOnPower(p, p.lights[0], a.lights[0]);
  ASSERT_FALSE(help.empty());
  p.camera.aperture = 1.0;
  p.camera.iso = 400;
  a = answersOf(p);
  EXPECT_LT(a.lights[0].setting.shortfall, -0.5);
  help = adviceOnPower(p, p.lights[0], a.lights[0]);
  ASSERT_FALSE(help.empty());
  EXPECT_NE(help[0].find("ND"), std::string::npos);
}

TEST(Answers, TheRemedyMoveNearerWorks) {
  Plan p = test::demoPlan();
  p.lights[0].distance = 1.6;
  p.lights[0].height = 1.3;
  p.camera.aperture = answersOf(p).lights[0].apertureFull * std::exp2(0.5 / 2);  // half a stop too much asked
  const Answers a = answersOf(p);
  EXPECT_NEAR(a.lights[0].setting.shortfall, 0.5, 0.06);
  p.lights[0].distance -= a.lights[0].distance * (1 - std::exp2(-0.25));
  EXPECT_LT(answersOf(p).lights[0].setting.shortfall, 0.12) << "inverse square is a good first step";
}

TEST(Answers, AmbientShareFollowsTheShutter) {
  Plan p = test::demoPlan();
  p.ambient.lux = 2000;
  p.camera.shutter = 1.0 / 125;
  const Answers fast = answersOf(p);
  p.camera.shutter = 1.0 / 15;
  const Answers slow = answersOf(p);
  EXPECT_LT(slow.face.flashShare(), fast.face.flashShare());
  EXPECT_NEAR(slow.ambientStops - fast.ambientStops, std::log2(125.0 / 15), 1e-6);
}

TEST(Answers, ContinuousLightIsAmbientToTheMeter) {
  Plan p = test::demoPlan();
  p.lights[0].unit = "led-150";
  const Answers a = answersOf(p);
  EXPECT_EQ(a.face.flash, 0);
  EXPECT_GT(a.face.steady, 0);
}

TEST(Answers, TheBackdropIsToldWhereTheCameraSeesIt) {
  // A lamp over the lens and cloth close behind: the shadow of the head lies where nobody sees it.
  Plan p = test::demoPlan();
  p.lights.resize(1);
  Light& l = p.lights[0];
  l.modifier = "reflector-18";
  l.fittings = {};
  l.pan = l.tiltOffset = 0;
  l.hour = 6;
  l.distance = p.camera.distance;
  l.height = p.camera.height;
  p.backdrop.distance = 0.6;
  p.ambient.lux = 0;
  PinnedSpot pin;
  pin.id = pin.name = "beside";
  pin.y = p.sitter.eyeHeight - 0.05;
  pin.z = -p.backdrop.distance + 0.01;
  for (double x : {0.45, -0.45}) {
    pin.x = x;
    pin.id += x > 0 ? "-right" : "-left";
    p.spots.push_back(pin);
  }
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  const Answers a = computeAnswers(*s.scene(), placedSetOf(p));
  const SpotTable t = spotTable(*s.scene(), placedSetOf(p));
  const double beside = (t.together[t.spots.size() - 1] + t.together[t.spots.size() - 2]) / 2;
  // Told a hand's breadth past the head, 9 cm nearer the middle of the beam than the pins.
  EXPECT_NEAR(std::log2(a.backdrop.total() / beside), 0.1, 0.12);
  EXPECT_GT(a.backdropStops, -4);
  EXPECT_NEAR(a.backdropStops, std::log2(a.backdrop.total() / a.face.total()), 1e-6);
}

TEST(Answers, DaylightFromAWindowGoesOnFromTheWalls) {
  Plan p = test::demoPlan();
  p.lights.resize(1);
  Light& l = p.lights[0];
  l.unit = "window-sky";
  l.modifier = "window-100x130";
  l.fittings = {};
  l.pan = l.tiltOffset = 0;
  l.hour = 3;
  l.distance = 1.7;
  l.height = 1.4;
  p.room = {4, 5.5, 2.6, 2.5, 0.8, 0.3, 0.8, "neutral", {}};
  p.ambient.lux = 0;
  const auto shadowSide = [](const Plan& plan) {
    ProgressiveRender s(8, 8);
    s.setPlan(plan);
    const SpotTable t = spotTable(*s.scene(), placedSetOf(plan));
    for (size_t i = 0; i < t.spots.size(); ++i)
      if (t.spots[i].id == "hair-right") return t.together[i];
    return 0.0;
  };
  const double light = shadowSide(p);
  p.room.wallReflectance = p.room.floorReflectance = p.room.ceilingReflectance = 0;
  EXPECT_GT(light, 20 * shadowSide(p));
}

TEST(Answers, BackdropTonesAreNamedInOrder) {
  std::string last;
  int changes = 0;
  for (double v : {0.002, 0.02, 0.06, 0.18, 0.4, 0.84, 3.3}) {
    const std::string name = toneName(v);
    changes += name != last;
    last = name;
  }
  EXPECT_EQ(changes, 7);
  EXPECT_EQ(toneName(0.18), "mid grey");
}

TEST(Answers, PointerReadingSharesSumToOne) {
  const Plan p = test::demoPlan();
  ProgressiveRender s(64, 80);
  s.setPlan(p);
  s.finish(1);
  int read = 0;
  for (int y = 10; y < 80; y += 10)
    for (int x = 8; x < 64; x += 8) {
      const SpotReading r = readPixel(s.layers(), placedSetOf(p), x, y);
      if (r.surface == Surface::Nothing) continue;
      ++read;
      double sum = 0;
      for (const auto& share : r.shares) sum += share.share;
      EXPECT_NEAR(sum, 1, 1e-9);
    }
  EXPECT_GT(read, 20);
}

TEST(Answers, PointerOnTheFaceAgreesWithTheMeterAtTheFace) {
  const Plan p = test::demoPlan();
  ProgressiveRender s(64, 80);
  s.setPlan(p);
  const auto scene = s.scene();
  const Answers a = computeAnswers(*scene, placedSetOf(p));
  const Vec3 to = normalize(lightPose(p, p.lights[0]).centre - a.meterSpot);
  EXPECT_NEAR(2 * std::log2(readSpot(*scene, placedSetOf(p), a.meterSpot, to, Surface::Skin).aperture / a.aperture), 0,
              0.05);
}

TEST(Answers, JsonIsWhatTheDocumentSays) {
  const Plan p = test::demoPlan();
  const Answers a = answersOf(p);
  const auto j = nlohmann::json::parse(writeAnswersText(p, a));
  EXPECT_EQ(j["format"], "jolly-easel-readings");
  EXPECT_EQ(j["lights"][0]["id"], "A");
  EXPECT_NEAR(j["lights"][0]["aperture"]["exact"].get<double>(), a.lights[0].aperture, 1e-3);
  EXPECT_FALSE(j.contains("spots"));
  SpotTable t;
  t.spots = {{"meter", "Meter", {}, {}, Receptor::Dome, true}, {"chin", "Chin", {}, {}}};
  t.together = {4, 0};
  t.error = {0, 0.03};
  const auto spots = nlohmann::json::parse(writeAnswersText(p, a, &t))["spots"];
  ASSERT_EQ(spots.size(), 2u);
  EXPECT_EQ(spots[0]["receptor"], "dome");
  EXPECT_FALSE(spots[0].contains("error")) << "it is the figure of the answers";
  EXPECT_TRUE(spots[1]["stopsFromWorking"].is_null());
  EXPECT_NEAR(spots[1]["error"].get<double>(), 0.03, 1e-9);
  const auto w = nlohmann::json::parse(writePowerText(p, a, 8));
  EXPECT_EQ(w["lights"][0]["shortfall"], 0.0);
}

}  // namespace
}  // namespace easel
