// One table of ranges: the file, the edits and the locks hold to it, and nothing that it allows is refused later.
#include "plan/ranges.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <fstream>
#include <functional>
#include <limits>
#include <nlohmann/json.hpp>
#include <set>

#include "analysis/ways.h"
#include "balance/camera_setting.h"
#include "exposure/ambient.h"
#include "plan/history.h"
#include "plan/roles.h"
#include "support.h"

namespace easel {
namespace {

// A plan with one of each, so that every range has a place in it.
Plan fullPlan() {
  Plan p = test::demoPlan();
  p.panels = {Panel{}};
  p.panels[0].id = "1";
  p.spots = {PinnedSpot{}};
  p.spots[0].id = "pin-1";
  return p;
}

nlohmann::json schema() {
  std::ifstream f(std::string(EASEL_SOURCE_DIR) + "/docs/formats/plan.schema.json");
  return nlohmann::json::parse(f);
}
// "light.height" -> what the schema says of it.
nlohmann::json inSchema(const nlohmann::json& s, std::string_view path) {
  const auto dot = path.find('.');
  const std::string part(path.substr(0, dot)), member(path.substr(dot + 1));
  const auto& top = s["properties"];
  if (part == "plan") return top[member];
  for (const auto& [one, many] : {std::pair{"light", "lights"}, {"panel", "panels"}, {"spot", "spots"}})
    if (part == one) return top[many]["items"]["properties"][member];
  return top[part]["properties"][member];
}

// Every member of the plan in the schema: visit("light.height", what the schema says of it).
void eachInSchema(const std::function<void(const std::string& path, const nlohmann::json& says)>& visit) {
  const auto s = schema();
  const auto look = [&](const nlohmann::json& properties, const std::string& part) {
    for (const auto& [name, says] : properties.items()) visit(part + "." + name, says);
  };
  look(s["properties"], "plan");
  for (const char* part : {"room", "sitter", "camera", "backdrop", "ambient"})
    look(s["properties"][part]["properties"], part);
  for (const auto& [one, many] : {std::pair{"light", "lights"}, {"panel", "panels"}, {"spot", "spots"}})
    look(s["properties"][many]["items"]["properties"], one);
}

TEST(Ranges, TheSchemaSaysTheSame) {
  const auto s = schema();
  for (const Range& r : planRanges()) {
    const auto j = inSchema(s, r.path);
    ASSERT_TRUE(j.is_object()) << r.path;
    EXPECT_EQ(j.value("minimum", std::nan("")), r.least) << r.path;
    EXPECT_EQ(j.value("maximum", std::nan("")), r.most) << r.path;
  }
  for (const TextRange& t : planTexts()) {
    const auto j = inSchema(s, t.path);
    ASSERT_TRUE(j.is_object()) << t.path;
    if (j.contains("maxLength")) {
      EXPECT_EQ(j["maxLength"], t.longest) << t.path;
    }
    if (!j.contains("maxLength")) {
      EXPECT_NE(t.form, TextRange::Form::Any) << t.path << " has no length in the schema";
    }
  }
  EXPECT_EQ(s["properties"]["lights"]["maxItems"], kMostLights);
  EXPECT_EQ(s["properties"]["panels"]["maxItems"], kMostPanels);
  EXPECT_EQ(s["properties"]["spots"]["maxItems"], kMostSpots);
  EXPECT_EQ(s["properties"]["wanted"]["maxItems"], kMostWanted);
}

TEST(Ranges, NoNumberOfTheSchemaIsForgotten) {
  std::set<std::string> known;
  for (const Range& r : planRanges()) known.insert(std::string(r.path));
  eachInSchema([&](const std::string& path, const nlohmann::json& says) {
    if (says.value("type", "") == "number") {
      EXPECT_TRUE(known.count(path)) << path;
    }
  });
}

TEST(Ranges, NoTextOfTheSchemaIsForgotten) {
  std::set<std::string> known;
  for (const TextRange& t : planTexts()) known.insert(std::string(t.path));
  size_t seen = 0;
  eachInSchema([&](const std::string& path, const nlohmann::json& says) {
    if (says.value("type", "") != "string" || says.contains("enum")) return;
    ++seen;
    EXPECT_TRUE(known.count(path)) << path;
  });
  EXPECT_EQ(seen, known.size()) << "and none is in the table that no file can hold";
}

// A text as long as the table allows is written and read; one character more is refused by edit and file alike.
TEST(Ranges, EveryTextAtItsLongestReopensAndBeyondIsRefusedByEditAndFile) {
  for (const TextRange& t : planTexts()) {
    if (t.form == TextRange::Form::LightLetter || t.form == TextRange::Form::PanelNumber) continue;
    const auto with = [&](size_t length) {
      auto json = nlohmann::json::parse(writePlanText(fullPlan()));
      const auto dot = t.path.find('.');
      const std::string part(t.path.substr(0, dot)), member(t.path.substr(dot + 1));
      nlohmann::json* at = &json;
      if (part == "light") at = &json["lights"][0];
      if (part == "panel") at = &json["panels"][0];
      if (part == "spot") at = &json["spots"][0];
      for (const char* one : {"room", "sitter", "backdrop"})
        if (part == one) at = &json[part];
      (*at)[member] = std::string(length, 'a');
      return json.dump();
    };
    Plan longest;
    ASSERT_NO_THROW(longest = readPlanText(with(t.longest))) << t.path;
    EXPECT_NO_THROW(requireInRange(longest)) << t.path;
    EXPECT_EQ(readPlanText(writePlanText(longest)), longest) << t.path;
    EXPECT_THROW(readPlanText(with(t.longest + 1)), PlanFileError) << t.path;
  }
}

TEST(Ranges, APlanAtTheLimitsOfEveryNumberReopens) {
  for (const bool high : {false, true}) {
    Plan p = fullPlan();
    forEachNumber(p, [&](const Range& r, const std::string&, double& v) { v = high ? r.most : r.least; });
    p.spots[0].nx = p.spots[0].ny = 0;  // an aim is a direction of length 1
    ASSERT_NO_THROW(requireInRange(p));
    EXPECT_EQ(readPlanText(writePlanText(p)), p);
  }
}

TEST(Ranges, EachNumberAloneAtItsLimitsReopensAndBeyondThemIsRefusedByEditAndFile) {
  for (const Range& r : planRanges()) {
    if (r.path.starts_with("spot.n")) continue;
    for (const double v : {r.least, r.most}) {
      Plan p = fullPlan();
      forEachNumber(p, [&](const Range& each, const std::string&, double& number) {
        if (each.path == r.path) number = v;
      });
      Plan edited = fullPlan();
      EXPECT_NO_THROW(apply(edited, SetPlan{p})) << r.path;
      EXPECT_NO_THROW(readPlanText(writePlanText(edited))) << r.path << " = " << v;
    }
    const double beyond = r.most + std::max(1e-6, std::abs(r.most) * 1e-6),
                 under = r.least - std::max(1e-6, std::abs(r.least) * 1e-3);
    for (const double v :
         {beyond, under, std::numeric_limits<double>::quiet_NaN(), std::numeric_limits<double>::infinity()}) {
      Plan p = fullPlan();
      forEachNumber(p, [&](const Range& each, const std::string&, double& number) {
        if (each.path == r.path) number = v;
      });
      Plan edited = fullPlan();
      const Plan before = edited;
      EXPECT_THROW(apply(edited, SetPlan{p}), OutOfRange) << r.path << " = " << v;
      EXPECT_EQ(edited, before) << r.path << ": a refused edit leaves the plan alone";
    }
    Plan p = fullPlan();
    forEachNumber(p, [&](const Range& each, const std::string&, double& number) {
      if (each.path == r.path) number = beyond;
    });
    EXPECT_THROW(readPlanText(writePlanText(p)), PlanFileError) << r.path;
  }
}

TEST(Ranges, WhatStrandedPlansOnceIsRefusedWithASentence) {
  Plan p = fullPlan();
  const auto refused = [&](const Edit& e) -> std::string {
    try {
      apply(p, e);
      return "taken";
    } catch (const std::invalid_argument& why) {
      return why.what();
    }
  };
  Camera c = p.camera;
  c.closedBy = 3.4;
  EXPECT_NE(refused(SetCamera{c}).find("3.4 stops"), std::string::npos);
  c = p.camera;
  c.syncShutter = 2;
  EXPECT_NE(refused(SetCamera{c}).find("2 s"), std::string::npos);
  Room r = p.room;
  r.wallReflectance = 0.97;
  EXPECT_NE(refused(SetRoom{r}).find("97 %"), std::string::npos);
  Ambient a = p.ambient;
  a.lux = readAmbient("f/16 at 1/8000", 100);
  EXPECT_NE(refused(SetAmbient{a}).find("200000 lx"), std::string::npos);
  Light l = p.lights[0];
  l.height = 15.2;
  EXPECT_NE(refused(SetLight{l}).find("15.20 m"), std::string::npos);
}

TEST(Ranges, ARefusalSpeaksTheUsersUnits) {
  Plan p = fullPlan();
  Light l = p.lights[0];
  l.height = 15.24;
  try {
    apply(p, SetLight{l});
    FAIL();
  } catch (const OutOfRange& e) {
    EXPECT_NE(e.sentence({LengthUnit::Feet, ApertureStyle::Tenths}).find("50 ft 0 in"), std::string::npos);
  }
}

TEST(Ranges, TextsAndCountsAreHeldToo) {
  const auto taken = [](const Edit& e) {
    Plan p = fullPlan();
    try {
      apply(p, e);
      readPlanText(writePlanText(p));
      return true;
    } catch (const std::invalid_argument&) {
      return false;
    }
  };
  EXPECT_TRUE(taken(SetTitle{std::string(200, 'x'), std::string(20000, 'y')}));
  EXPECT_FALSE(taken(SetTitle{std::string(201, 'x'), ""}));
  EXPECT_FALSE(taken(SetTitle{"Bench \xcb", ""})) << "no text: it would come back as something else";
  EXPECT_FALSE(taken(SetTitle{"\xed\xa0\x80", ""}));
  EXPECT_TRUE(taken(SetTitle{"\xf0\x9f\x8e\xbb", ""}));
  std::string umlauts;
  for (int i = 0; i < 200; ++i) umlauts += "\u00fc";
  EXPECT_TRUE(taken(SetTitle{umlauts, ""})) << "characters count, not bytes";
  SitterPlace s;
  s.id = "Ottoline Marrow";
  EXPECT_FALSE(taken(SetSitter{s}));
  s.id = "ottoline";
  s.hairStyle = std::string(61, 'b');
  EXPECT_FALSE(taken(SetSitter{s}));
  Light l = fullPlan().lights[0];
  l.id = "Q";
  EXPECT_FALSE(taken(AddLight{l, 9}));
  l.id = "B";
  l.group = "far too long";
  EXPECT_FALSE(taken(AddLight{l, 9}));
  Panel panel;
  panel.id = "17";
  EXPECT_FALSE(taken(AddPanel{panel, 9}));
  std::vector<PinnedSpot> many(65);
  for (size_t i = 0; i < many.size(); ++i) many[i].id = "pin-" + std::to_string(i);
  EXPECT_FALSE(taken(SetSpots{many}));
  many.resize(64);
  EXPECT_TRUE(taken(SetSpots{many}));
  many[0].id = many[1].id;
  EXPECT_FALSE(taken(SetSpots{many})) << "two pins of one name";
  many.resize(1);
  many[0].nx = many[0].ny = many[0].nz = 0;
  EXPECT_FALSE(taken(SetSpots{many})) << "it looks nowhere";
  EXPECT_FALSE(taken(SetWanted{std::vector<std::string>(65, "dead-eyes")}));
}

Plan twoLocked() {
  Plan p = fullPlan();
  for (const char* school : {"fill-opposite", "hair-under"}) p.lights.push_back(proposeLight(p, school).light);
  p.lights[0].locked = p.lights[2].locked = true;
  p.panels[0].locked = true;
  return p;
}

TEST(Locks, HoldAgainstEveryWayOfReplacingLights) {
  const auto refused = [](const Edit& e) {
    Plan p = twoLocked();
    const Plan before = p;
    try {
      apply(p, e);
      return false;
    } catch (const std::invalid_argument& why) {
      EXPECT_EQ(p, before);
      EXPECT_NE(std::string(why.what()).find("locked"), std::string::npos) << why.what();
      return true;
    }
  };
  const Plan p = twoLocked();
  EXPECT_TRUE(refused(SetPlan{mirrored(p)}));
  EXPECT_TRUE(refused(SetLights{keySideSwapped(p).lights}));
  EXPECT_TRUE(refused(SetLights{{}})) << "taking it away is a change";
  Plan fresh = fullPlan();
  EXPECT_TRUE(refused(SetPlan{fresh})) << "a proposal, a look";
  Plan moved = p;
  moved.panels[0].distance += 0.1;
  EXPECT_TRUE(refused(SetPlan{moved})) << "a locked panel";
  Plan powered = p;
  powered.lights[0].power -= 1;
  EXPECT_TRUE(refused(SetLights{powered.lights}));
}

TEST(Locks, LeaveWhatTheyDoNotHold) {
  Plan p = twoLocked();
  EXPECT_NO_THROW(apply(p, SetLights{movedTo(p, "A", 2)})) << "the building order";
  EXPECT_NO_THROW(apply(p, SetLights{withLettersInOrder(p)})) << "the letters";
  Plan aside = p;
  for (Light& l : aside.lights)
    if (!l.locked) l.hour = 7;
  EXPECT_NO_THROW(apply(p, SetPlan{aside}));
  Light off = p.lights[0];
  off.on = false;
  off.name = "The lamp over the glue pot";
  EXPECT_NO_THROW(apply(p, SetLight{off}));
}

TEST(Locks, UndoTakesBackTheEditThatLocked) {
  History h(fullPlan());
  Light l = h.plan().lights[0];
  l.hour = 7;
  l.locked = true;  // moved and locked in one go
  h.perform(SetLight{l}, "Both");
  EXPECT_NO_THROW(h.undo());
  EXPECT_EQ(h.plan(), fullPlan());
  EXPECT_NO_THROW(h.redo());
  EXPECT_TRUE(h.plan().lights[0].locked);
}

TEST(Locks, TheCamerasWayIsNoWayPastALockedLight) {
  Plan p = test::demoPlan();
  Light held = proposeLight(p, "background").light;
  held.locked = true;
  p.lights.push_back(held);
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  const PatternWays ways = waysTo(*s.scene(), p, FacePattern::Split);
  ASSERT_EQ(ways.ways.size(), 3u) << ways.sentence;
  for (const Way& w : ways.ways)
    if (w.what == Way::What::Camera) {
      EXPECT_FALSE(w.possible) << w.sentence;
    }
}

TEST(Mirror, TakesPinsAlongAndReletteringKeepsGroupsTogether) {
  Plan p = fullPlan();
  p.spots[0].x = 0.3;
  p.spots[0].nx = 0.6;
  p.spots[0].nz = 0.8;
  const Plan m = mirrored(p);
  EXPECT_DOUBLE_EQ(m.spots[0].x, -0.3);
  EXPECT_DOUBLE_EQ(m.spots[0].nx, -0.6);
  EXPECT_EQ(mirrored(m), p) << "a mirror in a mirror";

  Light b = proposeLight(p, "fill-opposite").light;
  b.id = "C";
  b.group = p.lights[0].id;  // fired together with A
  p.lights.insert(p.lights.begin(), b);
  const auto lights = withLettersInOrder(p);
  EXPECT_EQ(lights[0].id, "A");
  EXPECT_EQ(lights[1].id, "B");
  EXPECT_EQ(lights[0].group, lights[1].group);
}

}  // namespace
}  // namespace easel
