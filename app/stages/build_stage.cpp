#include "stages/build_stage.h"

namespace easel::app {

BuildStage::BuildStage(const Bench& bench, QObject* parent)
    : Stage(bench, parent), card_(new BuildCard(bench.viewed)), panels_(new PanelCard(bench.viewed)) {
  card_->addPage("Panels", panels_, tr("Boards and pieces"));
  connect(card_, &Card::tryOut, bench_.onEasel, &OnEasel::tryOut);
  connect(card_, &BuildCard::preferencesChanged, this, [this] { bench_.ladder->update(); });
  connect(panels_, &PanelCard::chosen, this, &Stage::panelWanted);
  connect(panels_, &PanelCard::putUpWanted, bench_.actions, &PlanActions::putUpPanel);
  connect(panels_, &Card::refused, this, [this](const QString& why) { emit said(why, true); });
}

QString BuildStage::help() const {
  return tr(
      "One light at a time, the key first. Drag it on dial and rail, drag its target on the ladder to the stops you "
      "want against the key; the figures of the chosen light stand below.");
}

Arrangement BuildStage::arrangement(bool wide) const {
  const Arrangement setup = inRow({shown(views::kDial), shown(views::kRail)}, 1);
  if (wide)
    return inRow({inColumn({shown(views::kEasel), exactly(views::kLedge), exactly(views::kLadder)}, 42),
                  inColumn({exactly(views::kAnswer), setup, exactly(id())}, 58)});
  return inRow({inColumn({shown(views::kEasel), exactly(views::kLedge)}, 42),
                inColumn({exactly(views::kAnswer), setup, exactly(views::kLadder), exactly(id())}, 58)});
}

void BuildStage::lightChosen(const QString& id) {
  card_->setSelected(id);
  panels_->setSelected({});
}

void BuildStage::panelChosen(const QString& number) {
  panels_->setSelected(number);
  if (!number.isEmpty()) card_->showPage(panels_);
}

void BuildStage::readingsArrived(const std::shared_ptr<const Result>& result) {
  card_->setAnswers(result->answers);
  card_->setQuality(result->quality);
  panels_->setShares(result->shares);
}

}  // namespace easel::app
