#include "document/viewed_plan.h"

#include "plan/ranges.h"
#include "widgets/wording.h"

namespace easel::app {

ViewedPlan::ViewedPlan(Plan plan, QObject* parent) : QObject(parent), history_(std::move(plan)) {}

void ViewedPlan::perform(const Edit& edit, const QString& label, const QString& mergeKey) {
  QString why;
  try {
    history_.perform(edit, label.toStdString(), mergeKey.toStdString());
    return touched();
  } catch (const OutOfRange& e) {
    why = QString::fromStdString(e.sentence(Preferences::current().spelling()));
  } catch (const std::invalid_argument& e) {
    why = QString::fromUtf8(e.what());
  }
  emit changed();  // whatever shows the refused value goes back
  emit refused(why);
}

void ViewedPlan::undo() {
  history_.undo();
  touched();
}

void ViewedPlan::redo() {
  history_.redo();
  touched();
}

void ViewedPlan::replaceBy(const Plan& plan) {
  history_.reset(plan);
  emit replaced();
  touched();
}

}  // namespace easel::app
