#include "run_and_journal.h"

#include <fmt/format.h>

#include <cstdio>
#include <iostream>
#include <map>
#include <optional>
#include <stdexcept>

#include "files/atomic_file.h"
#include "formats/plan_json.h"
#include "journal/journal.h"
#include "rendering/progressive_render.h"
#include "run/course.h"
#include "run/said_reading.h"
#include "run/with_journal.h"
#include "terminal.h"

namespace easel {

int runByHand(const Plan& plan, const RunWishes& wish) {
  if (plan.lights.empty()) throw std::runtime_error("There is no light in this plan to meter.");
  ProgressiveRender studio(8, 8);
  studio.setPlan(plan);
  std::optional<Journal> journal;
  std::int64_t session = 0;
  std::map<std::string, Known> known;
  if (!wish.journal.empty()) {
    journal.emplace(wish.journal == "default" ? journalFile() : std::filesystem::path(wish.journal));
    // What earlier sessions have found out is expected, as in the window.
    const std::vector<TaughtReading> taught = journal->taught();
    if (!taught.empty()) known = knownFrom(Learned(taught), plan, wish.studio, wish.meter);
    session = journal->begin(plan.title, wish.studio, writePlanText(plan));
  }
  RunCourse course(studio.scene(), plan, {wish.tolerance, wish.spread}, {}, std::move(known));
  const auto tell = [&] {
    put("\n{}/{}  {}\n> ", course.at() + 1, course.steps().size(), describe(course.step(), course.plan()));
    std::fflush(stdout);
  };
  put("{}\nBooms and stands weighted, cables taped, hot lamps out of reach, no flash close to open eyes, and ask about "
      "photosensitivity; local rules and licensed trades decide.\n"
      "A line: a reading (\"five six and a half\", f/8 + 0.3), Enter: on, s: set the power as told, k: skip, b: back, "
      "n "
      "TEXT: a note, q: end.\n",
      plan.title);
  tell();
  for (std::string line; !course.over() && std::getline(std::cin, line);) {
    if (!line.empty() && line.back() == '\r') line.pop_back();
    if (line.empty()) {
      course.next();
    } else if (line == "k") {
      course.skip();
    } else if (line == "b") {
      course.back();
    } else if (line == "q") {
      break;
    } else if (line == "s") {
      put("{}\n", course.setAsTold() ? "Set. Read it again." : "There is nothing to set.");
    } else if (line.rfind("n ", 0) == 0) {
      course.note(line.substr(2));
    } else {
      try {
        const Judgement& j = course.read(saidAperture(line));
        // Written before it is shown.
        if (journal) journal->write(session, journalled(course, wish.meter));
        put("{}\n", j.sentence);
        for (size_t i = 0; i < std::min<size_t>(3, j.causes.size()); ++i) put("  - {}\n", j.causes[i].sentence);
      } catch (const std::invalid_argument& e) {
        put("{}\n", e.what());
      }
    }
    if (!course.over()) tell();
  }
  put("\n");
  const auto open = course.open();
  for (size_t i = 0; i < course.steps().size(); ++i) {
    const RunStep& s = course.steps()[i];
    const auto& r = course.reading(i);
    if (s.kind == RunStep::Kind::Picture || !r) continue;
    put("{:<10} {:<12} {}{}{}\n",
        s.kind == RunStep::Kind::AllOff     ? "all off"
        : s.kind == RunStep::Kind::Together ? "everything"
                                            : s.light,
        settingOf(s, course.plan()), r->skipped ? "skipped" : r->judgement.sentence,
        r->note.empty() ? "" : "  note: ", r->note);
  }
  put("{}\n", open.empty() ? "All set." : fmt::format("Steps still to read: {}.", open.size()));
  if (journal) journal->finish(session, writePlanText(course.plan()));
  if (!wish.out.empty()) savePlan(wish.out, course.plan());
  return open.empty() ? 0 : 1;
}

void showJournal(const JournalWishes& wish) {
  Journal j(wish.file.empty() ? journalFile() : std::filesystem::path(wish.file));
  if (wish.remove > 0) return j.remove(wish.remove);
  if (!wish.backup.empty()) return j.backup(wish.backup);
  if (!wish.import.empty()) {
    put("session {}\n", j.import(readWholeFile(wish.import, 8u << 20)));
    return;
  }
  if (wish.session > 0 && !wish.plan.empty()) {
    for (const JournalSession& s : j.sessions())
      if (s.id == wish.session) return savePlan(wish.plan, readPlanText(s.plan));
    throw std::runtime_error(fmt::format("There is no session {} in the journal.", wish.session));
  }
  if (wish.session > 0) {
    putText(wish.csv ? j.csv(wish.session) : j.json(wish.session));
    return;
  }
  if (wish.learned) {
    const Learned learned(j.taught(wish.studio));
    if (learned.corrections().empty()) put("No reading of a light alone is in the journal yet.\n");
    const char* of[] = {"head", "modifier", "meter", "studio"};
    for (const Correction& c : learned.corrections())
      put("{:<9} {:<22} {:+.2f} stops, within {:.2f}, from {} readings\n", of[int(c.of)], c.id, c.stops, c.uncertainty,
          c.readings);
    if (!learned.doubted().empty())
      put("{} readings lie far from the others and count less.\n", learned.doubted().size());
    return;
  }
  for (const JournalSession& s : j.sessions(wish.search))
    put("{:>4}  {}  {:<32} {:<16} {} readings{}{}\n", s.id, s.begun, s.title, s.studio, s.readings,
        s.ended.empty() ? ", not finished" : "", s.stars ? fmt::format("  {}", std::string(size_t(s.stars), '*')) : "");
}

}  // namespace easel
