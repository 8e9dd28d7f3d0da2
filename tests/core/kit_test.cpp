#include <gtest/gtest.h>

#include "balance/advice.h"
#include "formats/ies_file.h"
#include "formats/kit_json.h"
#include "gear/inventory.h"
#include "plan/panels.h"
#include "support.h"

namespace easel {
namespace {

Inventory twoLightKit() {
  Inventory k;
  k.name = "Marrow Lane cupboard";
  k.units = {{"mains-400", 2}, {"hotshoe-60", 1}};
  k.modifiers = {{"octa-90", 1}, {"softbox-60x90", 1}, {"reflector-18", 2}};
  k.panels = {{"v-flat", 2}};
  k.supports = {{"stand-light", 2}};
  k.gels = {{"warm-full", 1}};
  Unit u;
  u.id = "own-lamp";
  u.name = "Bench lamp";
  u.kind = UnitKind::Continuous;
  u.lumens = 900;
  u.kelvin = 2900;
  u.scale = {PowerNotation::Percent, -4, 0.1, 10, 0};
  k.ownUnits.push_back(u);
  Modifier m = *findModifier("dish-55");
  m.id = "own-bowl";
  m.name = "Turned maple bowl";
  m.takesDeflector = false;
  m.profile = std::make_shared<const AngularProfile>(std::vector<double>{0, 45, 90}, std::vector<double>{0},
                                                     std::vector<std::vector<double>>{{100, 60, 0}});
  k.ownModifiers.push_back(m);
  return k;
}

TEST(Kit, HalfAngleAndLobeAreEachOthersInverse) {
  for (double degrees : {5.0, 20.0, 54.0, 60.0, 85.0})
    EXPECT_NEAR(halfAngleOfLobe(lobeOfHalfAngle(degrees)), degrees, 1e-9);
  EXPECT_NEAR(halfAngleOfLobe(1), 60, 1e-9) << "Lambert: cos 60 = 1/2";
}

TEST(Kit, EggCratesSurviveTheFile) {
  Inventory k;
  k.ownModifiers.push_back(*findModifier("strip-30x120-grid"));
  k.ownModifiers[0].id = "own-strip";
  const Inventory back = readKitText(writeKitText(k));
  ASSERT_EQ(back.ownModifiers.size(), 1u);
  EXPECT_TRUE(back.ownModifiers[0].squareCells);
  EXPECT_EQ(back.ownModifiers[0].shape(45, 45), findModifier("strip-30x120-grid")->shape(45, 45));
}

TEST(Kit, RemediesSendToWhatIsThereAndFree) {
  Plan p = test::demoPlan();
  p.lights[0].unit = "hotshoe-60";
  p.camera.aperture = 22;
  Answers answers = test::answersOf(p);
  ASSERT_GT(answers.lights[0].setting.shortfall, 0);
  auto said = [&] {
    std::string all;
    for (const std::string& s : adviceOnPower(p, p.lights[0], answers.lights[0])) all += s + "\n";
    return all;
  };
  EXPECT_NE(said().find("Mains flash 1200 Ws"), std::string::npos) << "an empty kit: all of the catalogue\n" << said();
  Inventory kit;
  kit.units = {{"mains-400", 1}, {"hotshoe-60", 1}};
  takeIntoUse(kit);
  EXPECT_EQ(said().find("Mains flash 1200 Ws"), std::string::npos) << said();
  EXPECT_NE(said().find("Mains flash 400 Ws"), std::string::npos) << said();
  Light second = p.lights[0];
  second.id = "B";
  second.unit = "mains-400";
  p.lights.push_back(second);
  EXPECT_EQ(said().find("Mains flash 400 Ws"), std::string::npos) << "the only one stands in the set\n" << said();
  takeIntoUse({});
}

TEST(Kit, SurvivesItsFile) {
  const Inventory k = twoLightKit(), back = readKitText(writeKitText(k));
  EXPECT_EQ(back.name, k.name);
  EXPECT_EQ(back.units, k.units);
  EXPECT_EQ(back.gels, k.gels);
  ASSERT_EQ(back.ownModifiers.size(), 1u);
  EXPECT_EQ(back.ownModifiers[0].outline, Outline::Ring);
  EXPECT_NEAR(back.ownModifiers[0].shape(45), 0.6, 1e-9);
  EXPECT_EQ(back.ownUnits[0].scale.notation, PowerNotation::Percent);
  EXPECT_EQ(writeKitText(back), writeKitText(k));
}

TEST(Kit, OwnThingsCanBeUsedInAPlan) {
  takeIntoUse(twoLightKit());
  Plan p = test::demoPlan();
  p.lights[0].modifier = "own-bowl";
  p.lights[0].unit = "own-lamp";
  EXPECT_GT(test::answersOf(p).lights[0].alone.steady, 0);
  const Modifier* held = findModifier("own-bowl");
  takeIntoUse({});
  EXPECT_EQ(findModifier("own-bowl"), nullptr);
  EXPECT_EQ(held->name, "Turned maple bowl") << "who holds it may go on";
}

TEST(Kit, SaysWhatAPlanLacks) {
  Plan p = test::demoPlan();
  EXPECT_TRUE(lacking(p, {}).empty()) << "an empty kit is one that nobody has filled in";
  const Inventory k = twoLightKit();
  p.lights[0].modifier = "octa-90";
  p.lights[0].unit = "mains-400";
  EXPECT_TRUE(lacking(p, k).empty());
  for (const char* id : {"B", "C"}) {
    Light l = p.lights[0];
    l.id = id;
    p.lights.push_back(l);
  }
  const auto gaps = lacking(p, k);
  ASSERT_EQ(gaps.size(), 3u);
  EXPECT_NE(gaps[0].find("3 needed, the kit has 2"), std::string::npos) << gaps[0];
  EXPECT_NE(gaps[2].find("Stands"), std::string::npos);
}

TEST(Kit, BrokenFilesSayWhere) {
  auto said = [](const std::string& text) {
    try {
      readKitText(text);
    } catch (const KitFileError& e) {
      return std::string(e.what());
    }
    return std::string();
  };
  EXPECT_NE(said("{").find("byte"), std::string::npos);
  EXPECT_NE(said("{\"format\":\"other\"}").find("jolly-easel-kit"), std::string::npos);
  const std::string head = "{\"format\":\"jolly-easel-kit\",\"version\":1,";
  EXPECT_NE(said(head + "\"units\":[{\"count\":2}]}").find("/units/0/id"), std::string::npos);
  EXPECT_NE(said(head + "\"units\":[{\"id\":\"x\",\"count\":-2}]}").find("/units/0/count"), std::string::npos);
  EXPECT_NE(said(head + "\"ownUnits\":[{\"id\":\"x\"}]}").find("gives no light"), std::string::npos);
  EXPECT_NE(said(head + "\"ownModifiers\":[{\"id\":\"x\",\"width\":1e9}]}").find("/ownModifiers/0/width"),
            std::string::npos);
  EXPECT_NE(
      said(head +
           "\"ownModifiers\":[{\"id\":\"x\",\"profile\":{\"vertical\":[5,1],\"horizontal\":[0],\"candela\":[[1,2]]}}]}")
          .find("ascend"),
      std::string::npos);
  EXPECT_FALSE(said(head + "\"units\":7}").empty());
  EXPECT_FALSE(said(std::string(5000, '[')).empty());
}

const char* kSmall =
    "IESNA:LM-63-2002\n[TEST] none\n[LUMINAIRE] Bowl\nTILT=NONE\n"
    "1 1000 1 3 1 1 2 -0.2 -0.2 0\n1 1 15\n0 45 90\n0\n300 200 0\n";

TEST(Ies, ReadsAndBecomesAModifier) {
  const IesFile f = readIesText(kSmall);
  EXPECT_EQ(f.keywords.at("LUMINAIRE"), "Bowl");
  EXPECT_EQ(f.lumens, 1000);
  EXPECT_NEAR(f.profile->at(22.5, 0), 250, 1e-9);
  EXPECT_EQ(f.profile->at(91, 0), 0);
  const Modifier m = modifierFromIes(f, "own-bowl", "Bowl");
  EXPECT_EQ(m.outline, Outline::Disc);
  EXPECT_NEAR(m.width, 0.2, 1e-9);
  EXPECT_NEAR(m.transmission, f.profile->lumens() / 1000, 1e-5);
}

TEST(Ies, AMeasurementTakesThePlaceOfTheUsualFigures) {
  const Modifier& known = *findModifier("reflector-18");
  const Modifier m = measuredBy(known, readIesText(kSmall), "bowl.ies");
  EXPECT_EQ(m.id, known.id);
  EXPECT_EQ(m.width, known.width) << "size and what can be put on it stay";
  EXPECT_TRUE(m.takesDoors);
  ASSERT_TRUE(m.profile);
  EXPECT_NEAR(m.shape(22.5), 250.0 / 300, 1e-9);
  EXPECT_NEAR(m.transmission, m.profile->forwardLumens() / 1000, 1e-5);
  EXPECT_NE(m.source.find("bowl.ies"), std::string::npos);
  EXPECT_THROW(measuredBy(*findModifier("bare"), readIesText(kSmall), "bowl.ies"), std::invalid_argument);
  // In use it is the front of that name, once in every list; without it the usual one is back.
  Inventory kit;
  kit.ownModifiers = {m};
  takeIntoUse(kit);
  const auto all = knownModifiers();
  EXPECT_EQ(std::count_if(all.begin(), all.end(), [&](const Modifier& x) { return x.id == known.id; }), 1);
  EXPECT_TRUE(findModifier("reflector-18")->profile);
  takeIntoUse({});
  EXPECT_FALSE(findModifier("reflector-18")->profile);
}

TEST(Ies, LumensOfAKnownProfile) {
  // A Lambertian source: I0 cos, flux pi I0 (closed form).
  std::vector<double> angles, row;
  for (int i = 0; i <= 90; ++i) {
    angles.push_back(i);
    row.push_back(100 * std::cos(i * kPi / 180));
  }
  const AngularProfile p(angles, {0}, {row});
  EXPECT_NEAR(p.lumens(), 100 * kPi, 0.1);
}

TEST(Ies, FeetLinesAndSymmetries) {
  const IesFile f = readIesText(
      "IESNA:LM-63-1995\r\n[A] b\r\n[MORE] c\r\nTILT=INCLUDE\r\n1\r\n2\r\n0 90\r\n1 1\r\n"
      "2 500 2 3 2 1 1 1 2 0\r\n1.0 1.0 30\r\n0, 45, 90\r\n0 90\r\n100 50 0\r\n100 20 0\r\n");
  EXPECT_EQ(f.keywords.at("A"), "b\nc");
  EXPECT_NEAR(f.width, 0.3048, 1e-9);
  EXPECT_EQ(f.lumens, 1000);
  EXPECT_NEAR(f.profile->at(45, 0), 100, 1e-9) << "the multiplier counts";
  EXPECT_NEAR(f.profile->at(45, 270), 40, 1e-9) << "quadrants mirror";
  EXPECT_NEAR(f.profile->at(45, 180), 100, 1e-9);
}

TEST(Ies, WhatIsWrittenReadsBackTheSameLight) {
  for (const char* id : {"reflector-18", "octa-90", "reflector-18-grid20", "snoot"}) {
    const Modifier& m = *findModifier(id);
    const IesFile f = readIesText(writeIesText(m, 10000, 150));
    const Modifier back = modifierFromIes(f, "x", "x");
    EXPECT_NEAR(back.transmission, m.transmission, 0.02 * m.transmission) << id;
    for (double a : {0.0, 5.0, 15.0, 40.0})
      EXPECT_NEAR(back.shape(a) / back.shape(0), m.shape(a) / m.shape(0), 0.06) << id << " " << a;
  }
}

TEST(Ies, BadFilesNameTheLine) {
  auto line = [](std::string text) {
    try {
      readIesText(text);
    } catch (const IesError& e) {
      EXPECT_EQ(std::string(e.what()).rfind("Line ", 0), 0u);
      return e.line;
    }
    return 0;
  };
  const std::string good = kSmall;
  EXPECT_EQ(line(good), 0);
  auto with = [&](const std::string& from, const std::string& to) {
    std::string s = good;
    s.replace(s.find(from), from.size(), to);
    return s;
  };
  EXPECT_EQ(line(with("300 200 0", "300 x 0")), 9);
  EXPECT_EQ(line(with("300 200 0", "300 -200 0")), 9);
  EXPECT_EQ(line(with("0 45 90", "0 90 45")), 7);
  EXPECT_EQ(line(with("1 1000 1 3 1 1", "1 1000 1 3 1 2")), 5) << "type B";
  EXPECT_EQ(line(with("1 1000 1 3 1", "1 1000 1 1e9 1")), 5);
  EXPECT_EQ(line(with("TILT=NONE", "TILT=lamp.tlt")), 4);
  EXPECT_GT(line("IESNA:LM-63-2002\n[A] b\n"), 0);
  EXPECT_GT(line(good.substr(0, good.size() - 6)), 0);
  EXPECT_GT(line(""), 0);
  EXPECT_EQ(line(with("[LUMINAIRE] Bowl", "[LUMINAIRE Bowl")), 3);
}

}  // namespace
}  // namespace easel
