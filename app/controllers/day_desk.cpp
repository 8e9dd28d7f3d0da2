#include "controllers/day_desk.h"

#include <QTime>
#include <algorithm>
#include <cmath>
#include <set>

#include "formats/plan_json.h"
#include "render/picture_image.h"
#include "widgets/wording.h"

namespace easel::app {

DayDesk::DayDesk(DayDocument* document, QObject* parent)
    : QObject(parent),
      document_(document),
      clock_([] { return QTime::currentTime().msecsSinceStartOfDay() / 1000.0; }) {
  connect(document_, &DayDocument::changed, this, [this] {
    ++change_;
    compute();
    tracePrints();
    emit changed();
  });
  for (BackgroundTask* e : {&work_, &prints_, &journal_})
    connect(e, &BackgroundTask::failed, this, [this](const QString& why) { emit said(why, true); });
  connect(&journal_, &BackgroundTask::ended, this,
          [this] { QMetaObject::invokeMethod(this, &DayDesk::writeNext, Qt::QueuedConnection); });
}

void DayDesk::setKit(const Inventory& kit) {
  kit_ = kit;
  compute();
}

void DayDesk::look() { compute(); }

void DayDesk::compute() {
  // The clock counts once the day has begun; before, it is planned from its start.
  const bool begun = (clockOn_ && now() > day().start * 60.0) ||
                     std::any_of(day().looks.begin(), day().looks.end(),
                                 [](const DayLook& l) { return !l.begun.empty() || !l.done.empty(); });
  work_.start([this, change = change_, day = day(), kit = kit_, pace = pace_, known = paceKnown_,
               now = begun ? now() : -1.0,
               spelling = Preferences::current().spelling()](const BackgroundTask::Go&) -> BackgroundTask::Done {
    const double own = known ? pace : paceIn(journalFile());
    auto r = std::make_shared<DayForecast>(easel::forecast(day, kit, own, now, spelling));
    return [this, r, change, own] {
      pace_ = own;
      paceKnown_ = true;
      forecast_ = std::move(*r);
      expectedChange_ = change;
      emit changed();
    };
  });
}

// One print at a time, those that are missing first.
void DayDesk::tracePrints() {
  if (prints_.running()) return;
  for (const DayLook& l : day().looks) {
    const QString id = QString::fromStdString(l.id);
    if (const auto found = traced_.constFind(id); found != traced_.constEnd() && found.value() == l.plan) continue;
    prints_.start([this, id, plan = l.plan](const BackgroundTask::Go&) -> BackgroundTask::Done {
      QImage image;
      try {
        image = imageOf(renderPicture(plan, 160, 200, 6));
      } catch (const std::exception&) {
        // What keeps it from being computed stands among the problems of the look itself.
      }
      return [this, id, plan, image] {
        traced_[id] = plan;
        images_[id] = image;
        emit printed();
        QMetaObject::invokeMethod(this, &DayDesk::tracePrints, Qt::QueuedConnection);
      };
    });
    return;
  }
}

void DayDesk::add(DayLook look) {
  document_->edit(tr("Add a look"), [&](Day& d) {
    if (d.looks.size() >= kMostLooks)
      throw std::invalid_argument(
          tr("A day holds at most %1 looks. Split it into two days.").arg(kMostLooks).toStdString());
    std::set<std::string> ids;
    for (const DayLook& l : d.looks) ids.insert(l.id);
    int n = int(d.looks.size()) + 1;
    while (ids.count(std::to_string(n))) ++n;
    look.id = std::to_string(n);
    d.looks.push_back(look);
  });
}

void DayDesk::remove(int i) {
  document_->edit(tr("Remove a look"), [&](Day& d) {
    if (i >= 0 && i < int(d.looks.size())) dropLook(d, size_t(i));
  });
}

void DayDesk::move(int i, int to) {
  document_->edit(tr("Move a look"), [&](Day& d) {
    if (i < 0 || to < 0 || i >= int(d.looks.size()) || to >= int(d.looks.size())) return;
    const DayLook l = d.looks[size_t(i)];
    d.looks.erase(d.looks.begin() + i);
    d.looks.insert(d.looks.begin() + to, l);
  });
}

void DayDesk::cutLoose(int i) {
  document_->edit(tr("Detach from its file"), [&](Day& d) {
    if (i >= 0 && i < int(d.looks.size())) d.looks[size_t(i)].file.clear();
  });
}

void DayDesk::putInBestOrder() {
  if (!current()) return;
  if (!forecast_->best.problem.empty()) return void(emit said(QString::fromStdString(forecast_->best.problem), true));
  document_->edit(tr("Best order"), [&](Day& d) {
    std::vector<DayLook> ordered;
    for (const size_t i : forecast_->standing.done) ordered.push_back(d.looks[i]);
    for (const Turn& s : forecast_->best.turns) ordered.push_back(d.looks[s.look]);
    d.looks = std::move(ordered);
  });
}

void DayDesk::take(const Relief& r) {
  if (!current()) return;
  document_->edit(QString::fromStdString(r.sentence), [&](Day& d) {
    switch (r.kind) {
      case Relief::Kind::Drop: {
        std::vector<size_t> gone = r.looks;
        std::sort(gone.rbegin(), gone.rend());
        for (const size_t i : gone) dropLook(d, i);
        break;
      }
      case Relief::Kind::FewerFrames:
        d.looks[r.looks.at(0)].frames = r.frames;
        break;
      case Relief::Kind::LeaveOut:
      case Relief::Kind::LeaveStanding: {
        // The plan's own file stays as it is: from here on the look has a plan of its own.
        DayLook& l = d.looks[r.looks.at(0)];
        l.plan = r.plan;
        l.file.clear();
        break;
      }
    }
  });
}

int DayDesk::shooting() const {
  for (size_t i = 0; i < day().looks.size(); ++i)
    if (!day().looks[i].begun.empty() && day().looks[i].done.empty()) return int(i);
  return -1;
}
int DayDesk::next() const {
  for (size_t i = 0; i < day().looks.size(); ++i)
    if (day().looks[i].begun.empty() && day().looks[i].done.empty()) return int(i);
  return -1;
}

void DayDesk::tick() {
  const double t = now();
  const std::string time = writeTime(int(t / 60));
  const int on = shooting(), then = next();
  if (on < 0 && then < 0) return void(emit said(tr("Every look is done."), false));
  const size_t i = size_t(on >= 0 ? on : then);
  const DayLook look = day().looks[i];
  // Only what followed on a tick of this session has a time, and a change at which nobody was waited for.
  std::optional<double> planned;
  if (ticked_ >= 0 && on >= 0) planned = usualDay().times.settle + look.frames * day().secondsPerFrame;
  if (ticked_ >= 0 && on < 0 && current())
    for (const Turn& s : forecast_->planned.turns)
      if (s.look == i && s.waits <= 0) planned = s.change / pace_;
  const double took = t - ticked_;
  ticked_ = t;
  document_->edit(on >= 0 ? tr("Look is done") : tr("Look is started"),
                  [&](Day& d) { (on >= 0 ? d.looks[i].done : d.looks[i].begun) = time; });
  // After the edit: the last tick of the day ends its session in the journal.
  if (planned)
    write(on >= 0 ? QStringLiteral("look") : QStringLiteral("set"), QString::fromStdString(look.name()), *planned,
          took);
}

void DayDesk::write(const QString& kind, const QString& words, double expected, double took) {
  if (took <= 0) return;
  ticks_.push_back({kind, words, expected, took});
  writeNext();
}

void DayDesk::writeNext() {
  if (journal_.running() || ticks_.empty()) return;
  const std::vector<Tick> ticks = std::move(ticks_);
  ticks_.clear();
  const std::string plan = day().looks.empty() ? std::string() : writePlanText(day().looks.front().plan);
  const bool through = shooting() < 0 && next() < 0;
  journal_.start([this, ticks, plan, through, session = session_, title = day().title,
                  studio = day().studio](const BackgroundTask::Go&) -> BackgroundTask::Done {
    Journal j(journalFile());
    const std::int64_t id = session ? session : j.begin(title, studio, plan);
    for (const Tick& t : ticks) j.writeEvent(id, t.kind.toStdString(), t.words.toStdString(), t.expected, t.took);
    if (through) j.finish(id, plan);
    const double pace = paceOf(j.timed("set"));
    return [this, id, pace] {
      session_ = id;
      pace_ = pace;
      compute();
    };
  });
}

}  // namespace easel::app
