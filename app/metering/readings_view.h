// What the meter says of each light alone and of all together, on one scale of f-numbers, with the target of each and
// how far a reading may lie from what is predicted.
#pragma once

#include <memory>

#include "document/viewed_plan.h"
#include "meter/answers.h"
#include "widgets/painted.h"

namespace easel::app {

class ReadingsView : public Painted {
  Q_OBJECT

 public:
  explicit ReadingsView(ViewedPlan* viewed, QWidget* parent = nullptr);
  void setAnswers(std::shared_ptr<const Answers> answers);

  QSize sizeHint() const override { return inPixels(520, 60 + 30 * rows()); }
  QSize minimumSizeHint() const override { return inPixels(320, 60 + 22 * rows()); }

 protected:
  void draw(QPainter& p) override;

 private:
  struct Row {
    QString letter, name, where, says, small;
    double stops = 0, within = 0;  ///< against the target aperture
    std::optional<double> target;
  };
  std::vector<Row> all() const;
  double rows() const { return answers_ ? double(answers_->lights.size()) + 1 : 2; }

  ViewedPlan* viewed_;
  std::shared_ptr<const Answers> answers_;
};

}  // namespace easel::app
