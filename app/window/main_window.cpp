#include "window/main_window.h"

#include <QApplication>
#include <QButtonGroup>
#include <QCloseEvent>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenuBar>
#include <QMessageBox>
#include <QPushButton>
#include <QScrollArea>
#include <QSettings>
#include <QStackedWidget>
#include <QStatusBar>
#include <QStyle>
#include <QVBoxLayout>
#include <cmath>
#include <utility>

#include "balance/advice.h"
#include "balance/backdrop_tone.h"
#include "formats/catalogue.h"
#include "read/by_eye_page.h"
#include "widgets/attempt.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {
MainWindow::MainWindow(QWidget* parent) : QMainWindow(parent), document_(new Document(this)) {
  Preferences::current().load();
  WheelGuard::install();
  setAcceptDrops(true);
  onEasel_ = new OnEasel(document_, &link_, this);
  reading_ = new PictureReading(document_, this);
  actions_ = new PlanActions(
      document_, [this] { return onEasel_->answersNow(); }, this);
  connect(actions_, &PlanActions::said, this, &MainWindow::showNotice);
  connect(actions_, &PlanActions::chosen, this, &MainWindow::select);
  buildLayout();
  buildMenus();
  connect(document_, &Document::changed, this, &MainWindow::planChanged);
  connect(document_, &Document::stateChanged, this, &MainWindow::stateChanged);
  connect(&link_, &RenderLink::arrived, this, &MainWindow::resultArrived);
  QSettings s;
  resize(1280, 800);
  restoreGeometry(s.value("window/geometry").toByteArray());
  if (s.contains("window/halves")) halves_->restoreState(s.value("window/halves").toByteArray());
  if (s.contains("window/right")) right_->restoreState(s.value("window/right").toByteArray());
  setStage(s.value("window/stage", 1).toInt());
  select("A");
  planChanged();
  stateChanged();
  if (!dataProblem_.isEmpty()) showNotice(dataProblem_, true);
}

MainWindow::~MainWindow() {
  if (exporting_) exporting_->wait();  // it reports to this window
}

