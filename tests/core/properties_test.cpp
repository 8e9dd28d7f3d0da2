// Random sequences of every edit that there is: what was shown is what comes back from the file, and undo gives the
// same bytes.
#include <gtest/gtest.h>

#include <functional>
#include <random>

#include "analysis/remedies.h"
#include "analysis/ways.h"
#include "balance/backdrop_tone.h"
#include "balance/balance.h"
#include "balance/camera_setting.h"
#include "exposure/ratio.h"
#include "gear/inventory.h"
#include "meter/spots.h"
#include "plan/history.h"
#include "plan/panels.h"
#include "plan/pins.h"
#include "plan/ranges.h"
#include "plan/roles.h"
#include "propose/propose.h"
#include "rendering/series.h"
#include "sitters/colouring.h"
#include "support.h"

namespace easel {
namespace {

// Readings that need no scene: what the edits that follow the meter make of them is what is tested here.
Answers madeUpAnswers(const Plan& plan, std::mt19937& random) {
  std::uniform_real_distribution<double> stops(-5, 5);
  Answers a;
  a.ambient.steady = plan.ambient.lux * plan.camera.shutter;
  for (const Light& l : plan.lights) {
    LightAnswer r;
    r.id = l.id;
    r.aperture = 8 * std::exp2(stops(random) / 2);
    r.apertureFull = r.aperture * 3;
    r.apertureLowest = r.aperture / 8;
    r.stopsFromWorking = stops(random);
    r.wantedPower = stops(random) - 3;
    r.alone.flash = r.atFace.flash = std::exp2(stops(random) + 5);
    a.face.flash += r.atFace.flash;
    a.lights.push_back(r);
  }
  a.backdrop.flash = std::exp2(stops(random) + 4);
  a.backdropValue = std::exp2(stops(random) - 2);
  a.aperture = 8 * std::exp2(stops(random) / 2);
  return a;
}

class Editor {
 public:
  explicit Editor(unsigned seed) : random_(seed), history_(test::demoPlan()) {}

  const History& history() const { return history_; }
  int taken = 0, refused = 0;

  void step() {
    const auto& all = edits();
    const auto& [name, make] = all[size_t(whole(0, int(all.size()) - 1))];
    const Plan before = history_.plan();
    try {
      const std::optional<Edit> edit = make();
      if (!edit) return;
      history_.perform(*edit, name, whole(0, 3) ? "" : std::string("drag-") + name);
      if (whole(0, 2)) history_.endMerge();
      ++taken;
    } catch (const std::invalid_argument&) {
      ++refused;
      ASSERT_EQ(history_.plan(), before) << name << ": refused, and yet changed";
    }
    last = name;
  }
  void undo() { history_.undo(); }
  void redo() { history_.redo(); }
  std::string last;

 private:
  using Make = std::function<std::optional<Edit>()>;
  const Plan& plan() const { return history_.plan(); }
  double number(double least, double most) { return std::uniform_real_distribution<double>(least, most)(random_); }
  int whole(int least, int most) { return std::uniform_int_distribution<int>(least, most)(random_); }
  const Light* anyLight() {
    const auto& l = plan().lights;
    return l.empty() ? nullptr : &l[size_t(whole(0, int(l.size()) - 1))];
  }
  const Panel* anyPanel() {
    const auto& p = plan().panels;
    return p.empty() ? nullptr : &p[size_t(whole(0, int(p.size()) - 1))];
  }
  template <class F>
  std::optional<Edit> light(F change) {
    const Light* l = anyLight();
    if (!l) return {};
    Light c = *l;
    change(c);
    return SetLight{c};
  }

  // A number of the whole plan put anywhere in its range, or now and then a little outside it.
  std::optional<Edit> anyNumber() {
    Plan p = plan();
    int count = 0;
    forEachNumber(p, [&](const Range&, const std::string&, double&) { ++count; });
    int at = whole(0, count - 1);
    forEachNumber(p, [&](const Range& r, const std::string&, double& v) {
      if (at-- != 0) return;
      const double span = r.most - r.least;
      v = whole(0, 9) ? number(r.least, r.most) : number(r.least - 0.1 * span, r.most + 0.1 * span);
    });
    return SetPlan{p};
  }

