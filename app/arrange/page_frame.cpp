#include "arrange/page_frame.h"

#include <QResizeEvent>
#include <QScrollBar>
#include <algorithm>

namespace easel::app {

PageFrame::PageFrame(QWidget* page, int leastHeight, QWidget* parent) : QScrollArea(parent), leastHeight_(leastHeight) {
  setWidget(page);
  setWidgetResizable(true);
  setFrameShape(QFrame::NoFrame);
  setFocusPolicy(Qt::NoFocus);
}

QSize PageFrame::sizeHint() const {
  const QSize hint = widget()->sizeHint();
  const int tall = width() > 0 && widget()->hasHeightForWidth() ? widget()->heightForWidth(width()) : 0;
  return {hint.width(), std::max(hint.height(), tall)};
}

// Other type, other columns, though the frame may be as wide as before.
void PageFrame::changeEvent(QEvent* e) {
  QScrollArea::changeEvent(e);
  if (e->type() != QEvent::FontChange && e->type() != QEvent::StyleChange) return;
  if (auto* page = dynamic_cast<Reflowing*>(widget())) page->fitWidth(viewport()->width());
}

void PageFrame::resizeEvent(QResizeEvent* e) {
  if (auto* page = dynamic_cast<Reflowing*>(widget())) page->fitWidth(viewport()->width());
  QScrollArea::resizeEvent(e);
}

QSize PageFrame::minimumSizeHint() const {
  const QSize least = widget()->minimumSizeHint();
  const int wide = dynamic_cast<Reflowing*>(widget()) ? std::min(least.width(), 300) : least.width();
  return {wide + verticalScrollBar()->sizeHint().width(), std::min(least.height(), leastHeight_)};
}

}  // namespace easel::app
