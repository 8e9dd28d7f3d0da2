// The looks in their order: when each begins, what it takes, why it stands there; what a late day can give up.
#pragma once

#include <QWidget>

#include "controllers/day_desk.h"

class QBoxLayout;
class QCheckBox;
class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QSpinBox;
class QTableWidget;

namespace easel::app {

class DayLine;
class SpokenField;

class OrderPage : public QWidget {
  Q_OBJECT

 public:
  explicit OrderPage(DayDesk* desk, QWidget* parent = nullptr);
  int chosen() const;
  void choose(int look);
  /// So many places later in the day, or earlier; not past its ends.
  void moveChosen(int by);

 signals:
  /// The plan of the chosen look is to be opened in a window of its own.
  void planWanted(int look);

 private:
  QPushButton* button(const char* name, const QString& text, QBoxLayout* in);
  QWidget* orderHalf();
  QWidget* lookHalf();
  QFormLayout* lookForm(QWidget* right);
  void join();
  void refresh();
  void showLook();
  void showPrints();
  void edit(const QString& label, const std::function<void(DayLook&)>& change, const QString& key = {});
  SpokenField* field(const char* name, const QString& label, std::function<void(DayLook&, const QString&)> set);

  DayDesk* desk_;
  DayLine* line_;
  QTableWidget* table_;
  QLabel *sum_, *print_, *why_, *problems_;
  QPushButton *best_, *earlier_, *later_, *remove_, *open_;
  SpokenField *title_, *sitters_, *outfit_, *framing_, *notes_;
  QSpinBox* frames_;
  QCheckBox* must_;
  QComboBox *place_, *after_;
  QListWidget *chores_, *reliefs_;
  QString key_;  ///< of the look whose fields are shown
  bool filling_ = false;
};

}  // namespace easel::app
