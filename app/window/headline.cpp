#include "window/headline.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QPushButton>
#include <QStyle>

#include "stages/stage.h"
#include "widgets/fitted_label.h"
#include "widgets/theme.h"

namespace easel::app {

Headline::Headline(const std::vector<Stage*>& stages, QWidget* parent) : QWidget(parent), all_(stages) {
  box_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
  box_->setContentsMargins(12, 6, 12, 6);
  auto* words = new QVBoxLayout;
  words->setSpacing(0);
  answer_ = new FittedLabel(0.75);
  answer_->setObjectName("answer");
  under_ = new FittedLabel(0.85);
  under_->setObjectName("quiet");
  words->addWidget(answer_);
  words->addWidget(under_);
  box_->addLayout(words, 1);
  buttons_ = new QHBoxLayout;
  box_->addLayout(buttons_);
  stages_ = new QButtonGroup(this);
  for (int i = 0; i < int(all_.size()); ++i) {
    auto* b = new QPushButton;
    b->setObjectName("stage");
    b->setCheckable(true);
    b->setToolTip(
        tr("%1 (%2)").arg(all_[size_t(i)]->purpose(), all_[size_t(i)]->key().toString(QKeySequence::NativeText)));
    stages_->addButton(b, i);
    buttons_->addWidget(b);
    connect(all_[size_t(i)], &Stage::marked, this, &Headline::relabel);
  }
  connect(stages_, &QButtonGroup::idClicked, this, &Headline::stageChosen);
  relabel();
}

void Headline::relabel() {
  for (size_t i = 0; i < all_.size(); ++i) {
    const QString mark = all_[i]->mark();
    stages_->button(int(i))->setText(mark.isEmpty() ? all_[i]->name()
                                                    : QStringLiteral("%1 %2").arg(all_[i]->name(), mark));
  }
  layout()->activate();  // at once: a count that has just come stands whole in the next picture
}

// The buttons go under the answer where there is no room beside it.
void Headline::flow() {
  const int words = QFontMetrics(answer_->font()).horizontalAdvance(QStringLiteral("A at 1/16 + 0.9 gives f/8 + 0.3"));
  const bool beside = width() >= words * 3 / 4 + buttons_->minimumSize().width() + 40;
  const auto way = beside ? QBoxLayout::LeftToRight : QBoxLayout::TopToBottom;
  if (box_->direction() == way) return;
  box_->setDirection(way);
  updateGeometry();
}

QSize Headline::minimumSizeHint() const { return {240, layout()->minimumSize().height()}; }

void Headline::setAnswer(const QString& answer, const QString& under) {
  answer_->setWords(answer);
  under_->setWords(under);
}
QString Headline::answer() const { return answer_->words(); }
void Headline::setFar(bool far) {
  if (answer_->property("far").toBool() == far) return;
  answer_->setProperty("far", far);
  restyle(answer_);
  under_->setHidden(far);
  for (QAbstractButton* b : stages_->buttons()) b->setHidden(far);
  updateGeometry();
}
void Headline::setStage(int index) { stages_->button(index)->setChecked(true); }

}  // namespace easel::app
