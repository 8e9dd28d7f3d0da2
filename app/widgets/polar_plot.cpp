#include "widgets/polar_plot.h"

#include <QPainter>
#include <cmath>

#include "widgets/theme.h"

namespace easel::app {

PolarPlot::PolarPlot(QWidget* parent) : Painted(parent) {
  setAccessibleName(tr("Angular profile"));
  setToolTip(tr("How strongly the light leaves at each angle off its axis. Each ring inwards is one stop less."));
}

void PolarPlot::setModifier(const std::optional<Modifier>& modifier) {
  modifier_ = modifier;
  update();
}

// The light stands at the top and shines down; 0 at the bottom of the fan, four stops from rim to lamp.
void PolarPlot::draw(QPainter& p) {
  const Theme& t = Theme::current();
  constexpr double kStops = 4;
  const double radius = std::min(down() - 26.0, across() / 2.0 - 14);
  const QPointF lamp(across() / 2.0, 8);
  auto at = [&](double degrees, double r) {
    const double a = degrees * M_PI / 180;
    return lamp + QPointF(std::sin(a), std::cos(a)) * (r * radius);
  };
  p.setPen(QPen(t.line, 0.8));
  for (int s = 0; s < int(kStops); ++s) {
    const double r = radius * (1 - s / kStops);
    p.drawArc(QRectF(lamp.x() - r, lamp.y() - r, 2 * r, 2 * r), 180 * 16, 180 * 16);
  }
  for (int d = -90; d <= 90; d += 30) p.drawLine(lamp, at(d, 1));
  p.setPen(t.quiet);
  p.setFont(lettering(8));
  for (int d : {-60, -30, 0, 30, 60})
    letter(p, QRectF(at(d, 1).x() - 16, at(d, 1).y() - (d == 0 ? 0 : 4), 32, 14), Qt::AlignCenter,
           QStringLiteral("%1\u00b0").arg(std::abs(d)));
  if (!modifier_) return;
  double peak = 0;
  for (int d = 0; d < 90; ++d) peak = std::max(peak, modifier_->shape(d));
  QPolygonF curve;
  curve << lamp;
  for (int d = -90; d <= 90; ++d) {
    const double v = modifier_->shape(std::abs(d), d < 0 ? 180 : 0) / std::max(1e-9, peak);
    curve << at(d, v > 0 ? std::max(0.0, 1 + std::log2(v) / kStops) : 0);
  }
  QColor warm = t.accent;
  p.setPen(QPen(warm, 2));
  warm.setAlpha(60);
  p.setBrush(warm);
  p.drawPolygon(curve);
}

}  // namespace easel::app
