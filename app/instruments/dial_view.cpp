#include "instruments/dial_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

#include "instruments/unit_painting.h"
#include "meter/spots.h"
#include "plan/leaf.h"
#include "plan/panels.h"
#include "plan/pins.h"
#include "plan/placement.h"
#include "plan/ranges.h"
#include "spoken/clock.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {

namespace {
constexpr double kHourStep = 0.1;  // three degrees
}

DialView::DialView(ViewedPlan* viewed, QWidget* parent)
    : Instrument(viewed, tr("Dial: the set from above"),
                 tr("Drag a light round the clock or nearer and further. Shift: along the ring only. Ctrl: along the "
                    "ray only. "
                    "Wheel: feather.\nKeys: left goes round with the clock, right against it; up and down nearer and "
                    "further, < "
                    "and > feather. Boards "
                    "are dragged "
                    "and turned the same way."),
                 parent) {
  setMouseTracking(true);
}

// While something is dragged the scale stays, or the light would run from the pointer.
void DialView::fit() {
  if (!dragged_.isEmpty()) return;
  const Plan& p = shown();
  double side = 1.3, front = std::min(p.camera.distance, 4.0) + 0.35,
         back = std::clamp(p.backdrop.distance, 0.3, 5.0) + 0.35;
  for (const Light& l : p.lights) {
    const Vec3 d = towardsHour(l.hour) * float(l.distance);
    side = std::max(side, std::abs(double(d.x)) + 0.5);
    front = std::max(front, double(d.z) + 0.5);
    back = std::max(back, -double(d.z) + 0.5);
  }
  for (const Panel& q : p.panels) {
    const Vec3 d = towardsHour(q.hour) * float(q.distance);
    side = std::max(side, std::min(3.0, std::abs(double(d.x)) + 0.4));
    front = std::max(front, std::min(4.5, double(d.z) + 0.4));
    back = std::max(back, std::min(4.5, -double(d.z) + 0.4));
  }
  scale_ = std::min(across() / (2 * side), (down() - 26) / (front + back));
  originX_ = across() / 2.0;
  originY_ = 6 + (down() - 26 - (front + back) * scale_) / 2 + back * scale_;
}

QPointF DialView::toWidget(double x, double z) const { return {originX_ + x * scale_, originY_ + z * scale_}; }
QPointF DialView::toStudio(QPointF w) const { return {(w.x() - originX_) / scale_, (w.y() - originY_) / scale_}; }
QPointF DialView::handleOf(const Light& l) const {
  const_cast<DialView*>(this)->fit();
  const Vec3 d = lightPose(shown(), l).centre;
  return toWidget(d.x, d.z);
}
QPointF DialView::handleOf(const Panel& panel) const {
  const_cast<DialView*>(this)->fit();
  const Vec3 d = towardsHour(panel.hour) * float(panel.distance);
  return toWidget(d.x, d.z);
}

