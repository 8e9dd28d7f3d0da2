// Meter: the readings of every light at every spot, with the place on the sitter beside them.
#pragma once

#include "metering/meter_card.h"
#include "stages/stage.h"

namespace easel::app {

class MeterStage : public Stage {
  Q_OBJECT

 public:
  explicit MeterStage(const Bench& bench, QObject* parent = nullptr);
  QString id() const override { return QStringLiteral("Meter"); }
  QString name() const override { return tr("Meter"); }
  QString purpose() const override { return tr("Readings, one light at a time"); }
  QString help() const override;
  QKeySequence key() const override { return Qt::Key_F7; }
  Card* page() const override { return card_; }
  Arrangement arrangement(bool wide) const override;
  void enter() override { bench_.easel->evidence()->setPinsShown(true); }
  void leave() override { bench_.easel->evidence()->setPinsShown(false); }
  void readingsArrived(const std::shared_ptr<const Result>& result) override;
  void showEvidence() override;

 private:
  MeterCard* card_;
};

}  // namespace easel::app
