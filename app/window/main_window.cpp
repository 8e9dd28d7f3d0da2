#include "window/main_window.h"

#include <QApplication>
#include <QCloseEvent>
#include <QDialog>
#include <QFileInfo>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenuBar>
#include <QMessageBox>
#include <QPushButton>
#include <QScreen>
#include <QSettings>
#include <QStatusBar>
#include <QStyle>
#include <cmath>
#include <utility>

#include "balance/advice.h"
#include "balance/backdrop_tone.h"
#include "exposure/shutter.h"
#include "formats/catalogue.h"
#include "plan/framing.h"
#include "stages/all_stages.h"
#include "widgets/attempt.h"
#include "widgets/fitted_label.h"
#include "widgets/mnemonics.h"
#include "widgets/single_keys.h"
#include "widgets/theme.h"
#include "widgets/watched_application.h"
#include "widgets/within_screen.h"
#include "widgets/wording.h"

namespace easel::app {
MainWindow::MainWindow(QWidget* parent) : QMainWindow(parent), document_(new Document(this)) {
  Preferences::current().load();
  InputGuard::install();
  setAcceptDrops(true);
  onEasel_ = new OnEasel(document_, &link_, this);
  reading_ = new PictureReading(document_, this);
  actions_ = new PlanActions(
      document_, [this] { return onEasel_->answersNow(); }, [this] { return onEasel_->sceneNow(); }, this);
  connect(actions_, &PlanActions::said, this, &MainWindow::showNotice);
  connect(actions_, &PlanActions::chosen, this, &MainWindow::select);
  buildLayout();
  buildMenus();
  spreadMnemonics(menuBar());
  QSet<QChar> menus;
  for (const QAction* title : menuBar()->actions()) menus.insert(mnemonicOf(title->text()));
  for (Stage* stage : stages_) spreadMnemonics(stage->page(), menus);
  saving_ = new DocumentSaving(
      {document_->session(), tr("Save the plan"), tr(kPlanFilter), QStringLiteral(".easel.json"),
       [this] { return document_->displayName(); }, [this] { return QString::fromStdString(document_->plan().title); },
       [this] { return document_->modified(); },
       [this](const std::filesystem::path& file, SessionFile::Over over) { document_->saveTo(file, over); }},
      this);
  connect(saving_, &DocumentSaving::said, this, &MainWindow::showNotice);
  connect(&KitFile::current(), &KitFile::said, this, &MainWindow::showNotice);
  connect(&KitFile::current(), &KitFile::changed, this, [this] {
    for (Stage* stage : stages_) stage->gearChanged();
    requestPicture();
  });
  connect(saving_, &DocumentSaving::saved, this, &MainWindow::remember);
  connect(document_, &Document::replaced, this, [this] {
    ledge_->setSeries({});
    lastSeries_ = {};
  });
  new SingleKeys(this, {easel_, ledge_, dial_, rail_, ladder_, figures_, headline_});
  if (auto* application = qobject_cast<WatchedApplication*>(qApp))
    connect(application, &WatchedApplication::failed, this, [this](const QString& why) { showNotice(why, true); });
  connect(document_, &Document::changed, this, &MainWindow::planChanged);
  connect(document_, &Document::stateChanged, this, &MainWindow::stateChanged);
  connect(&link_, &RenderLink::arrived, this, &MainWindow::resultArrived);
  QSettings s;
  resizeWithin(this, {1280, 800});
  restoreGeometry(s.value("window/geometry").toByteArray());
  resizeWithin(this, size());
  views_->setMoved(s.value("window/arrangement").toString());
  setStage(1);
  showStage(s.value("window/stageName").toString());
  select("A");
  planChanged();
  stateChanged();
  if (!dataProblem_.isEmpty()) showNotice(dataProblem_, true);
}

MainWindow::~MainWindow() {
  // Views are hidden after this window's own parts have gone: nothing may be asked of them then.
  easel_->disconnect(this);
  if (alone_) {
    alone_->disconnect(this);
    alone_->easel()->disconnect(this);
  }
}

void MainWindow::buildLayout() {
  setWindowIcon(QIcon(":/icon.svg"));
  easel_ = new EaselView;
  ledge_ = new LedgeView(document_);
  dial_ = new DialView(document_);
  rail_ = new RailView(document_);
  ladder_ = new LadderView(document_);
  figures_ = new FiguresView(document_);
  dataProblem_ = KitFile::current().loadOnce();  // before the cards list what there is
  for (const std::string& problem : catalogueProblems())
    dataProblem_ += (dataProblem_.isEmpty() ? QString() : QStringLiteral(" ")) + QString::fromStdString(problem);
  stages_ = allStages(
      {document_, onEasel_, actions_, reading_, easel_, ledge_, dial_, rail_, ladder_, [this] { exportReadings(); },
       [this] { loadBeside(); }, [this] { openDevices(); }, [this](const QString& file) { showBeside(file); }},
      this);

  arrangeViews();
  fillStatusBar();
  joinWatchedFolder();
  joinInstruments();
}

void MainWindow::arrangeViews() {
  views_ = new ArrangedViews;
  headline_ = new Headline(stages_);
  connect(headline_, &Headline::stageChosen, this, &MainWindow::setStage);
  views_->addView(views::kAnswer, headline_);
  views_->addView(views::kEasel, easel_);
  views_->addView(views::kLedge, ledge_);
  views_->addView(views::kDial, dial_);
  views_->addView(views::kRail, rail_);
  ladderFrame_ = new PageFrame(ladder_);
  views_->addView(views::kLadder, ladderFrame_);
  views_->addView(views::kFigures, figures_);
  for (Stage* stage : stages_) {
    views_->addView(stage->id(), new PageFrame(stage->page()));
    connect(stage->page(), &Card::refused, this, [this](const QString& why) { showNotice(why, true); });
    connect(stage, &Stage::said, this, &MainWindow::showNotice);
    connect(stage, &Stage::panelWanted, this, &MainWindow::selectPanel);
    connect(stage, &Stage::evidenceChanged, this, [this, stage] {
      if (stage_ < 0 || stage != stages_[size_t(stage_)]) return;
      showEvidence();
      tellAnswer();
    });
  }
  setCentralWidget(views_);
}

void MainWindow::fillStatusBar() {
  notice_ = new FittedLabel;
  pointer_ = new FittedLabel;
  pointer_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  statusBar()->addWidget(notice_, 3);
  statusBar()->addWidget(pointer_, 2);
  offer_ = new QPushButton;
  offer_->setObjectName("offer");
  offer_->hide();
  connect(offer_, &QPushButton::clicked, this, [this] {
    offer_->hide();
    if (const auto work = std::exchange(offered_, {})) work();
  });
  statusBar()->addPermanentWidget(offer_);
  preparing_ = new QLabel;
  preparing_->setObjectName("preparing");
  preparing_->setToolTip(
      tr("The first start prepares the people one after the other; each can be chosen once they are there."));
  preparing_->hide();
  statusBar()->addPermanentWidget(preparing_);
  connect(&sitters_, &SittersArriving::changed, this, [this](const Baking& now, bool more) {
    preparing_->setText(tr("Preparing sitters: %1 of %2").arg(now.there).arg(now.all));
    preparing_->setVisible(now.goesOn && now.there < now.all);
    // The plan's own may be among them.
    if (more && link_.latest() && !link_.latest()->problem.empty()) requestPicture();
  });
}

void MainWindow::joinWatchedFolder() {
  connect(&watched_, &WatchedFolder::arrived, this,
          [this](const QString& file, const QImage& picture, const PhotographSettings& settings) {
            putBeside(QFileInfo(file).fileName(), picture, settings);
          });
  connect(&watched_, &WatchedFolder::failed, this, [this](const QString& why) { showNotice(why, true); });
  connect(&watched_, &WatchedFolder::begun, this, [this] {
    showNotice(tr("Every picture that arrives in %1 is shown beside the easel. Click a grey card in it.")
                   .arg(watched_.folder()));
  });
  connect(&watched_, &WatchedFolder::refused, this, [this](const QString& why) {
    watchAction_->setChecked(false);
    showNotice(why, true);
  });
}

void MainWindow::joinInstruments() {
  connect(easel_, &EaselView::besideRead, this, [this](const QString& words) { showNotice(words); });
  connect(easel_, &EaselView::pointed, pointer_, &FittedLabel::setWords);
  connect(ledge_, &LedgeView::chosen, onEasel_, &OnEasel::showOnly);
  connect(ledge_, &LedgeView::modeChosen, this, &MainWindow::setLedgeMode);
  connect(ledge_, &LedgeView::tried, onEasel_, &OnEasel::tryOut);
  connect(ledge_, &LedgeView::taken, onEasel_, &OnEasel::takeOver);
  connect(ledge_, &LedgeView::moved, actions_, &PlanActions::reorder);
  connect(easel_, &EaselView::sharpWanted, this, &MainWindow::wishSharp);
  connect(easel_, &EaselView::pinned, actions_, &PlanActions::pin);
  connect(dial_, &DialView::pinned, actions_, &PlanActions::pin);
  connect(reading_, &PictureReading::failed, this, [this](const QString& why) { showNotice(why, true); });
  connect(onEasel_, &OnEasel::said, this, &MainWindow::showNotice);
  connect(onEasel_, &OnEasel::changed, this, [this] {
    ledge_->setTried(onEasel_->label());
    ledge_->setShow(onEasel_->show());
    showEvidence();
  });
  connect(document_, &Document::refused, this, [this](const QString& why) { showNotice(why, true); });
  connect(dial_, &DialView::selected, this, &MainWindow::select);
  connect(rail_, &RailView::selected, this, &MainWindow::select);
  connect(ladder_, &LadderView::selected, this, &MainWindow::select);
  connect(dial_, &DialView::panelSelected, this, &MainWindow::selectPanel);
  connect(rail_, &RailView::panelSelected, this, &MainWindow::selectPanel);
  connect(actions_, &PlanActions::panelChosen, this, &MainWindow::selectPanel);
  // A view that fills the window is given back by the same gesture.
  connect(easel_, &EaselView::roomWanted, this, [this] { fillOrGiveBack(views::kEasel); });
  connect(dial_, &DialView::roomWanted, this, [this] { fillOrGiveBack(views::kDial); });
  connect(rail_, &RailView::roomWanted, this, [this] { fillOrGiveBack(views::kRail); });
  connect(views_, &ArrangedViews::filled, this, [this](const QString& name) {
    if (!name.isEmpty()) showNotice(tr("F12 or Escape gives the other views their places back."));
  });
}

void MainWindow::fillOrGiveBack(const QString& view) {
  if (view.isEmpty()) return;
  if (views_->filling() == view)
    views_->giveBack();
  else
    views_->fill(view);
}

void MainWindow::showStage(const QString& stage) {
  bool number = false;
  const int at = stage.toInt(&number);
  for (int i = 0; i < int(stages_.size()); ++i)
    if (number ? i == at : stages_[size_t(i)]->id() == stage) return setStage(i);
}

void MainWindow::setStage(int stage) {
  stage = std::clamp(stage, 0, int(stages_.size()) - 1);
  if (far_) {
    far_ = false;
    farAction_->setChecked(false);
  }
  if (stage != stage_) {
    if (stage_ >= 0) stages_[size_t(stage_)]->leave();
    stage_ = stage;
    stages_[size_t(stage_)]->enter();
  }
  headline_->setStage(stage_);
  tellAnswer();
  arrangeStage();
  showEvidence();
  // The keyboard focus must not stay in a page that is hidden now.
  if (QWidget* begins = stages_[size_t(stage_)]->begins())
    begins->setFocus(Qt::OtherFocusReason);
  else if (const QWidget* has = focusWidget(); !has || !has->isVisibleTo(this))
    easel_->setFocus(Qt::OtherFocusReason);
}

void MainWindow::arrangeStage() {
  headline_->setFar(far_);
  // Three times the size, or what the window has room for.
  const double scale = Theme::current().scale,
               by = far_ ? std::clamp(std::min(width() / (410 * scale), (height() - 165 * scale) / (211 * scale)), 1.5,
                                      3.0)
                         : 1;
  ladder_->setMagnified(by);
  figures_->setMagnified(by);
  wide_ = liesWide(document_->plan().camera);
  if (!far_) {
    const Stage& stage = *stages_[size_t(stage_)];
    // What was dragged for an upright picture says nothing about one that lies.
    return views_->arrange(wide_ ? stage.id() + QStringLiteral(" wide") : stage.id(), stage.arrangement(wide_));
  }
  views_->arrange(QStringLiteral("Far"),
                  inColumn({exactly(views::kAnswer), exactly(views::kFigures), shown(views::kLadder)}));
  ladder_->setFocus();
}

void MainWindow::setFar(bool far) {
  far_ = far;
  farAction_->setChecked(far);
  arrangeStage();
}

void MainWindow::showEvidence() {
  if (stage_ >= 0) stages_[size_t(stage_)]->showEvidence();
}

void MainWindow::planChanged() {
  // A refusal or a problem is of the plan as it was. What is refused now is said after this.
  if (notice_->property("problem").toBool()) showNotice({});
  if (!panel_.isEmpty() && !document_->plan().panel(panel_.toStdString())) {
    panel_.clear();
    dial_->setSelectedPanel({});
    rail_->setSelectedPanel({});
    for (Stage* stage : stages_) stage->panelChosen({});
  }
  if (!document_->plan().light(selected_.toStdString()))
    select(document_->plan().lights.empty() ? QString() : QString::fromStdString(document_->plan().lights.front().id));
  reading_->drop();
  easel_->setEvidence({}, {}, {});
  onEasel_->planChanged();
  if (const Light* l = document_->plan().light(selected_.toStdString())) lockAction_->setChecked(l->locked);
  if (liesWide(document_->plan().camera) != wide_ && stage_ >= 0) {
    const QString filling = views_->filling();
    arrangeStage();
    if (!filling.isEmpty()) views_->fill(filling);
  }
  if (const size_t rows = document_->plan().lights.size(); rows != rows_) {
    rows_ = rows;
    ladder_->updateGeometry();
    views_->settle();
  }
}

void MainWindow::requestPicture() {
  onEasel_->setExtras({mapAction_->isChecked(), ledge_->mode() == LedgeView::Mode::Ratios});
  onEasel_->request();
}

// The headline: the stage's own, or what the chosen light gives.
void MainWindow::tellAnswer() {
  const auto& r = link_.latest();
  if (!r || onEasel_->tryingOut()) return;
  const Plan& plan = document_->plan();
  const Light* l = plan.light(selected_.toStdString());
  const LightAnswer* a = r->answers && l ? r->answers->light(l->id) : nullptr;
  if (a && r->answersCurrent && link_.upToDate()) {
    const QString want = powerText(*l, a->setting.stops);
    const bool there = std::abs(l->power - a->setting.stops) < 0.02 && a->setting.shortfall == 0;
    const QString target = apertureText(plan.camera.aperture * std::exp2(l->targetStops / 2));
    if (const QString own = stage_ >= 0 ? stages_[size_t(stage_)]->answer() : QString(); !own.isEmpty())
      return headline_->setAnswer(own, tr("%1, ISO %2, %3")
                                           .arg(apertureText(plan.camera.aperture))
                                           .arg(std::lround(plan.camera.iso))
                                           .arg(QString::fromStdString(writeShutter(plan.camera.shutter))));
    headline_->setAnswer(
        a->setting.shortfall != 0 ? tr("%1: %2 is out of reach").arg(selected_, target)
        : there                   ? tr("%1 at %2 gives %3").arg(selected_, want, apertureText(a->aperture))
                                  : tr("%1 reads %2, set %3").arg(selected_, apertureText(a->aperture), want),
        tr("%1, ISO %2. Flash %3 %, ambient %4. Backdrop %5 (%6)")
            .arg(apertureText(plan.camera.shootingAperture()))
            .arg(std::lround(plan.camera.iso))
            .arg(std::lround(100 * r->answers->face.flashShare()))
            .arg(shortStops(r->answers->ambientStops), QString::fromStdString(toneName(r->answers->backdropValue)),
                 shortStops(r->answers->backdropStops)));
  } else if (!l) {
    headline_->setAnswer(tr("No light yet"), tr("Ctrl+L puts up a key"));
  }
}

void MainWindow::resultArrived() {
  const auto& r = link_.latest();
  easel_->setResult(r, link_.upToDate());
  if (alone_) alone_->easel()->setResult(r, link_.upToDate());
  if (onEasel_->tryingOut()) return;  // the instruments stay with the open plan
  if (r->plan == document_->plan()) ledge_->setResult(r);
  // Readings of a plan that has moved on would put the dot where it no longer is.
  if (r->answersCurrent && link_.upToDate()) {
    ladder_->setAnswers(r->answers);
    figures_->setAnswers(r->answers);
    const auto table = shownTable_;
    for (Stage* stage : stages_) stage->readingsArrived(r);
    shownTable_ = r->table;
    if (table != shownTable_) showEvidence();
    reading_->offer(r);
  }
  tellAnswer();
  const Plan& plan = document_->plan();
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

QString MainWindow::notice() const { return notice_->words(); }

void MainWindow::showNotice(const QString& sentence, bool problem) {
  notice_->setWords(sentence);
  notice_->setProperty("problem", problem);
  notice_->setProperty("ofPicture", false);
  notice_->setObjectName(problem ? "problem" : "quiet");
  restyle(notice_);
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
  for (Stage* stage : stages_) stage->panelChosen(number);
  // Where lights and boards are put up, wherever it stands in the order.
  for (size_t i = 0; i < stages_.size(); ++i)
    if (stages_[i]->id() == QStringLiteral("Build")) setStage(int(i));
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
  figures_->setSelected(id);
  if (const QRect row = ladder_->rowOf(id); !row.isEmpty())
    ladderFrame_->ensureVisible(0, row.center().y(), 0, row.height() / 2 + 2);
  for (Stage* stage : stages_) stage->lightChosen(id);
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

KitDialog* MainWindow::kit() {
  if (!kit_) {
    kit_ = new KitDialog(document_, this);
    connect(kit_, &KitDialog::said, this, &MainWindow::showNotice);
  }
  return kit_;
}

void MainWindow::openKit() {
  kit()->show();
  kit_->raise();
}

void MainWindow::openSeries() {
  if (!series_) {
    series_ = new SeriesDialog(document_, this);
    connect(series_, &SeriesDialog::made, this,
            [this](const std::vector<SeriesPicture>& pictures, const QString& title) {
              lastSeries_ = {pictures, title};
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

void MainWindow::resizeEvent(QResizeEvent* e) {
  QMainWindow::resizeEvent(e);
  fitType();
}
// Only now has every widget its own type.
void MainWindow::showEvent(QShowEvent* e) {
  QMainWindow::showEvent(e);
  if (!focusWidget()) easel_->setFocus();
  QMetaObject::invokeMethod(views_, &ArrangedViews::settle, Qt::QueuedConnection);
}
void MainWindow::changeEvent(QEvent* e) {
  QMainWindow::changeEvent(e);
  if (e->type() == QEvent::ActivationChange && isActiveWindow()) fitType();
}

// Type grows with the window, in steps, so that a large screen can be read from further away; the program has one size
// at a time, that of the window in use.
void MainWindow::fitType() {
  const double room = std::clamp(std::min(width() / 1280.0, height() / 800.0), 1.0, 2.25);
  const double scale = std::floor(room * 8) / 8 * Preferences::current().textPoints / 10;
  const double before = Theme::current().scale;
  if (std::abs(scale - before) < 1e-3) return;
  Theme::apply(*qApp, Theme::current().dim, scale);
  for (QWidget* w : QApplication::topLevelWidgets()) {
    // A dialog that was laid out for smaller type needs more room when it is opened again.
    if (auto* dialog = qobject_cast<QDialog*>(w); dialog && scale > before)
      dialog->resize((dialog->size() * (scale / before)).boundedTo(dialog->screen()->availableSize()));
    if (auto* window = qobject_cast<MainWindow*>(w)) {
      for (QWidget* inside : window->findChildren<QWidget*>()) inside->updateGeometry();
      if (window->far_) window->arrangeStage();
      window->views_->settle();
    }
  }
}

void MainWindow::openPictureWindow() {
  if (!alone_) {
    alone_ = new PictureWindow(this);
    connect(alone_->easel(), &EaselView::sharpWanted, this, &MainWindow::wishSharp);
    connect(alone_, &PictureWindow::closed, this, &MainWindow::wishSharp);
    if (link_.latest()) alone_->easel()->setResult(link_.latest(), link_.upToDate());
  }
  alone_->show();
  alone_->raise();
}

// One picture is traced; it is the one that needs more pixels.
void MainWindow::wishSharp() {
  if (!sharp_) return;
  const SharpWish here = easel_->wish();
  const SharpWish there = alone_ && alone_->isVisible() ? alone_->easel()->wish() : SharpWish{};
  link_.setSharp(there.width > here.width ? there : here);
}

void MainWindow::setTextSize(double points) {
  Preferences::current().textPoints = std::clamp(points, 8.0, 20.0);
  Preferences::current().save();
  fitType();
  showNotice(tr("Text of %1 points.").arg(Preferences::current().textPoints));
}

void MainWindow::setTheme(bool dim) {
  Theme::apply(*qApp, dim, Theme::current().scale);
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
  (p.apertures == ApertureStyle::Thirds ? thirdsAction_ : tenthsAction_)->setChecked(true);
  for (Card* c : findChildren<Card*>()) c->refresh();
  for (QWidget* w : findChildren<QWidget*>()) w->update();
  if (link_.latest()) resultArrived();
}

void MainWindow::closeEvent(QCloseEvent* e) {
  if (!saving_->mayClose()) {
    e->ignore();
    return;
  }
  QSettings s;
  s.setValue("window/geometry", saveGeometry());
  s.setValue("window/arrangement", views_->moved());
  if (stage_ >= 0) s.setValue("window/stageName", stages_[size_t(stage_)]->id());
  e->accept();
}

}  // namespace easel::app
