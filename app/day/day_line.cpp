#include "day/day_line.h"

#include <QMouseEvent>
#include <algorithm>
#include <cmath>

#include "widgets/theme.h"

namespace easel::app {
namespace {
constexpr double kName = 84, kTop = 18, kBar = 30, kRow = 17;
}

DayLine::DayLine(DayDesk* desk, QWidget* parent) : Painted(parent), desk_(desk) {
  setObjectName("dayLine");
  setAccessibleName(tr("The day along time"));
  connect(desk, &DayDesk::changed, this, [this] {
    updateGeometry();
    QStringList words;
    if (const DayForecast* r = desk_->forecast())
      for (const Turn& s : r->planned.turns)
        if (s.look < desk_->day().looks.size())
          words << tr("%1 from %2 to %3")
                       .arg(QString::fromStdString(desk_->day().looks[s.look].name()),
                            QString::fromStdString(writeTimeAt(s.begin)), QString::fromStdString(writeTimeAt(s.end)));
    setAccessibleDescription(words.join(". "));
    update();
  });
}

QSize DayLine::minimumSizeHint() const {
  return inPixels(320, kTop + kBar + 8 + kRow * double(desk_->day().sitters.size()) + 4);
}

void DayLine::setChosen(int look) {
  chosen_ = look;
  update();
}

double DayLine::at(double seconds) const {
  return kName + (across() - kName - 12) * (seconds - from_) / (until_ - from_);
}

void DayLine::draw(QPainter& p) {
  const Theme& t = Theme::current();
  p.fillRect(area(), t.panel);
  const Day& day = desk_->day();
  const DayForecast* r = desk_->currentForecast();
  from_ = day.start * 60.0;
  until_ = day.end * 60.0;
  if (r && !r->planned.turns.empty()) until_ = std::max(until_, r->planned.turns.back().end);
  for (const DaySitter& s : day.sitters) from_ = std::min(from_, s.arrives * 60.0);
  until_ = std::max(until_, from_ + 3600);
  p.setFont(lettering(9));
  // Every hour has a line; as many names as there is room for.
  const double hour = at(from_ + 3600) - at(from_);
  const int every = std::max(1, int(std::ceil(44 / std::max(1.0, hour))));
  for (int h = int(std::ceil(from_ / 3600)); h * 3600.0 <= until_; ++h) {
    const double x = at(h * 3600.0);
    p.setPen(QPen(t.line, 1));
    p.drawLine(QPointF(x, kTop - 3), QPointF(x, down()));
    if (h % every) continue;
    p.setPen(t.quiet);
    letter(p, QRectF(x - 24, 1, 48, 14), Qt::AlignCenter, QStringLiteral("%1:00").arg(h));
  }
  p.setFont(lettering(10));
  p.setPen(t.quiet);
  letter(p, QRectF(4, kTop, kName - 10, kBar), Qt::AlignVCenter | Qt::AlignLeft, tr("set and look"));
  for (const DayBreak& b : day.breaks) {
    const QRectF box(at(b.from * 60.0), kTop, at(b.to * 60.0) - at(b.from * 60.0), down() - kTop);
    p.fillRect(box, QBrush(t.line, Qt::Dense6Pattern));
  }
  if (r)
    for (const Turn& s : r->planned.turns) {
      const double a = at(s.from), b = at(s.from + s.change), c = at(s.begin), d = at(s.end);
      // The work on the set is hatched, waiting is a line, the look is full.
      p.setPen(QPen(t.quiet, 1));
      p.setBrush(QBrush(t.quiet, Qt::BDiagPattern));
      p.drawRect(QRectF(a, kTop + 7, std::max(1.0, b - a), kBar - 14));
      p.setBrush(Qt::NoBrush);
      if (c > b + 1) p.drawLine(QPointF(b, kTop + kBar / 2), QPointF(c, kTop + kBar / 2));
      const bool chosen = int(s.look) == chosen_;
      const QRectF box(c, kTop + 1, std::max(3.0, d - c), kBar - 2);
      p.setPen(QPen(s.late > 0 ? t.warn : chosen ? t.accent : t.text, chosen || s.late > 0 ? 2.5 : 1));
      p.setBrush(chosen ? t.accent : t.window);
      p.drawRect(box);
      if (box.width() < 9) continue;
      p.setPen(chosen ? t.onAccent : t.text);
      p.setFont(lettering(10, true));
      letter(p, box, Qt::AlignCenter, QString::fromStdString(day.looks[s.look].id), true);
    }
  p.setBrush(Qt::NoBrush);
  const double end = at(day.end * 60.0);
  p.setPen(QPen(t.warn, 1.5));
  p.drawLine(QPointF(end, kTop - 3), QPointF(end, down()));
  if (desk_->shooting() >= 0 || desk_->next() > 0) {
    const double now = at(std::clamp(desk_->now(), from_, until_));
    p.setPen(QPen(t.accent, 2));
    p.drawLine(QPointF(now, kTop - 3), QPointF(now, down()));
  }
  p.setFont(lettering(10));
  for (size_t i = 0; i < day.sitters.size(); ++i) {
    const DaySitter& s = day.sitters[i];
    const double y = kTop + kBar + 8 + kRow * double(i) + kRow / 2;
    p.setPen(t.text);
    letter(p, QRectF(4, y - 8, kName - 10, 16), Qt::AlignVCenter | Qt::AlignLeft, QString::fromStdString(s.name), true);
    p.setPen(QPen(t.quiet, 1.5));
    p.drawLine(QPointF(at(s.arrives * 60.0), y), QPointF(at(std::min(until_, s.leaves * 60.0)), y));
    if (s.makeUp > 0) {
      p.setPen(QPen(t.quiet, 5, Qt::DotLine));
      p.drawLine(QPointF(at(s.arrives * 60.0), y), QPointF(at((s.arrives + s.makeUp) * 60.0), y));
    }
    p.setPen(QPen(t.text, 6));
    if (r)
      for (const Turn& turn : r->planned.turns)
        if (const auto& who = day.looks[turn.look].sitters; std::find(who.begin(), who.end(), s.name) != who.end())
          p.drawLine(QPointF(at(turn.begin) + 3, y), QPointF(std::max(at(turn.begin) + 4, at(turn.end) - 3), y));
  }
}

void DayLine::mousePressEvent(QMouseEvent* e) {
  const DayForecast* r = desk_->currentForecast();
  if (!r) return;
  for (const Turn& s : r->planned.turns)
    if (e->position().x() >= at(s.from) && e->position().x() <= at(s.end)) emit lookChosen(int(s.look));
}

}  // namespace easel::app
