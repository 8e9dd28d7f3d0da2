#include "cards/build_card.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QTabWidget>
#include <cmath>

#include "balance/advice.h"
#include "document/state_folder.h"
#include "exposure/ratio.h"
#include "exposure/stops.h"
#include "plan/lamp.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "plan/ranges.h"
#include "widgets/polar_plot.h"
#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {

BuildCard::BuildCard(ViewedPlan* viewed, QWidget* parent) : Card(viewed, parent) {
  startPage("Light", tr("Light"));
  headFields();
  ratioFields();
  placeFields();
  facts_ = new QLabel(this);
  facts_->setWordWrap(true);
  facts_->setTextFormat(Qt::PlainText);
  advice_ = new QLabel(this);
  advice_->setWordWrap(true);
  advice_->setObjectName("problem");
  grid_->addWidget(facts_, 6, 0, 1, 4);
  grid_->addWidget(advice_, 7, 0, 1, 4);
  grid_->setRowStretch(8, 1);
  grid_->setColumnStretch(1, 1);
  grid_->setColumnStretch(3, 1);

  fittingsPage();
  picturedChoices();
  connect(&patternTask_, &BackgroundTask::failed, this, &Card::refused);

  startPage("Quality", tr("Quality"));
  words_ = new QLabel(this);
  words_->setWordWrap(true);
  words_->setObjectName("qualityWords");
  words_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  polar_ = new PolarPlot(this);
  grid_->addWidget(words_, 0, 0);
  grid_->addWidget(polar_, 0, 1);
  grid_->setColumnStretch(0, 1);
  for (int i = 0; i < pages_->count(); ++i) ownPages_.push_back(pages_->widget(i));
}

void BuildCard::headFields() {
  unit_ = addChoice(
      0, 0, tr("&Unit"), choicesOf(knownUnits()),
      [this] { return light() ? QString::fromStdString(light()->unit) : QString(); },
      [this](const QString& id) {
        edit(tr("Unit"), {}, [&](Light& l) {
          l.unit = id.toStdString();
          // The power must stand on the new unit's scale.
          if (const Unit* u = findUnit(l.unit)) l.power = u->scale.settingFor(l.power).stops;
        });
      });
  unit_->setObjectName("unit");
  modifier_ = addChoice(
      1, 0, tr("&Modifier"), choicesOf(knownModifiers()),
      [this] { return light() ? QString::fromStdString(light()->modifier) : QString(); },
      [this](const QString& id) { edit(tr("Modifier"), {}, [&](Light& l) { l.modifier = id.toStdString(); }); });
  modifier_->setObjectName("modifier");
  addSpoken(
      2, 0, tr("&Power"), [this] { return light() ? powerText(*light()) : QString(); },
      [this](const QString& t) {
        const Unit* u = light() ? findUnit(light()->unit) : nullptr;
        if (!u) return;
        const double wanted = u->scale.read(t.toStdString());
        edit(tr("Power"), {}, [&](Light& l) { l.power = u->scale.settingFor(wanted).stops; });
      })
      ->setObjectName("power");
  addSpoken(
      3, 0, tr("Target &aperture"),
      [this] {
        return light() ? apertureText(viewed_->plan().camera.aperture * ratioFromStops(light()->targetStops / 2))
                       : QString();
      },
      [this](const QString& t) {
        const double n = readAperture(t.toStdString());
        if (!light()) return;
        const double stops = avFromFNumber(n) - avFromFNumber(viewed_->plan().camera.aperture);
        // The key is what the camera is set to: asking it for another aperture changes the target aperture. Both or
        // neither, and one step back.
        Plan asked = viewed_->plan();
        Light& l = *asked.light(light()->id);
        l.targetStops = l.role == Role::Key ? 0 : stops;
        if (l.role == Role::Key) asked.camera.aperture = n;
        if (answers_) l.power = powerForAperture(*answers_, l, n).stops;
        viewed_->perform(SetPlan{asked}, tr("Target aperture"));
      })
      ->setObjectName("askFor");
}

