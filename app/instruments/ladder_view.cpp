#include "instruments/ladder_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

#include "exposure/stops.h"
#include "instruments/unit_painting.h"
#include "plan/placement.h"
#include "plan/ranges.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {
constexpr double kUnder = 6, kOver = 4;  // stops shown left and right of the target aperture
constexpr double kRowLeast = 40, kRowMost = 50;
}  // namespace

LadderView::LadderView(ViewedPlan* viewed, QWidget* parent)
    : Instrument(viewed, tr("Stop ladder: targets and power"),
                 tr("Drag the target to where the light should be: its power follows. Click the letter to switch it on "
                    "or off.\nThe open diamond is the same spot with everything on: what the other lights spill "
                    "there.\nKeys: left and right move the target by a tenth, + and - the power by one step, Enter "
                    "sets the power to the target."),
                 parent) {}

double LadderView::xOfStops(double s) const {
  return left() + (across() - left() - right()) * (s + kUnder) / (kUnder + kOver);
}
double LadderView::stopsOfX(double x) const {
  return (x - left()) / (across() - left() - right()) * (kUnder + kOver) - kUnder;
}
double LadderView::left() const { return std::clamp(across() * 0.19, 106.0, 134.0); }
double LadderView::right() const { return std::clamp(across() * 0.24, 146.0, 168.0); }
// From a distance the stops stand for themselves: the second line of the head is left out.
double LadderView::top() const { return magnified() > 1 ? 23 : 38; }
double LadderView::rowHeight() const {
  return std::clamp((down() - top() - 2) / double(std::max<size_t>(1, shown().lights.size())), kRowLeast, kRowMost);
}
QSize LadderView::minimumSizeHint() const {
  return inPixels(400, top() + 2 + kRowLeast * double(std::max<size_t>(1, shown().lights.size())));
}
QSize LadderView::sizeHint() const { return minimumSizeHint().expandedTo(inPixels(700, 0)); }
QRectF LadderView::rowRect(size_t i) const { return {0, top() + double(i) * rowHeight(), across(), rowHeight()}; }
QRect LadderView::rowOf(const QString& id) const {
  const auto& lights = shown().lights;
  for (size_t i = 0; i < lights.size(); ++i)
    if (QString::fromStdString(lights[i].id) == id) {
      const QRectF r = rowRect(i);
      return QRectF(r.topLeft() * zoom(), r.size() * zoom()).toRect();
    }
  return {};
}
QPointF LadderView::targetPlace(const Light& light) const {
  const auto& lights = shown().lights;
  for (size_t i = 0; i < lights.size(); ++i)
    if (lights[i].id == light.id) return {xOfStops(light.targetStops), rowRect(i).top() + 8};
  return {};
}

// What the next step is; where there is none, where the light stands.
QString LadderView::underPower(const Light& l, const LightAnswer* r, QColor* ink) const {
  const Theme& t = Theme::current();
  if (r && r->setting.shortfall != 0) {
    *ink = t.warn;
    const QString stops = QString::fromStdString(Preferences::current().spelling().amount(r->setting.shortfall));
    return (r->setting.shortfall > 0 ? tr("%1 stops too weak") : tr("%1 stops too strong")).arg(stops);
  }
  if (r && std::abs(r->stopsFromWorking - l.targetStops) >= 0.06) {
    *ink = t.accent;
    return tr("set to %1").arg(powerText(l, r->setting.stops));
  }
  if (onLens(l)) return tr("on the lens");
  return tr("%1, %2, up %3").arg(hourText(l.hour), lengthText(l.distance), lengthText(l.height));
}

