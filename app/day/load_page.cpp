#include "day/load_page.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHeaderView>
#include <QLabel>
#include <QListWidget>
#include <algorithm>

#include "widgets/plain_table.h"
#include "widgets/wording.h"

namespace easel::app {

LoadPage::LoadPage(DayDesk* desk, QWidget* parent) : QWidget(parent), desk_(desk) {
  auto* grid = new QGridLayout(this);
  look_ = new QComboBox(this);
  look_->setObjectName("loadLook");
  look_->setAccessibleName(tr("Look"));
  grid->addWidget(look_, 0, 0, 1, 2);
  circuits_ =
      plainTable("loadCircuits", tr("Circuits"),
                 {tr("Circuit"), tr("All the time"), tr("Flashes recharging"), tr("For hours"), tr("Breaker")}, this);
  plugs_ = plainTable("loadPlugs", tr("What is plugged in where"),
                      {tr("What"), tr("Circuit"), tr("Socket"), tr("Cable"), tr("Draws (recharging)")}, this);
  stands_ = plainTable("loadStands", tr("What stands, and how"), {tr("What"), tr("How")}, this);
  stands_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
  stands_->setWordWrap(true);
  stands_->verticalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  cautions_ = new QListWidget(this);
  cautions_->setObjectName("loadCautions");
  cautions_->setAccessibleName(tr("Cautions"));
  cautions_->setWordWrap(true);
  cautions_->setSelectionMode(QAbstractItemView::NoSelection);
  const auto part = [&](const QString& title, QWidget* w, int row, int column) {
    auto* box = new QVBoxLayout;
    box->addWidget(new QLabel(title, this));
    box->addWidget(w, 1);
    grid->addLayout(box, row, column);
  };
  part(tr("Mains, circuit by circuit"), circuits_, 1, 0);
  part(tr("Which socket takes what"), plugs_, 2, 0);
  part(tr("Stands, booms and their weights"), stands_, 1, 1);
  part(tr("Cautions"), cautions_, 2, 1);
  caution_ = new QLabel(QString::fromStdString(loadCaution()), this);
  caution_->setWordWrap(true);
  caution_->setObjectName("loadCaution");
  grid->addWidget(caution_, 3, 0, 1, 2);
  grid->setColumnStretch(0, 1);
  grid->setColumnStretch(1, 1);
  grid->setRowStretch(1, 2);
  grid->setRowStretch(2, 3);
  connect(desk, &DayDesk::changed, this, &LoadPage::refresh);
  connect(look_, &QComboBox::activated, this, &LoadPage::refresh);
}

void LoadPage::showEvent(QShowEvent* e) {
  QWidget::showEvent(e);
  refresh();
}

// Only while it is looked at: a day changes more often than that.
void LoadPage::refresh() {
  const DayForecast* r = desk_->currentForecast();
  if (!r || !isVisible()) return;
  const Day& day = desk_->day();
  const QString was = look_->currentData().toString();
  const QSignalBlocker quiet(look_);
  look_->clear();
  for (const DayLook& l : day.looks)
    look_->addItem(tr("%1. %2").arg(QString::fromStdString(l.id), QString::fromStdString(l.name())),
                   QString::fromStdString(l.id));
  look_->setCurrentIndex(std::max(0, look_->findData(was)));
  const int at = look_->currentIndex();
  std::vector<QStringList> circuits, plugs, stands;
  cautions_->clear();
  if (at >= 0 && at < int(r->looks.size())) {
    const LookForecast& k = r->looks[size_t(at)];
    const auto watts = [](double w) { return tr("%1 W").arg(qRound(w)); };
    for (size_t c = 0; c < k.mains.circuits.size(); ++c) {
      const auto& load = k.mains.circuits[c];
      circuits.push_back({QString::fromStdString(day.circuits[c].name), watts(load.steady),
                          watts(load.peak) + (load.peak > load.most ? tr(", too much") : QString()),
                          tr("%1 at most").arg(watts(load.allowed)), watts(load.most)});
    }
    for (const auto& p : k.mains.plugs) {
      const bool plugged = p.circuit >= 0;
      const Circuit* c = plugged ? &day.circuits[size_t(p.circuit)] : nullptr;
      plugs.push_back({QString::fromStdString(p.consumer.what), c ? QString::fromStdString(c->name) : tr("none"),
                       c ? QString::fromStdString(c->sockets[size_t(p.socket)].name) : QString(),
                       p.taken > 0 ? lengthText(p.taken)
                       : c         ? tr("none so long")
                                   : QString(),
                       p.consumer.recharging > 0 ? tr("%1 (%2)").arg(watts(p.consumer.steady), watts(p.consumer.peak()))
                                                 : watts(p.consumer.steady)});
    }
    for (const Carried& c : k.carried)
      stands.push_back(
          {QString::fromStdString(c.what), QString::fromStdString(describe(c, Preferences::current().spelling()))});
    for (const std::string& p : k.mains.problems) cautions_->addItem(QString::fromStdString(p));
    for (const Caution& c : k.cautions) cautions_->addItem(QString::fromStdString(c.sentence));
  }
  fillRows(circuits_, circuits, tr("No circuit is written down: the page People and room has a table for sockets."));
  fillRows(plugs_, plugs, tr("Nothing of this look hangs on the mains."));
  fillRows(stands_, stands, tr("Nothing stands."));
}

}  // namespace easel::app
