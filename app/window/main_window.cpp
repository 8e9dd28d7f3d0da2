#include "window/main_window.h"

#include <QApplication>
#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenuBar>
#include <QMimeData>
#include <QSettings>
#include <QUrl>
#include <cmath>
#include <utility>

#include "balance/advice.h"
#include "balance/backdrop_tone.h"
#include "day/day_window.h"
#include "exposure/shutter.h"
#include "formats/catalogue.h"
#include "plan/framing.h"
#include "stages/all_stages.h"
#include "widgets/mnemonics.h"
#include "widgets/single_keys.h"
#include "widgets/theme.h"
#include "widgets/watched_application.h"
#include "widgets/within_screen.h"
#include "widgets/wording.h"
#include "window/appearance.h"
#include "window/plan_windows.h"

namespace easel::app {
MainWindow::MainWindow(QWidget* parent) : QMainWindow(parent), document_(new Document(this)) {
  Preferences::current().load();
  InputGuard::install();
  setAcceptDrops(true);
  setWindowIcon(QIcon(":/icon.svg"));
  makeParts();
  arrangeViews();
  joinParts();
  joinInstruments();
  buildMenus();
  spreadMnemonics(menuBar());
  QSet<QChar> menus;
  for (const QAction* title : menuBar()->actions()) menus.insert(mnemonicOf(title->text()));
  for (Stage* stage : stages_) spreadMnemonics(stage->page(), menus);
  restore();
}

MainWindow::~MainWindow() {
  // Views are hidden after this window's own parts have gone: nothing may be asked of them then.
  for (EaselView* easel : {bench_.easel, side_->picture() ? side_->picture()->easel() : nullptr})
    if (easel) easel->disconnect();
  if (PictureWindow* picture = side_->picture()) picture->disconnect();
}

void MainWindow::makeParts() {
  bench_.viewed = document_;
  bench_.onEasel = new OnEasel(document_, &link_, this);
  bench_.reading = new PictureAnalysis(document_, this);
  bench_.actions = new PlanActions(
      document_, [this](const auto& act) { bench_.onEasel->whenAnswered(act); },
      [this] { return bench_.onEasel->sceneNow(); }, this);
  bench_.easel = new EaselView;
  bench_.ledge = new LedgeView(document_);
  bench_.dial = new DialView(document_);
  bench_.rail = new RailView(document_);
  bench_.ladder = new LadderView(document_);
  bench_.exportReadings = [this] { files_->exportReadings(link_.latest()); };
  bench_.loadBeside = [this] { beside_->load(); };
  bench_.showBeside = [this](const QString& file) { beside_->show(file); };
  bench_.openDevices = [this] { side_->openDevices(); };
  figures_ = new FiguresView(document_);
  files_ = new PlanFiles(document_, this);
  beside_ = new BesideEasel(document_, bench_.easel, this);
  side_ = new SideWindows(bench_, &link_, this);
  status_ = new StatusLine;
  setStatusBar(status_);
  dataProblem_ = KitFile::current().loadOnce();  // before the cards list what there is
  for (const std::string& problem : catalogueProblems())
    dataProblem_ += (dataProblem_.isEmpty() ? QString() : QStringLiteral(" ")) + QString::fromStdString(problem);
  stages_ = allStages(bench_, this);
}

void MainWindow::arrangeViews() {
  views_ = new ArrangedViews;
  headline_ = new Headline(stages_);
  connect(headline_, &Headline::stageChosen, this, &MainWindow::setStage);
  views_->addView(views::kAnswer, headline_);
  views_->addView(views::kEasel, bench_.easel);
  views_->addView(views::kLedge, bench_.ledge);
  views_->addView(views::kDial, bench_.dial);
  views_->addView(views::kRail, bench_.rail);
  ladderFrame_ = new PageFrame(bench_.ladder);
  views_->addView(views::kLadder, ladderFrame_);
  views_->addView(views::kFigures, figures_);
  for (Stage* stage : stages_) views_->addView(stage->id(), new PageFrame(stage->page()));
  setCentralWidget(views_);
}

// Each tells what it has to say; whatever it is about, it is said in one place.
void MainWindow::joinParts() {
  const auto say = [this](const QString& sentence, bool problem) { showNotice(sentence, problem); };
  const auto refuse = [this](const QString& why) { showNotice(why, true); };
  connect(bench_.actions, &PlanActions::said, this, say);
  connect(bench_.onEasel, &OnEasel::said, this, say);
  connect(bench_.reading, &PictureAnalysis::failed, this, refuse);
  connect(files_, &PlanFiles::said, this, say);
  connect(files_, &PlanFiles::offered, status_, &StatusLine::offer);
  // A problem of the data is said once more: nobody has read it before the first plan stood.
  connect(files_, &PlanFiles::opened, this, [this](const QString& name) {
    const QString problem = std::exchange(dataProblem_, {});
    showNotice(problem.isEmpty() ? tr("Opened %1.").arg(name) : problem, !problem.isEmpty());
  });
  connect(beside_, &BesideEasel::said, this, say);
  connect(side_, &SideWindows::said, this, say);
  // The plan's own may be among them.
  connect(status_, &StatusLine::sitterCame, this, [this] {
    if (link_.latest() && !link_.latest()->problem.empty()) requestPicture();
  });
  connect(&KitFile::current(), &KitFile::said, this, say);
  connect(&KitFile::current(), &KitFile::changed, this, [this] {
    Prints::forget();
    for (Stage* stage : stages_) stage->gearChanged();
    requestPicture();
  });
  if (auto* application = qobject_cast<WatchedApplication*>(qApp))
    connect(application, &WatchedApplication::failed, this, refuse);
  for (Stage* stage : stages_) {
    connect(stage->page(), &Card::refused, this, refuse);
    connect(stage, &Stage::said, this, say);
    connect(stage, &Stage::panelWanted, this, &MainWindow::selectPanel);
    connect(stage, &Stage::evidenceChanged, this, [this, stage] {
      if (stage_ < 0 || stage != stages_[size_t(stage_)]) return;
      showEvidence();
      tellAnswer();
    });
  }
  connect(document_, &Document::refused, this, refuse);
  connect(document_, &Document::changed, this, &MainWindow::planChanged);
  connect(document_, &Document::stateChanged, this, &MainWindow::stateChanged);
  connect(&link_, &RenderLink::arrived, this, &MainWindow::resultArrived);
}

void MainWindow::joinInstruments() {
  const auto& [viewed, onEasel, actions, reading, easel, ledge, dial, rail, ladder, exportReadings, loadBeside,
               openDevices, showBeside] = bench_;
  connect(easel, &EaselView::pointed, status_, &StatusLine::sayPointed);
  connect(ledge, &LedgeView::chosen, onEasel, &OnEasel::showOnly);
  connect(ledge, &LedgeView::modeChosen, this, &MainWindow::setLedgeMode);
  connect(ledge, &LedgeView::tried, onEasel, &OnEasel::tryOut);
  connect(ledge, &LedgeView::taken, onEasel, &OnEasel::takeOver);
  connect(ledge, &LedgeView::moved, actions, &PlanActions::reorder);
  connect(easel, &EaselView::pinned, actions, &PlanActions::pin);
  connect(dial, &DialView::pinned, actions, &PlanActions::pin);
  connect(actions, &PlanActions::chosen, this, &MainWindow::select);
  connect(actions, &PlanActions::panelChosen, this, &MainWindow::selectPanel);
  connect(onEasel, &OnEasel::changed, this, [this] {
    bench_.ledge->setTried(bench_.onEasel->label());
    bench_.ledge->setShow(bench_.onEasel->show());
    showEvidence();
  });
  connect(dial, &DialView::selected, this, &MainWindow::select);
  connect(rail, &RailView::selected, this, &MainWindow::select);
  connect(ladder, &LadderView::selected, this, &MainWindow::select);
  connect(dial, &DialView::panelSelected, this, &MainWindow::selectPanel);
  connect(rail, &RailView::panelSelected, this, &MainWindow::selectPanel);
  // A view that fills the window is given back by the same gesture.
  connect(easel, &EaselView::roomWanted, views_, [this] { views_->toggle(views::kEasel); });
  connect(dial, &DialView::roomWanted, views_, [this] { views_->toggle(views::kDial); });
  connect(rail, &RailView::roomWanted, views_, [this] { views_->toggle(views::kRail); });
  connect(views_, &ArrangedViews::filled, this, [this](const QString& name) {
    if (!name.isEmpty()) showNotice(tr("F12 or Escape gives the other views their places back."));
  });
  new SingleKeys(this, {easel, ledge, dial, rail, ladder, figures_, headline_});
}

// As it stood when it was last closed.
void MainWindow::restore() {
  const QSettings s;
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

void MainWindow::openDay(const std::filesystem::path& file) {
  DayWindow* day = openDayWindow(quiet_);
  if (!file.empty()) day->openWanted(file);
}

void MainWindow::setQuiet(bool quiet) {
  quiet_ = quiet;
  files_->setQuiet(quiet);
}

void MainWindow::setSharp(bool on) {
  sharp_ = on;
  if (!on) link_.setSharp({});
}

void MainWindow::showPage(const QString& id) {
  for (Stage* stage : stages_) stage->page()->showPage(id);
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
    view_->setFarChecked(false);
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
    bench_.easel->setFocus(Qt::OtherFocusReason);
}

void MainWindow::arrangeStage() {
  headline_->setFar(far_);
  // Three times the size, or what the window has room for.
  const double scale = Theme::current().scale,
               by = far_ ? std::clamp(std::min(width() / (410 * scale), (height() - 165 * scale) / (211 * scale)), 1.5,
                                      3.0)
                         : 1;
  bench_.ladder->setMagnified(by);
  figures_->setMagnified(by);
  wide_ = liesWide(document_->plan().camera);
  if (!far_) {
    const Stage& stage = *stages_[size_t(stage_)];
    // What was dragged for an upright picture says nothing about one that lies.
    return views_->arrange(wide_ ? stage.id() + QStringLiteral(" wide") : stage.id(), stage.arrangement(wide_));
  }
  views_->arrange(QStringLiteral("Far"),
                  inColumn({exactly(views::kAnswer), exactly(views::kFigures), shown(views::kLadder)}));
  bench_.ladder->setFocus();
}

void MainWindow::setFar(bool far) {
  far_ = far;
  view_->setFarChecked(far);
  arrangeStage();
}

void MainWindow::showEvidence() {
  if (stage_ >= 0) stages_[size_t(stage_)]->showEvidence();
}

void MainWindow::planChanged() {
  // A refusal or a problem is of the plan as it was. What is refused now is said after this.
  status_->dropProblem();
  if (!panel_.isEmpty() && !document_->plan().panel(panel_.toStdString())) {
    panel_.clear();
    bench_.dial->setSelectedPanel({});
    bench_.rail->setSelectedPanel({});
    for (Stage* stage : stages_) stage->panelChosen({});
  }
  if (!document_->plan().light(selected_.toStdString()))
    select(document_->plan().lights.empty() ? QString() : QString::fromStdString(document_->plan().lights.front().id));
  bench_.reading->drop();
  bench_.easel->evidence()->lay({});
  bench_.onEasel->planChanged();
  if (const Light* l = document_->plan().light(selected_.toStdString())) lockAction_->setChecked(l->locked);
  if (liesWide(document_->plan().camera) != wide_ && stage_ >= 0) {
    const QString filling = views_->filling();
    arrangeStage();
    if (!filling.isEmpty()) views_->fill(filling);
  }
  if (const size_t rows = document_->plan().lights.size(); rows != rows_) {
    rows_ = rows;
    bench_.ladder->updateGeometry();
    views_->settle();
  }
}

void MainWindow::requestPicture() {
  bench_.onEasel->setExtras({view_->mapShown(), bench_.ledge->mode() == LedgeView::Mode::Ratios});
  bench_.onEasel->request();
}

// The headline: the stage's own, or what the chosen light gives.
void MainWindow::tellAnswer() {
  const auto& r = link_.latest();
  if (!r || bench_.onEasel->tryingOut()) return;
  const Plan& plan = document_->plan();
  const Light* l = plan.light(selected_.toStdString());
  const LightAnswer* a = r->answers && l ? r->answers->light(l->id) : nullptr;
  if (a && r->answersCurrent && link_.upToDate()) {
    const QString want = powerText(*l, a->setting.stops);
    const QString target = apertureText(plan.camera.aperture * std::exp2(l->targetStops / 2));
    const bool there = std::abs(l->power - a->setting.stops) < 0.02 && a->setting.shortfall == 0;
    if (const QString own = stage_ >= 0 ? stages_[size_t(stage_)]->answer() : QString(); !own.isEmpty())
      return headline_->setAnswer(own, tr("%1, ISO %2, %3")
                                           .arg(apertureText(plan.camera.aperture))
                                           .arg(std::lround(plan.camera.iso))
                                           .arg(QString::fromStdString(writeShutter(plan.camera.shutter))));
    headline_->setAnswer(
        a->setting.shortfall > 0
            ? tr("%1 is %2 too weak for %3 at full power").arg(selected_, howManyStops(a->setting.shortfall), target)
        : a->setting.shortfall < 0 ? tr("%1 is %2 too strong for %3 at its lowest power")
                                         .arg(selected_, howManyStops(a->setting.shortfall), target)
        : there ? tr("%1 at %2 gives %3").arg(selected_, want, apertureText(a->aperture))
                : tr("%1 reads %2: set its power to %3").arg(selected_, apertureText(a->aperture), want),
        tr("%1, ISO %2. Room light %3. Backdrop %4")
            .arg(apertureText(plan.camera.shootingAperture()))
            .arg(std::lround(plan.camera.iso))
            .arg(stopsText(r->answers->ambientStops), QString::fromStdString(toneName(r->answers->backdropValue))));
  } else if (!l) {
    headline_->setAnswer(tr("No light yet"), tr("Ctrl+L adds a key"));
  }
}

void MainWindow::resultArrived() {
  const auto& r = link_.latest();
  bench_.easel->setResult(r, link_.upToDate());
  side_->showResult();
  if (bench_.onEasel->tryingOut()) return;  // the instruments stay with the open plan
  if (r->plan == document_->plan()) bench_.ledge->setResult(r);
  // Readings of a plan that has moved on would put the dot where it no longer is.
  if (r->answersCurrent && link_.upToDate()) {
    bench_.ladder->setAnswers(r->answers);
    figures_->setAnswers(r->answers);
    const auto table = shownTable_;
    for (Stage* stage : stages_) stage->readingsArrived(r);
    shownTable_ = r->table;
    if (table != shownTable_) showEvidence();
    bench_.reading->offer(r);
  }
  tellAnswer();
  if (r->done || !r->problem.empty()) tellProblem(*r);
}

// The first finding that matters, as a sentence; nothing in front of the picture. Errors in the user's own units, where
// the renderer has them in metres.
void MainWindow::tellProblem(const Result& r) {
  const Plan& plan = document_->plan();
  const Spelling spelling = Preferences::current().spelling();
  const std::string worst = mostPressing(plan, r.answersCurrent ? r.answers.get() : nullptr, r.table.get(), spelling),
                    error = whatPrevents(plan, spelling);
  status_->sayOfPicture(QString::fromStdString(r.problem.empty() ? worst : error.empty() ? r.problem : error));
}

void MainWindow::stateChanged() {
  setWindowTitle(tr("%1[*] - Jolly Easel").arg(document_->displayName()));
  setWindowModified(document_->modified());
  const History& h = document_->history();
  undo_->setEnabled(h.canUndo());
  redo_->setEnabled(h.canRedo());
  undo_->setText(h.canUndo() ? tr("&Undo: %1").arg(QString::fromStdString(h.undoLabel())) : tr("&Undo"));
  redo_->setText(h.canRedo() ? tr("&Redo: %1").arg(QString::fromStdString(h.redoLabel())) : tr("&Redo"));
  bench_.easel->setCaption(QString::fromStdString(document_->plan().title));
}

void MainWindow::selectPanel(const QString& number) {
  panel_ = number;
  bench_.dial->setSelectedPanel(number);
  bench_.rail->setSelectedPanel(number);
  for (Stage* stage : stages_) stage->panelChosen(number);
  // Where lights and boards are put up, wherever it stands in the order.
  for (size_t i = 0; i < stages_.size(); ++i)
    if (stages_[i]->id() == QStringLiteral("Build")) setStage(int(i));
}

void MainWindow::select(const QString& id) {
  selected_ = id;
  bench_.actions->setSelected(id);
  panel_.clear();
  bench_.dial->setSelectedPanel({});
  bench_.rail->setSelectedPanel({});
  bench_.dial->setSelected(id);
  bench_.rail->setSelected(id);
  bench_.ladder->setSelected(id);
  figures_->setSelected(id);
  if (const QRect row = bench_.ladder->rowOf(id); !row.isEmpty())
    ladderFrame_->ensureVisible(0, row.center().y(), 0, row.height() / 2 + 2);
  for (Stage* stage : stages_) stage->lightChosen(id);
  if (link_.latest()) resultArrived();
}

void MainWindow::setLedgeMode(LedgeView::Mode mode) {
  bench_.ledge->setMode(mode);
  bench_.onEasel->setExtras({view_->mapShown(), mode == LedgeView::Mode::Ratios});
  bench_.onEasel->reset();
  bench_.onEasel->tryOut({}, {});
  if (mode == LedgeView::Mode::Series && bench_.ledge->series().empty()) side_->openSeries();
}

void MainWindow::renameLight() {
  const Light* l = document_->plan().light(selected_.toStdString());
  if (!l) return;
  bool ok = false;
  const QString name = QInputDialog::getText(this, tr("Rename light %1").arg(selected_), tr("Name"), QLineEdit::Normal,
                                             lightText(*l), &ok);
  if (ok) bench_.actions->rename(name);
}

void MainWindow::resizeEvent(QResizeEvent* e) {
  QMainWindow::resizeEvent(e);
  fitType(*this);
}
// Only now has every widget its own type.
void MainWindow::showEvent(QShowEvent* e) {
  QMainWindow::showEvent(e);
  if (!focusWidget()) bench_.easel->setFocus();
  QMetaObject::invokeMethod(views_, &ArrangedViews::settle, Qt::QueuedConnection);
}
void MainWindow::changeEvent(QEvent* e) {
  QMainWindow::changeEvent(e);
  if (e->type() != QEvent::ActivationChange || !isActiveWindow()) return;
  fitType(*this);
  link_.comeFirst();
}

void MainWindow::typeChanged() {
  for (QWidget* inside : findChildren<QWidget*>()) inside->updateGeometry();
  if (far_) arrangeStage();
  views_->settle();
}

void MainWindow::setTextSize(double points) {
  Preferences& p = Preferences::current();
  p.textPoints = std::clamp(points, 8.0, 20.0);
  p.save();
  fitType(*this);
  showNotice(tr("Text of %1 points.").arg(p.textPoints));
}

void MainWindow::spellingChanged() {
  view_->showSpelling();
  for (Card* c : findChildren<Card*>()) c->refresh();
  for (QWidget* w : findChildren<QWidget*>()) w->update();
  if (link_.latest()) resultArrived();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* e) {
  for (const QUrl& url : e->mimeData()->urls())
    if (url.isLocalFile()) return e->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* e) {
  for (const QUrl& url : e->mimeData()->urls())
    if (url.isLocalFile()) {
      // The bytes of the name as they are: it need not be text.
      const QByteArray bytes = QByteArray::fromPercentEncoding(url.path(QUrl::FullyEncoded).toLatin1());
      files_->openWanted(std::string(bytes.constData(), size_t(bytes.size())));
    }
  e->acceptProposedAction();
}

void MainWindow::closeEvent(QCloseEvent* e) {
  if (!files_->mayClose()) {
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
