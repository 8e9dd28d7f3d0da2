#include "controllers/metering_run.h"

#include <QSettings>
#include <algorithm>
#include <cmath>
#include <filesystem>
#include <utility>

#include "formats/plan_json.h"
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

MeteringRun::MeteringRun(Document* document, OnEasel* onEasel, QObject* parent)
    : QObject(parent), document_(document), onEasel_(onEasel) {
  connect(&errand_, &Errand::failed, this, [this](const QString& why) {
    beginning_ = false;
    emit said(why, true);
    emit changed();
    pump();
  });
}

MeteringRun::~MeteringRun() { errand_.disconnect(this); }

// Whoever lets go of it last: the run that is over, or a window that is closed in the middle of one.
MeteringRun::Book::~Book() {
  if (!journal || !session) return;
  try {
    journal->finish(session, plan);
  } catch (const std::exception&) {  // the session then reads as broken off, which it is
  }
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
  const Plan& p = document_->plan();
  const bool any = std::any_of(p.lights.begin(), p.lights.end(),
                               [](const Light& l) { return l.on && findUnit(l.unit) && findModifier(l.modifier); });
  return any ? QString() : tr("No light is on in this plan: put one up in Build first.");
}

void MeteringRun::begin(const Wishes& wishes) {
  if (beginning_) return;
  const auto scene = onEasel_->sceneNow();
  if (!scene) {
    emit said(tr("The set is still being built. Try again in a moment."), false);
    return;
  }
  if (on()) end();
  wishes.keep();
  wishes_ = wishes;
  beginning_ = true;
  asked_ = document_->plan();
  file_ = document_->path();
  lastChange_.clear();
  auto book = std::make_shared<Book>();
  book->meter = wishes.meter.toStdString();
  book_ = book;
  errand_.start([this, scene, plan = asked_, wishes, book,
                 spelling = Preferences::current().spelling()](const Errand::Go&) -> Errand::Done {
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
    auto course =
        std::make_shared<RunCourse>(scene, plan, JudgeBy{wishes.tolerance, 0.1}, spelling,
                                    knownFrom(Learned(taught), plan, wishes.studio.toStdString(), book->meter));
    return [this, course, problem] {
      beginning_ = false;
      if (!problem.isEmpty())
        emit said(tr("The run goes on without a journal. %1").arg(problem), true);
      else
        emit said(wishes_.journal ? tr("The run has begun; every reading is written to the journal.")
                                  : tr("The run has begun; nothing is written to the journal."),
                  false);
      install(course);
      // What was changed while it was made ready.
      planStands(document_->plan(), onEasel_->sceneNow());
    };
  });
  emit changed();
}

void MeteringRun::end() {
  if (!on()) return;
  waiting_.clear();
  errand_.cancel();
  course_.reset();
  // The journal is closed where it was written, behind what is still under way.
  errand_.start([this, book = std::exchange(book_, nullptr)](const Errand::Go&) mutable -> Errand::Done {
    book.reset();
    return [this] { emit said(tr("The run is ended."), false); };
  });
  emit changed();
}

void MeteringRun::act(Action action, bool change) {
  if (!on()) return;
  if (change && !waiting_.empty() && waiting_.back().change) waiting_.pop_back();
  waiting_.push_back({std::move(action), change});
  pump();
}

void MeteringRun::pump() {
  if (errand_.running() || waiting_.empty() || !course_) return;
  Action action = std::move(waiting_.front().action);
  waiting_.pop_front();
  errand_.start([this, action = std::move(action), was = course_, book = book_](const Errand::Go&) -> Errand::Done {
    auto course = std::make_shared<RunCourse>(*was);
    action(*course);
    book->plan = writePlanText(course->plan());
    return [this, course, book] {
      if (const QString why = std::exchange(book->failed, {}); !why.isEmpty())
        emit said(tr("This is not in the journal. %1").arg(why), true);
      install(course);
    };
  });
  emit changed();
}

void MeteringRun::install(std::shared_ptr<RunCourse> course) {
  course_ = std::move(course);
  // Powers that a reading asked for; nothing else of the plan is the run's to change.
  for (const Light& l : course_->plan().lights)
    if (const Light* now = document_->plan().light(l.id); now && now->power != l.power) {
      const Light* then = asked_.light(l.id);
      if (!then || then->power != now->power) continue;  // another hand has been at it since
      Light set = *now;
      set.power = l.power;
      asked_.light(l.id)->power = l.power;
      document_->endMerge();
      document_->perform(SetLight{set}, tr("Set %1 as metered").arg(QString::fromStdString(l.id)));
    }
  emit changed();
  pump();
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
  document_->endMerge();
  document_->perform(SetPlan{withCamera(document_->plan(), *camera)}, tr("Set the camera as metered"));
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
  if (document_->path() != file_ && plan.title != asked_.title) {
    end();
    emit said(tr("Another plan is open: the run of the one before is ended."), false);
    return;
  }
  asked_ = plan;
  act([plan, scene](RunCourse& c) { c.planChanged(scene, plan); }, true);
  // What was done is called what undo calls it; a drag, which comes in many pieces, is told once.
  const QString label = QString::fromStdString(document_->history().undoLabel());
  if (label != std::exchange(lastChange_, label)) happened("changed", label);
}

}  // namespace easel::app
