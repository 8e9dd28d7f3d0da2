#include "stages/meter_stage.h"

namespace easel::app {

MeterStage::MeterStage(const Bench& bench, QObject* parent) : Stage(bench, parent), card_(new MeterCard(bench.viewed)) {
  connect(card_, &MeterCard::setCamera, bench_.actions, &PlanActions::setCamera);
  connect(card_, &MeterCard::exportWanted, this, [this] { bench_.exportReadings(); });
  connect(card_, &MeterCard::spotChosen, this, &Stage::evidenceChanged);
}

QString MeterStage::help() const {
  return tr(
      "Read each light alone, the key first, then everything together. The spot that is chosen in the table is "
      "ringed on the picture; Shift+click pins a spot of your own.");
}

Arrangement MeterStage::arrangement(bool wide) const {
  if (wide)
    return inRow({inColumn({shown(views::kEasel, 3), glance(views::kDial, 2)}, 40),
                  inColumn({exactly(views::kAnswer), shown(id()), exactly(views::kLadder)}, 60)});
  return inRow(
      {shown(views::kEasel, 40), inColumn({exactly(views::kAnswer), shown(id()), exactly(views::kLadder)}, 60)});
}

void MeterStage::readingsArrived(const std::shared_ptr<const Result>& result) { card_->setResult(result); }

void MeterStage::showEvidence() {
  std::vector<EaselEvidence::Spot> spots;
  if (bench_.onEasel->show().what == Show::What::All && !bench_.onEasel->tryingOut())
    for (const MeterSpot& s : card_->spots()) {
      const bool chosen = s.id == card_->chosenSpot();
      spots.push_back({s.position, chosen ? QString::fromStdString(s.name) : QString(), chosen});
    }
  bench_.easel->evidence()->lay({{}, {}, spots});
}

}  // namespace easel::app
