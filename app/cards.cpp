#include "cards.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QTabWidget>
#include <cmath>

#include "exposure/ratio.h"
#include "exposure/stops.h"
#include "plan/placement.h"
#include "theme.h"
#include "wording.h"

namespace easel::app {

Card::Card(Document* document, QWidget* parent) : QWidget(parent), document_(document) {
  grid_ = new QGridLayout(this);
  grid_->setContentsMargins(12, 8, 12, 8);
  grid_->setHorizontalSpacing(8);
  grid_->setVerticalSpacing(5);
  connect(document_, &Document::changed, this, [this] { refresh(); });
}

void Card::startPage(const QString& name) {
  if (!pages_) {
    pages_ = new QTabWidget(this);
    pages_->setDocumentMode(true);
    grid_->setContentsMargins(4, 0, 4, 0);
    grid_->addWidget(pages_, 0, 0);
  }
  auto* page = new QWidget;
  grid_ = new QGridLayout(page);
  grid_->setContentsMargins(8, 5, 8, 2);
  grid_->setHorizontalSpacing(8);
  grid_->setVerticalSpacing(3);
  pages_->addTab(page, name);
}

void Card::refresh() {
  refreshing_ = true;
  for (const auto& r : refreshers_) r();
  refreshing_ = false;
}

QLabel* Card::addLabel(int row, int column, const QString& text, QWidget* buddy) {
  auto* l = new QLabel(text, this);
  l->setBuddy(buddy);
  l->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  buddy->setAccessibleName(QString(text).remove('&'));
  grid_->addWidget(l, row, column * 2);
  grid_->addWidget(buddy, row, column * 2 + 1);
  return l;
}

LengthField* Card::addLength(int row, int column, const QString& label, double least, double most, Get get, Set set) {
  auto* f = new LengthField(least, most, this);
  addLabel(row, column, label, f);
  refreshers_.push_back([f, get] {
    const QSignalBlocker quiet(f);
    f->setValue(get());  // writes the text anew even when only the unit has changed
  });
  connect(f, &QDoubleSpinBox::valueChanged, this, [this, set](double v) {
    if (!refreshing_) set(v);
  });
  connect(f, &QDoubleSpinBox::editingFinished, this, [this] { document_->endMerge(); });
  return f;
}

QDoubleSpinBox* Card::addNumber(int row, int column, const QString& label, double least, double most, double step,
                                int decimals, const QString& suffix, Get get, Set set) {
  auto* f = numberField(least, most, step, decimals, suffix, this);
  addLabel(row, column, label, f);
  refreshers_.push_back([f, get] {
    const QSignalBlocker quiet(f);
    f->setValue(get());
  });
  connect(f, &QDoubleSpinBox::valueChanged, this, [this, set](double v) {
    if (!refreshing_) set(v);
  });
  connect(f, &QDoubleSpinBox::editingFinished, this, [this] { document_->endMerge(); });
  return f;
}

SpokenField* Card::addSpoken(int row, int column, const QString& label, std::function<QString()> get,
                             std::function<void(const QString&)> set) {
  auto* f = new SpokenField(
      [this, set](const QString& t) {
        set(t);
        document_->endMerge();
      },
      this);
  addLabel(row, column, label, f);
  refreshers_.push_back([f, get] {
    f->setModified(false);
    f->setShown(get());
  });
  connect(f, &SpokenField::refused, this, &Card::refused);
  return f;
}

QComboBox* Card::addChoice(int row, int column, const QString& label,
                           const std::vector<std::pair<QString, QString>>& choices, std::function<QString()> get,
                           std::function<void(const QString&)> set) {
  auto* f = new QComboBox(this);
  for (const auto& [id, name] : choices) f->addItem(name, id);
  f->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  f->setMinimumContentsLength(14);
  addLabel(row, column, label, f);
  refreshers_.push_back([f, get] {
    const QSignalBlocker quiet(f);
    f->setCurrentIndex(f->findData(get()));
  });
  connect(f, &QComboBox::activated, this, [this, f, set](int i) {
    set(f->itemData(i).toString());
    document_->endMerge();
  });
  return f;
}

namespace {

template <class T>
std::vector<std::pair<QString, QString>> choicesOf(const std::vector<T>& all) {
  std::vector<std::pair<QString, QString>> out;
  for (const T& t : all) out.emplace_back(QString::fromStdString(t.id), QString::fromStdString(t.name));
  return out;
}

}  // namespace

BuildCard::BuildCard(Document* document, QWidget* parent) : Card(document, parent) {
  startPage(tr("Light"));
  auto value = [this](auto member) { return [this, member] { return light() ? light()->*member : 0.0; }; };
  auto setter = [this](const QString& label, const QString& key, double Light::*member) {
    return [=, this](double v) { edit(label, key, [&](Light& l) { l.*member = v; }); };
  };
  addChoice(
      0, 0, tr("&Unit"), choicesOf(units()),
      [this] { return light() ? QString::fromStdString(light()->unit) : QString(); },
      [this](const QString& id) {
        edit(tr("Unit"), {}, [&](Light& l) {
          l.unit = id.toStdString();
          // The power must stand on the new unit's scale.
          if (const Unit* u = findUnit(l.unit)) l.power = u->scale.settingFor(l.power).stops;
        });
      })
      ->setObjectName("unit");
  addChoice(
      1, 0, tr("&Modifier"), choicesOf(modifiers()),
      [this] { return light() ? QString::fromStdString(light()->modifier) : QString(); },
      [this](const QString& id) { edit(tr("Modifier"), {}, [&](Light& l) { l.modifier = id.toStdString(); }); })
      ->setObjectName("modifier");
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
      3, 0, tr("As&k for"),
      [this] {
        return light() ? apertureText(document_->plan().camera.aperture * ratioFromStops(light()->targetStops / 2))
                       : QString();
      },
      [this](const QString& t) {
        const double n = readAperture(t.toStdString());
        if (!light()) return;
        const double stops = avFromFNumber(n) - avFromFNumber(document_->plan().camera.aperture);
        // The key is what the camera is set to: asking it for another aperture changes the working aperture.
        if (light()->role == Role::Key) {
          Camera c = document_->plan().camera;
          c.aperture = n;
          document_->perform(SetCamera{c}, tr("Working aperture"));
          edit(tr("Ask for aperture"), {}, [&](Light& l) {
            l.targetStops = 0;
            if (answers_) l.power = powerForAperture(*answers_, l, n).stops;
          });
        } else {
          edit(tr("Ask for aperture"), {}, [&](Light& l) {
            l.targetStops = stops;
            if (answers_) l.power = powerForAperture(*answers_, l, n).stops;
          });
        }
      })
      ->setObjectName("askFor");

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
        const double under = stopsUnderFromRatioText(t);
        edit(tr("Ratio"), {}, [&](Light& l) {
          l.targetStops = -under;
          if (answers_)
            l.power =
                powerForAperture(*answers_, l, document_->plan().camera.aperture * ratioFromStops(-under / 2)).stops;
        });
      });
  ratio->setObjectName("ratio");
  ratio->setToolTip(
      tr("This light against the key. \"3:1\" is read in the school that leads (View menu); \"1.5 stops\" always "
         "means stops under."));
  auto* school = addChoice(
      5, 1, tr("Reckoned b&y"),
      {{"0", tr("unit to unit, each alone")}, {"1", tr("lit side to shadow side")}, {"2", tr("stops under")}},
      [] { return QString::number(int(Preferences::current().ratios)); },
      [this](const QString& id) {
        Preferences::current().ratios = RatioSchool(id.toInt());
        Preferences::current().save();
        emit preferencesChanged();
        refresh();
      });
  school->setObjectName("ratioSchool");

  addNumber(0, 1, tr("&Clock"), 0.01, 12, 0.1, 2, tr(" o'clock"), value(&Light::hour),
            setter(tr("Clock place"), "hour", &Light::hour))
      ->setObjectName("hour");
  addLength(1, 1, tr("&Distance"), 0.2, 20, value(&Light::distance),
            setter(tr("Distance"), "distance", &Light::distance))
      ->setObjectName("distance");
  addLength(2, 1, tr("&Height"), 0.05, 15, value(&Light::height), setter(tr("Height"), "height", &Light::height))
      ->setObjectName("height");
  addNumber(3, 1, tr("Fea&ther"), -180, 180, 1, 0, QStringLiteral("\u00b0"), value(&Light::pan),
            setter(tr("Feather"), "pan", &Light::pan))
      ->setObjectName("pan");
  addNumber(4, 1, tr("T&ilt off aim"), -90, 90, 1, 0, QStringLiteral("\u00b0"), value(&Light::tiltOffset),
            setter(tr("Tilt"), "tilt", &Light::tiltOffset))
      ->setObjectName("tilt");
  std::vector<std::pair<QString, QString>> roles;
  for (int i = 0; i < kRoleCount; ++i) roles.emplace_back(QString::number(i), roleText(Role(i)));
  addChoice(
      4, 0, tr("&Role"), roles, [this] { return light() ? QString::number(int(light()->role)) : QString(); },
      [this](const QString& id) { edit(tr("Role"), {}, [&](Light& l) { l.role = Role(id.toInt()); }); })
      ->setObjectName("role");

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

  startPage(tr("On the light"));
  auto worn = [this](std::string Fittings::*m) {
    return [this, m] { return light() ? QString::fromStdString(light()->fittings.*m) : QString(); };
  };
  auto wear = [this](const QString& label, std::string Fittings::*m) {
    return [=, this](const QString& id) { edit(label, {}, [&](Light& l) { l.fittings.*m = id.toStdString(); }); };
  };
  addChoice(0, 0, tr("&Gel"), choicesOf(gels()), worn(&Fittings::gel), wear(tr("Gel"), &Fittings::gel))
      ->setObjectName("gel");
  addChoice(1, 0, tr("Di&ffusion"), choicesOf(diffusions()), worn(&Fittings::diffusion),
            wear(tr("Diffusion"), &Fittings::diffusion))
      ->setObjectName("diffusion");
  auto* nd = addNumber(
      0, 1, tr("&Neutral density"), 0, 12, 1.0 / 3, 1, tr(" stops"),
      [this] { return light() ? light()->fittings.nd : 0; },
      [this](double v) { edit(tr("Neutral density"), "nd", [&](Light& l) { l.fittings.nd = v; }); });
  nd->setObjectName("nd");
  nd->setToolTip(tr("A density of 0.3 is one stop."));
  auto* grid = addNumber(
      1, 1, tr("G&rid"), 0, 60, 10, 0, QStringLiteral("\u00b0"), [this] { return light() ? light()->fittings.grid : 0; },
      [this](double v) { edit(tr("Grid"), "grid", [&](Light& l) { l.fittings.grid = v; }); });
  grid->setObjectName("grid");
  grid->setSpecialValueText(tr("none"));
  grid->setToolTip(
      tr("Nothing leaves further off the axis than this. Honeycombs: 5 to 40\u00b0; fabric: about 40\u00b0."));
  losses_ = new QLabel(this);
  losses_->setWordWrap(true);
  losses_->setObjectName("losses");
  grid_->addWidget(losses_, 2, 0, 1, 4);
  grid_->setRowStretch(3, 1);
  grid_->setColumnStretch(1, 1);
  grid_->setColumnStretch(3, 1);
}

