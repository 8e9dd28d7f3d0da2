// Tools for those who judge by eye and do not meter: histogram, clipping, zebra, a grey card, a picture of their own.
#pragma once

#include <QWidget>

class QCheckBox;
class QSpinBox;
class QPushButton;

namespace easel::app {

class ByEyePage : public QWidget {
  Q_OBJECT
 public:
  explicit ByEyePage(QWidget* parent = nullptr);
  /// What is switched on elsewhere shows here.
  void setShown(bool histogram, bool clipping, double zebra, bool greyCard);
  double level() const;  ///< of the zebra, 0..1

 signals:
  void histogram(bool on);
  void clipping(bool on);
  void zebra(double level);  ///< 0: off
  void zebraLevel(double level);
  void greyCard(bool on);
  void besideWanted();
  void besideAway();

 private:
  QCheckBox *histogram_, *clipping_, *zebra_, *greyCard_;
  QSpinBox* level_;
};

}  // namespace easel::app
