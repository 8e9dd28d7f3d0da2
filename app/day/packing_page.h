// What to bring, ticked when it is packed and when it is packed again; what the kit has not, and what could stand in.
#pragma once

#include <QWidget>

#include "controllers/day_desk.h"
#include "document/strand.h"

class QLabel;
class QListWidget;
class QPushButton;
class QTreeWidget;
class QTreeWidgetItem;

namespace easel::app {

class PackingPage : public QWidget {
  Q_OBJECT

 public:
  explicit PackingPage(DayDesk* desk, QWidget* parent = nullptr);
  bool working() const { return work_.running() || disk_.busy(); }

 signals:
  void said(const QString& sentence, bool problem);

 protected:
  void showEvent(QShowEvent* e) override;

 private:
  void refresh();
  void showStandIns();
  void compare();
  void exportCsv();

  DayDesk* desk_;
  QTreeWidget* tree_;
  QLabel *sum_, *standIn_, *before_, *after_;
  QListWidget* standIns_;
  QPushButton* take_;
  std::vector<StandInFor> offers_;  ///< for the chosen thing
  BackgroundTask work_;
  Strand disk_{this};
  bool filling_ = false;
};

}  // namespace easel::app
