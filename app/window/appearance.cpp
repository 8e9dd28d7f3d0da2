#include "window/appearance.h"

#include <QApplication>
#include <QDialog>
#include <QScreen>
#include <QSettings>
#include <algorithm>
#include <cmath>

#include "widgets/theme.h"
#include "widgets/wording.h"
#include "window/main_window.h"
#include "window/plan_windows.h"

namespace easel::app {

void setTheme(bool dim) {
  Theme::apply(*qApp, dim, Theme::current().scale);
  QSettings().setValue("theme/dim", dim);
  for (QWidget* w : QApplication::allWidgets()) w->update();
}

void fitType(const MainWindow& inUse) {
  const double room = std::clamp(std::min(inUse.width() / 1280.0, inUse.height() / 800.0), 1.0, 2.25);
  const double scale = std::floor(room * 8) / 8 * Preferences::current().textPoints / 10;
  const double before = Theme::current().scale;
  if (std::abs(scale - before) < 1e-3) return;
  Theme::apply(*qApp, Theme::current().dim, scale);
  // A dialog that was laid out for smaller type needs more room when it is opened again.
  for (QWidget* w : QApplication::topLevelWidgets())
    if (auto* dialog = qobject_cast<QDialog*>(w); dialog && scale > before)
      dialog->resize((dialog->size() * (scale / before)).boundedTo(dialog->screen()->availableSize()));
  for (MainWindow* window : planWindows()) window->typeChanged();
}

void applySpelling() {
  for (MainWindow* window : planWindows()) window->spellingChanged();
}

}  // namespace easel::app
