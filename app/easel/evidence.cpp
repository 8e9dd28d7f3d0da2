#include "easel/evidence.h"

#include <QPainter>
#include <QTransform>
#include <algorithm>
#include <cmath>

#include "widgets/painted.h"
#include "widgets/theme.h"

namespace easel::app {

// Rays are asked here, once: painting follows every move of the pointer.
void EaselEvidence::lay(const Laid& laid) {
  drawn_.clear();
  marks_ = laid.marks;
  ringed_.clear();
  emit changed();
  if (!result_ || !result_->layers || !result_->layers->scene) return;
  const Layers& layers = *result_->layers;
  for (const Spot& spot : laid.spots)
    if (const auto at = pixelAt(spot.at)) ringed_.push_back({*at, spot.label, spot.strong});
  const Vec3 lens = layers.view.camera.eye;
  for (const Trace& trace : laid.traces) {
    Drawn d{{}, trace.dashes, trace.label, {1e9, 0}, {-1e9, 0}};
    for (const auto& [a, b] : trace.lines) {
      // What the head hides from the lens is not drawn over it.
      const Vec3 middle = (a + b) * 0.5f, to = lens - middle;
      const float far = length(to);
      if (layers.scene->occluded(middle, to / far, 0.004f, far - 0.05f, 1)) continue;
      const auto from = pixelAt(a), until = pixelAt(b);
      if (!from || !until) continue;
      d.path.moveTo(*from);
      d.path.lineTo(*until);
      if (from->x() < d.leftmost.x()) d.leftmost = *from;
      if (from->x() > d.rightmost.x()) d.rightmost = *from;
    }
    if (!d.path.isEmpty()) drawn_.push_back(std::move(d));
  }
}

void EaselEvidence::paint(QPainter& p, const QRectF& picture, const QRectF& seen, bool plain) const {
  if (!result_ || !result_->layers || result_->layers->width <= 0) return;
  // From pixels of the layers to where they stand.
  QTransform onto;
  onto.translate(picture.left(), picture.top());
  onto.scale(picture.width() / result_->layers->width, picture.height() / result_->layers->height);
  if (plain) paintLaid(p, onto, picture, seen);
  if (pins_) paintPins(p, onto);
  if (meter_ && plain) paintMeter(p, onto, picture, seen);
}

std::optional<QPointF> EaselEvidence::pixelAt(Vec3 point) const {
  const auto at = pixelOf(*result_->layers, point);
  return at ? std::optional(QPointF(double(at->x), double(at->y))) : std::nullopt;
}

void EaselEvidence::paintLaid(QPainter& p, const QTransform& onto, const QRectF& r, const QRectF& seen) const {
  const Theme& t = Theme::current();
  struct Label {
    QPointF at;
    QString text;
  };
  std::vector<Label> labels;
  for (const Drawn& d : drawn_) {
    const QPainterPath path = onto.map(d.path);
    p.setBrush(Qt::NoBrush);
    // Dashes along pieces of a millimetre would run together: what is less sure is drawn thinner and greyer instead.
    p.setPen(QPen(QColor(0, 0, 0, 170), d.dashes == 0 ? 3.6 : 2.6, Qt::SolidLine, Qt::RoundCap));
    p.drawPath(path);
    p.setPen(QPen(d.dashes == 0   ? QColor(255, 255, 255)
                  : d.dashes == 1 ? QColor(255, 206, 120)
                                  : QColor(200, 200, 200),
                  d.dashes == 0 ? 1.8 : 1.2, Qt::SolidLine, Qt::RoundCap));
    p.drawPath(path);
    const QPointF left = onto.map(d.leftmost), right = onto.map(d.rightmost);
    if (!d.label.isEmpty()) labels.push_back({left.x() - r.left() < r.right() - right.x() ? left : right, d.label});
  }
  p.setFont(lettering(9, true));
  // Tags stand at the picture's nearer edge, so that they cover no face.
  std::vector<QRectF> taken;
  auto tag = [&](QPointF at, const QString& text) {
    const double w = p.fontMetrics().horizontalAdvance(text) + 12;
    QRectF box(seen.left() + 6, std::clamp(at.y() - 10, seen.top() + 6, std::max(seen.top() + 6, seen.bottom() - 26)),
               w, 20);
    if (at.x() > seen.center().x()) box.moveRight(seen.right() - 6);
    for (const QRectF& other : taken)
      if (box.intersects(other.adjusted(0, -3, 0, 3))) box.moveTop(other.bottom() + 4);
    taken.push_back(box);
    p.setPen(QPen(Qt::white, 1.2));
    p.drawLine(at, QPointF(box.left() > at.x() ? box.left() : box.right(), box.center().y()));
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.panel);
    p.drawRoundedRect(box, 3, 3);
    p.setPen(t.text);
    letter(p, box, Qt::AlignCenter, text);
  };
  for (const Label& l : labels) tag(l.at, l.text);
  auto ring = [&](QPointF at, double size) {
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(Qt::black, 3.4));
    p.drawEllipse(at, size, size);
    p.setPen(QPen(QColor(255, 206, 120), 1.8));
    p.drawEllipse(at, size, size);
  };
  // Many places are an area, one is a place; beside a strong one the others are there to be found.
  const bool oneStands =
      std::any_of(ringed_.begin(), ringed_.end(), [](const Ringed& q) { return !q.label.isEmpty(); });
  for (const Ringed& q : ringed_) {
    ring(onto.map(q.at), !q.strong || ringed_.size() > 12 ? (oneStands && q.strong ? 11 : 3) : 11);
    if (!q.label.isEmpty()) tag(onto.map(q.at), q.label);
  }
  for (const Mark& m : marks_) {
    const QPointF at = onto.map(m.pixel);
    ring(at, m.label.isEmpty() ? 2.5 : 8);
    if (!m.label.isEmpty()) tag(at, m.label);
  }
}