void MainWindow::buildLayout() {
  setWindowIcon(QIcon(":/icon.svg"));
  easel_ = new EaselView;
  ledge_ = new LedgeView;
  dial_ = new DialView(document_);
  rail_ = new RailView(document_);
  ladder_ = new LadderView(document_);
  dataProblem_ = KitDialog::loadAtStart();  // before the cards list what there is
  for (const std::string& problem : catalogueProblems())
    dataProblem_ += (dataProblem_.isEmpty() ? QString() : QStringLiteral(" ")) + QString::fromStdString(problem);
  build_ = new BuildCard(document_);
  panels_ = new PanelCard(document_);
  build_->addPage("Panels", panels_, tr("Panels"));
  set_ = new SetCard(document_);
  meter_ = new MeterCard(document_);
  read_ = new ReadCard(document_);
  byEye_ = new ByEyePage;
  read_->addPage("By eye", byEye_, tr("By eye"));

  auto* left = new QWidget;
  auto* leftBox = new QVBoxLayout(left);
  leftBox->setContentsMargins(0, 0, 0, 0);
  leftBox->setSpacing(0);
  leftBox->addWidget(easel_, 1);
  leftBox->addWidget(ledge_);
  ledge_->setFixedHeight(136);

  // The answer, large enough to be read from two metres.
  auto* head = new QWidget;
  auto* headBox = new QHBoxLayout(head);
  headBox->setContentsMargins(12, 6, 12, 6);
  auto* words = new QVBoxLayout;
  words->setSpacing(0);
  answer_ = new QLabel;
  answer_->setObjectName("answer");
  answer_->setMinimumWidth(100);
  subAnswer_ = new QLabel;
  subAnswer_->setObjectName("quiet");
  subAnswer_->setMinimumWidth(100);
  words->addWidget(answer_);
  words->addWidget(subAnswer_);
  headBox->addLayout(words, 1);
  stages_ = new QButtonGroup(this);
  const QString names[] = {tr("Set"), tr("Build"), tr("Meter"), tr("Read")};
  const QString tips[] = {tr("Sitter, camera, backdrop, room (F5)"), tr("The light: place, modifier, power (F6)"),
                          tr("Readings, one light at a time (F7)"),
                          tr("What the picture tells: pattern, eyes, faults (F9)")};
  for (int i = 0; i < 4; ++i) {
    auto* b = new QPushButton(names[i]);
    b->setObjectName("stage");
    b->setCheckable(true);
    b->setToolTip(tips[i]);
    stages_->addButton(b, i);
    headBox->addWidget(b);
  }
  connect(stages_, &QButtonGroup::idClicked, this, &MainWindow::setStage);

  auto* plans = new QSplitter(Qt::Horizontal);
  plans->addWidget(dial_);
  plans->addWidget(rail_);
  plans->setStretchFactor(0, 1);
  plans->setStretchFactor(1, 1);
  plans->setSizes({360, 370});
  plans->setChildrenCollapsible(false);

  cards_ = new QStackedWidget;
  for (Card* c :
       {static_cast<Card*>(set_), static_cast<Card*>(build_), static_cast<Card*>(meter_), static_cast<Card*>(read_)}) {
    auto* scroll = new QScrollArea;
    scroll->setWidget(c);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    cards_->addWidget(scroll);
    connect(c, &Card::refused, this, [this](const QString& why) { showNotice(why, true); });
  }
  auto* ladderScroll = new QScrollArea;
  ladderScroll->setWidget(ladder_);
  ladderScroll->setWidgetResizable(true);
  ladderScroll->setFrameShape(QFrame::NoFrame);
  ladderFrame_ = ladderScroll;

  right_ = new QSplitter(Qt::Vertical);
  right_->addWidget(plans);
  right_->addWidget(ladderScroll);
  right_->addWidget(cards_);
  right_->setStretchFactor(0, 5);
  right_->setStretchFactor(1, 0);
  right_->setStretchFactor(2, 2);
  right_->setSizes({320, 112, 236});
  right_->setChildrenCollapsible(false);

  auto* rightSide = new QWidget;
  auto* rightBox = new QVBoxLayout(rightSide);
  rightBox->setContentsMargins(0, 0, 0, 0);
  rightBox->setSpacing(0);
  rightBox->addWidget(head);
  rightBox->addWidget(right_, 1);

  halves_ = new QSplitter(Qt::Horizontal);
  halves_->addWidget(left);
  halves_->addWidget(rightSide);
  halves_->setStretchFactor(0, 9);
  halves_->setStretchFactor(1, 10);
  halves_->setSizes({545, 735});
  halves_->setChildrenCollapsible(false);
  setCentralWidget(halves_);

  notice_ = new QLabel;
  notice_->setMinimumWidth(60);
  pointer_ = new QLabel;
  pointer_->setMinimumWidth(60);
  statusBar()->addWidget(notice_, 1);
  offer_ = new QPushButton;
  offer_->setObjectName("offer");
  offer_->hide();
  connect(offer_, &QPushButton::clicked, this, [this] {
    offer_->hide();
    if (const auto work = std::exchange(offered_, {})) work();
  });
  statusBar()->addPermanentWidget(offer_);
  statusBar()->addPermanentWidget(pointer_);

  connect(easel_, &EaselView::pointed, pointer_, &QLabel::setText);
  connect(ledge_, &LedgeView::chosen, onEasel_, &OnEasel::showOnly);
  connect(ledge_, &LedgeView::modeChosen, this, &MainWindow::setLedgeMode);
  connect(ledge_, &LedgeView::tried, onEasel_, &OnEasel::tryOut);
  connect(ledge_, &LedgeView::taken, onEasel_, &OnEasel::takeOver);
  connect(ledge_, &LedgeView::moved, actions_, &PlanActions::reorder);
  connect(easel_, &EaselView::pinned, actions_, &PlanActions::pin);
  connect(dial_, &DialView::pinned, actions_, &PlanActions::pin);
  connect(meter_, &MeterCard::setCamera, actions_, &PlanActions::setCamera);
  connect(meter_, &MeterCard::exportWanted, this, &MainWindow::exportReadings);
  connect(read_, &ReadCard::tryOut, onEasel_, &OnEasel::tryOut);
  connect(read_, &ReadCard::taken, onEasel_, &OnEasel::takeOver);
  connect(read_, &ReadCard::evidenceChanged, this, &MainWindow::showEvidence);
  connect(byEye_, &ByEyePage::histogram, this, [this](bool on) {
    histogramAction_->setChecked(on);
    easel_->setHistogramShown(on);
  });
  connect(byEye_, &ByEyePage::clipping, this, [this](bool on) {
    clippingAction_->setChecked(on);
    easel_->setClippingShown(on);
  });
  connect(byEye_, &ByEyePage::zebra, this, [this](double level) {
    zebraAction_->setChecked(level > 0);
    easel_->setZebra(level);
  });
  connect(byEye_, &ByEyePage::greyCard, this, [this](bool on) {
    greyCardAction_->setChecked(on);
    easel_->setGreyCardShown(on);
  });
  connect(byEye_, &ByEyePage::besideWanted, this, &MainWindow::loadBeside);
  connect(byEye_, &ByEyePage::besideAway, this, [this] { easel_->setBeside({}, {}); });
  connect(reading_, &PictureReading::arrived, this, &MainWindow::readingArrived);
  connect(reading_, &PictureReading::failed, this, [this](const QString& why) { showNotice(why, true); });
  connect(onEasel_, &OnEasel::said, this, &MainWindow::showNotice);
  connect(onEasel_, &OnEasel::changed, this, [this] {
    ledge_->setTried(onEasel_->label());
    ledge_->setShow(onEasel_->show());
    showEvidence();
  });
  connect(build_, &BuildCard::preferencesChanged, this, [this] { ladder_->update(); });
  connect(document_, &Document::refused, this, [this](const QString& why) { showNotice(why, true); });
  connect(dial_, &DialView::selected, this, &MainWindow::select);
  connect(rail_, &RailView::selected, this, &MainWindow::select);
  connect(ladder_, &LadderView::selected, this, &MainWindow::select);
  connect(dial_, &DialView::panelSelected, this, &MainWindow::selectPanel);
  connect(rail_, &RailView::panelSelected, this, &MainWindow::selectPanel);
  connect(panels_, &PanelCard::chosen, this, &MainWindow::selectPanel);
  connect(panels_, &PanelCard::said, this, [this](const QString& s) { showNotice(s); });
  connect(panels_, &Card::refused, this, [this](const QString& why) { showNotice(why, true); });
}

