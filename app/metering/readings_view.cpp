#include "metering/readings_view.h"

#include <algorithm>
#include <cmath>

#include "exposure/aperture.h"
#include "exposure/stops.h"
#include "instruments/unit_painting.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {

ReadingsView::ReadingsView(ViewedPlan* viewed, QWidget* parent) : Painted(parent), viewed_(viewed) {
  setObjectName("readingsView");
  setAccessibleName(tr("Readings on one scale"));
  setToolTip(
      tr("The dot is what the meter reads, the bar how far a reading may lie from it, the mark over the line where the "
         "light should be."));
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
}

void ReadingsView::setAnswers(std::shared_ptr<const Answers> answers) {
  answers_ = std::move(answers);
  QStringList said;
  for (const Row& r : all())
    said << QStringLiteral("%1 %2 %3: %4 %5").arg(r.letter, r.name, r.where, r.says, r.small).simplified();
  setAccessibleDescription(said.join(QStringLiteral("; ")));
  updateGeometry();
  update();
}

std::vector<ReadingsView::Row> ReadingsView::all() const {
  std::vector<Row> out;
  if (!answers_) return out;
  const Plan& plan = viewed_->plan();
  for (const LightAnswer& r : answers_->lights)
    if (const Light* l = plan.light(r.id))
      out.push_back({QString::fromStdString(r.id), lightText(*l), QString::fromStdString(placeOf(r.held)),
                     apertureText(r.aperture), tr("within %1").arg(r.within, 0, 'f', 1), r.stopsFromWorking, r.within,
                     l->targetStops});
  if (answers_->aperture > 0)
    out.push_back({{},
                   tr("Everything on"),
                   {},
                   apertureText(answers_->aperture),
                   {},
                   aperturesApart(answers_->aperture, plan.camera.aperture),
                   0,
                   std::nullopt});
  return out;
}

void ReadingsView::draw(QPainter& p) {
  const Theme& t = Theme::current();
  const std::vector<Row> rows = all();
  if (rows.empty()) return;
  double least = -2, most = 1;
  for (const Row& r : rows) {
    // What is not lit at all would leave no room for the others.
    if (r.stops > -9) least = std::min(least, std::floor(r.stops - r.within - 0.3));
    most = std::max(most, std::ceil(r.stops + r.within + 0.3));
    if (r.target) most = std::max(most, std::ceil(*r.target));
  }
  const double names = 170, says = 92, left = names, right = across() - says, head = 24;
  const auto x = [&](double stops) {
    return left + (std::clamp(stops, least, most) - least) / (most - least) * (right - left);
  };
  const double row = std::min(44.0, (down() - head - 4) / double(rows.size()));
  const int every = x(1) - x(0) >= 40 ? 1 : x(1) - x(0) >= 20 ? 2 : 4;
  for (int s = int(least); s <= int(most); ++s) {
    p.setPen(QPen(s == 0 ? t.accent : t.line, s == 0 ? 2 : 1));
    p.drawLine(QPointF(x(s), head - 4), QPointF(x(s), head + row * double(rows.size())));
    if (s % every) continue;
    p.setFont(lettering(s == 0 ? 10 : 8.5, s == 0));
    p.setPen(s == 0 ? t.accent : t.quiet);
    letter(p, {x(s) - 22, 2, 44, 16}, Qt::AlignCenter,
           QString::fromStdString(
               writeAperture(viewed_->plan().camera.aperture * ratioFromStops(s / 2.0), ApertureStyle::Nominal)));
  }
  double y = head;
  for (const Row& r : rows) {
    const double mid = y + row / 2;
    if (!r.letter.isEmpty()) paintBadge(p, {14, mid}, r.letter, false);
    p.setPen(t.text);
    p.setFont(lettering(9.5, true));
    letter(p, {30, y, names - 36, row * (r.where.isEmpty() ? 1 : 0.55)}, Qt::AlignLeft | Qt::AlignVCenter, r.name,
           true);
    if (!r.where.isEmpty()) {
      p.setFont(lettering(8));
      p.setPen(t.quiet);
      letter(p, {30, y + row * 0.5, names - 36, row * 0.45}, Qt::AlignLeft | Qt::AlignVCenter, r.where, true);
    }
    if (r.within > 0)
      p.fillRect(QRectF(x(r.stops - r.within), mid - 3, x(r.stops + r.within) - x(r.stops - r.within), 6), t.line);
    if (r.target) {
      const QPointF at(x(*r.target), mid - 5);
      p.setPen(Qt::NoPen);
      p.setBrush(t.accent);
      p.drawPolygon(QPolygonF({at, at + QPointF(-5, -7), at + QPointF(5, -7)}));
    }
    p.setPen(QPen(t.panel, 1));
    p.setBrush(t.text);
    if (r.letter.isEmpty())
      p.drawRect(QRectF(x(r.stops) - 5, mid - 5, 10, 10));
    else
      p.drawEllipse(QPointF(x(r.stops), mid), 5, 5);
    p.setPen(t.text);
    p.setFont(lettering(9.5, true));
    const bool two = !r.small.isEmpty();
    letter(p, {right + 8, y, says - 8, row * (two ? 0.55 : 1)}, Qt::AlignLeft | Qt::AlignVCenter, r.says, true);
    if (two) {
      p.setFont(lettering(8));
      p.setPen(t.quiet);
      letter(p, {right + 8, y + row * 0.5, says - 8, row * 0.45}, Qt::AlignLeft | Qt::AlignVCenter, r.small, true);
    }
    y += row;
  }
}

}  // namespace easel::app
