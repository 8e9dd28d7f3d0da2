// The promises of speed, measured: medians at 640x800 on the demo plan. Run with ./run-bench; the references of
// thousands of passes only with ./run-bench --all. A table at the end sets each promise beside its figure.
#include <benchmark/benchmark.h>
#include <sys/resource.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <fstream>
#include <string>

#include "balance/balance.h"
#include "data/shipped.h"
#include "formats/catalogue.h"
#include "formats/day_json.h"
#include "formats/plan_json.h"
#include "meter/point_meter.h"
#include "meter/quality.h"
#include "meter/spots.h"
#include "picture/develop.h"
#include "picture/sharp.h"
#include "picture/studio.h"
#include "plan/edit.h"
#include "plan/lamp.h"
#include "plan/leaves.h"
#include "plan/roles.h"
#include "propose/propose.h"
#include "reading/faults.h"
#include "reading/map.h"
#include "reading/ways.h"
#include "scenes.h"
#include "sheet/layout.h"
#include "sheet/look_sheet.h"
#include "shoot/reckoned.h"
#include "sitters/sitter_file.h"

namespace {

using namespace easel;
using namespace easel::bench;

// A plan with its samples and first passes taken, so that a benchmark meets the state of a set that is worked on.
struct Ready {
  Plan plan;
  Studio studio{640, 800};
  Ready(Plan p, int passes) : plan(std::move(p)) {
    studio.setPlan(plan);
    studio.finish(passes);
  }
};
Ready& ready() {
  static Ready r(demoPlan(), kSampleSets);
  return r;
}

void PowerChangeToNewPicture(benchmark::State& state) {
  Ready& r = ready();
  Plan plan = r.plan;
  for (auto _ : state) {
    plan.lights[0].power = plan.lights[0].power < -3 ? -2.5 : -3.5;
    r.studio.setPlan(plan);
    benchmark::DoNotOptimize(developPicture(r.studio.layers(), plan).rgba.data());
  }
  r.studio.setPlan(r.plan);
}
BENCHMARK(PowerChangeToNewPicture)->Unit(benchmark::kMillisecond);

void FirstPictureAfterMovingTheLight(benchmark::State& state) {
  Ready& r = ready();
  Plan plan = r.plan;
  const Interrupt never;
  double hour = 4.5;
  for (auto _ : state) {
    hour = hour > 5 ? 4.0 : hour + 0.05;
    plan.lights[0].hour = hour;
    r.studio.setPlan(plan);
    while (r.studio.step(never) != Studio::Progress::Improved) {
    }
    benchmark::DoNotOptimize(developPicture(r.studio.layers(), plan).rgba.data());
  }
}
BENCHMARK(FirstPictureAfterMovingTheLight)->Unit(benchmark::kMillisecond);

void OnePassOfTheKey(benchmark::State& state) {
  Ready& r = ready();
  Plan plan = r.plan;
  const Interrupt never;
  r.studio.setPlan(plan);
  for (auto _ : state) r.studio.step(never, 100000);
}
BENCHMARK(OnePassOfTheKey)->Unit(benchmark::kMillisecond);

void FlatMeterReadingAtTheFace(benchmark::State& state) {
  Ready& r = ready();
  const auto scene = r.studio.scene();
  const Source e = sourceOf(*r.studio.scene(), r.plan, r.plan.lights[0]);
  const Vec3 nose = scene->studioPoint(scene->sitter().landmarks.noseTip) + Vec3{0, 0, 0.04f};
  const Vec3 to = normalize(e.emitter().pose().centre - nose);
  std::uint32_t seed = 1;
  double sum = 0, squares = 0;
  int n = 0;
  for (auto _ : state) {
    const double h = meteredLux(*scene, e, nose, to, Receptor::Flat, 256, 192, seed);
    ++seed;
    const double stops = std::log2(h);
    sum += stops;
    squares += stops * stops;
    ++n;
  }
  state.counters["stops_rms"] = std::sqrt(std::max(0.0, squares / n - sum / n * sum / n));
}
BENCHMARK(FlatMeterReadingAtTheFace)->Unit(benchmark::kMillisecond);

Ready& eight() {
  static Ready r(eightLights(), 2);
  return r;
}

// What re-weights layers only: mute, solo, power, ISO, aperture, white balance.
template <class Change>
void reweigh(benchmark::State& state, Change change, Ready& e = eight()) {
  Plan plan = e.plan;
  bool odd = false;
  for (auto _ : state) {
    odd = !odd;
    Show show;
    change(plan, show, odd);
    e.studio.setPlan(plan);
    benchmark::DoNotOptimize(developPicture(e.studio.layers(), plan, show).rgba.data());
  }
  e.studio.setPlan(e.plan);
}
void EightLightsMute(benchmark::State& s) {
  reweigh(s, [](Plan& p, Show&, bool odd) { p.lights[1].on = odd; });
}
void EightLightsSolo(benchmark::State& s) {
  reweigh(s, [](Plan&, Show& show, bool odd) { show = {Show::What::Solo, odd ? "B" : "C"}; });
}
void EightLightsPower(benchmark::State& s) {
  reweigh(s, [](Plan& p, Show&, bool odd) { p.lights[0].power = odd ? -3.0 : -3.1; });
}
void EightLightsIsoApertureWhiteBalance(benchmark::State& s) {
  reweigh(s, [](Plan& p, Show&, bool odd) {
    p.camera.iso = odd ? 100 : 200;
    p.camera.aperture = odd ? 8 : 11;
    p.camera.whiteBalance = odd ? 5600 : 4800;
  });
}
void EightLightsFourPanelsPower(benchmark::State& s) {
  static Ready r(withPanels(8, 4), 2);
  reweigh(
      s, [](Plan& p, Show&, bool odd) { p.lights[0].power = odd ? -3.0 : -3.1; }, r);
}
BENCHMARK(EightLightsFourPanelsPower)->Unit(benchmark::kMillisecond);
BENCHMARK(EightLightsMute)->Unit(benchmark::kMillisecond);
BENCHMARK(EightLightsSolo)->Unit(benchmark::kMillisecond);
BENCHMARK(EightLightsPower)->Unit(benchmark::kMillisecond);
BENCHMARK(EightLightsIsoApertureWhiteBalance)->Unit(benchmark::kMillisecond);

// From moving the first light to the first picture that shows it where it is.
void firstPictureAfterMove(benchmark::State& state, Plan plan, int width) {
  Studio studio(width, width * 5 / 4);
  studio.setPlan(plan);
  studio.finish(2);
  const Interrupt never;
  double hour = 4.5;
  for (auto _ : state) {
    hour = hour > 5 ? 4.0 : hour + 0.05;
    plan.lights[0].hour = hour;
    studio.setPlan(plan);
    while (studio.step(never) != Studio::Progress::Improved) {
    }
    benchmark::DoNotOptimize(developPicture(studio.layers(), plan).rgba.data());
  }
}
void MovingOneLightOf(benchmark::State& state) {
  Plan plan = eight().plan;
  plan.lights.resize(size_t(state.range(0)));
  firstPictureAfterMove(state, plan, 640);
}
BENCHMARK(MovingOneLightOf)->Arg(1)->Arg(8)->Unit(benchmark::kMillisecond);

// How that grows: arguments are how many lights, how many panels, width of the picture.
void FirstPictureWithPanels(benchmark::State& state) {
  const Plan plan = withPanels(int(state.range(0)), int(state.range(1)));
  firstPictureAfterMove(state, plan, int(state.range(2)));
}
BENCHMARK(FirstPictureWithPanels)
    ->Args({8, 0, 640})
    ->Args({8, 2, 640})
    ->Args({8, 4, 640})
    ->Args({4, 4, 640})
    ->Args({8, 4, 320})
    ->Args({16, 0, 640})
    ->Unit(benchmark::kMillisecond);

void SpotTableOfEight(benchmark::State& state) {
  Ready& e = eight();
  const auto scene = e.studio.scene();
  SpotTable t;
  for (auto _ : state) {
    t = spotTable(*scene, e.plan);
    benchmark::DoNotOptimize(t.together.data());
  }
  // Against 64 times the samples: root mean square over all lights and spots that matter (down to eight stops under).
  double squares = 0;
  int n = 0;
  const double working = exposureForAperture(e.plan.camera.aperture, e.plan.camera.iso);
  for (size_t s = 0; s < t.spots.size(); ++s)
    for (size_t k = 0; k + 1 < t.lights.size(); ++k) {
      const Light& l = e.plan.lights[k];
      const Source em = sourceOf(*e.studio.scene(), e.plan, l);
      const double truth = lampEnergy(l, e.plan.camera) * meteredLux(*scene, em, t.spots[s].position, t.spots[s].normal,
                                                                     t.spots[s].receptor, 16384, 8192, 99);
      if (truth < working / 256 || t.luxSeconds[s][k] <= 0) continue;
      const double off = std::log2(t.luxSeconds[s][k] / truth);
      squares += off * off;
      ++n;
    }
  state.counters["stops_rms"] = std::sqrt(squares / n);
}
BENCHMARK(SpotTableOfEight)->Unit(benchmark::kMillisecond);

void BalanceOfEight(benchmark::State& state) {
  Ready& e = eight();
  const Answers answers = computeAnswers(*e.studio.scene(), e.plan);
  for (auto _ : state) benchmark::DoNotOptimize(balance(e.plan, answers, BalanceBy::Sum).lights.data());
}
BENCHMARK(BalanceOfEight)->Unit(benchmark::kMillisecond);

// What an edit costs the interface thread, and its inverse: a light moved among eight.
void EditOfEight(benchmark::State& state) {
  Plan plan = eight().plan;
  Light moved = plan.lights[0];
  for (auto _ : state) {
    moved.hour = moved.hour > 5 ? 4 : 5.5;
    benchmark::DoNotOptimize(apply(plan, SetLight{moved}));
  }
}
BENCHMARK(EditOfEight)->Unit(benchmark::kMicrosecond);

// After the picture is there: pattern, measures, eyes and faults of eight lights at 640 x 800.
void ReadingOfEight(benchmark::State& state) {
  Ready& e = eight();
  const auto scene = e.studio.scene();
  const Answers answers = computeAnswers(*scene, e.plan);
  const SpotTable table = spotTable(*scene, e.plan);
  const auto quality = lightQualities(*scene, e.plan);
  for (auto _ : state)
    benchmark::DoNotOptimize(readPicture(e.studio.layers(), e.plan, answers, table, quality).faults.data());
}
BENCHMARK(ReadingOfEight)->Unit(benchmark::kMillisecond);

// The costs that headers state.
void SceneOfAPlan(benchmark::State& state) {
  const Plan plan = demoPlan();
  const auto sitter = loadSitter(plan.sitter.id);
  for (auto _ : state) benchmark::DoNotOptimize(Scene(plan, sitter).hasPanels());
}
BENCHMARK(SceneOfAPlan)->Unit(benchmark::kMillisecond);

void ReadingASitter(benchmark::State& state) {
  const auto file = sitterFolder() / "wren.sitter";
  for (auto _ : state) benchmark::DoNotOptimize(readSitter(file).parts.size());
}
BENCHMARK(ReadingASitter)->Unit(benchmark::kMillisecond);

void AnswersOfEight(benchmark::State& state) {
  Ready& r = eight();
  for (auto _ : state) benchmark::DoNotOptimize(computeAnswers(*r.studio.scene(), r.plan).aperture);
}
BENCHMARK(AnswersOfEight)->Unit(benchmark::kMillisecond);

void QualityOfEight(benchmark::State& state) {
  Ready& r = eight();
  for (auto _ : state) benchmark::DoNotOptimize(lightQualities(*r.studio.scene(), r.plan, {}).size());
}
BENCHMARK(QualityOfEight)->Unit(benchmark::kMillisecond);

void WaysToRembrandt(benchmark::State& state) {
  Ready& r = ready();
  for (auto _ : state)
    benchmark::DoNotOptimize(waysTo(*r.studio.scene(), r.plan, FacePattern::Rembrandt, {}).ways.size());
}
BENCHMARK(WaysToRembrandt)->Unit(benchmark::kMillisecond);

void MapOfPatterns(benchmark::State& state) {
  Ready& r = ready();
  for (auto _ : state) benchmark::DoNotOptimize(patternMap(r.plan, *r.studio.scene(), 30).step);
}
BENCHMARK(MapOfPatterns)->Unit(benchmark::kMillisecond);

void TryingAFileOfLooks(benchmark::State& state) {
  const std::string text(shippedText("looks.json"));
  for (auto _ : state) benchmark::DoNotOptimize(whatItBrings(text).size());
}
BENCHMARK(TryingAFileOfLooks)->Unit(benchmark::kMillisecond);

// A set for every look of the shelf, the best of one front, in a room of 4 x 5 m: the longest of them.
void ProposeALook(benchmark::State& state) {
  Plan plan = loadPlan(EASEL_DEMO_DIR "/marrow-lane-first-light.easel.json");
  plan.room.width = 4;
  plan.room.depth = 5;
  plan.room.height = 2.6;
  double longest = 0;
  for (auto _ : state)
    for (const Look& l : looks()) {
      Wish wish;
      wish.look = l.id;
      const auto start = std::chrono::steady_clock::now();
      benchmark::DoNotOptimize(propose(wish, plan, {}, 3).size());
      longest = std::max(longest, std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
    }
  state.counters["longest_s"] = longest;
  state.counters["looks"] = double(looks().size());
}
BENCHMARK(ProposeALook)->Unit(benchmark::kSecond)->Iterations(1);

// Time until the key layer is within 2 % RMSE (after the tone curve) of 4096 passes, once the camera's samples stand.
void KeyLayerWithinTwoPercent(benchmark::State& state) {
  Ready& r = ready();
  Plan plan = r.plan;
  Studio reference(640, 800);
  reference.setPlan(plan);
  const char* quick = std::getenv("EASEL_BENCH_REFERENCE");
  reference.finish(quick ? std::atoi(quick) : 4096);
  const std::vector<float> truth = toned(reference.layers(), plan);
  const Interrupt never;
  double passes = 0, error = 0;
  for (auto _ : state) {
    state.PauseTiming();
    Plan moved = plan;
    moved.lights[0].hour += 0.01;
    r.studio.setPlan(moved);
    r.studio.step(never);
    r.studio.setPlan(plan);  // the light is back: its layer starts from nothing
    state.ResumeTiming();
    int last = 0;
    while (r.studio.step(never, 64) != Studio::Progress::Done) {
      const int shown = r.studio.layers().passes;
      if (shown == last) continue;
      last = shown;
      state.PauseTiming();
      error = rmse(toned(r.studio.layers(), plan), truth);
      state.ResumeTiming();
      passes = shown;
      if (error < 0.02) break;
    }
  }
  state.counters["passes"] = passes;
  state.counters["rmse_percent"] = error * 100;
}
BENCHMARK(KeyLayerWithinTwoPercent)->Unit(benchmark::kMillisecond)->Iterations(3);

// An edge light alone: time to its last pass, and how far it is then, and near three seconds, from a reference of
// many passes with its own camera samples. Percent of the picture's own mean, and of full scale: most of these
// pictures is black.
void EdgeLayer(benchmark::State& state, const char* school) {
  Plan plan = eight().plan;
  plan.lights = {proposeLight(loadPlan(EASEL_DEMO_DIR "/marrow-lane-master.easel.json"), school).light};
  plan.ambient.lux = 0;
  Studio studio(640, 800), reference(640, 800);
  reference.setSeed(1);
  reference.setPlan(plan);
  plan.lights = balance(plan, computeAnswers(*reference.scene(), plan), BalanceBy::EachAlone).lights;
  reference.setPlan(plan);
  const char* quick = std::getenv("EASEL_BENCH_REFERENCE");
  reference.finish(quick ? std::atoi(quick) : 1024);
  const std::vector<float> truth = toned(reference.layers(), plan);
  double mean = 0;
  for (float v : truth) mean += v;
  mean /= double(truth.size());
  studio.setPlan(plan);
  studio.finish(kSampleSets);
  const Interrupt never;
  double spent = 0, atThree = 0, atThreeLit = 0;
  for (auto _ : state) {
    Plan moved = plan;
    moved.lights[0].hour += 0.01;
    studio.setPlan(moved);
    studio.step(never);
    studio.setPlan(plan);
    spent = 0;
    int last = 0;
    for (bool done = false; !done;) {
      const auto from = std::chrono::steady_clock::now();
      done = studio.step(never, 64) == Studio::Progress::Done;
      spent += std::chrono::duration<double>(std::chrono::steady_clock::now() - from).count();
      if (studio.layers().passes != last && spent <= 3) {
        const std::vector<float> now = toned(studio.layers(), plan);
        atThree = rmse(now, truth);
        atThreeLit = rmseLit(now, truth);
      }
      last = studio.layers().passes;
    }
    state.SetIterationTime(spent);
  }
  const double end = rmse(toned(studio.layers(), plan), truth);
  state.counters["rmse_percent_at_3s"] = 100 * atThree;
  state.counters["rmse_percent_at_end"] = 100 * end;
  state.counters["of_full_scale_at_3s"] = 100 * atThree * mean;
  state.counters["where_it_falls_at_3s"] = 100 * atThreeLit;
  state.counters["where_it_falls_at_end"] = 100 * rmseLit(toned(studio.layers(), plan), truth);
}
BENCHMARK_CAPTURE(EdgeLayer, hair, "hair-under")->Unit(benchmark::kMillisecond)->Iterations(1)->UseManualTime();
BENCHMARK_CAPTURE(EdgeLayer, gridded_rim, "rim-under")->Unit(benchmark::kMillisecond)->Iterations(1)->UseManualTime();
BENCHMARK_CAPTURE(EdgeLayer, kicker, "kicker")->Unit(benchmark::kMillisecond)->Iterations(1)->UseManualTime();

// Stated, not promised: the piece with the eyes of a picture of 1600x2000, of four lights.
void SharpPieceOfFour(benchmark::State& state) {
  Plan plan = demoPlan();
  while (plan.lights.size() < 4) plan.lights.push_back(proposeLight(plan, nextInUsualOrder(plan)).light);
  const Interrupt never;
  for (auto _ : state) {
    SharpPicture sharp(plan, {}, {1600, 2000, 544, 440, 512, 512});
    benchmark::DoNotOptimize(sharp.next(never));
  }
}
BENCHMARK(SharpPieceOfFour)->Unit(benchmark::kMillisecond)->Iterations(1);

// The running order of the demo's eight looks with all that follows from them: 200 ms are promised for the order.
Day openDay(size_t looks) {
  Day day = loadDay(std::string(EASEL_DEMO_DIR) + "/open-day/marrow-lane-open-day.day.json").day;
  const size_t given = day.looks.size();
  for (size_t i = 0; day.looks.size() < looks; ++i) {
    DayLook l = day.looks[i % given];
    l.id = std::to_string(day.looks.size() + 1);
    l.first = false;
    for (Light& light : l.plan.lights) light.hour = 1 + std::fmod(3.7 * double(day.looks.size()) + light.hour, 10.9);
    day.looks.push_back(l);
  }
  day.end = 22 * 60;
  day.backdropOnce = looks <= given;
  return day;
}
void OrderOfADay(benchmark::State& state) {
  const Day day = openDay(size_t(state.range(0)));
  for (auto _ : state) benchmark::DoNotOptimize(bestOrder(day, DayCosts(day, usualDay().times)));
}
BENCHMARK(OrderOfADay)->Arg(8)->Arg(12)->Arg(20)->Arg(40)->Unit(benchmark::kMillisecond);
void DayReckonedAnew(benchmark::State& state) {
  const Day day = openDay(8);
  for (auto _ : state) benchmark::DoNotOptimize(reckoned(day, {}));
}
BENCHMARK(DayReckonedAnew)->Unit(benchmark::kMillisecond);
void SheetOfFourLights(benchmark::State& state) {
  const Plan plan = loadPlan(std::string(EASEL_DEMO_DIR) + "/marrow-lane-master.easel.json");
  for (auto _ : state) benchmark::DoNotOptimize(sheetPdf(pagesOf(lookSheet(plan)), paperOf("a4"), Ink::Black));
}
BENCHMARK(SheetOfFourLights)->Unit(benchmark::kSecond)->Iterations(1);

void ResidentMemory(benchmark::State& state) {
  for (auto _ : state) {
  }
  std::ifstream status("/proc/self/status");
  std::string line;
  while (std::getline(status, line))
    if (line.rfind("VmRSS:", 0) == 0) state.counters["MB_now"] = std::stod(line.substr(6)) / 1024;
}
BENCHMARK(ResidentMemory)->Iterations(1);

}  // namespace

namespace {

// What is promised, in milliseconds unless a counter is named. Where it comes from: the trials that the design rests
// on, repeated on two slow cores; a machine of today's is faster.
struct Promise {
  const char *benchmark, *counter, *what;
  double most;
};
constexpr Promise kPromises[] = {
    {"EightLightsMute", "", "mute one of eight: the picture", 16},
    {"EightLightsSolo", "", "solo one of eight: the picture", 16},
    {"EightLightsPower", "", "power of one of eight: the picture", 16},
    {"EightLightsIsoApertureWhiteBalance", "", "ISO, aperture, white balance: the picture", 16},
    {"FirstPictureAfterMovingTheLight", "", "move a light: the first picture", 200},
    {"FlatMeterReadingAtTheFace", "", "one reading of the meter", 1},
    {"SpotTableOfEight", "", "table of eight lights at every spot", 50},
    {"BalanceOfEight", "", "balance eight lights", 1},
    {"SceneOfAPlan", "", "a new scene", 250},
    {"AnswersOfEight", "", "the meter held for eight lights", 16},
    {"WaysToRembrandt", "", "three ways to a pattern", 400},
    {"ReadingOfEight", "", "read the picture of eight lights", 400},
    {"OrderOfADay/8", "", "running order of eight looks", 200},
    {"OrderOfADay/12", "", "running order of twelve looks, exact", 200},
    {"KeyLayerWithinTwoPercent", "", "the key within 2 % of its end", 3000},
    {"EdgeLayer/hair", "rmse_percent_at_3s", "hair light after 3 s, % of its mean", 2},
    {"EdgeLayer/gridded_rim", "rmse_percent_at_3s", "gridded rim after 3 s, % of its mean", 2},
    {"EdgeLayer/kicker", "rmse_percent_at_3s", "kicker after 3 s, % of its mean", 2},
};

class WithPromises : public benchmark::ConsoleReporter {
 public:
  WithPromises() : ConsoleReporter(OO_Tabular) {}
  void ReportRuns(const std::vector<Run>& runs) override {
    ConsoleReporter::ReportRuns(runs);
    for (const Run& run : runs) all_.push_back(run);
  }
  void table() const {
    std::printf("\n%-46s %12s %12s\n", "promise", "at most", "figure");
    for (const Promise& p : kPromises) {
      const Run* run = nullptr;
      for (const Run& r : all_)
        if (r.benchmark_name().rfind(p.benchmark, 0) == 0) run = &r;
      if (!run) continue;
      // A unit of its own for each benchmark: told in milliseconds here.
      const double value = *p.counter
                               ? double(run->counters.at(p.counter))
                               : run->GetAdjustedRealTime() / benchmark::GetTimeUnitMultiplier(run->time_unit) * 1e3;
      std::printf("%-46s %12.4g %12.4g  %s\n", p.what, p.most, value, value <= p.most ? "kept" : "BROKEN");
    }
  }

 private:
  std::vector<Run> all_;
};

}  // namespace

int main(int argc, char** argv) {
  std::vector<char*> arguments(argv, argv + argc);
  const auto all =
      std::find_if(arguments.begin(), arguments.end(), [](const char* a) { return std::string(a) == "--all"; });
  std::string quick = "--benchmark_filter=-(KeyLayerWithinTwoPercent|EdgeLayer|ProposeALook|FirstPictureWithPanels)",
              brief = "--benchmark_min_time=0.4";
  if (all != arguments.end())
    arguments.erase(all);
  else
    arguments.insert(arguments.begin() + 1,
                     {quick.data(), brief.data()});  // what is given besides comes later and holds
  int count = int(arguments.size());
  benchmark::Initialize(&count, arguments.data());
  if (benchmark::ReportUnrecognizedArguments(count, arguments.data())) return 1;
  WithPromises reporter;
  benchmark::RunSpecifiedBenchmarks(&reporter);
  reporter.table();
  benchmark::Shutdown();
}
