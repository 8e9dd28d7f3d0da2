#include "widgets/fitted_label.h"

#include <QPainter>
#include <algorithm>

namespace easel::app {

void FittedLabel::setWords(const QString& words) {
  if (words == words_) return;
  words_ = words;
  setToolTip(words);
  setAccessibleName(words);
  update();
}

QSize FittedLabel::minimumSizeHint() const { return {60, fontMetrics().height() + 1}; }

QFont FittedLabel::fitting() const {
  QFont f = font();
  const double needs = QFontMetricsF(f).horizontalAdvance(words_), has = contentsRect().width();
  if (needs > has && has > 0) f.setPointSizeF(f.pointSizeF() * std::max(least_, has / needs * 0.985));
  return f;
}

bool FittedLabel::whole() const {
  return QFontMetricsF(fitting()).horizontalAdvance(words_) <= contentsRect().width() + 1;
}

void FittedLabel::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setFont(fitting());
  p.setPen(palette().color(foregroundRole()));
  p.drawText(contentsRect(), int(alignment()) | Qt::TextSingleLine,
             QFontMetricsF(p.font()).elidedText(words_, Qt::ElideRight, contentsRect().width()));
}

}  // namespace easel::app
