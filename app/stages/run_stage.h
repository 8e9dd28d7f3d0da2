// Run: the set is metered for real, one step at a time, with the light that is read alone on the easel and the meter
// drawn where it is held.
#pragma once

#include "controllers/device_run.h"
#include "metering/run_card.h"
#include "stages/stage.h"

namespace easel::app {

class RunStage : public Stage {
  Q_OBJECT

 public:
  explicit RunStage(const Bench& bench, QObject* parent = nullptr);
  QString id() const override { return QStringLiteral("Run"); }
  QString name() const override { return tr("Run"); }
  QString purpose() const override { return tr("The set is metered, one light at a time"); }
  QString help() const override;
  QKeySequence key() const override { return Qt::Key_F3; }
  Card* page() const override { return card_; }
  Arrangement arrangement(bool wide) const override;
  QString mark() const override;
  QString answer() const override;
  QWidget* begins() const override { return card_->begins(); }
  void enter() override;
  void leave() override;
  void readingsArrived(const std::shared_ptr<const Result>& result) override;
  void showEvidence() override;
  MeteringRun* run() { return run_; }

 private:
  void follow();
  void showReflected();
  MeteringRun* run_;
  DeviceRun* devices_;
  RunCard* card_;
  std::shared_ptr<const Result> latest_;  ///< with a table
  std::shared_ptr<const SpotTable> shownTable_;
  bool here_ = false, shown_ = false, metered_ = false, pictures_ = false, beside_ = false;
};

}  // namespace easel::app
