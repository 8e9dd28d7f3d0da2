#include "stages/set_stage.h"

namespace easel::app {

SetStage::SetStage(const Bench& bench, QObject* parent) : Stage(bench, parent), card_(new SetCard(bench.viewed)) {
  connect(card_, &Card::tryOut, bench_.onEasel, &OnEasel::tryOut);
}

QString SetStage::help() const {
  return tr(
      "Who sits, how the head is held, what the camera sees and what stands behind. Begin here: every distance is "
      "measured from this face. Click the set from above or from the side to give it the window.");
}

Arrangement SetStage::arrangement(bool wide) const {
  const Arrangement setup = inRow({glance(views::kDial), glance(views::kRail)}, 1);
  if (wide)
    return inRow(
        {inColumn({shown(views::kEasel, 3), setup}, 42), inColumn({exactly(views::kAnswer), shown(id())}, 58)});
  return inRow({shown(views::kEasel, 42), inColumn({exactly(views::kAnswer), shown(id(), 3), setup}, 58)});
}

void SetStage::readingsArrived(const std::shared_ptr<const Result>& result) { card_->setAnswers(result->answers); }

}  // namespace easel::app