void BuildCard::ratioFields() {
  auto* ratio = addSpoken(
      5, 0, tr("Rati&o"),
      [this] {
        const LightAnswer* r = light() && answers_ ? answers_->light(light()->id) : nullptr;
        return r && light()->role != Role::Key
                   ? QString::fromStdString(writeRatio(-light()->targetStops, Preferences::current().ratios))
                   : QStringLiteral("--");
      },
      [this](const QString& t) {
        if (!light() || light()->role == Role::Key || t.trimmed() == QStringLiteral("--")) return;
        const double under = readRatio(t.toStdString(), Preferences::current().ratios);
        edit(tr("Ratio"), {}, [&](Light& l) {
          l.targetStops = -under;
          if (answers_)
            l.power =
                powerForAperture(*answers_, l, viewed_->plan().camera.aperture * ratioFromStops(-under / 2)).stops;
        });
      });
  ratio->setObjectName("ratio");
  ratio->setToolTip(
      tr("This light against the key. \"3:1\" is read by the method chosen beside it; \"1.5 stops\" always "
         "means stops under."));
  auto* school = addChoice(
      5, 1, tr("Ratio meth&od"),
      {{"0", tr("unit to unit, each alone")}, {"1", tr("lit side to shadow side")}, {"2", tr("stops under")}},
      [] { return QString::number(int(Preferences::current().ratios)); },
      [this](const QString& id) {
        Preferences::current().ratios = RatioSchool(id.toInt());
        Preferences::current().save();
        emit preferencesChanged();
        refresh();
      });
  school->setObjectName("ratioSchool");
}

void BuildCard::placeFields() {
  auto value = [this](auto member) { return [this, member] { return light() ? light()->*member : 0.0; }; };
  auto setter = [this](const QString& label, const QString& key, double Light::*member) {
    return [=, this](double v) { edit(label, key, [&](Light& l) { l.*member = v; }); };
  };
  addClock(0, 1, tr("&Clock"), value(&Light::hour), setter(tr("Clock place"), "hour", &Light::hour))
      ->setObjectName("hour");
  addLength(1, 1, tr("&Distance"), rangeOf("light.distance"), value(&Light::distance),
            setter(tr("Distance"), "distance", &Light::distance))
      ->setObjectName("distance");
  addLength(2, 1, tr("&Height"), rangeOf("light.height"), value(&Light::height),
            setter(tr("Height"), "height", &Light::height))
      ->setObjectName("height");
  addNumber(3, 1, tr("Fea&ther"), rangeOf("light.pan"), 1, 0, QStringLiteral("\u00b0"), value(&Light::pan),
            setter(tr("Feather"), "pan", &Light::pan))
      ->setObjectName("pan");
  addNumber(4, 1, tr("T&ilt off aim"), rangeOf("light.tiltOffset"), 1, 0, QStringLiteral("\u00b0"),
            value(&Light::tiltOffset), setter(tr("Tilt"), "tilt", &Light::tiltOffset))
      ->setObjectName("tilt");
  Choices roles;
  for (int i = 0; i < kRoleCount; ++i) roles.emplace_back(QString::number(i), roleText(Role(i)));
  addChoice(
      4, 0, tr("&Role"), roles, [this] { return light() ? QString::number(int(light()->role)) : QString(); },
      [this](const QString& id) { edit(tr("Role"), {}, [&](Light& l) { l.role = Role(id.toInt()); }); })
      ->setObjectName("role");
}

void BuildCard::gearChanged() {
  auto refill = [](QComboBox* box, const auto& all) {
    const QSignalBlocker quiet(box);
    box->clear();
    for (const auto& [id, name] : choicesOf(all)) box->addItem(name, id);
  };
  refill(unit_, knownUnits());
  refill(modifier_, knownModifiers());
  refresh();
}

void BuildCard::showPage(QWidget* page) { pages_->setCurrentWidget(page); }