void LadderView::draw(QPainter& p) {
  const Theme& t = Theme::current();
  p.fillRect(area(), t.panel);
  drawRungs(p);
  for (size_t i = 0; i < shown().lights.size(); ++i) {
    const Light& l = shown().lights[i];
    const LightAnswer* r = answers_ ? answers_->light(l.id) : nullptr;
    const QRectF row = rowRect(i);
    drawName(p, l, row);
    if (r && r->apertureFull > 0) drawReach(p, l, *r, row.top() + 21);
    drawTarget(p, l);
    drawPower(p, l, r, row);
  }
  if (shown().lights.empty()) {
    p.setPen(t.quiet);
    p.setFont(lettering(11));
    letter(p, area().adjusted(0, 40, 0, 0), Qt::AlignCenter, tr("No light yet. Add the key with Ctrl+L."));
  }
  paintFocus(p, *this);
}

void LadderView::drawRungs(QPainter& p) {
  const Theme& t = Theme::current();
  // Rungs: every stop with its f-number, the target aperture strong. Where they stand close, every second or third says
  // what it is.
  const double apart = xOfStops(1) - xOfStops(0);
  const int every = apart >= 42 ? 1 : apart >= 22 ? 2 : 3;
  for (int s = -int(kUnder); s <= int(kOver); ++s) {
    const double x = xOfStops(s);
    p.setPen(QPen(s == 0 ? t.accent : t.line, s == 0 ? 2.5 : 1));
    p.drawLine(QPointF(x, top() - 4), QPointF(x, down() - 4));
    if (s % every) continue;
    p.setFont(lettering(s == 0 ? 11 : 9, s == 0));
    p.setPen(s == 0 ? t.accent : t.quiet);
    const double n = shown().camera.aperture * ratioFromStops(s / 2.0);
    letter(p, QRectF(x - 22, 2, 44, 17), Qt::AlignCenter,
           QString::fromStdString(writeAperture(n, ApertureStyle::Nominal)));
    if (top() < 30) continue;
    p.setFont(lettering(8.5));
    letter(p, QRectF(x - 22, 18, 44, 15), Qt::AlignCenter, s == 0 ? tr("target") : shortStops(s));
  }
  p.setFont(lettering(8.5));
  p.setPen(t.quiet);
  if (top() > 30)
    letter(p, QRectF(8, 3, left() - 30, 30), Qt::AlignLeft | Qt::TextWordWrap, tr("stops off the target"));
}

// Letter and name, with what stands under it: the ratio, and whether it is locked.
void LadderView::drawName(QPainter& p, const Light& l, const QRectF& row) {
  const Theme& t = Theme::current();
  const bool chosen = QString::fromStdString(l.id) == selected_;
  if (chosen) {
    QColor wash = t.accent;
    wash.setAlpha(28);
    p.fillRect(row.adjusted(2, 0, -2, -2), wash);
  }
  // Letter: filled when on, hollow and struck through when off.
  const QPointF badge(22, row.center().y() - 2);
  p.setPen(QPen(t.text, 1.4));
  p.setBrush(l.on ? t.accent : t.panel);
  p.drawEllipse(badge, 13, 13);
  p.setPen(l.on ? t.onAccent : t.quiet);
  p.setFont(lettering(11, true));
  letter(p, QRectF(badge.x() - 13, badge.y() - 13, 26, 26), Qt::AlignCenter, QString::fromStdString(l.id));
  if (!l.on) p.drawLine(badge + QPointF(-11, 11), badge + QPointF(11, -11));
  p.setPen(t.text);
  p.setFont(lettering(10, true));
  if (QFontMetricsF(p.font()).horizontalAdvance(lightText(l)) > left() - 42) p.setFont(lettering(8.5, true));
  const bool alone = l.role == Role::Key && !l.locked;  // nothing stands under the name
  letter(p, QRectF(40, row.top() + (alone ? 0 : 2), left() - 42, alone ? rowHeight() - 4 : 24),
         Qt::AlignLeft | Qt::AlignVCenter, lightText(l), true);
  p.setFont(lettering(8.5));
  p.setPen(t.quiet);
  QString small = l.role == Role::Key
                      ? QString()
                      : QString::fromStdString(writeRatio(-l.targetStops, Preferences::current().ratios));
  if (l.locked) small = tr("locked") + (small.isEmpty() ? QString() : QStringLiteral(", ") + small);
  letter(p, QRectF(40, row.top() + 24, left() - 42, 14), Qt::AlignLeft | Qt::AlignVCenter, small);
}

