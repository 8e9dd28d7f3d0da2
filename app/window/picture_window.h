// The picture alone, for a second screen or for who is being photographed.
#pragma once

#include <QWidget>

#include "easel/easel_view.h"

namespace easel::app {

class PictureWindow : public QWidget {
  Q_OBJECT

 public:
  explicit PictureWindow(QWidget* parent = nullptr);
  EaselView* easel() { return easel_; }

 signals:
  void closed();

 protected:
  void keyPressEvent(QKeyEvent*) override;
  void closeEvent(QCloseEvent*) override;

 private:
  EaselView* easel_;
};

}  // namespace easel::app
