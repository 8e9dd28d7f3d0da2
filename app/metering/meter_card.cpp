#include "metering/meter_card.h"

#include <QComboBox>
#include <QEvent>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTabWidget>
#include <QTableWidget>
#include <cmath>

#include "balance/advice.h"
#include "balance/backdrop_tone.h"
#include "balance/camera_setting.h"
#include "exposure/shutter.h"
#include "gear/inventory.h"
#include "rendering/renderer.h"
#include "widgets/markup.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {

MeterCard::MeterCard(ViewedPlan* viewed, QWidget* parent) : Card(viewed, parent) {
  spotsPage();
  singlePage();
  cameraPage();
  advicePage();
  pages_->setObjectName("meterPages");
}

void MeterCard::spotsPage() {
  startPage("Every spot", tr("Every spot"));
  table_ = new QTableWidget;
  table_->setObjectName("spotTable");
  table_->setAccessibleName(tr("Every light at every spot"));
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setMinimumHeight(96);
  table_->setToolTip(
      tr("Stops against the target aperture, and the f-number there. Pin more spots: Shift+click on the easel or on "
         "the dial. Delete removes the chosen pin."));
  connect(table_, &QTableWidget::currentCellChanged, this, [this](int row, int, int before, int) {
    if (row != before) emit spotChosen();
  });
  grid_->addWidget(table_, 0, 0);
  auto* corner = new QWidget;
  auto* cornerBox = new QHBoxLayout(corner);
  cornerBox->setContentsMargins(0, 0, 4, 0);
  auto* pins =
      new QLabel(tr("First row: the reading that the camera is set by. The others: flat, along the surface; left and "
                    "right are the sitter's. Shift+click on easel or dial: a pin; D: dome or flat."));
  pins->setObjectName("quiet");
  pins->setWordWrap(true);
  auto* exported = new QPushButton(tr("Export CSV..."));
  connect(exported, &QPushButton::clicked, this, &MeterCard::exportWanted);
  cornerBox->addWidget(pins, 1);
  cornerBox->addWidget(exported);
  grid_->addWidget(corner, 1, 0);
  grid_->setRowStretch(0, 1);
  auto* drop = new QAction(tr("Remove the pin"), table_);
  drop->setShortcut(Qt::Key_Delete);
  drop->setShortcutContext(Qt::WidgetShortcut);
  table_->addAction(drop);
  table_->setContextMenuPolicy(Qt::ActionsContextMenu);
  connect(drop, &QAction::triggered, this, [this] {
    const int row = table_->currentRow();
    const auto* cell = row >= 0 ? table_->verticalHeaderItem(row) : nullptr;
    if (!cell) return;
    auto spots = viewed_->plan().spots;
    const std::string id = cell->data(Qt::UserRole).toString().toStdString();
    const auto before = spots.size();
    std::erase_if(spots, [&](const PinnedSpot& s) { return s.id == id; });
    if (spots.size() != before) viewed_->perform(SetSpots{spots}, tr("Remove a pin"));
  });

  auto* dome = new QAction(tr("Pin: dome or flat"), table_);
  dome->setObjectName("pinReceptor");
  dome->setShortcut(Qt::Key_D);
  dome->setShortcutContext(Qt::WidgetShortcut);
  table_->addAction(dome);
  connect(dome, &QAction::triggered, this, [this] {
    const std::string id = chosenSpot();
    auto spots = viewed_->plan().spots;
    for (PinnedSpot& s : spots)
      if (s.id == id) {
        s.receptor = s.receptor == Receptor::Flat ? Receptor::Dome : Receptor::Flat;
        return viewed_->perform(SetSpots{spots}, tr("Receptor of the pin"));
      }
  });
}

void MeterCard::singlePage() {
  startPage("One at a time", tr("One at a time"));
  addChoice(
      0, 0, tr("&Receptor"), {{"flat", tr("Flat")}, {"dome", tr("Dome")}},
      [this] { return viewed_->plan().receptor == Receptor::Flat ? QString("flat") : QString("dome"); },
      [this](const QString& id) {
        // Each school goes with its own aim until the user says otherwise.
        const bool flat = id == "flat";
        viewed_->perform(SetReceptor{flat ? Receptor::Flat : Receptor::Dome, flat ? MeterAim::Light : MeterAim::Camera},
                         tr("Receptor"));
      })
      ->setObjectName("receptor");
  addChoice(
      0, 1, tr("&Aimed at"), {{"light", tr("the light")}, {"camera", tr("the camera")}},
      [this] { return viewed_->plan().meterAim == MeterAim::Light ? QString("light") : QString("camera"); },
      [this](const QString& id) {
        viewed_->perform(SetReceptor{viewed_->plan().receptor, id == "light" ? MeterAim::Light : MeterAim::Camera},
                         tr("Aim of the meter"));
      })
      ->setObjectName("meterAim");
  text_ = new QLabel(this);
  text_->setWordWrap(true);
  text_->setObjectName("readAloud");  // read standing, with the meter in the other hand
  text_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  text_->setTextFormat(Qt::RichText);
  readings_ = new ReadingsView(viewed_, this);
  grid_->addWidget(text_, 1, 0, 1, 4);
  grid_->addWidget(readings_, 2, 0, 1, 4);
  others_ = new QLabel(this);
  others_->setObjectName("quiet");
  others_->setWordWrap(true);
  grid_->addWidget(others_, 3, 0, 1, 4);
  grid_->setColumnStretch(1, 1);
  grid_->setColumnStretch(3, 1);
  grid_->setRowStretch(4, 1);
}

