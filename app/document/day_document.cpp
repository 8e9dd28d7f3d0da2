#include "document/day_document.h"

#include <QSet>

#include "document/state_folder.h"
#include "formats/plan_json.h"

namespace easel::app {

ReadDay readDayFile(const std::filesystem::path& file) {
  const FileSeen seen = lookAt(file);
  return {loadDay(file), seen};
}

DayLook readLook(const std::filesystem::path& plan, const std::filesystem::path& folder) {
  DayLook l;
  l.plan = loadPlan(plan);
  std::error_code none;
  const auto absolute = std::filesystem::absolute(plan, none);
  const auto relative = folder.empty() ? absolute : std::filesystem::proximate(absolute, folder, none);
  l.file = relative.string();
  return l;
}

const FileKind& DayDocument::kind() {
  static const FileKind days{QStringLiteral("days"), QStringLiteral(".day.json"),
                             [](const std::string& text) { return readDayText(text).title; }};
  return days;
}

DayDocument::DayDocument(QObject* parent)
    : QObject(parent),
      session_(
          kind(),
          [this]() -> SessionFile::Text {
            if (!modified()) return {};
            return [day = day_] { return writeDayText(day); };
          },
          this),
      reader_(this) {
  connect(&session_, &SessionFile::autosaveFailed, this, [this](const QString& why) { emit said(why, true); });
  connect(&session_, &SessionFile::stateChanged, this, &DayDocument::stateChanged);
  // A file that is being replaced is gone for a moment.
  again_.setSingleShot(true);
  again_.setInterval(150);
  connect(&again_, &QTimer::timeout, this, &DayDocument::refresh);
  connect(&watch_, &FileWatch::changed, &again_, qOverload<>(&QTimer::start));
}

void DayDocument::edit(const QString& label, const std::function<void(Day&)>& change, const QString& mergeKey) {
  Day next = day_;
  try {
    change(next);
    requireHolds(next);
  } catch (const std::exception& e) {
    emit changed();  // whatever shows the refused value goes back
    emit said(QString::fromUtf8(e.what()), true);
    return;
  }
  if (next == day_) return;
  std::swap(next, day_);
  steps_.record(std::move(next), label.toStdString(), mergeKey.toStdString());
  for (const DayLook& l : day_.looks)
    if (!l.file.empty()) files_.try_emplace(l.file, l.plan);
  touched();
}

void DayDocument::turn(Day& back) {
  std::swap(back, day_);
  takeInFiles(day_);
}
void DayDocument::undo() {
  steps_.undo([this](Day back) {
    turn(back);
    return back;
  });
  touched();
}
void DayDocument::redo() {
  steps_.redo([this](Day back) {
    turn(back);
    return back;
  });
  touched();
}

void DayDocument::touched() {
  watch();
  session_.touched();
  emit changed();
}

void DayDocument::reset(Day day, Day saved) {
  day_ = std::move(day);
  saved_ = std::move(saved);
  recovered_ = false;
  steps_.clear();
  files_.clear();
  for (const DayLook& l : day_.looks)
    if (!l.file.empty()) files_[l.file] = l.plan;
}

void DayDocument::startNew() {
  reset({}, {});
  session_.belongsToNone();
  watch();
  emit changed();
}

void DayDocument::take(const ReadDay& read) {
  reset(read.opened.day, read.opened.day);
  session_.belongsTo(read.file);
  watch();
  emit changed();
  if (!read.opened.problems.empty()) emit said(QString::fromStdString(read.opened.problems.front()), true);
}

void DayDocument::saveTo(const std::filesystem::path& file, SessionFile::Over over) {
  steps_.endMerge();
  // Where the day goes elsewhere, its looks name their files from there; that asks the disk.
  const auto moved = std::make_shared<Day>();
  const auto text = [moved, day = day_, from = folder(), file] {
    std::error_code none;
    *moved = forFolder(day, from, std::filesystem::absolute(file, none).parent_path());
    return writeDayText(*moved);
  };
  session_.save(file, text, over, [this, moved, was = day_] {
    // The hand may have gone on: what it did stays, and is not saved.
    std::map<std::string, std::string> named;
    for (size_t i = 0; i < was.looks.size(); ++i) named[was.looks[i].file] = moved->looks[i].file;
    const auto rename = [&](Day& d) {
      for (DayLook& l : d.looks)
        if (const auto at = named.find(l.file); at != named.end()) l.file = at->second;
    };
    rename(day_);
    steps_.edit(rename);
    std::map<std::string, Plan> files;
    for (auto& [name, plan] : files_) {
      const auto at = named.find(name);
      files.emplace(at == named.end() ? name : at->second, std::move(plan));
    }
    files_ = std::move(files);
    saved_ = *moved;
    recovered_ = false;
    // Once the folder is known.
    QMetaObject::invokeMethod(
        this,
        [this, renamed = !(*moved == was)] {
          watch();
          if (renamed) emit changed();
        },
        Qt::QueuedConnection);
  });
}

void DayDocument::takeOver(const SessionFile::Recovered& recovered) {
  reset(readDayText(recovered.text), {});
  recovered_ = true;
  session_.takeOver(recovered);
  watch();
  refresh();
  emit changed();
}

void DayDocument::watch() {
  QStringList files;
  for (const auto& [name, plan] : files_) {
    const auto file = folder() / name;
    files << shownName(file);
    // The folder tells when a file comes back that was gone.
    if (const QString in = shownName(file.parent_path()); !files.contains(in)) files << in;
  }
  watch_.watch(files);
}

bool DayDocument::takeInFiles(Day& day) const {
  bool other = false;
  for (DayLook& l : day.looks)
    if (const auto at = files_.find(l.file); !l.file.empty() && at != files_.end() && !(l.plan == at->second)) {
      l.plan = at->second;
      other = true;
    }
  return other;
}

// The plans as their files are now. Not a step of undo: the files' own history is theirs.
void DayDocument::refresh() {
  // Files of looks that only undo would bring back: nobody is told what is wrong with them.
  Day shown = day_, hidden;
  for (const auto& read : files_)
    if (std::none_of(shown.looks.begin(), shown.looks.end(), [&](const DayLook& l) { return l.file == read.first; })) {
      DayLook l;
      l.file = read.first;
      l.plan = read.second;
      hidden.looks.push_back(std::move(l));
    }
  reader_.start(
      [this, shown = std::move(shown), hidden = std::move(hidden), in = folder()]() mutable -> Strand::Report {
        const auto problems = refreshPlans(shown, in);
        refreshPlans(hidden, in);
        return [this, problems, shown = std::move(shown), hidden = std::move(hidden), in] {
          if (in != folder()) return;  // saved elsewhere, or another day
          for (const Day* d : {&shown, &hidden})
            for (const DayLook& l : d->looks)
              if (const auto at = files_.find(l.file); at != files_.end()) at->second = l.plan;
          watch();
          takeInFiles(saved_);
          if (takeInFiles(day_)) {
            session_.touched();
            emit changed();
            emit said(tr("A plan of the day was changed: its look is as the plan is now."), false);
          }
          if (!problems.empty()) emit said(QString::fromStdString(problems.front()), true);
        };
      });
}

}  // namespace easel::app
