// A small head that is held: dragged to turn it and to raise or lower the chin, with Shift to tilt it.
#pragma once

#include "document/viewed_plan.h"
#include "sitters/skeleton.h"
#include "widgets/fields.h"
#include "widgets/painted.h"

namespace easel::app {

class HeadView : public Painted {
  Q_OBJECT

 public:
  explicit HeadView(ViewedPlan* viewed, QWidget* parent = nullptr);

  QSize sizeHint() const override { return inPixels(104, 124); }
  QSize minimumSizeHint() const override { return inPixels(84, 100); }

 protected:
  void draw(QPainter& p) override;
  void mousePressEvent(QMouseEvent* e) override;
  void mouseMoveEvent(QMouseEvent* e) override;
  void mouseReleaseEvent(QMouseEvent* e) override;
  void wheelEvent(QWheelEvent* e) override;
  void keyPressEvent(QKeyEvent* e) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  /// Within what heads do.
  void hold(HeadPose pose);
  HeadPose held() const;

  ViewedPlan* viewed_;
  std::optional<QPointF> from_;
  HeadPose atPress_;
  WheelNotches wheel_;
};

}  // namespace easel::app
