#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "analysis/eye_pictures.h"
#include "analysis/map.h"
#include "analysis/plan_reader.h"
#include "analysis/ways.h"
#include "formats/reading_json.h"
#include "plan/edit.h"
#include "plan/panels.h"
#include "plan/roles.h"
#include "support.h"

namespace easel {
namespace {

// Four faces of different shape, three turns of the head.
struct Face {
  const char* sitter;
  double turn;
};
void PrintTo(const Face& f, std::ostream* o) { *o << f.sitter << " turned " << f.turn; }
const std::vector<Face>& faces() {
  static const std::vector<Face> all = [] {
    std::vector<Face> v;
    for (const char* id : {"ottoline", "tobiah", "wren", "anselm"})
      for (double turn : {-30., 0., 30.}) v.push_back({id, turn});
    return v;
  }();
  return all;
}

class Patterns : public testing::TestWithParam<Face> {
 protected:
  Patterns() {
    plan_ = test::demoPlan();
    plan_.room = {8, 10, 4, 5, 0.35, 0.2, 0.55, "neutral", {}};
    plan_.sitter.id = GetParam().sitter;
    plan_.sitter.turn = GetParam().turn;
    plan_.lights[0].modifier = "reflector-18";
    // Lights stand in no scene: each face's is built once, for all that is asked of it.
    auto& [scene, chart] = of_[{GetParam().sitter, GetParam().turn}];
    if (!scene) {
      ProgressiveRender studio(8, 8);
      studio.setPlan(plan_);
      scene = studio.scene();
      chart = *chartFace(*scene);
    }
    scene_ = scene;
    chart_ = chart;
  }
  static void TearDownTestSuite() { of_.clear(); }
  // The key at a place round the face; what the whole set reads as.
  LightingAnalysis at(double azimuth, double elevation, double distance = 1.5) {
    plan_.lights[0] = lightAt(placedSetOf(plan_), *scene_, plan_.lights[0], {azimuth, elevation}, distance);
    return readLighting(*scene_, placedSetOf(plan_), chart_);
  }
  Plan plan_;
  std::shared_ptr<const Scene> scene_;
  FaceChart chart_;

