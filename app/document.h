// The open plan: history, file, autosave. Everything that changes the plan goes through here.
#pragma once

#include <QLockFile>
#include <QObject>
#include <QString>
#include <QTimer>
#include <memory>

#include "plan/history.h"

namespace easel::app {

class Document : public QObject {
  Q_OBJECT

 public:
  explicit Document(QObject* parent = nullptr);
  ~Document() override;

  const Plan& plan() const { return history_.plan(); }
  const History& history() const { return history_; }
  QString file() const { return file_; }
  bool modified() const { return history_.modified(); }
  QString displayName() const;

  /// Edits with the same non-empty key become one undo step until endMerge(). What the plan refuses comes out of
  /// refused() instead.
  void perform(const Edit& edit, const QString& label, const QString& mergeKey = {});
  void endMerge() { history_.endMerge(); }
  void undo();
  void redo();

  void startNew();
  /// Throw std::runtime_error with a sentence; the open plan stays as it was.
  void open(const QString& file);
  void saveTo(const QString& file);

  /// What an earlier session left unsaved. Takes it over when there is one: the plan is open, modified, and named.
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

  History history_;
  QString file_, session_;
  std::unique_ptr<QLockFile> lock_;
  QTimer autosave_;
};

}  // namespace easel::app