void MeterCard::cameraPage() {
  startPage("Set the camera", tr("Set the camera"));
  for (int i = 0; i < 3; ++i) {
    School s{new QLabel(this), new QLabel(this), new QPushButton(tr("Set the camera so"))};
    s.sentence->setWordWrap(true);
    s.print->setFixedSize((QSizeF(80, 100) * Theme::current().scale).toSize());
    s.print->setScaledContents(true);
    s.apply->setObjectName(QStringLiteral("cameraSchool%1").arg(i));
    connect(s.apply, &QPushButton::clicked, this, [this, i] { emit setCamera(i); });
    grid_->addWidget(s.print, i, 0);
    grid_->addWidget(s.sentence, i, 1);
    grid_->addWidget(s.apply, i, 2);
    schools_.push_back(s);
  }
  grid_->setColumnStretch(1, 1);
  grid_->setRowStretch(3, 1);
  connect(&prints_, &Prints::made, this, [this](const QString& id, const QImage& print) {
    if (const auto at = id.toULongLong(); at < schools_.size())
      schools_[at].print->setPixmap(QPixmap::fromImage(print));
  });
  connect(pages_, &QTabWidget::currentChanged, this, [this] { printSchools(); });
}

// The picture by each of the three, of the plan as it was read.
void MeterCard::printSchools() {
  if (!isVisible() || page() != QStringLiteral("Set the camera") || !result_ || !result_->answersCurrent) return;
  if (printed_ == viewed_->plan() || !(result_->plan == viewed_->plan())) return;
  printed_ = viewed_->plan();
  std::vector<ChoiceToPrint> choices;
  const size_t known = cameraSettings(*printed_, *result_->answers, Preferences::current().spelling()).size();
  for (size_t i = 0; i < std::min(known, schools_.size()); ++i)
    choices.push_back({std::to_string(i), withCameraSetting(*printed_, *result_->answers, CameraSchool(i))});
  prints_.ask(choices, PrintShows::Picture, {}, schools_.front().print->size() * devicePixelRatioF());
}

void MeterCard::showEvent(QShowEvent* e) {
  Card::showEvent(e);
  printSchools();
}

void MeterCard::advicePage() {
  startPage("Advice", tr("Advice"));
  advice_ = new QLabel(this);
  advice_->setWordWrap(true);
  advice_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  advice_->setObjectName("advice");
  grid_->addWidget(advice_, 0, 0);
  grid_->setRowStretch(1, 1);
}

void MeterCard::setResult(std::shared_ptr<const Result> result) {
  // The table comes a little after the readings: keep the last one until the new one is there.
  const bool newTable = result->table && (!result_ || result->table != result_->table);
  result_ = std::move(result);
  refresh();
  if (newTable) fillTable();
}

std::vector<MeterSpot> MeterCard::spots() const {
  return result_ && result_->table ? result_->table->spots : std::vector<MeterSpot>{};
}
std::string MeterCard::chosenSpot() const {
  const int row = table_->currentRow();
  const auto* head = row >= 0 ? table_->verticalHeaderItem(row) : nullptr;
  return head ? head->data(Qt::UserRole).toString().toStdString() : std::string();
}

void MeterCard::changeEvent(QEvent* e) {
  Card::changeEvent(e);
  if ((e->type() == QEvent::FontChange || e->type() == QEvent::StyleChange) && result_ && result_->table) fillTable();
}

