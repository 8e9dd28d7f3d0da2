#include "menus/view_menu.h"

#include <QActionGroup>
#include <QApplication>

#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {

ViewMenu::ViewMenu(const Bench& bench, const std::vector<Stage*>& stages, ArrangedViews* views, BesideEasel* beside,
                   QWidget* parent)
    : QMenu(tr("&View"), parent), bench_(bench), views_(views) {
  addStages(stages);
  addSeparator();
  addOverlays();
  addBeside(beside);
  addSeparator();
  addPlaces();
  addSeparator();
  addAppearance();
}

template <class Slot>
QAction* ViewMenu::add(const QString& text, const QKeySequence& key, Slot slot) {
  QAction* a = addAction(text);
  a->setShortcut(key);
  connect(a, &QAction::triggered, this, slot);
  return a;
}

template <class Slot>
QAction* ViewMenu::addSwitch(const QString& text, const QKeySequence& key, Slot slot) {
  QAction* a = add(text, key, slot);
  a->setCheckable(true);
  return a;
}

void ViewMenu::addStages(const std::vector<Stage*>& stages) {
  for (int i = 0; i < int(stages.size()); ++i) {
    const Stage& stage = *stages[size_t(i)];
    add(stage.name(), stage.key(), [this, i] { emit stageChosen(i); })->setToolTip(stage.purpose());
  }
}

void ViewMenu::addOverlays() {
  EaselView* easel = bench_.easel;
  std::vector<std::pair<QAction*, bool EaselTools::*>> all;
  const auto tool = [&](const QString& text, Qt::Key key, bool EaselTools::*which) {
    QAction* a = addSwitch(text, QKeySequence(key),
                           [easel, which](bool on) { easel->setTools(easel->tools().with(which, on)); });
    all.emplace_back(a, which);
    return a;
  };
  tool(tr("Show &clipping"), Qt::Key_C, &EaselTools::clipping);
  map_ = tool(tr("Show the sto&ps map"), Qt::Key_S, &EaselTools::stopsMap);
  connect(map_, &QAction::triggered, this, &ViewMenu::mapToggled);
  tool(tr("Show the &histogram"), Qt::Key_H, &EaselTools::histogram);
  tool(tr("Show &zebra"), Qt::Key_Z, &EaselTools::zebra);
  tool(tr("Hold a &grey card at the pointer"), Qt::Key_Y, &EaselTools::greyCard);
  connect(easel, &EaselView::toolsChanged, this, [all, easel] {
    for (const auto& [action, which] : all) action->setChecked(easel->tools().*which);
  });
}

void ViewMenu::addBeside(BesideEasel* beside) {
  add(tr("Picture of your own beside the &easel..."), {}, [beside] { beside->load(); });
  QAction* watch = addSwitch(tr("Watch a folder for pictures..."), {}, [beside] { beside->chooseFolder(); });
  connect(beside, &BesideEasel::watching, watch, &QAction::setChecked);
}

void ViewMenu::addPlaces() {
  add(tr("The picture fills the &window"), QKeySequence(Qt::Key_F11), [this] { views_->toggle(views::kEasel); });
  add(tr("Fill the window with the view in use"), QKeySequence(Qt::Key_F12), [this] {
    views_->toggle(views_->filling().isEmpty() ? views_->nameOf(QApplication::focusWidget()) : views_->filling());
  });
  far_ = addSwitch(tr("&Large figures (for reading at 2 m)"), QKeySequence(Qt::Key_F10),
                   [this](bool on) { emit farToggled(on); });
  add(tr("The e&yes, enlarged"), QKeySequence(Qt::Key_E), [this] { bench_.easel->lookAtEyes(); });
  add(tr("The picture in a window of its own"), QKeySequence(Qt::SHIFT | Qt::Key_F11),
      [this] { emit pictureWanted(); });
  const auto widen = [this](int steps) {
    return [this, steps] {
      const QString name = views_->nameOf(QApplication::focusWidget());
      views_->widen(name.isEmpty() ? views::kEasel : name, steps);
    };
  };
  add(tr("Enlarge the view in use"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_Right), widen(1));
  add(tr("Shrink the view in use"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_Left), widen(-1));
  add(tr("Reset this arrangement"), {}, [this] { views_->reset(); });
}

void ViewMenu::addAppearance() {
  addSwitch(tr("&Dim studio theme"), QKeySequence(Qt::CTRL | Qt::Key_D), [this](bool dim) {
    emit themeChosen(dim);
  })->setChecked(Theme::current().dim);
  add(tr("Lar&ger text"), QKeySequence::ZoomIn, [this] { emit textSizeWanted(Preferences::current().textPoints + 1); });
  add(tr("S&maller text"), QKeySequence::ZoomOut,
      [this] { emit textSizeWanted(Preferences::current().textPoints - 1); });
  const auto choice = [this](QActionGroup* of, const QString& text) {
    QAction* a = addSwitch(text, {}, [this] { takeSpelling(); });
    of->addAction(a);
    return a;
  };
  auto* lengths = new QActionGroup(this);
  metres_ = choice(lengths, tr("Lengths in &metres"));
  feet_ = choice(lengths, tr("Lengths in &feet"));
  auto* parts = new QActionGroup(this);
  tenths_ = choice(parts, tr("Readings in te&nths of a stop"));
  thirds_ = choice(parts, tr("Readings in &thirds of a stop"));
  showSpelling();
}

void ViewMenu::showSpelling() {
  const Preferences& p = Preferences::current();
  (p.metres ? metres_ : feet_)->setChecked(true);
  (p.apertures == ApertureStyle::Thirds ? thirds_ : tenths_)->setChecked(true);
}

void ViewMenu::takeSpelling() {
  Preferences& p = Preferences::current();
  p.metres = metres_->isChecked();
  p.apertures = thirds_->isChecked() ? ApertureStyle::Thirds : ApertureStyle::Tenths;
  p.save();
  emit spellingChosen();
}

}  // namespace easel::app
