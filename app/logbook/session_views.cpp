#include "logbook/session_views.h"

#include <QDateTime>
#include <algorithm>
#include <cmath>

#include "exposure/stops.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {

QDateTime timeOf(const std::string& utc) {
  return QDateTime::fromString(QString::fromStdString(utc), Qt::ISODate).toLocalTime();
}

namespace {

QString stepName(const JournalReading& r) {
  return r.step == "off"        ? CourseView::tr("all off")
         : r.step == "together" ? CourseView::tr("all on")
                                : QString::fromStdString(r.light);
}
// Stops off what the catalogue predicts; what no meter shows has none.
std::optional<double> off(const JournalReading& r) {
  if (r.read < 0.5 || r.predicted < 0.5) return {};
  return aperturesApart(r.read, r.predicted);
}

}  // namespace

CourseView::CourseView(QWidget* parent) : Painted(parent) { setAccessibleName(tr("Course of the session")); }
void CourseView::setReadings(const std::vector<JournalReading>& readings, const std::vector<JournalEvent>& events) {
  readings_ = readings;
  events_ = events;
  QStringList words;
  for (const JournalReading& r : readings_)
    words << tr("%1 %2: %3").arg(timeOf(r.at).time().toString("HH:mm"), stepName(r), readingText(r.read));
  setAccessibleDescription(words.join(". "));
  update();
}

void CourseView::draw(QPainter& p) {
  const Theme& t = Theme::current();
  p.fillRect(area(), t.panel);
  p.setPen(t.quiet);
  p.setFont(lettering(10));
  if (readings_.empty()) {
    letter(p, area().adjusted(10, 0, -10, 0), Qt::AlignCenter | Qt::TextWordWrap, tr("No readings."));
    return;
  }
  QStringList rows;
  for (const JournalReading& r : readings_)
    if (!rows.contains(stepName(r))) rows << stepName(r);
  const QRectF plot = area().adjusted(72, 20, -56, -40);
  const double each = plot.height() / double(rows.size());
  const qint64 from = timeOf(readings_.front().at).toSecsSinceEpoch(),
               until = std::max(from + 60, timeOf(readings_.back().at).toSecsSinceEpoch());
  const auto across = [&](const std::string& at) {
    return plot.left() + plot.width() * double(timeOf(at).toSecsSinceEpoch() - from) / double(until - from);
  };
  for (int i = 0; i < rows.size(); ++i) {
    const double y = plot.top() + (i + 0.5) * each;
    p.setPen(QPen(t.line, 1));
    p.drawLine(QPointF(plot.left(), y), QPointF(plot.right(), y));
    p.setPen(t.text);
    p.setFont(lettering(10, true));
    letter(p, QRectF(2, y - 10, 60, 20), Qt::AlignRight | Qt::AlignVCenter, rows[i]);
  }
  p.setFont(lettering(9));
  p.setPen(t.quiet);
  for (int k = 0; k <= 4; ++k) {
    const double x = plot.left() + plot.width() * k / 4;
    const QString time = QDateTime::fromSecsSinceEpoch(from + (until - from) * k / 4).time().toString("HH:mm:ss");
    letter(p, QRectF(x - 40, plot.bottom() + 6, 80, 14), Qt::AlignCenter, time);
  }
  letter(p, QRectF(plot.left() - 30, plot.bottom() + 21, plot.width() + 80, 14), Qt::AlignCenter,
         tr("round: on target. Square: off target. Crossed: cannot be the light alone."), true);
  // What happened between readings: a dashed line through all rows, with what it was at the top.
  QRectF lastEvent;
  for (const JournalEvent& e : events_) {
    const double x = std::clamp(across(e.at), plot.left(), plot.right());
    p.setPen(QPen(t.quiet, 1, Qt::DashLine));
    p.drawLine(QPointF(x, plot.top() - 2), QPointF(x, plot.bottom()));
    const QString words = e.kind == "picture" ? tr("picture") : QString::fromStdString(e.words);
    QRectF label(x + 3, area().top() + 2, std::min(150.0, p.fontMetrics().horizontalAdvance(words) + 4.0), 14);
    if (label.right() > area().right() - 2) label.moveRight(x - 3);
    if (label.intersects(lastEvent)) continue;
    p.setPen(t.quiet);
    letter(p, label, Qt::AlignLeft | Qt::AlignVCenter, words, true);
    lastEvent = label;
  }
  QRectF last;
  for (const JournalReading& r : readings_) {
    const double y = plot.top() + (double(rows.indexOf(stepName(r))) + 0.5) * each, x = across(r.at);
    const bool fine = r.verdict == "on peg", doubt = r.verdict == "implausible";
    p.setPen(QPen(doubt ? t.warn : t.text, 1.6));
    p.setBrush(fine ? t.accent : t.panel);
    // Never by colour alone: round is on target, square is off, crossed cannot be.
    if (fine)
      p.drawEllipse(QPointF(x, y), 5, 5);
    else
      p.drawRect(QRectF(x - 4.5, y - 4.5, 9, 9));
    if (doubt) {
      p.drawLine(QPointF(x - 4, y - 4), QPointF(x + 4, y + 4));
      p.drawLine(QPointF(x - 4, y + 4), QPointF(x + 4, y - 4));
    }
    const QString words = readingText(r.read);
    const double w = p.fontMetrics().horizontalAdvance(words) + 2;
    QRectF label(x + 8, y - 18, w, 14);
    if (label.right() > area().right() - 4) label.moveRight(x - 6);
    if (label.intersects(last)) continue;  // the dot says that something was read; its figure is in the table
    p.setPen(t.text);
    letter(p, label, Qt::AlignLeft | Qt::AlignVCenter, words);
    last = label;
  }
}