void BuildCard::fittingsPage() {
  startPage("On the light", tr("On the light"));
  auto worn = [this](std::string Fittings::*m) {
    return [this, m] { return light() ? QString::fromStdString(light()->fittings.*m) : QString(); };
  };
  auto wear = [this](const QString& label, std::string Fittings::*m) {
    return [=, this](const QString& id) { edit(label, {}, [&](Light& l) { l.fittings.*m = id.toStdString(); }); };
  };
  auto number = [this](double Fittings::*m) { return [this, m] { return light() ? light()->fittings.*m : 0.0; }; };
  auto set = [this](const QString& label, const QString& key, double Fittings::*m) {
    return [=, this](double v) { edit(label, key, [&](Light& l) { l.fittings.*m = v; }); };
  };
  const QString degree = QStringLiteral("\u00b0");
  gel_ = addChoice(0, 0, tr("&Gel"), choicesOf(gels()), worn(&Fittings::gel), wear(tr("Gel"), &Fittings::gel));
  gel_->setObjectName("gel");
  diffusion_ = addChoice(1, 0, tr("Di&ffusion"), choicesOf(diffusions()), worn(&Fittings::diffusion),
                         wear(tr("Diffusion"), &Fittings::diffusion));
  diffusion_->setObjectName("diffusion");
  auto* nd = addNumber(0, 1, tr("&Neutral density"), rangeOf("light.nd"), 1.0 / 3, 1, tr(" stops"),
                       number(&Fittings::nd), set(tr("Neutral density"), "nd", &Fittings::nd));
  nd->setObjectName("nd");
  nd->setToolTip(tr("A density of 0.3 is one stop."));
  auto* grid = addNumber(1, 1, tr("G&rid"), rangeOf("light.grid"), 10, 0, degree, number(&Fittings::grid),
                         set(tr("Grid"), "grid", &Fittings::grid));
  grid->setObjectName("grid");
  grid->setSpecialValueText(tr("none"));
  grid->setToolTip(
      tr("No light leaves at a wider angle than this. Honeycombs: 5 to 40\u00b0; fabric: about 40\u00b0."));

  switchBoxes();
  auto* kelvin = addNumber(2, 1, tr("Set to"), rangeOf("light.kelvin"), 100, 0, tr(" K"), number(&Fittings::kelvin),
                           set(tr("Colour temperature"), "kelvin", &Fittings::kelvin));
  kelvin->setSpecialValueText(tr("the unit's own"));
  kelvin->setObjectName("kelvin");

  pattern_ = addChoice(3, 0, tr("Gobo"), {}, worn(&Fittings::pattern), [this](const QString& id) {
    if (id == QStringLiteral("?load")) return loadPattern();
    edit(tr("Gobo"), {}, [&](Light& l) { l.fittings.pattern = id.toStdString(); });
  });
  pattern_->setObjectName("pattern");
  fillPatterns();
  auto* spread = addNumber(3, 1, tr("Spread"), rangeOf("light.spread"), 1, 0, degree, number(&Fittings::spread),
                           set(tr("Spread"), "spread", &Fittings::spread));
  spread->setObjectName("spread");
  spread->setToolTip(tr("Half the angle of the spot's beam."));
  auto* focus = addLength(4, 1, tr("Sharp at"), rangeOf("light.focus"), number(&Fittings::focus),
                          set(tr("Focus"), "focus", &Fittings::focus));
  focus->setObjectName("focus");
  focus->setToolTip(tr("From the spot's lens; 0: at the face. Nearer and further it softens."));
  auto* zoom = addNumber(4, 0, tr("Zoom"), rangeOf("light.zoom"), 10, 0, tr(" mm"), number(&Fittings::zoom),
                         set(tr("Zoom"), "zoom", &Fittings::zoom));
  zoom->setObjectName("zoom");

  doorFields();
  losses_ = new QLabel(this);
  losses_->setWordWrap(true);
  losses_->setObjectName("losses");
  pieceFields();
  grid_->addWidget(losses_, 7, 0, 1, 4);
  grid_->setRowStretch(8, 1);
  grid_->setColumnStretch(1, 1);
  grid_->setColumnStretch(3, 1);
  only_.push_back({zoom, [](const Modifier& m, const Unit*) { return m.zooms; }});
  for (QWidget* w : {static_cast<QWidget*>(pattern_), static_cast<QWidget*>(spread), static_cast<QWidget*>(focus)})
    only_.push_back({w, [](const Modifier& m, const Unit*) { return m.projects; }});
  only_.push_back({kelvin, [](const Modifier&, const Unit* u) { return u && u->kelvinTo > 0; }});
}

// This light alone on the face with each, at the same aperture.
void BuildCard::picturedChoices() {
  popover_ = new GalleryPopover(viewed_, this);
  connect(popover_, &GalleryPopover::tryOut, this, &Card::tryOut);
  const auto by = [this](const std::function<void(Light&, const QString&)>& change) {
    return [this, change](const QString& id) -> std::optional<Edit> {
      if (!light() || id.startsWith('?')) return {};
      Light l = *light();
      change(l, id);
      return SetLight{l};
    };
  };
  popover_->add({modifier_, tr("Modifier"), by([](Light& l, const QString& id) { l.modifier = id.toStdString(); }),
                 PrintShows::OneLight, [this](const QString& id) { return modifierNote(id); }});
  popover_->add({gel_, tr("Gel"), by([](Light& l, const QString& id) { l.fittings.gel = id.toStdString(); }),
                 PrintShows::OneLight});
  popover_->add({diffusion_, tr("Diffusion"),
                 by([](Light& l, const QString& id) { l.fittings.diffusion = id.toStdString(); }),
                 PrintShows::OneLight});
  popover_->add({pattern_, tr("Gobo"), by([](Light& l, const QString& id) { l.fittings.pattern = id.toStdString(); }),
                 PrintShows::OneLight});
}

