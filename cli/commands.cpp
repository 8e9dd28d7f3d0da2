#include "commands.h"

#include <fmt/format.h>
#include <unistd.h>

#include <CLI/CLI.hpp>
#include <cerrno>
#include <cmath>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <functional>
#include <stdexcept>

#include "balance/backdrop_tone.h"
#include "balance/balance.h"
#include "data/data_files.h"
#include "exposure/aperture.h"
#include "exposure/stops.h"
#include "files/atomic_file.h"
#include "formats/answers_json.h"
#include "formats/catalogue.h"
#include "formats/contact_sheet.h"
#include "formats/ies_file.h"
#include "formats/kit_json.h"
#include "formats/pattern_sheet.h"
#include "formats/picture_file.h"
#include "formats/plan_json.h"
#include "formats/reading_json.h"
#include "formats/wish_json.h"
#include "gear/gobo.h"
#include "gear/kit.h"
#include "gear/model.h"
#include "meter/panel_shares.h"
#include "meter/quality.h"
#include "meter/spots.h"
#include "plan/check.h"
#include "plan/framing.h"
#include "plan/lamp.h"
#include "plan/roles.h"
#include "reading/map.h"
#include "reading/plan_reader.h"
#include "run_and_journal.h"
#include "sheet/sheet_file.h"
#include "sheet_and_day.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "spoken/number.h"
#include "studio/studio.h"
#include "terminal.h"

