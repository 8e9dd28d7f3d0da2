// Tools for those who judge by eye and do not meter: histogram, clipping, zebra, a grey card, a picture of their own.
#pragma once

#include <QWidget>

#include "easel/easel_tools.h"

class QCheckBox;
class QSpinBox;
class QPushButton;

namespace easel::app {

class ByEyePage : public QWidget {
  Q_OBJECT
 public:
  explicit ByEyePage(QWidget* parent = nullptr);
  /// What is switched on elsewhere shows here.
  void setShown(const EaselTools& tools);

 signals:
  void changed(const easel::app::EaselTools& tools);
  void besideWanted();
  void besideAway();

 private:
  void take();

  EaselTools tools_;
  QCheckBox *histogram_, *clipping_, *zebra_, *greyCard_;
  QSpinBox* level_;
};

}  // namespace easel::app