// How large it is seen from the face, where it stands, and how many there are.
QString BuildCard::modifierNote(const QString& id) const {
  const Modifier* m = findModifier(id.toStdString());
  const LightAnswer* a = light() && answers_ ? answers_->light(light()->id) : nullptr;
  if (!m || !a) return {};
  const QString fills = tr("fills %1\u00b0").arg(seenAngle(*m, a->distance), 0, 'f', 0);
  const auto owned = modifiersOwned(m->id);
  return owned && *owned ? tr("%1, %2 in the kit").arg(fills).arg(*owned) : fills;
}

void BuildCard::switchBoxes() {
  auto* inner = new QCheckBox(tr("Inner diffuser in"), this);
  inner->setObjectName("inner");
  connect(inner, &QCheckBox::clicked, this, [this](bool on) {
    viewed_->endMerge();
    edit(tr("Inner diffuser"), {}, [on](Light& l) { l.fittings.inner = on; });
  });
  auto* deflector = new QCheckBox(tr("Deflector in"), this);
  deflector->setObjectName("deflector");
  connect(deflector, &QCheckBox::clicked, this, [this](bool on) {
    viewed_->endMerge();
    edit(tr("Deflector"), {}, [on](Light& l) { l.fittings.deflector = on; });
  });
  auto* modelling = new QCheckBox(tr("Modelling lamp stays on"), this);
  modelling->setObjectName("modelling");
  modelling->setToolTip(tr("It burns on while the shutter is open: its light counts as continuous light."));
  connect(modelling, &QCheckBox::clicked, this, [this](bool on) {
    viewed_->endMerge();
    edit(tr("Modelling lamp"), {}, [on](Light& l) { l.modelling = on; });
  });
  auto* boxes = new QHBoxLayout;
  boxes->addWidget(inner);
  boxes->addWidget(deflector);
  boxes->addWidget(modelling);
  boxes->addStretch(1);
  grid_->addLayout(boxes, 2, 1);
  only_.push_back({inner, [](const Modifier& m, const Unit*) { return m.innerDiffuser; }});
  only_.push_back({deflector, [](const Modifier& m, const Unit*) { return m.takesDeflector; }});
  only_.push_back({modelling, [](const Modifier&, const Unit* u) { return u && u->modellingLumens > 0; }});
}

void BuildCard::doorFields() {
  const QString degree = QStringLiteral("\u00b0");
  // Four leaves in a row, named as one sees them from behind the light.
  auto* leaves = new QHBoxLayout;
  leaves->setSpacing(3);
  auto leaf = [&](const QString& name, const Range& range, double Doors::*m) {
    auto* f = numberField(range.least, range.most, 5, 0, degree, this);
    f->setPrefix(name + QStringLiteral(" "));
    f->setObjectName("door" + name);
    f->setAccessibleName(tr("Barn door %1").arg(name));
    f->setToolTip(tr("Barn door leaf, seen from behind the light: 90\u00b0 out of the way, 0\u00b0 straight ahead."));
    bind(
        f, [this, m] { return light() ? light()->fittings.doors.*m : 90.0; },
        [this, m, name](double v) {
          edit(tr("Barn doors"), "door" + name, [&](Light& l) { l.fittings.doors.*m = v; });
        });
    leaves->addWidget(f);
    only_.push_back({f, [](const Modifier& x, const Unit*) { return x.takesDoors; }});
  };
  leaf(tr("left"), rangeOf("light.doorLeft"), &Doors::left);
  leaf(tr("right"), rangeOf("light.doorRight"), &Doors::right);
  leaf(tr("top"), rangeOf("light.doorTop"), &Doors::top);
  leaf(tr("bottom"), rangeOf("light.doorBottom"), &Doors::bottom);
  auto* doorLabel = new QLabel(tr("Barn doors"), this);
  doorLabel->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  doorLabel->setBuddy(findChild<QWidget*>("door" + tr("left")));
  grid_->addWidget(doorLabel, 5, 0);
  grid_->addLayout(leaves, 5, 1, 1, 3);
}