const Light* BuildCard::light() const { return document_->plan().light(selected_.toStdString()); }

template <class F>
void BuildCard::edit(const QString& label, const QString& key, F change) {
  if (!light()) return;
  Light l = *light();
  change(l);
  document_->perform(SetLight{l}, label, key.isEmpty() ? key : "card-" + key + selected_);
}

double BuildCard::stopsUnderFromRatioText(const QString& text) {
  // A plain number of stops is meant as such whatever school leads.
  const bool stops = text.contains(QStringLiteral("stop"));
  return readRatio(text.toStdString(), stops ? RatioSchool::StopsUnder : Preferences::current().ratios);
}

void BuildCard::setSelected(const QString& id) {
  selected_ = id;
  refresh();
}
void BuildCard::setAnswers(std::shared_ptr<const Answers> answers) {
  answers_ = std::move(answers);
  refresh();
}

QString BuildCard::lossesText() const {
  const Modifier* m = light() ? findModifier(light()->modifier) : nullptr;
  const Unit* u = light() ? findUnit(light()->unit) : nullptr;
  if (!m || !u) return {};
  const auto lost = losses(*m, light()->fittings, u->kelvin);
  if (lost.empty()) return tr("Nothing is on it: it gives what the modifier passes.");
  QStringList parts;
  double sum = 0;
  for (const auto& [name, stops] : lost) {
    parts << QStringLiteral("%1 %2").arg(QString::fromStdString(name)).arg(stops, 0, 'f', 1);
    sum += stops;
  }
  return tr("Lost on the axis: %1 = %2 stops.").arg(parts.join(QStringLiteral(" + "))).arg(sum, 0, 'f', 1);
}

