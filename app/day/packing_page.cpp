#include "day/packing_page.h"

#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSplitter>
#include <QTreeWidget>

#include "dialogs/ask_save_name.h"
#include "document/document.h"
#include "document/state_folder.h"
#include "files/atomic_file.h"
#include "render/picture_image.h"
#include "widgets/attempt.h"
#include "widgets/theme.h"

namespace easel::app {

PackingPage::PackingPage(DayDesk* desk, QWidget* parent) : QWidget(parent), desk_(desk) {
  auto* box = new QHBoxLayout(this);
  auto* halves = new QSplitter(this);
  halves->setChildrenCollapsible(false);
  box->addWidget(halves);
  auto* left = new QWidget(halves);
  auto* l = new QVBoxLayout(left);
  l->setContentsMargins(0, 0, 0, 0);
  tree_ = new QTreeWidget(left);
  tree_->setObjectName("packingList");
  tree_->setAccessibleName(tr("Packing list"));
  tree_->setHeaderLabels({tr("Thing"), tr("Count"), tr("Kit"), tr("Packed"), tr("Home"), tr("Why")});
  tree_->header()->setStretchLastSection(true);
  tree_->setColumnCount(6);
  tree_->setRootIsDecorated(false);
  l->addWidget(tree_, 1);
  auto* row = new QHBoxLayout;
  sum_ = new QLabel(left);
  sum_->setObjectName("packingSum");
  row->addWidget(sum_, 1);
  auto* csv = new QPushButton(tr("E&xport as CSV..."), left);
  csv->setObjectName("packingCsv");
  csv->setAutoDefault(false);
  row->addWidget(csv);
  l->addLayout(row);
  halves->addWidget(left);

  auto* right = new QWidget(halves);
  auto* r = new QVBoxLayout(right);
  r->setContentsMargins(0, 0, 0, 0);
  standIn_ = new QLabel(right);
  standIn_->setObjectName("packingStandIn");
  standIn_->setWordWrap(true);
  r->addWidget(standIn_);
  standIns_ = new QListWidget(right);
  standIns_->setObjectName("packingStandIns");
  standIns_->setAccessibleName(tr("What could stand in"));
  standIns_->setWordWrap(true);
  r->addWidget(standIns_, 1);
  auto* prints = new QHBoxLayout;
  const auto print = [&](const QString& name) {
    auto* p = new QLabel(right);
    p->setFixedSize(QSize(int(160 * Theme::current().scale), int(200 * Theme::current().scale)));
    p->setAlignment(Qt::AlignCenter);
    p->setAccessibleName(name);
    auto* framed = new QVBoxLayout;
    framed->addWidget(p);
    framed->addWidget(new QLabel(name, right));
    prints->addLayout(framed);
    return p;
  };
  before_ = print(tr("As planned"));
  after_ = print(tr("With what stands in"));
  prints->addStretch(1);
  r->addLayout(prints);
  take_ = new QPushButton(tr("&Use it in that look"), right);
  take_->setObjectName("packingTake");
  take_->setAutoDefault(false);
  r->addWidget(take_);
  halves->addWidget(right);
  halves->setStretchFactor(0, 3);
  halves->setStretchFactor(1, 2);
  halves->setSizes({700, 420});

  connect(desk, &DayDesk::changed, this, &PackingPage::refresh);
  connect(csv, &QPushButton::clicked, this, &PackingPage::exportCsv);
  connect(tree_, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item, int column) {
    if (filling_ || (column != 3 && column != 4)) return;
    const std::string key = item->data(0, Qt::UserRole).toString().toStdString();
    desk_->document()->edit(column == 3 ? tr("Packed") : tr("Packed again"), [&](Day& d) {
      (column == 3 ? d.packed[key].out : d.packed[key].home) = item->checkState(column) == Qt::Checked;
    });
  });
  connect(tree_, &QTreeWidget::currentItemChanged, this, [this] {
    if (!filling_) showStandIns();
  });
  connect(standIns_, &QListWidget::currentRowChanged, this, &PackingPage::compare);
  connect(take_, &QPushButton::clicked, this, [this] {
    const int at = standIns_->currentRow();
    if (at < 0 || at >= int(offers_.size())) return;
    const StandInFor offer = offers_[size_t(at)];
    desk_->document()->edit(tr("%1 stands in").arg(QString::fromStdString(offer.one.name)), [&](Day& d) {
      for (DayLook& k : d.looks)
        if (k.id == offer.look) {
          k.plan = offer.one.plan;
          k.file.clear();  // the plan's own file stays as it is
        }
    });
  });
  connect(&work_, &BackgroundTask::failed, this, [this](const QString& why) { emit said(why, true); });
}

void PackingPage::showEvent(QShowEvent* e) {
  QWidget::showEvent(e);
  refresh();
}

