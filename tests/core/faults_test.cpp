#include <gtest/gtest.h>

#include <functional>
#include <set>

#include "analysis/remedies.h"
#include "plan/panels.h"
#include "plan/roles.h"
#include "support.h"

namespace easel {
namespace {

// One plan that shows the fault; the plan it was made from does not.
struct Case {
  const char* id;
  std::function<void(Plan&)> spoil;
  std::function<void(Plan&)> before = [](Plan&) {};  // what both share
};
void PrintTo(const Case& c, std::ostream* o) { *o << c.id; }

Light& key(Plan& p) { return *p.light("A"); }
void keyAlone(Plan& p) { p.lights.resize(1); }
void put(
    Plan& p, const char* school, const std::function<void(Light&)>& change = [](Light&) {}) {
  Light l = proposeLight(p, school).light;
  change(l);
  p.lights.push_back(l);
}
void hard(Light& l) { l.modifier = "reflector-18"; }
void at(Light& l, double hour, double distance, double height) {
  l.hour = hour;
  l.distance = distance;
  l.height = height;
}

// White paper and two background lights that leave it just white.
void whitePaper(Plan& p) {
  keyAlone(p);
  p.backdrop.material = "paper-white";
  p.backdrop.distance = 1.9;
  for (const char* id : {"B", "C"}) {
    put(p, "background-side", [](Light& l) { l.fittings.grid = 40; });
    p.light(id)->targetStops = 0.7;
  }
}

// A table before the sitter, and a snoot that makes a pool on it.
void tableWithItsLight(Plan& p) {
  keyAlone(p);
  p.panels = {proposePanel(p, "table").panel};
  put(p, "background", [&](Light& l) {
    l.role = Role::Other;
    l.modifier = "snoot";
    l.worksOn = p.panels[0].id;
    l.pan = l.tiltOffset = 0;
    l.targetStops = 0;
    at(l, 8.6, 1.1, 2.2);
  });
}

// A lamp with a shade that is seen over the shoulder; a small flash burns in it.
void lampBesideTheHead(Plan& p) {
  keyAlone(p);
  p.backdrop.material = "canvas-grey";
  p.camera.focalLength = 70;
  Panel shade = proposePanel(p, "shade").panel;
  shade.hour = 1.2;
  shade.distance = 0.5;
  shade.above = p.sitter.eyeHeight - 0.05;
  shade.width = shade.height = 0.2;
  shade.depth = shade.above - 0.1;
  p.panels = {shade};
  put(p, "background", [&](Light& l) {
    l.role = Role::Other;
    l.unit = "hotshoe-60";
    l.modifier = "lamp-6";
    l.inside = l.worksOn = shade.id;
    at(l, shade.hour, shade.distance, shade.above);
    l.targetStops = -1;
  });
}

const std::vector<Case>& cases() {
  static const std::vector<Case> all = {
      {"deep-sockets", [](Plan& p) { at(key(p), 5.6, 0.75, 2.35); }, [](Plan& p) { keyAlone(p), hard(key(p)); }},
      {"dead-eyes", [](Plan& p) { at(key(p), 5.0, 0.55, 2.45); }, [](Plan& p) { keyAlone(p), hard(key(p)); }},
      {"two-nose-shadows",
       [](Plan& p) {
         put(p, "fill-opposite", [](Light& l) {
           hard(l);
           at(l, 7.5, 1.5, 1.9);
           l.targetStops = -0.2;
         });
       },
       [](Plan& p) { keyAlone(p), hard(key(p)); }},
      {"fill-over-key", [](Plan& p) { p.light("B")->targetStops = 0.8; }},
      {"uneven-fill",
       [](Plan& p) {
         put(p, "fill-below", [](Light& l) {
           l.modifier = "octa-55";
           at(l, 6, 0.22, 0.86);
         });
       },
       keyAlone},
      {"from-below", [](Plan& p) { at(key(p), 5.2, 0.9, 0.6); }, keyAlone},
      {"hot-spot", [](Plan& p) { p.light("C")->targetStops = 2.5; }},
      {"on-the-nose",
       [](Plan& p) {
         put(p, "rim-accent", [](Light& l) {
           l.modifier = "strip-30x120";
           l.hour = 9.3;
           l.distance = 1.0;
         });
       },
       keyAlone},
      {"burnt", [](Plan& p) { key(p).power += 2.2; }},
      {"meter-in-shadow",
       [](Plan& p) {
         Panel f = proposePanel(p, "flag").panel;
         f.width = f.height = 0.14;
         f.hour = 4.89;  // on the line from the key to the meter's place before the nose
         f.distance = 0.45;
         f.above = 1.40;
         f.turn = 0;
         p.panels.push_back(f);
       },
       [](Plan& p) { keyAlone(p), hard(key(p)), at(key(p), 4.5, 1.4, 1.95); }},
      {"in-frame", [](Plan& p) { put(p, "rim-under", [](Light& l) { at(l, 11.35, 1.1, 1.35); }); }, keyAlone},
      {"panel-in-frame",
       [](Plan& p) {
         Panel f = proposePanel(p, "board").panel;
         f.hour = 6;
         f.distance = 0.8;
         f.above = 1.1;
         p.panels.push_back(f);
       },
       keyAlone},
      {"flare",
       [](Plan& p) {
         put(p, "rim-accent", [](Light& l) {
           l.modifier = "reflector-18";
           at(l, 11.4, 1.3, 2.3);
           l.targetStops = 2.3;
         });
       },
       keyAlone},
      {"shadow-on-backdrop", [](Plan& p) { p.backdrop.distance = 0.35; },
       [](Plan& p) {
         keyAlone(p), hard(key(p));
         at(key(p), 5.3, 1.6, 1.5);
       }},
      {"halo",
       [](Plan& p) {
         at(*p.light("D"), 12, 0.7, 1.25), p.light("D")->targetStops = 0.8, p.light("D")->tiltOffset = 0;
       }},
      {"grey-white", [](Plan& p) { p.light("B")->targetStops = p.light("C")->targetStops = -1.2; }, whitePaper},
      {"white-flares",
       [](Plan& p) {
         for (const char* id : {"B", "C"}) p.light(id)->fittings.grid = 0, p.light(id)->targetStops = 2.2;
       },
       whitePaper},
      {"spill",
       [](Plan& p) {
         p.backdrop.distance = 0.7;
         at(key(p), 4.5, 1.8, 2.0);
         key(p).modifier = "umbrella-through";
       },
       [](Plan& p) {
         keyAlone(p);
         p.backdrop.material = "paper-black";
         p.backdrop.distance = 2.0;
         put(p, "rim-under");
       }},
      {"merged-outline", [](Plan& p) { p.backdrop.material = "paper-black"; },
       [](Plan& p) {
         keyAlone(p);
         p.sitter.id = "tobiah";
         p.sitter.eyeHeight = 1.25;
         p.backdrop.material = "paper-light-grey";
       }},
      {"stray-catchlight",
       [](Plan& p) {
         put(p, "rim-under", [](Light& l) {
           l.modifier = "strip-30x120";
           at(l, 8.3, 1.2, 1.35);
         });
       },
       keyAlone},
      {"pool-off-mark", [](Plan& p) { p.light("B")->pan = 22; }, tableWithItsLight},
      {"table-spill",
       [](Plan& p) {
         at(*p.light("B"), 7.2, 1.5, 1.7);
         p.light("B")->modifier = "reflector-18";
       },
       tableWithItsLight},
      {"lamp-burnt", [](Plan& p) { p.light("B")->targetStops = 2.5; }, lampBesideTheHead},
      {"lamp-dim", [](Plan& p) { p.light("B")->targetStops = -3.5; }, lampBesideTheHead},
      {"found-out",
       [](Plan& p) {
         put(p, "fill-opposite", [](Light& l) {
           hard(l);
           l.role = Role::Other;
           at(l, 5.7, 2.4, 1.5);
           l.targetStops = 0.5;
         });
       },
       lampBesideTheHead},
      {"glare-on-glasses", [](Plan& p) { at(key(p), 5.3, 2.15, 1.35); },
       [](Plan& p) {
         keyAlone(p);
         p.sitter.glasses = "square";
         p.sitter.nod = -4;
       }},
      {"brim-shadow", [](Plan& p) { p.sitter.hat = "felt"; },
       [](Plan& p) {
         keyAlone(p);
         key(p).modifier = "reflector-18";
         at(key(p), 5.5, 1.1, p.sitter.eyeHeight + 1.5);
         p.room.height = 3.4;
       }},
      {"ambient", [](Plan& p) { p.ambient.lux = 6000; }},
      {"sync", [](Plan& p) { p.camera.shutter = 1.0 / 500; }},
      {"ceiling", [](Plan& p) { key(p).height = 2.5; }},
      {"floor", [](Plan& p) { p.light("B")->height = 0.2; }},
      {"outside-room", [](Plan& p) { p.light("B")->distance = 3.6; }},
      {"behind-backdrop", [](Plan& p) { at(*p.light("D"), 12, p.backdrop.distance + 0.3, 0.7); },
       [](Plan& p) { p.room.behind = 3.2, p.room.depth = 6.5; }},
      {"stands-collide",
       [](Plan& p) {
         Light& b = *p.light("B");
         b.hour = key(p).hour + 0.1;
         b.distance = key(p).distance;
         b.height = key(p).height;
       }},
      {"touches-sitter", [](Plan& p) { at(key(p), 4.0, 0.24, 1.3); }, keyAlone},
      {"out-of-reach",
       [](Plan& p) {
         key(p).unit = "hotshoe-60";
         key(p).distance = 1.7;
         p.camera.aperture = 16;
         p.camera.iso = 100;
       },
       keyAlone},
  };
  return all;
}

class Faults : public testing::TestWithParam<Case> {};

// Fault by fault: the spoilt plan shows it, the plan before does not, and what is offered cures it and brings nothing
// new. The few that cannot be cured by one step are named; they must stay fewer than one in ten.
const std::set<std::string> kNotCured = {};

TEST_P(Faults, ShowsAndIsCured) {
  const Case& c = GetParam();
  // Small, but for what lies along the outline.
  const bool close = std::string(c.id) == "halo" || std::string(c.id) == "merged-outline";
  static PlanReader small(112, 140, 4), full;  // what they know of sitter and room serves the next case
  PlanReader& reader = close ? full : small;
  Plan clean = test::masterPlan();
  c.before(clean);
  clean = reader.balanced(clean);
  const FaceAnalysis good = reader.read(clean);
  EXPECT_FALSE(good.fault(c.id)) << good.fault(c.id)->sentence;

  Plan bad = clean;
  c.spoil(bad);
  if (std::string(c.id) != "burnt") bad = reader.repowered(bad, clean);
  const std::vector<Fault> alone = reader.faults(bad, c.id);
  const FaceAnalysis reading = reader.read(bad);
  std::string all;
  for (const Fault& f : reading.faults) all += "\n  " + f.id + ": " + f.sentence;
  const Fault* f = reading.fault(c.id);
  ASSERT_TRUE(f) << "reads " << reading.lighting.name << ", faults:" << all;
  ASSERT_FALSE(alone.empty());
  EXPECT_EQ(alone.front().sentence, f->sentence) << "its rule asked alone";
  EXPECT_GT(f->sentence.size(), 20u);
  EXPECT_GT(f->why.size(), 10u);
  EXPECT_FALSE(f->title.empty());
  EXPECT_EQ(f->sentence.find("nan"), std::string::npos) << f->sentence;

  Plan silent = bad;
  silent.wanted = {c.id};
  EXPECT_EQ(reader.read(silent).count(), [&] {
    int n = 0;
    for (const Fault& o : reading.faults) n += !o.caution && o.id != c.id;
    return n;
  }()) << "who wants it so is not told";

  RemedySearch one;
  one.most = 1;
  const auto cures = findRemedies(reader, bad, c.id, one);
  const bool cured = !cures.empty() && cures.front().clears;
  std::printf("%-20s %s  %s\n", c.id, cured ? "cured" : "NOT cured", cures.empty() ? "" : cures.front().text.c_str());
  EXPECT_EQ(cured, !kNotCured.contains(c.id)) << all;
}

INSTANTIATE_TEST_SUITE_P(Each, Faults, testing::ValuesIn(cases()), [](const auto& info) {
  std::string name = info.param.id;
  std::erase(name, '-');
  return name;
});

TEST(Faults, EveryKindHasACase) {
  std::set<std::string> have;
  for (const Case& c : cases()) have.insert(c.id);
  for (const auto& [id, title] : faultKinds())
    EXPECT_TRUE(have.contains(id) || id == "boom") << id << " has no plan that shows it";
  EXPECT_LE(kNotCured.size() * 10, cases().size());
}

TEST(Faults, ABoomIsACautionAndNoFault) {
  Plan p = test::masterPlan();
  at(key(p), 5.8, 0.3, 2.0);
  PlanReader reader;
  const FaceAnalysis r = reader.read(p);
  ASSERT_TRUE(r.fault("boom"));
  EXPECT_TRUE(r.fault("boom")->caution);
}

TEST(Faults, APlanThatCannotBeComputedIsRefusedInTheSameWords) {
  Plan p = test::masterPlan();
  p.lights[0].modifier = "nothing-known";
  PlanReader reader(48, 60, 2);
  const auto said = [](auto ask) {
    try {
      ask();
    } catch (const std::runtime_error& e) {
      return std::string(e.what());
    }
    return std::string();
  };
  const std::string byPicture = said([&] { renderPicture(p, 48, 60, 1); });
  EXPECT_FALSE(byPicture.empty());
  EXPECT_EQ(said([&] { reader.read(p); }), byPicture);
  EXPECT_EQ(said([&] { reader.faults(p, "in-frame"); }), byPicture);
}

TEST(Faults, TheDemoPlansAreFree) {
  for (const char* name :
       {"marrow-lane-first-light", "marrow-lane-two-lights", "marrow-lane-master", "marrow-lane-fiddler",
        "marrow-lane-maker", "scenes/marrow-lane-bench", "scenes/marrow-lane-glue-pot", "scenes/marrow-lane-back-room",
        "scenes/marrow-lane-portrait", "scenes/marrow-lane-branch", "scenes/marrow-lane-folded-board"}) {
    PlanReader reader(112, 140, 4);
    const FaceAnalysis r = reader.read(loadPlan(std::string(EASEL_SOURCE_DIR) + "/demo/" + name + ".easel.json"));
    EXPECT_EQ(r.count(), 0) << name << ": " << (r.faults.empty() ? "" : r.faults.front().sentence);
  }
}

}  // namespace
}  // namespace easel
