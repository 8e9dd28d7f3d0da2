// The set as a whole: cross light, profile, outline only; evidence; places round the face.
#include <gtest/gtest.h>

#include <set>

#include "analysis/map.h"
#include "analysis/remedies.h"
#include "analysis/ways.h"
#include "colour/colour.h"
#include "meter/spots.h"
#include "picture/overlays.h"
#include "plan/lamp.h"
#include "plan/roles.h"
#include "rendering/progressive_render.h"
#include "support.h"

namespace easel {
namespace {

struct Room {
  Plan plan = test::demoPlan();
  ProgressiveRender studio{8, 8};
  std::shared_ptr<const Scene> scene;

  Room() {
    plan.room = {8, 10, 4, 5, 0.35, 0.2, 0.55, "neutral", {}};
    plan.lights[0].modifier = "reflector-18";
    stand();
  }
  void stand() {
    studio.setPlan(plan);
    scene = studio.scene();
  }
  Light& place(size_t i, double azimuth, double elevation, double distance = 1.5) {
    return plan.lights[i] = lightAt(placedSetOf(plan), *scene, plan.lights[i], {azimuth, elevation}, distance);
  }
  Light& add(const char* id, Role role, double azimuth, double elevation, double distance = 1.5) {
    Light l = plan.lights[0];
    l.id = id;
    l.role = role;
    plan.lights.push_back(l);
    return place(plan.lights.size() - 1, azimuth, elevation, distance);
  }
  LightingAnalysis read() const { return readLighting(*scene, placedSetOf(plan), *chartFace(*scene)); }
};

TEST(Lighting, TwoKeysFromBothSidesAreCrossLight) {
  Room r;
  r.place(0, 45, 20);
  EXPECT_FALSE(r.read().cross);
  r.add("B", Role::Other, -45, 20);
  const LightingAnalysis both = r.read();
  EXPECT_TRUE(both.cross) << both.sentence;
  EXPECT_EQ(both.name, "Cross light");
  EXPECT_EQ(both.other, "B");
  r.plan.lights[1].power -= 2;
  EXPECT_FALSE(r.read().cross) << "two stops under it is a fill";
}

TEST(Lighting, ATurnedFaceIsAProfile) {
  Room r;
  r.plan.sitter.turn = 85;
  r.stand();
  r.place(0, 10, 15);
  EXPECT_TRUE(r.read().profile);
  EXPECT_EQ(r.read().name, "Profile");
  r.place(0, 150, 20);
  EXPECT_EQ(r.read().name, "Profile, light from behind");
}

TEST(Lighting, FromBehindAloneItIsBackLight) {
  Room r;
  r.place(0, 160, 25);
  const LightingAnalysis back = r.read();
  EXPECT_EQ(back.pattern.pattern, FacePattern::BackLight);
  EXPECT_TRUE(back.silhouette);
  EXPECT_EQ(back.name, "Back light");
  PlanReader reader;
  const FaceAnalysis reading = reader.read(reader.balanced(r.plan));
  EXPECT_FALSE(reading.fault("dead-eyes")) << "a look that wants no spark is not told so";
  EXPECT_FALSE(reading.fault("deep-sockets"));
}

TEST(Lighting, ARingMakesAFlatFace) {
  Room r;
  r.plan.lights[0].modifier = "ring-20";
  r.plan.camera.height = r.plan.sitter.eyeHeight;
  r.stand();
  EXPECT_EQ(r.read().pattern.pattern, FacePattern::Flat) << r.read().sentence;
}

TEST(Lighting, WithoutALightItSaysSo) {
  Room r;
  r.plan.lights[0].on = false;
  EXPECT_EQ(r.read().name, "No light on the face");
  r.plan.lights.clear();
  EXPECT_TRUE(r.read().key.empty());
}

TEST(Lighting, TheKeyIsWhatIsCalledSoElseWhatGivesMost) {
  Room r;
  r.place(0, 40, 30);
  r.plan.lights[0].role = Role::Other;
  r.add("B", Role::Other, -30, 20, 2.5);
  const auto key = [&] {
    const PlacedSet set = placedSetOf(r.plan);
    const PlacedLight* found = patternKey(*r.scene, set);
    return found ? found->light.id : "none";
  };
  EXPECT_EQ(key(), "A") << "nearer, so it gives most";
  r.plan.lights[1].role = Role::Key;
  EXPECT_EQ(key(), "B");
  r.plan.lights[1].on = false;
  EXPECT_EQ(key(), "A");
}

TEST(Lighting, TheEvidenceLiesOnTheFace) {
  Room r;
  r.place(0, 55, 40);
  const LightingAnalysis l = r.read();
  ASSERT_EQ(l.pattern.pattern, FacePattern::Rembrandt);
  ASSERT_FALSE(l.noseShadow.empty());
  ASSERT_FALSE(l.triangle.empty());
  ASSERT_FALSE(l.terminator.empty());
  const Vec3 nose = r.scene->studioPoint(r.scene->sitter().landmarks.noseTip);
  for (const auto* outline : {&l.noseShadow, &l.triangle, &l.terminator})
    for (const auto& [a, b] : *outline) {
      EXPECT_LT(length(a - nose), 0.17f);
      EXPECT_LT(length(a - b), 0.02f);
    }
  // The triangle is on the side away from the light: camera left of the nose for a key at camera right.
  Vec3 middle{};
  for (const auto& [a, b] : l.triangle) middle += a;
  middle = middle / float(l.triangle.size());
  EXPECT_LT(middle.x, nose.x - 0.01f);
  EXPECT_GT(middle.y, nose.y - 0.04f);
}

TEST(Lighting, TheTriangleHasTheSizeThatIsSaid) {
  Room r;
  r.place(0, 58, 38);
  const PatternSigns s = r.read().pattern.signs;
  ASSERT_GT(s.triangleArea, 30);
  EXPECT_LE(s.triangleArea, s.triangleWidth * s.triangleLength * 1.05) << "it fits into its own box";
  EXPECT_GT(s.triangleArea, 0.25 * s.triangleWidth * s.triangleLength);
  EXPECT_NEAR(s.eyeWidth, 25, 4);
  EXPECT_NEAR(s.noseLength, 51, 8);
}

TEST(FaceLight, IsNeverMoreThanOpenAndMirrorsTheFace) {
  Room r;
  const FaceChart& chart = *chartFace(*r.scene, 0.004f);
  auto share = [&](double azimuth) {
    const Source s(Emitter(frontOf(r.plan.lights[0]), poseRoundFace(placedSetOf(r.plan), *r.scene, {azimuth, 25}, 1.5)),
                   {});
    const LightOnFace on = lightOnFace(*r.scene, chart, s, 12);
    double lit = 0, all = 0;
    for (size_t k = 0; k < chart.cells.size(); ++k) {
      EXPECT_LE(on.arrives[k], on.open[k] * 1.0001f + 1e-9f);
      if (!chart.skin(k)) continue;
      all += 1;
      lit += on.arrives[k] > 0.3f * on.reference;
    }
    return lit / all;
  };
  const double left = share(50), right = share(-50), front = share(0);
  EXPECT_NEAR(left, right, 0.05) << "heads are as good as symmetric";
  EXPECT_GT(front, left + 0.1);
}

TEST(Round, TheFaceAPlaceComesBackAsItWasAsked) {
  Room r;
  for (double turn : {0., 25., -40.}) {
    r.plan.sitter.turn = turn;
    r.plan.sitter.tilt = turn / 8;
    r.stand();
    for (double azimuth : {-120., -35., 0., 60.})
      for (double elevation : {-15., 10., 45.}) {
        const LightPose p = poseRoundFace(placedSetOf(r.plan), *r.scene, {azimuth, elevation}, 1.3);
        const FaceDirection back = directionFromFace(placedSetOf(r.plan), *r.scene, p.centre);
        EXPECT_NEAR(back.azimuth, azimuth, 0.2) << turn;
        EXPECT_NEAR(back.elevation, elevation, 0.2) << turn;
        EXPECT_NEAR(length(p.centre - r.scene->studioPoint(r.scene->sitter().landmarks.noseTip)), 1.3, 1e-3);
        const Light l = lightAt(placedSetOf(r.plan), *r.scene, r.plan.lights[0], {azimuth, elevation}, 1.3);
        EXPECT_LT(length(lightPose(r.plan, l).centre - p.centre), 0.12f) << "within what a stand's own limits take";
      }
  }
}

TEST(Measures, TheBrightestPlaceFollowsTheBackgroundLight) {
  Plan p = test::masterPlan();
  p.light("A")->on = p.light("B")->on = p.light("C")->on = false;
  PlanReader reader;
  auto aside = [&](double hour) {
    Light& d = *p.light("D");
    d.hour = hour;
    d.distance = 1.2;
    d.height = 1.3;
    d.pan = hour > 6 ? -60 : 60;
    return reader.read(p).measures.brightestAside;
  };
  const double left = aside(9.5), right = aside(2.5);
  EXPECT_NE(left, right);
  EXPECT_LT(left * right, 0) << "one to each side: " << left << ", " << right;
}

TEST(Measures, BurntAndBlockedFollowTheExposure) {
  Plan p = test::demoPlan();
  PlanReader reader;
  p = reader.balanced(p);
  const Measures right = reader.read(p).measures;
  EXPECT_LT(right.burnt, 0.01);
  EXPECT_LT(right.blocked, 0.25);
  p.lights[0].power += 2.5;
  EXPECT_GT(reader.read(p).measures.burnt, right.burnt + 0.05);
  p.lights[0].power -= 6;
  EXPECT_GT(reader.read(p).measures.blocked, right.blocked + 0.2);
}

TEST(Measures, EveryWordIsASentence) {
  for (const char* name : {"first-light", "two-lights", "master", "fiddler", "maker"}) {
    PlanReader reader;
    const FaceAnalysis r =
        reader.read(loadPlan(std::string(EASEL_SOURCE_DIR) + "/demo/marrow-lane-" + name + ".easel.json"));
    EXPECT_GE(r.measures.words.size(), 4u);
    for (const std::string& w : r.measures.words) {
      EXPECT_TRUE(w.ends_with(".")) << w;
      EXPECT_EQ(w.find("nan"), std::string::npos) << w;
      EXPECT_EQ(w.find("-0.0"), std::string::npos) << w;
    }
    EXPECT_TRUE(r.lighting.sentence.ends_with(".")) << r.lighting.sentence;
  }
}

TEST(Remedies, LeaveLockedLightsAlone) {
  Plan p = test::masterPlan();
  p.light("B")->targetStops = 0.8;
  PlanReader reader;
  p = reader.balanced(p);
  ASSERT_TRUE(reader.read(p).fault("fill-over-key"));
  p.light("B")->locked = true;
  for (const Remedy& r : findRemedies(reader, p, "fill-over-key"))
    EXPECT_EQ(*r.plan.light("B"), *p.light("B")) << r.text;
}

TEST(Remedies, SpeakInTheUsersUnitsAndStopWhenTold) {
  Plan p = test::masterPlan();
  p.light("A")->height = 2.5;
  PlanReader reader;
  RemedySearch feet;
  feet.spelling.lengths = LengthUnit::Feet;
  feet.most = 1;
  const auto found = findRemedies(reader, p, "ceiling", feet);
  ASSERT_FALSE(found.empty());
  EXPECT_NE(found.front().text.find(" ft"), std::string::npos) << found.front().text;
  RemedySearch stopped;
  stopped.progress = [](double) { return false; };
  EXPECT_TRUE(findRemedies(reader, p, "ceiling", stopped).empty());
  EXPECT_TRUE(findRemedies(reader, p, "halo").empty()) << "no such fault, nothing to cure";
}

TEST(Remedies, OfTwoOfAKindTheOneThatIsMeant) {
  Plan p = test::masterPlan();
  p.light("A")->height = 2.5;
  p.light("B")->height = 2.5;
  PlanReader reader;
  const FaceAnalysis r = reader.read(p);
  ASSERT_TRUE(r.fault("ceiling", "light A"));
  ASSERT_TRUE(r.fault("ceiling", "light B"));
  RemedySearch b;
  b.where = "light B";
  b.most = 1;
  const auto found = findRemedies(reader, p, "ceiling", b);
  ASSERT_FALSE(found.empty());
  EXPECT_LT(found.front().plan.light("B")->height, 2.5);
  EXPECT_EQ(found.front().plan.light("A")->height, 2.5);
}

TEST(GreyCard, ComesOutAtMidGreyWhereItIsExposedAsMetered) {
  Plan p = test::demoPlan();
  p.camera.extends = false;
  EXPECT_EQ(greyCardValue(p.camera, 0), 118);
  EXPECT_LT(greyCardValue(p.camera, -1), 90);
  EXPECT_GT(greyCardValue(p.camera, 1), 155);
  EXPECT_LE(greyCardValue(p.camera, 9), 255);
  p.camera.closedBy = 1;
  EXPECT_EQ(greyCardValue(p.camera, 1), 118) << "the lens is closed a stop further";
}

// Against the picture of a card before the face, which the lens, focused near, shows darker than metered.
TEST(GreyCard, IsWhatThePictureHas) {
  Plan p = test::demoPlan();
  p.camera.distance = 1.2;
  p.camera.focalLength = 120;
  p.camera.aimBelowEyes = 0;
  p.camera.height = p.sitter.eyeHeight;
  Panel card;
  card.id = "1";
  card.kind = "board";
  card.width = card.height = 0.3;
  card.hour = 6;
  card.distance = 0.35;
  card.above = p.sitter.eyeHeight;
  card.turn = 180;  // its front to the camera
  card.reflectance = 0.18;
  p.panels = {card};
  p.lights.resize(1);
  p.lights[0].hour = 5.5;
  p.lights[0].distance = 2;
  p.lights[0].height = p.sitter.eyeHeight;
  for (const bool extends : {true, false}) {
    p.camera.extends = extends;
    ProgressiveRender studio(40, 50);
    studio.setPlan(p);
    const Interrupt never;
    while (studio.improve(never, 64) != ProgressiveRender::Progress::Done) {
    }
    const auto met = surfaceAt(studio.layers(), 20, 25);
    ASSERT_TRUE(met && met->surface == Surface::Panel);
    Plan pinned = p;
    pinned.spots = {pinAt(*studio.scene(), placedSetOf(p), *met)};
    const SpotTable table = spotTable(*studio.scene(), placedSetOf(pinned));
    double stops = -99;
    for (size_t i = 0; i < table.spots.size(); ++i)
      if (table.spots[i].pin) stops = table.spots[i].stops(table.together[i], p.camera);
    const Picture shown = developPicture(studio.layers(), placedSetOf(p));
    double code = 0;
    for (int y = 23; y < 28; ++y)
      for (int x = 18; x < 23; ++x) code += shown.rgba[size_t(y * shown.width + x) * 4 + 1] / 25.0;
    // Green, of a lamp that the camera is balanced for.
    EXPECT_NEAR(code, greyCardValue(p.camera, stops), 3)
        << (extends ? "a lens that extends" : "one that focuses inside");
  }
}

// From further away one sees the mean of the light: of black and white side by side code 188, not 128.
TEST(Prints, AverageLight) {
  ProgressiveRender studio(16, 20);
  Plan p = test::demoPlan();
  studio.setPlan(p);
  const Interrupt never;
  while (studio.improve(never, 4) != ProgressiveRender::Progress::Done) {
  }
  const Picture full = developPicture(studio.layers(), placedSetOf(p)),
                half = developPicture(studio.layers(), placedSetOf(p), {}, 2);
  ASSERT_EQ(half.width, full.width / 2);
  for (int y = 0; y < half.height; ++y)
    for (int x = 0; x < half.width; ++x)
      for (int c = 0; c < 3; ++c) {
        double light = 0;
        for (int k = 0; k < 4; ++k)
          light +=
              srgbDecode(full.rgba[size_t((2 * y + k / 2) * full.width + 2 * x + k % 2) * 4 + size_t(c)] / 255.0) / 4;
        EXPECT_NEAR(half.rgba[size_t(y * half.width + x) * 4 + size_t(c)], 255 * srgbEncode(light), 1);
      }
}

}  // namespace
}  // namespace easel
