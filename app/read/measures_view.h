// The measures as drawings: the ratio by the units beside the ratio on the skin, the outline against the backdrop from
// shoulder to shoulder, the backdrop's tone between black and white.
#pragma once

#include <memory>

#include "analysis/measures.h"
#include "widgets/painted.h"

namespace easel::app {

class MeasuresView : public Painted {
  Q_OBJECT

 public:
  explicit MeasuresView(QWidget* parent = nullptr);
  void setMeasures(const Measures& measures);

  QSize sizeHint() const override { return inPixels(400, 320); }
  QSize minimumSizeHint() const override { return inPixels(240, 200); }

 protected:
  void draw(QPainter& p) override;

 private:
  void drawRatios(QPainter& p, const QRectF& box) const;
  void drawOutline(QPainter& p, const QRectF& box) const;
  void drawTone(QPainter& p, const QRectF& box) const;

  std::unique_ptr<Measures> measures_;
};

}  // namespace easel::app
