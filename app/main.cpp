// jolly-easel [PLAN] [--picture FILE.png ...]: harness/command_line.h
#include <QApplication>
#include <QCommandLineParser>
#include <QElapsedTimer>
#include <QPointer>
#include <QSettings>
#include <csignal>
#include <cstdio>

#include "harness/command_line.h"
#include "harness/timing.h"
#include "harness/window_picture.h"
#include "widgets/language.h"
#include "widgets/theme.h"
#include "widgets/watched_application.h"
#include "window/main_window.h"

namespace easel::app {
namespace {

// Windows that are open when the program ends go before the application does.
struct EndOfWindows {
  ~EndOfWindows() {
    QList<QPointer<QWidget>> all;  // a window takes its dialogs along
    for (QWidget* w : QApplication::topLevelWidgets()) all << w;
    for (const QPointer<QWidget>& w : all)
      if (w && (w->inherits("easel::app::MainWindow") || w->inherits("easel::app::DayWindow"))) delete w;
  }
};

// Without a screen there are pictures only.
bool screenOrPicture(bool picture) {
  if (!qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM")) return true;
  if (picture) return qputenv("QT_QPA_PLATFORM", "offscreen");
  if (!qEnvironmentVariableIsEmpty("DISPLAY") || !qEnvironmentVariableIsEmpty("WAYLAND_DISPLAY")) return true;
  std::fprintf(
      stderr, "jolly-easel: there is no display here. Use --picture FILE.png to write a picture of the main window.\n");
  return false;
}

void simulateDevices(MainWindow& window, const QCommandLineParser& options, bool quiet) {
  if (!options.isSet("simulate")) return;
  for (const auto kind : {DeviceKind::Meter, DeviceKind::Trigger, DeviceKind::Camera})
    if (!DeviceHub::current().simulate(kind, options.value("simulate").toULongLong(), {}, quiet))
      window.showNotice(DeviceHub::current().problem(), true);
}

// Nobody is at the window yet: the plan is there before anything is looked at.
int forPictureOrTiming(MainWindow& window, const QCommandLineParser& options, WatchedApplication& application,
                       const QElapsedTimer& clock) {
  window.setQuiet(true);
  const QStringList size = options.value("size").split('x');
  if (size.size() == 2) window.resize(size[0].toInt(), size[1].toInt());
  Timing timing(window, application, clock);
  WindowPicture picture(window, options);
  if (options.isSet("timing"))
    timing.start();
  else
    picture.start();
  return QApplication::exec();
}

}  // namespace
}  // namespace easel::app

int main(int argc, char** argv) {
  using namespace easel::app;
  QElapsedTimer clock;
  clock.start();
  std::signal(SIGXFSZ, SIG_IGN);  // a file that may not grow further is an error of writing, told in a sentence
  bool picture = false;
  for (int i = 1; i < argc; ++i) picture |= QByteArray(argv[i]).startsWith("--picture");
  if (!screenOrPicture(picture)) return 2;
  WatchedApplication application(argc, argv);
  QApplication::setOrganizationName("jolly-easel");
  QApplication::setApplicationName("jolly-easel");
  QApplication::setApplicationVersion(EASEL_VERSION);
  QApplication::setDesktopFileName("org.jollyeasel.JollyEasel");

  speakLanguageOf(QLocale());
  QCommandLineParser options;
  addOptions(options);
  options.process(application);

  Theme::apply(application, picture ? options.isSet("dim") : QSettings().value("theme/dim", false).toBool());
  // On the heap as every other window: one that was closed is gone, and its file can be opened again.
  auto* const first = new MainWindow;
  MainWindow& window = *first;
  const EndOfWindows end;
  simulateDevices(window, options, picture);
  const auto files = namedFiles(options, argc, argv);
  const bool day = !files.empty() && files.front().string().ends_with(".day.json");
  if (picture || options.isSet("timing")) {
    if (!files.empty() && !day && !window.files()->openFile(files.front()) && picture) {
      std::fprintf(stderr, "jolly-easel: %s\n", qPrintable(window.notice()));
      return 2;
    }
    if (picture && !WindowPicture::writable(options.value("picture"))) return 2;
    return forPictureOrTiming(window, options, application, clock);
  }
  // A plan that is named is the plan that opens; what an earlier session left is offered beside it.
  if (!files.empty() && !day) window.files()->openWanted(files.front());
  window.files()->recoverUnsaved(files.empty());
  window.setAttribute(Qt::WA_DeleteOnClose);
  window.show();
  if (day) window.files()->openWanted(files.front());
  for (size_t i = 1; i < files.size(); ++i) window.files()->openWanted(files[i]);
  return QApplication::exec();
}