  const std::vector<std::pair<const char*, Make>>& edits() {
    if (!edits_.empty()) return edits_;
    auto add = [&](const char* name, Make make) { edits_.emplace_back(name, std::move(make)); };
    add("title", [&] { return SetTitle{std::string(size_t(whole(0, 220)), char(whole(32, 126))), "notes\n\"\\"}; });
    add("number", [&] { return anyNumber(); });
    add("number", [&] { return anyNumber(); });
    add("add light", [&]() -> std::optional<Edit> {
      const auto& s = roleSchools()[size_t(whole(0, int(roleSchools().size()) - 1))];
      return AddLight{proposeLight(plan(), s.id).light, size_t(whole(0, 20))};
    });
    add("copy", [&]() -> std::optional<Edit> {
      const Light* l = anyLight();
      if (!l) return {};
      return AddLight{copyOf(plan(), *l), 99};
    });
    add("other school", [&]() -> std::optional<Edit> {
      const Light* l = anyLight();
      if (!l) return {};
      return SetLight{byOtherSchool(plan(), *l).light};
    });
    add("remove light", [&]() -> std::optional<Edit> {
      const Light* l = anyLight();
      if (!l || whole(0, 2)) return {};
      return RemoveLight{l->id};
    });
    add("lock light", [&] { return light([](Light& l) { l.locked = !l.locked; }); });
    add("switch", [&] { return light([](Light& l) { l.on = !l.on; }); });
    add("own gear", [&] {
      return light([&](Light& l) {
        const char* const modifiers[] = {"own-box", "octa-90", "spot", "not there at all"};
        l.modifier = modifiers[whole(0, 3)];
        l.unit = whole(0, 1) ? "own-head" : "mains-400";
        l.fittings.gel = whole(0, 1) ? "blue" : "none";
        l.fittings.pattern = whole(0, 1) ? "panes" : "none";
        l.fittings.inner = whole(0, 1);
      });
    });
    add("mirror", [&] { return SetPlan{mirrored(plan())}; });
    add("swap", [&] { return SetLights{keySideSwapped(plan()).lights}; });
    add("letters", [&] { return SetLights{withLettersInOrder(plan())}; });
    add("order", [&]() -> std::optional<Edit> {
      const Light* l = anyLight();
      if (!l) return {};
      return SetLights{movedTo(plan(), l->id, size_t(whole(0, 20)))};
    });
    add("balance", [&] {
      return SetLights{
          balance(plan(), madeUpAnswers(plan(), random_), whole(0, 1) ? BalanceBy::Sum : BalanceBy::EachAlone).lights};
    });
    add("camera",
        [&] { return SetPlan{withCameraSetting(plan(), madeUpAnswers(plan(), random_), CameraSchool(whole(0, 2)))}; });
    add("tone", [&] {
      const auto& tones = backdropTones();
      return SetLights{
          withBackdropTone(plan(), madeUpAnswers(plan(), random_), tones[size_t(whole(0, int(tones.size()) - 1))].id)
              .lights};
    });
    add("ratio", [&]() -> std::optional<Edit> {
      const auto steps = ratioStrip(plan(), madeUpAnswers(plan(), random_));
      if (steps.empty()) return {};
      return SetPlan{steps[size_t(whole(0, int(steps.size()) - 1))].plan};
    });
    add("series", [&]() -> std::optional<Edit> {
      const auto& all = variedThings();
      const Varied& v = all[size_t(whole(0, int(all.size()) - 1))];
      return SetPlan{varied(plan(), v.path, number(v.from, v.to))};
    });
    add("panel", [&]() -> std::optional<Edit> {
      const auto& kinds = panelKinds();
      return AddPanel{proposePanel(plan(), kinds[size_t(whole(0, int(kinds.size()) - 1))].id).panel,
                      size_t(whole(0, 20))};
    });
    add("change panel", [&]() -> std::optional<Edit> {
      const Panel* p = anyPanel();
      if (!p) return {};
      Panel q = *p;
      q.distance = number(0, 21);
      q.locked ^= whole(0, 4) == 0;
      q.on ^= whole(0, 4) == 0;
      q.front = whole(0, 1) ? "gold" : "black";
      return SetPanel{q};
    });
    add("remove panel", [&]() -> std::optional<Edit> {
      const Panel* p = anyPanel();
      if (!p) return {};
      return RemovePanel{p->id};
    });
    add("pin", [&]() -> std::optional<Edit> {
      auto spots = plan().spots;
      if (whole(0, 3) == 0 && !spots.empty())
        spots.erase(spots.begin() + whole(0, int(spots.size()) - 1));
      else
        spots.push_back(pinInAir(plan(), number(-3, 3), number(-3, 3)));
      return SetSpots{spots};
    });
    add("receptor", [&] { return SetReceptor{Receptor(whole(0, 1)), MeterAim(whole(0, 1))}; });
    add("wanted", [&] { return SetWanted{std::vector<std::string>(size_t(whole(0, 70)), "dead-eyes")}; });
    add("sitter", [&] {
      SitterPlace s = plan().sitter;
      const auto& styles = hairStyles();
      s.hairStyle = whole(0, 9) ? styles[size_t(whole(0, int(styles.size()) - 1))].id : "beehive";
      s.id = whole(0, 9) ? "wren" : "Not A Word";
      return SetSitter{s};
    });
    add("backdrop", [&] {
      Backdrop b = plan().backdrop;
      b.material = whole(0, 1) ? "paper-white" : "no such cloth";
      return SetBackdrop{b};
    });
    return edits_;
  }

