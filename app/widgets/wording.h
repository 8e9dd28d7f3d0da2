// Numbers as photographers say them, in the units that the user has chosen.
#pragma once

#include <QString>

#include "exposure/aperture.h"
#include "exposure/ratio.h"
#include "exposure/spelling.h"
#include "gear/kit.h"
#include "plan/plan.h"
#include "sitters/sitter.h"

namespace easel::app {

/// The user's choices; kept in QSettings.
struct Preferences {
  bool metres = true;
  ApertureStyle apertures = ApertureStyle::Tenths;
  RatioSchool ratios = RatioSchool::UnitToUnit;  ///< the school that leads
  Spelling spelling() const { return {metres ? LengthUnit::Metres : LengthUnit::Feet, apertures}; }
  double textPoints = 10;  ///< of the text in a window of 1280x800
  static Preferences& current();
  void load();
  void save() const;
};

QString lengthText(double metres);     ///< "1.32 m" or "4 ft 4 in"
QString apertureText(double fNumber);  ///< in the chosen style
QString readingText(double fNumber);   ///< the same, or "nothing" where a meter shows none
QString stopsText(double stops);       ///< "0.3 stop under", "1.7 stops over", "spot on"
QString shortStops(double stops);      ///< "-0.3", "+1.7", "0"
QString howManyStops(double stops);    ///< "0.3 stop", "1.7 stops", without a sign
QString roleText(Role role);
QString lightText(const Light& light);  ///< its own name where it has one that is not just the role's, else the role
QString surfaceText(Surface surface);
QString unitText(const Light& light);
/// "board 3", "table 3".
QString panelText(const Panel& panel);
QString modifierText(const Light& light);
QString powerText(const Light& light);                ///< in the unit's own scale
QString powerText(const Light& light, double stops);  ///< of its unit; empty when that is unknown
QString hourText(double hour);                        ///< "4:30"

}  // namespace easel::app
