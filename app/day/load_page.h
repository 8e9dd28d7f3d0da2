// What hangs on which circuit and what stands on which feet, look by look, with the cautions beside them.
#pragma once

#include <QWidget>

#include "controllers/day_desk.h"

class QComboBox;
class QLabel;
class QListWidget;
class QTableWidget;

namespace easel::app {

class LoadPage : public QWidget {
  Q_OBJECT

 public:
  explicit LoadPage(DayDesk* desk, QWidget* parent = nullptr);

 protected:
  void showEvent(QShowEvent* e) override;

 private:
  void refresh();
  DayDesk* desk_;
  QComboBox* look_;
  QTableWidget *circuits_, *plugs_, *stands_;
  QListWidget* cautions_;
  QLabel* caution_;
};

}  // namespace easel::app