void DialView::draw(QPainter& p) {
  fit();
  const Theme& t = Theme::current();
  const Plan& plan = shown();
  const Room& room = plan.room;
  const Camera& c = plan.camera;
  // Rings, hours and the like are half of the work and stay while lights move.
  paintStill(still_, p, *this,
             {double(glance_), scale_, originX_, originY_, room.width, room.depth, room.behind, plan.backdrop.distance,
              plan.backdrop.width, c.distance, c.height, c.focalLength, c.sensorWidth, c.sensorHeight, c.frame,
              c.aimBelowEyes, plan.sitter.eyeHeight},
             [this](QPainter& q) { drawGround(q); });

  for (const Panel& q : plan.panels) drawPanel(p, q);
  for (const Light& l : plan.lights) drawLight(p, l);

  // Sitter: shoulders, head, nose.
  p.setPen(QPen(t.text, 1.5));
  p.setBrush(t.panel.darker(t.dim ? 80 : 112));
  p.save();
  p.translate(originX_, originY_);
  p.save();
  p.rotate(-plan.sitter.shoulders);
  p.drawRoundedRect(QRectF(-0.22 * scale_, -0.07 * scale_, 0.44 * scale_, 0.16 * scale_), 0.08 * scale_, 0.08 * scale_);
  p.restore();
  p.rotate(-plan.sitter.turn);
  p.setBrush(t.text);
  const double z = 0.05 * scale_;
  QPainterPath nose;
  nose.moveTo(-0.025 * scale_, z + 0.085 * scale_);
  nose.lineTo(0, z + 0.125 * scale_);
  nose.lineTo(0.025 * scale_, z + 0.085 * scale_);
  p.drawPath(nose);
  p.drawEllipse(QPointF(0, z), 0.075 * scale_, 0.098 * scale_);
  p.restore();

  p.setPen(t.quiet);
  p.setFont(lettering(9));
  QString foot = tr("from above");
  if (const Light* l = plan.light(selected_.toStdString()))
    foot = tr("%1 at %2 o'clock, %3 from the face")
               .arg(selected_, hourText(l->hour), lengthText(distanceToFace(plan, *l)));
  if (const Panel* q = plan.panel(panel_.toStdString()))
    foot = tr("%1 at %2 o'clock, %3 from the sitter, turned %4\u00b0")
               .arg(panelText(*q), hourText(q->hour), lengthText(q->distance))
               .arg(q->turn, 0, 'f', 0);
  paintFootGround(p, *this);
  letter(p, QRectF(8, down() - 20, across() - 16, 18), Qt::AlignLeft | Qt::AlignVCenter, foot, true);
  for (const PinnedSpot& s : plan.spots) {
    if (s.onHead) continue;
    const QRectF box(toWidget(s.x, s.z) - QPointF(8, 8), QSizeF(16, 16));
    p.setPen(QPen(t.text, 1.3));
    p.setBrush(t.panel);
    p.drawRect(box);
    p.setFont(lettering(8.5, true));
    letter(p, box, Qt::AlignCenter, QString::fromStdString(s.id).section('-', -1));
  }
  paintFocus(p, *this);
}

