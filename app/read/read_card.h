// What the picture tells: the pattern and three ways to another, the measures, the eyes, the faults with their cures,
// and tools for those who judge by eye.
#pragma once

#include <functional>

#include "analysis/remedies.h"
#include "cards/card.h"
#include "read/eyes_view.h"
#include "read/measures_view.h"
#include "read/pattern_page.h"
#include "render/background_task.h"

class QCheckBox;
class QListWidget;
class QProgressBar;
class QPushButton;
class QVBoxLayout;

namespace easel::app {

class ReadCard : public Card {
  Q_OBJECT

 public:
  explicit ReadCard(ViewedPlan* viewed, QWidget* parent = nullptr);
  /// Of the viewed plan; null while it is being read.
  void setReading(std::shared_ptr<const FaceAnalysis> reading);
  const std::shared_ptr<const FaceAnalysis>& reading() const { return reading_; }
  /// The fault that is chosen in the list; empty without one.
  QString chosenFault() const { return fault_; }
  QString chosenWhere() const { return where_; }
  void refresh() override;

 signals:
  void taken(const easel::Plan& plan, const QString& label);
  void evidenceChanged();  ///< another fault is chosen, or another page

 protected:
  void showEvent(QShowEvent*) override;

 private:
  void eyesPage();
  void faultsPage();
  void chooseFault();
  void chooseWorst();
  void askRemedies();
  void clearCures();
  void showRemedies(const std::vector<Remedy>& remedies);
  void askEyes();

  std::shared_ptr<const FaceAnalysis> reading_;
  PatternPage* pattern_;
  MeasuresView* measures_;
  QLabel *words_, *eyesText_, *faultText_, *remedyState_;
  EyesView* eyes_;
  std::optional<Plan> eyesPlan_;  ///< the plan whose eyes are shown or on their way
  QListWidget* faults_;
  QCheckBox* wantedBox_;
  QProgressBar* progress_;
  Gallery* cures_ = nullptr;
  struct Remedied {
    Plan plan;
    QString label;
  };
  std::vector<Remedied> remedies_;  ///< of askedPlan_
  Prints prints_;
  QString fault_, where_;
  QString askedFault_;          ///< what the remedies that show, or are being tried, are for
  std::optional<Plan> readOf_;  ///< the plan that what is shown was read of
  Plan askedPlan_;
  BackgroundTask eyesTask_, remedyTask_;
};

}  // namespace easel::app
