// The data that ships, and the user's own beside it: read without a compiler, refused with a sentence.
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>
#include <set>

#include "data/by_id.h"
#include "data/data_files.h"
#include "data/shipped.h"
#include "files/record.h"
#include "formats/catalogue.h"
#include "gear/gear_file.h"
#include "plan/role_file.h"
#include "propose/look_file.h"
#include "sitters/people.h"
#include "support.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;

std::string refused(const std::string& text) {
  try {
    whatItBrings(text);
  } catch (const FileError& e) {
    return e.what();
  }
  return {};
}
std::string of(const std::string& format, const std::string& rest) {
  return "{\"format\":\"jolly-easel-" + format + "\",\"version\":1," + rest + "}";
}

TEST(Data, WhatShipsKeepsToItsSchemas) {
  for (const char* name :
       {"units", "modifiers", "fittings", "panels", "backdrops", "roles", "looks", "people", "shoot"})
    EXPECT_EQ(refused(std::string(shippedText(std::string(name) + ".json"))), "") << name;
}

TEST(Data, EveryThingHasANameAndAnIdOfItsOwn) {
  const auto check = [](const auto& all, const char* what) {
    std::set<std::string> ids;
    EXPECT_FALSE(all.empty()) << what;
    for (const auto& one : all) {
      EXPECT_FALSE(one.name.empty()) << what << " " << one.id;
      EXPECT_TRUE(ids.insert(one.id).second) << what << " " << one.id;
    }
  };
  check(units(), "units");
  check(modifiers(), "modifiers");
  check(gels(), "gels");
  check(diffusions(), "diffusions");
  check(finishes(), "finishes");
  check(panelKinds(), "panels");
  check(paints(), "paints");
  check(supports(), "supports");
  check(backdropMaterials(), "backdrops");
  check(roleSchools(), "schools");
  check(looks(), "looks");
  check(sitterCatalogue(), "people");
}

TEST(Data, RefusalsSayWhereAndWhatIsWanted) {
  const auto says = [](const std::string& text, std::initializer_list<const char*> words) {
    const std::string said = refused(text);
    for (const char* word : words) EXPECT_NE(said.find(word), std::string::npos) << word << "\n" << said;
  };
  says(of("gear", R"("modifiers":[{"id":"box","width":80}])"), {"/modifiers/0/width", "from 0.01 to 8"});
  says(of("gear", R"("modifiers":[{"id":"box","widht":0.8}])"), {"/modifiers/0/widht", "misspelt"});
  says(of("gear", R"("modifiers":[{"id":"box","outline":"star"}])"), {"/modifiers/0/outline", "octagon"});
  says(of("gear", R"("modifiers":[{"id":"box","like":"no-such"}])"), {"/modifiers/0", "no-such"});
  says(of("gear", R"("modifiers":[{"name":"Box"}])"), {"/modifiers/0/id", "nothing is there"});
  says(of("gear", R"("units":[{"id":"lamp","kind":"continuous"}])"), {"/units/0", "lumens"});
  says(of("gear", R"("finishes":[{"id":"x","name":"X","diffuse":[0.9,0.9,0.9],"through":0.5}])"), {"more than 1"});
  says(of("roles", R"("usualOrder":["no-such"])"), {"/usualOrder", "no-such"});
  says(of("looks", R"("looks":[{"id":"x","name":"X","for":"y","pattern":"loop","keyFronts":["no-such"]}])"),
       {"/looks/0", "no-such"});
  says(of("looks", R"("looks":[{"id":"x","name":"X","for":"y","pattern":"zigzag"}])"),
       {"/looks/0/pattern", "rembrandt"});
  says(
      of("people",
         R"("people":[{"id":"../../x","name":"X","body":{},"skinTexture":"a","eyes":"b","brows":"c","hair":"short"}])"),
      {"/people/0", "id"});
  says(of("cameras", R"("x":1)"), {"jolly-easel-gear", "jolly-easel-looks"});
  says("{\"format\":\"jolly-easel-gear\",\"version\":9}", {"newer"});
}

TEST(Data, AnErrorHasItsPlaceItsValueAndWhatIsWanted) {
  try {
    whatItBrings(of("gear", R"("modifiers":[{"id":"a"},{"id":"box","width":80}])"));
    FAIL();
  } catch (const FileError& e) {
    EXPECT_EQ(e.place, "/modifiers/1/width");
    EXPECT_EQ(e.value, "80");
    EXPECT_NE(e.wanted.find("from 0.01 to 8"), std::string::npos) << e.wanted;
  }
}

TEST(Data, EveryLookSaysWhatTheTradeCallsIt) {
  for (const Look& l : looks()) EXPECT_FALSE(l.terms.empty()) << l.id;
}

TEST(Data, AModifierLikeAnotherTakesOverWhatIsNotSaid) {
  Gear all = gear();
  const DataFile file = readData(
      of("gear", R"("modifiers":[{"id":"tall-strip","name":"Tall strip","like":"strip-30x120","height":1.8}])"));
  readGear(file.record(), all);
  const Modifier &tall = *byId(all.modifiers, "tall-strip"), &strip = *byId(all.modifiers, "strip-30x120");
  EXPECT_EQ(tall.height, 1.8);
  EXPECT_EQ(tall.width, strip.width);
  EXPECT_EQ(tall.transmission, strip.transmission);
  EXPECT_TRUE(tall.innerDiffuser);
}

TEST(Data, TheSameIdTakesThePlaceOfWhatShips) {
  Gear all = gear();
  const size_t before = all.gels.size();
  const DataFile file =
      readData(of("gear", R"("gels":[{"id":"amber","name":"Amber, measured","passes":[0.8,0.4,0.1]}])"));
  readGear(file.record(), all);
  EXPECT_EQ(all.gels.size(), before);
  EXPECT_EQ(byId(all.gels, "amber")->name, "Amber, measured");
  EXPECT_EQ(findGel("amber")->name, "Amber") << "the catalogue in use stays";
}

TEST(Data, ARoleStandsWhereItsRecipeSays) {
  // A recipe of one's own, read as any other, against the arithmetic done by hand.
  RoleRecipes all = roleRecipes();
  const DataFile file =
      readData(of("roles", R"("schools":[{"id":"rim-low","role":"rim","name":"Rim, low","modifier":"strip-35x90",
    "hour":{"at":9,"side":"key"},"distance":{"from":"backdrop","times":0.5,"plus":0.2,"least":0.4,"most":1},
    "height":{"from":"eyes","plus":-0.5,"least":0.3},"levels":[{"stops":-0.5,"why":"A low edge."}]}])"));
  readRoles(file.record(), all);
  const RoleSchool& s = *byId(all.schools, "rim-low");
  EXPECT_EQ(s.role, Role::Rim);
  EXPECT_EQ(s.hour.side, HourRecipe::Side::Key);
  Plan p = test::demoPlan();
  p.backdrop.distance = 1.4;
  p.lights[0].hour = 7.5;  // key on the camera's left
  const Light l = proposeLight(p, s).light;
  EXPECT_DOUBLE_EQ(l.hour, 3) << "on the other side with the key";
  EXPECT_NEAR(l.distance, 0.9, 1e-6) << "0.5 x 1.4 + 0.2";
  EXPECT_NEAR(l.height, p.sitter.eyeHeight - 0.5, 1e-9);
  EXPECT_EQ(l.targetStops, -0.5);
  EXPECT_EQ(l.modifier, "strip-35x90");
}

}  // namespace
}  // namespace easel