// Only while it is looked at: a day changes more often than that.
void PackingPage::refresh() {
  const DayForecast* r = desk_->currentForecast();
  if (!r || !isVisible()) return;
  filling_ = true;
  const QString was = tree_->currentItem() ? tree_->currentItem()->data(0, Qt::UserRole).toString() : QString();
  tree_->clear();
  int packed = 0, missing = 0;
  std::optional<PackGroup> group;
  QTreeWidgetItem *head = nullptr, *chosen = nullptr, *wanting = nullptr;
  for (const PackItem& i : r->packing) {
    if (!group || *group != i.group) {
      group = i.group;
      head = new QTreeWidgetItem(tree_, {QString::fromStdString(packGroupName(i.group))});
      head->setFirstColumnSpanned(true);
      QFont strong = tree_->font();
      strong.setBold(true);
      head->setFont(0, strong);
      head->setFlags(Qt::ItemIsEnabled);
    }
    const auto found = desk_->day().packed.find(i.key);
    const Packed ticks = found == desk_->day().packed.end() ? Packed{} : found->second;
    auto* item = new QTreeWidgetItem(
        head, {QString::fromStdString(i.name), QString::number(i.count),
               i.owned ? QString::number(*i.owned) : QString(), QString(), QString(), QString::fromStdString(i.why)});
    item->setData(0, Qt::UserRole, QString::fromStdString(i.key));
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
    item->setCheckState(3, ticks.out ? Qt::Checked : Qt::Unchecked);
    item->setCheckState(4, ticks.home ? Qt::Checked : Qt::Unchecked);
    item->setToolTip(0, QString::fromStdString(i.name));
    item->setToolTip(5, QString::fromStdString(i.why));
    if (i.missing()) {
      ++missing;
      if (!wanting) wanting = item;
      for (int c = 0; c < 3; ++c) item->setForeground(c, Theme::current().warn);
      item->setText(2, tr("%1, missing").arg(*i.owned));
    }
    packed += ticks.out;
    if (item->data(0, Qt::UserRole).toString() == was) chosen = item;
  }
  tree_->expandAll();
  for (int c = 0; c < 5; ++c) tree_->resizeColumnToContents(c);
  if (tree_->columnWidth(0) > tree_->width() / 2) tree_->setColumnWidth(0, tree_->width() / 2);
  // What is missing is told without being asked for.
  if (!chosen) chosen = wanting;
  if (chosen) tree_->setCurrentItem(chosen);
  filling_ = false;
  QString sum = tr("%1 of %2 packed.").arg(packed).arg(r->packing.size());
  if (missing) sum += " " + tr("%1 missing from the kit: choose one to see what could stand in.").arg(missing);
  if (desk_->kit().empty()) sum += " " + tr("The kit is not filled in yet (Ctrl+K).");
  sum_->setText(sum);
  sum_->setWordWrap(true);
  showStandIns();
}

void PackingPage::showStandIns() {
  offers_.clear();
  standIns_->clear();
  before_->clear();
  after_->clear();
  take_->setEnabled(false);
  const QTreeWidgetItem* item = tree_->currentItem();
  const std::string key = item ? item->data(0, Qt::UserRole).toString().toStdString() : std::string();
  const bool gear = key.starts_with("unit:") || key.starts_with("modifier:");
  if (const DayForecast* r = desk_->currentForecast())
    if (const auto found = r->standIns.find(key); found != r->standIns.end()) offers_ = found->second;
  for (const StandInFor& o : offers_) {
    const DayLook* l = desk_->day().look(o.look);
    standIns_->addItem(tr("%1 for %2 of %3: %4")
                           .arg(QString::fromStdString(o.one.name), QString::fromStdString(o.light),
                                l ? QString::fromStdString(l->name()) : QString(),
                                QString::fromStdString(o.one.changes)));
  }
  standIn_->setText(!gear ? tr("Choose a head or a modifier that is missing: here stands what could take its place.")
                    : offers_.empty()
                        ? tr("Nothing of the kit has to stand in for it, or nothing could.")
                        : tr("What could stand in, nearest first, and what that changes in the picture:"));
  if (!offers_.empty()) standIns_->setCurrentRow(0);
}

// The two pictures beside each other, traced when one is asked for.
void PackingPage::compare() {
  const int at = standIns_->currentRow();
  take_->setEnabled(at >= 0);
  if (at < 0 || at >= int(offers_.size())) return;
  const DayLook* look = desk_->day().look(offers_[size_t(at)].look);
  if (!look) return;
  before_->setText(tr("tracing..."));
  after_->setText(tr("tracing..."));
  work_.start(
      [this, a = look->plan, b = offers_[size_t(at)].one.plan](const BackgroundTask::Go& go) -> BackgroundTask::Done {
        const QImage before = imageOf(renderPicture(a, 160, 200, 8));
        go(0.5);
        const QImage after = imageOf(renderPicture(b, 160, 200, 8));
        return [this, before, after] {
          before_->setPixmap(
              QPixmap::fromImage(before).scaled(before_->size(), Qt::KeepAspectRatio, Qt::SmoothTransformation));
          after_->setPixmap(
              QPixmap::fromImage(after).scaled(after_->size(), Qt::KeepAspectRatio, Qt::SmoothTransformation));
        };
      });
}

void PackingPage::exportCsv() {
  const DayForecast* r = desk_->forecast();
  if (!r) return;
  const QString f = askSaveName(this, tr("Export the packing list"), QStringLiteral("packing.csv"),
                                tr("CSV tables (*.csv)"), QStringLiteral(".csv"));
  if (f.isEmpty()) return;
  disk_.attempt(
      [this, file = pathOf(f), packing = r->packing, day = desk_->day()]() -> Strand::Report {
        writeFileAtomically(file, packingCsv(packing, day));
        return [this, file] { emit said(tr("The packing list is in %1.").arg(shownName(file.filename())), false); };
      },
      [this](const QString& why) { emit said(why, true); });
}

}  // namespace easel::app
