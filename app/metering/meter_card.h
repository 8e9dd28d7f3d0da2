// The card of the stage Meter: what the readings are, and what to do.
#pragma once

#include <memory>

#include "cards/card.h"
#include "meter/spots.h"
#include "metering/readings_view.h"

class QPushButton;
class QTableWidget;

namespace easel {
struct Result;
}

namespace easel::app {

class MeterCard : public Card {
  Q_OBJECT
 public:
  explicit MeterCard(ViewedPlan* viewed, QWidget* parent = nullptr);
  void setResult(std::shared_ptr<const Result> result);
  /// Type of another size: the table is set anew.
  void changeEvent(QEvent* e) override;
  void refresh() override;
  void showEvent(QShowEvent* e) override;
  /// Where the meter is held, as in the table; empty before it has been taken.
  std::vector<MeterSpot> spots() const;
  std::string chosenSpot() const;  ///< the row that is chosen; empty: none

 signals:
  void spotChosen();
  void setCamera(int school);  ///< CameraSchool
  void exportWanted();

 private:
  void spotsPage();
  void singlePage();
  void cameraPage();
  void printSchools();
  void advicePage();
  void fillTable();
  std::shared_ptr<const Result> result_;
  QLabel *text_, *others_, *advice_;
  ReadingsView* readings_;
  QTableWidget* table_;
  struct School {
    QLabel *sentence, *print;
    QPushButton* apply;
  };
  std::vector<School> schools_;
  Prints prints_;
  std::optional<Plan> printed_;  ///< that the three pictures are of
};

}  // namespace easel::app
