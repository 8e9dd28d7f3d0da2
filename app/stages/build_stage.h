// Build: the lights, one at a time, on dial, rail and ladder, with the figures of the chosen one.
#pragma once

#include "cards/build_card.h"
#include "cards/panel_card.h"
#include "stages/stage.h"

namespace easel::app {

class BuildStage : public Stage {
  Q_OBJECT

 public:
  explicit BuildStage(const Bench& bench, QObject* parent = nullptr);
  QString id() const override { return QStringLiteral("Build"); }
  QString name() const override { return tr("Build"); }
  QString purpose() const override { return tr("The light: place, modifier, power"); }
  QString help() const override;
  QKeySequence key() const override { return Qt::Key_F6; }
  Card* page() const override { return card_; }
  Arrangement arrangement(bool wide) const override;
  void lightChosen(const QString& id) override;
  void panelChosen(const QString& number) override;
  void readingsArrived(const std::shared_ptr<const Result>& result) override;
  void gearChanged() override { card_->gearChanged(); }

 private:
  BuildCard* card_;
  PanelCard* panels_;
};

}  // namespace easel::app
