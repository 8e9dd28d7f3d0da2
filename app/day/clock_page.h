// The running clock: now, next, what to carry where, minutes left. One key for all of it, to be read from two metres.
#pragma once

#include <QWidget>

#include "controllers/day_desk.h"

class QListWidget;
class QPushButton;
class QTimer;

namespace easel::app {

class FittedLabel;

class ClockPage : public QWidget {
  Q_OBJECT

 public:
  explicit ClockPage(DayDesk* desk, QWidget* parent = nullptr);
  /// As the clock goes on; called by a timer while the page is looked at.
  void refresh();

 protected:
  void showEvent(QShowEvent* e) override;
  void hideEvent(QHideEvent* e) override;

 private:
  DayDesk* desk_;
  FittedLabel *time_, *now_, *left_, *next_, *state_;
  QListWidget* carry_;
  QPushButton *tick_, *replan_;
  QTimer* timer_;
  QString carryOf_;  ///< whose chores stand there: their ticks stay
};

}  // namespace easel::app
