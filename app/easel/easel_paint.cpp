// How the easel is painted: the picture, what is compared with it, and what lies over it.
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "easel/easel_view.h"
#include "render/picture_image.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {

void EaselView::draw(QPainter& p) {
  const Theme& t = Theme::current();
  p.fillRect(area(), t.surround);
  const QRectF r = pictureRect(), seen = r.intersected(half(false));
  if (image_.isNull()) {
    p.setPen(t.dim ? t.text : QColor(Qt::white));
    p.setFont(lettering(13));
    if (!result_ || result_->problem.empty()) letter(p, area(), Qt::AlignCenter, tr("Setting up the studio..."));
  } else {
    const bool mapped = tools_.stopsMap && !mapImage_.isNull();
    p.save();
    if (closer_ > 1) p.setClipRect(half(false));
    p.drawImage(r, compare_ == Compare::Flip ? before_ : mapped ? mapImage_ : shown_);
    if (compare_ != Compare::Flip && !mapped && sharpOf_.width > 0)
      for (const auto& [at, tile] : tiles_) {
        const double sx = r.width() / sharpOf_.width, sy = r.height() / sharpOf_.height;
        p.drawImage(QRectF(r.left() + at.x() * sx, r.top() + at.y() * sy, tile.width() * sx, tile.height() * sy), tile);
      }
    if (tools_.clipping && !clipped_.isNull() && compare_ != Compare::Flip && !mapped) p.drawImage(r, clipped_);
    if (compare_ == Compare::Wipe) {
      const double x = wipe_ * r.width();
      p.drawImage(QRectF(r.left(), r.top(), x, r.height()), before_,
                  QRectF(0, 0, wipe_ * before_.width(), before_.height()));
      p.setPen(QPen(Qt::black, 4));
      p.drawLine(QPointF(r.left() + x, r.top()), QPointF(r.left() + x, r.bottom()));
      p.setPen(QPen(Qt::white, 2));
      p.drawLine(QPointF(r.left() + x, r.top()), QPointF(r.left() + x, r.bottom()));
      p.setBrush(t.panel);
      p.setPen(QPen(t.line, 1));
      p.drawEllipse(QPointF(r.left() + x, seen.bottom() - 34), 9, 9);
    }
    if (compare_ != Compare::Off) {
      auto tag = [&](const QString& words, bool left) {
        p.setFont(lettering(10, true));
        const double most = seen.width() / 2 - 24;
        const QString shown = p.fontMetrics().elidedText(words, Qt::ElideRight, int(most));
        const double w = p.fontMetrics().horizontalAdvance(shown) + 16;
        const QRectF box(left ? seen.left() + 8 : seen.right() - 8 - w, seen.top() + 8, w, 24);
        p.setPen(Qt::NoPen);
        p.setBrush(t.panel);
        p.drawRoundedRect(box, 4, 4);
        p.setPen(t.text);
        letter(p, box, Qt::AlignCenter, shown);
      };
      tag(tr("Kept: %1").arg(beforeName_), true);
      if (compare_ == Compare::Wipe) tag(tr("Now"), false);
    }
    if (mapped && compare_ == Compare::Off) drawMapLegend(p, seen);
    if (tools_.zebra && !zebraImage_.isNull() && compare_ == Compare::Off && !mapped) p.drawImage(r, zebraImage_);
    evidence_->paint(p, r, seen, compare_ == Compare::Off && !mapped);
    if (tools_.histogram && result_) drawHistogram(p, seen, result_->histogram);
    p.restore();
    if (!beside_.isNull()) drawBeside(p);
  }
  if (hasFocus() && keyboardFocus_) {
    p.setPen(QPen(t.accent, 2));
    p.setBrush(Qt::NoBrush);
    p.drawRect(r.adjusted(-2, -2, 2, 2));
  }
  const QColor ink = t.dim ? t.text : QColor(Qt::white);
  p.setPen(ink);
  p.setFont(lettering(10));
  if (bare_) return;
  const QRectF foot(12, down() - 24, across() - 24, 20);
  if (closer_ > 1)
    letter(p, foot, Qt::AlignRight | Qt::AlignVCenter, tr("%1 x").arg(closer_, 0, 'f', 1));
  else if (settled() < 1) {
    // How far the picture has settled; nothing any more once it stands.
    const QRectF bar(foot.right() - 64, foot.center().y() - 2.5, 64, 5);
    p.setPen(QPen(ink, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(bar);
    p.fillRect(QRectF(bar.left(), bar.top(), bar.width() * settled(), bar.height()), ink);
  }
  letter(p, foot.adjusted(0, 0, -76, 0), Qt::AlignLeft | Qt::AlignVCenter, caption_, true);

  if (result_ && !result_->problem.empty()) {
    QRectF box(r.left() + 10, r.center().y() - 60, r.width() - 20, 120);
    p.setBrush(t.panel);
    p.setPen(QPen(t.warn, 2));
    p.drawRoundedRect(box, 6, 6);
    p.setPen(t.text);
    p.setFont(lettering(11));
    letter(p, box.adjusted(12, 8, -12, -8), Qt::AlignCenter | Qt::TextWordWrap,
           QString::fromStdString(result_->problem));
  }
  if (reading_ && tools_.greyCard) drawGreyCard(p);
  if (reading_) drawReading(p);
}

void EaselView::drawBeside(QPainter& p) {
  const Theme& t = Theme::current();
  const QRectF r = fitted(half(true), beside_.size());
  p.drawImage(r, beside_);
  p.setFont(lettering(10, true));
  const QString shown = p.fontMetrics().elidedText(besideName_, Qt::ElideMiddle, int(r.width()) - 32);
  const QRectF box(r.left() + 8, r.top() + 8, p.fontMetrics().horizontalAdvance(shown) + 16, 24);
  p.setPen(Qt::NoPen);
  p.setBrush(t.panel);
  p.drawRoundedRect(box, 4, 4);
  p.setPen(t.text);
  letter(p, box, Qt::AlignCenter, shown);
  if (tools_.histogram) drawHistogram(p, r, besideHistogram_);
  if (!besideAt_) return;
  // The same place in both.
  for (const QRectF& in : {r, pictureRect()}) {
    const QPointF at(in.left() + besideAt_->x() * in.width(), in.top() + besideAt_->y() * in.height());
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(Qt::black, 3.4));
    p.drawEllipse(at, 8, 8);
    p.setPen(QPen(QColor(255, 206, 120), 1.8));
    p.drawEllipse(at, 8, 8);
  }
}

void EaselView::drawGreyCard(QPainter& p) {
  const Theme& t = Theme::current();
  const int v = greyCardValue(result_->plan.camera, reading_->stops);
  const QRectF card(pointer_->x() - 62, pointer_->y() - 62, 52, 52);
  p.setPen(QPen(Qt::white, 1));
  p.setBrush(QColor(v, v, v));
  p.drawRect(card);
  p.setPen(v > 140 ? Qt::black : Qt::white);
  p.setFont(lettering(10, true));
  letter(p, card, Qt::AlignCenter, QString::number(v));
  p.setFont(lettering(9));
  const QString words = tr("grey card: should be 118");
  const QRectF tag(card.left(), card.top() - 20, p.fontMetrics().horizontalAdvance(words) + 12, 18);
  p.setPen(Qt::NoPen);
  p.setBrush(t.panel);
  p.drawRoundedRect(tag, 3, 3);
  p.setPen(t.text);
  letter(p, tag, Qt::AlignCenter, words);
}

void EaselView::drawHistogram(QPainter& p, const QRectF& r, const Histogram& h) {
  const Theme& t = Theme::current();
  const QRectF box(r.left() + 10, r.bottom() - 118, 190, 108);
  p.setPen(QPen(t.line, 1));
  p.setBrush(t.panel);
  p.drawRoundedRect(box, 4, 4);
  const QRectF plot = box.adjusted(10, 8, -10, -38);
  // The tallest bars (an even backdrop) would flatten all else: scaled to the 98th of 100.
  auto sorted = h.count;
  std::sort(sorted.begin(), sorted.end());
  const double most = std::max(1, sorted[250]);
  p.setPen(Qt::NoPen);
  p.setBrush(t.quiet);
  for (int i = 0; i < 256; ++i) {
    const double tall = std::min(1.0, h.count[size_t(i)] / most) * plot.height();
    p.drawRect(QRectF(plot.left() + i / 256.0 * plot.width(), plot.bottom() - tall, plot.width() / 256.0 + 0.3, tall));
  }
  // Mid grey, so that the eye finds the middle.
  p.setPen(QPen(t.accent, 1, Qt::DashLine));
  const double mid = plot.left() + 118 / 256.0 * plot.width();
  p.drawLine(QPointF(mid, plot.top()), QPointF(mid, plot.bottom()));
  p.setPen(QPen(t.line, 1));
  p.setBrush(Qt::NoBrush);
  p.drawRect(plot);
  p.setPen(t.text);
  p.setFont(lettering(9));
  letter(p, QRectF(box.left() + 10, plot.bottom() + 4, box.width() - 20, 14), Qt::AlignLeft,
         tr("lost in black %1 %").arg(100 * h.blocked, 0, 'f', 1));
  letter(p, QRectF(box.left() + 10, plot.bottom() + 4, box.width() - 20, 14), Qt::AlignRight,
         tr("burnt out %1 %").arg(100 * h.burnt, 0, 'f', 1));
  p.setPen(t.accent);
  letter(p, QRectF(box.left() + 10, plot.bottom() + 18, box.width() - 20, 14), Qt::AlignCenter, tr("mid grey"));
}

void EaselView::drawMapLegend(QPainter& p, const QRectF& r) {
  const Theme& t = Theme::current();
  const int n = kStopsMost - kStopsLeast + 1;
  const QRectF box(r.right() - 66, r.top() + 10, 56, n * 22 + 30);
  p.setPen(QPen(t.line, 1));
  p.setBrush(t.panel);
  p.drawRoundedRect(box, 4, 4);
  p.setFont(lettering(9));
  for (int i = 0; i < n; ++i) {
    const int stops = kStopsMost - i;
    const auto c = stopsColour(stops);
    const QRectF patch(box.left() + 6, box.top() + 6 + i * 22, 18, 20);
    p.setPen(Qt::NoPen);
    p.setBrush(QColor(c[0], c[1], c[2]));
    p.drawRect(patch);
    p.setPen(t.text);
    letter(p, QRectF(patch.right() + 4, patch.top(), 28, 20), Qt::AlignLeft | Qt::AlignVCenter, shortStops(stops));
  }
  p.setPen(t.quiet);
  letter(p, QRectF(box.left(), box.bottom() - 22, box.width(), 18), Qt::AlignCenter, tr("0: grey"));
}

void EaselView::drawReading(QPainter& p) {
  const Theme& t = Theme::current();
  const QPointF at = *pointer_;
  p.setPen(QPen(Qt::black, 3));
  p.setBrush(Qt::NoBrush);
  p.drawEllipse(at, 7, 7);
  p.setPen(QPen(Qt::white, 1.5));
  p.drawEllipse(at, 7, 7);

  const QString first = shortStops(reading_->stops) + (std::abs(reading_->stops) < 0.05 ? QString() : tr(" stop"));
  const QString second = apertureText(reading_->aperture) + QStringLiteral("  ") + surfaceText(reading_->surface);
  QSizeF size(std::max(QFontMetricsF(lettering(15, true)).horizontalAdvance(first),
                       QFontMetricsF(lettering(10.5)).horizontalAdvance(second)) +
                  24,
              70);
  QRectF box(at + QPointF(16, 14), size);
  if (box.right() > across() - 4) box.moveRight(at.x() - 16);
  if (box.bottom() > down() - 4) box.moveBottom(at.y() - 14);
  p.setPen(QPen(t.line, 1));
  p.setBrush(t.panel);
  p.drawRoundedRect(box, 4, 4);
  p.setPen(t.text);
  p.setFont(lettering(15, true));
  letter(p, box.adjusted(12, 5, -8, 0), Qt::AlignLeft | Qt::AlignTop, first);
  p.setFont(lettering(10.5));
  letter(p, box.adjusted(12, 30, -8, 0), Qt::AlignLeft | Qt::AlignTop, second);
  // What each light brings, as a bar with letters.
  const QRectF bar(box.left() + 12, box.bottom() - 19, box.width() - 24, 13);
  double x = bar.left();
  for (size_t i = 0; i < reading_->shares.size(); ++i) {
    const auto& s = reading_->shares[i];
    const double w = bar.width() * s.share;
    const bool ambient = s.id == "ambient";
    p.setPen(Qt::NoPen);
    p.setBrush(ambient ? QBrush(t.quiet, Qt::Dense5Pattern) : QBrush(t.accent.lighter(100 + 14 * int(i % 3))));
    p.drawRect(QRectF(x, bar.top(), w, bar.height()));
    if (w >= 12) {
      p.setPen(ambient ? t.text : t.onAccent);
      p.setFont(lettering(8, true));
      letter(p, QRectF(x, bar.top(), w, bar.height()), Qt::AlignCenter,
             ambient ? tr("amb") : QString::fromStdString(s.id));
    }
    x += w;
  }
  p.setPen(QPen(t.line, 1));
  p.setBrush(Qt::NoBrush);
  p.drawRect(bar);
}

}  // namespace easel::app
