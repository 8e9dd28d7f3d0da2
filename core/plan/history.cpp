#include "plan/history.h"

namespace easel {

void History::perform(const Edit& edit, std::string label, std::string mergeKey) {
  Plan after = plan_;
  Edit back = apply(after, edit);
  if (after == plan_) return;
  plan_ = std::move(after);
  steps_.record(std::move(back), std::move(label), std::move(mergeKey));
}

void History::undo() {
  steps_.undo([this](const Edit& back) { return takeBack(plan_, back); });
}

void History::redo() {
  steps_.redo([this](const Edit& back) { return takeBack(plan_, back); });
}

void History::reset(Plan plan) {
  plan_ = std::move(plan);
  saved_ = plan_;
  steps_.clear();
}

}  // namespace easel