  std::mt19937 random_;
  History history_;
  std::vector<std::pair<const char*, Make>> edits_;
};

class Properties : public ::testing::TestWithParam<unsigned> {};

TEST_P(Properties, WhatWasShownComesBackAndUndoGivesTheSameBytes) {
  Inventory own;
  own.ownModifiers.push_back(*findModifier("softbox-60x90"));
  own.ownModifiers[0].id = "own-box";
  own.ownUnits.push_back(*findUnit("battery-200"));
  own.ownUnits[0].id = "own-head";
  takeIntoUse(own);

  Editor e(GetParam());
  std::vector<std::string> states;  // as bytes, after every step that undo can come back to
  for (int i = 0; i < 250; ++i) {
    ASSERT_NO_FATAL_FAILURE(e.step());
    const std::string bytes = writePlanText(e.history().plan());
    Plan back;
    ASSERT_NO_THROW(back = readPlanText(bytes)) << "after " << e.last << " the plan could not be opened again";
    ASSERT_EQ(back, e.history().plan()) << e.last;
  }
  EXPECT_GT(e.taken, 120);
  EXPECT_GT(e.refused, 5) << "the limits were met too";

  // All the way back, noting every state; forward again meets the same ones, and back once more.
  std::vector<std::string> backwards;
  const std::string end = writePlanText(e.history().plan());
  while (e.history().canUndo()) {
    e.undo();
    backwards.push_back(writePlanText(e.history().plan()));
  }
  EXPECT_EQ(backwards.back(), writePlanText(test::demoPlan()));
  for (size_t i = backwards.size(); i-- > 1;) {
    ASSERT_TRUE(e.history().canRedo());
    e.redo();
    ASSERT_EQ(writePlanText(e.history().plan()), backwards[i - 1]);
  }
  e.redo();
  EXPECT_EQ(writePlanText(e.history().plan()), end);
  takeIntoUse({});
}

INSTANTIATE_TEST_SUITE_P(Seeds, Properties, ::testing::Range(1u, 9u));

// What is searched rather than computed at once: every way, remedy and proposal is a plan that can be kept.
TEST(Properties, WaysAndRemediesAndProposalsCanBeTakenAndSaved) {
  Plan p = test::demoPlan();
  p.room.height = 20;
  ProgressiveRender s(8, 8);
  s.setPlan(p);
  const auto kept = [&](const Plan& wanted, const std::string& what) {
    History h(p);
    ASSERT_NO_THROW(h.perform(SetPlan{wanted}, what)) << what;
    ASSERT_EQ(readPlanText(writePlanText(h.plan())), h.plan()) << what;
    h.undo();
    ASSERT_EQ(writePlanText(h.plan()), writePlanText(p)) << what;
  };
  for (FacePattern pattern : {FacePattern::Butterfly, FacePattern::Split})
    for (const Way& w : waysTo(*s.scene(), p, pattern).ways) kept(w.plan, w.sentence);
  p.lights[0].height = 3.4;
  PlanReader reader(80, 100, 2);
  const FaceAnalysis r = reader.read(p);
  for (const Fault& f : r.faults)
    if (!f.caution) {
      RemedySearch one;
      one.most = 1;
      for (const Remedy& cure : findRemedies(reader, p, f.id, one)) kept(cure.plan, cure.text);
      break;
    }
  Wish wish;
  for (const Proposed& set : propose(wish, test::demoPlan(), {}, 1)) kept(set.plan, set.name);
}

}  // namespace
}  // namespace easel