void MainWindow::setStage(int stage) {
  stage = std::clamp(stage, 0, 3);
  cards_->setCurrentIndex(stage);
  easel_->setPinsShown(stage == 2);
  stages_->button(stage)->setChecked(true);
  showEvidence();
}

void MainWindow::planChanged() {
  if (!panel_.isEmpty() && !document_->plan().panel(panel_.toStdString())) {
    panel_.clear();
    dial_->setSelectedPanel({});
    rail_->setSelectedPanel({});
    panels_->setSelected({});
  }
  if (!document_->plan().light(selected_.toStdString()))
    select(document_->plan().lights.empty() ? QString() : QString::fromStdString(document_->plan().lights.front().id));
  reading_->drop();
  easel_->setEvidence({}, {}, {});
  onEasel_->planChanged();
  if (const Light* l = document_->plan().light(selected_.toStdString()))
    lockAction_->setText(l->locked ? tr("Unloc&k the light") : tr("Loc&k the light"));
  // Four rows stand open; more of them scroll.
  const int rows = int(std::max<size_t>(1, document_->plan().lights.size()));
  ladder_->setMinimumHeight(44 + 46 * rows);
  ladderFrame_->setMinimumHeight(48 + 46 * std::min(rows, 4));
}

void MainWindow::requestPicture() {
  onEasel_->setExtras({mapAction_->isChecked(), ledge_->mode() == LedgeView::Mode::Ratios});
  onEasel_->request();
}

