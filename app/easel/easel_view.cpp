#include "easel/easel_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "render/picture_image.h"
#include "run/by_eye.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {

EaselView::EaselView(QWidget* parent) : Painted(parent) {
  setAttribute(Qt::WA_OpaquePaintEvent);  // all of it is painted; nothing need be laid under it
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  evidence_ = new EaselEvidence(this);
  connect(evidence_, &EaselEvidence::changed, this, [this] { update(); });
  setAccessibleName(tr("Easel: the predicted portrait"));
  setWhatsThis(tr(
      "Rest the pointer anywhere: it reads like a meter. Arrow keys move it. Shift+click pins the meter there.\n"
      "The wheel, + and - look closer, 0 shows the whole; dragging or Ctrl and the arrows move the picture; E goes to "
      "the eyes.\n"
      "K keeps the picture, W wipes between it and what is shown now, F flips. H histogram, S stops map, C clipping."));
}

void EaselView::setResult(std::shared_ptr<const Result> result, bool upToDate) {
  result_ = std::move(result);
  upToDate_ = upToDate;
  evidence_->setResult(result_);
  if (result_ && !result_->picture.rgba.empty()) {
    const Picture& p = result_->picture;
    image_ = imageOf(p);
    // Opaque and in the screen's own order: what the painter scales without converting it at every paint.
    shown_ = image_.convertToFormat(QImage::Format_RGB32);
    mapImage_ = imageOf(result_->map);
    markClipping();
    markZebra();
    takeTiles();
    wishSharp();
  }
  readThere();
  update();
}

double EaselView::settled() const {
  constexpr double kAll = 64;  // passes; every doubling removes the same share of the noise
  if (!result_ || !result_->layers) return 0;
  return result_->done ? 1 : std::min(1.0, std::log2(1.0 + result_->passes) / std::log2(1 + kAll));
}

