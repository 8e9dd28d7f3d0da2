#include "read/measures_view.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "exposure/ratio.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {

constexpr double kHeading = 17, kRow = 22;

void heading(QPainter& p, const QRectF& box, const QString& words) {
  p.setPen(Theme::current().text);
  p.setFont(lettering(9.5, true));
  letter(p, {box.left(), box.top(), box.width(), kHeading}, Qt::AlignLeft | Qt::AlignVCenter, words, true);
}

}  // namespace

MeasuresView::MeasuresView(QWidget* parent) : Painted(parent) {
  setObjectName("measuresView");
  setAccessibleName(tr("Measures as drawings"));
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void MeasuresView::setMeasures(const Measures& measures) {
  measures_ = std::make_unique<Measures>(measures);
  QStringList words;
  for (const std::string& w : measures.words) words << QString::fromStdString(w);
  setAccessibleDescription(words.join(' '));
  update();
}

void MeasuresView::draw(QPainter& p) {
  if (!measures_) return;
  const double w = across(), h = down(), ratios = kHeading + 3 * kRow + 14, tone = measures_->backdropShows ? 58 : 0;
  drawRatios(p, {0, 0, w, ratios});
  if (!measures_->outline.empty()) drawOutline(p, {0, ratios + 8, w, std::max(60.0, h - ratios - tone - 16)});
  if (tone > 0) drawTone(p, {0, h - tone, w, tone});
}

// Two figures that are taken for one another, to one scale: what the units do each alone, and what is left of it on the
// skin, where the fill reaches the lit side too and the key the other.
void MeasuresView::drawRatios(QPainter& p, const QRectF& box) const {
  const Theme& t = Theme::current();
  const Measures& m = *measures_;
  heading(p, box, tr("Ratio: by the units, and on the skin"));
  struct Bar {
    QString name;
    double stops;
    bool strong, ratio;
  };
  std::vector<Bar> bars;
  if (m.hasFill) bars.push_back({tr("units, each alone"), m.unitStops, false, true});
  bars.push_back({tr("cheek to cheek, all on"), m.ratioStops(), true, true});
  bars.push_back({tr("of that by distance"), m.acrossStops, false, false});
  double most = 2;
  for (const Bar& b : bars) most = std::max(most, std::ceil(std::abs(b.stops) * 2) / 2);
  const double names = 132, left = box.left() + names, right = box.right() - 118, perStop = (right - left) / most;
  p.setFont(lettering(8));
  const double foot = box.top() + kHeading + double(bars.size()) * kRow;
  for (double s = 0; s <= most + 1e-9; s += 1) {
    p.setPen(QPen(t.line, 1));
    p.drawLine(QPointF(left + s * perStop, box.top() + kHeading), QPointF(left + s * perStop, foot));
    p.setPen(t.quiet);
    letter(p, {left + s * perStop - 20, foot, 40, 12}, Qt::AlignHCenter | Qt::AlignTop,
           s == 0 ? tr("stops") : QString::number(s));
  }
  double y = box.top() + kHeading;
  for (const Bar& b : bars) {
    p.setPen(t.text);
    p.setFont(lettering(9, b.strong));
    letter(p, {box.left(), y, names - 6, kRow}, Qt::AlignRight | Qt::AlignVCenter, b.name, true);
    const double wide = std::max(1.5, std::abs(b.stops) * perStop);
    p.fillRect(QRectF(left, y + 5, wide, kRow - 10), b.strong ? t.accent : t.quiet);
    QString says = howManyStops(std::abs(b.stops));
    if (b.ratio && b.stops >= 0)
      says = QStringLiteral("%1  (%2)").arg(QString::fromStdString(writeRatio(b.stops, RatioSchool::UnitToUnit)), says);
    p.setPen(t.text);
    letter(p, {left + wide + 6, y, box.right() - left - wide - 6, kRow}, Qt::AlignLeft | Qt::AlignVCenter, says, true);
    y += kRow;
  }
}

void MeasuresView::drawOutline(QPainter& p, const QRectF& box) const {
  const Theme& t = Theme::current();
  const auto& outline = measures_->outline;
  heading(p, box, tr("Outline against the backdrop, from shoulder to shoulder"));
  const QRectF r = box.adjusted(30, kHeading + 10, -6, -16);
  if (r.height() < 24) return;
  double least = 100, most = 0;
  for (const OutlinePlace& o : outline) {
    least = std::min({least, o.inside, o.outside});
    most = std::max({most, o.inside, o.outside});
  }
  least = std::max(0.0, std::floor((least - 4) / 10) * 10);
  most = std::min(100.0, std::ceil((most + 4) / 10) * 10);
  const auto x = [&](size_t i) {
    return r.left() + r.width() * double(i) / double(std::max<size_t>(1, outline.size() - 1));
  };
  const auto y = [&](double l) { return r.bottom() - (l - least) / (most - least) * r.height(); };
  p.fillRect(r, t.panel);
  // Where the two run together.
  const double step = r.width() / double(std::max<size_t>(1, outline.size() - 1));
  for (size_t i = 0; i < outline.size(); ++i)
    if (outline[i].merges()) {
      QColor weak = t.warn;
      weak.setAlpha(70);
      p.fillRect(QRectF(x(i) - step / 2, r.top(), step, r.height()).intersected(r), weak);
      p.fillRect(QRectF(x(i) - step / 2, r.bottom() - 3, step, 3).intersected(r), t.warn);
    }
  p.setFont(lettering(8));
  for (double l : {least, most}) {
    p.setPen(t.quiet);
    letter(p, {box.left(), y(l) - 7, 26, 14}, Qt::AlignRight | Qt::AlignVCenter, QString::number(std::lround(l)));
  }
  QPainterPath inside, outside;
  for (size_t i = 0; i < outline.size(); ++i) {
    const QPointF in(x(i), y(outline[i].inside)), out(x(i), y(outline[i].outside));
    i ? inside.lineTo(in) : inside.moveTo(in);
    i ? outside.lineTo(out) : outside.moveTo(out);
  }
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(t.quiet, 1.6, Qt::DashLine));
  p.drawPath(outside);
  p.setPen(QPen(t.text, 1.8));
  p.drawPath(inside);
  if (const int weakest = measures_->weakest; weakest >= 0) {
    const QPointF at(x(size_t(weakest)), r.top());
    p.setBrush(t.accent);
    p.setPen(Qt::NoPen);
    p.drawPolygon(QPolygonF({at, at + QPointF(-5, -7), at + QPointF(5, -7)}));
  }
  // What part of the sitter it is, where there is room to say it.
  p.setFont(lettering(8));
  p.setPen(t.quiet);
  for (size_t from = 0; from < outline.size();) {
    size_t to = from;
    while (to < outline.size() && outline[to].part == outline[from].part) ++to;
    const double wide = x(to - 1) - x(from);
    const QString name = outline[from].part == OutlinePlace::Part::Hair   ? tr("hair")
                         : outline[from].part == OutlinePlace::Part::Face ? tr("face")
                                                                          : tr("shoulder");
    if (wide > QFontMetricsF(p.font()).horizontalAdvance(name) + 4)
      letter(p, {x(from), r.bottom() + 2, wide, 13}, Qt::AlignCenter, name);
    from = to;
  }
  p.setPen(t.text);
  const QString key = tr("full line: sitter, dashed: backdrop; shaded: they run together");
  p.setFont(lettering(8));
  if (QFontMetricsF(p.font()).horizontalAdvance(key) < r.width() - 8)
    letter(p, {r.left() + 4, r.top() + 1, r.width() - 8, 13}, Qt::AlignLeft | Qt::AlignVCenter, key);
}

