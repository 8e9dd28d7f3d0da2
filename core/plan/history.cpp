#include "plan/history.h"

namespace easel {

void History::perform(const Edit& edit, std::string label, std::string mergeKey) {
  Plan after = plan_;
  Edit back = apply(after, edit);
  if (after == plan_) return;
  plan_ = std::move(after);
  redo_.clear();
  // Merging keeps the oldest inverse: it leads back to where the drag began.
  if (!mergeKey.empty() && !undo_.empty() && undo_.back().mergeKey == mergeKey) return;
  undo_.push_back({std::move(back), std::move(label), std::move(mergeKey)});
}

void History::endMerge() {
  if (!undo_.empty()) undo_.back().mergeKey.clear();
}

void History::undo() {
  if (undo_.empty()) return;
  Step s = std::move(undo_.back());
  undo_.pop_back();
  redo_.push_back({takeBack(plan_, s.back), s.label, {}});
}

void History::redo() {
  if (redo_.empty()) return;
  Step s = std::move(redo_.back());
  redo_.pop_back();
  undo_.push_back({takeBack(plan_, s.back), s.label, {}});
}

void History::reset(Plan plan) {
  plan_ = std::move(plan);
  saved_ = plan_;
  undo_.clear();
  redo_.clear();
}

}  // namespace easel
