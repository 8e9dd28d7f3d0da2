// The figures of the chosen light in one line, for reading from a distance.
#pragma once

#include <memory>

#include "instruments/instrument.h"
#include "meter/answers.h"

namespace easel::app {

class FiguresView : public Instrument {
  Q_OBJECT

 public:
  explicit FiguresView(ViewedPlan* viewed, QWidget* parent = nullptr);
  void setAnswers(std::shared_ptr<const Answers> answers);
  QSize sizeHint() const override { return inPixels(400, 26); }
  QSize minimumSizeHint() const override { return inPixels(200, 26); }

 protected:
  void draw(QPainter& p) override;

 private:
  std::shared_ptr<const Answers> answers_;
};

}  // namespace easel::app
