// The hook of every sentence: with a language set, nothing that is shown comes past it.
#include "spoken/say.h"

#include <gtest/gtest.h>

#include <iostream>

#include "analysis/plan_reader.h"
#include "analysis/remedies.h"
#include "balance/advice.h"
#include "formats/day_json.h"
#include "formats/plan_json.h"
#include "gear/gear_file.h"
#include "other_letters.h"
#include "plan/check.h"
#include "plan/roles.h"
#include "propose/shelf.h"
#include "sheet/day_sheet.h"
#include "sheet/plan_sheet.h"
#include "shoot/forecast.h"
#include "sitters/people.h"
#include "support.h"

namespace easel {
namespace {

TEST(Say, TheEnglishStandsUntilALanguageIsSet) { EXPECT_EQ(say("{} of {}", 2, "three"), "2 of three"); }

TEST(Say, ALanguageMayTurnTheFiguresRound) {
  speakThrough(
      [](std::string_view english, int) { return english == "{} of {}" ? std::string("von {1} {0}") : std::string(); });
  EXPECT_EQ(say("{} of {}", 2, "three"), "von three 2");
  EXPECT_EQ(say("untouched {}", 1), "untouched 1");
  speakThrough({});
}

TEST(Say, CountsInTheFormsOfItsLanguage) {
  const auto sets = [](int n) { return sayMany(n, "{} set fulfils it", "{} sets fulfil it", n); };
  EXPECT_EQ(sets(1), "1 set fulfils it");
  EXPECT_EQ(sets(0), "0 sets fulfil it");
  EXPECT_EQ(sets(5), "5 sets fulfil it");
  const auto stops = [](double v) { return sayMany(v, "{:.1f} stop over", "{:.1f} stops over", v); };
  EXPECT_EQ(stops(1.04), "1.0 stop over");
  EXPECT_EQ(stops(0.5), "0.5 stop over");
  EXPECT_EQ(stops(1.06), "1.1 stops over");
  // One that has a form of its own for two, asked by the form for many.
  speakThrough([](std::string_view english, int count) {
    if (english != "{} sets fulfil it") return std::string();
    return std::string(count == 1 ? "en {}" : count == 2 ? "dva {}" : "mnogo {}");
  });
  EXPECT_EQ(sets(1), "en 1");
  EXPECT_EQ(sets(2), "dva 2");
  EXPECT_EQ(sets(7), "mnogo 7");
  EXPECT_EQ(stops(2), "2.0 stops over") << "what it does not know stays English";
  speakThrough({});
}

TEST(Say, ChoicesAreOneSentence) {
  EXPECT_EQ(eitherOf({}), "");
  EXPECT_EQ(eitherOf({"a"}), "a");
  EXPECT_EQ(eitherOf({"a", "b"}), "a or b");
  EXPECT_EQ(eitherOf({"a", "b", "c"}), "a, b or c");
}

TEST(Say, ATranslationThatWantsWhatIsNotThereIsPassedOver) {
  speakThrough([](std::string_view, int) { return std::string("{7} {}"); });
  EXPECT_EQ(say("light {}", "A"), "light A");
  speakThrough({});
}

// Sentences that came past the hook, one a line.
std::string unmarked() {
  std::string out;
  std::set<std::string> names;  // people's, and files'
  for (const Person& p : sitterCatalogue()) names.insert(p.name);
  const auto look = [&](const char* where, const std::string& text) {
    if (const std::string word = test::latinWord(text, names); !word.empty())
      out += std::string(where) + ": '" + word + "' in '" + text + "'\n";
  };
  for (const Unit& u : units()) look("unit", u.name);
  for (const Modifier& m : modifiers()) look("modifier", m.name);
  for (const PanelKind& p : panelKinds()) {
    look("panel", p.name);
    look("panel's use", p.use);
  }
  for (const RoleSchool& s : roleSchools()) look("school", s.name);
  for (const Look& l : looks()) {
    look("look", l.name);
    look("look", l.forWhat);
    look("look", l.levels);
    for (const std::string& step : l.steps) look("step", step);
    for (const std::string& term : l.terms) look("term", term);
  }
  for (const Person& p : sitterCatalogue()) look("person", p.description);
  PlanReader reader(48, 60, 4);
  for (const char* name : {"first-light", "master", "fiddler"}) {
    Plan p = test::turned(loadPlan(std::string(EASEL_SOURCE_DIR) + "/demo/marrow-lane-" + name + ".easel.json"));
    // As much wrong with it as goes into one set.
    p.lights[0].height = p.sitter.eyeHeight + 1.1;
    p.camera.shutter = 1.0 / 30;
    p.ambient.lux = 400;
    for (const Finding& f : checkPlan(p)) look("check", f.sentence);
    const FaceAnalysis r = reader.read(p);
    for (const Finding& f : adviceOn(p, reader.answers(), nullptr)) look("advice", f.sentence);
    look("lighting", r.lighting.name);
    look("lighting", r.lighting.sentence);
    for (const std::string& w : r.measures.words) look("measures", w);
    for (const Fault& f : r.faults) {
      look("title", f.title);
      look("sentence", f.sentence);
      look("why", f.why);
    }
    RemedySearch search;
    search.most = 1;
    if (const Fault* f = r.faults.empty() ? nullptr : &r.faults.front())
      for (const Remedy& cure : findRemedies(reader, p, f->id, search)) look("cure", cure.text);
    for (const RoleSchool& s : roleSchools()) look("why", proposeLight(p, s).why);
  }
  Day day = test::turned(loadDay(std::string(EASEL_SOURCE_DIR) + "/demo/open-day/marrow-lane-open-day.day.json").day);
  day.end = 11 * 60;
  Inventory little;
  little.units["battery-600"] = little.modifiers["octa-90"] = little.supports["stand-heavy"] = 1;
  const DayForecast r = forecast(day, little);
  for (const std::string& p : r.problems) look("day", p);
  for (const Relief& one : r.reliefs) look("relief", one.sentence);
  for (const PackItem& i : r.packing) {
    look("packing", i.name);
    look("packing", packGroupName(i.group));
    look("packing", i.why);
  }
  for (const auto& [key, all] : r.standIns)
    for (const StandInFor& s : all) look("stand-in", s.one.changes);
  for (const LookForecast& l : r.looks) {
    for (const Chore& c : l.change.chores) look("chore", c.sentence);
    look("why", l.why);
    for (const Carried& c : l.carried) look("carried", describe(c));
    for (const Caution& c : l.cautions) look("caution", c.sentence);
  }
  look("load", loadCaution());
  for (const Paper& p : papers()) look("paper", p.name);
  SheetWish wish;
  wish.width = 48;
  wish.height = 60;
  wish.passes = 1;
  wish.eyes = false;
  const PlanSheet sheet = planSheet(day.looks[1].plan, wish);
  for (const Pages& pages : {pagesOf(sheet), growingPagesOf(sheet), standPagesOf(sheet),
                             dayPages(day, r.planned, {}, {}), packingPages(day, {})})
    for (const Block& b : pages.blocks) {
      if (const auto* h = std::get_if<Heading>(&b); h && h->level == 2) look("heading", h->text);
      if (const auto* p = std::get_if<Points>(&b))
        for (const auto& one : p->all) look("point", one.text);
      if (const auto* t = std::get_if<Table>(&b))
        for (const auto& c : t->columns) look("column", c.name);
      if (const auto* d = std::get_if<Drawing>(&b)) look("drawing", d->caption);
      if (const auto* f = std::get_if<PictureAndFacts>(&b))
        for (const auto& [name, value] : f->facts) look("fact", name);
    }
  for (const char* broken : {"", "{", "{\"format\":\"jolly-easel-plan\",\"version\":1,\"lights\":[{\"id\":3}]}"}) try {
      readPlanText(broken);
    } catch (const std::exception& e) {
      look("error", e.what());
    }
  return out;
}

// In a process of its own: names of things are said once and kept.
TEST(Say, NothingThatIsShownComesPastTheHook) {
  ::testing::FLAGS_gtest_death_test_style = "threadsafe";
  EXPECT_EXIT(
      {
        speakThrough([](std::string_view english, int) { return test::inOtherLetters(english); });
        const std::string past = unmarked();
        std::cerr << past;
        std::exit(past.empty() ? 0 : 1);
      },
      ::testing::ExitedWithCode(0), "");
}

}  // namespace
}  // namespace easel
