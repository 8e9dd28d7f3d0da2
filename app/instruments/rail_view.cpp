#include "instruments/rail_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

#include "instruments/unit_painting.h"
#include "plan/leaf.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "plan/ranges.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {

constexpr double kFigures = 66;  // a margin of their own on the right: nothing stands in front of them

// Lights behind the sitter are drawn behind: the sign of the clock's z.
template <class Thing>
double signedDistance(const Thing& l) {
  return (towardsHour(l.hour).z < -0.05f ? -1 : 1) * l.distance;
}

// -1: the light faces left on the rail. Feathered past the right angle (a background light) it faces away from the
// sitter.
double facingSide(const Plan& plan, const Light& l) {
  const Vec3 n = lightPose(plan, l).frame.n, inward = -towardsHour(l.hour);
  const double towards = n.x * inward.x + n.z * inward.z >= 0 ? 1 : -1;
  return (signedDistance(l) >= 0 ? -1 : 1) * towards;
}

}  // namespace

RailView::RailView(ViewedPlan* viewed, QWidget* parent)
    : Instrument(viewed, tr("Height rail: the set from the side"),
                 tr("Drag a light up and down; drag the tip of its axis to tilt it. Wheel: tilt.\nKeys: up and down "
                    "for height, "
                    "Page up "
                    "and Page down for tilt."),
                 parent) {
  setMouseTracking(true);
}

void RailView::fit() {
  if (!dragged_.isEmpty()) return;
  const Plan& p = shown();
  double front = std::min(p.camera.distance, 3.0) + 0.25, back = std::clamp(p.backdrop.distance, 0.3, 2.5) + 0.15;
  for (const Light& l : p.lights) {
    const double d = signedDistance(l);
    // Room for the body behind the front, its letter, and the heights at the edge.
    const Modifier* m = findModifier(l.modifier);
    const double room = 0.4 + (m ? m->depth : 0.2);
    front = std::max(front, d + room);
    back = std::max(back, -d + room);
  }
  const double room = across() - 16 - kFigures;
  scale_ = std::min(room / (front + back), (down() - 44) / (p.room.height + 0.05));
  originX_ = 8 + (room - (front + back) * scale_) / 2 + back * scale_;
  floorY_ = down() - 30 - std::max(0.0, (down() - 60 - p.room.height * scale_) / 2);
}

QPointF RailView::handleOf(const Light& l) const {
  const_cast<RailView*>(this)->fit();
  if (onLens(l)) return toWidget(shown().camera.distance, shown().camera.height);
  return toWidget(signedDistance(l), l.height);
}

QPointF RailView::handleOf(const Panel& panel) const {
  const_cast<RailView*>(this)->fit();
  return toWidget(signedDistance(panel), panel.above);
}

QPointF RailView::tiltHandleOf(const Light& l) const {
  const QPointF c = handleOf(l);
  const double down = radians(float(downTilt(shown(), l)));
  const double side = facingSide(shown(), l);
  return c + QPointF(side * std::cos(down), std::sin(down)) * 44.0;
}

