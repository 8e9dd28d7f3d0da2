// A plan that instruments and pages show and edit, with its history: the open document is one, and so is a plan of its
// own that no file belongs to (a try-out, a drill, a lesson). Interface thread.
#pragma once

#include <QObject>
#include <QString>

#include "plan/history.h"

namespace easel::app {

class ViewedPlan : public QObject {
  Q_OBJECT

 public:
  explicit ViewedPlan(Plan plan = {}, QObject* parent = nullptr);

  const Plan& plan() const { return history_.plan(); }
  const History& history() const { return history_; }

  /// What sheets and files made of it are called by: its title, or its file's name.
  virtual QString displayName() const { return QString::fromStdString(plan().title); }

  /// Edits with the same non-empty key become one undo step until endMerge(). What the plan refuses comes out of
  /// refused() instead.
  void perform(const Edit& edit, const QString& label, const QString& mergeKey = {});
  void endMerge() { history_.endMerge(); }
  void undo();
  void redo();
  /// Another plan, without steps to undo.
  void replaceBy(const Plan& plan);

 signals:
  void changed();                         ///< the plan
  void replaced();                        ///< by another plan; what was proposed for the one before is not for this one
  void refused(const QString& sentence);  ///< an edit that the plan does not take; nothing has changed

 protected:
  /// After every edit, undo and redo.
  virtual void touched() { emit changed(); }

  History history_;
};

}  // namespace easel::app
