// The pictures of a box's choices over the window, where the page has no room for them beside its fields.
#pragma once

#include <QFrame>

#include "gallery/choice_gallery.h"

namespace easel::app {

/// Opens where the box would open its list; Escape, a click beside it or a choice closes it. Interface thread.
class GalleryPopover : public QFrame {
  Q_OBJECT

 public:
  explicit GalleryPopover(ViewedPlan* viewed, QWidget* parent);
  void add(const ChoiceGallery::Pictured& pictured);
  ChoiceGallery* pictures() const { return pictures_; }

 signals:
  void tryOut(const easel::Plan& plan, const QString& name);

 protected:
  void keyPressEvent(QKeyEvent* e) override;

 private:
  void openAt(PicturedBox* box);

  ChoiceGallery* pictures_;
};

}  // namespace easel::app
