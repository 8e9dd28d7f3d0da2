#include "unit_painting.h"

#include <QPainterPath>
#include <QWidget>
#include <cmath>

#include "theme.h"

namespace easel::app {

void paintBeam(QPainter& p, const Placing& at, double extent, double reach, const Modifier* modifier) {
  const double half = std::acos(std::pow(0.5, 1 / std::max(0.6, modifier ? modifier->lobe : 1.0)));
  const double spread = extent / 2 + std::tan(std::min(half, 1.0)) * reach;
  QPainterPath beam;
  beam.moveTo(at(-extent / 2, 0));
  beam.lineTo(at(-spread, reach));
  beam.lineTo(at(spread, reach));
  beam.lineTo(at(extent / 2, 0));
  QLinearGradient fade(at(0, 0), at(0, reach));
  QColor warm = Theme::current().accent;
  warm.setAlpha(65);
  fade.setColorAt(0, warm);
  warm.setAlpha(0);
  fade.setColorAt(1, warm);
  p.setPen(Qt::NoPen);
  p.setBrush(fade);
  p.drawPath(beam);
}

void paintBody(QPainter& p, const Placing& at, double extent, double depth, bool on, bool chosen) {
  const Theme& t = Theme::current();
  const double neck = std::min(0.08, extent / 2);
  p.setPen(QPen(chosen ? t.accent : t.text, chosen ? 2.5 : 1.5));
  p.setBrush(t.panel.darker(t.dim ? 70 : 125));
  p.drawPolygon(QPolygonF({at(-extent / 2, 0), at(extent / 2, 0), at(neck, -depth), at(-neck, -depth)}));
  p.setPen(QPen(on ? t.accent : t.quiet, 4, Qt::SolidLine, Qt::FlatCap));
  p.drawLine(at(-extent / 2, 0), at(extent / 2, 0));
}

void paintBadge(QPainter& p, QPointF centre, const QString& letter, bool chosen) {
  const Theme& t = Theme::current();
  p.setPen(QPen(t.text, 1.2));
  p.setBrush(chosen ? t.accent : t.panel);
  p.drawEllipse(centre, 11, 11);
  p.setPen(chosen ? t.onAccent : t.text);
  p.setFont(lettering(10, true));
  p.drawText(QRectF(centre.x() - 11, centre.y() - 11, 22, 22), Qt::AlignCenter, letter);
}

void paintFocus(QPainter& p, const QWidget& instrument) {
  if (!instrument.hasFocus()) return;
  p.setPen(QPen(Theme::current().accent, 2));
  p.setBrush(Qt::NoBrush);
  p.drawRect(instrument.rect().adjusted(1, 1, -2, -2));
}

void paintFootGround(QPainter& p, const QWidget& instrument) {
  QColor ground = Theme::current().panel;
  ground.setAlpha(225);
  p.fillRect(QRectF(0, instrument.height() - 22, instrument.width(), 22), ground);
}

}  // namespace easel::app
