#include "easel_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "theme.h"
#include "wording.h"

namespace easel::app {

EaselView::EaselView(QWidget* parent) : QWidget(parent) {
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setAccessibleName(tr("Easel: the predicted portrait"));
  setWhatsThis(tr("Rest the pointer anywhere: it reads like a meter. Arrow keys move it."));
}

void EaselView::setResult(std::shared_ptr<const Result> result, bool upToDate) {
  result_ = std::move(result);
  upToDate_ = upToDate;
  if (result_ && !result_->picture.rgba.empty()) {
    const Picture& p = result_->picture;
    image_ = QImage(p.rgba.data(), p.width, p.height, p.width * 4, QImage::Format_RGBA8888).copy();
    setClippingShown(clipping_);
  }
  readThere();
  update();
}

void EaselView::setClippingShown(bool on) {
  clipping_ = on;
  clipped_ = {};
  if (on && !image_.isNull()) {
    clipped_ = QImage(image_.size(), QImage::Format_ARGB32_Premultiplied);
    clipped_.fill(Qt::transparent);
    for (int y = 0; y < image_.height(); ++y) {
      const uchar* in = image_.constScanLine(y);
      auto* out = reinterpret_cast<QRgb*>(clipped_.scanLine(y));
      for (int x = 0; x < image_.width(); ++x, in += 4) {
        // Stripes, so that it reads without colour: one way for burnt out, the other for blocked up.
        if (in[0] >= 253 && in[1] >= 253 && in[2] >= 253)
          out[x] = ((x + y) / 4) % 2 ? qRgb(200, 60, 0) : qRgb(255, 255, 255);
        else if (in[0] <= 3 && in[1] <= 3 && in[2] <= 3)
          out[x] = ((x - y + 8192) / 4) % 2 ? qRgb(40, 110, 200) : qRgb(0, 0, 0);
      }
    }
  }
  update();
}

QRectF EaselView::pictureRect() const {
  const QSizeF size = image_.isNull() ? QSizeF(640, 800) : QSizeF(image_.size());
  const double scale = std::min((width() - 28) / size.width(), (height() - 40) / size.height());
  const QSizeF s = size * std::max(0.05, scale);
  return {(width() - s.width()) / 2, (height() - 22 - s.height()) / 2 + 4, s.width(), s.height()};
}

void EaselView::readThere() {
  reading_.reset();
  if (!pointer_ || !result_ || !result_->layers || !result_->layers->scene || !result_->problem.empty()) {
    emit pointed({});
    return;
  }
  const QRectF r = pictureRect();
  if (!r.contains(*pointer_)) {
    emit pointed({});
    return;
  }
  const double px = (pointer_->x() - r.x()) / r.width() * result_->layers->width;
  const double py = (pointer_->y() - r.y()) / r.height() * result_->layers->height;
  SpotReading s = readPixel(*result_->layers, result_->plan, px, py);
  if (s.surface == Surface::Nothing) {
    emit pointed({});
    return;
  }
  reading_ = s;
  QString shares;
  for (const auto& share : s.shares)
    if (share.share >= 0.005)
      shares += tr("  %1 %2 %")
                    .arg(share.id == "ambient" ? tr("ambient") : QString::fromStdString(share.id))
                    .arg(std::lround(100 * share.share));
  emit pointed(
      tr("%1: %2, %3 (incident)%4").arg(surfaceText(s.surface), stopsText(s.stops), apertureText(s.aperture), shares));
}

void EaselView::mouseMoveEvent(QMouseEvent* e) {
  pointer_ = e->position();
  readThere();
  update();
}
void EaselView::leaveEvent(QEvent*) {
  pointer_.reset();
  readThere();
  update();
}

void EaselView::focusInEvent(QFocusEvent* e) {
  keyboardFocus_ = e->reason() == Qt::TabFocusReason || e->reason() == Qt::BacktabFocusReason ||
                   e->reason() == Qt::ShortcutFocusReason;
  QWidget::focusInEvent(e);
}

void EaselView::keyPressEvent(QKeyEvent* e) {
  const double step = e->modifiers() & Qt::ShiftModifier ? 25 : 5;
  QPointF by;
  switch (e->key()) {
    case Qt::Key_Left:
      by = {-step, 0};
      break;
    case Qt::Key_Right:
      by = {step, 0};
      break;
    case Qt::Key_Up:
      by = {0, -step};
      break;
    case Qt::Key_Down:
      by = {0, step};
      break;
    default:
      QWidget::keyPressEvent(e);
      return;
  }
  pointer_ = pointer_.value_or(pictureRect().center()) + by;
  readThere();
  update();
}

void EaselView::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
  p.fillRect(rect(), t.surround);
  const QRectF r = pictureRect();
  if (image_.isNull()) {
    p.setPen(t.dim ? t.text : QColor(Qt::white));
    p.setFont(lettering(13));
    if (!result_ || result_->problem.empty()) p.drawText(rect(), Qt::AlignCenter, tr("Setting up the studio..."));
  } else {
    p.drawImage(r, image_);
    if (clipping_ && !clipped_.isNull()) p.drawImage(r, clipped_);
  }
  if (hasFocus() && keyboardFocus_) {
    p.setPen(QPen(t.accent, 2));
    p.setBrush(Qt::NoBrush);
    p.drawRect(r.adjusted(-2, -2, 2, 2));
  }
  const QColor ink = t.dim ? t.text : QColor(Qt::white);
  p.setPen(ink);
  p.setFont(lettering(10));
  const QString state = !result_          ? QString()
                        : result_->done   ? tr("finished")
                        : result_->passes ? tr("refining, pass %1").arg(result_->passes)
                                          : tr("first look");
  const QRectF foot(12, height() - 24, width() - 24, 20);
  p.drawText(foot, Qt::AlignRight | Qt::AlignVCenter, state);
  p.drawText(foot.adjusted(0, 0, -130, 0), Qt::AlignLeft | Qt::AlignVCenter,
             p.fontMetrics().elidedText(caption_, Qt::ElideRight, int(foot.width() - 130)));

