#include "cards/head_view.h"

#include <QMouseEvent>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "geometry/vec.h"
#include "plan/ranges.h"
#include "sitters/sitter.h"
#include "widgets/theme.h"

namespace easel::app {
namespace {

constexpr double kDegreesPerUnit = 0.9, kWheelStep = 2;

}  // namespace

HeadView::HeadView(ViewedPlan* viewed, QWidget* parent) : Painted(parent), viewed_(viewed) {
  setObjectName("headView");
  setAccessibleName(tr("How the head is held"));
  setToolTip(
      tr("Drag to turn the head and to raise or lower the chin; with Shift, or by the wheel, to tilt it.\nKeys: arrows "
         "turn "
         "and raise, < and > tilt, Home holds it straight."));
  setFocusPolicy(Qt::StrongFocus);
  connect(viewed_, &ViewedPlan::changed, this, [this] { update(); });
}

HeadPose HeadView::held() const {
  const SitterPlace& s = viewed_->plan().sitter;
  return {s.turn, s.tilt, s.nod};
}

void HeadView::hold(HeadPose pose) {
  const auto within = [](const char* id, double v) {
    const Range& r = rangeOf(id);
    return std::clamp(std::round(v), r.least, r.most);
  };
  SitterPlace s = viewed_->plan().sitter;
  s.turn = within("sitter.turn", pose.turn);
  s.tilt = within("sitter.tilt", pose.tilt);
  s.nod = within("sitter.nod", pose.nod);
  viewed_->perform(SetSitter{s}, tr("Hold of the head"), "sitter-head");
}

void HeadView::draw(QPainter& p) {
  const Theme& t = Theme::current();
  const QPointF middle = area().center();
  const double tall = std::min(down() / 2 - 6, (across() / 2 - 6) / 0.78), wide = 0.78 * tall;
  const HeadPose pose = held();
  // A place on an egg, as the camera in front sees it; behind: nothing.
  const auto at = [&](double azimuth, double elevation) -> std::optional<QPointF> {
    const float a = radians(float(azimuth)), e = radians(float(elevation));
    const Vec3 d = posedDirection({std::sin(a) * std::cos(e), std::sin(e), std::cos(a) * std::cos(e)}, 1, pose);
    if (d.z < 0) return {};
    return middle + QPointF(double(d.x) * wide, -double(d.y) * tall);
  };
  p.setPen(QPen(t.text, 1.4));
  p.setBrush(t.panel);
  p.save();
  p.translate(middle);
  p.rotate(pose.tilt);
  p.drawEllipse(QPointF(0, 0), wide, tall);
  p.restore();
  const auto line = [&](double a0, double e0, double a1, double e1, double thick) {
    QPainterPath path;
    bool down = false;
    for (int i = 0; i <= 24; ++i) {
      const double k = i / 24.0;
      if (const auto q = at(a0 + k * (a1 - a0), e0 + k * (e1 - e0))) {
        down ? path.lineTo(*q) : path.moveTo(*q);
        down = true;
      } else {
        down = false;
      }
    }
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(t.text, thick, Qt::SolidLine, Qt::RoundCap));
    p.drawPath(path);
  };
  line(0, 85, 0, -85, 0.8);  // the middle of the face
  line(-80, 8, 80, 8, 0.8);  // the height of the eyes
  line(-34, 8, -14, 8, 2.6);
  line(14, 8, 34, 8, 2.6);
  line(0, 6, 0, -16, 2.6);  // the nose
  line(-9, -18, 9, -18, 2);
  line(-18, -34, 18, -34, 2.2);  // the mouth
  if (hasFocus()) {
    p.setPen(QPen(t.accent, 2));
    p.setBrush(Qt::NoBrush);
    p.drawRect(area().adjusted(1, 1, -1, -1));
  }
}

void HeadView::mousePressEvent(QMouseEvent* e) {
  if (e->button() != Qt::LeftButton) return;
  from_ = e->position();
  atPress_ = held();
}

void HeadView::mouseMoveEvent(QMouseEvent* e) {
  if (!from_) return;
  const QPointF by = (e->position() - *from_) * kDegreesPerUnit;
  HeadPose pose = atPress_;
  if (e->modifiers() & Qt::ShiftModifier) {
    pose.tilt += by.x();
  } else {
    pose.turn += by.x();
    pose.nod += by.y();
  }
  hold(pose);
}

void HeadView::mouseReleaseEvent(QMouseEvent*) {
  from_.reset();
  viewed_->endMerge();
}

void HeadView::wheelEvent(QWheelEvent* e) {
  const int steps = wheel_.take(*e);
  if (!steps) return;
  HeadPose pose = held();
  pose.tilt += kWheelStep * steps;
  hold(pose);
}

void HeadView::keyPressEvent(QKeyEvent* e) {
  HeadPose pose = held();
  switch (e->key()) {
    case Qt::Key_Left:
      pose.turn -= 5;
      break;
    case Qt::Key_Right:
      pose.turn += 5;
      break;
    case Qt::Key_Up:
      pose.nod -= 2;
      break;
    case Qt::Key_Down:
      pose.nod += 2;
      break;
    case Qt::Key_Less:
      pose.tilt -= 2;
      break;
    case Qt::Key_Greater:
      pose.tilt += 2;
      break;
    case Qt::Key_Home:
      pose = {};
      break;
    default:
      return e->ignore();
  }
  hold(pose);
}

}  // namespace easel::app
