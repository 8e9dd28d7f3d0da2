// The open day: its steps of undo and its file.
//
// A day is a value, so a step of undo is the day as it was; only the plan of a look that names a file is always as that
// file is, for the file's history is its own. Such files are read again when they change. Interface thread, which waits
// for no disk.
#pragma once

#include <QObject>
#include <QTimer>
#include <filesystem>
#include <functional>
#include <map>

#include "document/file_watch.h"
#include "document/session_file.h"
#include "formats/day_json.h"
#include "undo/undo_stack.h"

namespace easel::app {

/// A day as it was read, with what was seen of its file.
struct ReadDay {
  OpenedDay opened;
  FileSeen file;
};
/// Any thread; blocks. Throws std::runtime_error with a sentence.
ReadDay readDayFile(const std::filesystem::path& file);
/// A look of that plan for a day in `folder` (empty: it has none yet). Any thread; blocks. Throws with a sentence.
DayLook readLook(const std::filesystem::path& plan, const std::filesystem::path& folder);

class DayDocument : public QObject {
  Q_OBJECT

 public:
  explicit DayDocument(QObject* parent = nullptr);

  const Day& day() const { return day_; }
  const std::filesystem::path& path() const { return session_.path(); }
  std::filesystem::path folder() const { return path().empty() ? std::filesystem::path() : path().parent_path(); }
  SessionFile* session() { return &session_; }
  bool modified() const { return recovered_ || !sameApartFromFiles(day_, saved_); }
  bool untouched() const { return path().empty() && !steps_.canUndo() && !modified() && !session_.saving(); }

  /// `change` edits the day; what it throws, and what a day's file could not hold, comes out of said() and nothing has
  /// changed. Steps with the same non-empty key join.
  void edit(const QString& label, const std::function<void(Day&)>& change, const QString& mergeKey = {});
  void undo();
  void redo();
  bool canUndo() const { return steps_.canUndo(); }
  bool canRedo() const { return steps_.canRedo(); }
  QString undoLabel() const { return QString::fromStdString(steps_.undoLabel()); }
  QString redoLabel() const { return QString::fromStdString(steps_.redoLabel()); }

  /// The plan of that file as it was last read; of looks of this day, and of those that undo would bring back.
  Plan filePlan(const std::string& name) const {
    const auto at = files_.find(name);
    return at == files_.end() ? Plan() : at->second;
  }

  void startNew();
  void take(const ReadDay& read);
  /// The day as it is now; ends in a signal of session(). What is edited until then stays unsaved.
  void saveTo(const std::filesystem::path& file, SessionFile::Over over = SessionFile::Over::Ask);

  /// Whether files are being read or written for this day.
  bool working() const { return reader_.busy() || again_.isActive() || !session_.calm(); }

  static const FileKind& kind();
  /// Makes it the open day, modified and under the name of its file. False when it is gone or another session has it.
  void takeOver(const SessionFile::Recovered& recovered);

 signals:
  void changed();       ///< the day
  void stateChanged();  ///< file, saved or not
  void said(const QString& sentence, bool problem);

 private:
  void reset(Day day, Day saved);
  void touched();
  void turn(Day& back);
  void watch();
  void refresh();
  bool takeInFiles(Day& day) const;

  Day day_, saved_;
  bool recovered_ = false;
  UndoStack<Day> steps_{200};
  /// Plans of files that looks name, as they were last read; those of looks that undo would bring back too.
  std::map<std::string, Plan> files_;
  SessionFile session_;
  Strand reader_;
  QTimer again_;
  FileWatch watch_;
};

}  // namespace easel::app
