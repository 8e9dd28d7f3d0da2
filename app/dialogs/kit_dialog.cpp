#include "dialogs/kit_dialog.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QSpinBox>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <functional>

#include "data/by_id.h"
#include "dialogs/ask_save_name.h"
#include "document/state_folder.h"
#include "formats/ies_file.h"
#include "formats/kit_json.h"
#include "gear/fittings.h"
#include "gear/panel_kinds.h"
#include "plan/lamp.h"
#include "widgets/attempt.h"
#include "widgets/fields.h"
#include "widgets/mnemonics.h"
#include "widgets/polar_plot.h"
#include "widgets/within_screen.h"

namespace easel::app {
namespace {

/// An id of letters, figures and hyphens out of a name, not yet taken.
std::string freshId(const QString& name, const std::function<bool(const std::string&)>& taken) {
  QString base = QStringLiteral("own-");
  for (QChar c : name.toLower()) base += c.isLetterOrNumber() && c.unicode() < 128 ? c : QChar('-');
  const std::string plain = base.left(50).toStdString();
  std::string id = plain;
  for (int i = 2; taken(id); ++i) id = plain + "-" + std::to_string(i);
  return id;
}

/// What the forms of an own unit and an own modifier have in common.
struct OwnForm {
  QDialog* dialog;
  QFormLayout* rows;
  QLineEdit* name;

