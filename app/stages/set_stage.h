// Set: who sits, what the camera sees, what stands behind. Fields with the picture; the set from above and from the
// side as glances.
#pragma once

#include "cards/set_card.h"
#include "stages/stage.h"

namespace easel::app {

class SetStage : public Stage {
  Q_OBJECT

 public:
  explicit SetStage(const Bench& bench, QObject* parent = nullptr);
  QString id() const override { return QStringLiteral("Set"); }
  QString name() const override { return tr("Set"); }
  QString purpose() const override { return tr("Sitter, camera, backdrop, room"); }
  QString help() const override;
  QKeySequence key() const override { return Qt::Key_F5; }
  Card* page() const override { return card_; }
  Arrangement arrangement(bool wide) const override;
  void readingsArrived(const std::shared_ptr<const Result>& result) override;

 private:
  SetCard* card_;
};

}  // namespace easel::app