void MainWindow::resultArrived() {
  const auto& r = link_.latest();
  easel_->setResult(r, link_.upToDate());
  if (onEasel_->tryingOut()) return;  // the instruments stay with the open plan
  if (r->plan == document_->plan()) ledge_->setResult(r);
  // Readings of a plan that has moved on would put the dot where it no longer is.
  if (r->answersCurrent && link_.upToDate()) {
    ladder_->setAnswers(r->answers);
    build_->setAnswers(r->answers);
    set_->setAnswers(r->answers);
    meter_->setResult(r);
    build_->setQuality(r->quality);
    panels_->setShares(r->shares);
    reading_->offer(r);
  }
  const Plan& plan = document_->plan();
  const Light* l = plan.light(selected_.toStdString());
  const LightAnswer* a = r->answers && l ? r->answers->light(l->id) : nullptr;
  if (a && r->answersCurrent && link_.upToDate()) {
    const Unit* u = findUnit(l->unit);
    const QString want = u ? QString::fromStdString(u->scale.write(a->setting.stops)) : QString();
    const bool there = std::abs(l->power - a->setting.stops) < 0.02 && a->setting.shortfall == 0;
    const QString target = apertureText(plan.camera.aperture * std::exp2(l->targetStops / 2));
    answer_->setText(a->setting.shortfall != 0 ? tr("%1: %2 is out of reach").arg(selected_, target)
                     : there                   ? tr("%1 at %2 gives %3").arg(selected_, want, apertureText(a->aperture))
                             : tr("%1 reads %2, set %3").arg(selected_, apertureText(a->aperture), want));
    subAnswer_->setText(tr("%1, ISO %2. Flash %3 %, ambient %4. Backdrop %5 (%6)")
                            .arg(apertureText(plan.camera.shootingAperture()))
                            .arg(std::lround(plan.camera.iso))
                            .arg(std::lround(100 * r->answers->face.flashShare()))
                            .arg(shortStops(r->answers->ambientStops),
                                 QString::fromStdString(toneName(r->answers->backdropValue)),
                                 shortStops(r->answers->backdropStops)));
  } else if (!l) {
    answer_->setText(tr("No light yet"));
    subAnswer_->setText(tr("Ctrl+L puts up a key"));
  }
  if (r->done || !r->problem.empty()) {
    // The first finding that matters, as a sentence; nothing in front of the picture. Errors in the user's own units,
    // where the renderer has them in metres.
    const Spelling spelling = Preferences::current().spelling();
    const QString worst = QString::fromStdString(
                      mostPressing(plan, r->answersCurrent ? r->answers.get() : nullptr, r->table.get(), spelling)),
                  error = QString::fromStdString(whatPrevents(plan, spelling));
    // What was said of something else (a file that cannot be read) stays until there is more to say.
    const QString now = r->problem.empty() ? worst : error.isEmpty() ? QString::fromStdString(r->problem) : error;
    if (!now.isEmpty()) {
      showNotice(now, true);
      notice_->setProperty("ofPicture", true);
    } else if (notice_->property("ofPicture").toBool()) {
      showNotice({});
    }
  }
}

void MainWindow::showNotice(const QString& sentence, bool problem) {
  notice_->setText(sentence);
  notice_->setToolTip(sentence);
  notice_->setProperty("problem", problem);
  notice_->setProperty("ofPicture", false);
  notice_->setObjectName(problem ? "problem" : "quiet");
  notice_->style()->unpolish(notice_);
  notice_->style()->polish(notice_);
}

void MainWindow::stateChanged() {
  setWindowTitle(tr("%1[*] - Jolly Easel").arg(document_->displayName()));
  setWindowModified(document_->modified());
  const History& h = document_->history();
  undo_->setEnabled(h.canUndo());
  redo_->setEnabled(h.canRedo());
  undo_->setText(h.canUndo() ? tr("&Undo: %1").arg(QString::fromStdString(h.undoLabel())) : tr("&Undo"));
  redo_->setText(h.canRedo() ? tr("&Redo: %1").arg(QString::fromStdString(h.redoLabel())) : tr("&Redo"));
  easel_->setCaption(QString::fromStdString(document_->plan().title));
}

void MainWindow::selectPanel(const QString& number) {
  panel_ = number;
  dial_->setSelectedPanel(number);
  rail_->setSelectedPanel(number);
  panels_->setSelected(number);
  build_->showPage(panels_);
  setStage(1);
}

