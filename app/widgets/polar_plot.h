// A light's angular profile, drawn: intensity by angle off the axis, stops as rings.
#pragma once

#include <QWidget>
#include <optional>

#include "gear/kit.h"
#include "widgets/painted.h"

namespace easel::app {

/// The profile in a box; `figures`: with the angles.
void paintPolar(QPainter& p, const QRectF& box, const std::optional<Modifier>& modifier, bool figures);

class PolarPlot : public Painted {
  Q_OBJECT
 public:
  explicit PolarPlot(QWidget* parent = nullptr);
  void setModifier(const std::optional<Modifier>& modifier);
  QSize sizeHint() const override { return inPixels(210, 150); }
  QSize minimumSizeHint() const override { return inPixels(150, 110); }

 protected:
  void draw(QPainter& p) override;

 private:
  std::optional<Modifier> modifier_;
};

}  // namespace easel::app
