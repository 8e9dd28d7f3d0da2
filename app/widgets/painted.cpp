#include "widgets/painted.h"

#include <QMouseEvent>
#include <QStringList>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "widgets/theme.h"

namespace easel::app {

double Painted::zoom() const { return Theme::current().scale * magnified_; }

void Painted::setMagnified(double by) {
  if (by == magnified_) return;
  magnified_ = by;
  updateGeometry();
  update();
}

QSize Painted::inPixels(double across, double down) const {
  return {int(std::ceil(across * zoom())), int(std::ceil(down * zoom()))};
}

void Painted::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
  p.scale(zoom(), zoom());
  draw(p);
}

bool Painted::event(QEvent* e) {
  const double z = zoom();
  if (translating_ || z == 1) return QWidget::event(e);
  const auto passOn = [&](QEvent& in) {
    translating_ = true;
    const bool taken = QWidget::event(&in);
    translating_ = false;
    e->setAccepted(in.isAccepted());
    return taken;
  };
  switch (e->type()) {
    case QEvent::MouseButtonPress:
    case QEvent::MouseButtonRelease:
    case QEvent::MouseButtonDblClick:
    case QEvent::MouseMove: {
      auto* m = static_cast<QMouseEvent*>(e);
      QMouseEvent in(m->type(), m->position() / z, m->scenePosition(), m->globalPosition(), m->button(), m->buttons(),
                     m->modifiers(), m->pointingDevice());
      return passOn(in);
    }
    case QEvent::Wheel: {
      auto* w = static_cast<QWheelEvent*>(e);
      QWheelEvent in(w->position() / z, w->globalPosition(), w->pixelDelta(), w->angleDelta(), w->buttons(),
                     w->modifiers(), w->phase(), w->inverted(), w->source(), w->pointingDevice());
      return passOn(in);
    }
    default:
      return QWidget::event(e);
  }
}

QStringList& cramped() {
  static QStringList list;
  return list;
}

void letter(QPainter& p, const QRectF& box, int flags, const QString& words, bool mayBeCut) {
  const QFontMetricsF m(p.font());
  if (flags & Qt::TextWordWrap) {
    const QRectF needed = m.boundingRect(box, flags, words);
    if (!mayBeCut && needed.height() > box.height() + 1) cramped() << words;
    p.drawText(box, flags, words);
    return;
  }
  // A hair more than the box is a rounding of the metrics, not a word that is cut.
  if (m.horizontalAdvance(words) <= box.width() + 1) {
    p.drawText(box, flags, words);
    return;
  }
  if (!mayBeCut) cramped() << words;
  p.drawText(box, flags, m.elidedText(words, Qt::ElideRight, box.width()));
}

}  // namespace easel::app
