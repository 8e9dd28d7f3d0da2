#include "widgets/wording.h"

#include <QCoreApplication>
#include <QSettings>
#include <algorithm>
#include <cmath>

#include "plan/pose.h"
#include "plan/roles.h"
#include "spoken/clock.h"

namespace easel::app {
namespace {
QString tr(const char* text) { return QCoreApplication::translate("wording", text); }
}  // namespace

Preferences& Preferences::current() {
  static Preferences p;
  return p;
}
void Preferences::load() {
  QSettings s;
  metres = s.value("units/metres", true).toBool();
  apertures = s.value("units/thirds", false).toBool() ? ApertureStyle::Thirds : ApertureStyle::Tenths;
  textPoints = std::clamp(s.value("text/points", 10).toInt(), 8, 20);
  ratios = RatioSchool(std::clamp(s.value("units/ratios", 0).toInt(), 0, 2));
}
void Preferences::save() const {
  QSettings s;
  s.setValue("units/metres", metres);
  s.setValue("units/thirds", apertures == ApertureStyle::Thirds);
  s.setValue("units/ratios", int(ratios));
  s.setValue("text/points", int(textPoints));
}

QString lightText(const Light& l) {
  // Names given by proposals ("Fill, opposite the key") say how the light got there; a name of the user's own leads.
  const QString name = QString::fromStdString(l.name), role = roleText(l.role);
  const bool given =
      name.startsWith(role + u',', Qt::CaseInsensitive) ||
      std::any_of(roleSchools().begin(), roleSchools().end(), [&](const RoleSchool& s) { return s.name == l.name; });
  return name.isEmpty() || name.compare(role, Qt::CaseInsensitive) == 0 || given ? role : name;
}

QString lengthText(double metres) { return QString::fromStdString(Preferences::current().spelling().length(metres)); }
QString apertureText(double n) { return QString::fromStdString(writeAperture(n, Preferences::current().apertures)); }

QString shortStops(double stops) {
  if (!std::isfinite(stops) || stops < -30) return QStringLiteral("--");
  const QString amount = QString::fromStdString(Preferences::current().spelling().amount(stops));
  if (amount == QLatin1String("0")) return amount;
  return (stops > 0 ? QStringLiteral("+") : QStringLiteral("\u2212")) + amount;
}
QString readingText(double fNumber) {
  return fNumber < 0.7 ? QCoreApplication::translate("wording", "nothing") : apertureText(fNumber);
}
QString stopsText(double stops) {
  if (!std::isfinite(stops) || stops < -30) return tr("no light");
  const QString amount = QString::fromStdString(Preferences::current().spelling().amount(stops));
  if (amount == QLatin1String("0")) return tr("spot on");
  const bool one = std::abs(stops) < 1.05;
  return (stops > 0 ? one ? tr("%1 stop over") : tr("%1 stops over")
          : one ? tr("%1 stop under")
                    : tr("%1 stops under"))
      .arg(amount);
}
QString howManyStops(double stops) {
  const QString amount = QString::fromStdString(Preferences::current().spelling().amount(stops));
  return (std::abs(stops) < 1.05 ? tr("%1 stop") : tr("%1 stops")).arg(amount);
}
QString roleText(Role role) {
  switch (role) {
    case Role::Key:
      return tr("Key");
    case Role::Fill:
      return tr("Fill");
    case Role::Hair:
      return tr("Hair");
    case Role::Rim:
      return tr("Rim");
    case Role::Kicker:
      return tr("Kicker");
    case Role::Background:
      return tr("Background");
    case Role::Other:
      return tr("Other");
  }
  return {};
}
QString surfaceText(Surface s) {
  switch (s) {
    case Surface::Skin:
      return tr("skin");
    case Surface::Eye:
    case Surface::Cornea:
      return tr("eye");
    case Surface::Lash:
      return tr("lashes");
    case Surface::Hair:
      return tr("hair");
    case Surface::Cloth:
      return tr("cloth");
    case Surface::Backdrop:
      return tr("backdrop");
    case Surface::Floor:
      return tr("floor");
    case Surface::Wall:
      return tr("wall");
    case Surface::Piece:
      return tr("piece of the set");
    case Surface::Panel:
      return tr("board");
    case Surface::Scrim:
      return tr("scrim");
    case Surface::Brow:  // strands of hair in a scene
    case Surface::Lens:
    case Surface::Nothing:
      break;
  }
  return {};
}
QString panelText(const Panel& p) { return QString::fromStdString(called(p)); }
QString unitText(const Light& l) {
  const Unit* u = findUnit(l.unit);
  return u ? QString::fromStdString(u->name) : QString::fromStdString(l.unit);
}
QString modifierText(const Light& l) {
  const Modifier* m = findModifier(l.modifier);
  return m ? QString::fromStdString(m->name) : QString::fromStdString(l.modifier);
}
QString powerText(const Light& l) { return powerText(l, l.power); }
QString powerText(const Light& l, double stops) {
  const Unit* u = findUnit(l.unit);
  return u ? QString::fromStdString(Preferences::current().spelling().power(u->scale, stops)) : QString();
}
QString hourText(double hour) { return QString::fromStdString(writeClock(hour)); }

}  // namespace easel::app
