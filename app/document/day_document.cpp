#include "document/day_document.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QUuid>

#include "document/document.h"
#include "document/state_folder.h"
#include "formats/day_json.h"
#include "formats/plan_json.h"

namespace easel::app {
namespace {

constexpr size_t kMostSteps = 200;
const QString kEnding = QStringLiteral(".day.json");

QString daysFolder() { return stateFolder() + "/days"; }

}  // namespace

DayDocument::DayDocument(QObject* parent) : QObject(parent) {
  makePrivate(daysFolder());
  session_ = daysFolder() + "/" + QUuid::createUuid().toString(QUuid::WithoutBraces);
  lock_ = lockAt(session_ + ".lock");
  lock_->tryLock(0);
  writer_.setMaxThreadCount(1);
  autosave_.setSingleShot(true);
  autosave_.setInterval(500);
  connect(&autosave_, &QTimer::timeout, this, &DayDocument::keep);
  // A file that is written anew is gone for a moment.
  again_.setSingleShot(true);
  again_.setInterval(150);
  connect(&again_, &QTimer::timeout, this, &DayDocument::refresh);
  connect(&watcher_, &QFileSystemWatcher::fileChanged, &again_, qOverload<>(&QTimer::start));
  connect(&watcher_, &QFileSystemWatcher::directoryChanged, &again_, qOverload<>(&QTimer::start));
}
DayDocument::~DayDocument() { drop(); }

std::filesystem::path DayDocument::folder() const {
  return path_.empty() ? std::filesystem::path() : path_.parent_path();
}

void DayDocument::edit(const QString& label, const std::function<void(Day&)>& change, const QString& mergeKey) {
  Day next = day_;
  try {
    change(next);
  } catch (const std::exception& e) {
    emit changed();  // whatever shows the refused value goes back
    emit said(QString::fromUtf8(e.what()), true);
    return;
  }
  if (next == day_) return;
  const bool joins = !mergeKey.isEmpty() && !undo_.empty() && undo_.back().key == mergeKey && redo_.empty();
  if (!joins) undo_.push_back({day_, label, mergeKey});
  if (undo_.size() > kMostSteps) undo_.erase(undo_.begin());
  redo_.clear();
  day_ = std::move(next);
  touched();
}

void DayDocument::undo() {
  if (undo_.empty()) return;
  redo_.push_back({day_, undo_.back().label, {}});
  day_ = std::move(undo_.back().day);
  undo_.pop_back();
  touched();
}
void DayDocument::redo() {
  if (redo_.empty()) return;
  undo_.push_back({day_, redo_.back().label, {}});
  day_ = std::move(redo_.back().day);
  redo_.pop_back();
  touched();
}

void DayDocument::touched() {
  watch();
  if (!autosave_.isActive()) autosave_.start();
  emit changed();
}

void DayDocument::startNew() {
  day_ = saved_ = Day{};
  recovered_ = false;
  undo_.clear();
  redo_.clear();
  path_.clear();
  drop();
  watch();
  emit changed();
}

void DayDocument::open(const std::filesystem::path& file) {
  const OpenedDay opened = loadDay(file);
  day_ = saved_ = opened.day;
  recovered_ = false;
  undo_.clear();
  redo_.clear();
  std::error_code none;
  path_ = std::filesystem::absolute(file, none);
  mark_ = markOf(path_);
  drop();
  watch();
  emit changed();
  if (!opened.problems.empty()) emit said(QString::fromStdString(opened.problems.front()), true);
}

void DayDocument::saveTo(const std::filesystem::path& file) {
  std::error_code none;
  const std::filesystem::path absolute = std::filesystem::absolute(file, none);
  const Day moved = forFolder(day_, folder(), absolute.parent_path());
  if (std::filesystem::is_regular_file(absolute, none) && absolute != path_) try {
      loadDay(absolute);
    } catch (const std::exception&) {
      keepBackup(absolute);
    }
  saveDay(absolute, moved);
  day_ = saved_ = moved;
  recovered_ = false;
  path_ = absolute;
  mark_ = markOf(path_);
  drop();
  watch();
  emit changed();
}

DayLook DayDocument::lookOf(const std::filesystem::path& plan) const {
  DayLook l;
  l.plan = loadPlan(plan);
  std::error_code none;
  const auto absolute = std::filesystem::absolute(plan, none);
  const auto relative = path_.empty() ? absolute : std::filesystem::proximate(absolute, folder(), none);
  l.file = relative.string();
  return l;
}

void DayDocument::watch() {
  QStringList files;
  for (const DayLook& l : day_.looks)
    if (!l.file.empty()) {
      const auto file = folder() / l.file;
      files << shownName(file);
      // The folder tells when a file comes back that was gone.
      if (const QString in = shownName(file.parent_path()); !files.contains(in)) files << in;
    }
  const QStringList now = watcher_.files() + watcher_.directories();
  QStringList gone, come;
  for (const QString& f : now)
    if (!files.contains(f)) gone << f;
  for (const QString& f : files)
    if (!now.contains(f) && QFileInfo::exists(f)) come << f;
  if (!gone.isEmpty()) watcher_.removePaths(gone);
  if (!come.isEmpty()) watcher_.addPaths(come);
}

// The plans as their files are now. Not a step of undo: the files' own history is theirs.
void DayDocument::refresh() {
  const auto before = day_;
  const auto problems = refreshPlans(day_, folder());
  for (DayLook& l : saved_.looks)
    if (const DayLook* now = day_.look(l.id); now && now->file == l.file) l.plan = now->plan;
  watch();
  if (!(before == day_)) {
    emit changed();
    emit said(tr("A plan of the day was changed: its look is as the plan is now."), false);
  }
  if (!problems.empty()) emit said(QString::fromStdString(problems.front()), true);
}

void DayDocument::keep() {
  if (!modified()) return drop();
  writer_.start([this, day = day_, origin = path_.string(), session = session_.toStdString()] {
    try {
      writeFileAtomically(session + ".origin", origin, Privacy::OwnerOnly);
      writeFileAtomically(session + kEnding.toStdString(), writeDayText(day), Privacy::OwnerOnly);
    } catch (const std::exception& e) {
      QMetaObject::invokeMethod(
          this, [this, why = QString::fromUtf8(e.what())] { emit said(tr("The autosave failed: %1").arg(why), true); },
          Qt::QueuedConnection);
    }
  });
}

void DayDocument::drop() {
  autosave_.stop();
  writer_.waitForDone();
  QFile::remove(session_ + kEnding);
  QFile::remove(session_ + ".origin");
}

bool DayDocument::leftover() {
  const QDir days(daysFolder());
  for (const QFileInfo& found : days.entryInfoList({"*" + kEnding}, QDir::Files))
    if (lockAt(found.absoluteFilePath().chopped(kEnding.size()) + ".lock")->tryLock(0)) return true;
  return false;
}

bool DayDocument::recover() {
  const QDir days(daysFolder());
  for (const QFileInfo& found : days.entryInfoList({"*" + kEnding}, QDir::Files, QDir::Time)) {
    const QString base = found.absoluteFilePath().chopped(kEnding.size());
    auto other = lockAt(base + ".lock");
    if (!other->tryLock(0)) continue;  // its session is alive
    try {
      Day day = readDayText(readWholeFile(pathOf(found.absoluteFilePath())));
      std::string origin;
      try {
        origin = readWholeFile(pathOf(base + ".origin"));
      } catch (const std::exception&) {
      }
      path_ = origin;
      mark_ = path_.empty() ? FileMark{} : markOf(path_);
      refreshPlans(day, folder());
      day_ = std::move(day);
      saved_ = Day{};
      recovered_ = true;
      undo_.clear();
      redo_.clear();
      keep();
      writer_.waitForDone();
      QFile::remove(base + kEnding);
      QFile::remove(base + ".origin");
      watch();
      emit changed();
      return true;
    } catch (const std::exception&) {
      QFile::rename(found.absoluteFilePath(), base + ".unreadable.json");
    }
  }
  return false;
}

}  // namespace easel::app
