// Undo and redo over the edits of a plan.
#pragma once

#include <string>

#include "plan/edit.h"
#include "undo/undo_stack.h"

namespace easel {

class History {
 public:
  explicit History(Plan plan = {}) : plan_(std::move(plan)), saved_(plan_) {}

  const Plan& plan() const { return plan_; }

  /// Applies and remembers. An edit that changes nothing leaves no step. Throws as apply().
  void perform(const Edit& edit, std::string label, std::string mergeKey = {});
  /// Ends a run of merging edits: the next one is a step of its own (mouse released, field left).
  void endMerge() { steps_.endMerge(); }

  bool canUndo() const { return steps_.canUndo(); }
  bool canRedo() const { return steps_.canRedo(); }
  std::string undoLabel() const { return steps_.undoLabel(); }
  std::string redoLabel() const { return steps_.redoLabel(); }
  void undo();
  void redo();

  /// A new document: no steps.
  void reset(Plan plan);
  /// Marks a state as saved; `modified` compares by value, so undoing back to it is unmodified.
  void markSaved(Plan state) { saved_ = std::move(state); }
  void markUnsaved() { saved_.title += '\n'; }
  bool modified() const { return !(plan_ == saved_); }

 private:
  static constexpr std::size_t kMostSteps = 2000;
  Plan plan_, saved_;
  UndoStack<Edit> steps_{kMostSteps};
};

}  // namespace easel
