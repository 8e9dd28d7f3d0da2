// The open plan: history, file, autosave. Everything that changes the plan goes through here.
//
// Autosave: at most half a second after the first edit that is not on disk, dragging or not; on a thread of its own
// that writes one after the other, into a file that only the user can read. A lock file beside it tells other sessions
// that this one is alive; another one tells them which plan file is open here.
#pragma once

#include <QLockFile>
#include <QObject>
#include <QString>
#include <QThreadPool>
#include <QTimer>
#include <filesystem>
#include <memory>
#include <vector>

#include "files/atomic_file.h"
#include "plan/history.h"

namespace easel::app {

/// A file name as Qt shows it, to the bytes that the file system knows, and back (which may lose bytes that are no
/// text).
std::filesystem::path pathOf(const QString& file);
QString shownName(const std::filesystem::path& path);

class Document : public QObject {
  Q_OBJECT

 public:
  explicit Document(QObject* parent = nullptr);
  ~Document() override;

  const Plan& plan() const { return history_.plan(); }
  const History& history() const { return history_; }
  QString file() const { return shownName(path_); }
  const std::filesystem::path& path() const { return path_; }
  bool modified() const { return history_.modified(); }
  QString displayName() const;
  /// A plan that nobody has opened, saved or changed.
  bool untouched() const { return path_.empty() && !history_.canUndo() && !history_.canRedo() && !modified(); }

  /// Edits with the same non-empty key become one undo step until endMerge(). What the plan refuses comes out of
  /// refused() instead.
  void perform(const Edit& edit, const QString& label, const QString& mergeKey = {});
  void endMerge() { history_.endMerge(); }
  void undo();
  void redo();

  void startNew();
  /// A plan that comes from no file: modified, and without a name.
  void startFrom(const Plan& plan);
  /// Throw std::runtime_error with a sentence; the open plan stays as it was.
  void open(const QString& file) { open(pathOf(file)); }
  void open(const std::filesystem::path& file);
  /// What stands there and cannot be read as a plan is kept as NAME.bak.
  void saveTo(const QString& file) { saveTo(pathOf(file)); }
  void saveTo(const std::filesystem::path& file);
  /// Whether the open plan's file has been written by somebody else since it was opened or saved here.
  bool changedOutside() const;
  /// Whether another window has the same file open too.
  bool openElsewhere() const { return !path_.empty() && !holdsFile_; }

  /// What earlier sessions left unsaved, newest first; sessions that are alive are left out.
  struct Leftover {
    QString base, title;
  };
  struct Leftovers {
    std::vector<Leftover> plans;
    QStringList unreadable;  ///< kept under these paths, and told once
  };
  static Leftovers leftovers();
  /// Makes it the open plan, modified and under the name of its file. False when it is gone or another session has it.
  bool takeOver(const Leftover& leftover);
  /// Takes over the newest.
  bool recover();
  static QString autosaveFolder();

  /// A fresh plan as the application proposes it: one key light.
  static Plan freshPlan();

 signals:
  void changed();                         ///< the plan
  void refused(const QString& sentence);  ///< an edit that the plan does not take; nothing has changed
  void stateChanged();                    ///< file, saved or not, undo and redo

 private:
  void touched();
  void writeAutosave();
  void dropAutosave();
  void setFile(const std::filesystem::path& file);

  History history_;
  std::filesystem::path path_;
  FileMark mark_;  ///< of the file, as it was opened or saved
  QString session_;
  std::unique_ptr<QLockFile> lock_, fileLock_;
  bool holdsFile_ = false, autosaveFailed_ = false;
  QThreadPool writer_;  ///< one thread: autosaves of one document are written in order
  QTimer autosave_;
};

}  // namespace easel::app
