// What dial, height rail, ladder, ledge and figures share: the plan that they show, the light and the board that are
// chosen, and painting all of themselves when one of these changes.
#pragma once

#include "document/viewed_plan.h"
#include "widgets/painted.h"
#include "widgets/turns.h"

namespace easel::app {

class Instrument : public Painted {
  Q_OBJECT

 public:
  /// `help` is its tool tip and what the page of keys says of it.
  Instrument(ViewedPlan* viewed, const QString& name, const QString& help, QWidget* parent);

  ViewedPlan* viewed() const { return viewed_; }
  /// Another plan than the one it was made for, which must live as long as it is shown.
  void setViewed(ViewedPlan* viewed);

  void setSelected(const QString& id);
  /// A board is chosen beside the light; keys and wheel go to it. Empty: none.
  void setSelectedPanel(const QString& number);

 signals:
  void selected(const QString& id);

 protected:
  const Plan& shown() const { return viewed_->plan(); }
  /// At the next turn of the event loop, however often it is wanted until then.
  void repaintSoon() { Turns::repaint(this); }
  /// Another plan stands there.
  virtual void forget() {}

  ViewedPlan* viewed_ = nullptr;
  QString selected_, panel_;
};

}  // namespace easel::app
