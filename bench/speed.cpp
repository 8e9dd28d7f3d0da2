// The rows of the table of speed, one at a time: reads a row's name from standard input, answers with its figure.
//
// Made to be run beside an older build of itself, in turn (bench/compare.py): while one works the other waits. Long
// references are made once and kept in the folder given with --references. It is built with the older core as well, so
// it asks for nothing that bench/baseline does not have.
#include <sys/resource.h>

#include <chrono>
#include <cstdio>
#include <exception>
#include <filesystem>
#include <fstream>
#include <functional>
#include <iostream>
#include <memory>
#include <tuple>

#include "balance/balance.h"
#include "formats/catalogue.h"
#include "meter/spots.h"
#include "plan/framing.h"
#include "propose/propose.h"
#if __has_include("propose/prints.h")
#include "propose/prints.h"
#endif
#include "scenes.h"

namespace {

using namespace easel;
using namespace easel::bench;

std::string references;

double seconds() { return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count(); }
template <class F>
double milliseconds(F work) {
  const double from = seconds();
  work();
  return 1000 * (seconds() - from);
}

// A set that is worked on: its samples and first passes stand.
struct Ready {
  Plan plan;
  ProgressiveRender studio;
  double hour = 4.5;
  Ready(Plan p, int passes, int width = 640) : plan(std::move(p)), studio(width, width * 5 / 4) {
    studio.setPlan(plan);
    studio.finish(passes);
    hour = plan.lights[0].hour;
  }
  // From moving the first light to the first picture that shows it where it is.
  double firstPicture() {
    hour = hour > plan.lights[0].hour + 0.5 ? plan.lights[0].hour - 0.5 : hour + 0.05;
    Plan moved = plan;
    moved.lights[0].hour = hour;
    return firstOf(moved);
  }
  // The same of the first piece of the set.
  double firstPictureOfPiece() {
    aside = aside > 0.2 ? -0.2 : aside + 0.02;
    Plan moved = plan;
    moved.panels.at(0).hour += aside;
    return firstOf(moved);
  }

