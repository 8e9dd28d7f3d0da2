#include "widgets/fitted_label.h"

#include <QPainter>
#include <algorithm>

namespace easel::app {

void FittedLabel::setWords(const QString& words) {
  setText(words);
  setToolTip(words);
  setAccessibleName(words);
}

QSize FittedLabel::minimumSizeHint() const { return {60, QLabel::minimumSizeHint().height()}; }

QFont FittedLabel::fitting() const {
  QFont f = font();
  const double needs = QFontMetricsF(f).horizontalAdvance(text()), has = contentsRect().width();
  if (needs > has && has > 0) f.setPointSizeF(f.pointSizeF() * std::max(least_, has / needs * 0.985));
  return f;
}

bool FittedLabel::whole() const {
  return QFontMetricsF(fitting()).horizontalAdvance(text()) <= contentsRect().width() + 1;
}

void FittedLabel::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setFont(fitting());
  p.setPen(palette().color(foregroundRole()));
  p.drawText(contentsRect(), int(alignment()) | Qt::TextSingleLine,
             QFontMetricsF(p.font()).elidedText(text(), Qt::ElideRight, contentsRect().width()));
}

}  // namespace easel::app
