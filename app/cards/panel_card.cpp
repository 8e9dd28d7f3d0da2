#include "cards/panel_card.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>

#include "document/state_folder.h"
#include "gear/model.h"
#include "plan/panels.h"
#include "widgets/wording.h"

namespace easel::app {

PanelCard::PanelCard(ViewedPlan* viewed, QWidget* parent) : Card(viewed, parent) {
  grid_->setContentsMargins(8, 5, 8, 2);
  grid_->setVerticalSpacing(3);
  chooserRow();
  fields();
  model_ = addChoice(
      7, 1, tr("Mesh"), {}, [this] { return panel() ? QString::fromStdString(panel()->model) : QString(); },
      [this](const QString& id) {
        if (id == QStringLiteral("?load")) return loadModel();
        setModel(id);
      });
  model_->setObjectName("model");
  connect(&task_, &BackgroundTask::failed, this, &Card::refused);
  share_ = new QLabel(this);
  share_->setWordWrap(true);
  share_->setObjectName("panelShare");
  grid_->addWidget(share_, 1, 0, 1, 4);
  grid_->setRowStretch(9, 1);
  grid_->setColumnStretch(1, 1);
  grid_->setColumnStretch(3, 1);
  refresh();
}

void PanelCard::chooserRow() {
  auto* row = new QHBoxLayout;
  which_ = new QComboBox(this);
  which_->setObjectName("panel");
  which_->setAccessibleName(tr("Board or piece"));
  which_->setMinimumContentsLength(16);
  connect(which_, &QComboBox::activated, this, [this](int i) { emit chosen(which_->itemData(i).toString()); });
  auto* up = new QPushButton(tr("A&dd..."), this);
  up->setObjectName("putUp");
  auto* kinds = new QMenu(up);
  bool piecesBegun = false;
  for (const PanelKind& k : panelKinds()) {
    if (isPiece(k.shape) && !piecesBegun) kinds->addSeparator();
    piecesBegun |= isPiece(k.shape);
    auto* a = kinds->addAction(QString::fromStdString(k.name), this, [this, id = k.id] { emit putUpWanted(id); });
    a->setToolTip(QString::fromStdString(k.use));
  }
  kinds->setToolTipsVisible(true);
  up->setMenu(kinds);
  auto* away = new QPushButton(tr("Re&move"), this);
  away->setObjectName("takeAway");
  connect(away, &QPushButton::clicked, this, [this] {
    if (!panel()) return;
    viewed_->endMerge();
    viewed_->perform(RemovePanel{selected_.toStdString()}, tr("Remove %1").arg(panelText(*panel())));
  });
  auto* in = new QCheckBox(tr("In the &set"), this);
  in->setObjectName("panelOn");
  connect(in, &QCheckBox::clicked, this, [this](bool on) {
    viewed_->endMerge();
    edit(tr("%1 in or out").arg(panel() ? panelText(*panel()) : QString()), {}, [on](Panel& p) { p.on = on; });
  });
  row->addWidget(which_, 1);
  row->addWidget(up);
  row->addWidget(away);
  row->addWidget(in);
  grid_->addLayout(row, 0, 0, 1, 4);
  fields_ = {away, in, which_};
}

void PanelCard::fields() {
  auto number = [this](double Panel::*m) { return [this, m] { return panel() ? panel()->*m : 0.0; }; };
  auto set = [this](const QString& label, const QString& key, double Panel::*m) {
    return [=, this](double v) { edit(label, key, [&](Panel& p) { p.*m = v; }); };
  };
  auto text = [this](std::string Panel::*m) {
    return [this, m] { return panel() ? QString::fromStdString(panel()->*m) : QString(); };
  };
  auto choose = [this](const QString& label, std::string Panel::*m) {
    return [=, this](const QString& id) { edit(label, {}, [&](Panel& p) { p.*m = id.toStdString(); }); };
  };
  const Choices sides = choicesOf(finishes());
  auto named = [this](QWidget* w, const char* name) {
    w->setObjectName(name);
    fields_.push_back(w);
    return w;
  };
  named(addChoice(2, 0, tr("Front, or top"), sides, text(&Panel::front), choose(tr("Front"), &Panel::front)), "front");
  named(addChoice(3, 0, tr("Back"), sides, text(&Panel::back), choose(tr("Back"), &Panel::back)), "back");
  named(addLength(4, 0, tr("Width"), rangeOf("panel.width"), number(&Panel::width),
                  set(tr("Width"), "width", &Panel::width)),
        "width");
  named(addLength(5, 0, tr("Height of it"), rangeOf("panel.height"), number(&Panel::height),
                  [this](double v) { edit(tr("Height"), "size", [v](Panel& p) { p = ofHeight(p, v); }); }),
        "tall");
  const QString degree = QStringLiteral("\u00b0");
  fold_ = named(addNumber(6, 0, tr("Fold"), rangeOf("panel.fold"), 5, 0, degree, number(&Panel::fold),
                          set(tr("Fold"), "fold", &Panel::fold)),
                "fold");
  gap_ = named(
      addLength(7, 0, tr("Gap"), rangeOf("panel.gap"), number(&Panel::gap), set(tr("Gap"), "gap", &Panel::gap)), "gap");
  named(addClock(2, 1, tr("Clock"), number(&Panel::hour), set(tr("Clock place"), "hour", &Panel::hour)), "panelHour");
  named(addLength(3, 1, tr("Distance"), rangeOf("panel.distance"), number(&Panel::distance),
                  set(tr("Distance"), "distance", &Panel::distance)),
        "panelDistance");
  named(addLength(4, 1, tr("Centre above floor"), rangeOf("panel.above"), number(&Panel::above),
                  set(tr("Height"), "above", &Panel::above)),
        "panelAbove");
  named(addNumber(5, 1, tr("Turn"), rangeOf("panel.turn"), 5, 0, degree, number(&Panel::turn),
                  set(tr("Turn"), "turn", &Panel::turn)),
        "panelTurn");
  named(addNumber(6, 1, tr("Tilt up"), rangeOf("panel.tilt"), 5, 0, degree, number(&Panel::tilt),
                  set(tr("Tilt"), "tilt", &Panel::tilt)),
        "panelTilt");
  pattern_ = named(
      addChoice(7, 1, tr("Cut-out"), choicesOf(gobos()), text(&Panel::pattern), choose(tr("Cut-out"), &Panel::pattern)),
      "panelPattern");
  // Where one kind of thing has nothing to set, another has: they share the places.
  depth_ = named(addLength(6, 0, tr("Depth"), rangeOf("panel.depth"), number(&Panel::depth),
                           set(tr("Depth"), "depth", &Panel::depth)),
                 "depth");
  opening_ = {named(addLength(7, 0, tr("Open, width"), rangeOf("panel.openWidth"), number(&Panel::openWidth),
                              set(tr("Width of the opening"), "openWidth", &Panel::openWidth)),
                    "openWidth"),
              named(addLength(7, 1, tr("Open, height"), rangeOf("panel.openHeight"), number(&Panel::openHeight),
                              set(tr("Height of the opening"), "openHeight", &Panel::openHeight)),
                    "openHeight"),
              named(addLength(8, 0, tr("Sill"), rangeOf("panel.sill"), number(&Panel::sill),
                              set(tr("Height of the sill"), "sill", &Panel::sill)),
                    "sill")};
  reflectance_ =
      named(addNumber(8, 1, tr("Reflectance"), rangeOf("panel.reflectance"), 5, 0, tr(" %"),
                      number(&Panel::reflectance), set(tr("Reflectance"), "reflectance", &Panel::reflectance)),
            "reflectance");
  reflectance_->setToolTip(tr("Of the front; 0: what the finish gives."));
}

void PanelCard::shownWithLabel(QWidget* field, bool shown) {
  field->setVisible(shown);
  for (QLabel* l : findChildren<QLabel*>())
    if (l->buddy() == field) l->setVisible(shown);
}

void PanelCard::fillModels() {
  const QSignalBlocker quiet(model_);
  model_->clear();
  model_->addItem(tr("none, a block"), QString());
  for (const std::string& id : models()) model_->addItem(QString::fromStdString(id), QString::fromStdString(id));
  model_->addItem(tr("Load OBJ..."), QStringLiteral("?load"));
}

// A large file takes a moment, on a thread of its own.
void PanelCard::setModel(const QString& id) {
  task_.start([this, id = id.toStdString()](const BackgroundTask::Go&) -> BackgroundTask::Done {
    findModel(id);
    return [this, id] {
      edit(tr("Mesh"), {}, [&](Panel& p) { p = withModel(p, id); });
      refresh();
    };
  });
}

void PanelCard::loadModel() {
  const QString file = QFileDialog::getOpenFileName(this, tr("Load a mesh"), {}, tr("Wavefront OBJ (*.obj)"));
  refresh();
  if (!file.isEmpty()) takeModel(file);
}

void PanelCard::takeModel(const QString& file) {
  task_.start([this, file](const BackgroundTask::Go&) -> BackgroundTask::Done {
    const std::string id = importModel(pathOf(file));
    return [this, id] { setModel(QString::fromStdString(id)); };
  });
}

template <class F>
void PanelCard::edit(const QString& label, const QString& key, F change) {
  if (!panel()) return;
  Panel p = *panel();
  change(p);
  viewed_->perform(SetPanel{p}, label, key.isEmpty() ? key : "panel-card-" + key + selected_);
}

void PanelCard::setSelected(const QString& number) {
  selected_ = number;
  refresh();
}
void PanelCard::setShares(std::shared_ptr<const std::vector<PanelShare>> shares) {
  shares_ = std::move(shares);
  refresh();
}

void PanelCard::refresh() {
  const auto& all = viewed_->plan().panels;
  // The page never stands empty while there is something to show.
  if (!panel()) selected_ = all.empty() ? QString() : QString::fromStdString(all.front().id);
  fillModels();
  Card::refresh();
  {
    const QSignalBlocker quiet(which_);
    which_->clear();
    for (const Panel& p : all)
      which_->addItem(QStringLiteral("%1  %2").arg(QString::fromStdString(p.id),
                                                   QString::fromStdString(p.name.empty() ? p.kind : p.name)),
                      QString::fromStdString(p.id));
    which_->setCurrentIndex(which_->findData(selected_));
  }
  const Panel* p = panel();
  for (QWidget* w : fields_) w->setEnabled(p != nullptr);
  which_->setEnabled(!all.empty());
  if (auto* in = findChild<QCheckBox*>("panelOn")) in->setChecked(p && p->on);
  const PanelShape shape = p ? shapeOf(p->kind) : PanelShape::Board;
  const bool piece = isPiece(shape), opens = shape == PanelShape::Doorway || shape == PanelShape::Window;
  shownWithLabel(fold_, !piece);
  shownWithLabel(gap_, !piece);
  shownWithLabel(pattern_, !opens && shape != PanelShape::Object);
  shownWithLabel(model_, shape == PanelShape::Object);
  shownWithLabel(reflectance_, piece);
  shownWithLabel(depth_, piece);
  for (QWidget* w : opening_) shownWithLabel(w, opens);
  fold_->setEnabled(shape == PanelShape::Fold);
  gap_->setEnabled(shape == PanelShape::Slit);
  pattern_->setEnabled(takesPattern(shape));
  depth_->setEnabled(piece && shape != PanelShape::Stool && shape != PanelShape::Branch);
  QString text = all.empty()
                     ? tr("No boards or pieces yet. A white V-flat fills, a black one takes light away, a flag keeps "
                          "it off, a scrim makes a wall of light; a table, a doorway or a lamp stands in the picture.")
                     : QString();
  if (p && shares_)
    for (const PanelShare& s : *shares_)
      if (s.panel == p->id) text = QString::fromStdString(s.sentence);
  if (p && !p->on) text = tr("Not in the set.");
  share_->setText(text);
}

}  // namespace easel::app