void BuildCard::pieceFields() {
  worksOn_ = addChoice(
      6, 0, tr("Works on"), {}, [this] { return light() ? QString::fromStdString(light()->worksOn) : QString(); },
      [this](const QString& id) { edit(tr("What it works on"), {}, [&](Light& l) { l.worksOn = id.toStdString(); }); });
  worksOn_->setObjectName("worksOn");
  worksOn_->setToolTip(tr("It is aimed at that and metered there."));
  inside_ = addChoice(
      6, 1, tr("Stands in"), {}, [this] { return light() ? QString::fromStdString(light()->inside) : QString(); },
      [this](const QString& id) {
        edit(tr("The lamp in the picture that it stands in"), {}, [&](Light& l) { l.inside = id.toStdString(); });
      });
  inside_->setObjectName("inside");
  inside_->setMinimumContentsLength(4);
  worksOn_->setMinimumContentsLength(8);
  inside_->setToolTip(tr("The lamp and its shade move together."));
}

// What stands in the set is another thing with every edit.
void BuildCard::fillPieces() {
  Choices all, shades;
  for (const Panel& p : viewed_->plan().panels) {
    (shapeOf(p.kind) == PanelShape::Shade ? shades : all).emplace_back(QString::fromStdString(p.id), panelText(p));
  }
  all.insert(all.end(), shades.begin(), shades.end());
  const auto fill = [](QComboBox* box, const QString& none, const Choices& things) {
    const QSignalBlocker quiet(box);
    box->clear();
    box->addItem(none, QString());
    for (const auto& [id, name] : things) box->addItem(name, id);
    setStands(box, !things.empty());
  };
  fill(worksOn_, tr("sitter or backdrop"), all);
  fill(inside_, tr("nothing"), shades);
}

void BuildCard::fillPatterns() {
  pattern_->clear();
  pattern_->addItem(tr("none, a plain disc"), QStringLiteral("none"));
  for (const GoboName& n : gobos()) pattern_->addItem(QString::fromStdString(n.name), QString::fromStdString(n.id));
  pattern_->addItem(tr("Load SVG or PNG..."), QStringLiteral("?load"));
}

void BuildCard::loadPattern() {
  const QString file = QFileDialog::getOpenFileName(this, tr("Load a gobo"), {}, tr("Cut-outs (*.svg *.png)"));
  refresh();
  if (!file.isEmpty()) takePattern(file);
}

// A stranger's drawing may take seconds, and is drawn on a thread of its own.
void BuildCard::takePattern(const QString& file) {
  patternTask_.start([this, file](const BackgroundTask::Go&) -> BackgroundTask::Done {
    const std::string id = importGobo(pathOf(file));
    return [this, id] {
      fillPatterns();
      edit(tr("Gobo"), {}, [&](Light& l) { l.fittings.pattern = id; });
      refresh();
    };
  });
}

const Light* BuildCard::light() const { return viewed_->plan().light(selected_.toStdString()); }

template <class F>
void BuildCard::edit(const QString& label, const QString& key, F change) {
  if (!light()) return;
  Light l = *light();
  change(l);
  viewed_->perform(SetLight{l}, label, key.isEmpty() ? key : "card-" + key + selected_);
}

void BuildCard::setSelected(const QString& id) {
  selected_ = id;
  popover_->pictures()->setLight(id);
  refresh();
}
void BuildCard::setAnswers(std::shared_ptr<const Answers> answers) {
  answers_ = std::move(answers);
  refresh();
}

void BuildCard::setQuality(std::shared_ptr<const std::vector<LightQuality>> quality) {
  quality_ = std::move(quality);
  refresh();
}

QString BuildCard::lossesText() const {
  const Modifier* m = light() ? findModifier(light()->modifier) : nullptr;
  const Unit* u = light() ? findUnit(light()->unit) : nullptr;
  if (!m || !u) return {};
  QStringList given;
  for (const std::string& s : whatItGives(*light(), viewed_->plan().camera)) given << QString::fromStdString(s);
  const QString gives = QStringLiteral("\n") + given.join(' ');
  const auto lost = losses(*m, light()->fittings, lampKelvin(*light()));
  if (lost.empty()) return tr("Nothing is on the light, so nothing is lost.") + gives;
  QStringList parts;
  double sum = 0;
  for (const auto& [name, stops] : lost) {
    parts << QStringLiteral("%1 %2").arg(QString::fromStdString(name)).arg(stops, 0, 'f', 1);
    sum += stops;
  }
  return tr("Lost on the axis: %1 = %2 stops.").arg(parts.join(QStringLiteral(" + "))).arg(sum, 0, 'f', 1) + gives;
}