void DialView::drawGround(QPainter& p) {
  const Theme& t = Theme::current();
  const Plan& plan = shown();
  p.fillRect(area(), t.panel);

  // The room.
  const Room& room = plan.room;
  const QRectF walls(toWidget(-room.width / 2, -room.behind), toWidget(room.width / 2, room.depth - room.behind));
  p.setPen(QPen(t.line, 2));
  p.setBrush(Qt::NoBrush);
  p.drawRect(walls);

  // Clock: distance rings with their figures, hours outside.
  const double ring = Preferences::current().metres ? 0.5 : 0.6096;
  p.setFont(lettering(8.5));
  for (int i = 1; i <= 8; ++i) {
    const double r = ring * i * scale_;
    if (r > std::max(across(), down())) break;
    QColor ink = t.line;
    ink.setAlpha(i % 2 ? 110 : 255);  // dots round a circle take the painter ten times as long
    p.setPen(QPen(ink, i % 2 ? 0.8 : 1.0));
    p.drawEllipse(QPointF(originX_, originY_), r, r);
    if (i % 2 == 0 && !glance_) {
      p.setPen(t.quiet);
      // Halfway between two hours.
      const QString figure = lengthText(ring * i);
      if (originY_ - r * 0.707 < 12) continue;
      paintLabel(p,
                 QPointF(originX_ + r * 0.707 - QFontMetricsF(p.font()).horizontalAdvance(figure) / 2,
                         originY_ - r * 0.707 + 4),
                 figure);
    }
  }
  const double clock = std::min({originX_ - 16, originY_ - 10.0, down() - originY_ - 34.0, 1.55 * scale_,
                                 std::max(0.5, plan.backdrop.distance - 0.2) * scale_});
  p.setFont(lettering(9, true));
  for (int h = glance_ ? 3 : 1; h <= 12; h += glance_ ? 3 : 1) {
    const Vec3 d = towardsHour(h);
    const QPointF at(originX_ + d.x * clock, originY_ + d.z * clock);
    p.setPen(t.quiet);
    letter(p, QRectF(at.x() - 12, at.y() - 9, 24, 18), Qt::AlignCenter, QString::number(h));
  }

  // Backdrop.
  const QPointF b0 = toWidget(-plan.backdrop.width / 2, -plan.backdrop.distance),
                b1 = toWidget(plan.backdrop.width / 2, -plan.backdrop.distance);
  p.setPen(QPen(t.text, 4, Qt::SolidLine, Qt::FlatCap));
  p.drawLine(b0, b1);
  p.setPen(t.quiet);
  p.setFont(lettering(9));
  paintLabel(p, QPointF(std::max(6.0, b0.x()), std::max(14.0, b0.y() - 7)),
             tr("backdrop %1").arg(lengthText(plan.backdrop.distance)));

  // Camera and its angle of view.
  const CameraPose cam = cameraPose(plan);
  const QPointF lens = toWidget(0, plan.camera.distance);
  const double half = cam.tanHalfHeight * plan.camera.frame, reach = plan.camera.distance + plan.backdrop.distance;
  p.setPen(QPen(t.quiet, 1, Qt::DashLine));
  p.drawLine(lens, toWidget(half * reach, plan.camera.distance - reach));
  p.drawLine(lens, toWidget(-half * reach, plan.camera.distance - reach));
  p.setPen(QPen(t.text, 1.5));
  p.setBrush(t.text);
  p.drawRect(QRectF(lens.x() - 11, lens.y() + 3, 22, 13));
  p.drawRect(QRectF(lens.x() - 5, lens.y() - 4, 10, 8));
  p.setPen(t.quiet);
  paintLabel(p, QPointF(lens.x() + 16, std::min(lens.y() + 14, down() - 27)), lengthText(plan.camera.distance));
}

void DialView::drawLight(QPainter& p, const Light& l) {
  const Plan& plan = shown();
  const LightPose pose = lightPose(plan, l);
  const Modifier* known = findModifier(l.modifier);
  const Modifier worn = known ? fronted(*known, l.fittings) : Modifier{};
  const Modifier* m = known ? &worn : nullptr;
  const double w = m ? m->width : 0.2, depth = std::max(0.12, m ? m->depth : 0.1);
  const bool chosen = QString::fromStdString(l.id) == selected_;
  // Seen from above the front is a line (or, tilted, a narrow shape) along u.
  const QPointF c = toWidget(pose.centre.x, pose.centre.z);
  const Vec3 u = pose.frame.u, n = pose.frame.n;
  auto at = [&](double across, double along) {
    return QPointF(c.x() + (u.x * across + n.x * along) * scale_, c.y() + (u.z * across + n.z * along) * scale_);
  };
  if (l.on) paintBeam(p, at, w, l.distance + 0.35, m);
  paintBody(p, at, w, depth, l.on, chosen);
  paintBadge(p, at(0, -depth - 0.02), QString::fromStdString(l.id), chosen);
}

void DialView::drawPanel(QPainter& p, const Panel& panel) {
  if (!panel.on) p.setOpacity(0.35);
  const bool chosen = QString::fromStdString(panel.id) == panel_;
  for (const Leaf& l : outlinesOf(panel)) {
    // From above: the leaf's four corners, with a thickness that can be seen.
    const Vec3 u = l.frame.u * l.halfWidth, v = l.frame.v * (l.disc ? l.halfWidth : l.halfHeight);
    Vec3 thick = l.frame.n * float(1.5 / scale_);
    auto at = [&](Vec3 q) { return toWidget(q.x, q.z); };
    QPolygonF outline;
    if (std::abs(l.frame.v.y) > 0.98f)
      outline << at(l.centre - u - thick) << at(l.centre + u - thick) << at(l.centre + u + thick)
              << at(l.centre - u + thick);
    else
      outline << at(l.centre - u - v) << at(l.centre + u - v) << at(l.centre + u + v) << at(l.centre - u + v);
    paintLeaf(p, outline, l.front, chosen);
  }
  const Vec3 back = towardsHour(panel.hour);
  paintTag(p, handleOf(panel) + QPointF(back.x, back.z) * 17, QString::fromStdString(panel.id), chosen);
  p.setOpacity(1);
}

