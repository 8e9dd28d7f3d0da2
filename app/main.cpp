// jolly-easel [PLAN] [--picture FILE.png [--size WxH] [--stage N] [--page NAME] [--dim]]
#include <QAction>
#include <QApplication>
#include <QCheckBox>
#include <QCommandLineParser>
#include <QElapsedTimer>
#include <QFile>
#include <QFileInfo>
#include <QLineEdit>
#include <QPointer>
#include <QSettings>
#include <QTimer>
#include <csignal>
#include <cstdio>
#include <filesystem>
#include <vector>

#include "controllers/device_run.h"
#include "metering/run_card.h"
#include "widgets/language.h"
#include "widgets/theme.h"
#include "widgets/watched_application.h"
#include "widgets/wording.h"
#include "window/main_window.h"

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

}  // namespace

int main(int argc, char** argv) {
  using namespace easel::app;
  QElapsedTimer clock;
  clock.start();
  std::signal(SIGXFSZ, SIG_IGN);  // a file that may not grow further is an error of writing, told in a sentence
  bool picture = false;
  for (int i = 1; i < argc; ++i) picture |= QByteArray(argv[i]).startsWith("--picture");
  if (picture && qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
  if (!picture && qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM") && qEnvironmentVariableIsEmpty("DISPLAY") &&
      qEnvironmentVariableIsEmpty("WAYLAND_DISPLAY")) {
    std::fprintf(
        stderr,
        "jolly-easel: there is no display here. Use --picture FILE.png to write a picture of the main window.\n");
    return 2;
  }
  WatchedApplication application(argc, argv);
  QApplication::setOrganizationName("jolly-easel");
  QApplication::setApplicationName("jolly-easel");
  QApplication::setApplicationVersion(EASEL_VERSION);
  QApplication::setDesktopFileName("org.jollyeasel.JollyEasel");

  speakLanguageOf(QLocale());
  QCommandLineParser options;
  options.setApplicationDescription(
      QApplication::translate("main", "Plans multi-light studio portraits and predicts the picture."));
  options.addHelpOption();
  options.addVersionOption();
  options.addPositionalArgument("plan", QApplication::translate("main", "Plan, day or sheet to open."));
  options.addOption({"picture", "Write a picture of the main window to FILE and end.", "FILE"});
  options.addOption({"size", "Window size for --picture.", "WxH", "1280x800"});
  options.addOption({"stage", "Stage for --picture: Set, Build, Meter, Run or Read, or its number from 0.", "N", "1"});
  options.addOption({"page", "Page of the Build or Read card for --picture, by its name.", "NAME"});
  options.addOption({"shelf", "The shelf of looks for --picture, instead of the main window."});
  options.addOption({"simulate", "Start a simulated meter, trigger and camera in the studio of that number.", "N"});
  options.addOption({"day", "A shooting day for --picture, instead of the main window.", "FILE"});
  options.addOption({"sheet", "The plan's sheet for --picture: whole, stand or growing.", "KIND"});
  options.addOption({"journal", "The journal for --picture, instead of the main window."});
  options.addOption({"text", "Size of the text in points for --picture.", "N", "10"});
  options.addOption({"fill", "One view fills the window for --picture: easel, dial, rail, ladder.", "NAME"});
  options.addOption({"press", "Keys of the menus to press before --picture, one after the other: K,F8,W.", "KEYS"});
  options.addOption({"run",
                     "Begin a metering run for --picture and answer its steps: \"nothing,,f/8\"; empty: the key.",
                     "READINGS"});
  options.addOption({"far", "The arrangement for reading from a distance, for --picture."});
  options.addOption({"hasty", "Take the picture of the window as soon as everything stands in it, however young."});
  options.addOption({"dim", "Dim studio theme for --picture."});
  options.addOption({"timing", "Print when the first picture stood, and end."});
  options.process(application);

  Theme::apply(application, picture ? options.isSet("dim") : QSettings().value("theme/dim", false).toBool());
  // On the heap as every other window: one that was closed is gone, and its file can be opened again.
  auto* const first = new MainWindow;
  MainWindow& window = *first;
  const EndOfWindows end;
  if (options.isSet("simulate"))
    for (const auto kind : {easel::DeviceKind::Meter, easel::DeviceKind::Trigger, easel::DeviceKind::Camera})
      if (!easel::app::DeviceHub::current().simulate(kind, options.value("simulate").toULongLong(), {}, picture))
        window.showNotice(easel::app::DeviceHub::current().problem(), true);
  // The names as bytes: they need not be text.
  std::vector<std::filesystem::path> files;
  for (const QString& file : options.positionalArguments())
    for (int i = 1; i < argc; ++i)
      if (QString::fromLocal8Bit(argv[i]) == file) {
        files.emplace_back(argv[i]);
        break;
      }
  const bool day = !files.empty() && files.front().string().ends_with(".day.json");
  // For a picture, and for timing, nobody is at the window yet: what follows needs the plan.
  const bool atOnce = picture || options.isSet("timing");
  const bool opened = files.empty() || day || !atOnce || window.openFile(files.front());
  if (!files.empty() && !day && !atOnce) window.openWanted(files.front());
  // A plan that is named is the plan that opens; what an earlier session left is offered beside it.
  if (!atOnce) window.recoverUnsaved(files.empty());
  if (!opened && picture) {
    std::fprintf(stderr, "jolly-easel: %s\n", qPrintable(window.notice()));
    return 2;
  }
  if (picture) {
    // Asked before minutes are spent on it.
    QFile out(options.value("picture"));
    const bool stood = out.exists();
    if (!out.open(QIODevice::ReadWrite)) {
      std::fprintf(stderr, "jolly-easel: %s could not be written.\n", qPrintable(out.fileName()));
      return 2;
    }
    out.close();
    if (!stood) out.remove();
  }
  if (atOnce) {
    window.setQuiet(true);
    const QStringList size = options.value("size").split('x');
    if (size.size() == 2) window.resize(size[0].toInt(), size[1].toInt());
    if (picture) {
      Preferences::current().textPoints = std::clamp(options.value("text").toInt(), 8, 20);
      window.showStage(options.value("stage"));
      if (options.isSet("far")) window.setFar(true);
      if (options.isSet("fill")) window.fillOrGiveBack(options.value("fill"));
    }
    if (options.isSet("page")) window.showPage(options.value("page"));
    int status = 0, drags = -1;
    // What is said in a run, one after the other as it is judged; empty at the end of all.
    QStringList answers = options.isSet("run") ? QStringList{{}} + options.value("run").split(',') : QStringList();
    auto* run = window.findChild<easel::app::MeteringRun*>();
    auto* runCard = window.findChild<easel::app::RunCard*>();
    if (auto* box = window.findChild<QCheckBox*>("runJournal")) box->setChecked(false);
    const auto nothingAsked = [&] {
      const auto* devices = window.findChild<easel::app::DeviceRun*>();
      if (options.isSet("simulate") && easel::app::DeviceHub::current().devices().size() < 3) return false;
      if (!runCard || run->working() || devices->waiting()) return false;
      if (answers.isEmpty()) return true;
      auto* line = runCard->findChild<QLineEdit*>("runSaid");
      line->setText(answers.takeFirst());
      runCard->pressKey();
      return false;
    };
    if (options.isSet("run")) {
      QObject::connect(window.findChild<easel::app::DeviceRun*>(), &easel::app::DeviceRun::changed, &window,
                       nothingAsked, Qt::QueuedConnection);
      QObject::connect(run, &easel::app::MeteringRun::changed, &window, nothingAsked, Qt::QueuedConnection);
    }
    QStringList keys = options.value("press").split(',', Qt::SkipEmptyParts);
    if (picture && options.isSet("shelf")) {
      window.show();
      window.openLooks();
      auto* tick = new QTimer(&window);
      QObject::connect(tick, &QTimer::timeout, &window, [&] {
        if (window.looksDialog()->working()) return;
        const QString file = options.value("picture");
        if (!window.looksDialog()->grab().save(file)) {
          std::fprintf(stderr, "jolly-easel: %s could not be written.\n", qPrintable(file));
          status = 2;
        }
        application.exit(status);
      });
      tick->start(200);
      return application.exec() ? 2 : status;
    }
    if (picture && options.isSet("day")) {
      window.setQuiet(true);
      window.openDay(std::filesystem::path(options.value("day").toStdString()));
      auto* day = window.dayWindow();
      if (!options.isSet("press")) day->desk()->setClock([] { return 10 * 3600.0 + 20 * 60; });
      if (options.isSet("page")) day->showPage(options.value("page"));
      auto* tick = new QTimer(&window);
      QObject::connect(tick, &QTimer::timeout, &window, [&, day] {
        if (day->working() || !day->desk()->current()) return;
        if (!day->grab().save(options.value("picture"))) status = 2;
        application.exit(status);
      });
      tick->start(200);
      return application.exec() ? 2 : status;
    }
    if (picture && options.isSet("sheet")) {
      window.openSheet();
      window.sheetDialog()->choose(options.value("sheet"));
      QObject::connect(
          window.sheetDialog(), &easel::app::SheetDialog::arrived, &window,
          [&] {
            if (window.sheetDialog()->pageCount() == 0) return;  // the text stands; the pages follow
            if (!window.sheetDialog()->grab().save(options.value("picture"))) status = 2;
            application.exit(status);
          },
          Qt::QueuedConnection);
      window.show();
      return application.exec() ? 2 : status;
    }
    if (picture && options.isSet("journal")) {
      window.openJournal();
      if (options.isSet("page")) window.journalDialog()->showPage(options.value("page"));
      auto* tick = new QTimer(&window);
      QObject::connect(tick, &QTimer::timeout, &window, [&] {
        if (window.journalDialog()->working()) return;
        if (!window.journalDialog()->grab().save(options.value("picture"))) status = 2;
        application.exit(status);
      });
      tick->start(200);
      return application.exec() ? 2 : status;
    }
    QObject::connect(window.renderLink(), &RenderLink::arrived, &window, [&] {
      const auto& r = window.renderLink()->latest();
      if (options.isSet("timing")) {
        if (!window.renderLink()->upToDate() || r->picture.rgba.empty()) return;
        if (drags < 0) {
          std::printf("first picture after %lld ms\n", static_cast<long long>(clock.elapsed()));
          application.watch();
          drags = 0;
        }
        // Then a hand that drags: what the interface thread has to do for it must stay within 8 ms an event.
        if (drags < 60) {
          easel::Light l = window.document()->plan().lights.at(0);
          l.hour = 4 + 0.02 * ++drags;
          window.document()->perform(easel::SetLight{l}, "Drag", "drag");
          return;
        }
        std::printf("longest event of the interface thread in %d drags: %.1f ms (%s), %d over 8 ms\n", drags,
                    application.longest().milliseconds, qPrintable(application.longest().what), application.late());
        std::printf("%s", qPrintable(application.lateOnes(8)));
        QObject::disconnect(window.renderLink(), nullptr, &window, nullptr);
        // From the key to the window that is laid out and painted again; there and back, as the user's settings stay.
        for (const auto& [what, keys] : {std::pair{"the other theme", QKeySequence(Qt::CTRL | Qt::Key_D)},
                                         std::pair{"its own theme", QKeySequence(Qt::CTRL | Qt::Key_D)},
                                         std::pair{"larger text", QKeySequence(QKeySequence::ZoomIn)},
                                         std::pair{"smaller text", QKeySequence(QKeySequence::ZoomOut)}})
          for (QAction* a : window.findChildren<QAction*>())
            if (a->shortcut() == keys) {
              clock.restart();
              a->trigger();
              QApplication::sendPostedEvents();
              const auto laidOut = clock.elapsed();
              window.grab();
              std::printf("%s holds the window for %lld ms, %lld of them to paint all of it\n", what,
                          static_cast<long long>(clock.elapsed()), static_cast<long long>(clock.elapsed() - laidOut));
            }
        application.exit(0);
        return;
      }
      if (!window.renderLink()->upToDate() ||
          !(r->done || (r->passes >= (options.isSet("hasty") ? 1 : 16) && r->layers->current)) ||
          (options.isSet("page") && !r->quality) || (window.readCard()->isVisible() && !window.readCard()->reading()))
        return;
      if (!nothingAsked()) return;
      if (options.isSet("press") && r->prints.empty()) return;  // the ledge follows with the next one
      if (!keys.isEmpty()) {
        const QKeySequence key(keys.takeFirst());
        for (QAction* a : window.findChildren<QAction*>())
          if (a->shortcut() == key) a->trigger();
        return;
      }
      if (!r->problem.empty()) {
        std::fprintf(stderr, "jolly-easel: %s\n", r->problem.c_str());
        status = 2;
      }
      QTimer::singleShot(50, &window, [&] {
        const QString file = options.value("picture");
        if (!window.grab().save(file)) {
          std::fprintf(stderr, "jolly-easel: %s could not be written.\n", qPrintable(file));
          status = 2;
        }
        application.exit(status);
      });
      QObject::disconnect(window.renderLink(), &RenderLink::arrived, &window, nullptr);
    });
    window.show();
    return application.exec() ? 2 : status;
  }
  window.setAttribute(Qt::WA_DeleteOnClose);
  window.show();
  if (day) window.openDay(files.front());
  for (size_t i = 1; i < files.size(); ++i) window.openWanted(files[i]);
  return application.exec();
}