  if (result_ && !result_->problem.empty()) {
    QRectF box(r.left() + 10, r.center().y() - 60, r.width() - 20, 120);
    p.setBrush(t.panel);
    p.setPen(QPen(t.warn, 2));
    p.drawRoundedRect(box, 6, 6);
    p.setPen(t.text);
    p.setFont(lettering(11));
    p.drawText(box.adjusted(12, 8, -12, -8), Qt::AlignCenter | Qt::TextWordWrap,
               QString::fromStdString(result_->problem));
  }
  if (reading_) drawReading(p);
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
              66);
  QRectF box(at + QPointF(16, 14), size);
  if (box.right() > width() - 4) box.moveRight(at.x() - 16);
  if (box.bottom() > height() - 4) box.moveBottom(at.y() - 14);
  p.setPen(QPen(t.line, 1));
  p.setBrush(t.panel);
  p.drawRoundedRect(box, 4, 4);
  p.setPen(t.text);
  p.setFont(lettering(15, true));
  p.drawText(box.adjusted(12, 5, -8, 0), Qt::AlignLeft | Qt::AlignTop, first);
  p.setFont(lettering(10.5));
  p.drawText(box.adjusted(12, 30, -8, 0), Qt::AlignLeft | Qt::AlignTop, second);
  // What each light brings, as a bar with letters.
  const QRectF bar(box.left() + 12, box.bottom() - 15, box.width() - 24, 9);
  double x = bar.left();
  for (size_t i = 0; i < reading_->shares.size(); ++i) {
    const auto& s = reading_->shares[i];
    const double w = bar.width() * s.share;
    const bool ambient = s.id == "ambient";
    p.setPen(Qt::NoPen);
    p.setBrush(ambient ? QBrush(t.quiet, Qt::Dense5Pattern) : QBrush(t.accent.lighter(100 + 25 * int(i % 3))));
    p.drawRect(QRectF(x, bar.top(), w, bar.height()));
    x += w;
  }
  p.setPen(QPen(t.line, 1));
  p.setBrush(Qt::NoBrush);
  p.drawRect(bar);
}

}  // namespace easel::app
