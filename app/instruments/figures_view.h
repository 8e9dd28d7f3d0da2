// The figures of the chosen light in one line, for reading from a distance.
#pragma once

#include <memory>

#include "document/document.h"
#include "meter/answers.h"
#include "widgets/painted.h"

namespace easel::app {

class FiguresView : public Painted {
  Q_OBJECT

 public:
  explicit FiguresView(Document* document, QWidget* parent = nullptr);
  void setSelected(const QString& id);
  void setAnswers(std::shared_ptr<const Answers> answers);
  QSize sizeHint() const override { return inPixels(400, 26); }
  QSize minimumSizeHint() const override { return inPixels(200, 26); }

 protected:
  void draw(QPainter& p) override;

 private:
  Document* document_;
  QString selected_;
  std::shared_ptr<const Answers> answers_;
};

}  // namespace easel::app
