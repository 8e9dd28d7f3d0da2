#include "easel/easel_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "render/picture_image.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {

EaselView::EaselView(QWidget* parent) : QWidget(parent) {
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setAccessibleName(tr("Easel: the predicted portrait"));
  setWhatsThis(tr(
      "Rest the pointer anywhere: it reads like a meter. Arrow keys move it. Shift+click pins the meter there.\n"
      "K keeps the picture, W wipes between it and what is shown now, F flips. H histogram, S stops map, C clipping."));
}

void EaselView::setResult(std::shared_ptr<const Result> result, bool upToDate) {
  result_ = std::move(result);
  upToDate_ = upToDate;
  if (result_ && !result_->picture.rgba.empty()) {
    const Picture& p = result_->picture;
    image_ = imageOf(p);
    // Opaque and in the screen's own order: what the painter scales without converting it at every paint.
    shown_ = image_.convertToFormat(QImage::Format_RGB32);
    mapImage_ = imageOf(result_->map);
    setClippingShown(clipping_);
    setZebra(zebra_);
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

void EaselView::setZebra(double level) {
  zebra_ = level;
  zebraImage_ = {};
  if (level > 0 && !image_.isNull()) {
    zebraImage_ = QImage(image_.size(), QImage::Format_ARGB32_Premultiplied);
    zebraImage_.fill(Qt::transparent);
    const int limit = int(std::lround(255 * level));
    for (int y = 0; y < image_.height(); ++y) {
      const uchar* in = image_.constScanLine(y);
      auto* out = reinterpret_cast<QRgb*>(zebraImage_.scanLine(y));
      for (int x = 0; x < image_.width(); ++x, in += 4)
        if (std::max({in[0], in[1], in[2]}) >= limit && ((x - y + 8192) / 3) % 3 == 0) out[x] = qRgb(20, 20, 20);
    }
  }
  update();
}
void EaselView::setBeside(const QImage& picture, const QString& name) {
  beside_ = picture.isNull() ? QImage() : picture.convertToFormat(QImage::Format_RGBA8888);
  besideName_ = name;
  besideHistogram_ = {};
  if (!beside_.isNull()) {
    Picture p;
    p.width = beside_.width();
    p.height = beside_.height();
    p.rgba.resize(size_t(p.width) * size_t(p.height) * 4);
    for (int y = 0; y < p.height; ++y)
      std::copy_n(beside_.constScanLine(y), size_t(p.width) * 4, p.rgba.begin() + long(y) * p.width * 4);
    besideHistogram_ = histogramOf(p);
  }
  readThere();
  update();
}
// Rays are asked here, once: painting follows every move of the pointer.
void EaselView::setEvidence(const std::vector<Trace>& traces, std::vector<Mark> marks,
                            const std::vector<Vec3>& places) {
  drawn_.clear();
  marks_ = std::move(marks);
  places_.clear();
  update();
  if (!result_ || !result_->layers || !result_->layers->scene) return;
  const Layers& layers = *result_->layers;
  auto on = [&](Vec3 point) -> std::optional<QPointF> {
    const auto at = pixelOf(layers, point);
    return at ? std::optional(QPointF(double(at->x), double(at->y))) : std::nullopt;
  };
  for (const Vec3& point : places)
    if (const auto at = on(point)) places_.push_back(*at);
  const Vec3 lens = layers.view.camera.eye;
  for (const Trace& trace : traces) {
    Drawn d{{}, trace.dashes, trace.label, {1e9, 0}, {-1e9, 0}};
    for (const auto& [a, b] : trace.lines) {
      // What the head hides from the lens is not drawn over it.
      const Vec3 middle = (a + b) * 0.5f, to = lens - middle;
      const float far = length(to);
      if (layers.scene->occluded(middle, to / far, 0.004f, far - 0.05f, 1)) continue;
      const auto from = on(a), until = on(b);
      if (!from || !until) continue;
      d.path.moveTo(*from);
      d.path.lineTo(*until);
      if (from->x() < d.leftmost.x()) d.leftmost = *from;
      if (from->x() > d.rightmost.x()) d.rightmost = *from;
    }
    if (!d.path.isEmpty()) drawn_.push_back(std::move(d));
  }
}
void EaselView::setStopsMapShown(bool on) {
  map_ = on;
  update();
}
void EaselView::setHistogramShown(bool on) {
  histogram_ = on;
  update();
}
void EaselView::keepBefore(const QString& name) {
  before_ = image_;
  beforeName_ = name;
  update();
}
void EaselView::setCompare(Compare mode) {
  compare_ = before_.isNull() ? Compare::Off : mode;
  update();
}

QRectF EaselView::fitted(const QRectF& into, const QSizeF& size) const {
  const double scale = std::max(0.05, std::min(into.width() / size.width(), into.height() / size.height()));
  const QSizeF s = size * scale;
  return {into.center().x() - s.width() / 2, into.center().y() - s.height() / 2, s.width(), s.height()};
}
QRectF EaselView::half(bool right) const {
  const QRectF all(14, 9, width() - 28, height() - 40);
  if (beside_.isNull()) return all;
  const double w = (all.width() - 10) / 2;
  return {right ? all.right() - w : all.left(), all.top(), w, all.height()};
}
QRectF EaselView::pictureRect() const {
  return fitted(half(false), image_.isNull() ? QSizeF(640, 800) : QSizeF(image_.size()));
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

void EaselView::mousePressEvent(QMouseEvent* e) {
  const QRectF r = pictureRect();
  if (compare_ == Compare::Wipe && std::abs(e->position().x() - (r.left() + wipe_ * r.width())) < 14) {
    wiping_ = true;
    return;
  }
  if (!(e->modifiers() & Qt::ShiftModifier) || !result_ || !result_->layers || !r.contains(e->position())) return;
  const double px = (e->position().x() - r.x()) / r.width() * result_->layers->width;
  const double py = (e->position().y() - r.y()) / r.height() * result_->layers->height;
  if (const auto hit = surfaceAt(*result_->layers, px, py))
    emit pinned(pinAt(*result_->layers->scene, result_->plan, *hit));
}
void EaselView::mouseReleaseEvent(QMouseEvent*) { wiping_ = false; }

void EaselView::mouseMoveEvent(QMouseEvent* e) {
  const QRectF r = pictureRect();
  if (wiping_) {
    wipe_ = std::clamp((e->position().x() - r.left()) / r.width(), 0.02, 0.98);
    update();
    return;
  }
  setCursor(compare_ == Compare::Wipe && std::abs(e->position().x() - (r.left() + wipe_ * r.width())) < 14
                ? Qt::SplitHCursor
                : Qt::ArrowCursor);
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
    const bool mapped = map_ && !mapImage_.isNull();
    p.drawImage(r, compare_ == Compare::Flip ? before_ : mapped ? mapImage_ : shown_);
    if (clipping_ && !clipped_.isNull() && compare_ != Compare::Flip && !mapped) p.drawImage(r, clipped_);
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
      p.drawEllipse(QPointF(r.left() + x, r.bottom() - 34), 9, 9);
    }
    if (compare_ != Compare::Off) {
      auto tag = [&](const QString& words, bool left) {
        p.setFont(lettering(10, true));
        const double most = r.width() / 2 - 24;
        const QString shown = p.fontMetrics().elidedText(words, Qt::ElideRight, int(most));
        const double w = p.fontMetrics().horizontalAdvance(shown) + 16;
        const QRectF box(left ? r.left() + 8 : r.right() - 8 - w, r.top() + 8, w, 24);
        p.setPen(Qt::NoPen);
        p.setBrush(t.panel);
        p.drawRoundedRect(box, 4, 4);
        p.setPen(t.text);
        p.drawText(box, Qt::AlignCenter, shown);
      };
      tag(tr("Kept: %1").arg(beforeName_), true);
      if (compare_ == Compare::Wipe) tag(tr("Now"), false);
    }
    if (mapped && compare_ == Compare::Off) drawMapLegend(p, r);
    if (zebra_ > 0 && !zebraImage_.isNull() && compare_ == Compare::Off && !mapped) p.drawImage(r, zebraImage_);
    if (compare_ == Compare::Off && !mapped) drawEvidence(p, r);
    if (pins_) drawPins(p, r);
    if (histogram_ && result_) drawHistogram(p, r, result_->histogram);
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
  if (reading_ && greyCard_) drawGreyCard(p);
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
  p.drawText(box, Qt::AlignCenter, shown);
  if (histogram_) drawHistogram(p, r, besideHistogram_);
}

void EaselView::drawGreyCard(QPainter& p) {
  const Theme& t = Theme::current();
  const int v = greyCardValue(result_->plan, reading_->stops);
  const QRectF card(pointer_->x() - 62, pointer_->y() - 62, 52, 52);
  p.setPen(QPen(Qt::white, 1));
  p.setBrush(QColor(v, v, v));
  p.drawRect(card);
  p.setPen(v > 140 ? Qt::black : Qt::white);
  p.setFont(lettering(10, true));
  p.drawText(card, Qt::AlignCenter, QString::number(v));
  p.setFont(lettering(9));
  const QString words = tr("grey card, wants 118");
  const QRectF tag(card.left(), card.top() - 20, p.fontMetrics().horizontalAdvance(words) + 12, 18);
  p.setPen(Qt::NoPen);
  p.setBrush(t.panel);
  p.drawRoundedRect(tag, 3, 3);
  p.setPen(t.text);
  p.drawText(tag, Qt::AlignCenter, words);
}

void EaselView::drawEvidence(QPainter& p, const QRectF& r) {
  if (!result_ || !result_->layers || result_->layers->width <= 0) return;
  const Theme& t = Theme::current();
  QTransform onto;
  onto.translate(r.left(), r.top());
  onto.scale(r.width() / result_->layers->width, r.height() / result_->layers->height);
  struct Label {
    QPointF at;
    QString text;
  };
  std::vector<Label> labels;
  for (const Drawn& d : drawn_) {
    const QPainterPath path = onto.map(d.path);
    p.setBrush(Qt::NoBrush);
    // Dashes along pieces of a millimetre would run together: what is less sure is drawn thinner and greyer instead.
    p.setPen(QPen(QColor(0, 0, 0, 170), d.dashes == 0 ? 3.6 : 2.6, Qt::SolidLine, Qt::RoundCap));
    p.drawPath(path);
    p.setPen(QPen(d.dashes == 0   ? QColor(255, 255, 255)
                  : d.dashes == 1 ? QColor(255, 206, 120)
                                  : QColor(200, 200, 200),
                  d.dashes == 0 ? 1.8 : 1.2, Qt::SolidLine, Qt::RoundCap));
    p.drawPath(path);
    const QPointF left = onto.map(d.leftmost), right = onto.map(d.rightmost);
    if (!d.label.isEmpty()) labels.push_back({left.x() - r.left() < r.right() - right.x() ? left : right, d.label});
  }
  p.setFont(lettering(9, true));
  // Tags stand at the picture's nearer edge, so that they cover no face.
  std::vector<QRectF> taken;
  auto tag = [&](QPointF at, const QString& text) {
    const double w = p.fontMetrics().horizontalAdvance(text) + 12;
    QRectF box(r.left() + 6, std::clamp(at.y() - 10, r.top() + 6, r.bottom() - 26), w, 20);
    if (at.x() > r.center().x()) box.moveRight(r.right() - 6);
    for (const QRectF& other : taken)
      if (box.intersects(other.adjusted(0, -3, 0, 3))) box.moveTop(other.bottom() + 4);
    taken.push_back(box);
    p.setPen(QPen(Qt::white, 1.2));
    p.drawLine(at, QPointF(box.left() > at.x() ? box.left() : box.right(), box.center().y()));
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.panel);
    p.drawRoundedRect(box, 3, 3);
    p.setPen(t.text);
    p.drawText(box, Qt::AlignCenter, text);
  };
  for (const Label& l : labels) tag(l.at, l.text);
  auto ring = [&](QPointF at, double size) {
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(Qt::black, 3.4));
    p.drawEllipse(at, size, size);
    p.setPen(QPen(QColor(255, 206, 120), 1.8));
    p.drawEllipse(at, size, size);
  };
  for (const QPointF& point : places_) ring(onto.map(point), places_.size() > 12 ? 3 : 11);
  for (const Mark& m : marks_) {
    const QPointF at = onto.map(m.pixel);
    ring(at, m.label.isEmpty() ? 2.5 : 8);
    if (!m.label.isEmpty()) tag(at, m.label);
  }
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
  p.drawText(QRectF(box.left() + 10, plot.bottom() + 4, box.width() - 20, 14), Qt::AlignLeft,
             tr("blocked %1 %").arg(100 * h.blocked, 0, 'f', 1));
  p.drawText(QRectF(box.left() + 10, plot.bottom() + 4, box.width() - 20, 14), Qt::AlignRight,
             tr("burnt %1 %").arg(100 * h.burnt, 0, 'f', 1));
  p.setPen(t.accent);
  p.drawText(QRectF(box.left() + 10, plot.bottom() + 18, box.width() - 20, 14), Qt::AlignCenter, tr("mid grey"));
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
    p.drawText(QRectF(patch.right() + 4, patch.top(), 28, 20), Qt::AlignLeft | Qt::AlignVCenter, shortStops(stops));
  }
  p.setPen(t.quiet);
  p.drawText(QRectF(box.left(), box.bottom() - 22, box.width(), 18), Qt::AlignCenter, tr("0: grey"));
}