PlannedView::PlannedView(QWidget* parent) : Painted(parent) { setAccessibleName(tr("Planned against read")); }
void PlannedView::setReadings(const std::vector<JournalReading>& readings) {
  readings_ = readings;
  update();
}

void PlannedView::draw(QPainter& p) {
  const Theme& t = Theme::current();
  p.fillRect(area(), t.panel);
  std::vector<const JournalReading*> shown;
  double most = 1;
  for (const JournalReading& r : readings_)
    if (r.step != "off" && off(r)) {
      shown.push_back(&r);
      most = std::max(most, std::min(4.0, std::abs(*off(r))));
    }
  p.setFont(lettering(10));
  if (shown.empty()) {
    p.setPen(t.quiet);
    letter(p, area().adjusted(10, 0, -10, 0), Qt::AlignCenter | Qt::TextWordWrap,
           tr("Nothing to compare: no light was read."));
    return;
  }
  const QRectF plot = area().adjusted(56, 14, -16, -26);
  const double stop = plot.height() / 2 / (most * 1.1), middle = plot.center().y();
  // A tenth of a stop to either side: on target.
  p.fillRect(QRectF(plot.left(), middle - 0.1 * stop, plot.width(), 0.2 * stop), t.line);
  p.setFont(lettering(9));
  const double step = most > 2 ? 1 : 0.5;
  for (double s = -std::floor(most / step) * step; s <= most + 1e-9; s += step) {
    const double y = middle - s * stop;
    p.setPen(QPen(t.line, std::abs(s) < 1e-9 ? 2 : 1));
    p.drawLine(QPointF(plot.left(), y), QPointF(plot.right(), y));
    p.setPen(t.quiet);
    letter(p, QRectF(2, y - 8, 48, 16), Qt::AlignRight | Qt::AlignVCenter, shortStops(s));
  }
  const double each = plot.width() / double(shown.size());
  for (size_t i = 0; i < shown.size(); ++i) {
    const JournalReading& r = *shown[i];
    const double x = plot.left() + (double(i) + 0.5) * each, y = middle - std::clamp(*off(r), -4.0, 4.0) * stop;
    const bool doubt = r.verdict == "implausible";
    p.setPen(QPen(doubt ? t.warn : t.accent, 1.4));
    p.drawLine(QPointF(x, middle), QPointF(x, y));
    p.setBrush(doubt ? t.panel : t.accent);
    p.drawEllipse(QPointF(x, y), 4.5, 4.5);
    if (each < 16) continue;
    p.setPen(t.text);
    letter(p, QRectF(x - each / 2, plot.bottom() + 6, each, 16), Qt::AlignCenter, stepName(r), true);
  }
  p.setPen(t.quiet);
  letter(p, QRectF(plot.left() + 4, area().top(), plot.width(), 14), Qt::AlignLeft,
         tr("stops over (+) and under the prediction, reading by reading"), true);
}

}  // namespace easel::app