void RailView::draw(QPainter& p) {
  fit();
  const Theme& t = Theme::current();
  const Plan& plan = shown();
  paintStill(still_, p, *this,
             {scale_, originX_, floorY_, plan.room.height, plan.sitter.eyeHeight, plan.backdrop.distance,
              plan.backdrop.height, plan.camera.distance, plan.camera.height},
             [this](QPainter& q) { drawGround(q); });
  const double eyes = toWidget(0, plan.sitter.eyeHeight).y();

  for (const Panel& q : plan.panels) drawPanel(p, q);

  // Sitter in profile, facing the camera.
  p.save();
  p.translate(originX_, eyes);
  p.setPen(QPen(t.text, 1.4));
  p.setBrush(t.panel.darker(t.dim ? 80 : 112));
  const double s = scale_;
  // Trunk, then legs: straight down, or forward from the hip and down from the knee.
  const double floor = floorY_ - eyes;
  const bool sits = seated(personOf(plan.sitter.id).standingEyes, plan.sitter.eyeHeight);
  const double hip = std::min(sits ? 0.72 * s : 0.44 * floor, floor);
  QPainterPath body;
  body.moveTo(-0.07 * s, 0.16 * s);
  body.cubicTo(-0.16 * s, 0.24 * s, -0.15 * s, 0.45 * s, -0.13 * s, hip);
  if (sits) {
    body.lineTo(-0.12 * s, hip + 0.08 * s);
    body.lineTo(0.32 * s, hip + 0.06 * s);
    body.lineTo(0.34 * s, floor - 0.02 * s);
    body.lineTo(0.56 * s, floor);
    body.lineTo(0.45 * s, floor - 0.07 * s);
    body.lineTo(0.45 * s, hip - 0.06 * s);
    body.lineTo(0.12 * s, hip - 0.08 * s);
  } else {
    body.lineTo(-0.07 * s, floor);
    body.lineTo(0.17 * s, floor);
    body.lineTo(0.06 * s, floor - 0.07 * s);
    body.lineTo(0.13 * s, hip);
  }
  body.cubicTo(0.16 * s, 0.45 * s, 0.13 * s, 0.28 * s, 0.06 * s, 0.2 * s);
  body.closeSubpath();
  p.drawPath(body);
  p.setBrush(t.text);
  QPainterPath head;
  head.moveTo(0.06 * s, 0.12 * s);
  head.lineTo(0.10 * s, 0.105 * s);
  head.lineTo(0.115 * s, 0.055 * s);
  head.lineTo(0.145 * s, 0.04 * s);
  head.lineTo(0.12 * s, -0.005 * s);
  head.cubicTo(0.125 * s, -0.09 * s, 0.06 * s, -0.125 * s, -0.0 * s, -0.12 * s);
  head.cubicTo(-0.10 * s, -0.11 * s, -0.10 * s, 0.04 * s, -0.06 * s, 0.09 * s);
  head.lineTo(-0.05 * s, 0.2 * s);
  head.lineTo(0.05 * s, 0.2 * s);
  head.closeSubpath();
  p.drawPath(head);
  p.restore();

  for (const Light& l : plan.lights) drawLight(p, l);

  p.setPen(t.quiet);
  p.setFont(lettering(9));
  QString foot = tr("from the side, distances true");
  if (const Light* l = plan.light(selected_.toStdString())) {
    const double above = l->height - plan.sitter.eyeHeight, tilt = downTilt(plan, *l);
    foot = (above >= 0
                ? tilt >= 0 ? tr("%1 %2 above the eyes, tilted %3° down") : tr("%1 %2 above the eyes, tilted %3° up")
            : tilt >= 0 ? tr("%1 %2 below the eyes, tilted %3° down")
                        : tr("%1 %2 below the eyes, tilted %3° up"))
               .arg(selected_, lengthText(std::abs(above)))
               .arg(std::abs(tilt), 0, 'f', 0);
  }
  paintFootGround(p, *this);
  letter(p, QRectF(8, down() - 20, across() - 16, 18), Qt::AlignLeft | Qt::AlignVCenter, foot, true);
  paintFocus(p, *this);
}

