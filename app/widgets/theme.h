// Colours and fonts of the application: a light and a dim-studio theme, both neutral so that a picture can be judged.
#pragma once

#include <QColor>
#include <QFont>
#include <QString>

class QApplication;
class QWidget;

namespace easel::app {

struct Theme {
  bool dim = false;
  double scale = 1;  ///< of type and of all that is drawn beside it; 1 in a window of 1280x800
  QColor window, panel, line, text, quiet, accent, onAccent, surround, warn;
  QColor border;  ///< of what can be typed into or pressed: at least 3:1 on the grounds beside it

  static const Theme& current();
  /// Applies palette, style sheet and the shipped font.
  static void apply(QApplication& application, bool dim, double scale = 1);
};

/// After a change of the name or of a property that the style sheet looks at.
void restyle(QWidget* widget);

/// The shipped font in points: for what is painted in units of its own.
QFont lettering(double points, bool strong = false);
/// ... as large as it stands on the screen: for widgets.
QFont typeface(double points, bool strong = false);

}  // namespace easel::app
