// Repaints one after another: a plan that changes concerns every instrument, and all of them in one event would hold up
// the hand that changes it. The one under the hand paints at once (QWidget::update), the others in turn, each in an
// event of its own, so that the next move of the pointer comes between; who asks twice before its turn is painted once.
#pragma once

#include <QList>
#include <QObject>
#include <QPointer>
#include <QWidget>

namespace easel::app {

/// Interface thread.
class Turns : public QObject {
 public:
  /// Asks for a repaint in turn; at once for the widget that holds the mouse or the focus.
  static void repaint(QWidget* widget);

 protected:
  void timerEvent(QTimerEvent* event) override;

 private:
  QList<QPointer<QWidget>> waiting_;
  int timer_ = 0;
};

}  // namespace easel::app
