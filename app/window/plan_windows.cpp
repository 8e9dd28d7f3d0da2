#include "window/plan_windows.h"

#include <QApplication>

#include "day/day_window.h"
#include "window/main_window.h"

namespace easel::app {
namespace {

template <class Window>
std::vector<Window*> windowsOf() {
  std::vector<Window*> all;
  for (QWidget* w : QApplication::topLevelWidgets())
    if (auto* one = qobject_cast<Window*>(w)) all.push_back(one);
  return all;
}

// Whichever window is there: the one that asked may be closed by then.
void openLook(const Plan& plan, const std::filesystem::path& file) {
  MainWindow* here = nullptr;
  for (MainWindow* open : planWindows())
    if (open->isVisible()) here = open;
  if (!here) here = newPlanWindow();
  if (file.empty())
    here->files()->openUntitled(plan);
  else
    here->files()->openWanted(file, plan);
}

}  // namespace

std::vector<MainWindow*> planWindows() { return windowsOf<MainWindow>(); }

MainWindow* newPlanWindow() {
  auto* window = new MainWindow;
  window->setAttribute(Qt::WA_DeleteOnClose);
  window->show();
  return window;
}

DayWindow* dayWindow() {
  const auto all = windowsOf<DayWindow>();
  return all.empty() ? nullptr : all.front();
}

DayWindow* openDayWindow(bool quiet) {
  DayWindow* window = dayWindow();
  if (!window) {
    window = new DayWindow([] {
      std::vector<DayWindow::OpenPlan> all;
      for (MainWindow* w : planWindows())
        all.push_back({w->document()->displayName(), w->document()->plan(), w->document()->path()});
      return all;
    });
    window->setAttribute(Qt::WA_DeleteOnClose);
    window->setQuiet(quiet);
    QObject::connect(window, &DayWindow::planWanted, qApp, &openLook);
    window->recoverUnsaved();
  }
  window->show();
  window->raise();
  window->activateWindow();
  return window;
}

}  // namespace easel::app