void MeterCard::fillTable() {
  const SpotTable& t = *result_->table;
  const Plan& plan = result_->plan;
  table_->setColumnCount(int(t.lights.size()) + 1);
  table_->setRowCount(int(t.spots.size()));
  // Together first: it is asked for most.
  QStringList heads{tr("Together")};
  for (const std::string& id : t.lights) {
    const Light* l = plan.light(id);
    heads << (id == "ambient" ? tr("Room")
                              : QString::fromStdString(id) + " " + (l ? lightText(*l) : QString()) +
                                    (l && !l->on ? tr(" (off)") : QString()));
  }
  table_->setHorizontalHeaderLabels(heads);
  for (int row = 0; row < int(t.spots.size()); ++row) {
    // What the sampling leaves uncertain is said where a meter would show it.
    const double error = t.error[size_t(row)];
    const QString name = QString::fromStdString(t.spots[size_t(row)].name);
    auto* head = new QTableWidgetItem(error < 0.03 ? name : tr("%1 \u00b1%2").arg(name).arg(error, 0, 'f', 2));
    head->setData(Qt::UserRole, QString::fromStdString(t.spots[size_t(row)].id));
    const MeterSpot& spot = t.spots[size_t(row)];
    head->setToolTip(
        (spot.held ? tr("The reading that the camera is set by: the figure in the headline.")
         : spot.receptor == Receptor::Dome
             ? tr("Dome, looking the way the pin looks.")
             : tr("Flat, along the surface: what the skin gets, not what a meter aimed at the light says.")) +
        (error >= 0.005 ? " " + tr("Good to about %1 stop.").arg(error, 0, 'f', 2) : QString()));
    table_->setVerticalHeaderItem(row, head);
    auto put = [&](int column, double h, bool strong) {
      const double stops = spot.stops(h, plan.camera);
      // Far below anything that shows, the f-number says nothing.
      const double n = spot.aperture(h, plan.camera);
      const QString text = stops <= -12 ? QStringLiteral("--")
                           : n < 0.7    ? shortStops(stops)
                                        : tr("%1  %2").arg(shortStops(stops), apertureText(n));
      auto* cell = new QTableWidgetItem(text);
      cell->setTextAlignment(Qt::AlignCenter);
      QFont weight;
      weight.setWeight(strong ? QFont::DemiBold : QFont::Normal);
      cell->setFont(weight);
      table_->setItem(row, column, cell);
    };
    for (size_t k = 0; k < t.lights.size(); ++k) put(int(k) + 1, t.luxSeconds[size_t(row)][k], false);
    put(0, t.together[size_t(row)], true);
  }
  table_->verticalHeader()->setDefaultSectionSize(QFontMetrics(table_->font()).height() + 6);
  // As narrow as the words allow: a set of four lights stands without scrolling.
  QFont strong = table_->font();
  strong.setWeight(QFont::DemiBold);
  const QFontMetrics words(strong), headings(table_->horizontalHeader()->font());
  for (int c = 0; c < table_->columnCount(); ++c) {
    int wide = headings.horizontalAdvance(heads[c]);
    for (int row = 0; row < table_->rowCount(); ++row)
      wide = std::max(wide, words.horizontalAdvance(table_->item(row, c)->text()));
    table_->setColumnWidth(c, wide + 8);
  }
}

void MeterCard::refresh() {
  Card::refresh();
  const auto answers = result_ ? result_->answers : nullptr;
  if (!answers) {
    text_->clear();
    others_->clear();
    return;
  }
  const Plan& plan = viewed_->plan();
  readings_->setAnswers(answers);
  others_->setText(
      tr("Flash gives %1 % of the light on the face; room light is %2. Backdrop: %3, %4 stops against the face.")
          .arg(std::lround(100 * answers->face.flashShare()))
          .arg(stopsText(answers->ambientStops), QString::fromStdString(toneName(answers->backdropValue)),
               shortStops(answers->backdropStops)));
  const QString aim =
      plan.meterAim == MeterAim::Light ? tr("towards the light that is read") : tr("towards the camera");
  const QString how = plan.receptor == Receptor::Flat
                          ? tr("Hold the meter close to the skin, flat receptor %1; the other lights off.").arg(aim)
                          : tr("Hold the meter close to the skin, dome %1; the other lights off.").arg(aim);
  const QString studio = QString::fromStdString(studioInUse());
  const QString known = studio.isEmpty()
                            ? tr("From the catalogue's figures; a metering run would make them more exact.")
                            : tr("With what was learned in %1.").arg(studio.toHtmlEscaped());
  setMarkup(text_, how + " " + known);

  const auto settings = cameraSettings(plan, *answers, Preferences::current().spelling());
  for (size_t i = 0; i < schools_.size(); ++i) {
    const bool there = i < settings.size();
    schools_[i].apply->setEnabled(there);
    if (!there) {
      schools_[i].sentence->setText(i ? QString() : tr("Add a key and switch it on first."));
      continue;
    }
    setMarkup(schools_[i].sentence, QStringLiteral("<b>%1</b>%3<br>%2")
                                        .arg(QString::fromStdString(settings[i].name),
                                             QString::fromStdString(settings[i].sentence).toHtmlEscaped(),
                                             settings[i].standing ? tr(" (as it stands now)") : QString()));
  }
  QString advice;
  for (const Finding& f : adviceOn(plan, *answers, result_->table.get(), Preferences::current().spelling()))
    advice += (advice.isEmpty() ? QString() : QStringLiteral("\n\n")) +
              (f.severity == Severity::Note ? QString() : QStringLiteral("! ")) + QString::fromStdString(f.sentence);
  printSchools();
  advice_->setText(advice.isEmpty() ? tr("No advice: the readings are as they should be.") : advice);
}

}  // namespace easel::app
