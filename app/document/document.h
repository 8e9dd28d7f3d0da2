// The open plan and its file. Everything that changes the plan goes through here; what waits for a disk is the session
// file's. Interface thread.
#pragma once

#include <QObject>
#include <QString>
#include <filesystem>

#include "document/session_file.h"
#include "document/state_folder.h"
#include "document/viewed_plan.h"

namespace easel::app {

/// A plan as it was read, with what was seen of its file.
struct ReadPlan {
  Plan plan;
  FileSeen file;
};
/// Any thread; blocks. Throws std::runtime_error with a sentence. Of a sheet that carries a plan the file is none.
ReadPlan readPlanFile(const std::filesystem::path& file);

class Document : public ViewedPlan {
  Q_OBJECT

 public:
  explicit Document(QObject* parent = nullptr);

  QString file() const { return shownName(path()); }
  const std::filesystem::path& path() const { return session_.path(); }
  SessionFile* session() { return &session_; }
  bool modified() const { return history_.modified(); }
  QString displayName() const override;
  /// A plan that nobody has opened, saved or changed.
  bool untouched() const {
    return path().empty() && !history_.canUndo() && !history_.canRedo() && !modified() && !session_.saving();
  }

  void startNew();
  /// A plan that comes from no file: modified, and without a name.
  void startFrom(const Plan& plan);
  void take(const ReadPlan& read);
  /// The plan as it is now; ends in a signal of session(). What is edited until then stays unsaved.
  void saveTo(const std::filesystem::path& file, SessionFile::Over over = SessionFile::Over::Ask);

  static const FileKind& kind();
  /// Makes it the open plan, modified and under the name of its file. False when it is gone or another session has it.
  void takeOver(const SessionFile::Recovered& recovered);

  /// A fresh plan as the application proposes it: one key light.
  static Plan freshPlan();

 signals:
  void stateChanged();  ///< file, saved or not, undo and redo

 private:
  void touched() override;

  SessionFile session_;
};

}  // namespace easel::app