void MainWindow::select(const QString& id) {
  selected_ = id;
  actions_->setSelected(id);
  panel_.clear();
  dial_->setSelectedPanel({});
  rail_->setSelectedPanel({});
  dial_->setSelected(id);
  rail_->setSelected(id);
  ladder_->setSelected(id);
  build_->setSelected(id);
  if (link_.latest()) resultArrived();
}

void MainWindow::setLedgeMode(LedgeView::Mode mode) {
  ledge_->setMode(mode);
  onEasel_->setExtras({mapAction_->isChecked(), mode == LedgeView::Mode::Ratios});
  onEasel_->reset();
  onEasel_->tryOut({}, {});
  if (mode == LedgeView::Mode::Series && ledge_->series().empty()) openSeries();
}

void MainWindow::keepPicture() {
  easel_->keepBefore(onEasel_->name());
  showNotice(tr("Kept. W wipes between it and whatever you show next, F flips."));
}

void MainWindow::renameLight() {
  const Light* l = document_->plan().light(selected_.toStdString());
  if (!l) return;
  bool ok = false;
  const QString name = QInputDialog::getText(this, tr("Rename light %1").arg(selected_), tr("Name"), QLineEdit::Normal,
                                             lightText(*l), &ok);
  if (ok) actions_->rename(name);
}

void MainWindow::openKit() {
  if (!kit_) {
    kit_ = new KitDialog(document_, this);
    connect(kit_, &KitDialog::said, this, &MainWindow::showNotice);
    connect(kit_, &KitDialog::changed, this, [this] {
      build_->gearChanged();
      requestPicture();
    });
  }
  kit_->show();
  kit_->raise();
}

void MainWindow::openSeries() {
  if (!series_) {
    series_ = new SeriesDialog(document_, this);
    connect(series_, &SeriesDialog::made, this, [this](const std::vector<SeriesPicture>& pictures) {
      ledge_->setSeries(pictures);
      ledge_->setMode(LedgeView::Mode::Series);
    });
    connect(series_, &SeriesDialog::said, this, &MainWindow::showNotice);
  }
  series_->setLight(selected_);
  // Over the cards: the picture and the ledge, where the series goes, stay free.
  if (!series_->isVisible()) {
    series_->adjustSize();
    series_->move(mapToGlobal(QPoint(width() - series_->width() - 16, height() - series_->height() - 40)));
  }
  series_->show();
  series_->raise();
  series_->activateWindow();
}

bool MainWindow::attempt(const std::function<void()>& work) {
  return app::attempt(work, [this](const QString& why) { showNotice(why, true); });
}

void MainWindow::setTheme(bool dim) {
  Theme::apply(*qApp, dim);
  QSettings().setValue("theme/dim", dim);
  for (QWidget* w : findChildren<QWidget*>()) w->update();
}

void MainWindow::setUnits() {
  Preferences& p = Preferences::current();
  p.metres = metresAction_->isChecked();
  p.apertures = thirdsAction_->isChecked() ? ApertureStyle::Thirds : ApertureStyle::Tenths;
  p.save();
  // The choice is the program's: every window says it.
  for (QWidget* w : QApplication::topLevelWidgets())
    if (auto* window = qobject_cast<MainWindow*>(w)) window->spellingChanged();
}

void MainWindow::spellingChanged() {
  const Preferences& p = Preferences::current();
  (p.metres ? metresAction_ : feetAction_)->setChecked(true);
  thirdsAction_->setChecked(p.apertures == ApertureStyle::Thirds);
  for (Card* c : findChildren<Card*>()) c->refresh();
  for (QWidget* w : findChildren<QWidget*>()) w->update();
  if (link_.latest()) resultArrived();
}

void MainWindow::closeEvent(QCloseEvent* e) {
  if (!mayDrop()) {
    e->ignore();
    return;
  }
  QSettings s;
  s.setValue("window/geometry", saveGeometry());
  s.setValue("window/halves", halves_->saveState());
  s.setValue("window/right", right_->saveState());
  s.setValue("window/stage", cards_->currentIndex());
  e->accept();
}

}  // namespace easel::app
