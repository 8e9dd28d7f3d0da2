// Colours and fonts of the application: a light and a dim-studio theme, both neutral so that a picture can be judged.
#pragma once

#include <QColor>
#include <QFont>
#include <QString>

class QApplication;

namespace easel::app {

struct Theme {
  bool dim = false;
  QColor window, panel, line, text, quiet, accent, onAccent, surround, warn;

  static const Theme& current();
  /// Applies palette, style sheet and the shipped font.
  static void apply(QApplication& application, bool dim);
};

/// The shipped font in points.
QFont lettering(double points, bool strong = false);

}  // namespace easel::app
