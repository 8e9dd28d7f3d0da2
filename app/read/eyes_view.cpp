#include "read/eyes_view.h"

#include <QPainter>
#include <cmath>

#include "plan/subject.h"
#include "render/picture_image.h"
#include "widgets/theme.h"

namespace easel::app {

EyesView::EyesView(QWidget* parent) : Painted(parent) {
  setAccessibleName(tr("The eyes, enlarged"));
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void EyesView::show(const std::array<EyePicture, 2>& eyes, const Catchlights& catchlights) {
  eyes_ = eyes;
  for (size_t k = 0; k < 2; ++k) pictures_[k] = imageOf(eyes[k].picture);
  catchlights_ = catchlights;
  update();
}

void EyesView::draw(QPainter& p) {
  const Theme& t = Theme::current();
  // As the camera sees them: the sitter's right eye on the left.
  const double side = std::min(down() - 22.0, across() / 2.0 - 12);
  for (int place = 0; place < 2; ++place) {
    const int k = place == 0 ? 1 : 0;
    const EyePicture& eye = eyes_[size_t(k)];
    const QImage& picture = pictures_[size_t(k)];
    const QRectF box(across() / 2.0 + (place == 0 ? -side - 6 : 6), 0, side, side);
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.surround);
    p.drawRect(box);
    p.setPen(t.text);
    p.setFont(lettering(9));
    letter(p, QRectF(box.left(), box.bottom() + 2, box.width(), 18), Qt::AlignCenter,
           k == 1 ? tr("right eye (the sitter's)") : tr("left eye (the sitter's)"));
    if (picture.isNull() || !eye.seen) {
      p.setPen(t.dim ? t.text : QColor(Qt::white));
      letter(p, box, Qt::AlignCenter, picture.isNull() ? tr("looking...") : tr("turned away"));
      continue;
    }
    p.drawImage(box, picture);
    const double scale = side / picture.width();
    const QPointF middle = box.topLeft() + QPointF(double(eye.iris.x), double(eye.iris.y)) * scale;
    const double ring = eye.radius * scale;
    // The eye's clock: ticks round the iris.
    for (int h = 0; h < 12; ++h) {
      const double a = h * M_PI / 6, from = ring * 1.16, to = ring * (h % 3 ? 1.24 : 1.34);
      const QPointF d(std::sin(a), -std::cos(a));
      p.setPen(QPen(Qt::black, 3));
      p.drawLine(middle + d * from, middle + d * to);
      p.setPen(QPen(Qt::white, 1.4));
      p.drawLine(middle + d * from, middle + d * to);
    }
    // A letter beside each catchlight, with a line to it.
    for (const Catchlight& c : catchlights_.all) {
      if (c.eye != k || !c.lives) continue;
      const QPointF spot = middle + QPointF(c.x, -c.y) * (2 * ring);
      QPointF out = spot - middle;
      const double l = std::hypot(out.x(), out.y());
      out = l > 1 ? out / l : QPointF(0, -1);
      const QPointF at = middle + out * (ring * 1.75);
      p.setPen(QPen(Qt::black, 3));
      p.drawLine(spot + out * 4, at);
      p.setPen(QPen(Qt::white, 1.4));
      p.drawLine(spot + out * 4, at);
      const auto panel = panelOf(c.light);
      const QString text = QString::fromStdString(panel.value_or(c.light));
      p.setPen(QPen(t.text, 1.2));
      p.setBrush(t.panel);
      const QRectF tag(at.x() - 10, at.y() - 10, 20, 20);
      if (panel)
        p.drawRect(tag);
      else
        p.drawEllipse(tag);
      p.setFont(lettering(9, true));
      letter(p, tag, Qt::AlignCenter, text);
    }
  }
}

}  // namespace easel::app
