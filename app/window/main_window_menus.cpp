// The main window's menus, and the help that is made from them.
#include <QDialog>
#include <QMenuBar>
#include <QMessageBox>
#include <QTextBrowser>
#include <QVBoxLayout>

#include "plan/roles.h"
#include "widgets/mnemonics.h"
#include "widgets/single_keys.h"
#include "widgets/wording.h"
#include "window/appearance.h"
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
  view_ = new ViewMenu(bench_, stages_, views_, beside_, this);
  menuBar()->addMenu(view_);
  connect(view_, &ViewMenu::mapToggled, this, &MainWindow::requestPicture);
  connect(view_, &ViewMenu::farToggled, this, &MainWindow::setFar);
  connect(view_, &ViewMenu::stageChosen, this, &MainWindow::setStage);
  connect(view_, &ViewMenu::pictureWanted, side_, &SideWindows::openPicture);
  connect(view_, &ViewMenu::textSizeWanted, this, &MainWindow::setTextSize);
  connect(view_, &ViewMenu::themeChosen, this, &setTheme);
  connect(view_, &ViewMenu::spellingChosen, this, &applySpelling);
  compareMenu();
  goMenu();
  helpMenu();
}

void MainWindow::fileMenu() {
  auto* file = menuBar()->addMenu(tr("&File"));
  addTo(file, tr("&New plan"), QKeySequence::New, [this] { files_->startNew(); });
  addTo(file, tr("&Open..."), QKeySequence::Open, [this] { files_->openDialog(); });
  addTo(file, tr("&Paste a plan"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_V), [this] { files_->pastePlan(); });
  recent_ = file->addMenu(tr("Open &recent"));
  connect(recent_, &QMenu::aboutToShow, this, [this] { files_->listRecent(recent_); });
  addTo(file, tr("&Save"), QKeySequence::Save, [this] { files_->save(); });
  addTo(file, tr("Save &as..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { files_->saveAs(); });
  file->addSeparator();
  addTo(file, tr("&Export the picture..."), QKeySequence(Qt::CTRL | Qt::Key_E),
        [this] { files_->exportPicture(bench_.easel->sharpPicture()); });
  addTo(file, tr("Shee&t: print or export..."), QKeySequence::Print, [this] { side_->openSheet(); });
  addTo(file, tr("Export &readings..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_E),
        [this] { files_->exportReadings(link_.latest()); });
  addTo(file, tr("Save the light's &profile as IES..."), {},
        [this] { files_->exportIes(document_->plan().light(selected_.toStdString())); });
  file->addSeparator();
  addTo(file, tr("&Kit..."), QKeySequence(Qt::CTRL | Qt::Key_K), [this] { side_->openKit(); });
  addTo(file, tr("The shooting da&y..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Y), [this] { openDay(); });
  addTo(file, tr("&Journal..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_H), [this] { side_->openJournal(); });
  addTo(file, tr("&Devices..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_D), [this] { side_->openDevices(); });
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
  addTo(light, tr("&Add the next light"), QKeySequence(Qt::CTRL | Qt::Key_L), [this] { bench_.actions->addLight(); });
  auto* byRole = light->addMenu(tr("Add by r&ole"));
  for (const RoleSchool& school : roleSchools())
    byRole->addAction(QString::fromStdString(school.name), this,
                      [this, id = school.id] { bench_.actions->addBySchool(id); });
  addTo(light, tr("Other placement for t&his role"), QKeySequence(Qt::CTRL | Qt::Key_T),
        [this] { bench_.actions->otherSchool(); });
  addTo(light, tr("&Balance: each light to its target"), QKeySequence(Qt::CTRL | Qt::Key_B),
        [this] { bench_.actions->balanceAll(false); });
  addTo(light, tr("Balance: all together to the target (&sum)"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_B),
        [this] { bench_.actions->balanceAll(true); });
  addTo(light, tr("&Mirror left and right"), QKeySequence(Qt::CTRL | Qt::Key_M), [this] { bench_.actions->mirror(); });
  addTo(light, tr("Swap the &key's side"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_M),
        [this] { bench_.actions->swapKeySide(); });
  light->addSeparator();
  addTo(light, tr("&Copy the light"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_C),
        [this] { bench_.actions->copyLight(); });
  addTo(light, tr("Re&name the light..."), QKeySequence(Qt::Key_F2), [this] { renameLight(); });
  lockAction_ = addTo(light, tr("Loc&k the light"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_K),
                      [this] { bench_.actions->toggleLock(); });
  lockAction_->setCheckable(true);
  addTo(light, tr("Build it ea&rlier"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Up),
        [this] { bench_.actions->reorder(selected_, bench_.actions->place() - 1); });
  addTo(light, tr("Build it la&ter"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Down),
        [this] { bench_.actions->reorder(selected_, bench_.actions->place() + 1); });
  addTo(light, tr("L&etter again in building order"), {}, [this] { bench_.actions->putLettersInOrder(); });
  addTo(light, tr("&Remove the light"), QKeySequence(Qt::CTRL | Qt::Key_Backspace),
        [this] { bench_.actions->removeLight(); });
  addTo(light, tr("&Feather: edge to the nose"), QKeySequence(Qt::Key_G), [this] { bench_.actions->featherToEdge(); });
  addTo(light, tr("Set &power to the target"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_P),
        [this] { bench_.ladder->matchTarget(selected_); });
  addTo(light, tr("See the light a&lone"), QKeySequence(Qt::Key_F8), [this] {
    bench_.onEasel->showOnly(
        bench_.onEasel->show().what == Show::What::Solo ? Show{} : Show{Show::What::Solo, selected_.toStdString()});
  });
  addTo(light, tr("See the &whole picture"), QKeySequence(Qt::Key_Escape), [this] {
    if (!views_->filling().isEmpty()) return views_->giveBack();
    if (far_) return setFar(false);
    bench_.easel->setCompare(EaselView::Compare::Off);
    bench_.onEasel->showOnly({});
  });
  light->addSeparator();
  auto* switches = light->addMenu(tr("Swi&tch on or off"));
  for (int i = 1; i <= 9; ++i)
    addTo(switches, tr("Light &%1 of the building order").arg(i), QKeySequence(Qt::Key_0 + i),
          [this, i] { bench_.actions->toggleLight(i - 1); });
  light->addSeparator();
  addTo(light, tr("Lighting l&ooks..."), QKeySequence(Qt::Key_F4), [this] { side_->openLooks(); });
}

void MainWindow::panelMenu() {
  auto* panel = menuBar()->addMenu(tr("Boar&ds and pieces"));
  QMenu* pieces = nullptr;
  for (const PanelKind& k : panelKinds()) {
    if (isPiece(k.shape) && !pieces) pieces = panel->addMenu(tr("Add to the s&et"));
    if (isPiece(k.shape)) {
      addTo(pieces, QString::fromStdString(k.name), {}, [this, id = k.id] {
        bench_.actions->putUpPanel(id);
      })->setToolTip(QString::fromStdString(k.use));
      continue;
    }
    auto* a = addTo(panel, tr("Add: %1").arg(QString::fromStdString(k.name)), {},
                    [this, id = k.id] { bench_.actions->putUpPanel(id); });
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
    if (all.empty()) return showNotice(tr("There is no board yet. Ctrl+Shift+W adds a V-flat."));
    size_t i = 0;
    while (i < all.size() && QString::fromStdString(all[i].id) != panel_) ++i;
    selectPanel(QString::fromStdString(all[i + 1 < all.size() ? i + 1 : 0].id));
  });
  addTo(panel, tr("In or &out of the set"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_J),
        [this] { bench_.actions->togglePanel(panel_); });
}

void MainWindow::compareMenu() {
  auto* compare = menuBar()->addMenu(tr("&Compare"));
  addTo(compare, tr("&Keep this picture"), QKeySequence(Qt::Key_K), [this] {
    bench_.easel->keepBefore(bench_.onEasel->name());
    showNotice(tr("Kept. W wipes between it and whatever you show next, F flips."));
  });
  auto mode = [this](EaselView::Compare m) {
    return [this, m] {
      if (bench_.easel->before().isNull())
        showNotice(tr("Keep a picture first (K); then change something, or show another print."));
      else
        bench_.easel->setCompare(bench_.easel->compare() == m ? EaselView::Compare::Off : m);
    };
  };
  addTo(compare, tr("&Wipe"), QKeySequence(Qt::Key_W), mode(EaselView::Compare::Wipe));
  addTo(compare, tr("&Flip"), QKeySequence(Qt::Key_F), mode(EaselView::Compare::Flip));
  compare->addSeparator();
  auto ledgeMode = [this](LedgeView::Mode m) {
    return [this, m] { setLedgeMode(bench_.ledge->mode() == m ? LedgeView::Mode::Alone : m); };
  };
  addTo(compare, tr("The picture as it &grows"), QKeySequence(Qt::Key_B), ledgeMode(LedgeView::Mode::BuildUp));
  addTo(compare, tr("The set at five &ratios"), QKeySequence(Qt::Key_R), ledgeMode(LedgeView::Mode::Ratios));
  addTo(compare, tr("&Series: one thing varied..."), QKeySequence(Qt::CTRL | Qt::Key_R),
        [this] { side_->openSeries(); });
}

void MainWindow::goMenu() {
  auto* go = menuBar()->addMenu(tr("&Go"));
  auto focus = [&](const QString& text, int key, QWidget* w) {
    addTo(go, text, QKeySequence(Qt::ALT | Qt::Key(key)), [w] { w->setFocus(Qt::ShortcutFocusReason); });
  };
  focus(tr("&Easel"), Qt::Key_1, bench_.easel);
  focus(tr("&Ledge"), Qt::Key_2, bench_.ledge);
  focus(tr("&Dial"), Qt::Key_3, bench_.dial);
  focus(tr("&Height rail"), Qt::Key_4, bench_.rail);
  focus(tr("&Stop ladder"), Qt::Key_5, bench_.ladder);
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
  for (QWidget* w :
       {static_cast<QWidget*>(bench_.easel), static_cast<QWidget*>(bench_.ledge), static_cast<QWidget*>(bench_.dial),
        static_cast<QWidget*>(bench_.rail), static_cast<QWidget*>(bench_.ladder)})
    html += "<h3>" + w->accessibleName().toHtmlEscaped() + "</h3><p>" +
            (w->whatsThis().isEmpty() ? w->toolTip() : w->whatsThis()).toHtmlEscaped().replace("\n", "<br>") + "</p>";
  for (const Stage* stage : stages_)
    html += "<h3>" + stage->name().toHtmlEscaped() + "</h3><p>" + stage->help().toHtmlEscaped() + "</p>";
  html += "<p>" +
          tr("Overhead booms need a counterweight, a safety line and a sandbag; cables need tape; hot lamps need air. "
             "Local rules and licensed trades decide.") +
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
