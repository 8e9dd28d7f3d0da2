#include "sitters/wardrobe.h"

#include <gtest/gtest.h>

#include <set>

#include "data/by_id.h"
#include "picture/lit_points.h"
#include "plan/check.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "support.h"
#include "transport/cloth.h"
#include "transport/sampling.h"
#include "transport/scene.h"

namespace easel {
namespace {

TEST(Wardrobe, OwnAndWhatNobodyKnowsIsWhatTheyWear) {
  const std::vector<Cloth>& all = cloths();
  EXPECT_EQ(byIdOrOwn(all, "satin", "wool")->id, "satin");
  EXPECT_EQ(byIdOrOwn(all, "own", "wool")->id, "wool");
  EXPECT_EQ(byIdOrOwn(all, "cardboard", "wool")->id, "wool");
  EXPECT_EQ(byIdOrOwn(all, "cardboard", "paper"), nullptr);
}

TEST(Wardrobe, EverybodysOwnIsInTheLists) {
  for (const Person& p : sitterCatalogue()) {
    EXPECT_TRUE(findOutfit(p.outfit)) << p.id;
    EXPECT_TRUE(findCloth(p.cloth)) << p.id;
    EXPECT_TRUE(findClothColour(p.clothColour)) << p.id;
    EXPECT_TRUE(findGlasses(p.glasses)) << p.id;
  }
}

// A plan from somebody whose lists are longer: said, and their own are shown.
TEST(Wardrobe, WhatIsNotThereIsSaidAndTheirOwnIsShown) {
  Plan p = test::demoPlan();
  const auto sitter = loadSitter(p.sitter.id);
  const auto sentences = [&] {
    std::set<std::string> all;
    for (const Finding& f : checkPlan(p)) all.insert(f.sentence);
    return all;
  };
  const auto usual = sentences();
  for (std::string SitterPlace::*member : {&SitterPlace::hairStyle, &SitterPlace::outfit, &SitterPlace::cloth,
                                           &SitterPlace::clothColour, &SitterPlace::glasses}) {
    p.sitter = test::demoPlan().sitter;
    p.sitter.*member = "beehive";
    int said = 0;
    for (const std::string& s : sentences()) said += !usual.contains(s) && s.find("\"beehive\"") != std::string::npos;
    EXPECT_EQ(said, 1);
    const Scene own(placedSetOf(test::demoPlan()), sitter), shown(placedSetOf(p), sitter);
    const Vec3 eye{0, 1.2f, 2.5f};
    for (float x = -0.2f; x < 0.21f; x += 0.02f)
      for (float y = -0.4f; y < 0.21f; y += 0.02f) {
        const auto a = own.intersect(eye, normalize(Vec3{x, y, -2.5f}), 1),
                   b = shown.intersect(eye, normalize(Vec3{x, y, -2.5f}), 1);
        ASSERT_TRUE(a && b);
        ASSERT_EQ(a->position, b->position);
        ASSERT_EQ(a->albedo, b->albedo);
      }
  }
}

TEST(Wardrobe, TheSameGarmentTakesAnyColourAndAnyCloth) {
  Plan p = test::demoPlan();
  p.sitter.outfit = "jumper";
  const auto sitter = loadSitter(p.sitter.id);
  const auto chest = [&] {
    const Scene scene(placedSetOf(p), sitter);
    const float y = float(p.sitter.eyeHeight) - 0.4f;
    return *scene.intersect({0, y, 2}, {0, 0, -1}, 1, -1, Colours::Plain);
  };
  for (const Colouring& c : clothColours()) {
    if (c.id == "own") continue;
    p.sitter.clothColour = c.id;
    const SurfacePoint s = chest();
    ASSERT_EQ(s.surface, Surface::Cloth);
    for (int k = 0; k < 3; ++k) EXPECT_NEAR(s.albedo[k], c.reflectance[k], 0.1f * c.reflectance[k]) << c.id;
  }
  p.sitter.clothColour = "white";
  std::set<std::uint32_t> looks;
  for (const Cloth& c : cloths())
    if (c.id != "own") {
      p.sitter.cloth = c.id;
      looks.insert(chest().cloth);
    }
  EXPECT_EQ(looks.size(), cloths().size() - 1);
}

TEST(Wardrobe, AClothTravelsWithASampleInFourBytes) {
  for (const Cloth& c : cloths()) {
    const PackedDirection packed = PackedDirection::ofCode(clothCode(c, 0.8f));
    const ClothCode look = clothOf(packed.code());
    EXPECT_NEAR(look.sheen, c.sheen, 0.0006) << c.id;
    EXPECT_NEAR(look.roughness, c.roughness, 0.003) << c.id;
    EXPECT_NEAR(look.fuzz, c.fuzz, 0.003) << c.id;
  }
  const Cloth& velvet = *findCloth("velvet");
  EXPECT_LT(clothOf(clothCode(velvet, 0.006f)).fuzz, 0.1f * clothOf(clothCode(velvet, 0.5f)).fuzz)
      << "fibres are dyed like the rest";
}

// What the sheen and the fibres send anywhere, and what is left for the even part, under even light.
TEST(Wardrobe, SeenStraightOnNoClothGivesBackMoreThanItGets) {
  for (const Cloth& c : cloths()) {
    const ClothCode look = clothOf(clothCode(c, 1));
    for (float nv : {1.f, 0.9f, 0.75f}) {
      const Vec3 eye{std::sqrt(1 - nv * nv), 0, nv};
      double sheen = 0;
      constexpr int kRays = 20000;
      for (int i = 0; i < kRays; ++i) {
        const Vec3 from = cosineDirection({}, sobol2(std::uint32_t(i), 11)), h = normalize(from + eye);
        sheen += double(clothSheen(from.z, nv, h.z, dot(eye, h), look.sheen, look.roughness, look.fuzz)) * kPi / kRays;
      }
      EXPECT_LT(sheen + givesOn(look), 1.01) << c.id << " " << nv;
      EXPECT_GT(sheen, 0) << c.id;
    }
  }
}

}  // namespace
}  // namespace easel