  OwnForm(QWidget* parent, const QString& title, const char* id, const char* nameId, const std::string& now)
      : dialog(new QDialog(parent)), rows(new QFormLayout(dialog)), name(new QLineEdit(QString::fromStdString(now))) {
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setWindowTitle(title);
    dialog->setObjectName(id);
    name->setObjectName(nameId);
    name->setMinimumWidth(220);
    rows->addRow(KitDialog::tr("&Name"), name);
  }
  QDoubleSpinBox* number(const QString& label, double least, double most, double step, int decimals,
                         const QString& suffix, double value) const {
    auto* f = numberField(least, most, step, decimals, suffix, dialog);
    f->setValue(value);
    rows->addRow(label, f);
    return f;
  }
  std::string nameOr(const QString& fallback) const {
    const QString entered = name->text().trimmed();
    return (entered.isEmpty() ? fallback : entered).toStdString();
  }
  /// Shows it; `take` is called when it is accepted.
  void show(const std::function<void()>& take) const {
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    rows->addRow(buttons);
    QObject::connect(buttons, &QDialogButtonBox::rejected, dialog, &QDialog::reject);
    QObject::connect(buttons, &QDialogButtonBox::accepted, dialog, [d = dialog, take] {
      take();
      d->accept();
    });
    dialog->show();
  }
};

template <class T>
double guideOf(const T& thing) {
  if constexpr (std::is_same_v<T, Unit> || std::is_same_v<T, Modifier>)
    return guideNumber(thing);
  else
    return 0;
}

}  // namespace

KitDialog::KitDialog(ViewedPlan* viewed, QWidget* parent) : QDialog(parent), viewed_(viewed) {
  setWindowTitle(tr("Kit"));
  setObjectName("kit");
  resizeWithin(this, {620, 640});
  auto* box = new QVBoxLayout(this);
  auto* intro = new QLabel(
      tr("How many you have of each. The program then says what a plan lacks; with an empty kit it says nothing."));
  intro->setWordWrap(true);
  box->addWidget(intro);
  search_ = new QLineEdit;
  search_->setObjectName("kitSearch");
  search_->setPlaceholderText(tr("Search: octa, 400 Ws, grid..."));
  search_->setAccessibleName(tr("Search the kit"));
  search_->setClearButtonEnabled(true);
  connect(search_, &QLineEdit::textChanged, this, &KitDialog::sift);
  box->addWidget(search_);
  tree_ = new QTreeWidget;
  tree_->setIconSize({52, 30});
  tree_->setObjectName("kitTree");
  tree_->setColumnCount(3);
  tree_->setHeaderLabels({tr("What"), tr("How many"), tr("Guide number")});
  tree_->headerItem()->setToolTip(
      2, tr("f-number times metres at ISO 100 and full power, read flat on the axis: of a flash with an open reflector "
            "of 18 cm (or its zoom head at 50 mm), of a modifier on a flash of 400 Ws."));
  tree_->header()->setStretchLastSection(false);
  tree_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
  tree_->setRootIsDecorated(true);
  box->addWidget(tree_, 1);
  gaps_ = new QLabel;
  gaps_->setWordWrap(true);
  gaps_->setObjectName("kitGaps");
  box->addWidget(gaps_);
  anew_ = new QPushButton(tr("Start a &new kit (the old file is kept)"));
  anew_->setObjectName("startAnew");
  anew_->setAutoDefault(false);
  connect(anew_, &QPushButton::clicked, this, [] { KitFile::current().startAnew(); });
  box->addWidget(anew_);
  auto* own = new QHBoxLayout;
  auto* files = new QHBoxLayout;
  auto button = [&](QHBoxLayout* row, const QString& text, const char* name, auto slot) {
    auto* b = new QPushButton(text);
    b->setObjectName(name);
    b->setAutoDefault(false);
    connect(b, &QPushButton::clicked, this, slot);
    row->addWidget(b);
  };
  button(own, tr("Own &unit..."), "ownUnit", [this] {
    Unit u;
    u.name = tr("My flash").toStdString();
    u.wattSeconds = 200;
    u.efficacy = 25;
    u.recycle = 1.5;
    u.scale.lowestStops = -7;
    u.scale.step = 0.1;
    editUnit(u);
  });
  button(own, tr("Own &modifier..."), "ownModifier", [this] {
    Modifier m;
    m.name = tr("My modifier").toStdString();
    m.outline = Outline::Rectangle;
    m.width = 0.6;
    m.height = 0.6;
    m.depth = 0.3;
    m.transmission = 0.5;
    m.lobe = 1.3;
    m.hotCentre = 0.5;
    editModifier(m);
  });
  button(own, tr("From an I&ES file..."), "fromIes", [this] {
    const QString f = QFileDialog::getOpenFileName(this, tr("Photometry file"), {}, tr("IES photometry (*.ies *.IES)"));
    if (!f.isEmpty()) addIes(f);
  });
  button(own, tr("Measured &profile..."), "measured", [this] {
    const QString f = QFileDialog::getOpenFileName(this, tr("Photometry file"), {}, tr("IES photometry (*.ies *.IES)"));
    if (!f.isEmpty()) takeMeasured(f);
  });
  button(own, tr("E&dit..."), "editOwn", [this] { editChosen(); });
  button(own, tr("&Remove own"), "removeOwn", [this] { removeOwn(); });
  button(files, tr("&Import kit..."), "importKit", [this] {
    const QString f = QFileDialog::getOpenFileName(this, tr("Import a kit"), {}, tr("Kits (*.json)"));
    if (!f.isEmpty()) importKit(f);
  });
  button(files, tr("E&xport kit..."), "exportKit", [this] {
    const QString f = askSaveName(this, tr("Export the kit"), "kit.json", tr("Kits (*.json)"), QStringLiteral(".json"));
    if (!f.isEmpty()) exportKit(f);
  });
  files->addStretch(1);
  button(files, tr("&Close"), "closeKit", [this] { close(); });
  box->addLayout(own);
  box->addLayout(files);
  connect(viewed_, &ViewedPlan::changed, this, &KitDialog::tellGaps);
  connect(tree_, &QTreeWidget::itemDoubleClicked, this, [this](QTreeWidgetItem* item) {
    if (item->parent()) editChosen();
  });
  connect(&KitFile::current(), &KitFile::changed, this, &KitDialog::kitChanged);
  fill();
  spreadMnemonics(this);
}

void KitDialog::setKit(const Inventory& kit) {
  // An import is meant to take the place of what cannot be read; that is kept beside it.
  kit_ = kit;
  if (KitFile::current().unreadable().isEmpty())
    KitFile::current().set(kit);
  else
    KitFile::current().startAnew(kit);
  fill();
}

// One of it, in a kit that counts. Where nothing is entered yet, a first thing of one's own does not mean that there is
// nothing else.
void KitDialog::countFirst(std::map<std::string, int>& counts, const std::string& id) {
  if (!kit_.empty()) counts[id] = 1;
}

void KitDialog::keep() { KitFile::current().set(kit_); }

// Not at once: the field that was changed is among those that are made again.
void KitDialog::kitChanged() {
  if (writeKitText(kit_) == writeKitText(KitFile::current().kit())) return tellGaps();
  kit_ = KitFile::current().kit();
  QMetaObject::invokeMethod(this, &KitDialog::fill, Qt::QueuedConnection);
}

void KitDialog::takeCorrections(const StudioCorrections& corrections) {
  Inventory kit = kit_;
  std::erase_if(kit.studios, [&](const StudioCorrections& s) { return s.studio == corrections.studio; });
  kit.studios.push_back(corrections);
  kit.studio = corrections.studio;
  setKit(kit);
}

void KitDialog::dropCorrections(const std::string& studio) {
  Inventory kit = kit_;
  std::erase_if(kit.studios, [&](const StudioCorrections& s) { return s.studio == studio; });
  if (kit.studio == studio) kit.studio.clear();
  setKit(kit);
}

// The profile of a front, as a small picture beside its name.
QIcon KitDialog::profileOf(const Modifier& modifier) const {
  const double ratio = devicePixelRatioF();
  QPixmap picture(QSize(52, 30) * ratio);
  picture.setDevicePixelRatio(ratio);
  picture.fill(Qt::transparent);
  QPainter p(&picture);
  p.setRenderHint(QPainter::Antialiasing);
  paintPolar(p, QRectF(0, 0, 52, 30), modifier, false);
  p.end();
  QIcon icon(picture);
  icon.addPixmap(picture, QIcon::Selected);
  return icon;
}

// Every word of what is searched must be in the name; a group without a hit goes.
void KitDialog::sift() {
  const QStringList words = search_->text().split(' ', Qt::SkipEmptyParts);
  for (int i = 0; i < tree_->topLevelItemCount(); ++i) {
    QTreeWidgetItem* group = tree_->topLevelItem(i);
    bool any = false;
    for (int k = 0; k < group->childCount(); ++k) {
      const QString name = group->child(k)->text(0);
      const bool hit = std::all_of(words.begin(), words.end(),
                                   [&](const QString& w) { return name.contains(w, Qt::CaseInsensitive); });
      group->child(k)->setHidden(!hit);
      any |= hit;
    }
    group->setHidden(!any);
    if (!words.isEmpty()) group->setExpanded(any);
  }
}

void KitDialog::fill() {
  tree_->clear();
  auto part = [&](const QString& title, auto& things, std::map<std::string, int>& counts, bool open) {
    auto* top = new QTreeWidgetItem(tree_, {title});
    top->setExpanded(open);
    // What is owned first.
    std::vector<const typename std::decay_t<decltype(things)>::value_type*> order;
    for (const auto& t : things) order.push_back(&t);
    std::stable_partition(order.begin(), order.end(), [&](const auto* t) {
      const auto at = counts.find(t->id);
      return at != counts.end() && at->second > 0;
    });
    for (const auto* each : order) {
      const auto& t = *each;
      auto* item = new QTreeWidgetItem(top, {QString::fromStdString(t.name)});
      item->setData(0, Qt::UserRole, QString::fromStdString(t.id));
      if constexpr (std::is_same_v<std::decay_t<decltype(t)>, Modifier>) item->setIcon(0, profileOf(t));
      auto* count = new QSpinBox;
      count->setRange(0, 99);
      count->setSpecialValueText(QStringLiteral("-"));
      count->setObjectName("count-" + QString::fromStdString(t.id));
      count->setAccessibleName(tr("How many: %1").arg(QString::fromStdString(t.name)));
      const auto at = counts.find(t.id);
      count->setValue(at == counts.end() ? 0 : at->second);
      connect(count, &QSpinBox::valueChanged, this, [this, &counts, id = t.id](int n) {
        if (n)
          counts[id] = n;
        else
          counts.erase(id);  // back to nothing entered
        keep();
      });
      tree_->setItemWidget(item, 1, count);
      if (const double guide = guideOf(t); guide > 0) {
        item->setText(2, QString::number(guide, 'f', 0));
        item->setTextAlignment(2, Qt::AlignRight | Qt::AlignVCenter);
      }
    }
  };
  const std::vector<Unit> heads = knownUnits();
  const std::vector<Modifier> fronts = knownModifiers();
  std::vector<PanelKind> boards;
  for (const PanelKind& k : panelKinds())
    if (k.shape != PanelShape::Photographer) boards.push_back(k);
  std::vector<Gel> sheets(gels().begin() + 1, gels().end());
  part(tr("Heads"), heads, kit_.units, true);
  part(tr("Modifiers"), fronts, kit_.modifiers, false);
  part(tr("Boards and pieces"), boards, kit_.panels, false);
  part(tr("Stands and booms"), supports(), kit_.supports, true);
  part(tr("Gels"), sheets, kit_.gels, false);
  sift();
  tellGaps();
}

void KitDialog::tellGaps() {
  tree_->setEnabled(KitFile::current().unreadable().isEmpty());
  for (const char* name : {"ownUnit", "ownModifier", "fromIes", "measured", "editOwn", "removeOwn", "exportKit"})
    findChild<QPushButton*>(name)->setEnabled(KitFile::current().unreadable().isEmpty());
  anew_->setVisible(!KitFile::current().unreadable().isEmpty());
  if (!KitFile::current().unreadable().isEmpty())
    return gaps_->setText(
        tr("The kit cannot be read and stays as it is: %1 Repair the file, import another kit, or start a new one.")
            .arg(KitFile::current().unreadable()));
  const auto gaps = lacking(viewed_->plan(), kit_);
  if (kit_.empty()) return gaps_->setText(tr("Nothing is entered yet."));
  QStringList lines;
  for (const std::string& s : gaps) lines << QString::fromStdString(s);
  gaps_->setText(lines.isEmpty() ? tr("The open plan can be built with this kit.")
                                 : tr("The open plan lacks: %1").arg(lines.join(' ')));
}

void KitDialog::behind(const Strand::Work& work) {
  disk_.attempt(work, [this](const QString& why) { emit said(why, true); });
}

void KitDialog::importKit(const QString& file) {
  behind([this, file]() -> Strand::Report {
    return [this, k = loadKit(pathOf(file))] {
      setKit(k);
      emit said(tr("The kit \"%1\" is in use.").arg(QString::fromStdString(k.name)), false);
    };
  });
}

void KitDialog::exportKit(const QString& file) {
  behind([this, file, kit = kit_]() -> Strand::Report {
    saveKit(pathOf(file), kit);
    return [this, file] { emit said(tr("The kit is in %1.").arg(QFileInfo(file).fileName()), false); };
  });
}

void KitDialog::addIes(const QString& file) {
  behind([this, file]() -> Strand::Report {
    return [this, file, f = readIes(pathOf(file))] {
      const QString name = QFileInfo(file).completeBaseName();
      const std::string id = freshId(name, [](const std::string& i) { return findModifier(i) != nullptr; });
      kit_.ownModifiers.push_back(modifierFromIes(f, id, name.toStdString()));
      countFirst(kit_.modifiers, id);
      keep();
      fill();
      emit said(tr("%1 is among the modifiers: %2 lm forwards.").arg(name).arg(f.profile->forwardLumens(), 0, 'f', 0),
                false);
    };
  });
}

void KitDialog::takeMeasured(const QString& file) {
  const Modifier* m = findModifier(chosen());
  if (!m) {
    emit said(tr("Choose the modifier that was measured first; a new one comes from \"From an IES file\"."), true);
    return;
  }
  behind([this, file, m = *m]() -> Strand::Report {
    const QString name = QFileInfo(file).fileName();
    return [this, name, measured = measuredBy(m, readIes(pathOf(file)), name.toStdString())] {
      put(kit_.ownModifiers, measured);
      keep();
      fill();
      emit said(tr("%1 now gives its light as %2 says. Remove own brings the usual figures back.")
                    .arg(QString::fromStdString(measured.name), name),
                false);
    };
  });
}

std::string KitDialog::chosen() const {
  const auto* item = tree_->currentItem();
  return item ? item->data(0, Qt::UserRole).toString().toStdString() : std::string();
}

// What is in the catalogue stays as it is: its figures are where a thing of one's own starts from.
void KitDialog::editChosen() {
  const std::string id = chosen();
  for (const Unit& u : kit_.ownUnits)
    if (u.id == id) return editUnit(u);
  for (const Modifier& m : kit_.ownModifiers)
    if (m.id == id) return editModifier(m);
  const auto mine = [](const std::string& name) { return tr("My %1").arg(QString::fromStdString(name)).toStdString(); };
  if (const Unit* known = findUnit(id)) {
    Unit u = *known;
    u.id.clear();
    u.name = mine(u.name);
    return editUnit(u);
  }
  if (const Modifier* known = findModifier(id)) {
    Modifier m = *known;
    m.id.clear();
    m.name = mine(m.name);
    return editModifier(m);
  }
  emit said(tr("Choose a unit or a modifier first; those of the catalogue open as a copy of your own."), true);
}

void KitDialog::removeOwn() {
  const std::string id = chosen();
  auto drop = [&](auto& all) {
    for (size_t i = 0; i < all.size(); ++i)
      if (all[i].id == id) {
        all.erase(all.begin() + long(i));
        return true;
      }
    return false;
  };
  if (!drop(kit_.ownUnits) && !drop(kit_.ownModifiers)) {
    emit said(tr("Choose one of your own units or modifiers first; what is in the catalogue stays."), true);
    return;
  }
  // What stood in for a thing of the catalogue is still owned.
  if (!byId(units(), id)) kit_.units.erase(id);
  if (!byId(modifiers(), id)) kit_.modifiers.erase(id);
  keep();
  fill();
}

void KitDialog::editUnit(Unit u) {
  const OwnForm form(this, tr("Own unit"), "unitForm", "unitName", u.name);
  auto* kind = new QComboBox;
  kind->setObjectName("unitKind");
  kind->addItems({tr("Flash"), tr("Continuous")});
  kind->setCurrentIndex(u.kind == UnitKind::Continuous);
  form.rows->addRow(tr("&Kind"), kind);
  auto* ws =
      form.number(tr("&Energy at full power"), 1, 20000, 50, 0, tr(" Ws"), u.wattSeconds > 0 ? u.wattSeconds : 200);
  ws->setObjectName("unitEnergy");
  auto* efficacy = form.number(tr("Effi&cacy of the bare head"), 1, 100, 1, 0, tr(" lm s per Ws"), u.efficacy);
  auto* lumens = form.number(tr("&Flux, when continuous"), 1, 1e6, 500, 0, tr(" lm"), u.lumens > 0 ? u.lumens : 5000);
  auto* kelvin = form.number(tr("C&olour temperature"), 1700, 20000, 100, 0, tr(" K"), u.kelvin);
  auto* kelvinTo = form.number(tr("... can be set up to"), 0, 20000, 100, 0, tr(" K"), u.kelvinTo);
  kelvinTo->setSpecialValueText(tr("fixed"));
  auto* recycle = form.number(tr("&Recycles in"), 0, 120, 0.1, 1, tr(" s"), u.recycle);
  auto* lasts = form.number(tr("Flash lasts (t0.1), at &full"), 0, 100, 0.5, 2, tr(" ms"), u.duration * 1000);
  auto* lastsLowest = form.number(tr("... at lowest"), 0, 100, 0.1, 2, tr(" ms"), u.durationLowest * 1000);
  for (auto* f : {lasts, lastsLowest}) f->setSpecialValueText(tr("not known"));
  auto* highSpeed = form.number(tr("&High-speed sync costs"), 0, 10, 0.1, 1, tr(" stops"), u.highSpeedLoss);
  highSpeed->setSpecialValueText(tr("has none"));
  highSpeed->setObjectName("unitHighSpeed");
  auto* drift = form.number(tr("&Warmer, for each stop under full"), -20, 20, 0.5, 1, tr(" mired"), u.drift);
  drift->setObjectName("unitDrift");
  auto* lowest = form.number(tr("&Lowest power, stops under full"), 0.1, 14, 1, 1, {}, -u.scale.lowestStops);
  auto* step = form.number(tr("&Step"), 0.05, 1, 0.1, 2, tr(" stop"), u.scale.step);
  auto* notation = new QComboBox;
  notation->addItems({tr("fractions, 1/8"), tr("stop numbers, 6.0"), tr("percent"), tr("watt-seconds")});
  notation->setCurrentIndex(int(u.scale.notation));
  form.rows->addRow(tr("&Marked in"), notation);
  auto* watts = form.number(tr("Mo&delling lamp or mains load"), 0, 5000, 10, 0, tr(" W"), u.modellingWatts);
  auto* modelling = form.number(tr("Light of the modellin&g lamp"), 0, 1e5, 100, 0, tr(" lm"), u.modellingLumens);
  form.show([=, this] {
    Unit made = u;
    made.name = form.nameOr(tr("My unit"));
    if (made.id.empty()) {
      made.id = freshId(form.name->text(), [](const std::string& i) { return findUnit(i) != nullptr; });
      countFirst(kit_.units, made.id);
    }
    made.kind = kind->currentIndex() ? UnitKind::Continuous : UnitKind::Flash;
    made.wattSeconds = made.kind == UnitKind::Flash ? ws->value() : 0;
    made.efficacy = efficacy->value();
    made.lumens = made.kind == UnitKind::Flash ? 0 : lumens->value();
    made.kelvin = kelvin->value();
    made.kelvinTo = kelvinTo->value();
    made.recycle = recycle->value();
    made.duration = lasts->value() / 1000;
    made.durationLowest = lastsLowest->value() / 1000;
    made.highSpeedLoss = highSpeed->value();
    made.drift = drift->value();
    made.modellingLumens = modelling->value();
    made.scale = {PowerNotation(notation->currentIndex()), -lowest->value(), step->value(), u.scale.topNumber,
                  made.wattSeconds};
    made.modellingWatts = watts->value();
    made.source = tr("entered by the user").toStdString();
    put(kit_.ownUnits, made);
    keep();
    fill();
  });
}

void KitDialog::editModifier(Modifier m) {
  const OwnForm form(this, tr("Own modifier"), "modifierForm", "modifierName", m.name);
  auto* outline = new QComboBox;
  outline->addItems({tr("rectangle"), tr("octagon"), tr("disc"), tr("ring"), tr("ball")});
  outline->setCurrentIndex(int(m.outline));
  form.rows->addRow(tr("&Outline"), outline);
  auto length = [&](const QString& label, double least, double most, double value) {
    auto* f = new LengthField(least, most, form.dialog);
    f->setValue(value);
    form.rows->addRow(label, f);
    return f;
  };
  auto* width = length(tr("&Width or diameter"), 0.01, 8, m.width);
  auto* height = length(tr("&Height"), 0.01, 8, m.height);
  auto* centre = length(tr("Dark &centre, of a ring"), 0, 4, m.centre > 0 ? m.centre : 0.15);
  auto* depth = length(tr("&Depth"), 0, 3, m.depth);
  auto* passes = form.number(tr("&Passes, of the bare head's light"), 1, 100, 5, 0, tr(" %"), m.transmission * 100);
  passes->setObjectName("modifierPasses");
  auto* half = form.number(tr("Half as bri&ght, off the axis, at"), 5, 85, 5, 0, QStringLiteral("\u00b0"),
                           halfAngleOfLobe(m.lobe));
  if (m.profile) {
    half->setEnabled(false);
    half->setToolTip(tr("Its angular profile was measured: it comes from a photometry file."));
  }
  auto* hot = form.number(tr("&Middle brighter than the edge by"), 0, 6, 0.1, 1, tr(" stops"), m.hotCentre);
  auto* grid = form.number(tr("Fixed &grid"), 0, 60, 10, 0, QStringLiteral("\u00b0"), m.grid);
  grid->setSpecialValueText(tr("none"));
  form.show([=, this] {
    Modifier made = m;
    made.name = form.nameOr(tr("My modifier"));
    if (made.id.empty()) {
      made.id = freshId(form.name->text(), [](const std::string& i) { return findModifier(i) != nullptr; });
      countFirst(kit_.modifiers, made.id);
    }
    made.outline = Outline(outline->currentIndex());
    made.width = width->value();
    made.height = made.outline == Outline::Rectangle ? height->value() : made.width;
    made.centre = made.outline == Outline::Ring ? std::min(centre->value(), made.width * 0.9) : 0;
    made.depth = depth->value();
    made.transmission = passes->value() / 100;
    // The field rounds: what was not touched stays as it was.
    if (std::abs(half->value() - halfAngleOfLobe(m.lobe)) > 0.5) made.lobe = lobeOfHalfAngle(half->value());
    made.hotCentre = hot->value();
    made.grid = grid->value();
    made.source = tr("entered by the user").toStdString();
    put(kit_.ownModifiers, made);
    keep();
    fill();
  });
}

}  // namespace easel::app