namespace {

using namespace easel;

// What is wrong with the kit is told, but stops only a plan that needs it.
std::string kitProblem;

// The plan, with everything on stderr that is shown as something else than it says.
Plan planFrom(const std::string& file) {
  const Plan plan = openPlan(file);
  for (const Light& l : plan.lights) findGobo(l.fittings.pattern);  // tried, so that the check knows
  for (const Panel& p : plan.panels) {
    findGobo(p.pattern);
    findModel(p.model);
  }
  for (const Finding& f : checkPlan(plan))
    if (f.leftAside) putError("easel: left aside: {}\n", f.sentence);
  return plan;
}

struct Size {
  int width, height;
};
// "640x800", each side within its limits.
Size readSize(const std::string& text, int least, int most, const char* example) {
  Spoken s(text);
  const auto w = s.count();
  const bool times = s.take("x");
  const auto h = s.count();
  if (!w || !times || !h || !s.atEnd() || *w < least || *h < least || *w > most || *h > most)
    throw std::runtime_error(fmt::format("\"{}\" is not a picture size. Write it like {}, each between {} and {}.",
                                         text.substr(0, 40), example, least, most));
  return {*w, *h};
}

// Refuses a picture that the machine has no room for: the samples of every pixel are kept while it gets better.
void requireMemory(Size size, size_t lights) {
  const double wanted = Studio::bytesWanted(size.width, size.height, lights);
  const double there = double(::sysconf(_SC_PHYS_PAGES)) * double(::sysconf(_SC_PAGESIZE));
  if (wanted > 0.8 * there)
    throw std::runtime_error(
        fmt::format("A picture of {}x{} with {} lights wants about {:.0f} GB of memory; this machine has {:.0f}. Take "
                    "a smaller --size.",
                    size.width, size.height, lights, wanted / (1 << 30), there / (1 << 30)));
}

// What cannot be computed is refused.
void refuse(const Plan& plan) {
  for (const Finding& f : checkPlan(plan))
    if (f.severity == Severity::Error)
      throw std::runtime_error(kitProblem.empty() ? f.sentence : fmt::format("{} ({})", f.sentence, kitProblem));
}

Answers answersOf(const Plan& plan) {
  refuse(plan);
  Studio studio(8, 8);
  studio.setPlan(plan);
  return computeAnswers(*studio.scene(), *studio.set());
}

void meter(const std::string& file, bool json, bool csv) {
  const Plan plan = planFrom(file);
  refuse(plan);
  Studio studio(8, 8);
  studio.setPlan(plan);
  const auto scene = studio.scene();
  const std::optional<SpotTable> table = csv || json ? std::optional(spotTable(*scene, *studio.set())) : std::nullopt;
  if (csv) return putText(writeSpotCsv(*table, plan.camera));
  const Answers a = computeAnswers(*scene, *studio.set());
  if (json) return putText(writeAnswersText(plan, a, &*table));
  put("{}\nworking aperture {}, ISO {:.0f}\n", plan.title, writeAperture(plan.camera.aperture, ApertureStyle::Thirds),
      plan.camera.iso);
  for (const LightAnswer& r : a.lights) {
    const Light* l = plan.light(r.id);
    const Unit* unit = findUnit(l->unit);
    put("{}  {:<10} {:>14}  {:>8} stops  power {:<12} {}  backdrop {} stops\n", r.id, roleName(l->role),
        writeAperture(r.aperture, ApertureStyle::Tenths), signedStops(r.stopsFromWorking), unit->scale.write(l->power),
        l->on ? "on " : "off", signedStops(r.backdropStops));
  }
  if (plan.camera.closedBy != 0)
    put("the lens stands at {} for everything on\n",
        writeAperture(plan.camera.shootingAperture(), ApertureStyle::Thirds));
  if (a.face.total() > 0)
    put("all together {}, flash {:.0f} %, ", writeAperture(a.aperture, ApertureStyle::Tenths),
        100 * a.face.flashShare());
  else
    put("no light at the face, ");
  // Under when it is below, over when it is above: never "-1.5 under".
  if (a.ambientStops <= kNoLight)
    put("no ambient\n");
  else
    put("ambient {:.1f} stops {}\n", unsignedZero(std::abs(a.ambientStops), 10), a.ambientStops > 0 ? "over" : "under");
  if (a.backdropStops <= kNoLight)
    put("backdrop {}\n", toneName(a.backdropValue));
  else
    put("backdrop {} stops from the face, {}\n", signedStops(a.backdropStops), toneName(a.backdropValue));
}

void power(const std::string& file, const std::string& aperture, bool json) {
  const double n = readAperture(aperture);
  const Plan plan = planFrom(file);
  const Answers a = answersOf(plan);
  if (json) {
    putText(writePowerText(plan, a, n));
    return;
  }
  for (const Light& l : plan.lights) {
    const Unit* unit = findUnit(l.unit);
    const auto s = powerForAperture(a, l, n);
    put("{}  {} for {} at the face", l.id, unit->scale.write(s.stops), writeAperture(n, ApertureStyle::Thirds));
    if (s.shortfall > 0) put(", {:.1f} stops too weak at full power", s.shortfall);
    if (s.shortfall < 0) put(", {:.1f} stops too strong at lowest power", -s.shortfall);
    put("\n");
  }
}

void balancePlan(const std::string& file, bool sum, const std::string& out, bool json) {
  Plan plan = planFrom(file);
  const Balanced b = balance(plan, answersOf(plan), sum ? BalanceBy::Sum : BalanceBy::EachAlone);
  plan.lights = b.lights;
  if (!out.empty()) savePlan(out, plan);
  const Answers after = answersOf(plan);
  if (json) {
    putText(writeAnswersText(plan, after));
    return;
  }
  for (const LightAnswer& r : after.lights) {
    const Light* l = plan.light(r.id);
    put("{}  {:<10} {:<12} reads {} {}, wanted {}, is {} stops\n", r.id, roleName(l->role),
        findUnit(l->unit)->scale.write(l->power), writeAperture(r.aperture, ApertureStyle::Tenths),
        r.hold.on.empty() ? "on the " + r.spot : r.hold.on, signedStops(l->targetStops),
        signedStops(r.stopsFromWorking));
  }
  if (sum) put("all lowered by {:.2f} stops; ", b.loweredBy);
  put("all together {} at the face\n", writeAperture(after.aperture, ApertureStyle::Tenths));
  for (const std::string& s : b.outOfReach) put("{}\n", s);
}

void render(const std::string& file, const std::string& out, const std::string& size, const std::string& solo,
            int samples, bool plain) {
  if (!size.empty()) readSize(size, 16, 8192, "640x800");  // before the plan is read
  if (samples < 1 || samples > 65536) throw std::runtime_error("--samples takes a number from 1 to 65536.");
  const bool exr = out.ends_with(".exr");
  if (!exr && !out.ends_with(".png"))
    throw std::runtime_error(fmt::format("{} ends neither in .png nor in .exr: name the output so.", out));
  const Plan plan = planFrom(file);
  const auto inFrame = sizeInFrame(plan.camera.frame);
  const auto [width, height] = size.empty() ? Size{inFrame.first, inFrame.second} : readSize(size, 16, 8192, "640x800");
  if (!solo.empty() && !plan.light(solo))
    throw std::runtime_error(fmt::format("There is no light {} in {}.", solo, file));
  requireMemory({width, height}, plan.lights.size());
  Studio studio(width, height);
  studio.setSmooth(!plain);
  studio.setPlan(plan);
  studio.finish(samples);
  const Show show = solo.empty() ? Show{} : Show{Show::What::Solo, solo};
  if (exr) {
    std::vector<float> planes[3];
    linearPicture(studio.layers(), *studio.set(), show, planes);
    writeExr(out, width, height, planes[0].data(), planes[1].data(), planes[2].data());
  } else {
    writePng(out, width, height, developPicture(studio.layers(), *studio.set(), show).rgba);
  }
}

void series(const std::string& file, const std::string& vary, const std::string& out, const std::string& size,
            bool hold, int samples) {
  const auto [width, height] = readSize(size, 64, 2048, "320x400");
  if (samples < 1 || samples > 4096) throw std::runtime_error("--samples takes a number from 1 to 4096.");
  if (!out.ends_with(".png"))
    throw std::runtime_error(fmt::format("{} does not end in .png: name the output so.", out));
  const Variation v = readVariation(vary);
  const Plan plan = planFrom(file);
  const auto pictures = renderSeries(plan, v, hold, width, height, samples, {});
  const Picture sheet = contactSheet(
      pictures,
      {plan.title, fmt::format("{}{}", variedName(v.path), hold ? ", powered again for its target each time" : "")});
  writePng(out, sheet.width, sheet.height, sheet.rgba);
  for (const SeriesPicture& p : pictures) put("{:<16} face reads {}\n", p.caption, p.reading);
}

void quality(const std::string& file) {
  const Plan plan = planFrom(file);
  Studio studio(8, 8);
  studio.setPlan(plan);
  for (const LightQuality& q : lightQualities(*studio.scene(), *studio.set())) {
    put("{}\n", q.light);
    for (const std::string& w : q.words) put("  {}\n", w);
  }
  for (const PanelShare& s : panelShares(*studio.scene(), *studio.set())) put("{}\n", s.sentence);
}

FaceReading readingOf(const Plan& plan, Size size, int samples) {
  for (const Finding& f : checkPlan(plan))
    if (f.severity == Severity::Error)
      throw std::runtime_error(kitProblem.empty() ? f.sentence : fmt::format("{} ({})", f.sentence, kitProblem));
  requireMemory(size, plan.lights.size());
  return PlanReader(size.width, size.height, samples).read(plan);
}

void read(const std::string& file, bool json, const std::string& size, int samples) {
  const Plan plan = planFrom(file);
  if (samples < 1 || samples > 4096) throw std::runtime_error("--samples takes a number from 1 to 4096.");
  const FaceReading r = readingOf(plan, readSize(size, 80, 2048, "320x400"), samples);
  if (json) {
    putText(writeReadingText(plan, r));
    return;
  }
  put("{}\n{}\n", r.lighting.name, r.lighting.sentence);
  for (const std::string& w : r.measures.words) put("{}\n", w);
  for (const Catchlight& c : r.catchlights.all)
    if (c.lives)
      put("{} eye: {} at {:.1f} o'clock, {}, {:.1f} x {:.1f} mm{}\n", c.eye == 0 ? "left" : "right", c.light, c.hour,
          c.shape, c.width, c.height, c.onIris ? "" : ", on the white");
    else
      put("{} eye: {} is kept out by {}{}\n", c.eye == 0 ? "left" : "right", c.light, c.hiddenBy,
          c.lowerTo > 0 ? fmt::format("; it would at {:.2f} m", c.lowerTo) : "");
}

int check(const std::string& file, bool json, const std::string& size, int samples) {
  const Plan plan = planFrom(file);
  if (samples < 1 || samples > 4096) throw std::runtime_error("--samples takes a number from 1 to 4096.");
  const FaceReading r = readingOf(plan, readSize(size, 80, 2048, "320x400"), samples);
  if (json)
    putText(writeFaultsText(plan, r));
  else
    for (const Fault& f : r.faults)
      put("{}{} ({}): {} {}\n", f.wanted ? "wanted: " : f.caution ? "mind: " : "", f.title, f.where, f.sentence, f.why);
  return r.count() > 0 ? 1 : 0;
}

void patterns(const std::string& file, const std::string& out, double step) {
  if (!out.ends_with(".png"))
    throw std::runtime_error(fmt::format("{} does not end in .png: name the output so.", out));
  if (!(step >= 4 && step <= 30)) throw std::runtime_error("--step takes degrees from 4 to 30.");
  std::vector<std::pair<std::string, PatternMap>> maps;
  Studio studio(8, 8);
  auto add = [&](const Plan& p, const std::string& caption) {
    studio.setPlan(p);
    maps.emplace_back(caption, patternMap(*studio.set(), *studio.scene(), step));
  };
  if (!file.empty()) {
    const Plan p = planFrom(file);
    add(p, fmt::format("{}, head turned {:.0f} degrees", personOf(p.sitter.id).name, p.sitter.turn));
  } else {
    Plan p;
    for (const Person& s : sitterCatalogue())
      for (double turn : {-30., 0., 30.}) {
        p.sitter.id = s.id;
        p.sitter.turn = turn;
        add(p, fmt::format("{}, {}", s.name,
                           turn < 0   ? "head 30 degrees to camera left"
                           : turn > 0 ? "head 30 degrees to camera right"
                                      : "head straight"));
      }
  }
  const Picture sheet =
      patternSheet(maps, file.empty() ? 3 : 1, "What a hard key makes of this face, by its place round it");
  writePng(out, sheet.width, sheet.height, sheet.rgba);
}

int proposeSet(const std::string& file, const std::string& base, const std::string& out, const std::string& picture) {
  const WishFile w = loadWish(file);
  const Plan here = !base.empty() ? loadPlan(base) : w.plan ? *w.plan : Plan{};
  const std::vector<Proposed> all = propose(w.wish, here);
  if (all.empty()) throw std::runtime_error("Nothing could be proposed.");
  for (size_t i = 0; i < all.size(); ++i) {
    const Proposed& p = all[i];
    put("{}. {}: {}\n", i + 1, p.reading.lighting.name, p.name);
    for (const std::string& r : p.reasons) put("   {}\n", r);
    for (const std::string& g : p.gave) put("   had to give: {}\n", g);
  }
  if (!out.empty()) savePlan(out, all.front().plan);
  if (!picture.empty()) {
    const Picture pic = [&] {
      Studio s(640, 800);
      s.setPlan(all.front().plan);
      s.finish(16);
      return developPicture(s.layers(), *s.set());
    }();
    writePng(picture, pic.width, pic.height, pic.rgba);
  }
  return all.front().asAsked() ? 0 : 1;
}

void kit(const std::string& file, const std::string& kitName) {
  const Inventory k = loadKit(kitName.empty() ? kitFile() : std::filesystem::path(kitName));
  takeIntoUse(k);
  const auto gaps = lacking(loadPlan(file), k);
  for (const std::string& s : gaps) put("{}\n", s);
  if (gaps.empty()) put("{} has all that the plan wants.\n", k.name);
}

void catalogue(const std::string& file) {
  if (!file.empty()) {
    put("{} can be taken. It brings {}.\nPut it into {}\n", std::filesystem::path(file).filename().string(),
        whatItBrings(readWholeFile(file)), ownDataFolder().string());
    return;
  }
  put("Your own files are read from {}\n", ownDataFolder().string());
  put("units {}, modifiers {}, backdrops {}, ways to add a light {}, looks {}, people {}\n", knownUnits().size(),
      knownModifiers().size(), backdropMaterials().size(), roleSchools().size(), looks().size(),
      sitterCatalogue().size());
}

void ies(const std::string& file, const std::string& light, const std::string& out) {
  const Plan plan = planFrom(file);
  const Light* l = plan.light(light);
  const Unit* u = l ? findUnit(l->unit) : nullptr;
  if (!l || !u) throw std::runtime_error(fmt::format("There is no light {} with a known unit in this plan.", light));
  writeFileAtomically(out, writeIesText(frontOf(*l), u->lumenSeconds(0, 1), u->modellingWatts));
}

// The commands, in groups; each says its options and what it does with them.
class Shell {
 public:
  Shell() {
    app_.set_version_flag("--version", EASEL_VERSION);
    app_.require_subcommand(1);
    addMeter();
    addPictures();
    addReading();
    addKit();
    addRunAndJournal();
    addPaper();
  }
  int run(int argc, const char* const* argv);