void BuildCard::refresh() {
  fillPieces();
  Card::refresh();
  for (QWidget* page : ownPages_) page->setEnabled(light() != nullptr);
  const Modifier* m = light() ? findModifier(light()->modifier) : nullptr;
  const Unit* u = light() ? findUnit(light()->unit) : nullptr;
  for (const Only& o : only_) setStands(o.field, m && o.fits(*m, u));
  findChild<QCheckBox*>("inner")->setChecked(light() && light()->fittings.inner);
  findChild<QCheckBox*>("modelling")->setChecked(light() && light()->modelling);
  findChild<QCheckBox*>("deflector")->setChecked(light() && light()->fittings.deflector);
  polar_->setModifier(m ? std::optional(fronted(*m, light()->fittings)) : std::nullopt);
  QStringList words;
  if (light() && quality_)
    for (const LightQuality& q : *quality_)
      if (q.light == light()->id)
        for (const std::string& w : q.words) words << QString::fromStdString(w);
  words_->setText(words.isEmpty() ? tr("Being measured...") : words.join("\n"));
  losses_->setText(lossesText());
  const LightAnswer* r = light() && answers_ ? answers_->light(light()->id) : nullptr;
  if (!r) {
    facts_->clear();
    advice_->clear();
    return;
  }
  auto degreesText = [](double d) { return QStringLiteral("%1\u00b0").arg(std::abs(d), 0, 'f', 0); };
  // Set once: every other text has the page laid out anew.
  QString facts = (r->elevation < -0.5 ? tr("%1 away, %2 below the face; fills %3 seen from the face.")
                                       : tr("%1 away, %2 above the face; fills %3 seen from the face."))
                      .arg(lengthText(r->distance), degreesText(r->elevation), degreesText(r->apparentSize));
  if (r->held.where == MeteredAt::Face && r->backdropStops > -12)
    facts += (tr(" Its light on the backdrop: %1 stops against the face.").arg(shortStops(r->backdropStops)));
  // The ratio to the key in the three schools, as it is metered, not as it is wished.
  if (light()->role != Role::Key)
    for (const Light& k : viewed_->plan().lights)
      if (const LightAnswer* key = k.role == Role::Key ? answers_->light(k.id) : nullptr;
          key && key->alone.total() > 0 && r->alone.total() > 0) {
        const double under = stopsUnder(*answers_, k.id, r->id);
        // Only what lights the face too has a lit and a shadow side there.
        const bool atFace = r->held.where == MeteredAt::Face;
        QString metered = (atFace ? tr("\nMetered %1 against key %2: %3; unit to unit %4; lit to shadow side %5.")
                                  : tr("\nMetered %1 against key %2: %3; unit to unit %4."))
                              .arg(QString::fromStdString(placeOf(r->held)), QString::fromStdString(k.id),
                                   QString::fromStdString(writeRatio(under, RatioSchool::StopsUnder)),
                                   QString::fromStdString(writeRatio(under, RatioSchool::UnitToUnit)));
        if (atFace) metered = metered.arg(QString::fromStdString(writeRatio(under, RatioSchool::LitToShadow)));
        facts += metered;
        break;
      }
  // Cross-talk: what the others add where this one is metered.
  QStringList others;
  for (const auto& [id, stops] : r->others)
    if (const Light* o = viewed_->plan().light(id); o && o->on && stops > -5)
      others << tr("%1 %2").arg(QString::fromStdString(id), shortStops(stops));
  if (!others.isEmpty() && r->alone.total() > 0)
    facts += (tr("\nMetered %1, the others add, against it: %2. With everything on it reads %3 more.")
                  .arg(QString::fromStdString(describe(r->held.hold)), others.join(QStringLiteral(", ")),
                       howManyStops(r->togetherStops - r->stopsFromWorking)));
  facts_->setText(facts);
  QString advice;
  if (r->setting.shortfall != 0) {
    advice = r->setting.shortfall > 0
                 ? tr("%1 stops too weak at full power: ").arg(r->setting.shortfall, 0, 'f', 1)
                 : tr("%1 stops too strong at lowest power: ").arg(-r->setting.shortfall, 0, 'f', 1);
    for (const std::string& s : adviceOnPower(viewed_->plan(), *light(), *r, Preferences::current().spelling()))
      advice += QString::fromStdString(s) + " ";
  }
  advice_->setText(advice);
}

}  // namespace easel::app
