#include "commands.h"

#include <fmt/format.h>

#include <CLI/CLI.hpp>
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <functional>

#include "figures_and_gear.h"
#include "formats/catalogue.h"
#include "given_plan.h"
#include "pictures_and_reading.h"
#include "run_and_journal.h"
#include "sheet_and_day.h"
#include "terminal.h"

namespace {

using namespace easel;

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
    showMeter(plan_, json_, csv_);
    return 0;
  });
  m->add_flag("--json", json_, "JSON (docs/formats/answers.md)");
  m->add_flag("--csv", csv_, "every light at every spot as CSV (docs/formats/readings-csv.md)");
  auto* p = addOfPlan("power", "The power that gives an aperture at the face, each light alone", [this] {
    showPower(plan_, aperture_, json_);
    return 0;
  });
  p->add_option("--aperture", aperture_, "like f/8 or \"f/8 1/3\"")->required();
  p->add_flag("--json", json_, "JSON (docs/formats/answers.md)");
  auto* b =
      addOfPlan("balance", "All powers at once, so that each light alone (or the sum) stands at its target", [this] {
        balancePlan(plan_, sum_, out_, json_);
        return 0;
      });
  b->add_flag("--sum", sum_, "lower all equally so that everything on gives the target aperture");
  b->add_option("--out", out_, "write the balanced plan");
  b->add_flag("--json", json_, "readings of the balanced plan (docs/formats/answers.md)");
  addOfPlan("quality", "How hard each light is on this face, how it falls off, what panels add", [this] {
    showQuality(plan_);
    return 0;
  });
}

void Shell::addPictures() {
  auto* r = addOfPlan("render", "The predicted picture as PNG, or its linear values as OpenEXR", [this] {
    writePicture(plan_, out_, size_, solo_, samples_, plain_);
    return 0;
  });
  r->add_option("--out", out_, "FILE.png or FILE.exr")->required();
  r->add_option("--size", size_, "width x height in pixels; default: the plan's frame at the pixels of 640x800");
  r->add_option("--solo", solo_, "one light alone, by its letter");
  r->add_option("--samples", samples_, "passes, default 64");
  r->add_flag("--plain", plain_, "without noise filter and without scattering in skin");
  auto* s = addOfPlan("series", "One thing varied: a contact sheet of pictures", [this] {
    writeSeries(plan_, vary_, out_, sheetSize_, hold_, sheetSamples_);
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
    showReading(plan_, json_, readingSize_, readingSamples_);
    return 0;
  }));
  addReadingOptions(addOfPlan("check", "What is wrong with the predicted picture; exit status 1 when something is",
                              [this] { return showFaults(plan_, json_, readingSize_, readingSamples_); }));
  auto* pm = add("patterns", "Which pattern a key makes at every place round the face, as a map", [this] {
    writePatterns(plan_, out_, step_);
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
  auto* k = addOfPlan("kit", "What the plan needs and the kit lacks", [this] {
    showLacking(plan_, kitName_);
    return 0;
  });
  k->add_option("--kit", kitName_, "KIT.json (docs/formats/kit.md); else the one kept by the application");
  auto* i = addOfPlan("ies", "The angular profile of a light as IES photometry", [this] {
    writeIes(plan_, letter_, out_);
    return 0;
  });
  i->add_option("--light", letter_, "its letter")->required();
  i->add_option("--out", out_, "FILE.ies")->required();
  auto* cat =
      add("catalogue", "Where your own gear, roles, looks and people are kept, and whether a file of them can be taken",
          [this] {
            showCatalogue(data_);
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
  mr->add_option("--tolerance", runWish_.tolerance, "tolerance: stops off the target that are let pass")
      ->capture_default_str();
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
    useOwnKit();
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
  putError("easel: what was printed could not be written{}{}. Free some space and try again.\n", errno ? ": " : "",
           errno ? std::strerror(errno) : "");
  return 2;
}