// What its unit reaches from where it stands, where it reads, and where its spot reads with everything on.
void LadderView::drawReach(QPainter& p, const Light& l, const LightAnswer& r, double barY) {
  const Theme& t = Theme::current();
  const double working = shown().camera.aperture, least = left(), most = across() - right();
  const double from = aperturesApart(r.apertureLowest, working), to = aperturesApart(r.apertureFull, working);
  const double x0 = std::clamp(xOfStops(from), least, most), x1 = std::clamp(xOfStops(to), least, most);
  p.setPen(Qt::NoPen);
  p.setBrush(t.line);
  p.drawRoundedRect(QRectF(x0, barY - 5, std::max(3.0, x1 - x0), 10), 4, 4);
  // Arrowheads where the reach goes on beyond the ladder.
  p.setBrush(t.quiet);
  if (from < -kUnder) p.drawPolygon(QPolygonF({{x0, barY}, {x0 + 8, barY - 6}, {x0 + 8, barY + 6}}));
  if (to > kOver) p.drawPolygon(QPolygonF({{x1, barY}, {x1 - 8, barY - 6}, {x1 - 8, barY + 6}}));
  // Cross-talk: an open tick where the spot stands with everything on.
  if (l.on && r.togetherStops - r.stopsFromWorking > 0.08) {
    const double xt = std::clamp(xOfStops(r.togetherStops), least, most);
    p.setPen(QPen(t.text, 1.6));
    p.drawLine(QPointF(xOfStops(r.stopsFromWorking), barY), QPointF(xt, barY));
    p.setBrush(t.panel);
    p.drawPolygon(QPolygonF({{xt, barY - 6}, {xt + 5, barY}, {xt, barY + 6}, {xt - 5, barY}}));
  }
  const double dot = r.stopsFromWorking;
  const double xd = std::clamp(xOfStops(dot), least, most);
  p.setPen(QPen(t.panel, 2));
  p.setBrush(t.text);
  p.drawEllipse(QPointF(xd, barY), 7, 7);
  p.setPen(t.text);
  p.setFont(lettering(9));
  const QString alone = apertureText(r.aperture);
  letter(p, QRectF(xd - 50, barY + 6, 100, 14), Qt::AlignCenter, alone);
}

void LadderView::drawTarget(QPainter& p, const Light& l) {
  const Theme& t = Theme::current();
  const QPointF target = targetPlace(l);
  p.setPen(QPen(t.text, 1.2));
  p.setBrush(t.accent);
  p.drawPolygon(QPolygonF({target + QPointF(-8, -7), target + QPointF(8, -7), target + QPointF(8, 1),
                           target + QPointF(0, 11), target + QPointF(-8, 1)}));
}

void LadderView::drawPower(QPainter& p, const Light& l, const LightAnswer* r, const QRectF& row) {
  const Theme& t = Theme::current();
  const double x = across() - right() + 8, wide = right() - 12;
  p.setPen(t.text);
  p.setFont(lettering(13, true));
  letter(p, QRectF(x, row.top(), wide, 26), Qt::AlignLeft | Qt::AlignVCenter, powerText(l));
  p.setFont(lettering(8.5));
  QColor ink = t.quiet;
  const QString under = underPower(l, r, &ink);
  p.setPen(ink);
  letter(p, QRectF(x, row.top() + 23, wide, 15), Qt::AlignLeft | Qt::AlignVCenter, under);
}

int LadderView::lightAt(QPointF at) const {
  for (size_t i = 0; i < shown().lights.size(); ++i)
    if (rowRect(i).contains(at)) return int(i);
  return -1;
}