void RailView::drawGround(QPainter& p) {
  const Theme& t = Theme::current();
  const Plan& plan = shown();
  p.fillRect(area(), t.panel);

  // Floor, ceiling, heights, eye level.
  p.setPen(QPen(t.text, 2));
  p.drawLine(QPointF(0, floorY_), QPointF(across(), floorY_));
  const double ceiling = toWidget(0, plan.room.height).y();
  p.setPen(QPen(t.text, 2));
  p.drawLine(QPointF(0, ceiling), QPointF(across(), ceiling));
  p.fillRect(QRectF(0, ceiling - 9, across(), 9), QBrush(t.line, Qt::BDiagPattern));
  p.setPen(t.quiet);
  p.setFont(lettering(9));
  if (ceiling > 28) paintLabel(p, QPointF(6, ceiling - 13), tr("ceiling %1").arg(lengthText(plan.room.height)));
  p.setFont(lettering(8.5));
  const double mark = Preferences::current().metres ? 0.5 : 0.6096;
  const double eyes = toWidget(0, plan.sitter.eyeHeight).y(), margin = across() - kFigures;
  for (double h = mark; h < plan.room.height - 0.2; h += mark) {
    const double y = toWidget(0, h).y();
    p.setPen(QPen(t.line, 0.7, Qt::DotLine));
    p.drawLine(QPointF(0, y), QPointF(margin, y));
    p.setPen(t.quiet);
    if (std::abs(y - eyes) > 23)
      letter(p, QRectF(margin + 4, y - 8, kFigures - 10, 16), Qt::AlignRight | Qt::AlignVCenter, lengthText(h));
  }
  p.setPen(QPen(t.accent, 1.2, Qt::DashLine));
  p.drawLine(QPointF(0, eyes), QPointF(margin, eyes));
  p.setPen(t.accent);
  letter(p, QRectF(margin + 2, eyes - 15, kFigures - 8, 15), Qt::AlignRight | Qt::AlignVCenter, tr("eyes"));
  letter(p, QRectF(margin + 2, eyes, kFigures - 8, 15), Qt::AlignRight | Qt::AlignVCenter,
         lengthText(plan.sitter.eyeHeight));

  // Backdrop and camera.
  p.setPen(QPen(t.text, 4, Qt::SolidLine, Qt::FlatCap));
  p.drawLine(toWidget(-plan.backdrop.distance, 0), toWidget(-plan.backdrop.distance, plan.backdrop.height));
  const QPointF lens = toWidget(plan.camera.distance, plan.camera.height);
  p.setPen(QPen(t.text, 1.5));
  p.setBrush(t.text);
  p.drawRect(QRectF(lens.x() + 3, lens.y() - 7, 15, 14));
  p.drawRect(QRectF(lens.x() - 5, lens.y() - 4, 9, 8));
  p.setPen(QPen(t.quiet, 1.2));
  p.drawLine(QPointF(lens.x() + 10, lens.y() + 8), QPointF(lens.x() + 10, floorY_));
}

void RailView::drawLight(QPainter& p, const Light& l) {
  const Theme& t = Theme::current();
  const Modifier* known = findModifier(l.modifier);
  const Modifier worn = known ? fronted(*known, l.fittings) : Modifier{};
  const Modifier* m = known ? &worn : nullptr;
  const double h = m ? m->height : 0.2, depth = std::max(0.12, m ? m->depth : 0.1);
  const bool chosen = QString::fromStdString(l.id) == selected_;
  const double side = facingSide(shown(), l), down = radians(float(downTilt(shown(), l)));
  const QPointF c = handleOf(l);
  const QPointF n(side * std::cos(down), std::sin(down)), v(-n.y() * side, n.x() * side);
  auto at = [&](double up, double along) { return c + (v * up + n * along) * scale_; };

  if (l.on) paintBeam(p, at, h, l.distance + 0.3, m);
  // Stand; a ring sits on the camera.
  const QPointF head = at(0, -depth);
  if (onLens(l)) {
    paintBody(p, at, h, depth, l.on, chosen);
    paintBadge(p, c + QPointF(0, -24), QString::fromStdString(l.id), chosen);
    return;
  }
  p.setPen(QPen(t.quiet, 2));
  p.drawLine(head, QPointF(head.x(), floorY_));
  p.drawLine(QPointF(head.x() - 12, floorY_), QPointF(head.x(), floorY_ - 12));
  p.drawLine(QPointF(head.x() + 12, floorY_), QPointF(head.x(), floorY_ - 12));
  paintBody(p, at, h, depth, l.on, chosen);
  // Axis with its tip: the tilt handle.
  const QPointF tip = c + n * 44;
  p.setPen(QPen(chosen ? t.accent : t.quiet, 1.5));
  p.drawLine(c, tip);
  p.setBrush(chosen ? t.accent : t.panel);
  p.drawEllipse(tip, 4.5, 4.5);
  paintBadge(p, head, QString::fromStdString(l.id), chosen);
}