void DialView::setGlance(bool small) {
  if (small == glance_) return;
  glance_ = small;
  setCursor(small ? Qt::PointingHandCursor : Qt::ArrowCursor);
  updateGeometry();
  update();
}

void DialView::mouseDoubleClickEvent(QMouseEvent*) {
  if (dragged_.isEmpty()) emit roomWanted();
}

void DialView::mousePressEvent(QMouseEvent* e) {
  if (glance_) {
    emit roomWanted();
    return;
  }
  double nearest = 46;
  dragged_.clear();
  draggingPanel_ = false;
  QString found;
  for (const Light& l : shown().lights) {
    const QPointF h = handleOf(l);
    const double d = QLineF(h, e->position()).length();
    if (d < nearest) {
      nearest = d;
      found = QString::fromStdString(l.id);
      grabOffset_ = h - e->position();
    }
  }
  for (const Panel& q : shown().panels) {
    const QPointF h = handleOf(q);
    const double d = QLineF(h, e->position()).length();
    if (d < std::min(nearest, 28.0)) {
      nearest = d;
      found = QString::fromStdString(q.id);
      grabOffset_ = h - e->position();
      draggingPanel_ = true;
    }
  }
  if (found.isEmpty()) {
    if (e->modifiers() & Qt::ShiftModifier) {
      const QPointF s = toStudio(e->position());
      emit pinned(pinInAir(shown(), s.x(), s.y()));
    }
    return;
  }
  dragged_ = found;
  onlyRing_ = e->modifiers() & Qt::ShiftModifier;
  onlyRay_ = e->modifiers() & Qt::ControlModifier;
  if (draggingPanel_)
    emit panelSelected(found);
  else
    emit selected(found);
}

void DialView::mouseMoveEvent(QMouseEvent* e) {
  if (glance_) return;
  if (dragged_.isEmpty()) {
    bool over = false;
    for (const Light& l : shown().lights) over |= QLineF(handleOf(l), e->position()).length() < 46;
    for (const Panel& q : shown().panels) over |= QLineF(handleOf(q), e->position()).length() < 28;
    setCursor(over ? Qt::OpenHandCursor : Qt::ArrowCursor);
    return;
  }
  const QPointF s = toStudio(e->position() + grabOffset_);
  if (draggingPanel_) {
    if (const Panel* q = shown().panel(dragged_.toStdString())) {
      Panel moved = *q;
      if (!onlyRay_) moved.hour = std::round(hourOf(s.x(), s.y()) * 60) / 60;
      if (!onlyRing_)
        moved.distance = rangeOf("panel.distance").clamp(std::round(std::hypot(s.x(), s.y()) * 100) / 100);
      viewed_->perform(SetPanel{moved}, tr("Move %1").arg(panelText(*q)), "dial-panel-" + dragged_);
    }
    return;
  }
  const Light* l = shown().light(dragged_.toStdString());
  if (!l) return;
  setCursor(Qt::ClosedHandCursor);
  Light moved = *l;
  if (!onlyRay_) moved.hour = std::round(hourOf(s.x(), s.y()) * 60) / 60;
  if (!onlyRing_) moved.distance = rangeOf("light.distance").clamp(std::round(std::hypot(s.x(), s.y()) * 100) / 100);
  change(moved, tr("Move %1").arg(dragged_), "dial-drag-" + dragged_);
}

void DialView::mouseReleaseEvent(QMouseEvent*) {
  if (dragged_.isEmpty()) return;
  dragged_.clear();
  viewed_->endMerge();
  setCursor(Qt::ArrowCursor);
  update();
}

