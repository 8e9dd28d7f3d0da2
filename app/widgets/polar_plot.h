// A light's angular profile, drawn: intensity by angle off the axis, stops as rings.
#pragma once

#include <QWidget>
#include <optional>

#include "gear/kit.h"

namespace easel::app {

class PolarPlot : public QWidget {
  Q_OBJECT
 public:
  explicit PolarPlot(QWidget* parent = nullptr);
  void setModifier(const std::optional<Modifier>& modifier);
  QSize sizeHint() const override { return {210, 150}; }
  QSize minimumSizeHint() const override { return {150, 110}; }

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  std::optional<Modifier> modifier_;
};

}  // namespace easel::app