void RailView::drawPanel(QPainter& p, const Panel& panel) {
  if (!panel.on) p.setOpacity(0.35);
  const bool chosen = QString::fromStdString(panel.id) == panel_;
  const Vec3 away = towardsHour(panel.hour), foot = away * float(panel.distance);
  const double side = signedDistance(panel) < 0 ? -1 : 1;
  QPointF low = handleOf(panel);
  for (const Leaf& l : outlinesOf(panel)) {
    const Vec3 u = l.frame.u * l.halfWidth, v = l.frame.v * (l.disc ? l.halfWidth : l.halfHeight);
    const Vec3 thick = l.frame.n * float(1.5 / scale_);
    auto at = [&](Vec3 q) { return toWidget(signedDistance(panel) + side * double(dot(q - foot, away)), q.y); };
    QPolygonF outline;
    const bool edgeOn = std::abs(dot(l.frame.u, away)) < 0.05f;
    if (edgeOn)
      outline << at(l.centre - v - thick) << at(l.centre + v - thick) << at(l.centre + v + thick)
              << at(l.centre - v + thick);
    else
      outline << at(l.centre - u - v) << at(l.centre + u - v) << at(l.centre + u + v) << at(l.centre - u + v);
    paintLeaf(p, outline, l.front, chosen);
    low.setY(std::max(low.y(), outline.boundingRect().bottom()));
  }
  p.setPen(QPen(Theme::current().quiet, 2));
  if (low.y() < floorY_ - 3) p.drawLine(low, QPointF(low.x(), floorY_));
  paintTag(p, handleOf(panel), QString::fromStdString(panel.id), chosen);
  p.setOpacity(1);
}

void RailView::setGlance(bool small) {
  if (small == glance_) return;
  glance_ = small;
  setCursor(small ? Qt::PointingHandCursor : Qt::ArrowCursor);
  updateGeometry();
  update();
}

void RailView::mouseDoubleClickEvent(QMouseEvent*) {
  if (dragged_.isEmpty()) emit roomWanted();
}

void RailView::mousePressEvent(QMouseEvent* e) {
  if (glance_) {
    emit roomWanted();
    return;
  }
  double nearest = 40;
  draggingPanel_ = false;
  QString found;
  for (const Light& l : shown().lights) {
    const double tip = QLineF(tiltHandleOf(l), e->position()).length();
    const double body = QLineF(handleOf(l), e->position()).length();
    if (tip < 13 && tip < nearest) {
      nearest = tip;
      found = QString::fromStdString(l.id);
      tilting_ = true;
      grab_ = 0;
    } else if (body < nearest) {
      nearest = body;
      found = QString::fromStdString(l.id);
      tilting_ = false;
      grab_ = handleOf(l).y() - e->position().y();
    }
  }
  for (const Panel& q : shown().panels)
    if (const double d = QLineF(handleOf(q), e->position()).length(); d < std::min(nearest, 20.0)) {
      nearest = d;
      found = QString::fromStdString(q.id);
      draggingPanel_ = true;
      grab_ = handleOf(q).y() - e->position().y();
    }
  if (found.isEmpty()) return;
  if (draggingPanel_)
    emit panelSelected(found);
  else
    emit selected(found);
  dragged_ = found;
}

void RailView::mouseMoveEvent(QMouseEvent* e) {
  if (glance_) return;
  if (dragged_.isEmpty()) {
    bool over = false;
    for (const Light& l : shown().lights)
      over |= QLineF(handleOf(l), e->position()).length() < 40 || QLineF(tiltHandleOf(l), e->position()).length() < 13;
    setCursor(over ? Qt::SizeVerCursor : Qt::ArrowCursor);
    return;
  }
  if (draggingPanel_) {
    if (const Panel* q = shown().panel(dragged_.toStdString())) {
      Panel moved = *q;
      moved.above =
          underCeiling("panel.above", std::round((floorY_ - (e->position().y() + grab_)) / scale_ * 100) / 100);
      viewed_->perform(SetPanel{moved}, tr("Height of %1").arg(panelText(*q)), "rail-panel-" + dragged_);
    }
    return;
  }
  const Light* l = shown().light(dragged_.toStdString());
  if (!l) return;
  Light moved = *l;
  if (tilting_) {
    const QPointF d = e->position() - handleOf(*l);
    const double side = facingSide(shown(), *l);
    if (std::hypot(d.x(), d.y()) < 6) return;
    const double wanted = degrees(float(std::atan2(d.y(), side * d.x())));
    const double now = downTilt(shown(), *l);
    moved.tiltOffset = rangeOf("light.tiltOffset").clamp(std::round(l->tiltOffset - (wanted - now)));
    viewed_->perform(SetLight{moved}, tr("Tilt %1").arg(dragged_), "rail-tilt-" + dragged_);
  } else {
    moved.height =
        underCeiling("light.height", std::round((floorY_ - (e->position().y() + grab_)) / scale_ * 100) / 100);
    viewed_->perform(SetLight{moved}, tr("Height of %1").arg(dragged_), "rail-drag-" + dragged_);
  }
}

