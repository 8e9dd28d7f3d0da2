#include "main_window.h"

#include <QActionGroup>
#include <QApplication>
#include <QButtonGroup>
#include <QCloseEvent>
#include <QDialog>
#include <QFileDialog>
#include <QFileInfo>
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
#include <QTextBrowser>
#include <QThread>
#include <QVBoxLayout>
#include <cmath>

#include "balance/advice.h"
#include "balance/balance.h"
#include "balance/camera_setting.h"
#include "formats/atomic_file.h"
#include "formats/plan_json.h"
#include "light/spots.h"
#include "plan/check.h"
#include "plan/roles.h"
#include "theme.h"
#include "wording.h"

namespace easel::app {
namespace {
constexpr int kPictureWidth = 640, kPictureHeight = 800;
const char* const kFileFilter =
    QT_TRANSLATE_NOOP("easel::app::MainWindow", "Jolly Easel plans (*.easel.json);;All files (*)");
}  // namespace

MainWindow::MainWindow(QWidget* parent) : QMainWindow(parent), document_(new Document(this)) {
  Preferences::current().load();
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
  build_ = new BuildCard(document_);
  set_ = new SetCard(document_);
  meter_ = new MeterCard(document_);

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
  const QString names[] = {tr("Set"), tr("Build"), tr("Meter")};
  const QString tips[] = {tr("Sitter, camera, backdrop, room (F5)"), tr("The light: place, modifier, power (F6)"),
                          tr("Readings, one light at a time (F7)")};
  for (int i = 0; i < 3; ++i) {
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
  for (Card* c : {static_cast<Card*>(set_), static_cast<Card*>(build_), static_cast<Card*>(meter_)}) {
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
  statusBar()->addPermanentWidget(pointer_);

  connect(easel_, &EaselView::pointed, pointer_, &QLabel::setText);
  connect(ledge_, &LedgeView::chosen, this, &MainWindow::showOnly);
  connect(ledge_, &LedgeView::modeChosen, this, &MainWindow::setLedgeMode);
  connect(ledge_, &LedgeView::tried, this, &MainWindow::tryOut);
  connect(ledge_, &LedgeView::taken, this, &MainWindow::takeOver);
  connect(ledge_, &LedgeView::moved, this, &MainWindow::reorder);
  connect(easel_, &EaselView::pinned, this, &MainWindow::pin);
  connect(dial_, &DialView::pinned, this, &MainWindow::pin);
  connect(meter_, &MeterCard::setCamera, this, &MainWindow::setCamera);
  connect(meter_, &MeterCard::exportWanted, this, &MainWindow::exportReadings);
  connect(build_, &BuildCard::preferencesChanged, this, [this] { ladder_->update(); });
  connect(document_, &Document::refused, this, [this](const QString& why) { showNotice(why, true); });
  connect(dial_, &DialView::selected, this, &MainWindow::select);
  connect(rail_, &RailView::selected, this, &MainWindow::select);
  connect(ladder_, &LadderView::selected, this, &MainWindow::select);
}

void MainWindow::buildMenus() {
  auto add = [this](QMenu* menu, const QString& text, const QKeySequence& key, auto slot) {
    auto* a = menu->addAction(text);
    a->setShortcut(key);
    connect(a, &QAction::triggered, this, slot);
    return a;
  };
  auto* file = menuBar()->addMenu(tr("&File"));
  add(file, tr("&New plan"), QKeySequence::New, [this] { newPlan(); });
  add(file, tr("&Open..."), QKeySequence::Open, [this] { openDialog(); });
  recent_ = file->addMenu(tr("Open &recent"));
  connect(recent_, &QMenu::aboutToShow, this, &MainWindow::fillRecent);
  add(file, tr("&Save"), QKeySequence::Save, [this] { save(); });
  add(file, tr("Save &as..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { saveAs(); });
  file->addSeparator();
  add(file, tr("&Export the picture..."), QKeySequence(Qt::CTRL | Qt::Key_E), [this] { exportPicture(); });
  add(file, tr("Export &readings..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_E), [this] { exportReadings(); });
  file->addSeparator();
  add(file, tr("&Quit"), QKeySequence(Qt::CTRL | Qt::Key_Q), [this] { close(); });

  auto* edit = menuBar()->addMenu(tr("&Edit"));
  undo_ = add(edit, tr("&Undo"), QKeySequence::Undo, [this] { document_->undo(); });
  redo_ = add(edit, tr("&Redo"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), [this] { document_->redo(); });

  auto* light = menuBar()->addMenu(tr("&Light"));
  add(light, tr("&Add the next light"), QKeySequence(Qt::CTRL | Qt::Key_L), [this] { addLight(); });
  auto* byRole = light->addMenu(tr("Add by r&ole"));
  for (const RoleSchool& school : roleSchools())
    byRole->addAction(QString::fromStdString(school.name), this, [this, id = school.id] { addBySchool(id); });
  add(light, tr("By the other sc&hool"), QKeySequence(Qt::CTRL | Qt::Key_T), [this] {
    const Light* l = document_->plan().light(selected_.toStdString());
    if (!l) return;
    try {
      const Proposal p = byOtherSchool(document_->plan(), *l);
      document_->endMerge();
      showNotice(QString::fromStdString(p.light.id + ": " + p.why));
      document_->perform(SetLight{p.light}, tr("The other school for %1").arg(selected_));
    } catch (const std::exception& e) {
      showNotice(QString::fromUtf8(e.what()), true);
    }
  });
  add(light, tr("&Balance, each alone"), QKeySequence(Qt::CTRL | Qt::Key_B), [this] { balanceAll(false); });
  add(light, tr("Balance by the &sum"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_B), [this] { balanceAll(true); });
  add(light, tr("&Mirror left and right"), QKeySequence(Qt::CTRL | Qt::Key_M), [this] {
    document_->endMerge();
    document_->perform(SetPlan{mirrored(document_->plan())}, tr("Mirror"));
  });
  add(light, tr("Swap the &key's side"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_M), [this] {
    document_->endMerge();
    document_->perform(SetLights{keySideSwapped(document_->plan()).lights}, tr("Swap the key's side"));
  });
  light->addSeparator();
  add(light, tr("&Copy the light"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_C), [this] {
    const Light* l = document_->plan().light(selected_.toStdString());
    if (!l) return;
    try {
      const Light copy = copyOf(document_->plan(), *l);
      document_->endMerge();
      document_->perform(AddLight{copy, 99}, tr("Copy %1").arg(selected_));
      select(QString::fromStdString(copy.id));
    } catch (const std::exception& e) {
      showNotice(QString::fromUtf8(e.what()), true);
    }
  });
  add(light, tr("Re&name the light..."), QKeySequence(Qt::Key_F2), [this] { renameLight(); });
  lockAction_ = add(light, tr("Loc&k the light"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_K),
                    [this] { changeLight(tr("Lock %1").arg(selected_), [](Light& l) { l.locked = !l.locked; }); });
  auto step = [this](int by) {
    const auto& lights = document_->plan().lights;
    for (size_t i = 0; i < lights.size(); ++i)
      if (QString::fromStdString(lights[i].id) == selected_ && int(i) + by >= 0 && int(i) + by < int(lights.size())) {
        reorder(selected_, int(i) + by);
        return;
      }
  };
  add(light, tr("Build it ea&rlier"), QKeySequence(Qt::ALT | Qt::Key_Up), [step] { step(-1); });
  add(light, tr("Build it la&ter"), QKeySequence(Qt::ALT | Qt::Key_Down), [step] { step(1); });
  add(light, tr("L&etters in building order"), {}, [this] {
    const auto& lights = document_->plan().lights;
    int at = 0;
    for (size_t i = 0; i < lights.size(); ++i)
      if (QString::fromStdString(lights[i].id) == selected_) at = int(i);
    document_->endMerge();
    document_->perform(SetLights{withLettersInOrder(document_->plan())}, tr("Letters in order"));
    if (!document_->plan().lights.empty()) select(QString::fromStdString(document_->plan().lights[size_t(at)].id));
  });
  add(light, tr("&Remove the light"), QKeySequence(Qt::CTRL | Qt::Key_Backspace), [this] { removeLight(); });
  add(light, tr("&Put power on the peg"), QKeySequence(Qt::CTRL | Qt::Key_P),
      [this] { ladder_->matchTarget(selected_); });
  add(light, tr("See the light a&lone"), QKeySequence(Qt::Key_F8), [this] {
    showOnly(show_.what == Show::What::Solo ? Show{} : Show{Show::What::Solo, selected_.toStdString()});
  });
  add(light, tr("See the &whole picture"), QKeySequence(Qt::Key_Escape), [this] {
    setCompare(EaselView::Compare::Off);
    showOnly({});
  });
  light->addSeparator();
  for (int i = 1; i <= 9; ++i)
    add(light, tr("Switch light %1 on or off").arg(i), QKeySequence(Qt::Key_0 + i), [this, i] {
      toggleLight(i - 1);
    })->setVisible(i <= 3);

  auto* view = menuBar()->addMenu(tr("&View"));
  add(view, tr("&Set"), QKeySequence(Qt::Key_F5), [this] { setStage(0); });
  add(view, tr("&Build"), QKeySequence(Qt::Key_F6), [this] { setStage(1); });
  add(view, tr("&Meter"), QKeySequence(Qt::Key_F7), [this] { setStage(2); });
  view->addSeparator();
  clippingAction_ = add(view, tr("Show &clipping"), QKeySequence(Qt::Key_C),
                        [this] { easel_->setClippingShown(clippingAction_->isChecked()); });
  clippingAction_->setCheckable(true);
  mapAction_ = add(view, tr("Show the sto&ps map"), QKeySequence(Qt::Key_S), [this] {
    easel_->setStopsMapShown(mapAction_->isChecked());
    requestPicture();
  });
  mapAction_->setCheckable(true);
  histogramAction_ = add(view, tr("Show the &histogram"), QKeySequence(Qt::Key_H),
                         [this] { easel_->setHistogramShown(histogramAction_->isChecked()); });
  histogramAction_->setCheckable(true);
  view->addSeparator();
  dimAction_ = add(view, tr("&Dim studio theme"), QKeySequence(Qt::CTRL | Qt::Key_D),
                   [this] { setTheme(dimAction_->isChecked()); });
  dimAction_->setCheckable(true);
  dimAction_->setChecked(Theme::current().dim);
  auto* lengths = new QActionGroup(this);
  metresAction_ = add(view, tr("Lengths in &metres"), {}, [this] { setUnits(); });
  feetAction_ = add(view, tr("Lengths in &feet"), {}, [this] { setUnits(); });
  for (auto* a : {metresAction_, feetAction_}) {
    a->setCheckable(true);
    lengths->addAction(a);
  }
  (Preferences::current().metres ? metresAction_ : feetAction_)->setChecked(true);
  thirdsAction_ = add(view, tr("Readings in &thirds"), {}, [this] { setUnits(); });
  thirdsAction_->setCheckable(true);
  thirdsAction_->setChecked(Preferences::current().apertures == ApertureStyle::Thirds);

  auto* compare = menuBar()->addMenu(tr("&Compare"));
  add(compare, tr("&Keep this picture"), QKeySequence(Qt::Key_K), [this] {
    easel_->keepBefore(!triedLabel_.isEmpty()              ? triedLabel_
                       : show_.what == Show::What::Solo    ? tr("%1 alone").arg(QString::fromStdString(show_.light))
                       : show_.what == Show::What::UpTo    ? tr("up to %1").arg(QString::fromStdString(show_.light))
                       : show_.what == Show::What::Ambient ? tr("all off")
                                                           : tr("as it was"));
    showNotice(tr("Kept. W wipes between it and whatever you show next, F flips."));
  });
  auto mode = [this](EaselView::Compare m) {
    return [this, m] {
      if (!easel_->hasBefore())
        showNotice(tr("Keep a picture first (K); then change something, or show another print."));
      else
        setCompare(easel_->compare() == m ? EaselView::Compare::Off : m);
    };
  };
  add(compare, tr("&Wipe"), QKeySequence(Qt::Key_W), mode(EaselView::Compare::Wipe));
  add(compare, tr("&Flip"), QKeySequence(Qt::Key_F), mode(EaselView::Compare::Flip));
  compare->addSeparator();
  auto ledgeMode = [this](LedgeView::Mode m) {
    return [this, m] { setLedgeMode(ledge_->mode() == m ? LedgeView::Mode::Alone : m); };
  };
  add(compare, tr("The picture as it &grows"), QKeySequence(Qt::Key_B), ledgeMode(LedgeView::Mode::BuildUp));
  add(compare, tr("The set at five &ratios"), QKeySequence(Qt::Key_R), ledgeMode(LedgeView::Mode::Ratios));
  add(compare, tr("&Series: one thing varied..."), QKeySequence(Qt::CTRL | Qt::Key_R), [this] { openSeries(); });

  auto* go = menuBar()->addMenu(tr("&Go"));
  auto focus = [&](const QString& text, int key, QWidget* w) {
    add(go, text, QKeySequence(Qt::ALT | Qt::Key(key)), [w] { w->setFocus(Qt::ShortcutFocusReason); });
  };
  focus(tr("&Easel"), Qt::Key_1, easel_);
  focus(tr("&Ledge"), Qt::Key_2, ledge_);
  focus(tr("&Dial"), Qt::Key_3, dial_);
  focus(tr("&Height rail"), Qt::Key_4, rail_);
  focus(tr("&Stop ladder"), Qt::Key_5, ladder_);

  auto* help = menuBar()->addMenu(tr("&Help"));
  add(help, tr("&Keys and gestures"), QKeySequence::HelpContents, [this] { showShortcuts(); });
  add(help, tr("&About Jolly Easel"), {}, [this] { about(); });
}

void MainWindow::setStage(int stage) {
  stage = std::clamp(stage, 0, 2);
  cards_->setCurrentIndex(stage);
  easel_->setPinsShown(stage == 2);
  stages_->button(stage)->setChecked(true);
}

void MainWindow::planChanged() {
  if (!document_->plan().light(selected_.toStdString()))
    select(document_->plan().lights.empty() ? QString() : QString::fromStdString(document_->plan().lights.front().id));
  if (!show_.light.empty() && !document_->plan().light(show_.light)) show_ = {};
  // A try-out belongs to the plan that it was made from.
  tried_.reset();
  triedLabel_.clear();
  ledge_->setTried({});
  requestPicture();
  if (const Light* l = document_->plan().light(selected_.toStdString()))
    lockAction_->setText(l->locked ? tr("Unloc&k the light") : tr("Loc&k the light"));
  // Four rows stand open; more of them scroll.
  const int rows = int(std::max<size_t>(1, document_->plan().lights.size()));
  ladder_->setMinimumHeight(44 + 46 * rows);
  ladderFrame_->setMinimumHeight(48 + 46 * std::min(rows, 4));
}

void MainWindow::requestPicture() {
  ledge_->setShow(show_);
  link_.request(tried_ ? *tried_ : document_->plan(), tried_ ? Show{} : show_, kPictureWidth, kPictureHeight,
                {mapAction_->isChecked(), ledge_->mode() == LedgeView::Mode::Ratios});
}

void MainWindow::resultArrived() {
  const auto& r = link_.latest();
  easel_->setResult(r, link_.upToDate());
  if (tried_) return;  // the instruments stay with the open plan
  if (r->plan == document_->plan()) ledge_->setResult(r);
  // Readings of a plan that has moved on would put the dot where it no longer is.
  if (r->answersCurrent && link_.upToDate()) {
    ladder_->setAnswers(r->answers);
    build_->setAnswers(r->answers);
    set_->setAnswers(r->answers);
    meter_->setResult(r);
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
                            .arg(shortStops(r->answers->ambientStops), QString::fromStdString(r->answers->backdropTone),
                                 shortStops(r->answers->backdropStops)));
  } else if (!l) {
    answer_->setText(tr("No light yet"));
    subAnswer_->setText(tr("Ctrl+L puts up a key"));
  }
  if (r->done || !r->problem.empty()) {
    // The first finding that matters, as a sentence; nothing in front of the picture.
    QString worst;
    for (const Finding& f : checkPlan(plan))
      if (f.severity != Severity::Note || worst.isEmpty()) worst = QString::fromStdString(f.sentence);
    if (worst.isEmpty() && r->answers && r->answersCurrent)
      for (const Finding& f : adviceOn(plan, *r->answers, r->table.get()))
        if (f.severity == Severity::Warning && worst.isEmpty()) worst = QString::fromStdString(f.sentence);
    if (!r->problem.empty())
      showNotice(QString::fromStdString(r->problem), true);
    else if (!worst.isEmpty())
      showNotice(worst, true);
    else if (notice_->property("problem").toBool())
      showNotice({});
  }
}

void MainWindow::showNotice(const QString& sentence, bool problem) {
  notice_->setText(sentence);
  notice_->setToolTip(sentence);
  notice_->setProperty("problem", problem);
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

void MainWindow::select(const QString& id) {
  selected_ = id;
  dial_->setSelected(id);
  rail_->setSelected(id);
  ladder_->setSelected(id);
  build_->setSelected(id);
  if (link_.latest()) resultArrived();
}

void MainWindow::tryOut(const Plan& plan, const QString& label) {
  triedLabel_ = label;
  ledge_->setTried(label);
  if (label.isEmpty())
    tried_.reset();
  else
    tried_ = plan;
  showNotice(label.isEmpty()
                 ? QString()
                 : tr("Trying %1. Enter on the ledge or a double click takes it; Escape goes back.").arg(label));
  requestPicture();
}

void MainWindow::takeOver(const Plan& plan, const QString& label) {
  const Plan taken = plan;  // the signal's argument lives in the ledge, which is about to be rebuilt
  document_->endMerge();
  document_->perform(SetPlan{taken}, tr("Take %1").arg(label));
  showNotice(tr("Taken: %1.").arg(label));
}

void MainWindow::setLedgeMode(LedgeView::Mode mode) {
  ledge_->setMode(mode);
  show_ = {};
  tryOut({}, {});
  if (mode == LedgeView::Mode::Series && ledge_->series().empty()) openSeries();
}

void MainWindow::setCompare(EaselView::Compare mode) { easel_->setCompare(mode); }

void MainWindow::setCamera(int school) {
  const auto& r = link_.latest();
  if (!r || !r->answers || !r->answersCurrent || !link_.upToDate() || tried_) {
    showNotice(tr("The readings are still being taken. Try again in a moment."));
    return;
  }
  document_->endMerge();
  document_->perform(SetPlan{withCameraSetting(document_->plan(), *r->answers, CameraSchool(school))},
                     tr("Set the camera"));
}

void MainWindow::pin(const PinnedSpot& spot) {
  auto spots = document_->plan().spots;
  if (spots.size() >= 64) {
    showNotice(tr("Sixty-four pins are the most a plan can hold. Take one away first."), true);
    return;
  }
  spots.push_back(spot);
  document_->endMerge();
  document_->perform(SetSpots{spots}, tr("Pin the meter"));
  showNotice(tr("%1 is pinned: its readings stand on the Meter page, under Every spot.")
                 .arg(QString::fromStdString(spot.name)));
}

template <class F>
void MainWindow::changeLight(const QString& label, F change) {
  const Light* l = document_->plan().light(selected_.toStdString());
  if (!l) return;
  Light changed = *l;
  change(changed);
  document_->endMerge();
  document_->perform(SetLight{changed}, label);
}

void MainWindow::renameLight() {
  const Light* l = document_->plan().light(selected_.toStdString());
  if (!l) return;
  bool ok = false;
  const QString name = QInputDialog::getText(this, tr("Rename light %1").arg(selected_), tr("Name"), QLineEdit::Normal,
                                             lightText(*l), &ok);
  if (ok)
    changeLight(tr("Rename %1").arg(selected_),
                [&](Light& changed) { changed.name = name.trimmed().left(80).toStdString(); });
}

void MainWindow::reorder(const QString& id, int place) {
  document_->endMerge();
  document_->perform(SetLights{movedTo(document_->plan(), id.toStdString(), size_t(std::max(0, place)))},
                     tr("Building order"));
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

void MainWindow::showOnly(const Show& show) {
  show_ = show;
  if (tried_) showNotice({});
  tried_.reset();
  triedLabel_.clear();
  ledge_->setTried({});
  requestPicture();
}

void MainWindow::addLight() { addBySchool(nextInUsualOrder(document_->plan())); }

void MainWindow::addBySchool(const std::string& school) {
  try {
    const Proposal p = proposeLight(document_->plan(), school);
    document_->endMerge();
    document_->perform(AddLight{p.light, 99}, tr("Add %1").arg(QString::fromStdString(p.light.id)));
    select(QString::fromStdString(p.light.id));
    showNotice(QString::fromStdString(p.light.id + ": " + p.why));
  } catch (const std::exception& e) {
    showNotice(QString::fromUtf8(e.what()), true);
  }
}

void MainWindow::balanceAll(bool sum) {
  const auto& r = link_.latest();
  if (!r || !r->answers || !r->answersCurrent || !link_.upToDate() || tried_) {
    showNotice(tr("The readings are still being taken. Balance again in a moment."));
    return;
  }
  const Balanced b = balance(document_->plan(), *r->answers, sum ? BalanceBy::Sum : BalanceBy::EachAlone);
  document_->endMerge();
  document_->perform(SetLights{b.lights}, tr("Balance"));
  QString said = sum ? tr("Balanced by the sum: every light %1 stops lower.").arg(b.loweredBy, 0, 'f', 1)
                     : tr("Balanced: each light alone stands on its peg.");
  for (const std::string& s : b.outOfReach) said += " " + QString::fromStdString(s);
  showNotice(said, !b.outOfReach.empty());
}

void MainWindow::removeLight() {
  if (selected_.isEmpty()) return;
  document_->perform(RemoveLight{selected_.toStdString()}, tr("Remove %1").arg(selected_));
}

void MainWindow::toggleLight(int index) {
  const auto& lights = document_->plan().lights;
  if (index >= int(lights.size())) return;
  Light l = lights[size_t(index)];
  l.on = !l.on;
  document_->endMerge();
  document_->perform(SetLight{l}, tr("Switch %1").arg(QString::fromStdString(l.id)));
}

bool MainWindow::mayDrop() {
  if (quiet_ || !document_->modified()) return true;
  QMessageBox box(QMessageBox::Question, tr("Jolly Easel"),
                  tr("\"%1\" has changes that are not saved.").arg(document_->displayName()),
                  QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
  switch (box.exec()) {
    case QMessageBox::Save:
      return save();
    case QMessageBox::Discard:
      return true;
    default:
      return false;
  }
}

void MainWindow::newPlan() {
  if (!mayDrop()) return;
  show_ = {};
  document_->startNew();
  showNotice(tr("A new plan with one key light."));
}

void MainWindow::openDialog() {
  if (!mayDrop()) return;
  const QString f =
      QFileDialog::getOpenFileName(this, tr("Open a plan"), QFileInfo(document_->file()).path(), tr(kFileFilter));
  if (!f.isEmpty()) openFile(f);
}

bool MainWindow::openFile(const QString& file) {
  try {
    show_ = {};
    document_->open(file);
    remember(file);
    showNotice(tr("Opened %1.").arg(QFileInfo(file).fileName()));
    return true;
  } catch (const std::exception& e) {
    showNotice(QString::fromUtf8(e.what()), true);
    return false;
  }
}

bool MainWindow::recoverUnsaved() {
  if (!document_->recover()) return false;
  showNotice(tr("Brought back the unsaved plan of the last session. Save it, or choose File, New plan."));
  return true;
}

bool MainWindow::saveTo(const QString& file) {
  try {
    document_->saveTo(file);
    remember(file);
    showNotice(tr("Saved as %1.").arg(QFileInfo(file).fileName()));
    return true;
  } catch (const std::exception& e) {
    showNotice(QString::fromUtf8(e.what()), true);
    return false;
  }
}

bool MainWindow::save() { return document_->file().isEmpty() ? saveAs() : saveTo(document_->file()); }

bool MainWindow::saveAs() {
  QString start = document_->file();
  if (start.isEmpty()) start = QString::fromStdString(document_->plan().title).replace('/', '-') + ".easel.json";
  QString f = QFileDialog::getSaveFileName(this, tr("Save the plan"), start, tr(kFileFilter));
  if (f.isEmpty()) return false;
  if (!f.endsWith(".json")) f += ".easel.json";
  return saveTo(f);
}

void MainWindow::remember(const QString& file) {
  QSettings s;
  QStringList all = s.value("recent").toStringList();
  const QString absolute = QFileInfo(file).absoluteFilePath();
  all.removeAll(absolute);
  all.prepend(absolute);
  s.setValue("recent", all.mid(0, 8));
}

void MainWindow::fillRecent() {
  recent_->clear();
  for (const QString& f : QSettings().value("recent").toStringList())
    recent_->addAction(f, this, [this, f] {
      if (mayDrop()) openFile(f);
    });
  if (recent_->isEmpty()) recent_->addAction(tr("None yet"))->setEnabled(false);
}

void MainWindow::exportPicture() {
  const QString f = QFileDialog::getSaveFileName(this, tr("Export the picture"), document_->displayName() + ".png",
                                                 tr("PNG pictures (*.png)"));
  if (f.isEmpty()) return;
  if (easel_->picture().save(f, "PNG"))
    showNotice(tr("The picture is in %1.").arg(QFileInfo(f).fileName()));
  else
    showNotice(tr("%1 could not be written. Choose another folder.").arg(f), true);
}

void MainWindow::exportReadings() {
  const auto& r = link_.latest();
  if (!r || !r->layers || !r->layers->scene || !r->problem.empty()) {
    showNotice(tr("There are no readings yet."), true);
    return;
  }
  const QString f = QFileDialog::getSaveFileName(this, tr("Export readings"), document_->displayName() + ".csv",
                                                 tr("CSV tables (*.csv)"));
  if (f.isEmpty()) return;
  showNotice(tr("Reading every light at every spot..."));
  // On a thread of its own: many lights at many spots take longer than a frame.
  if (exporting_) exporting_->wait();
  QThread* job = exporting_ = QThread::create([this, scene = r->layers->scene, plan = r->plan, f] {
    QString said = tr("The readings are in %1.").arg(QFileInfo(f).fileName());
    bool problem = false;
    try {
      writeFileAtomically(f.toStdString(), writeSpotCsv(spotTable(*scene, plan), plan));
    } catch (const std::exception& e) {
      said = QString::fromUtf8(e.what());
      problem = true;
    }
    QMetaObject::invokeMethod(
        this, [this, said, problem] { showNotice(said, problem); }, Qt::QueuedConnection);
  });
  connect(job, &QThread::finished, job, &QObject::deleteLater);
  job->start();
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
  for (Card* c : {static_cast<Card*>(build_), static_cast<Card*>(set_), static_cast<Card*>(meter_)}) c->refresh();
  for (QWidget* w : findChildren<QWidget*>()) w->update();
  if (link_.latest()) resultArrived();
}

void MainWindow::showShortcuts() {
  auto* d = new QDialog(this);
  d->setAttribute(Qt::WA_DeleteOnClose);
  d->setWindowTitle(tr("Keys and gestures"));
  d->resize(620, 560);
  auto* text = new QTextBrowser;
  QString html = "<h3>" + tr("Keys") + "</h3><table cellspacing='4'>";
  for (QAction* menu : menuBar()->actions())
    for (QAction* a : menu->menu()->actions())
      if (!a->shortcut().isEmpty())
        html += "<tr><td><b>" + a->shortcut().toString(QKeySequence::NativeText).toHtmlEscaped() +
                "</b>&nbsp;&nbsp;</td><td>" + a->text().remove('&').toHtmlEscaped() + "</td></tr>";
  html += "</table>";
  for (QWidget* w : {static_cast<QWidget*>(easel_), static_cast<QWidget*>(ledge_), static_cast<QWidget*>(dial_),
                     static_cast<QWidget*>(rail_), static_cast<QWidget*>(ladder_)})
    html += "<h3>" + w->accessibleName().toHtmlEscaped() + "</h3><p>" +
            (w->whatsThis().isEmpty() ? w->toolTip() : w->whatsThis()).toHtmlEscaped().replace("\n", "<br>") + "</p>";
  html += "<p>" +
          tr("Overhead booms want a counterweight, a safety line and a sandbag; cables want tape; hot lamps want air. "
             "Local rules and "
             "licensed trades decide.") +
          "</p>";
  text->setHtml(html);
  auto* box = new QVBoxLayout(d);
  box->addWidget(text);
  d->show();
}

void MainWindow::about() {
  QMessageBox::about(this, tr("About Jolly Easel"),
                     tr("<h3>Jolly Easel %1</h3><p>Plans multi-light studio portraits and predicts the "
                        "picture.</p><p>GPL-3.0-or-later. "
                        "Libraries, font and sitter data under their own licences: see THIRD_PARTY.md.</p>")
                         .arg(EASEL_VERSION));
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
