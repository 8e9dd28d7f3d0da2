// The day as a line: what is changed and shot when, the breaks, the end; under it who is there and who is made up.
#pragma once

#include "controllers/day_desk.h"
#include "widgets/painted.h"

namespace easel::app {

class DayLine : public Painted {
  Q_OBJECT

 public:
  explicit DayLine(DayDesk* desk, QWidget* parent = nullptr);
  void setChosen(int look);
  QSize minimumSizeHint() const override;
  QSize sizeHint() const override { return minimumSizeHint(); }

 signals:
  void lookChosen(int look);

 protected:
  void draw(QPainter& p) override;
  void mousePressEvent(QMouseEvent* e) override;

 private:
  double at(double seconds) const;
  DayDesk* desk_;
  int chosen_ = -1;
  double from_ = 0, until_ = 1;
};

}  // namespace easel::app