void BuildCard::refresh() {
  Card::refresh();
  setEnabled(light() != nullptr);
  facts_->clear();
  advice_->clear();
  losses_->setText(lossesText());
  const LightAnswer* r = light() && answers_ ? answers_->light(light()->id) : nullptr;
  if (!r) return;
  auto degreesText = [](double d) { return QStringLiteral("%1\u00b0").arg(std::abs(d), 0, 'f', 0); };
  facts_->setText((r->elevation < -0.5 ? tr("%1 from the face, %2 below it, looks %3 wide.")
                                       : tr("%1 from the face, %2 above it, looks %3 wide."))
                      .arg(lengthText(r->distance), degreesText(r->elevation), degreesText(r->apparentSize)));
  if (r->spot == "face" && r->backdropStops > -12)
    facts_->setText(facts_->text() +
                    tr(" Alone it puts the backdrop %1 stops from the face.").arg(shortStops(r->backdropStops)));
  // The ratio to the key in the three schools, as it is metered, not as it is wished.
  if (light()->role != Role::Key)
    for (const Light& k : document_->plan().lights)
      if (const LightAnswer* key = k.role == Role::Key ? answers_->light(k.id) : nullptr;
          key && key->alone.total() > 0 && r->alone.total() > 0) {
        const double under = key->stopsFromWorking - r->stopsFromWorking;
        facts_->setText(facts_->text() +
                        tr("\nMetered on the %1 against key %2: %3; unit to unit %4; lit to shadow side %5.")
                            .arg(QString::fromStdString(r->spot), QString::fromStdString(k.id),
                                 QString::fromStdString(writeRatio(under, RatioSchool::StopsUnder)),
                                 QString::fromStdString(writeRatio(under, RatioSchool::UnitToUnit)),
                                 QString::fromStdString(writeRatio(under, RatioSchool::LitToShadow))));
        break;
      }
  // Cross-talk: what the others add where this one is metered.
  QStringList others;
  for (const auto& [id, stops] : r->others)
    if (const Light* o = document_->plan().light(id); o && o->on && stops > -5)
      others << tr("%1 %2").arg(QString::fromStdString(id), shortStops(stops));
  if (!others.isEmpty() && r->alone.total() > 0)
    facts_->setText(facts_->text() +
                    tr("\nAt its spot the others come to, against it: %1. Together %2 stops over it alone.")
                        .arg(others.join(QStringLiteral(", ")), shortStops(r->togetherStops - r->stopsFromWorking)));
  if (r->setting.shortfall != 0) {
    QString text = r->setting.shortfall > 0
                       ? tr("%1 stops too weak at full power: ").arg(r->setting.shortfall, 0, 'f', 1)
                       : tr("%1 stops too strong at lowest power: ").arg(-r->setting.shortfall, 0, 'f', 1);
    for (const std::string& s : remedies(document_->plan(), *light(), *r, Preferences::current().metres))
      text += QString::fromStdString(s) + " ";
    advice_->setText(text);
  }
}

}  // namespace easel::app