 private:
  void addMeter();
  void addPictures();
  void addReading();
  void addKit();
  void addRunAndJournal();
  void addPaper();

  // `run` gives the exit status.
  CLI::App* add(const char* name, const char* help, std::function<int()> run) {
    commands_.emplace_back(app_.add_subcommand(name, help), std::move(run));
    return commands_.back().first;
  }
  CLI::App* addOfPlan(const char* name, const char* help, std::function<int()> run) {
    CLI::App* sub = add(name, help, std::move(run));
    sub->add_option("PLAN", plan_)->required();
    return sub;
  }
  void addReadingOptions(CLI::App* sub) {
    sub->add_flag("--json", json_, "JSON (docs/formats/reading.md)");
    sub->add_option("--size", readingSize_, "of the picture that is read, WxH")->capture_default_str();
    sub->add_option("--samples", readingSamples_, "passes of it: more are slower and surer")->capture_default_str();
  }

  CLI::App app_{"Jolly Easel from the shell: readings, power and pictures of a plan."};
  std::vector<std::pair<CLI::App*, std::function<int()>>> commands_;

  std::string plan_, out_, size_, solo_, aperture_;
  bool json_ = false, plain_ = false, csv_ = false, sum_ = false, hold_ = false;
  int samples_ = 64;
  std::string vary_, sheetSize_ = "320x400", readingSize_ = "320x400";
  int sheetSamples_ = 16, readingSamples_ = 16;
  double step_ = 10;
  std::string wish_, base_, picture_, kitName_, letter_, data_;
  RunWishes runWish_;
  JournalWishes journalWish_;
  SheetWishes sheetWish_;
  DayWishes dayWish_;
};

void Shell::addMeter() {
  auto* m = addOfPlan("meter", "What the meter says at the face and on the backdrop", [this] {
    meter(plan_, json_, csv_);
    return 0;
  });
  m->add_flag("--json", json_, "JSON (docs/formats/answers.md)");
  m->add_flag("--csv", csv_, "every light at every spot as CSV (docs/formats/readings-csv.md)");
  auto* p = addOfPlan("power", "The power that gives an aperture at the face, each light alone", [this] {
    power(plan_, aperture_, json_);
    return 0;
  });
  p->add_option("--aperture", aperture_, "like f/8 or \"f/8 1/3\"")->required();
  p->add_flag("--json", json_, "JSON (docs/formats/answers.md)");
  auto* b =
      addOfPlan("balance", "All powers at once, so that each light alone (or the sum) stands at its target", [this] {
        balancePlan(plan_, sum_, out_, json_);
        return 0;
      });
  b->add_flag("--sum", sum_, "lower all equally so that everything on gives the working aperture");
  b->add_option("--out", out_, "write the balanced plan");
  b->add_flag("--json", json_, "readings of the balanced plan (docs/formats/answers.md)");
  addOfPlan("quality", "How hard each light is on this face, how it falls off, what panels add", [this] {
    quality(plan_);
    return 0;
  });
}

void Shell::addPictures() {
  auto* r = addOfPlan("render", "The predicted picture as PNG, or its linear values as OpenEXR", [this] {
    render(plan_, out_, size_, solo_, samples_, plain_);
    return 0;
  });
  r->add_option("--out", out_, "FILE.png or FILE.exr")->required();
  r->add_option("--size", size_, "width x height in pixels; default: the plan's frame at the pixels of 640x800");
  r->add_option("--solo", solo_, "one light alone, by its letter");
  r->add_option("--samples", samples_, "passes, default 64");
  r->add_flag("--plain", plain_, "without noise filter and without scattering in skin");
  auto* s = addOfPlan("series", "One thing varied: a contact sheet of pictures", [this] {
    series(plan_, vary_, out_, sheetSize_, hold_, sheetSamples_);
    return 0;
  });
  s->add_option("--vary", vary_, "light.A.distance=0.5:3:6 (from:to:how many) or light.A.hour=3,4.5,6")->required();
  s->add_option("--out", out_, "FILE.png")->required();
  s->add_option("--size", sheetSize_, "of each picture, default 320x400");
  s->add_flag("--hold", hold_, "power the light again for its target at each step");
  s->add_option("--samples", sheetSamples_, "passes, default 16");
}

void Shell::addReading() {
  addReadingOptions(addOfPlan("read", "The pattern, the quality and the catchlights of the predicted picture", [this] {
    read(plan_, json_, readingSize_, readingSamples_);
    return 0;
  }));
  addReadingOptions(addOfPlan("check", "What is wrong with the predicted picture; exit status 1 when something is",
                              [this] { return check(plan_, json_, readingSize_, readingSamples_); }));
  auto* pm = add("patterns", "Which pattern a key makes at every place round the face, as a map", [this] {
    patterns(plan_, out_, step_);
    return 0;
  });
  pm->add_option("PLAN", plan_, "whose sitter and turn; without: all sitters, three turns of the head");
  pm->add_option("--out", out_, "FILE.png")->required();
  pm->add_option("--step", step_, "degrees between places, default 10");
  auto* pr = add("propose", "A set for a wish (docs/formats/wish.md); exit status 1 when something had to stay open",
                 [this] { return proposeSet(wish_, base_, out_, picture_); });
  pr->add_option("WISH", wish_)->required();
  pr->add_option("--out", out_, "write the best set as a plan");
  pr->add_option("--base", base_, "plan that gives room, sitter, camera and backdrop; else the wish's own");
  pr->add_option("--picture", picture_, "write its picture as PNG");
}

void Shell::addKit() {
  auto* k = addOfPlan("kit", "What the plan wants and the kit has not", [this] {
    kit(plan_, kitName_);
    return 0;
  });
  k->add_option("--kit", kitName_, "KIT.json (docs/formats/kit.md); else the one kept by the application");
  auto* i = addOfPlan("ies", "The angular profile of a light as IES photometry", [this] {
    ies(plan_, letter_, out_);
    return 0;
  });
  i->add_option("--light", letter_, "its letter")->required();
  i->add_option("--out", out_, "FILE.ies")->required();
  auto* cat =
      add("catalogue", "Where your own gear, roles, looks and people are kept, and whether a file of them can be taken",
          [this] {
            catalogue(data_);
            return 0;
          });
  cat->add_option("FILE", data_, "a file to try (docs/formats/gear.md, roles.md, looks.md, people.md)");
}

void Shell::addRunAndJournal() {
  auto* mr = addOfPlan(
      "run", "The metering run, step by step, readings from the input; exit status 1 when steps stay open", [this] {
        const Plan metered = planFrom(plan_);
        refuse(metered);
        return runByHand(metered, runWish_);
      });
  mr->add_option("--out", runWish_.out, "write the plan with the powers as they ended");
  mr->add_option("--journal", runWish_.journal,
                 "write every reading there as it is read; \"default\": your own journal");
  mr->add_option("--studio", runWish_.studio, "whose room it is, for the journal")->capture_default_str();
  mr->add_option("--meter", runWish_.meter, "which meter, for the journal")->capture_default_str();
  mr->add_option("--tolerance", runWish_.tolerance, "stops off the peg that are let pass")->capture_default_str();
  mr->add_option("--spread", runWish_.spread, "stops by which readings usually differ from predictions here")
      ->capture_default_str();
  auto* jo = add("journal", "Sessions that were read, what they teach, export (docs/formats/journal.md)", [this] {
    showJournal(journalWish_);
    return 0;
  });
  jo->add_option("--file", journalWish_.file, "else your own journal");
  jo->add_option("--search", journalWish_.search, "words in title, studio or notes");
  jo->add_option("--session", journalWish_.session, "its readings, as JSON or with --csv");
  jo->add_flag("--csv", journalWish_.csv);
  jo->add_flag("--learned", journalWish_.learned,
               "what heads, modifiers, meters and studios give over their predictions");
  jo->add_option("--studio", journalWish_.studio, "of that studio alone");
  jo->add_option("--backup", journalWish_.backup, "a whole copy to FILE");
  jo->add_option("--plan", journalWish_.plan, "writes the plan of the session, as it ended, to FILE: to repeat it");
  jo->add_option("--import", journalWish_.import, "a session that was written as JSON");
  jo->add_option("--remove", journalWish_.remove, "a session, for good");
}

void Shell::addPaper() {
  auto* sh = addOfPlan(
      "sheet", "The sheet to build a set by: portrait, levels, the set from above and from the side, build order",
      [this] {
        writeSheet(planFrom(plan_), sheetWish_);
        return 0;
      });
  sh->add_option("--out", sheetWish_.out, "FILE.pdf, .html, .svg or .png")->required();
  sh->add_option("--paper", sheetWish_.paper, "a4, letter, a5, phone or stand");
  sh->add_option("--kind", sheetWish_.kind, "whole, stand (to be read at two metres) or growing")
      ->check(CLI::IsMember({"whole", "stand", "growing"}));
  sh->add_option("--school", sheetWish_.school, "ratios: unit, lit or stops")
      ->check(CLI::IsMember({"unit", "lit", "stops"}));
  sh->add_flag("--dim", sheetWish_.dim, "light on dark, for a darkened studio");
  auto* dy =
      add("day", "The running order of a shooting day that moves least; exit status 1 when somebody is kept too long",
          [this] { return showDay(dayWish_); });
  dy->add_option("DAY", dayWish_.file, "docs/formats/day.md")->required();
  dy->add_option("--reorder", dayWish_.reorder, "write the day in that order");
  dy->add_option("--out", dayWish_.out, "the day's sheet: FILE.pdf, .html, .svg or .png");
  dy->add_option("--packing", dayWish_.packing, "what to bring: FILE.csv, .pdf, .html, .svg or .png");
  dy->add_option("--sheets", dayWish_.sheets, "a folder for a sheet of each look");
  dy->add_option("--paper", dayWish_.paper, "a4, letter, a5, phone or stand");
  dy->add_flag("--dim", dayWish_.dim, "light on dark, for a darkened studio");
}

int Shell::run(int argc, const char* const* argv) {
  try {
    app_.parse(argc, argv);
  } catch (const CLI::ParseError& e) {
    if (e.get_exit_code() == 0) return app_.exit(e);
    putError("easel: {}. See easel --help.\n", e.what());
    return 2;
  }
  try {
    try {
      kitProblem.clear();
      takeIntoUse(std::filesystem::exists(kitFile()) ? loadKit(kitFile()) : Inventory{});
    } catch (const std::exception& e) {
      kitProblem = fmt::format("the kit cannot be read: {}", e.what());
      putError("easel: left aside: {}\n", kitProblem);
    }
    for (const std::string& problem : catalogueProblems()) putError("easel: {}\n", problem);
    for (const auto& [command, does] : commands_)
      if (*command) return does();
    return 0;
  } catch (const std::exception& e) {
    putError("easel: {}\n", e.what());
    return 2;
  }
}

}  // namespace

int easel::runEasel(int argc, const char* const* argv) {
  const int status = Shell().run(argc, argv);
  // What was printed may still be on its way: a full disk is met here at the latest.
  errno = 0;
  if (std::fflush(stdout) == 0 && !std::ferror(stdout)) return status;
  putError("easel: what was printed could not be written{}{}. Free the place, and ask again.\n", errno ? ": " : "",
           errno ? std::strerror(errno) : "");
  return 2;
}
