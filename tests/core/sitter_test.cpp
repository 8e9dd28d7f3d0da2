#include <gtest/gtest.h>

#include <algorithm>
#include <fstream>
#include <map>

#include "files/atomic_file.h"
#include "sitters/colouring.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "support.h"
#include "transport/scene.h"

namespace easel {
namespace {

// The tree of strands takes longest to build; who asks about clothes and feet does without.
Plan hairless() {
  Plan plan = test::demoPlan();
  plan.sitter.hairStyle = "shaved";
  plan.sitter.beard = "none";
  return plan;
}

TEST(Sitters, AllOfTheCatalogueAreBakedAndWhole) {
  for (const Person& info : sitterCatalogue()) {
    const auto s = loadSitter(info.id);
    std::map<Surface, int> parts;
    for (const MeshPart& p : s->parts) {
      if (worn(*s, p, findOutfit(info.outfit)->clothing(), 1.6)) ++parts[p.surface];
      EXPECT_GT(p.triangles.size(), 100u);
      for (const Vec3& n : p.normal) ASSERT_NEAR(length(n), 1, 1e-3);
    }
    for (Surface need : {Surface::Eye, Surface::Cornea, Surface::Brow, Surface::Lash})
      EXPECT_EQ(parts[need], 1) << info.id << " " << int(need);
    EXPECT_GT(s->ground.triangles.size(), 3000u) << "a scalp";
    EXPECT_TRUE(s->headField.sound() && s->bodyField.sound());
    EXPECT_EQ(parts[Surface::Skin], 3) << "head, hands and what the garment leaves bare";
    // Top, trousers, shoes, teeth; the apron's bib, two straps and skirt; a shirt and a cravat under some.
    const Outfit& outfit = *findOutfit(info.outfit);
    EXPECT_EQ(parts[Surface::Cloth], 4 + 4 * outfit.apron + !outfit.shirt.empty() + !outfit.tie.empty()) << info.id;
  }
}

TEST(Sitters, LandmarksAreWhereAFaceHasThem) {
  for (const Person& info : sitterCatalogue()) {
    const auto s = loadSitter(info.id);
    const Landmarks& l = s->landmarks;
    EXPECT_NEAR(l.eyeLeft.y, 0, 0.004) << info.id << ": eye level is the origin";
    EXPECT_NEAR(l.eyeLeft.x, -l.eyeRight.x, 0.003);
    // Distance between the pupils of adults: 52 to 78 mm (ANSUR survey range, value from memory).
    EXPECT_GT(l.eyeLeft.x - l.eyeRight.x, 0.052);
    EXPECT_LT(l.eyeLeft.x - l.eyeRight.x, 0.078);
    EXPECT_GT(l.noseTip.z, l.eyeLeft.z);
    EXPECT_LT(l.chin.y, l.noseTip.y);
    EXPECT_GT(l.crown.y, l.forehead.y);
    EXPECT_GT(l.cheekLeft.x, 0);
    EXPECT_LT(l.cheekRight.x, 0);
    EXPECT_NEAR(l.crown.y - l.chin.y, 0.225, 0.035) << "head height of an adult, m";
  }
}

// Rays at the trunk beside the opening of what they wear, from before and from behind.
TEST(Sitters, NoSkinStandsOutOfTheClothesHoweverTheHeadTurns) {
  Plan plan = hairless();
  plan.sitter.eyeHeight = 1.6;
  plan.backdrop.distance = 3;
  for (const Person& info : sitterCatalogue())
    for (const Outfit& outfit : outfits()) {
      if (outfit.apron) continue;  // over the same garments
      plan.sitter.id = info.id;
      plan.sitter.outfit = outfit.id;
      // Open at the neck further down than a shirt is.
      const bool low = outfit.id == "coat" || outfit.id == "dress";
      const float aside = outfit.id == "dress" ? 0.126f : 0.15f;  // arms hang beside it
      for (double turn : {-50., 0., 50.}) {
        plan.sitter.turn = turn;
        const Scene scene(placedSetOf(plan), loadSitter(info.id));
        int cloth = 0, bare = 0;
        for (float side : {-1.f, 1.f})
          for (float y = 1.6f - 0.62f; y < 1.6f - (low ? 0.4f : 0.26f); y += 0.006f)
            for (float x = -aside; x <= aside; x += 0.006f) {
              if (side > 0 && std::abs(x) < 0.07f) continue;
              const auto hit = scene.intersect({x, y, side * 1.5f}, {0, 0, -side}, 1);
              if (!hit || hit->surface == Surface::Backdrop || hit->surface == Surface::Wall) continue;
              ++(hit->surface == Surface::Cloth ? cloth : bare);
            }
        EXPECT_GT(cloth, 1700) << info.id << " " << outfit.id;
        EXPECT_EQ(bare, 0) << info.id << " " << outfit.id << " " << turn;
      }
    }
}

TEST(Sitters, StrapsOfTheApronLieOnTheShirtFromTheBibToTheShoulder) {
  Plan plan = hairless();
  plan.sitter.eyeHeight = 1.6;
  plan.sitter.turn = 0;
  plan.sitter.outfit = "shirt-apron";
  plan.sitter.clothColour = "cream";
  for (const Person& info : sitterCatalogue()) {
    plan.sitter.id = info.id;
    const auto sitter = loadSitter(info.id);
    const Scene scene(placedSetOf(plan), sitter);
    for (float side : {-1.f, 1.f})
      for (float y = 1.6f - 0.37f; y < 1.6f - 0.22f; y += 0.005f) {
        float on = 0, depth = 0, beside = 0;
        for (float x = 0.05f; x < 0.17f; x += 0.001f) {
          const auto hit = scene.intersect({side * x, y, 1.5f}, {0, 0, -1}, 1);
          ASSERT_TRUE(hit);
          const bool dark = hit->surface == Surface::Cloth && hit->albedo.y < 0.06f;
          on += dark ? 0.001f : 0.f;
          (dark ? depth : beside) = std::max(dark ? depth : beside, hit->position.z);
        }
        // Seen from before it is as wide as it is, below the bib's edge as wide as the bib.
        EXPECT_GT(on, 0.02f) << info.id << " " << side << " " << y - 1.6f;
        EXPECT_GT(depth, beside - 0.03f) << info.id << " " << side << " " << y - 1.6f;
      }
  }
}

// Whether something of the sitter stands between `low` and `high` above the floor, seen from the front.
bool clothBetween(const Scene& scene, float low, float high) {
  for (float y = low; y <= high; y += 0.005f)
    for (float x = -0.5f; x <= 0.5f; x += 0.01f)
      if (const auto hit = scene.intersect({x, y, 3}, {0, 0, -1}, 1); hit && hit->surface == Surface::Cloth)
        return true;
  return false;
}

TEST(Sitters, FeetStandOnTheFloorWhateverTheHeight) {
  Plan plan = hairless();
  for (const Person& info : sitterCatalogue())
    for (double eyes : {1.15, 1.25, 1.5, 1.6, 1.75}) {
      plan.sitter.id = info.id;
      plan.sitter.eyeHeight = eyes;
      const auto s = loadSitter(info.id);
      EXPECT_EQ(seated(info.standingEyes, eyes), eyes < 1.3) << info.id;
      EXPECT_NEAR(info.standingEyes, -double(s->soles), 0.005);
      const Scene scene(placedSetOf(plan), s);
      EXPECT_TRUE(clothBetween(scene, 0.005f, 0.02f)) << info.id << " hovers at " << eyes;
      // Nothing sinks in: the soles are the lowest of what is worn.
      bool below = false;
      for (float x = -0.5f; x <= 0.5f; x += 0.01f)
        for (float z = -0.2f; z < 0.7f; z += 0.02f) {
          const auto hit = scene.intersect({x, -1, z}, {0, 1, 0}, 1);
          below |= hit && hit->surface == Surface::Cloth && hit->position.y < -0.02f;
        }
      EXPECT_FALSE(below) << info.id << " at " << eyes;
    }
}

TEST(Sitters, ASeatedOneHasAStoolAndKneesInFront) {
  Plan plan = test::demoPlan();
  auto depthAt = [&](double eyes) {
    plan.sitter.eyeHeight = eyes;
    const Scene scene(placedSetOf(plan), loadSitter(plan.sitter.id));
    float nearest = -10;
    for (float x = -0.3f; x <= 0.3f; x += 0.02f)
      if (const auto hit = scene.intersect({x, float(eyes) - 0.75f, 3}, {0, 0, -1}, 1); hit)
        nearest = std::max(nearest, hit->position.z);
    return nearest;
  };
  EXPECT_GT(depthAt(1.2), depthAt(1.6) + 0.25f);
}

TEST(Sitters, TurningToTheirLeftMovesTheNoseToCameraRight) {
  const auto s = loadSitter("wren");
  const Vec3 nose = s->landmarks.noseTip, pivot = s->landmarks.neckPivot;
  EXPECT_GT(posed(nose, 1, pivot, {30, 0, 0}).x, 0.03);
  EXPECT_LT(posed(nose, 1, pivot, {0, 0, 20}).y, nose.y) << "nod: chin down";
  EXPECT_GT(posed(s->landmarks.crown, 1, pivot, {0, 15, 0}).x, 0.03) << "tilt towards their left shoulder";
  const Vec3 still = posed(nose, 0, pivot, {90, 30, 30});
  EXPECT_EQ(still.x, nose.x) << "the body stays";
  EXPECT_NEAR(length(posed(nose, 1, pivot, {40, 10, 5}) - pivot), length(nose - pivot), 1e-5) << "rigid";
}

std::string refusal(const std::filesystem::path& file) {
  try {
    readSitter(file);
  } catch (const std::runtime_error& e) {
    return e.what();
  }
  return {};
}

TEST(SitterFile, MissingOrBrokenSaysWhatToDo) {
  test::TemporaryFolder folder;
  const auto good = sitterFolder() / "wren.sitter";
  const std::string bytes = readWholeFile(good);
  const auto file = folder.path / "wren.sitter";
  EXPECT_NE(refusal(file).find("run-demo"), std::string::npos);
  struct Case {
    const char* name;
    std::string bytes;
  };
  std::string flipped = bytes, version = bytes;
  flipped[bytes.size() / 2] = char(flipped[bytes.size() / 2] ^ 0x40);
  version[8] = 99;
  for (const Case& c :
       {Case{"empty", ""}, Case{"cut", bytes.substr(0, bytes.size() / 3)}, Case{"head only", bytes.substr(0, 20)},
        Case{"one bit", flipped}, Case{"version", version}, Case{"other file", "PNG" + bytes}}) {
    std::ofstream(file, std::ios::binary) << c.bytes;
    const std::string said = refusal(file);
    EXPECT_NE(said.find("wren.sitter"), std::string::npos) << c.name;
    EXPECT_NE(said.find("run-demo"), std::string::npos) << c.name;
  }
  std::ofstream(file, std::ios::binary) << bytes;
  EXPECT_EQ(refusal(file), "");
}

TEST(SitterFile, WhoIsStillBeingBakedIsSaidAndCounted) {
  test::TemporaryFolder folder;
  std::filesystem::create_symlink(sitterFolder() / "wren.sitter", folder.path / "wren.sitter");
  const Baking none{1, sitterCatalogue().size(), false};
  EXPECT_EQ(bakingOf(folder.path), none);
  const auto refused = [] {
    try {
      loadSitter("tobiah");
    } catch (const std::runtime_error& e) {
      return std::string(e.what());
    }
    return std::string();
  };
  ::setenv("EASEL_SITTERS", folder.path.c_str(), 1);
  {
    const BakingLock lock(folder.path);
    EXPECT_TRUE(bakingOf(folder.path).goesOn);
    EXPECT_NE(refused().find("being prepared"), std::string::npos) << refused();
    EXPECT_TRUE(loadSitter("wren"));
  }
  EXPECT_NE(refused().find("run-demo"), std::string::npos) << refused();
  ::unsetenv("EASEL_SITTERS");
  EXPECT_EQ(bakingOf(folder.path), none);
}

TEST(SitterFile, WhatIsWrittenIsRead) {
  test::TemporaryFolder folder;
  const Sitter s = readSitter(sitterFolder() / "tobiah.sitter");
  writeSitter(folder.path / "copy.sitter", s);
  EXPECT_EQ(readWholeFile(folder.path / "copy.sitter"), readWholeFile(sitterFolder() / "tobiah.sitter"));
}

const Morph* morphOf(const MeshPart& part, const std::string& id) {
  const auto m =
      std::find_if(part.morphs.begin(), part.morphs.end(), [&](const Morph& x) { return x.expression == id; });
  return m == part.morphs.end() ? nullptr : &*m;
}
// How far the middle of the lips of a face comes apart, and its corners up, in metres.
struct Mouth {
  double open = 0, corners = 0;
};
Mouth mouthOf(const Sitter& sitter, const std::string& id) {
  const Landmarks& l = sitter.landmarks;
  double upper = 1, lower = -1, corners = 0;
  int n = 0;
  for (const MeshPart& p : sitter.parts) {
    if (p.surface != Surface::Skin || !p.of.empty()) continue;
    const Morph* m = morphOf(p, id);
    if (!m) continue;
    for (size_t k = 0; k < m->vertex.size(); ++k) {
      const Vec3 at = p.position[m->vertex[k]];
      if (at.z < l.noseTip.z - 0.04f || at.y > l.noseTip.y - 0.01f || at.y < l.chin.y) continue;
      if (std::abs(at.x) < 0.004f) {
        upper = std::min(upper, double(m->shift[k].y) > 0 ? double(m->shift[k].y) : 1.0);
        lower = std::max(lower, double(-m->shift[k].y));
      } else if (std::abs(at.x) > 0.02f && std::abs(at.x) < 0.03f) {
        corners += double(m->shift[k].y);
        ++n;
      }
    }
  }
  return {std::max(0.0, lower) + (upper < 1 ? upper : 0), n ? corners / n : 0};
}

TEST(Sitters, EveryExpressionMovesTheFaceAndOnlyTheFace) {
  for (const Person& person : sitterCatalogue()) {
    const auto sitter = loadSitter(person.id);
    for (const Expression& e : expressions()) {
      size_t moved = 0;
      for (const MeshPart& p : sitter->parts) {
        const Morph* m = morphOf(p, e.id);
        if (!m) continue;
        moved += m->vertex.size();
        for (size_t k = 0; k < m->vertex.size(); ++k) {
          ASSERT_GT(p.headWeight[m->vertex[k]], 0.3) << person.id << " " << e.id;
          ASSERT_LT(length(m->shift[k]), 0.03) << person.id << " " << e.id;
          ASSERT_NEAR(length(m->normal[k]), 1, 1e-3);
        }
      }
      EXPECT_EQ(moved > 500, !e.shapes.empty()) << person.id << " " << e.id;
    }
    EXPECT_GT(mouthOf(*sitter, "smile").corners, mouthOf(*sitter, "slight-smile").corners) << person.id;
    EXPECT_GT(mouthOf(*sitter, "slight-smile").corners, 0.0003) << person.id;
    EXPECT_LT(mouthOf(*sitter, "serious").corners, mouthOf(*sitter, "slight-smile").corners) << person.id;
    EXPECT_GT(mouthOf(*sitter, "talking").open, mouthOf(*sitter, "slight-smile").open + 0.001) << person.id;
  }
}

}  // namespace
}  // namespace easel
