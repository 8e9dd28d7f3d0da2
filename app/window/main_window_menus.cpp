// The main window's menus, and the help that is made from them.
#include <QActionGroup>
#include <QApplication>
#include <QDialog>
#include <QMenuBar>
#include <QMessageBox>
#include <QTextBrowser>
#include <QVBoxLayout>

#include "plan/roles.h"
#include "widgets/mnemonics.h"
#include "widgets/single_keys.h"
#include "widgets/theme.h"
#include "widgets/wording.h"
#include "window/main_window.h"

namespace easel::app {

QAction* MainWindow::addTo(QMenu* menu, const QString& text, const QKeySequence& key, std::function<void()> slot) {
  auto* a = menu->addAction(text);
  a->setShortcut(key);
  connect(a, &QAction::triggered, this, std::move(slot));
  return a;
}

// Keys: docs/keys.md. Standard keys mean the standard thing; single letters and figures are the instruments' own.
void MainWindow::buildMenus() {
  fileMenu();
  editMenu();
  lightMenu();
  panelMenu();
  viewMenu();
  compareMenu();
  goMenu();
  helpMenu();
}

void MainWindow::fileMenu() {
  auto* file = menuBar()->addMenu(tr("&File"));
  addTo(file, tr("&New plan"), QKeySequence::New, [this] { newPlan(); });
  addTo(file, tr("&Open..."), QKeySequence::Open, [this] { openDialog(); });
  addTo(file, tr("&Paste a plan"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_V), [this] { pastePlan(); });
  recent_ = file->addMenu(tr("Open &recent"));
  connect(recent_, &QMenu::aboutToShow, this, &MainWindow::fillRecent);
  addTo(file, tr("&Save"), QKeySequence::Save, [this] { saving_->save(); });
  addTo(file, tr("Save &as..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { saving_->saveAs(); });
  file->addSeparator();
  addTo(file, tr("&Export the picture..."), QKeySequence(Qt::CTRL | Qt::Key_E), [this] { exportPicture(); });
  addTo(file, tr("Shee&t: print or export..."), QKeySequence::Print, [this] { openSheet(); });
  addTo(file, tr("Export &readings..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_E), [this] { exportReadings(); });
  addTo(file, tr("Save the light's &profile as IES..."), {}, [this] { exportIes(); });
  file->addSeparator();
  addTo(file, tr("&Kit..."), QKeySequence(Qt::CTRL | Qt::Key_K), [this] { openKit(); });
  addTo(file, tr("The shooting da&y..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Y), [this] { openDay(); });
  addTo(file, tr("&Journal..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_H), [this] { openJournal(); });
  addTo(file, tr("&Devices..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_D), [this] { openDevices(); });
  file->addSeparator();
  addTo(file, tr("&Close"), QKeySequence::Close, [this] { close(); });
  addTo(file, tr("&Quit"), QKeySequence(Qt::CTRL | Qt::Key_Q), [] { DocumentSaving::quit(); });
}

void MainWindow::editMenu() {
  auto* edit = menuBar()->addMenu(tr("&Edit"));
  undo_ = addTo(edit, tr("&Undo"), QKeySequence::Undo, [this] { document_->undo(); });
  redo_ = addTo(edit, tr("&Redo"), {}, [this] { document_->redo(); });
  redo_->setShortcuts({QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), QKeySequence(Qt::CTRL | Qt::Key_Y)});
}

void MainWindow::lightMenu() {
  auto* light = menuBar()->addMenu(tr("&Light"));
  addTo(light, tr("&Add the next light"), QKeySequence(Qt::CTRL | Qt::Key_L), [this] { actions_->addLight(); });
  auto* byRole = light->addMenu(tr("Add by r&ole"));
  for (const RoleSchool& school : roleSchools())
    byRole->addAction(QString::fromStdString(school.name), this, [this, id = school.id] { actions_->addBySchool(id); });
  addTo(light, tr("By the other met&hod"), QKeySequence(Qt::CTRL | Qt::Key_T), [this] { actions_->otherSchool(); });
  addTo(light, tr("&Balance, each alone"), QKeySequence(Qt::CTRL | Qt::Key_B), [this] { actions_->balanceAll(false); });
  addTo(light, tr("Balance by the &sum"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_B),
        [this] { actions_->balanceAll(true); });
  addTo(light, tr("&Mirror left and right"), QKeySequence(Qt::CTRL | Qt::Key_M), [this] { actions_->mirror(); });
  addTo(light, tr("Swap the &key's side"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_M),
        [this] { actions_->swapKeySide(); });
  light->addSeparator();
  addTo(light, tr("&Copy the light"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_C),
        [this] { actions_->copyLight(); });
  addTo(light, tr("Re&name the light..."), QKeySequence(Qt::Key_F2), [this] { renameLight(); });
  lockAction_ = addTo(light, tr("Loc&k the light"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_K),
                      [this] { actions_->toggleLock(); });
  lockAction_->setCheckable(true);
  addTo(light, tr("Build it ea&rlier"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Up),
        [this] { actions_->reorder(selected_, actions_->place() - 1); });
  addTo(light, tr("Build it la&ter"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Down),
        [this] { actions_->reorder(selected_, actions_->place() + 1); });
  addTo(light, tr("L&etters in building order"), {}, [this] { actions_->putLettersInOrder(); });
  addTo(light, tr("&Remove the light"), QKeySequence(Qt::CTRL | Qt::Key_Backspace),
        [this] { actions_->removeLight(); });
  addTo(light, tr("&Feather: edge to the nose"), QKeySequence(Qt::Key_G), [this] { actions_->featherToEdge(); });
  addTo(light, tr("&Put power on the peg"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_P),
        [this] { ladder_->matchTarget(selected_); });
  addTo(light, tr("See the light a&lone"), QKeySequence(Qt::Key_F8), [this] {
    onEasel_->showOnly(onEasel_->show().what == Show::What::Solo ? Show{}
                                                                 : Show{Show::What::Solo, selected_.toStdString()});
  });
  addTo(light, tr("See the &whole picture"), QKeySequence(Qt::Key_Escape), [this] {
    if (!views_->filling().isEmpty()) return views_->giveBack();
    if (far_) return setFar(false);
    easel_->setCompare(EaselView::Compare::Off);
    onEasel_->showOnly({});
  });
  light->addSeparator();
  auto* switches = light->addMenu(tr("Swi&tch on or off"));
  for (int i = 1; i <= 9; ++i)
    addTo(switches, tr("Light &%1 of the building order").arg(i), QKeySequence(Qt::Key_0 + i),
          [this, i] { actions_->toggleLight(i - 1); });
  light->addSeparator();
  addTo(light, tr("The shelf of l&ooks..."), QKeySequence(Qt::Key_F4), [this] { openLooks(); });
}

void MainWindow::panelMenu() {
  auto* panel = menuBar()->addMenu(tr("Boar&ds and pieces"));
  QMenu* pieces = nullptr;
  for (const PanelKind& k : panelKinds()) {
    if (isPiece(k.shape) && !pieces) pieces = panel->addMenu(tr("&Bring into the set"));
    if (isPiece(k.shape)) {
      addTo(pieces, QString::fromStdString(k.name), {}, [this, id = k.id] {
        actions_->putUpPanel(id);
      })->setToolTip(QString::fromStdString(k.use));
      continue;
    }
    auto* a = addTo(panel, tr("Put up: %1").arg(QString::fromStdString(k.name)), {},
                    [this, id = k.id] { actions_->putUpPanel(id); });
    a->setToolTip(QString::fromStdString(k.use));
    if (k.id == "v-flat") a->setShortcut(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_W));
    if (k.id == "flag") a->setShortcut(QKeySequence(Qt::CTRL | Qt::Key_G));
    if (k.id == "reflector") a->setShortcut(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_R));
  }
  panel->setToolTipsVisible(true);
  if (pieces) pieces->setToolTipsVisible(true);
  panel->addSeparator();
  addTo(panel, tr("&Next board"), QKeySequence(Qt::CTRL | Qt::Key_J), [this] {
    const auto& all = document_->plan().panels;
    if (all.empty()) return showNotice(tr("There is no board yet. Ctrl+Shift+W puts up a V-flat."));
    size_t i = 0;
    while (i < all.size() && QString::fromStdString(all[i].id) != panel_) ++i;
    selectPanel(QString::fromStdString(all[i + 1 < all.size() ? i + 1 : 0].id));
  });
  addTo(panel, tr("In or &out of the set"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_J),
        [this] { actions_->togglePanel(panel_); });
}

void MainWindow::viewMenu() {
  auto* view = menuBar()->addMenu(tr("&View"));
  for (int i = 0; i < int(stages_.size()); ++i)
    addTo(view, stages_[size_t(i)]->name(), stages_[size_t(i)]->key(), [this, i] {
      setStage(i);
    })->setToolTip(stages_[size_t(i)]->purpose());
  view->addSeparator();
  clippingAction_ = addTo(view, tr("Show &clipping"), QKeySequence(Qt::Key_C),
                          [this] { easel_->setClippingShown(clippingAction_->isChecked()); });
  clippingAction_->setCheckable(true);
  mapAction_ = addTo(view, tr("Show the sto&ps map"), QKeySequence(Qt::Key_S), [this] {
    easel_->setStopsMapShown(mapAction_->isChecked());
    requestPicture();
  });
  mapAction_->setCheckable(true);
  histogramAction_ = addTo(view, tr("Show the &histogram"), QKeySequence(Qt::Key_H),
                           [this] { easel_->setHistogramShown(histogramAction_->isChecked()); });
  histogramAction_->setCheckable(true);
  zebraAction_ = addTo(view, tr("Show &zebra"), QKeySequence(Qt::Key_Z),
                       [this] { easel_->setZebra(zebraAction_->isChecked() ? easel_->zebraLevel() : 0); });
  zebraAction_->setCheckable(true);
  greyCardAction_ = addTo(view, tr("Hold a &grey card at the pointer"), QKeySequence(Qt::Key_Y),
                          [this] { easel_->setGreyCardShown(greyCardAction_->isChecked()); });
  greyCardAction_->setCheckable(true);
  connect(easel_, &EaselView::toolsChanged, this, [this] {
    clippingAction_->setChecked(easel_->clippingShown());
    histogramAction_->setChecked(easel_->histogramShown());
    zebraAction_->setChecked(easel_->zebra() > 0);
    greyCardAction_->setChecked(easel_->greyCardShown());
  });
  besideAction_ = addTo(view, tr("Picture of your own beside the &easel..."), {}, [this] { loadBeside(); });
  watchAction_ = addTo(view, tr("Watch a folder for pictures..."), {}, [this] { watchFolder(); });
  watchAction_->setCheckable(true);
  view->addSeparator();
  addTo(view, tr("The picture fills the &window"), QKeySequence(Qt::Key_F11),
        [this] { fillOrGiveBack(views::kEasel); });
  addTo(view, tr("Fill the window with the view in use"), QKeySequence(Qt::Key_F12), [this] {
    fillOrGiveBack(views_->filling().isEmpty() ? views_->nameOf(QApplication::focusWidget()) : views_->filling());
  });
  farAction_ = addTo(view, tr("&Far: to be read from two metres"), QKeySequence(Qt::Key_F10),
                     [this] { setFar(farAction_->isChecked()); });
  farAction_->setCheckable(true);
  addTo(view, tr("The e&yes, as large as they can be"), QKeySequence(Qt::Key_E), [this] { easel_->lookAtEyes(); });
  addTo(view, tr("The picture in a window of its own"), QKeySequence(Qt::SHIFT | Qt::Key_F11),
        [this] { openPictureWindow(); });
  auto widen = [this](int steps) {
    return [this, steps] {
      const QString name = views_->nameOf(QApplication::focusWidget());
      views_->widen(name.isEmpty() ? views::kEasel : name, steps);
    };
  };
  addTo(view, tr("Enlarge the view in use"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_Right), widen(1));
  addTo(view, tr("Shrink the view in use"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_Left), widen(-1));
  addTo(view, tr("Reset this arrangement"), {}, [this] { views_->reset(); });
  addAppearance(view);
}

void MainWindow::addAppearance(QMenu* view) {
  view->addSeparator();
  dimAction_ = addTo(view, tr("&Dim studio theme"), QKeySequence(Qt::CTRL | Qt::Key_D),
                     [this] { setTheme(dimAction_->isChecked()); });
  dimAction_->setCheckable(true);
  dimAction_->setChecked(Theme::current().dim);
  addTo(view, tr("Lar&ger text"), QKeySequence::ZoomIn, [this] { setTextSize(Preferences::current().textPoints + 1); });
  addTo(view, tr("S&maller text"), QKeySequence::ZoomOut,
        [this] { setTextSize(Preferences::current().textPoints - 1); });
  auto* lengths = new QActionGroup(this);
  metresAction_ = addTo(view, tr("Lengths in &metres"), {}, [this] { setUnits(); });
  feetAction_ = addTo(view, tr("Lengths in &feet"), {}, [this] { setUnits(); });
  for (auto* a : {metresAction_, feetAction_}) {
    a->setCheckable(true);
    lengths->addAction(a);
  }
  (Preferences::current().metres ? metresAction_ : feetAction_)->setChecked(true);
  auto* parts = new QActionGroup(this);
  tenthsAction_ = addTo(view, tr("Readings in te&nths of a stop"), {}, [this] { setUnits(); });
  thirdsAction_ = addTo(view, tr("Readings in &thirds of a stop"), {}, [this] { setUnits(); });
  for (auto* a : {tenthsAction_, thirdsAction_}) {
    a->setCheckable(true);
    parts->addAction(a);
  }
  (Preferences::current().apertures == ApertureStyle::Thirds ? thirdsAction_ : tenthsAction_)->setChecked(true);
}

void MainWindow::compareMenu() {
  auto* compare = menuBar()->addMenu(tr("&Compare"));
  addTo(compare, tr("&Keep this picture"), QKeySequence(Qt::Key_K), [this] { keepPicture(); });
  auto mode = [this](EaselView::Compare m) {
    return [this, m] {
      if (!easel_->hasBefore())
        showNotice(tr("Keep a picture first (K); then change something, or show another print."));
      else
        easel_->setCompare(easel_->compare() == m ? EaselView::Compare::Off : m);
    };
  };
  addTo(compare, tr("&Wipe"), QKeySequence(Qt::Key_W), mode(EaselView::Compare::Wipe));
  addTo(compare, tr("&Flip"), QKeySequence(Qt::Key_F), mode(EaselView::Compare::Flip));
  compare->addSeparator();
  auto ledgeMode = [this](LedgeView::Mode m) {
    return [this, m] { setLedgeMode(ledge_->mode() == m ? LedgeView::Mode::Alone : m); };
  };
  addTo(compare, tr("The picture as it &grows"), QKeySequence(Qt::Key_B), ledgeMode(LedgeView::Mode::BuildUp));
  addTo(compare, tr("The set at five &ratios"), QKeySequence(Qt::Key_R), ledgeMode(LedgeView::Mode::Ratios));
  addTo(compare, tr("&Series: one thing varied..."), QKeySequence(Qt::CTRL | Qt::Key_R), [this] { openSeries(); });
}

void MainWindow::goMenu() {
  auto* go = menuBar()->addMenu(tr("&Go"));
  auto focus = [&](const QString& text, int key, QWidget* w) {
    addTo(go, text, QKeySequence(Qt::ALT | Qt::Key(key)), [w] { w->setFocus(Qt::ShortcutFocusReason); });
  };
  focus(tr("&Easel"), Qt::Key_1, easel_);
  focus(tr("&Ledge"), Qt::Key_2, ledge_);
  focus(tr("&Dial"), Qt::Key_3, dial_);
  focus(tr("&Height rail"), Qt::Key_4, rail_);
  focus(tr("&Stop ladder"), Qt::Key_5, ladder_);
}

void MainWindow::helpMenu() {
  auto* help = menuBar()->addMenu(tr("&Help"));
  auto* single = help->addAction(tr("&Single keys for the instruments"));
  single->setCheckable(true);
  single->setChecked(SingleKeys::on());
  connect(single, &QAction::toggled, this, &SingleKeys::setOn);
  addTo(help, tr("&Keys and gestures"), QKeySequence::HelpContents, [this] { showShortcuts(); });
  addTo(help, tr("&About Jolly Easel"), {}, [this] { about(); });
}

void MainWindow::showShortcuts() {
  auto* d = new QDialog(this);
  d->setAttribute(Qt::WA_DeleteOnClose);
  d->setWindowTitle(tr("Keys and gestures"));
  d->resize(620, 560);
  auto* text = new QTextBrowser;
  QString html = "<h3>" + tr("Keys") + "</h3>" + keysAsHtml(menuBar());
  for (QWidget* w : {static_cast<QWidget*>(easel_), static_cast<QWidget*>(ledge_), static_cast<QWidget*>(dial_),
                     static_cast<QWidget*>(rail_), static_cast<QWidget*>(ladder_)})
    html += "<h3>" + w->accessibleName().toHtmlEscaped() + "</h3><p>" +
            (w->whatsThis().isEmpty() ? w->toolTip() : w->whatsThis()).toHtmlEscaped().replace("\n", "<br>") + "</p>";
  for (const Stage* stage : stages_)
    html += "<h3>" + stage->name().toHtmlEscaped() + "</h3><p>" + stage->help().toHtmlEscaped() + "</p>";
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
  QMessageBox box(QMessageBox::NoIcon, tr("About Jolly Easel"),
                  tr("<h3>Jolly Easel %1</h3><p>Plans multi-light studio portraits and predicts the "
                     "picture.</p><p>GPL-3.0-or-later. "
                     "Libraries, font and sitter data under their own licences: see THIRD_PARTY.md.</p>")
                      .arg(EASEL_VERSION),
                  QMessageBox::Ok, this);
  box.setIconPixmap(windowIcon().pixmap(64));
  box.setTextFormat(Qt::RichText);
  box.exec();
}

}  // namespace easel::app
