#include "ledge_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include "theme.h"
#include "unit_painting.h"
#include "wording.h"

namespace easel::app {

LedgeView::LedgeView(QWidget* parent) : QWidget(parent) {
  setFocusPolicy(Qt::StrongFocus);
  setAccessibleName(tr("Ledge: prints of each light alone"));
  setToolTip(tr("Click a print to see that light alone; click it again to go back."));
}

void LedgeView::setResult(std::shared_ptr<const Result> result) {
  if (!result || result->prints.empty()) return;
  result_ = result;
  prints_.clear();
  auto imageOf = [](const Picture& p) {
    return QImage(p.rgba.data(), p.width, p.height, p.width * 4, QImage::Format_RGBA8888).copy();
  };
  if (buildUp_) {
    for (const auto& [id, picture] : result->buildUp) {
      const Light* l = result->plan.light(id);
      const QString plus = prints_.empty() ? QString() : QStringLiteral("+ ");
      prints_.push_back(
          {plus + QStringLiteral("%1 %2").arg(QString::fromStdString(id), l ? roleText(l->role) : QString()),
           imageOf(picture), Show{Show::What::UpTo, id}, l && !l->on});
    }
    update();
    return;
  }
  for (const auto& [id, picture] : result->prints) {
    Print print;
    print.image = imageOf(picture);
    if (id == "ambient") {
      print.label = tr("Ambient");
      print.show = {Show::What::Ambient, {}};
    } else if (id == "all") {
      print.label = tr("All");
      print.show = {};
    } else {
      const Light* l = result->plan.light(id);
      print.label = QStringLiteral("%1 %2").arg(QString::fromStdString(id), l ? roleText(l->role) : QString());
      print.show = {Show::What::Solo, id};
      print.off = l && !l->on;
    }
    prints_.push_back(std::move(print));
  }
  update();
}

void LedgeView::setBuildUp(bool on) {
  buildUp_ = on;
  if (result_) setResult(result_);
}

QRectF LedgeView::printRect(size_t index) const {
  const double shape =
      prints_.empty() || prints_[0].image.isNull() ? 0.8 : double(prints_[0].image.width()) / prints_[0].image.height();
  // Many prints share the ledge: they get smaller before any is cut off.
  const double most = (width() - 20.0) / double(std::max<size_t>(1, prints_.size())) - 12;
  const double w = std::max(16.0, std::min((height() - 30) * shape, most)), h = w / shape;
  return {14 + double(index) * (w + 12), 6 + (height() - 30 - h) / 2, w, h};
}

void LedgeView::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
  p.fillRect(rect(), t.surround.darker(t.dim ? 118 : 112));
  p.setFont(lettering(9.5, true));
  const QColor ink = t.dim ? t.text : QColor(Qt::white);
  for (size_t i = 0; i < prints_.size(); ++i) {
    const QRectF r = printRect(i);
    p.drawImage(r, prints_[i].image);
    const bool shown = prints_[i].show.what == show_.what && prints_[i].show.light == show_.light;
    if (shown) {
      p.setPen(QPen(t.dim ? t.accent : QColor(255, 205, 120), 3));
      p.setBrush(Qt::NoBrush);
      p.drawRect(r.adjusted(-2, -2, 2, 2));
    }
    p.setPen(ink);
    const QString label = (prints_[i].off ? tr("%1 (off)").arg(prints_[i].label) : prints_[i].label);
    p.drawText(QRectF(r.left() - 4, r.bottom() + 3, r.width() + 8, 18), Qt::AlignCenter,
               p.fontMetrics().elidedText(label, Qt::ElideRight, int(r.width() + 8)));
  }
  if (!prints_.empty()) {
    const double from = printRect(prints_.size()).left() + 4;
    p.setFont(lettering(9.5));
    if (width() - from > 120)
      p.drawText(QRectF(from, 0, width() - from - 10, height()), Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap,
                 show_.what == Show::What::All
                     ? buildUp_ ? tr("The picture as it grows. Click a print to see that state.")
                                : tr("Click a print to see that light alone.")
                     : tr("Shown by itself. Click it again, or press Escape, for the whole picture."));
  }
  paintFocus(p, *this);
}

void LedgeView::choose(size_t index) {
  const bool shown = prints_[index].show.what == show_.what && prints_[index].show.light == show_.light;
  emit chosen(shown ? Show{} : prints_[index].show);
}

void LedgeView::mousePressEvent(QMouseEvent* e) {
  for (size_t i = 0; i < prints_.size(); ++i)
    if (printRect(i).adjusted(-5, -5, 5, 24).contains(e->position())) {
      choose(i);
      return;
    }
}

void LedgeView::keyPressEvent(QKeyEvent* e) {
  size_t now = 0;
  for (size_t i = 0; i < prints_.size(); ++i)
    if (prints_[i].show.what == show_.what && prints_[i].show.light == show_.light) now = i;
  if (e->key() == Qt::Key_Right && now + 1 < prints_.size())
    emit chosen(prints_[now + 1].show);
  else if (e->key() == Qt::Key_Left && now > 0)
    emit chosen(prints_[now - 1].show);
  else
    QWidget::keyPressEvent(e);
}

}  // namespace easel::app
