// Read: what the picture tells, with the evidence on it.
#pragma once

#include "read/by_eye_page.h"
#include "read/read_card.h"
#include "stages/stage.h"

namespace easel::app {

class ReadStage : public Stage {
  Q_OBJECT

 public:
  explicit ReadStage(const Bench& bench, QObject* parent = nullptr);
  QString id() const override { return QStringLiteral("Read"); }
  QString name() const override { return tr("Read"); }
  QString purpose() const override { return tr("What the picture tells: lighting pattern, eyes, faults"); }
  QString help() const override;
  QKeySequence key() const override { return Qt::Key_F9; }
  Card* page() const override { return card_; }
  Arrangement arrangement(bool wide) const override;
  QString mark() const override;
  void showEvidence() override;

 private:
  ReadCard* card_;
  ByEyePage* byEye_;
};

}  // namespace easel::app
