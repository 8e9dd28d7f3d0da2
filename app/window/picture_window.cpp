#include "window/picture_window.h"

#include <QKeyEvent>
#include <QVBoxLayout>

#include "widgets/within_screen.h"

namespace easel::app {

PictureWindow::PictureWindow(QWidget* parent) : QWidget(parent, Qt::Window), easel_(new EaselView) {
  setAttribute(Qt::WA_DeleteOnClose);
  setWindowTitle(tr("The picture - Jolly Easel"));
  auto* box = new QVBoxLayout(this);
  box->setContentsMargins(0, 0, 0, 0);
  box->addWidget(easel_);
  easel_->setBare(true);
  resizeWithin(this, {720, 900});
  connect(easel_, &EaselView::roomWanted, this, [this] { setWindowState(windowState() ^ Qt::WindowFullScreen); });
}

void PictureWindow::keyPressEvent(QKeyEvent* e) {
  if (e->key() == Qt::Key_F11)
    setWindowState(windowState() ^ Qt::WindowFullScreen);
  else if (e->key() == Qt::Key_Escape)
    isFullScreen() ? showNormal() : void(close());
  else
    QWidget::keyPressEvent(e);
}

void PictureWindow::closeEvent(QCloseEvent* e) {
  QWidget::closeEvent(e);
  emit closed();
}

}  // namespace easel::app