void DialView::change(const Light& light, const QString& label, const QString& key) {
  viewed_->perform(SetLight{light}, label, key);
}

void DialView::wheelEvent(QWheelEvent* e) {
  const int steps = wheel_.take(*e);
  e->accept();
  if (!steps) return;
  if (const Panel* q = shown().panel(panel_.toStdString())) {
    Panel turned = *q;
    turned.turn = rangeOf("panel.turn").clamp(turned.turn + 3 * steps);
    viewed_->perform(SetPanel{turned}, tr("Turn %1").arg(panelText(*q)), "panel-wheel-" + panel_);
    return;
  }
  if (const Light* l = shown().light(selected_.toStdString())) {
    Light turned = *l;
    turned.pan = rangeOf("light.pan").clamp(turned.pan + 2 * steps);
    change(turned, tr("Feather %1").arg(selected_), "feather-" + selected_);
  }
}

bool DialView::panelKey(QKeyEvent* e, const Panel& panel) {
  const double big = e->modifiers() & Qt::ShiftModifier ? 5 : 1;
  Panel q = panel;
  const Range& distance = rangeOf("panel.distance");
  switch (e->key()) {
    case Qt::Key_Left:
      q.hour = roundTheClock(q.hour + kHourStep * big);
      break;
    case Qt::Key_Right:
      q.hour = roundTheClock(q.hour - kHourStep * big);
      break;
    case Qt::Key_Up:
      q.distance = distance.clamp(q.distance - 0.05 * big);
      break;
    case Qt::Key_Down:
      q.distance = distance.clamp(q.distance + 0.05 * big);
      break;
    case Qt::Key_Less:
    case Qt::Key_Comma:
      q.turn = rangeOf("panel.turn").clamp(q.turn - 3 * big);
      break;
    case Qt::Key_Greater:
    case Qt::Key_Period:
      q.turn = rangeOf("panel.turn").clamp(q.turn + 3 * big);
      break;
    case Qt::Key_Delete:
      viewed_->perform(RemovePanel{q.id}, tr("Remove %1").arg(panelText(q)));
      return true;
    default:
      return false;
  }
  viewed_->perform(SetPanel{q}, tr("Move %1").arg(panelText(q)), "panel-key-" + panel_ + QString::number(e->key()));
  return true;
}

void DialView::keyPressEvent(QKeyEvent* e) {
  if (const Panel* q = shown().panel(panel_.toStdString())) {
    if (!panelKey(e, *q)) QWidget::keyPressEvent(e);
    return;
  }
  const Light* l = shown().light(selected_.toStdString());
  if (!l) return QWidget::keyPressEvent(e);
  const double big = e->modifiers() & Qt::ShiftModifier ? 5 : 1;
  Light moved = *l;
  const Range& distance = rangeOf("light.distance");
  switch (e->key()) {
    // With the clock and against it all the way round: left from where the lights usually stand, by the camera.
    case Qt::Key_Left:
      moved.hour = roundTheClock(moved.hour + kHourStep * big);
      break;
    case Qt::Key_Right:
      moved.hour = roundTheClock(moved.hour - kHourStep * big);
      break;
    case Qt::Key_Up:
      moved.distance = distance.clamp(moved.distance - 0.05 * big);
      break;
    case Qt::Key_Down:
      moved.distance = distance.clamp(moved.distance + 0.05 * big);
      break;
    case Qt::Key_Less:
    case Qt::Key_Comma:
      moved.pan = rangeOf("light.pan").clamp(moved.pan - 2);
      break;
    case Qt::Key_Greater:
    case Qt::Key_Period:
      moved.pan = rangeOf("light.pan").clamp(moved.pan + 2);
      break;
    default:
      QWidget::keyPressEvent(e);
      return;
  }
  change(moved, tr("Move %1").arg(selected_), "dial-key-" + selected_ + QString::number(e->key()));
}

}  // namespace easel::app