 private:
  double aside = 0;
  double firstOf(const Plan& moved) {
    const Interrupt never;
    return milliseconds([&] {
      studio.setPlan(moved);
      while (improve(studio, never) != ProgressiveRender::Progress::Improved) {
      }
      developPicture(studio.layers(), setOf(studio, moved));
    });
  }
};
// One set at a time: a process that holds them all tells nothing about memory, nor about caches.
Ready& ready(const std::string& name, const std::function<std::unique_ptr<Ready>()>& make) {
  static std::string is;
  static std::unique_ptr<Ready> one;
  if (is != name) {
    one.reset();
    one = make();
    is = name;
  }
  return *one;
}
Ready& key() {
  return ready("key", [] { return std::make_unique<Ready>(demoPlan(), kSampleSets + 1); });
}
Ready& lights(int n, int panels = 0, int width = 640) {
  return ready(std::to_string(n) + "/" + std::to_string(panels) + "/" + std::to_string(width),
               [&] { return std::make_unique<Ready>(withPanels(n, panels), 2, width); });
}

Ready& scenery(size_t lights, bool pieces) {
  return ready("bench " + std::to_string(lights) + (pieces ? "" : " bare"),
               [=] { return std::make_unique<Ready>(benchScene(lights, pieces), kSampleSets); });
}

double onePass() {
  Ready& r = key();
  Plan moved = r.plan;
  moved.lights[0].hour += 0.013;
  const Interrupt never;
  r.studio.setPlan(moved);
  improve(r.studio, never);  // the preview
  // The second: all pixels have it alike, and no build makes a picture of it.
  improve(r.studio, never);
  const double ms = milliseconds([&] { improve(r.studio, never); });
  r.studio.setPlan(r.plan);
  return ms;
}

// The mean of several pictures: each knows an edge, a pore and a strand from its own few places of the camera's samples
// only, and its error would be counted as that of whom it is held against.
std::vector<float> reference(const std::string& name, const Plan& plan, int passes) {
  constexpr unsigned kPictures = 4;
  const auto file = std::filesystem::path(references) /
                    (name + "-" + std::to_string(kPictures) + "x" + std::to_string(passes) + ".planes");
  std::vector<float> truth(size_t(640) * 800 * 3);
  const auto bytes = std::streamsize(truth.size() * sizeof(float));
  if (std::ifstream in(file, std::ios::binary); in && in.read(reinterpret_cast<char*>(truth.data()), bytes))
    return truth;
  std::fprintf(stderr, "making the reference %s, once: a minute or two\n", name.c_str());
  std::fill(truth.begin(), truth.end(), 0.f);
  for (unsigned seed = 1; seed <= kPictures; ++seed) {
    ProgressiveRender studio(640, 800);
    studio.setSeed(seed);
    studio.setOnlyLast(true);
    studio.setPlan(plan);
    studio.finish(passes);
    const std::vector<float> one = toned(studio.layers(), plan);
    for (size_t i = 0; i < truth.size(); ++i) truth[i] += one[i] / kPictures;
  }
  if (!references.empty())
    std::ofstream(file, std::ios::binary).write(reinterpret_cast<const char*>(truth.data()), bytes);
  return truth;
}

Ready& hair(const std::string& style) {
  return ready("hair " + style, [&] {
    Plan plan = demoPlan();
    plan.sitter.hairStyle = style;
    return std::make_unique<Ready>(plan, 2);
  });
}

double samples() {
  Ready& r = key();
  const Interrupt never;
  SampleSets sets(r.studio.scene(), View{cameraPose(r.plan, 0.8), 640, 800});
  return milliseconds([&] {
    for (int k = 0; k < kSampleSets; ++k) sets.build(k, never);
  });
}

// Time until the key's layer is within 2 % of its end, once the camera's samples stand.
double keyWithinTwoPercent() {
  Ready& r = key();
  const std::vector<float> truth = reference("key", r.plan, 128);
  const Interrupt never;
  Plan moved = r.plan;
  moved.lights[0].hour += 0.01;
  r.studio.setPlan(moved);
  improve(r.studio, never);
  r.studio.setPlan(r.plan);  // the light is back: its layer starts from nothing
  double spent = 0;
  for (int last = 0; spent < 20;) {
    ProgressiveRender::Progress p{};
    spent += milliseconds([&] { p = improve(r.studio, never); }) / 1000;
    if (p == ProgressiveRender::Progress::Done) break;
    if (r.studio.layers().passes == last) continue;
    last = r.studio.layers().passes;
    if (rmse(toned(r.studio.layers(), r.plan), truth) < 0.02) break;
  }
  return 1000 * spent;
}

// An edge light alone: how far it is from its end where it falls, in percent, after so many seconds.
double edgeAfter(const char* school, double limit) {
  Plan plan = eightLights();
  plan.lights = {proposeLight(loadPlan(EASEL_DEMO_DIR "/marrow-lane-master.easel.json"), school).light};
  plan.ambient.lux = 0;
  {
    ProgressiveRender small(8, 8);
    small.setPlan(plan);
    plan.lights = balance(plan, computeAnswers(*small.scene(), setOf(plan)), BalanceBy::EachAlone).lights;
  }
  const std::vector<float> truth = reference(school, plan, 192);
  Ready& r = ready(school, [&] { return std::make_unique<Ready>(plan, kSampleSets + 1); });
  Plan moved = plan;
  moved.lights[0].hour += 0.01;
  const Interrupt never;
  r.studio.setPlan(moved);
  improve(r.studio, never);
  r.studio.setPlan(plan);
  double spent = 0, error = 100;
  for (int last = 0;;) {
    ProgressiveRender::Progress p{};
    spent += milliseconds([&] { p = improve(r.studio, never); }) / 1000;
    if (spent > limit || p == ProgressiveRender::Progress::Done) return error;
    if (r.studio.layers().passes == last) continue;
    last = r.studio.layers().passes;
    error = 100 * rmseLit(toned(r.studio.layers(), plan), truth);
  }
}

double reading() {
  Ready& r = lights(8);
  const auto scene = r.studio.scene();
  const Answers answers = computeAnswers(*scene, setOf(r.studio, r.plan));
  const SpotTable table = spotTable(*scene, setOf(r.studio, r.plan));
  const auto quality = lightQualities(*scene, setOf(r.studio, r.plan), {});
  r.studio.setPlan(r.plan);
  r.studio.finish(2);
  return milliseconds([&] { readAll(r.studio, r.plan, answers, table, quality); });
}

double proposal(const std::string& only) {
  Plan plan = loadPlan(EASEL_DEMO_DIR "/marrow-lane-first-light.easel.json");
  plan.room.width = 4;
  plan.room.depth = 5;
  plan.room.height = 2.6;
  return milliseconds([&] {
    for (const Look& l : looks()) {
      Wish wish;
      wish.look = l.id;
      if (only.empty() || l.id == only) propose(wish, plan, {}, 3);
    }
  });
}

// As the shelf makes them; before it had printSets() each coarse, then each fine, those of one set after each other.
double prints() {
  const Plan here = loadPlan(EASEL_DEMO_DIR "/marrow-lane-first-light.easel.json");
#if __has_include("propose/prints.h")
  std::vector<ToPrint> sets;
  for (const Look& l : looks()) sets.push_back({l.id, &l});
  return milliseconds(
      [&] { printSets(sets, here, 96, 120, [](const std::string&, const std::optional<Picture>&) { return true; }); });
#else
  return milliseconds([&] {
    std::vector<Plan> plans;
    for (const int scale : {1, 2}) {
      if (scale == 1)
        for (const Look& l : looks()) {
          plans.push_back(sketchOf(l, here));
          for (const Framing& f : framings())
            if (f.id == "headshot") plans.back().camera = framed(plans.back(), f);
        }
      else
        std::stable_sort(plans.begin(), plans.end(), [](const Plan& a, const Plan& b) {
          const auto key = [](const Plan& p) {
            return std::tuple(p.sitter.turn, p.backdrop.material, p.backdrop.distance, p.panels.size());
          };
          return key(a) < key(b);
        });
      ProgressiveRender studio(scale * 96, scale * 120);
      studio.setOnlyLast(true);
      for (const Plan& p : plans) {
        studio.setPlan(p);
        studio.finish(scale);
        developPicture(studio.layers(), setOf(studio, p));
      }
    }
  });
#endif
}

double reweighed() {
  Ready& r = lights(8);
  Plan plan = r.plan;
  r.studio.setPlan(plan);
  r.studio.finish(2);
  plan.lights[0].power -= 0.1;
  return milliseconds([&] {
    r.studio.setPlan(plan);
    developPicture(r.studio.layers(), setOf(r.studio, plan));
  });
}

double scene(bool turned) {
  Plan plan = demoPlan();
  static double by = 0;
  by += 0.01;
  (turned ? plan.sitter.turn : plan.backdrop.distance) += by;
  ProgressiveRender studio(8, 8);
  studio.setPlan(plan);
  return milliseconds([&] { studio.scene(); });
}

double resident() {
  // Eight lights at rest, and no reference beside them.
  lights(8);
  std::ifstream status("/proc/self/status");
  for (std::string word; status >> word;)
    if (double kilobytes = 0; word == "VmRSS:" && status >> kilobytes) return kilobytes / 1024;
  return 0;
}

struct Row {
  const char *name, *what, *unit;
  double aim;   ///< 0: stated, not aimed at
  bool longer;  ///< asked for with --all alone
  std::function<double()> figure;
};
const std::vector<Row>& rows() {
  static const std::vector<Row> all = {
      {"memory", "resident with eight lights", "MB", 600, false, resident},
      {"move-1", "first picture after a moved light, of 1", "ms", 50, false, [] { return lights(1).firstPicture(); }},
      {"move-4", "... of 4", "ms", 0, false, [] { return lights(4).firstPicture(); }},
      {"move-8", "... of 8", "ms", 60, false, [] { return lights(8).firstPicture(); }},
      {"move-16", "... of 16", "ms", 0, false, [] { return lights(16).firstPicture(); }},
      {"move-8-panels", "... of 8 with 4 panels and a pattern", "ms", 60, false,
       [] { return lights(8, 4).firstPicture(); }},
      {"move-320", "... of 8, a quarter of the pixels", "ms", 0, false,
       [] { return lights(8, 0, 320).firstPicture(); }},
      {"move-shaven", "... of 1, the sitter shaven", "ms", 0, false, [] { return hair("shaved").firstPicture(); }},
      {"move-long", "... of 1, long hair", "ms", 0, false, [] { return hair("long").firstPicture(); }},
      {"move-bare", "... of 3, half length", "ms", 0, false, [] { return scenery(3, false).firstPicture(); }},
      {"move-set", "... with a table, a chair and a doorway", "ms", 0, false,
       [] { return scenery(3, true).firstPicture(); }},
      {"piece-1", "first picture after a moved table, 1 light", "ms", 150, false,
       [] { return scenery(1, true).firstPictureOfPiece(); }},
      {"piece-3", "... 3 lights", "ms", 0, false, [] { return scenery(3, true).firstPictureOfPiece(); }},
      {"power", "power of one of eight: the picture", "ms", 7, false, reweighed},
      {"reading", "reading of eight lights", "ms", 60, false, reading},
      {"pass", "one full pass of the key", "ms", 90, false, onePass},
      {"key", "soft key within 2 % of its end", "ms", 1500, false, keyWithinTwoPercent},
      {"hair", "hair light after 3 s, off where it falls", "%", 3, false, [] { return edgeAfter("hair-under", 3); }},
      {"kicker", "kicker after 3 s", "%", 3, false, [] { return edgeAfter("kicker", 3); }},
      {"rim", "gridded rim strip after 3 s", "%", 3, false, [] { return edgeAfter("rim-under", 3); }},
      {"samples", "all that the camera sees, once it has moved", "ms", 0, false, samples},
      {"scene", "a new scene: another backdrop", "ms", 0, false, [] { return scene(false); }},
      {"turned", "a new scene: the head turned", "ms", 0, false, [] { return scene(true); }},
      {"prints", "prints of the shelf", "ms", 4000, true, prints},
      {"proposal", "a proposal, the longest", "ms", 4000, true, [] { return proposal("answer-by-board"); }},
      {"proposals", "proposals for all looks", "ms", 40000, true, [] { return proposal({}); }},
  };
  return all;
}

}  // namespace

int main(int argc, char** argv) {
  for (int i = 1; i < argc; ++i) {
    const std::string a = argv[i];
    if (a == "--references" && i + 1 < argc) {
      references = argv[++i];
    } else if (a == "--rows") {
      for (const Row& r : rows()) std::printf("%s\t%s\t%s\t%g\t%d\n", r.name, r.what, r.unit, r.aim, int(r.longer));
      return 0;
    }
  }
  for (std::string name; std::getline(std::cin, name);) {
    double figure = -1;
    try {
      for (const Row& r : rows())
        if (name == r.name) figure = r.figure();
    } catch (const std::exception&) {
      // An older core knows no such set: -1.
    }
    std::printf("%.6g\n", figure);
    std::fflush(stdout);
  }
  return 0;
}
