// Choices as pictures: a list that is looked at.
//
// Arrows, Home and End move, letters find a name, Enter or a click takes, Escape leaves. What the pointer rests on, or
// the keys have reached, is to be tried; leaving ends that. A picture may come later than its name.
#pragma once

#include <QImage>
#include <QListWidget>
#include <QTimer>

namespace easel::app {

class Gallery : public QListWidget {
  Q_OBJECT

 public:
  explicit Gallery(QWidget* parent = nullptr);

  struct Item {
    QString id, name, note;  ///< the note stands small under the name
  };
  /// Keeps the pictures of those that stay.
  void setItems(const std::vector<Item>& items);
  /// The one that holds now.
  void setChosen(const QString& id);
  QString chosen() const { return chosen_; }
  QString current() const;
  void setCurrent(const QString& id);
  void setPicture(const QString& id, const QImage& picture);
  bool hasPicture(const QString& id) const { return pictures_.contains(id); }
  void forgetPictures();
  QSize printPixels() const;
  /// Prints are never smaller than so high, in units of the type: more of them than fit are scrolled.
  void setLeast(double units);

  QSize sizeHint() const override;
  QSize minimumSizeHint() const override;

 signals:
  void rested(const QString& id);
  void left();
  void taken(const QString& id);

 protected:
  void keyPressEvent(QKeyEvent* e) override;
  void leaveEvent(QEvent* e) override;
  void focusOutEvent(QFocusEvent* e) override;
  void changeEvent(QEvent* e) override;
  void resizeEvent(QResizeEvent* e) override;

 private:
  friend class GalleryPainter;
  void restOn(const QString& id);
  void leave();
  void fitGrid();

  QHash<QString, QImage> pictures_;
  QString chosen_, resting_, tried_;
  QTimer rest_;
  QSizeF print_{64, 80};
  double least_ = 80;  ///< units
  double words_ = 26;  ///< height of what stands under a print, units
};

}  // namespace easel::app
