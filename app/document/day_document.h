// The open day: its steps of undo, its file, what is kept of it when the program dies.
//
// A day is a value, so a step of undo is the day as it was. What is not saved is written half a second after the change
// to a file of its own in the state folder, under a lock that a later session finds free when this one has died. Plans
// of looks that name a file are read again when that file changes. Interface thread.
#pragma once

#include <QFileSystemWatcher>
#include <QLockFile>
#include <QObject>
#include <QThreadPool>
#include <QTimer>
#include <filesystem>
#include <functional>
#include <memory>
#include <vector>

#include "files/atomic_file.h"
#include "shoot/day.h"

namespace easel::app {

class DayDocument : public QObject {
  Q_OBJECT

 public:
  explicit DayDocument(QObject* parent = nullptr);
  ~DayDocument() override;

  const Day& day() const { return day_; }
  const std::filesystem::path& path() const { return path_; }
  std::filesystem::path folder() const;
  bool modified() const { return !(day_ == saved_) || recovered_; }
  bool untouched() const { return path_.empty() && undo_.empty() && !modified(); }

  /// `change` edits the day; what it throws comes out of refused() and nothing has changed. Steps with the same
  /// non-empty key join until another one comes.
  void edit(const QString& label, const std::function<void(Day&)>& change, const QString& mergeKey = {});
  void undo();
  void redo();
  bool canUndo() const { return !undo_.empty(); }
  bool canRedo() const { return !redo_.empty(); }
  QString undoLabel() const { return undo_.empty() ? QString() : undo_.back().label; }
  QString redoLabel() const { return redo_.empty() ? QString() : redo_.back().label; }

  void startNew();
  /// Throw with a sentence; the open day stays. Sentences about plans that are gone come out of said().
  void open(const std::filesystem::path& file);
  void saveTo(const std::filesystem::path& file);
  bool changedOutside() const { return !path_.empty() && changedSince(path_, mark_); }
  /// Whether a session that died left a day.
  static bool leftover();
  /// Takes it over; true when there was something.
  bool recover();
  /// The plan of a file for a look, and the name by which the day keeps it. Throws with a sentence.
  DayLook lookOf(const std::filesystem::path& plan) const;

 signals:
  void changed();
  void said(const QString& sentence, bool problem);

 private:
  struct Step {
    Day day;
    QString label, key;
  };
  void touched();
  void keep();
  void drop();
  void watch();
  void refresh();

  Day day_, saved_;
  bool recovered_ = false;
  std::vector<Step> undo_, redo_;
  std::filesystem::path path_;
  FileMark mark_;
  QString session_;
  std::unique_ptr<QLockFile> lock_;
  QThreadPool writer_;
  QTimer autosave_, again_;
  QFileSystemWatcher watcher_;
};

}  // namespace easel::app
