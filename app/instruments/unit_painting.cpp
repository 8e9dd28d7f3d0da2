#include "instruments/unit_painting.h"

#include <QPainterPath>
#include <cmath>

#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {

void paintBeam(QPainter& p, const Placing& at, double extent, double reach, const Modifier* modifier) {
  // Out to half intensity, or to where a grid or lens cuts it off.
  double half = std::acos(std::pow(0.5, 1 / std::max(0.6, modifier ? modifier->lobe : 1.0)));
  if (modifier && modifier->grid > 0) half = std::min(half, modifier->grid * 0.6 * kPi / 180);
  if (modifier && modifier->cutOff > 0) half = std::min(half, modifier->cutOff * kPi / 180);
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
  app::letter(p, QRectF(centre.x() - 11, centre.y() - 11, 22, 22), Qt::AlignCenter, letter);
}

void paintLeaf(QPainter& p, const QPolygonF& outline, const Finish& finish, bool chosen) {
  const Theme& t = Theme::current();
  auto shade = [](float v) { return int(std::lround(255 * std::pow(std::clamp(v, 0.f, 1.f), 1 / 2.2f))); };
  const Vec3 c = finish.diffuse + finish.gloss * 0.6f;
  const QColor fill(shade(c.x), shade(c.y), shade(c.z));
  p.setPen(QPen(chosen ? t.accent : t.text, chosen ? 2.5 : 1.3));
  p.setBrush(fill);
  p.drawPolygon(outline);
  if (finish.gloss.x > 0 || finish.through > 0) {
    p.setPen(Qt::NoPen);
    p.setBrush(
        QBrush(finish.through > 0 ? t.text : Qt::white, finish.through > 0 ? Qt::Dense6Pattern : Qt::BDiagPattern));
    p.drawPolygon(outline);
  }
}

void paintTag(QPainter& p, QPointF centre, const QString& number, bool chosen) {
  const Theme& t = Theme::current();
  const QRectF box(centre.x() - 13, centre.y() - 8, 26, 16);
  p.setPen(QPen(t.text, 1.1));
  p.setBrush(chosen ? t.accent : t.panel);
  QPainterPath tag;  // a luggage label: one end pointed
  tag.moveTo(box.topLeft() + QPointF(5, 0));
  tag.lineTo(box.topRight());
  tag.lineTo(box.bottomRight());
  tag.lineTo(box.bottomLeft() + QPointF(5, 0));
  tag.lineTo(box.left(), box.center().y());
  tag.closeSubpath();
  p.drawPath(tag);
  p.setPen(chosen ? t.onAccent : t.text);
  p.setFont(lettering(9, true));
  letter(p, box.adjusted(4, 0, 0, 0), Qt::AlignCenter, number);
}

void paintLabel(QPainter& p, QPointF at, const QString& words) {
  const QFontMetricsF m(p.font());
  p.fillRect(QRectF(at.x() - 3, at.y() - m.ascent(), m.horizontalAdvance(words) + 6, m.height()),
             Theme::current().panel);
  p.drawText(at, words);
}

void paintFocus(QPainter& p, const Painted& instrument) {
  if (!instrument.hasFocus()) return;
  p.setPen(QPen(Theme::current().accent, 2));
  p.setBrush(Qt::NoBrush);
  p.drawRect(QRectF(1, 1, instrument.width() / instrument.zoom() - 3, instrument.height() / instrument.zoom() - 3));
}

void paintFootGround(QPainter& p, const Painted& instrument) {
  QColor ground = Theme::current().panel;
  ground.setAlpha(225);
  const double w = instrument.width() / instrument.zoom(), h = instrument.height() / instrument.zoom();
  p.fillRect(QRectF(0, h - 22, w, 22), ground);
}

void paintStill(Still& still, QPainter& to, const Painted& widget, std::vector<double> shows,
                const std::function<void(QPainter&)>& paint) {
  const double ratio = widget.devicePixelRatioF();
  for (double v : {double(widget.width()), double(widget.height()), ratio, widget.zoom(), double(Theme::current().dim),
                   double(Preferences::current().metres)})
    shows.push_back(v);
  if (still.shows != shows) {
    still.shows = std::move(shows);
    still.picture = QPixmap(widget.size() * ratio);
    still.picture.setDevicePixelRatio(ratio);
    QPainter p(&still.picture);
    p.setRenderHint(QPainter::Antialiasing);
    p.scale(widget.zoom(), widget.zoom());
    paint(p);
  }
  to.save();
  to.resetTransform();
  to.drawPixmap(0, 0, still.picture);
  to.restore();
}

}  // namespace easel::app
