#include "controllers/metering_run.h"

#include <QSettings>
#include <algorithm>
#include <cmath>
#include <utility>

#include "formats/plan_json.h"
#include "plan/roles.h"
#include "run/with_journal.h"
#include "widgets/wording.h"

namespace easel::app {

MeteringRun::Wishes MeteringRun::Wishes::kept() {
  QSettings s;
  Wishes w;
  w.studio = s.value("run/studio").toString();
  w.meter = s.value("run/meter").toString();
  w.tolerance = std::clamp(s.value("run/toleranceHundredths", 10).toInt(), 5, 100) / 100.0;
  w.school = CameraSchool(std::clamp(s.value("run/school", int(CameraSchool::EverythingOn)).toInt(), 0, 2));
  w.journal = s.value("run/journal", true).toBool();
  return w;
}
void MeteringRun::Wishes::keep() const {
  QSettings s;
  s.setValue("run/studio", studio);
  s.setValue("run/meter", meter);
  s.setValue("run/toleranceHundredths", int(std::lround(100 * tolerance)));
  s.setValue("run/school", int(school));
  s.setValue("run/journal", journal);
}

MeteringRun::MeteringRun(ViewedPlan* viewed, OnEasel* onEasel, QObject* parent)
    : QObject(parent), viewed_(viewed), onEasel_(onEasel) {
  connect(viewed_, &ViewedPlan::replaced, this, [this] {
    if (!on() && !beginning_) return;
    close(tr("Another plan is open: the run of the one before is ended."));
    emit changed();
  });
}

// A window that is closed in the middle of a run: what was read is still judged and written.
MeteringRun::~MeteringRun() { close({}); }

void MeteringRun::Book::finish() {
  if (journal && session) write([this](Journal& j) { j.finish(session, plan); });
}

void MeteringRun::Book::write(const std::function<void(Journal&)>& work) {
  if (!journal || !session) return;
  try {
    work(*journal);
  } catch (const std::exception& e) {
    failed = QString::fromUtf8(e.what());
  }
}

QString MeteringRun::prevents() const {
  const Plan& p = viewed_->plan();
  const bool any = std::any_of(p.lights.begin(), p.lights.end(), [](const Light& l) { return burns(l); });
  return any ? QString() : tr("No light is on in this plan: add one in Build first.");
}

void MeteringRun::begin(const Wishes& wishes) {
  if (beginning_) return;
  onEasel_->whenBuilt([this, wishes](const std::shared_ptr<const Scene>& scene) { beginIn(scene, wishes); });
}

void MeteringRun::beginIn(const std::shared_ptr<const Scene>& scene, const Wishes& wishes) {
  if (beginning_) return;
  if (on()) close({});
  wishes.keep();
  wishes_ = wishes;
  beginning_ = true;
  asked_ = viewed_->plan();
  lastChange_.clear();
  auto book = std::make_shared<Book>();
  book->meter = wishes.meter.toStdString();
  book_ = book;
  strand_.start(
      [this, scene, plan = asked_, wishes, book, spelling = Preferences::current().spelling()]() -> Strand::Report {
        std::vector<TaughtReading> taught;
        QString problem;
        book->plan = writePlanText(plan);
        try {
          // None is made only to be read.
          if (wishes.journal || std::filesystem::exists(journalFile()))
            book->journal = std::make_unique<Journal>(journalFile());
          if (book->journal) taught = book->journal->taught();
          if (wishes.journal) book->session = book->journal->begin(plan.title, wishes.studio.toStdString(), book->plan);
        } catch (const std::exception& e) {
          problem = QString::fromUtf8(e.what());
        }
        try {
          book->course =
              std::make_shared<RunCourse>(scene, plan, JudgeBy{wishes.tolerance, 0.1}, spelling,
                                          knownFrom(Learned(taught), plan, wishes.studio.toStdString(), book->meter));
        } catch (const std::exception& e) {
          return [this, book, why = QString::fromUtf8(e.what())] {
            if (book != book_) return;
            beginning_ = false;
            emit said(why, true);
            emit changed();
          };
        }
        return [this, book, course = book->course, problem] {
          if (book != book_) return;  // ended before it had begun
          beginning_ = false;
          if (!problem.isEmpty())
            emit said(tr("The run goes on without a journal. %1").arg(problem), true);
          else
            emit said(wishes_.journal ? tr("Metering has started; every reading is written to the journal.")
                                      : tr("Metering has started; nothing is written to the journal."),
                      false);
          install(course);
          // What was changed while it was made ready.
          planStands(viewed_->plan(), onEasel_->sceneNow());
        };
      });
  emit changed();
}

void MeteringRun::end() {
  if (!on() && !beginning_) return;
  close(tr("Metering is ended."));
  emit changed();
}

// Everything that was said before still counts: it is judged and written, and then the journal is closed.
void MeteringRun::close(const QString& sentence) {
  while (course_ && !waiting_.empty()) doNext();
  waiting_.clear();
  course_.reset();
  beginning_ = false;
  if (!book_) return;
  strand_.start([this, sentence, book = std::exchange(book_, nullptr)]() -> Strand::Report {
    book->finish();
    return [this, sentence, why = book->failed] {
      if (why.isEmpty())
        emit said(sentence, false);
      else
        emit said(tr("This is not in the journal. %1").arg(why), true);
    };
  });
}

void MeteringRun::act(Action action, bool change) {
  if (!on()) return;
  if (change && !waiting_.empty() && waiting_.back().change) waiting_.pop_back();
  waiting_.push_back({std::move(action), change});
  if (!strand_.busy()) doNext();
}

void MeteringRun::doNext() {
  if (waiting_.empty() || !course_) return;
  Action action = std::move(waiting_.front().action);
  waiting_.pop_front();
  strand_.start([this, action = std::move(action), book = book_]() -> Strand::Report {
    QString why;
    try {
      auto course = std::make_shared<RunCourse>(*book->course);
      action(*course);
      book->course = course;
      book->plan = writePlanText(course->plan());
      // Through, with nothing left to read: it is no session that broke off, whatever comes.
      if (course->over() && course->open().empty()) book->finish();
    } catch (const std::exception& e) {
      why = QString::fromUtf8(e.what());
    }
    return [this, book, why, course = book->course, failed = std::exchange(book->failed, {})] {
      if (book != book_) return;
      if (!failed.isEmpty()) emit said(tr("This is not in the journal. %1").arg(failed), true);
      if (!why.isEmpty()) emit said(why, true);
      install(course);
    };
  });
  emit changed();
}

void MeteringRun::install(std::shared_ptr<const RunCourse> course) {
  course_ = std::move(course);
  // Powers that a reading asked for; nothing else of the plan is the run's to change.
  const auto letters = lettersIn(course_->plan(), asked_);
  for (const Light& l : course_->plan().lights) {
    const auto letter = letters.find(l.id);
    if (letter == letters.end()) continue;
    Light* then = asked_.light(letter->second);
    const Light* now = viewed_->plan().light(letter->second);
    // Where the two differ, another hand has been at it since.
    if (!now || now->power == l.power || then->power != now->power) continue;
    Light set = *now;
    set.power = then->power = l.power;
    viewed_->endMerge();
    viewed_->perform(SetLight{set}, tr("Set %1 as metered").arg(QString::fromStdString(set.id)));
  }
  emit changed();
  if (!strand_.busy()) doNext();
}

void MeteringRun::read(double fNumber) {
  lastChange_.clear();
  act([fNumber, book = book_](RunCourse& c) {
    if (c.over() || c.step().kind == RunStep::Kind::Picture) return;
    c.read(fNumber);
    book->write([&](Journal& j) { j.write(book->session, journalled(c, book->meter)); });
  });
}
void MeteringRun::setAsTold() {
  act([](RunCourse& c) { c.setAsTold(); });
}
void MeteringRun::setCamera() {
  if (!on()) return;
  const auto camera = course_->cameraBy(wishes_.school);
  if (!camera || camera->standing) return;
  viewed_->endMerge();
  viewed_->perform(SetPlan{withCamera(viewed_->plan(), *camera)}, tr("Set the camera as metered"));
}

void MeteringRun::happened(const std::string& kind, const QString& words) {
  act([kind, words = words.toStdString(), book = book_](RunCourse&) {
    book->write([&](Journal& j) { j.writeEvent(book->session, kind, words); });
  });
}

void MeteringRun::next() {
  act([](RunCourse& c) { c.next(); });
}
void MeteringRun::back() {
  act([](RunCourse& c) { c.back(); });
}
void MeteringRun::skip() {
  act([](RunCourse& c) { c.skip(); });
}
void MeteringRun::goTo(int step) {
  act([step](RunCourse& c) { c.goTo(size_t(std::max(0, step))); });
}
void MeteringRun::note(const QString& text) {
  act([text = text.toStdString(), book = book_](RunCourse& c) {
    c.note(text);
    std::string all;
    for (size_t i = 0; i < c.steps().size(); ++i)
      if (const auto& r = c.reading(i); r && !r->note.empty())
        all += (c.steps()[i].light.empty() ? std::string() : c.steps()[i].light + ": ") + r->note + "\n";
    book->write([&](Journal& j) { j.setNotes(book->session, all); });
  });
}

void MeteringRun::planStands(const Plan& plan, const std::shared_ptr<const Scene>& scene) {
  if (!on() || !scene || plan == asked_) return;
  asked_ = plan;
  act([plan, scene](RunCourse& c) { c.planChanged(scene, plan); }, true);
  // What was done is called what undo calls it; a drag, which comes in many pieces, is told once.
  const QString label = QString::fromStdString(viewed_->history().undoLabel());
  if (label != std::exchange(lastChange_, label)) happened("changed", label);
}

}  // namespace easel::app
