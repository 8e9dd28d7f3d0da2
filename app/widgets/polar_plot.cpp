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
void paintPolar(QPainter& p, const QRectF& box, const std::optional<Modifier>& modifier, bool figures) {
  const Theme& t = Theme::current();
  constexpr double kStops = 4;
  const double radius = std::min(box.height() - (figures ? 26.0 : 4.0), box.width() / 2.0 - (figures ? 14 : 2));
  const QPointF lamp(box.center().x(), box.top() + (figures ? 8 : 2));
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
  if (figures)
    for (int d : {-60, -30, 0, 30, 60})
      letter(p, QRectF(at(d, 1).x() - 16, at(d, 1).y() - (d == 0 ? 0 : 4), 32, 14), Qt::AlignCenter,
             QStringLiteral("%1\u00b0").arg(std::abs(d)));
  if (!modifier) return;
  double peak = 0;
  for (int d = 0; d < 90; ++d) peak = std::max(peak, modifier->shape(d));
  QPolygonF curve;
  curve << lamp;
  for (int d = -90; d <= 90; ++d) {
    const double v = modifier->shape(std::abs(d), d < 0 ? 180 : 0) / std::max(1e-9, peak);
    curve << at(d, v > 0 ? std::max(0.0, 1 + std::log2(v) / kStops) : 0);
  }
  QColor warm = t.accent;
  p.setPen(QPen(warm, 2));
  warm.setAlpha(60);
  p.setBrush(warm);
  p.drawPolygon(curve);
}

void PolarPlot::draw(QPainter& p) { paintPolar(p, area(), modifier_, true); }

}  // namespace easel::app
