#include "dialogs/devices_dialog.h"

#include <QGridLayout>
#include <QGroupBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QTableWidget>

#include "widgets/plain_table.h"
#include "widgets/theme.h"
#include "widgets/within_screen.h"

namespace easel::app {

DevicesDialog::DevicesDialog(DeviceHub* hub, QWidget* parent) : QDialog(parent), hub_(hub) {
  setObjectName("devicesWindow");
  setWindowTitle(tr("Devices"));
  auto* box = new QVBoxLayout(this);
  state_ = new QLabel(this);
  state_->setWordWrap(true);
  state_->setObjectName("devicesState");
  state_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  box->addWidget(state_);
  table_ = plainTable("devicesTable", tr("Devices that have joined"),
                      {tr("Kind"), tr("Name"), tr("Can"), tr("Last message")}, this);
  box->addWidget(table_, 2);
  auto* group = new QGroupBox(tr("A simulated studio, to try a run with"), this);
  auto* inside = new QVBoxLayout(group);
  auto* words = new QLabel(
      tr("The plan as a tired person would have set it up: heads, modifiers, walls, stands and the meter differ from "
         "the "
         "catalogue by what the number hides. Each device has a small window, where things can be made to go wrong."),
      this);
  words->setWordWrap(true);
  inside->addWidget(words);
  auto* row = new QHBoxLayout;
  row->addWidget(new QLabel(tr("Studio number"), this));
  seed_ = new QSpinBox(this);
  seed_->setObjectName("simulatedSeed");
  seed_->setRange(1, 999999);
  seed_->setAccessibleName(tr("Studio number"));
  row->addWidget(seed_);
  const std::pair<DeviceKind, QString> kinds[] = {{DeviceKind::Meter, tr("Start a &meter")},
                                                  {DeviceKind::Trigger, tr("Start a &trigger")},
                                                  {DeviceKind::Camera, tr("Start a &camera")}};
  for (const auto& [kind, name] : kinds) {
    auto* start = new QPushButton(name, this);
    start->setObjectName("simulate-" + QString::fromStdString(deviceName(kind)));
    connect(start, &QPushButton::clicked, this, [this, kind = kind] { hub_->simulate(kind, quint64(seed_->value())); });
    row->addWidget(start);
  }
  end_ = new QPushButton(tr("&Stop them"), this);
  end_->setObjectName("simulatedEnd");
  connect(end_, &QPushButton::clicked, this, [this] {
    hub_->endSimulated();
    refresh();
  });
  row->addWidget(end_);
  row->addStretch(1);
  inside->addLayout(row);
  box->addWidget(group);
  notes_ = new QListWidget(this);
  notes_->setObjectName("devicesNotes");
  notes_->setAccessibleName(tr("Messages about devices"));
  notes_->setWordWrap(true);
  box->addWidget(notes_, 1);
  connect(hub_, &DeviceHub::changed, this, &DevicesDialog::refresh);
  connect(hub_, &DeviceHub::noted, this, [this](const QString& sentence, bool) {
    notes_->insertItem(0, sentence);
    while (notes_->count() > 50) delete notes_->takeItem(50);
  });
  hub_->listen();
  resizeWithin(this, QSize(700, 480) * Theme::current().scale);
  refresh();
}

void DevicesDialog::refresh() {
  state_->setText(hub_->problem().isEmpty()
                      ? tr("Flash meter, trigger and camera join at %1 and speak the wire of docs/formats/wire.md. "
                           "None has to: the run works by hand.")
                            .arg(hub_->socket())
                      : hub_->problem());
  std::vector<QStringList> rows;
  for (const DeviceHub::Device& d : hub_->devices()) {
    const QString kind = d.kind == DeviceKind::Meter     ? tr("flash meter")
                         : d.kind == DeviceKind::Trigger ? tr("trigger")
                         : d.kind == DeviceKind::Remote  ? tr("remote")
                                                         : tr("camera");
    rows.push_back({kind, d.name, d.abilities.join(", "), d.last});
  }
  fillRows(table_, rows, tr("none yet"));
  end_->setEnabled(hub_->simulating());
}

}  // namespace easel::app