double RailView::underCeiling(const char* range, double height) const {
  return rangeOf(range).clamp(std::min(height, shown().room.height));
}

void RailView::mouseReleaseEvent(QMouseEvent*) {
  if (dragged_.isEmpty()) return;
  dragged_.clear();
  viewed_->endMerge();
  update();
}

void RailView::wheelEvent(QWheelEvent* e) {
  const int steps = wheel_.take(*e);
  e->accept();
  if (!steps) return;
  if (const Panel* q = shown().panel(panel_.toStdString())) {
    Panel moved = *q;
    moved.tilt = rangeOf("panel.tilt").clamp(moved.tilt + 2 * steps);
    viewed_->perform(SetPanel{moved}, tr("Tilt %1").arg(panelText(*q)), "rail-panel-wheel-" + panel_);
    return;
  }
  if (const Light* l = shown().light(selected_.toStdString())) {
    Light moved = *l;
    moved.tiltOffset = rangeOf("light.tiltOffset").clamp(moved.tiltOffset + steps);
    viewed_->perform(SetLight{moved}, tr("Tilt %1").arg(selected_), "rail-wheel-" + selected_);
  }
}

void RailView::keyPressEvent(QKeyEvent* e) {
  if (const Panel* q = shown().panel(panel_.toStdString())) {
    const double by = e->modifiers() & Qt::ShiftModifier ? 5 : 1;
    Panel moved = *q;
    if (e->key() == Qt::Key_Up || e->key() == Qt::Key_Down)
      moved.above = underCeiling("panel.above", moved.above + (e->key() == Qt::Key_Up ? 0.05 : -0.05) * by);
    else if (e->key() == Qt::Key_PageUp || e->key() == Qt::Key_PageDown)
      moved.tilt = rangeOf("panel.tilt").clamp(moved.tilt + (e->key() == Qt::Key_PageUp ? 2 : -2) * by);
    else
      return QWidget::keyPressEvent(e);
    viewed_->perform(SetPanel{moved}, tr("Height of %1").arg(panelText(*q)),
                     "rail-panel-key-" + panel_ + QString::number(e->key()));
    return;
  }
  const Light* l = shown().light(selected_.toStdString());
  if (!l) return QWidget::keyPressEvent(e);
  const double big = e->modifiers() & Qt::ShiftModifier ? 5 : 1;
  Light moved = *l;
  switch (e->key()) {
    case Qt::Key_Up:
      moved.height = underCeiling("light.height", moved.height + 0.05 * big);
      break;
    case Qt::Key_Down:
      moved.height = underCeiling("light.height", moved.height - 0.05 * big);
      break;
    case Qt::Key_PageUp:
      moved.tiltOffset = rangeOf("light.tiltOffset").clamp(moved.tiltOffset + big);
      break;
    case Qt::Key_PageDown:
      moved.tiltOffset = rangeOf("light.tiltOffset").clamp(moved.tiltOffset - big);
      break;
    default:
      QWidget::keyPressEvent(e);
      return;
  }
  viewed_->perform(SetLight{moved}, tr("Height of %1").arg(selected_),
                   "rail-key-" + selected_ + QString::number(e->key()));
}

}  // namespace easel::app
