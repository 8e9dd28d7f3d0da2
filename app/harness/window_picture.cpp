#include "harness/window_picture.h"

#include <QAction>
#include <QApplication>
#include <QCheckBox>
#include <QFile>
#include <QLineEdit>
#include <QTimer>
#include <cstdio>

#include "controllers/device_run.h"
#include "day/day_window.h"
#include "metering/run_card.h"
#include "read/read_card.h"
#include "widgets/wording.h"
#include "window/main_window.h"
#include "window/plan_windows.h"

namespace easel::app {

WindowPicture::WindowPicture(MainWindow& window, const QCommandLineParser& options)
    : QObject(&window),
      window_(window),
      options_(options),
      // Empty: begin, and look at the end.
      answers_(options.isSet("run") ? QStringList{{}} + options.value("run").split(',') : QStringList()),
      keys_(options.value("press").split(',', Qt::SkipEmptyParts)),
      run_(window.findChild<MeteringRun*>()),
      runCard_(window.findChild<RunCard*>()),
      devices_(window.findChild<DeviceRun*>()) {}

bool WindowPicture::writable(const QString& file) {
  QFile out(file);
  const bool stood = out.exists();
  if (!out.open(QIODevice::ReadWrite)) {
    std::fprintf(stderr, "jolly-easel: %s could not be written.\n", qPrintable(file));
    return false;
  }
  out.close();
  if (!stood) out.remove();
  return true;
}

void WindowPicture::start() {
  Preferences::current().textPoints = std::clamp(options_.value("text").toInt(), 8, 20);
  window_.showStage(options_.value("stage"));
  if (options_.isSet("far")) window_.setFar(true);
  if (options_.isSet("fill")) window_.arranged()->toggle(options_.value("fill"));
  if (options_.isSet("page")) window_.showPage(options_.value("page"));
  if (auto* box = window_.findChild<QCheckBox*>("runJournal")) box->setChecked(false);
  if (options_.isSet("run")) startRun();
  if (options_.isSet("day")) return startDay();
  if (options_.isSet("sheet")) return startSheet();
  if (options_.isSet("journal")) {
    window_.side()->openJournal();
    if (options_.isSet("page")) window_.side()->journal()->showPage(options_.value("page"));
    return whenReady([this] { return !window_.side()->journal()->working(); }, window_.side()->journal());
  }
  if (options_.isSet("shelf")) {
    window_.show();
    window_.side()->openLooks();
    return whenReady([this] { return !window_.side()->looks()->working(); }, window_.side()->looks());
  }
  startMain();
}

void WindowPicture::startRun() {
  connect(devices_, &DeviceRun::changed, this, &WindowPicture::runAnswered, Qt::QueuedConnection);
  connect(run_, &MeteringRun::changed, this, &WindowPicture::runAnswered, Qt::QueuedConnection);
}

void WindowPicture::startMain() {
  connect(window_.renderLink(), &RenderLink::arrived, this, &WindowPicture::mainArrived);
  window_.show();
}

void WindowPicture::startDay() {
  window_.openDay(std::filesystem::path(options_.value("day").toStdString()));
  auto* day = dayWindow();
  if (!options_.isSet("press")) day->desk()->setClock([] { return 10 * 3600.0 + 20 * 60; });
  if (options_.isSet("page")) day->showPage(options_.value("page"));
  whenReady([day] { return !day->working() && day->desk()->current(); }, day);
}

void WindowPicture::startSheet() {
  window_.side()->openSheet();
  window_.side()->sheet()->choose(options_.value("sheet"));
  connect(
      window_.side()->sheet(), &SheetDialog::arrived, this,
      [this] {
        // The text stands first; the pages follow.
        if (window_.side()->sheet()->pageCount() > 0) grab(*window_.side()->sheet());
      },
      Qt::QueuedConnection);
  window_.show();
}

void WindowPicture::whenReady(std::function<bool()> ready, QWidget* what) {
  auto* tick = new QTimer(this);
  connect(tick, &QTimer::timeout, this, [this, ready = std::move(ready), what] {
    if (ready()) grab(*what);
  });
  tick->start(200);
}

bool WindowPicture::runAnswered() {
  if (options_.isSet("simulate") && DeviceHub::current().devices().size() < 3) return false;
  if (!runCard_ || run_->working() || devices_->waiting()) return false;
  if (answers_.isEmpty()) return true;
  runCard_->findChild<QLineEdit*>("runSaid")->setText(answers_.takeFirst());
  runCard_->pressKey();
  return false;
}

void WindowPicture::mainArrived() {
  const auto& r = window_.renderLink()->latest();
  const bool good = r->done || (r->passes >= (options_.isSet("hasty") ? 1 : 16) && r->layers->current);
  if (!window_.renderLink()->upToDate() || !good || (options_.isSet("page") && !r->quality) ||
      (window_.findChild<ReadCard*>()->isVisible() && !window_.findChild<ReadCard*>()->reading()))
    return;
  if (!runAnswered()) return;
  if (options_.isSet("press") && r->prints.empty()) return;  // the ledge follows with the next one
  if (!keys_.isEmpty()) {
    const QKeySequence key(keys_.takeFirst());
    for (QAction* a : window_.findChildren<QAction*>())
      if (a->shortcut() == key) a->trigger();
    return;
  }
  if (!r->problem.empty()) {
    std::fprintf(stderr, "jolly-easel: %s\n", r->problem.c_str());
    status_ = 2;
  }
  disconnect(window_.renderLink(), nullptr, this, nullptr);
  QTimer::singleShot(50, this, [this] { grab(window_); });
}

void WindowPicture::grab(QWidget& of) {
  const QString file = options_.value("picture");
  if (!of.grab().save(file)) {
    std::fprintf(stderr, "jolly-easel: %s could not be written.\n", qPrintable(file));
    status_ = 2;
  }
  QApplication::exit(status_);
}

}  // namespace easel::app
