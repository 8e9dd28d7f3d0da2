#include "widgets/turns.h"

namespace easel::app {

void Turns::repaint(QWidget* widget) {
  if (!widget->isVisible()) return;  // is painted when it is shown
  if (widget->hasFocus() || QWidget::mouseGrabber() == widget) {
    widget->update();
    return;
  }
  static Turns turns;
  if (!turns.waiting_.contains(widget)) turns.waiting_.append(widget);
  if (!turns.timer_) turns.timer_ = turns.startTimer(0);
}

void Turns::timerEvent(QTimerEvent*) {
  while (!waiting_.isEmpty()) {
    const QPointer<QWidget> next = waiting_.takeFirst();
    if (!next) continue;
    next->update();
    return;
  }
  killTimer(timer_);
  timer_ = 0;
}

}  // namespace easel::app
