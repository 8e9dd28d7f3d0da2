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

// Other type, other columns, though the frame may be as wide as before. Asked when all have their new type: half-way
// there the page needs a width that it will never need again.
bool PageFrame::eventFilter(QObject* of, QEvent* e) {
  const bool taken = QScrollArea::eventFilter(of, e);
  if (of == widget() && e->type() == QEvent::LayoutRequest) reflow();
  return taken;
}

void PageFrame::resizeEvent(QResizeEvent* e) {
  reflow();
  QScrollArea::resizeEvent(e);
}

void PageFrame::reflow() {
  if (auto* page = dynamic_cast<Reflowing*>(widget())) page->fitWidth(viewport()->width());
}

QSize PageFrame::minimumSizeHint() const {
  const QSize least = widget()->minimumSizeHint();
  const int wide = dynamic_cast<Reflowing*>(widget()) ? std::min(least.width(), 300) : least.width();
  return {wide + verticalScrollBar()->sizeHint().width(), std::min(least.height(), leastHeight_)};
}

}  // namespace easel::app
