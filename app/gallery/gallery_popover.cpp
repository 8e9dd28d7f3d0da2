#include "gallery/gallery_popover.h"

#include <QKeyEvent>
#include <QScreen>
#include <QVBoxLayout>
#include <algorithm>

#include "widgets/theme.h"

namespace easel::app {

GalleryPopover::GalleryPopover(ViewedPlan* viewed, QWidget* parent) : QFrame(parent, Qt::Popup) {
  setObjectName("galleryPopover");
  setFrameShape(QFrame::Box);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(4, 4, 4, 4);
  pictures_ = new ChoiceGallery(viewed, this);
  all->addWidget(pictures_);
  connect(pictures_, &ChoiceGallery::tryOut, this, &GalleryPopover::tryOut);
  connect(pictures_, &ChoiceGallery::chosen, this, &QWidget::close);
}

void GalleryPopover::add(const ChoiceGallery::Pictured& pictured) {
  pictures_->add(pictured);
  pictured.box->opens = [this, box = pictured.box] {
    openAt(box);
    return true;
  };
}

void GalleryPopover::openAt(PicturedBox* box) {
  const QRect screen = box->screen()->availableGeometry();
  const QSize wanted = (QSizeF(740, 480) * Theme::current().scale).toSize().boundedTo(screen.size());
  resize(wanted);
  // Over the box where there is no room below it, and within the screen.
  const QPoint under = box->mapToGlobal(QPoint(0, box->height())), over = box->mapToGlobal(QPoint(0, -wanted.height()));
  const int top = under.y() + wanted.height() <= screen.bottom() ? under.y() : over.y();
  move(std::clamp(under.x(), screen.left(), std::max(screen.left(), screen.right() - wanted.width())),
       std::max(screen.top(), top));
  pictures_->showFor(box);
  show();
  pictures_->gallery()->setCurrent(pictures_->gallery()->chosen());
  pictures_->gallery()->setFocus(Qt::PopupFocusReason);
}

void GalleryPopover::keyPressEvent(QKeyEvent* e) {
  if (e->key() == Qt::Key_Escape) close();
}

}  // namespace easel::app