 private:
  static std::map<std::pair<std::string, double>, std::pair<std::shared_ptr<const Scene>, FaceChart>> of_;
};
std::map<std::pair<std::string, double>, std::pair<std::shared_ptr<const Scene>, FaceChart>> Patterns::of_;

TEST_P(Patterns, TheTextbookPlacesAreNamedRight) {
  auto expect = [&](FacePattern wanted, double azimuth, double elevation) {
    for (double side : {1., -1.}) {
      const LightingAnalysis r = at(side * azimuth, elevation);
      EXPECT_EQ(r.pattern.pattern, wanted) << side * azimuth << ", " << elevation << ": " << r.sentence;
      EXPECT_EQ(r.pattern.next, FacePattern::None) << side * azimuth << ", " << elevation << ": " << r.name;
      if (std::abs(azimuth) > 8) {
        EXPECT_EQ(r.litLeft, side > 0);
      }
    }
  };
  expect(FacePattern::Butterfly, 0, 45);
  expect(FacePattern::Loop, 35, 30);
  expect(FacePattern::Rembrandt, 55, 40);
  expect(FacePattern::Split, 90, 0);
  expect(FacePattern::BackLight, 150, 20);
}

TEST_P(Patterns, BroadAndShortFollowTheTurn) {
  const double turn = GetParam().turn;
  // Turned to camera right the face shows the camera its right cheek.
  const LightingAnalysis left = at(40, 30), right = at(-40, 30);
  EXPECT_EQ(left.breadth, turn == 0 ? Breadth::Straight : turn > 0 ? Breadth::Short : Breadth::Broad) << left.name;
  EXPECT_EQ(right.breadth, turn == 0 ? Breadth::Straight : turn > 0 ? Breadth::Broad : Breadth::Short) << right.name;
  if (turn != 0) {
    EXPECT_NE(left.name.find(turn > 0 ? "Short" : "Broad"), std::string::npos) << left.name;
  }
}

TEST_P(Patterns, AFillFromBelowClosesTheShell) {
  at(0, 42);
  EXPECT_FALSE(readLighting(*scene_, placedSetOf(plan_), chart_).clamshell);
  Light below = lightAt(placedSetOf(plan_), *scene_, plan_.lights[0], {0, -35}, 0.8);
  below.id = "B";
  below.role = Role::Fill;
  below.power = plan_.lights[0].power - 3.5;
  plan_.lights.push_back(below);
  const LightingAnalysis r = readLighting(*scene_, placedSetOf(plan_), chart_);
  EXPECT_TRUE(r.clamshell) << r.sentence;
  EXPECT_EQ(r.name, "Clamshell");
  EXPECT_EQ(r.other, "B");
}

// The map of the plan's own key says at each place what the key makes when it is put there, and where it cannot be put.
TEST_P(Patterns, TheKeysMapSaysWhatTheKeyMakesThere) {
  at(40, 30, 1.2);
  plan_.room.height = 2.2;
  const PlacedSet set = placedSetOf(plan_);
  const auto coarse = keyMap(scene_, set, 20);
  ASSERT_TRUE(coarse);
  EXPECT_EQ(coarse->key, "A");
  EXPECT_NEAR(coarse->distance, 1.2, 0.01);
  const auto fine = finer(*coarse, set);
  ASSERT_TRUE(fine);
  EXPECT_EQ(fine->map.step, 10);
  int roomless = 0, same = 0, all = 0;
  for (int r = 0; r < fine->map.rows; ++r)
    for (int c = 0; c < fine->map.columns; ++c) {
      const PatternAnalysis& here = fine->map.at(c, r);
      const Light there = lightAt(set, *scene_, plan_.lights[0], here.light, coarse->distance);
      const bool stands = fine->hasRoom[size_t(r) * size_t(fine->map.columns) + size_t(c)];
      EXPECT_EQ(stands, hasRoom(set, there));
      roomless += !stands;
      if ((r + c) % 7) continue;
      // Looked at by itself; between equal neighbours the map takes it for one of them.
      const PatternAnalysis by = patternFrom(*scene_, set, *chartFace(*scene_, 0.003f), set.lights[0].lamp->front,
                                             here.light, coarse->distance);
      same += by.pattern == here.pattern && by.next == here.next;
      ++all;
    }
  EXPECT_GT(roomless, 0) << "under a ceiling of 2.2 m";
  EXPECT_GE(same, 0.95 * all) << same << " of " << all;
  for (const auto& [letter, place] : seenFromFace(*scene_, plan_).lights)
    if (letter == "A") {
      EXPECT_NEAR(place.azimuth, 40, 0.5);
      EXPECT_NEAR(place.elevation, 30, 0.5);
    }
  EXPECT_FALSE(keyMap(scene_, set, 20, [] { return false; })) << "not wanted any more";
}

// Going round from the nose the patterns come in their order and none comes twice: names do not flicker.
TEST_P(Patterns, NamesComeInOrderRoundTheFace) {
  const PatternMap m = patternMap(placedSetOf(plan_), *scene_, 10);
  auto rank = [](FacePattern p) {
    switch (p) {
      case FacePattern::Flat:
      case FacePattern::Butterfly:
        return 0;
      case FacePattern::Loop:
        return 1;
      case FacePattern::Rembrandt:
        return 2;
      case FacePattern::Split:
        return 3;
      default:
        return 4;
    }
  };
  auto at = [&](int c, int r) {
    const PatternAnalysis& x = m.at(c, r);
    return x.next == FacePattern::None ? rank(x.pattern) : (rank(x.pattern) + rank(x.next)) / 2.0;
  };
  int split = 0, rembrandt = 0, loop = 0;
  for (int r = 0; r < m.rows; ++r) {
    if (m.elevationMost - m.step * r > 50) continue;  // from above other shadows rule
    const int middle = m.columns / 2;
    for (int c = middle + 1; c < m.columns; ++c) EXPECT_GE(at(c, r), at(c - 1, r)) << "column " << c << " row " << r;
    for (int c = middle - 1; c >= 0; --c) EXPECT_GE(at(c, r), at(c + 1, r)) << "column " << c << " row " << r;
    for (int c = 0; c < m.columns; ++c) {
      split += m.at(c, r).pattern == FacePattern::Split;
      rembrandt += m.at(c, r).pattern == FacePattern::Rembrandt;
      loop += m.at(c, r).pattern == FacePattern::Loop;
    }
  }
  EXPECT_GT(split, 20);
  EXPECT_GT(rembrandt, 20);
  EXPECT_GT(loop, 15);
}

INSTANTIATE_TEST_SUITE_P(FourFaces, Patterns, testing::ValuesIn(faces()), [](const auto& info) {
  const double t = info.param.turn;
  return std::string(info.param.sitter) + (t < 0 ? "Right" : t > 0 ? "Left" : "Straight");
});

TEST(Features, AreThoseOfAFace) {
  Plan p = test::demoPlan();
  for (const char* id : {"ottoline", "tobiah", "wren", "anselm"}) {
    p.sitter.id = id;
    ProgressiveRender s(8, 8);
    s.setPlan(p);
    const FaceFeatures f = measureFace(*s.scene());
    // Adult heads, generous limits (from memory): nose 42 to 62 mm long, 26 to 42 wide; mouth and chin below it.
    EXPECT_NEAR(f.noseLength, 0.052, 0.010) << id;
    EXPECT_NEAR(2 * f.noseHalfWidth, 0.034, 0.008) << id;
    EXPECT_NEAR(f.eyeWidth, 0.027, 0.006) << id;
    EXPECT_LT(f.noseBase.y, f.noseTip.y) << id;
    EXPECT_LT(f.mouthLine, f.noseBase.y - 0.008f) << id;
    EXPECT_LT(f.chinLine, f.mouthLine - 0.015f) << id;
    EXPECT_NEAR(f.halfWidth, 0.058, 0.010) << id;
  }
}

TEST(Features, GoWithTheHead) {
  Plan p = test::demoPlan();
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  const FaceFeatures straight = measureFace(*s.scene());
  p.sitter.turn = 35;
  p.sitter.tilt = 10;
  s.setPlan(p);
  const FaceFeatures turned = measureFace(*s.scene());
  EXPECT_NEAR(straight.noseLength, turned.noseLength, 0.002);
  EXPECT_NEAR(straight.eyeWidth, turned.eyeWidth, 0.003);
}

TEST(Ways, EachOfTheThreeMakesThePattern) {
  Plan p = test::masterPlan();
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  const PatternWays w = waysTo(*s.scene(), p, FacePattern::Rembrandt);
  ASSERT_TRUE(w.found);
  ASSERT_EQ(w.ways.size(), 3u);
  for (const Way& way : w.ways) {
    ProgressiveRender other(8, 8);
    other.setPlan(way.plan);
    const LightingAnalysis r = readLighting(*other.scene(), placedSetOf(way.plan), *chartFace(*other.scene()));
    EXPECT_EQ(r.pattern.pattern, FacePattern::Rembrandt) << way.sentence << ": " << r.name;
    EXPECT_NE(way.sentence.find_first_of("0123456789"), std::string::npos) << "with a number: " << way.sentence;
  }
  // Light and head go the same angle, the one against the other.
  EXPECT_NEAR(p.sitter.turn - w.ways[1].plan.sitter.turn, w.to.azimuth - w.from.azimuth, 0.5);
}

TEST(Ways, WhatStandsIsLeftAndWhatCannotBeIsSaid) {
  Plan p = test::masterPlan();
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  const PatternWays loop = waysTo(*s.scene(), p, FacePattern::Loop);
  EXPECT_TRUE(loop.found);
  EXPECT_TRUE(loop.ways.empty());
  EXPECT_NE(loop.sentence.find("already makes"), std::string::npos);
  p.lights[0].modifier = "ring-20";
  s.setPlan(p);
  EXPECT_NE(waysTo(*s.scene(), p, FacePattern::Split).sentence.find("round the lens"), std::string::npos);
  p.lights.clear();
  s.setPlan(p);
  EXPECT_NE(waysTo(*s.scene(), p, FacePattern::Split).sentence.find("no light"), std::string::npos);
}

TEST(Reading, AScrimAndAFlagAreNoShadowsOfTheFace) {
  // A key that comes through cloth, its own front hidden, is still read.
  Plan p = loadPlan(std::string(EASEL_SOURCE_DIR) + "/demo/marrow-lane-maker.easel.json");
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  const LightingAnalysis r = readLighting(*s.scene(), placedSetOf(p), *chartFace(*s.scene()));
  EXPECT_EQ(r.pattern.pattern, FacePattern::Rembrandt) << r.sentence;
}

TEST(Reading, MoreFillMeansALowerRatioOnTheSkin) {
  Plan p = loadPlan(std::string(EASEL_SOURCE_DIR) + "/demo/marrow-lane-two-lights.easel.json");
  PlanReader reader;
  double last = 99;
  for (double under : {-4., -2., -1.}) {
    p.lights[1].targetStops = under;
    p = reader.balanced(p);
    const FaceAnalysis r = reader.read(p);
    EXPECT_LT(r.measures.ratioStops(), last);
    EXPECT_GT(r.measures.ratioStops(), 0);
    last = r.measures.ratioStops();
  }
}

TEST(Reading, TheOutlineIsSeenAllRoundAndItsWeakPlaceFound) {
  Plan p = test::masterPlan();
  PlanReader reader;
  const FaceAnalysis lit = reader.read(p);
  ASSERT_GT(lit.measures.outline.size(), 25u);
  ASSERT_GE(lit.measures.weakest, 0);
  int left = 0, right = 0;
  for (const OutlinePlace& o : lit.measures.outline)
    if (o.part == OutlinePlace::Part::Shoulder) ++(o.pixel.x < 80 ? left : right);
  EXPECT_GE(left, 2);
  EXPECT_GE(right, 2);
  int hair = 0;
  for (const OutlinePlace& o : lit.measures.outline) hair += o.part == OutlinePlace::Part::Hair;
  EXPECT_GT(hair, 5);
  // Without the hair light the hair stands out less.
  Plan without = p;
  without.light("C")->on = false;
  const FaceAnalysis dark = reader.read(without);
  auto top = [](const FaceAnalysis& r) {
    double sum = 0;
    int n = 0;
    for (const OutlinePlace& o : r.measures.outline)
      if (o.part == OutlinePlace::Part::Hair) sum += o.inside, ++n;
    return sum / n;
  };
  EXPECT_GT(top(lit), top(dark) + 2);
  // The backdrop darkens with its light.
  Plan unlit = p;
  unlit.light("D")->on = false;
  EXPECT_LT(reader.read(unlit).measures.backdropLightness, lit.measures.backdropLightness - 5);
}

TEST(Reading, ShadowEdgesOrderAsFrontsDo) {
  Plan p = test::demoPlan();
  Light& l = p.lights[0];
  auto nose = [&](const char* front, double distance) {
    l.modifier = front;
    l.hour = 4.8;
    l.distance = distance;
    l.height = 1.25 + 0.55 * distance;
    p.room = {8, 10, 5, 5, 0.35, 0.2, 0.55, "neutral", {}};
    PlanReader reader(80, 100, 2);
    return reader.read(p).measures.nose.width;
  };
  const double hard = nose("reflector-18", 2), dish = nose("dish-55", 1.4), box = nose("octa-120", 1.4);
  EXPECT_LT(hard, dish);
  EXPECT_LT(dish, box);
}

TEST(Catchlights, MoveWithTheLightAndAreHiddenByTheLid) {
  Plan p = test::demoPlan();
  p.lights[0].modifier = "octa-55";
  ProgressiveRender s(8, 8);
  auto read = [&](double hour, double height) {
    p.lights[0].hour = hour;
    p.lights[0].height = height;
    s.setPlan(p);
    return readCatchlights(*s.scene(), placedSetOf(p));
  };
  const Catchlights right = read(4.8, 1.6), left = read(7.2, 1.6);
  ASSERT_TRUE(right.all[0].lives);
  ASSERT_TRUE(left.all[0].lives);
  EXPECT_GT(right.all[0].x, 0.05);
  EXPECT_LT(left.all[0].x, -0.05);
  EXPECT_GT(right.all[0].y, 0.02) << "a light over the eyes shows in the upper half";
  EXPECT_NEAR(right.all[0].hour, 2, 1);
  EXPECT_NEAR(left.all[0].hour, 10, 1);
  p.lights[0].distance = 0.6;
  const Catchlights high = read(5.5, 2.45);
  for (const Catchlight& c : high.all) {
    EXPECT_FALSE(c.lives);
    EXPECT_FALSE(c.hiddenBy.empty());
    ASSERT_GT(c.lowerTo, 0) << "it says how low";
    EXPECT_LT(c.lowerTo, 2.45);
  }
  EXPECT_TRUE(read(5.5, high.all[0].lowerTo - 0.02).all[0].lives);
}

TEST(Catchlights, ShapeIsTheFronts) {
  Plan p = test::demoPlan();
  Light& l = p.lights[0];
  l.hour = 5.2;
  l.height = 1.45;
  l.distance = 1.0;
  ProgressiveRender s(8, 8);
  auto shape = [&](const char* front) {
    l.modifier = front;
    s.setPlan(p);
    return readCatchlights(*s.scene(), placedSetOf(p)).all[0].shape;
  };
  EXPECT_EQ(shape("strip-30x120"), "tall strip");
  EXPECT_EQ(shape("softbox-40x40"), "square");
  EXPECT_EQ(shape("octa-55"), "eight-sided");
}

// A window that is closed does not wait for pictures that nobody will see.
TEST(EyePictures, AreLeftAsSoonAsNobodyWantsThem) {
  int asked = 0;
  const auto eyes = renderEyes(test::masterPlan(), [&] { return ++asked < 3; });
  EXPECT_EQ(asked, 3);
  for (const EyePicture& eye : eyes) EXPECT_TRUE(eye.picture.rgba.empty());
  EXPECT_TRUE(renderPicture(test::masterPlan(), 24, 30, 2, [] { return false; }).rgba.empty());
}

TEST(ReadingJson, HoldsWhatIsRead) {
  const Plan p = test::masterPlan();
  PlanReader reader;
  const FaceAnalysis r = reader.read(p);
  const auto j = nlohmann::json::parse(writeReadingText(p, r));
  EXPECT_EQ(j["format"], "jolly-easel-reading");
  EXPECT_EQ(j["pattern"]["id"], "loop");
  EXPECT_EQ(j["pattern"]["key"], "A");
  EXPECT_TRUE(j["faults"].is_array());
  EXPECT_GT(j["outline"]["places"].size(), 20u);
  EXPECT_EQ(j["catchlights"].size(), r.catchlights.all.size());
  const auto f = nlohmann::json::parse(writeFaultsText(p, r));
  EXPECT_EQ(f["count"], 0);
}

TEST(Wanted, IsKeptInThePlanAndUndone) {
  Plan p = test::demoPlan();
  const Edit back = apply(p, SetWanted{{"dead-eyes"}});
  EXPECT_EQ(readPlanText(writePlanText(p)).wanted, std::vector<std::string>{"dead-eyes"});
  apply(p, back);
  EXPECT_TRUE(p.wanted.empty());
  EXPECT_EQ(writePlanText(p).find("wanted"), std::string::npos) << "not written when there is none";
}

}  // namespace
}  // namespace easel
