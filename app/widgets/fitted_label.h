// One line of words that is set smaller where it has less room, then ends in dots; the whole is in its tip.
//
// New words never ask for another size: what changes at every move of a hand must not have the window laid out anew.
#pragma once

#include <QLabel>

namespace easel::app {

class FittedLabel : public QLabel {
  Q_OBJECT

 public:
  /// `least`: how small the words may become, as a part of their size.
  explicit FittedLabel(double least = 1, QWidget* parent = nullptr) : QLabel(parent), least_(least) {
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  }
  void setWords(const QString& words);
  const QString& words() const { return words_; }
  QSize sizeHint() const override { return minimumSizeHint(); }
  QSize minimumSizeHint() const override;
  /// Whether all of it can be read as it stands.
  bool whole() const;

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  QFont fitting() const;
  double least_;
  QString words_;
};

}  // namespace easel::app
