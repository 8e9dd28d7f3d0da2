// Entries of undo and redo, over whatever leads back: the inverse of an edit, or the value as it was.
//
// A drag is many edits and one step: edits with the same non-empty merge key join, until another step, endMerge(), undo
// or redo ends the run. One thread at a time.
#pragma once

#include <cstddef>
#include <string>
#include <utility>
#include <vector>

namespace easel {

template <class Back>
class UndoStack {
 public:
  /// Beyond `most` steps the oldest are forgotten.
  explicit UndoStack(std::size_t most) : most_(most) {}

  /// A step that `back` leads back from. Of steps that join, the oldest `back` stays: it leads to where the drag began.
  void record(Back back, std::string label, std::string mergeKey = {}) {
    redo_.clear();
    const bool joins = !mergeKey.empty() && mergeKey == run_;
    run_ = std::move(mergeKey);
    if (joins) return;
    undo_.push_back({std::move(back), std::move(label)});
    if (undo_.size() > most_) undo_.erase(undo_.begin());
  }
  /// The next step is one of its own (mouse released, field left, saved).
  void endMerge() { run_.clear(); }

  bool canUndo() const { return !undo_.empty(); }
  bool canRedo() const { return !redo_.empty(); }
  std::string undoLabel() const { return canUndo() ? undo_.back().label : std::string(); }
  std::string redoLabel() const { return canRedo() ? redo_.back().label : std::string(); }

  /// `turn(back)` takes the step and gives what leads the other way. Nothing happens when there is no step.
  template <class Turn>
  void undo(Turn turn) {
    move(undo_, redo_, turn);
  }
  template <class Turn>
  void redo(Turn turn) {
    move(redo_, undo_, turn);
  }

  void clear() {
    undo_.clear();
    redo_.clear();
    run_.clear();
  }

  /// Changes what steps would bring back.
  template <class Change>
  void edit(Change change) {
    for (auto* steps : {&undo_, &redo_})
      for (Entry& s : *steps) change(s.back);
  }

 private:
  struct Entry {
    Back back;
    std::string label;
  };
  using Entries = std::vector<Entry>;

  template <class Turn>
  void move(Entries& from, Entries& to, Turn turn) {
    run_.clear();
    if (from.empty()) return;
    Entry s = std::move(from.back());
    from.pop_back();
    to.push_back({turn(std::move(s.back)), std::move(s.label)});
  }

  std::size_t most_;
  Entries undo_, redo_;
  std::string run_;  ///< the merge key of steps that still join
};

}  // namespace easel
