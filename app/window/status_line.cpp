#include "window/status_line.h"

#include <QLabel>
#include <QPushButton>
#include <utility>

#include "widgets/fitted_label.h"
#include "widgets/theme.h"

namespace easel::app {

StatusLine::StatusLine(QWidget* parent) : QStatusBar(parent) {
  notice_ = new FittedLabel;
  pointer_ = new FittedLabel;
  pointer_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  addWidget(notice_, 3);
  addWidget(pointer_, 2);
  offer_ = new QPushButton;
  offer_->setObjectName("offer");
  offer_->hide();
  connect(offer_, &QPushButton::clicked, this, [this] {
    offer_->hide();
    if (const auto work = std::exchange(offered_, {})) work();
  });
  addPermanentWidget(offer_);
  preparing_ = new QLabel;
  preparing_->setObjectName("preparing");
  preparing_->setToolTip(
      tr("The first start prepares the people one after the other; each can be chosen once they are there."));
  preparing_->hide();
  addPermanentWidget(preparing_);
  connect(&sitters_, &SittersArriving::changed, this, [this](const Baking& now, bool more) {
    preparing_->setText(tr("Preparing sitters: %1 of %2").arg(now.there).arg(now.all));
    preparing_->setVisible(now.goesOn && now.there < now.all);
    if (more) emit sitterCame();
  });
}

void StatusLine::put(const QString& sentence, Kind kind) {
  kind_ = kind;
  notice_->setWords(sentence);
  notice_->setProperty("problem", kind != Kind::Plain);
  notice_->setObjectName(kind == Kind::Plain ? "quiet" : "problem");
  restyle(notice_);
}

void StatusLine::say(const QString& sentence, bool problem) { put(sentence, problem ? Kind::Problem : Kind::Plain); }

QString StatusLine::words() const { return notice_->words(); }

void StatusLine::dropProblem() {
  if (kind_ != Kind::Plain) say({});
}

void StatusLine::sayOfPicture(const QString& problem) {
  if (!problem.isEmpty())
    put(problem, Kind::OfPicture);
  else if (kind_ == Kind::OfPicture)
    say({});
}

void StatusLine::sayPointed(const QString& reading) { pointer_->setWords(reading); }

void StatusLine::offer(const QString& text, const QString& tip, const std::function<void()>& work) {
  offered_ = work;
  offer_->setText(text);
  offer_->setToolTip(tip);
  offer_->show();
}

}  // namespace easel::app
