// Who comes and when, the hours of the day, and what the room has: breakers, sockets, what else hangs on them.
#pragma once

#include <QWidget>

#include "controllers/day_desk.h"

class QCheckBox;
class QFormLayout;

namespace easel::app {

class EditTable;
class SpokenField;

class PeoplePage : public QWidget {
  Q_OBJECT

 public:
  explicit PeoplePage(DayDesk* desk, QWidget* parent = nullptr);

 private:
  void hourFields(QFormLayout* hours);
  void refresh();
  SpokenField* field(QFormLayout* form, const char* name, const QString& label, std::function<QString(const Day&)> get,
                     std::function<void(Day&, const QString&)> set);
  DayDesk* desk_;
  std::vector<std::pair<SpokenField*, std::function<QString(const Day&)>>> fields_;
  QCheckBox* once_;
  EditTable *sitters_, *breaks_, *sockets_, *things_;
};

}  // namespace easel::app
