#include "window/headline.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

#include "stages/stage.h"

namespace easel::app {

Headline::Headline(const std::vector<Stage*>& stages, QWidget* parent) : QWidget(parent), all_(stages) {
  auto* box = new QHBoxLayout(this);
  box->setContentsMargins(12, 6, 12, 6);
  auto* words = new QVBoxLayout;
  words->setSpacing(0);
  answer_ = new QLabel;
  answer_->setObjectName("answer");
  under_ = new QLabel;
  under_->setObjectName("quiet");
  for (QLabel* l : {answer_, under_}) {
    l->setMinimumWidth(100);
    words->addWidget(l);
  }
  box->addLayout(words, 1);
  stages_ = new QButtonGroup(this);
  for (int i = 0; i < int(all_.size()); ++i) {
    auto* b = new QPushButton;
    b->setObjectName("stage");
    b->setCheckable(true);
    b->setToolTip(
        tr("%1 (%2)").arg(all_[size_t(i)]->purpose(), all_[size_t(i)]->key().toString(QKeySequence::NativeText)));
    stages_->addButton(b, i);
    box->addWidget(b);
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
}

void Headline::setAnswer(const QString& answer, const QString& under) {
  answer_->setText(answer);
  answer_->setToolTip(answer);
  under_->setText(under);
  under_->setToolTip(under);
}
QString Headline::answer() const { return answer_->text(); }
void Headline::setStage(int index) { stages_->button(index)->setChecked(true); }

}  // namespace easel::app