void EaselEvidence::paintPins(QPainter& p, const QTransform& onto) const {
  if (!result_->layers->scene || !result_->table) return;
  const Theme& t = Theme::current();
  p.setFont(lettering(9, true));
  for (const MeterSpot& s : result_->table->spots) {
    const auto at = s.pin ? pixelAt(s.position) : std::nullopt;
    if (!at) continue;
    const QPointF c = onto.map(*at);
    const QRectF box(c.x() - 9, c.y() - 9, 18, 18);
    p.setPen(QPen(t.text, 1.5));
    p.setBrush(t.panel);
    p.drawRect(box);
    p.setPen(t.text);
    letter(p, box, Qt::AlignCenter, QString::fromStdString(s.id.substr(4)));
  }
}

// The meter from outside: a handle that comes from below, a disc for the flat receptor, half a ball for the dome, and a
// ray from where it looks.
void EaselEvidence::paintMeter(QPainter& p, const QTransform& onto, const QRectF& r, const QRectF& shown) const {
  const Theme& t = Theme::current();
  const auto on = [&](Vec3 point) {
    const auto at = pixelAt(point);
    return at ? std::optional(onto.map(*at)) : std::nullopt;
  };
  const auto at = on(meter_->at), towards = on(meter_->at + meter_->looks * 0.05f);
  if (!at) return;
  const QRectF seen = shown.adjusted(20, 20, -20, -20);
  const QPointF c(std::clamp(at->x(), seen.left(), seen.right()), std::clamp(at->y(), seen.top(), seen.bottom()));
  const double z = std::clamp(r.width() / 480, 0.45, 1.4);  // as large as the sitter is
  const auto twice = [&](const QPainterPath& path, bool filled) {
    p.setBrush(filled ? QBrush(QColor(255, 206, 120)) : QBrush(Qt::NoBrush));
    p.setPen(QPen(Qt::black, (filled ? 1.6 : 4.6) * z, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.drawPath(path);
    if (filled) return;
    p.setPen(QPen(QColor(255, 206, 120), 2.2 * z, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.drawPath(path);
  };
  // How the receptor's disc is seen: turned away it is a line, facing the lens it is round.
  const Vec3 lens = result_->layers->view.camera.eye, to = normalize(lens - meter_->at);
  const double facing = std::clamp(std::abs(double(dot(to, meter_->looks))), 0.15, 1.0);
  const QPointF way = towards ? *towards - *at : QPointF();
  const double far = std::hypot(way.x(), way.y()) * 6;  // as of a ray of 30 cm, which may leave the picture
  const double angle = far > 1 ? std::atan2(way.y(), way.x()) : 0;
  QPainterPath handle;
  handle.moveTo(c);
  handle.lineTo(c + QPointF(9, 62) * z);
  p.setPen(QPen(Qt::black, 19 * z, Qt::SolidLine, Qt::RoundCap));
  p.drawPath(handle);
  p.setPen(QPen(t.panel, 16 * z, Qt::SolidLine, Qt::RoundCap));
  p.drawPath(handle);
  p.save();
  p.translate(c);
  p.rotate(angle * 180 / M_PI);
  QPainterPath receptor;
  if (meter_->dome)
    receptor.addEllipse(QPointF(4 * z, 0), 15 * z, 15 * z);
  else
    receptor.addEllipse(QPointF(), 16 * z * facing, 16 * z);
  twice(receptor, true);
  p.restore();
  if (far > 6) {
    // The light comes along this.
    const QPointF along = way * 6 / far;
    const double length = std::clamp(far, 26.0, 60.0) * z;
    const QPointF tip = c + along * 22 * z, end = tip + along * length, side(-along.y(), along.x());
    QPainterPath ray;
    ray.moveTo(end);
    ray.lineTo(tip);
    ray.moveTo(tip + (along * 9 + side * 5) * z);
    ray.lineTo(tip);
    ray.lineTo(tip + (along * 9 - side * 5) * z);
    twice(ray, false);
  }
  if (meter_->words.isEmpty()) return;
  p.setFont(lettering(10, true));
  const double w = std::min(p.fontMetrics().horizontalAdvance(meter_->words) + 16.0, seen.width() + 24);
  QRectF tag(c.x() - w / 2, c.y() + 74 * z, w, 22);
  tag.moveLeft(std::clamp(tag.left(), r.left() + 6, std::max(r.left() + 6, r.right() - 6 - w)));
  if (tag.bottom() > seen.bottom() + 12) tag.moveBottom(c.y() - 30);
  p.setPen(QPen(t.line, 1));
  p.setBrush(t.panel);
  p.drawRoundedRect(tag, 3, 3);
  p.setPen(t.text);
  letter(p, tag.adjusted(6, 0, -6, 0), Qt::AlignCenter, meter_->words, true);
}

}  // namespace easel::app