void MeasuresView::drawTone(QPainter& p, const QRectF& box) const {
  const Theme& t = Theme::current();
  heading(p, box, tr("Backdrop: %1").arg(QString::fromStdString(measures_->backdropTone)));
  const QRectF r = box.adjusted(30, kHeading + 12, -6, -12);
  QLinearGradient grey(r.topLeft(), r.topRight());
  for (int i = 0; i <= 20; ++i) {
    // Even steps of lightness; sRGB follows L* closely enough for a scale.
    const int v = int(std::lround(255 * i / 20.0));
    grey.setColorAt(i / 20.0, QColor(v, v, v));
  }
  p.setPen(QPen(t.line, 1));
  p.setBrush(grey);
  p.drawRect(r);
  const double x = r.left() + std::clamp(measures_->backdropLightness / 100, 0.0, 1.0) * r.width();
  p.setBrush(t.accent);
  p.setPen(QPen(t.text, 1));
  p.drawPolygon(QPolygonF({QPointF(x, r.top() + 2), QPointF(x - 6, r.top() - 9), QPointF(x + 6, r.top() - 9)}));
  p.setFont(lettering(8));
  p.setPen(t.quiet);
  letter(p, {r.left(), r.bottom() + 1, 80, 12}, Qt::AlignLeft | Qt::AlignTop, tr("black"));
  letter(p, {r.right() - 80, r.bottom() + 1, 80, 12}, Qt::AlignRight | Qt::AlignTop, tr("white"));
}

}  // namespace easel::app
