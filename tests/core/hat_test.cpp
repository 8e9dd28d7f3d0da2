#include <gtest/gtest.h>

#include <cmath>

#include "analysis/faults.h"
#include "analysis/plan_reader.h"
#include "cured.h"
#include "plan/placement.h"
#include "sitters/cover.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "sitters/strands.h"
#include "support.h"

namespace easel {
namespace {

const MeshPart& hatOf(const Sitter& sitter, const std::string& id) {
  for (const MeshPart& p : sitter.parts)
    if (p.garment == Garment::Hat && p.of == id) return p;
  throw std::runtime_error("no such hat");
}

// A hard light from so far above the face.
Plan highKey(const std::string& sitter, const std::string& hat) {
  Plan p = test::demoPlan();
  p.sitter.id = sitter;
  p.sitter.hat = hat;
  p.sitter.turn = 0;
  Light& key = p.lights.front();
  key.modifier = "reflector-18";
  key.hour = 5.5;
  key.distance = 1.1;
  key.height = p.sitter.eyeHeight + 1.5;
  p.lights.resize(1);
  p.panels.clear();
  p.room.height = 3.4;
  return p;
}

TEST(Hats, EveryHatSitsOnEveryHead) {
  for (const Person& person : sitterCatalogue()) {
    const auto sitter = loadSitter(person.id);
    for (const Hat& hat : hats()) {
      if (hat.garment.empty()) continue;
      const MeshPart& mesh = hatOf(*sitter, hat.id);
      float low = 1, high = -1, wide = 0;
      for (Vec3 p : mesh.position) {
        low = std::min(low, p.y);
        high = std::max(high, p.y);
        wide = std::max(wide, std::abs(p.x));
      }
      EXPECT_GT(high, sitter->landmarks.crown.y) << person.id << " " << hat.id;
      EXPECT_GT(low, 0.0) << person.id << " " << hat.id << ": the eyes are free";
      EXPECT_GT(wide, 0.09) << person.id << " " << hat.id << ": a brim";
      for (float w : mesh.headWeight) ASSERT_EQ(w, 1) << "it goes with the head";
      // The skull is inside.
      const Cover cover(mesh, *sitter);
      const Vec3 top = sitter->landmarks.crown;
      EXPECT_LT(length(cover.under(top) - top), 0.012) << person.id << " " << hat.id;
    }
  }
}

TEST(Hats, HairStaysUnderTheHat) {
  for (const char* id : {"perpetua", "isaura", "tobiah"}) {
    const auto sitter = loadSitter(id);
    const Posture posture(*sitter, {});
    const Cover cover(hatOf(*sitter, "felt"), *sitter);
    const HairStyle& style = hairStyleOf("own", sitter->hairStyle);
    const Strands bare = grown(*sitter, style, posture), under = grown(*sitter, style, posture, &cover);
    ASSERT_EQ(bare.points.size(), under.points.size());
    size_t outsideBefore = 0, outside = 0, freeMoved = 0;
    for (size_t i = 0; i < bare.points.size(); ++i) {
      const Vec3 was = bare.points[i].at, is = under.points[i].at;
      outsideBefore += length(cover.under(was) - was) > 1e-4f;
      outside += length(cover.under(is) - is) > 1e-4f;
      freeMoved += was.y < 0 && length(was - is) > 0.02f;
    }
    EXPECT_GT(outsideBefore, bare.points.size() / 50) << id << ": or there is nothing to press";
    EXPECT_EQ(outside, 0u) << id;
    EXPECT_EQ(freeMoved, 0u) << id << ": what hangs below it hangs as before";
  }
}

TEST(Hats, TippedBackTheFrontOfTheBrimRises) {
  const auto sitter = loadSitter("wren");
  const MeshPart& hat = hatOf(*sitter, "bucket");
  const auto brim = [](const MeshPart& m) {
    Vec3 front{0, 0, -1};
    for (Vec3 p : m.position)
      if (p.z > front.z) front = p;
    return front;
  };
  const Vec3 was = brim(hat), is = brim(tippedBack(hat, *sitter, 15));
  EXPECT_GT(is.y, was.y + 0.02);
  EXPECT_GT(length(tippedBack(hat, *sitter, 15).position[0] - hat.position[0]), 0.0);
}

// Found and cured on three sitters.
TEST(Hats, ABrimOverTheEyesIsFoundAndCured) {
  for (const auto& [sitter, hat] : {std::pair{"ottoline", "felt"}, {"tobiah", "bucket"}, {"sunniva", "felt"}}) {
    SCOPED_TRACE(sitter);
    const Plan p = highKey(sitter, hat);
    PlanReader reader(112, 140, 4);
    const FaceAnalysis r = reader.read(p);
    const Fault* fault = r.fault("brim-shadow");
    ASSERT_TRUE(fault);
    EXPECT_EQ(fault->where, "light A");
    EXPECT_EQ(fault->places.size(), 2u);
    // What the reading says the picture's rays say too: the hat is between the lamp and the eyes.
    const Scene scene(placedSetOf(p), loadSitter(sitter));
    for (Vec3 eye : fault->places) EXPECT_TRUE(scene.hatBetween(eye, lightPose(p, p.lights[0]).centre));
    Plan bare = p;
    bare.sitter.hat = "none";
    EXPECT_FALSE(reader.read(bare).fault("brim-shadow"));
    test::expectCured(reader, p, "brim-shadow");
  }
}

TEST(Hats, ALowKeyPassesUnderTheBrim) {
  Plan p = highKey("ottoline", "felt");
  p.lights[0].height = p.sitter.eyeHeight + 0.15;
  PlanReader reader;
  EXPECT_FALSE(reader.read(p).fault("brim-shadow"));
}

}  // namespace
}  // namespace easel
