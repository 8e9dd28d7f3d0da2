// Undo and redo over edits. A drag is many edits and one step: edits with the same non-empty merge key join.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "plan/edit.h"

namespace easel {

class History {
 public:
  explicit History(Plan plan = {}) : plan_(std::move(plan)), saved_(plan_) {}

  const Plan& plan() const { return plan_; }

  /// Applies and remembers. An edit that changes nothing leaves no step. Throws as apply().
  void perform(const Edit& edit, std::string label, std::string mergeKey = {});
  /// Ends a run of merging edits: the next one is a step of its own (mouse released, field left).
  void endMerge();

  bool canUndo() const { return !undo_.empty(); }
  bool canRedo() const { return !redo_.empty(); }
  std::string undoLabel() const { return canUndo() ? undo_.back().label : std::string(); }
  std::string redoLabel() const { return canRedo() ? redo_.back().label : std::string(); }
  void undo();
  void redo();

  /// A new document: no steps.
  void reset(Plan plan);
  /// Marks the present state as saved; `modified` compares by value, so undoing back to it is unmodified.
  void markSaved() { saved_ = plan_; }
  void markUnsaved() { saved_.title += '\n'; }
  bool modified() const { return !(plan_ == saved_); }

 private:
  struct Step {
    Edit back;
    std::string label, mergeKey;
  };
  Plan plan_, saved_;
  std::vector<Step> undo_, redo_;
};

}  // namespace easel