void EaselView::drawPins(QPainter& p, const QRectF& r) {
  if (!result_ || !result_->layers || !result_->layers->scene || !result_->table) return;
  const Theme& t = Theme::current();
  p.setFont(lettering(9, true));
  for (const MeterSpot& s : result_->table->spots) {
    if (s.id.rfind("pin-", 0) != 0) continue;
    const auto at = pixelOf(*result_->layers, s.position);
    if (!at) continue;
    const QPointF c(r.left() + double(at->x) / result_->layers->width * r.width(),
                    r.top() + double(at->y) / result_->layers->height * r.height());
    const QRectF box(c.x() - 9, c.y() - 9, 18, 18);
    p.setPen(QPen(t.text, 1.5));
    p.setBrush(t.panel);
    p.drawRect(box);
    p.setPen(t.text);
    p.drawText(box, Qt::AlignCenter, QString::fromStdString(s.id.substr(4)));
  }
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
      p.drawText(QRectF(x, bar.top(), w, bar.height()), Qt::AlignCenter,
                 ambient ? tr("amb") : QString::fromStdString(s.id));
    }
    x += w;
  }
  p.setPen(QPen(t.line, 1));
  p.setBrush(Qt::NoBrush);
  p.drawRect(bar);
}

}  // namespace easel::app
