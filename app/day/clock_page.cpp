#include "day/clock_page.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QTimer>
#include <cmath>

#include "widgets/fitted_label.h"
#include "widgets/theme.h"

namespace easel::app {

ClockPage::ClockPage(DayDesk* desk, QWidget* parent) : QWidget(parent), desk_(desk) {
  auto* box = new QVBoxLayout(this);
  const auto label = [&](const char* name, double points, bool strong, QBoxLayout* in) {
    auto* l = new FittedLabel(0.5, this);
    l->setObjectName(name);
    l->setFont(typeface(points, strong));
    in->addWidget(l);
    return l;
  };
  auto* top = new QHBoxLayout;
  box->addLayout(top);
  now_ = label("clockNow", 30, true, top);
  time_ = label("clockTime", 30, true, top);
  time_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  top->setStretch(0, 4);
  top->setStretch(1, 1);
  left_ = label("clockLeft", 22, false, box);
  next_ = label("clockNext", 22, true, box);
  carry_ = new QListWidget(this);
  carry_->setObjectName("clockCarry");
  carry_->setAccessibleName(tr("What to carry where"));
  carry_->setWordWrap(true);
  carry_->setFont(typeface(16));
  carry_->setSpacing(2);
  box->addWidget(carry_, 1);
  state_ = label("clockState", 14, false, box);
  auto* row = new QHBoxLayout;
  tick_ = new QPushButton(this);
  tick_->setObjectName("clockTick");
  tick_->setFont(typeface(20, true));
  tick_->setAutoDefault(false);
  tick_->setToolTip(tr("Space or Enter. Undo takes a tick back."));
  row->addWidget(tick_, 2);
  replan_ = new QPushButton(tr("Plan the rest &again"), this);
  replan_->setObjectName("clockReplan");
  replan_->setFont(typeface(14));
  replan_->setAutoDefault(false);
  replan_->setToolTip(
      tr("Puts what is left in the order that moves least from here. If time is short, the page Order says what can be "
         "dropped."));
  row->addWidget(replan_, 1);
  box->addLayout(row);
  connect(tick_, &QPushButton::clicked, desk, &DayDesk::tick);
  connect(replan_, &QPushButton::clicked, desk, &DayDesk::putInBestOrder);
  connect(desk, &DayDesk::changed, this, &ClockPage::refresh);
  timer_ = new QTimer(this);
  timer_->setInterval(15'000);
  connect(timer_, &QTimer::timeout, desk, &DayDesk::look);
  refresh();
}

void ClockPage::showEvent(QShowEvent* e) {
  QWidget::showEvent(e);
  timer_->start();
  desk_->setClockOn(true);
  tick_->setFocus();
}
void ClockPage::hideEvent(QHideEvent* e) {
  timer_->stop();
  desk_->setClockOn(false);
  QWidget::hideEvent(e);
}

void ClockPage::refresh() {
  const Day& day = desk_->day();
  const double now = desk_->now();
  time_->setWords(QString::fromStdString(writeTime(int(now / 60))));
  const int on = desk_->shooting(), next = desk_->next();
  const auto name = [&](int i) {
    return tr("%1. %2").arg(QString::fromStdString(day.looks[size_t(i)].id),
                            QString::fromStdString(day.looks[size_t(i)].name()));
  };
  const DayForecast* r = desk_->currentForecast();
  const Turn* turn = nullptr;
  if (r && next >= 0)
    for (const Turn& s : r->planned.turns)
      if (int(s.look) == next) turn = &s;
  if (day.looks.empty()) {
    now_->setWords(tr("No look yet"));
    left_->setWords({});
    next_->setWords({});
  } else if (on >= 0) {
    const DayLook& l = day.looks[size_t(on)];
    now_->setWords(tr("Now: %1").arg(name(on)));
    const double ends = readTime(l.begun) * 60.0 + l.frames * day.secondsPerFrame;
    const double minutes = std::ceil((ends - now) / 60);
    QString words =
        minutes > 0 ? tr("%1 min left, %2 frames").arg(minutes).arg(l.frames) : tr("%1 min over").arg(-minutes);
    if (!l.framing.empty()) words += tr("; %1").arg(QString::fromStdString(l.framing));
    left_->setWords(words);
    tick_->setText(tr("&Done: %1").arg(QString::fromStdString(l.name())));
  } else if (next >= 0) {
    now_->setWords(tr("Set: %1").arg(name(next)));
    const QString begins = turn ? QString::fromStdString(writeTimeAt(turn->begin)) : QString();
    left_->setWords(!turn ? QString()
                    : turn->waitsFor.empty()
                        ? tr("first frame at %1").arg(begins)
                        : tr("first frame at %1, with %2").arg(begins, QString::fromStdString(turn->waitsFor)));
    tick_->setText(tr("&First frame: %1").arg(QString::fromStdString(day.looks[size_t(next)].name())));
  } else {
    now_->setWords(tr("Every look is done"));
    left_->setWords(tr("Pack it all again: the page Packing has a box for that."));
    next_->setWords({});
    tick_->setText(tr("Nothing is left"));
  }
  tick_->setEnabled(on >= 0 || next >= 0);
  if (next >= 0) next_->setWords(on >= 0 ? tr("Next: %1").arg(name(next)) : tr("Carry:"));

  const QString of = next >= 0 ? QString::fromStdString(day.looks[size_t(next)].id) : QString();
  if (next < 0) carry_->clear();
  if (r && next >= 0 && size_t(next) < r->looks.size()) {
    const auto& chores = r->looks[size_t(next)].change.chores;
    // What was ticked stays ticked while the clock goes on.
    QStringList words;
    for (const Chore& c : chores) words << QString::fromStdString(c.sentence);
    bool same = carryOf_ == of && carry_->count() == words.size();
    for (int i = 0; same && i < words.size(); ++i) same = carry_->item(i)->text() == words[i];
    if (!same) {
      carry_->clear();
      for (const QString& w : words) {
        auto* item = new QListWidgetItem(w, carry_);
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
        item->setCheckState(Qt::Unchecked);
      }
      carryOf_ = of;
    }
  }
  QString state;
  if (r && !r->planned.turns.empty()) {
    state =
        r->planned.late > 0
            ? tr("%1 late as planned. %2")
                  .arg(QString::fromStdString(writeSpan(r->planned.late)),
                       r->reliefs.empty()
                           ? tr("Nothing that may be dropped would save time.")
                           : tr("%1 More on the page Order.").arg(QString::fromStdString(r->reliefs.front().sentence)))
            : tr("In time: done at %1.").arg(QString::fromStdString(writeTimeAt(r->planned.turns.back().end)));
  }
  state_->setWords(state);
  replan_->setEnabled(r && r->best.problem.empty() && r->best.turns.size() > 1);
}

}  // namespace easel::app