void LadderView::setTarget(const QString& id, double stops, const QString& mergeKey) {
  const Light* l = shown().light(id.toStdString());
  if (!l) return;
  Light moved = *l;
  moved.targetStops = rangeOf("light.targetStops").clamp(stops);
  const Unit* unit = findUnit(l->unit);
  if (answers_ && unit) {
    const double working = shown().camera.aperture;
    moved.power = powerForAperture(*answers_, *l, working * ratioFromStops(moved.targetStops / 2)).stops;
  }
  viewed_->perform(SetLight{moved}, tr("Target of %1").arg(id), mergeKey);
}

void LadderView::matchTarget(const QString& id) {
  if (const Light* l = shown().light(id.toStdString())) {
    viewed_->endMerge();
    setTarget(id, l->targetStops, {});
  }
}

void LadderView::nudgePower(int steps) {
  const Light* l = shown().light(selected_.toStdString());
  const Unit* unit = l ? findUnit(l->unit) : nullptr;
  if (!unit) return;
  Light moved = *l;
  moved.power = unit->scale.settingFor(l->power + steps * unit->scale.step).stops;
  viewed_->perform(SetLight{moved}, tr("Power of %1").arg(selected_), "power-key-" + selected_);
}

void LadderView::mousePressEvent(QMouseEvent* e) {
  const int i = lightAt(e->position());
  if (i < 0) return;
  const Light l = shown().lights[size_t(i)];
  const QString id = QString::fromStdString(l.id);
  emit selected(id);
  if (e->position().x() < 40) {
    Light toggled = l;
    toggled.on = !l.on;
    viewed_->endMerge();
    viewed_->perform(SetLight{toggled}, toggled.on ? tr("Switch %1 on").arg(id) : tr("Switch %1 off").arg(id));
    return;
  }
  if (QLineF(targetPlace(l), e->position()).length() < 20) dragged_ = id;
}

void LadderView::mouseMoveEvent(QMouseEvent* e) {
  if (dragged_.isEmpty()) return;
  setTarget(dragged_, std::round(stopsOfX(e->position().x()) * 10) / 10, "target-" + dragged_);
}

void LadderView::mouseReleaseEvent(QMouseEvent*) {
  if (dragged_.isEmpty()) return;
  dragged_.clear();
  viewed_->endMerge();
}

void LadderView::mouseDoubleClickEvent(QMouseEvent* e) {
  const int i = lightAt(e->position());
  if (i >= 0 && e->position().x() > 40) matchTarget(QString::fromStdString(shown().lights[size_t(i)].id));
}

void LadderView::keyPressEvent(QKeyEvent* e) {
  const Light* l = shown().light(selected_.toStdString());
  if (!l) return QWidget::keyPressEvent(e);
  const double by = e->modifiers() & Qt::ShiftModifier ? 1.0 : 0.1;
  switch (e->key()) {
    case Qt::Key_Left:
      setTarget(selected_, std::round((l->targetStops - by) * 10) / 10, "target-key-" + selected_);
      break;
    case Qt::Key_Right:
      setTarget(selected_, std::round((l->targetStops + by) * 10) / 10, "target-key-" + selected_);
      break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
      nudgePower(1);
      break;
    case Qt::Key_Minus:
      nudgePower(-1);
      break;
    case Qt::Key_Return:
    case Qt::Key_Enter:
      matchTarget(selected_);
      break;
    case Qt::Key_Up:
    case Qt::Key_Down: {
      const auto& lights = shown().lights;
      for (size_t i = 0; i < lights.size(); ++i)
        if (QString::fromStdString(lights[i].id) == selected_) {
          const size_t next = e->key() == Qt::Key_Up ? (i ? i - 1 : 0) : std::min(i + 1, lights.size() - 1);
          emit selected(QString::fromStdString(lights[next].id));
          break;
        }
      break;
    }
    default:
      QWidget::keyPressEvent(e);
  }
}

}  // namespace easel::app