void EaselView::setTools(const EaselTools& tools) {
  if (tools == tools_) return;
  tools_ = tools;
  markClipping();
  markZebra();
  emit toolsChanged();
  update();
}
void EaselView::markClipping() {
  clipped_ = {};
  if (tools_.clipping && !image_.isNull()) {
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
}

void EaselView::markZebra() {
  zebraImage_ = {};
  if (tools_.zebra && !image_.isNull()) {
    zebraImage_ = QImage(image_.size(), QImage::Format_ARGB32_Premultiplied);
    zebraImage_.fill(Qt::transparent);
    const int limit = int(std::lround(255 * tools_.zebraLevel));
    for (int y = 0; y < image_.height(); ++y) {
      const uchar* in = image_.constScanLine(y);
      auto* out = reinterpret_cast<QRgb*>(zebraImage_.scanLine(y));
      for (int x = 0; x < image_.width(); ++x, in += 4)
        if (std::max({in[0], in[1], in[2]}) >= limit && ((x - y + 8192) / 3) % 3 == 0) out[x] = qRgb(20, 20, 20);
    }
  }
}
void EaselView::setBeside(const QImage& picture, const QString& name) {
  beside_ = picture.isNull() ? QImage() : picture.convertToFormat(QImage::Format_RGBA8888);
  besideName_ = name;
  besideAt_.reset();
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
void EaselView::keepBefore(const QString& name) {
  before_ = sharpPicture();
  beforeName_ = name;
  update();
}
void EaselView::setCompare(Compare mode) {
  compare_ = before_.isNull() ? Compare::Off : mode;
  update();
}

// On whole pixels of the screen, so that a picture of as many pixels is shown as it is.
QRectF EaselView::fitted(const QRectF& into, const QSizeF& size) const {
  const double device = zoom() * devicePixelRatioF();
  const double scale = std::max(0.05, std::min(into.width() / size.width(), into.height() / size.height()));
  const double w = std::floor(size.width() * scale * device), h = std::floor(size.height() * scale * device);
  return {std::round(into.center().x() * device - w / 2) / device,
          std::round(into.center().y() * device - h / 2) / device, w / device, h / device};
}
QRectF EaselView::half(bool right) const {
  const QRectF all = bare_ ? area() : QRectF(14, 9, across() - 28, down() - 40);
  if (beside_.isNull()) return all;
  const double w = (all.width() - 10) / 2;
  return {right ? all.right() - w : all.left(), all.top(), w, all.height()};
}
QRectF EaselView::pictureRect() const {
  const QRectF room = half(false);
  const QRectF whole = fitted(room, image_.isNull() ? QSizeF(640, 800) : QSizeF(image_.size()));
  if (closer_ <= 1) return whole;
  const double device = zoom() * devicePixelRatioF();
  const auto snapped = [&](double v) { return std::round(v * device) / device; };
  const QSizeF size(snapped(whole.width() * closer_), snapped(whole.height() * closer_));
  // Never past an edge while there is picture on the other side.
  const auto place = [&](double from, double length, double size, double share) {
    if (size <= length) return from + (length - size) / 2;
    return std::clamp(from + length / 2 - share * size, from + length - size, from);
  };
  return {QPointF(snapped(place(room.left(), room.width(), size.width(), centre_.x())),
                  snapped(place(room.top(), room.height(), size.height(), centre_.y()))),
          size};
}

// A traced pixel may stand on two by two of the screen, no more.
double EaselView::mostCloser() const {
  const QRectF whole = fitted(half(false), image_.isNull() ? QSizeF(640, 800) : QSizeF(image_.size()));
  return std::max(1.0, 2.0 * kSharpest / (std::max(whole.width(), whole.height()) * zoom() * devicePixelRatioF()));
}

void EaselView::lookCloser(double by, QPointF at) {
  closer_ = std::clamp(by, 1.0, mostCloser());
  centre_ = {std::clamp(at.x(), 0.0, 1.0), std::clamp(at.y(), 0.0, 1.0)};
  wishSharp();
  readThere();
  update();
}

void EaselView::lookAtEyes() {
  if (closer_ > 1.01) return lookCloser(1, {0.5, 0.5});
  if (!result_ || !result_->layers || !result_->layers->scene) return;
  const Layers& layers = *result_->layers;
  const Landmarks& marks = layers.scene->sitter().landmarks;
  const auto left = pixelOf(layers, layers.scene->studioPoint(marks.eyeLeft)),
             right = pixelOf(layers, layers.scene->studioPoint(marks.eyeRight));
  if (!left || !right) return;
  const QPointF middle((double(left->x) + double(right->x)) / 2 / layers.width,
                       (double(left->y) + double(right->y)) / 2 / layers.height);
  // Both eyes over some three fifths of the width.
  const double apart = std::max(0.01, std::abs(double(left->x) - double(right->x)) / layers.width);
  lookCloser(0.5 / apart * half(false).width() / std::max(1.0, pictureRect().width()), middle);
}

void EaselView::setBare(bool bare) {
  bare_ = bare;
  setFocusPolicy(bare ? Qt::NoFocus : Qt::StrongFocus);
  update();
}

void EaselView::wishSharp() {
  SharpWish wish;
  if (isVisible() && !image_.isNull() && beside_.isNull()) {
    const double device = zoom() * devicePixelRatioF();
    const QRectF r = pictureRect(), seen = r.intersected(half(false));
    const double w = r.width() * device, h = r.height() * device;
    const double part = std::min(1.0, kSharpest / std::max(w, h));
    wish.width = int(std::lround(w * part));
    wish.height = int(std::lround(h * part));
    wish.left = int(std::floor((seen.left() - r.left()) * device * part));
    wish.top = int(std::floor((seen.top() - r.top()) * device * part));
    wish.across = int(std::ceil(seen.width() * device * part));
    wish.down = int(std::ceil(seen.height() * device * part));
    // The ordinary picture has them already.
    if (wish.width <= image_.width() + 8) wish = {};
  }
  if (wish == wish_) return;
  wish_ = wish;
  emit sharpWanted(wish_);
}

void EaselView::takeTiles() {
  const Result& r = *result_;
  if (r.serial != sharpSerial_ || !(r.sharpOf == sharpOf_)) {
    tiles_.clear();
    sharpSerial_ = r.serial;
    sharpOf_ = r.sharpOf;
  }
  for (const SharpTile& t : r.sharp)
    tiles_.emplace_back(QPoint(t.left, t.top), imageOf(t.picture).convertToFormat(QImage::Format_RGB32));
  sharpDone_ = r.sharpDone && sharpOf_.width > 0;
}

QImage EaselView::sharpPicture() const {
  if (tiles_.empty()) return image_;
  QImage all = image_.scaled(sharpOf_.width, sharpOf_.height, Qt::IgnoreAspectRatio, Qt::SmoothTransformation)
                   .convertToFormat(QImage::Format_RGB32);
  QPainter p(&all);
  for (const auto& [at, tile] : tiles_) p.drawImage(at, tile);
  return all;
}

void EaselView::resizeEvent(QResizeEvent*) { wishSharp(); }
void EaselView::showEvent(QShowEvent*) { wishSharp(); }
void EaselView::hideEvent(QHideEvent*) { wishSharp(); }

void EaselView::wheelEvent(QWheelEvent* e) {
  e->accept();
  const int steps = wheel_.take(*e);
  if (!steps || image_.isNull()) return;
  const QRectF r = pictureRect();
  const QPointF at((e->position().x() - r.x()) / r.width(), (e->position().y() - r.y()) / r.height());
  const double by = std::clamp(closer_ * std::pow(1.25, steps), 1.0, mostCloser());
  // What is under the pointer stays there.
  const QPointF off = (e->position() - half(false).center());
  const QRectF whole = fitted(half(false), QSizeF(image_.size()));
  lookCloser(by, {at.x() - off.x() / (whole.width() * by), at.y() - off.y() / (whole.height() * by)});
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
  SpotReading s = readPixel(*result_->layers, *result_->set, px, py);
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

namespace {

// The grey value of a place (0..1 across and down) over a patch that evens out noise, 0..255.
double valueAt(const QImage& picture, QPointF at) {
  constexpr int kPatch = 4;
  const int x = int(at.x() * picture.width()), y = int(at.y() * picture.height());
  double sum = 0;
  int n = 0;
  for (int v = std::max(0, y - kPatch); v <= std::min(picture.height() - 1, y + kPatch); ++v)
    for (int u = std::max(0, x - kPatch); u <= std::min(picture.width() - 1, x + kPatch); ++u, ++n)
      sum += qGray(picture.pixel(u, v));
  return n ? sum / n : 0;
}

}  // namespace

void EaselView::readBeside(QPointF at) {
  if (!result_ || image_.isNull()) return;
  besideAt_ = at;
  const double there = valueAt(beside_, at), here = valueAt(image_, at);
  const double over = stopsOfValue(result_->plan.camera, there), predicted = stopsOfValue(result_->plan.camera, here);
  emit besideRead(tr("Photograph %1: as a card %2. Predicted there %3: the photograph is %4. A camera's picture style "
                     "bends this by some tenths.")
                      .arg(std::lround(there))
                      .arg(stopsText(over))
                      .arg(std::lround(here))
                      .arg(stopsText(over - predicted)));
  update();
}

void EaselView::mousePressEvent(QMouseEvent* e) {
  const QRectF r = pictureRect();
  if (const QRectF own = besideRect(); own.contains(e->position()))
    return readBeside({(e->position().x() - own.left()) / own.width(), (e->position().y() - own.top()) / own.height()});
  if (compare_ == Compare::Wipe && std::abs(e->position().x() - (r.left() + wipe_ * r.width())) < 14) {
    wiping_ = true;
    return;
  }
  if (closer_ > 1 && e->modifiers() == Qt::NoModifier) panning_ = e->position();
  if (!(e->modifiers() & Qt::ShiftModifier) || !result_ || !result_->layers || !r.contains(e->position())) return;
  const double px = (e->position().x() - r.x()) / r.width() * result_->layers->width;
  const double py = (e->position().y() - r.y()) / r.height() * result_->layers->height;
  if (const auto hit = surfaceAt(*result_->layers, px, py))
    emit pinned(pinAt(*result_->layers->scene, *result_->set, *hit));
}
void EaselView::mouseReleaseEvent(QMouseEvent*) {
  wiping_ = false;
  panning_.reset();
}

void EaselView::mouseMoveEvent(QMouseEvent* e) {
  const QRectF r = pictureRect();
  if (wiping_) {
    wipe_ = std::clamp((e->position().x() - r.left()) / r.width(), 0.02, 0.98);
    update();
    return;
  }
  if (panning_) {
    const QPointF by = e->position() - *panning_;
    panning_ = e->position();
    lookCloser(closer_, {centre_.x() - by.x() / r.width(), centre_.y() - by.y() / r.height()});
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
    case Qt::Key_Plus:
    case Qt::Key_Equal:
      return lookCloser(closer_ * 1.25, centre_);
    case Qt::Key_Minus:
      return lookCloser(closer_ / 1.25, centre_);
    case Qt::Key_0:
      return lookCloser(1, {0.5, 0.5});
    default:
      QWidget::keyPressEvent(e);
      return;
  }
  if (closer_ > 1 && (e->modifiers() & Qt::ControlModifier)) {
    const QRectF r = pictureRect();
    return lookCloser(closer_, {centre_.x() + 8 * by.x() / r.width(), centre_.y() + 8 * by.y() / r.height()});
  }
  pointer_ = pointer_.value_or(pictureRect().center()) + by;
  readThere();
  update();
}

}  // namespace easel::app
