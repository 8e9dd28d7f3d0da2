#include "document/file_watch.h"

#include <QCoreApplication>
#include <QFileInfo>
#include <QThread>

namespace easel::app {
namespace {

QThread* watchThread() {
  static QThread* const one = [] {
    auto* t = new QThread;
    t->start(QThread::LowPriority);
    // Its events go through the application, so it ends before that does; not waited for longer where a disk does not
    // answer.
    qAddPostRoutine([] {
      watchThread()->quit();
      watchThread()->wait(1000);
    });
    return t;
  }();
  return one;
}

}  // namespace

FileWatcher::FileWatcher() {
  connect(&watcher_, &QFileSystemWatcher::fileChanged, this, &FileWatcher::changed);
  connect(&watcher_, &QFileSystemWatcher::directoryChanged, this, &FileWatcher::changed);
}

void FileWatcher::watch(const QStringList& paths) {
  QStringList gone;
  for (const QString& f : watcher_.files() + watcher_.directories())
    if (!paths.contains(f)) gone << f;
  if (!gone.isEmpty()) watcher_.removePaths(gone);
  const QStringList now = watcher_.files() + watcher_.directories();
  QStringList without;
  for (const QString& f : paths)
    if (!now.contains(f) && !(QFileInfo::exists(f) && watcher_.addPath(f))) without << f;
  emit watching(paths, without);
}

FileWatch::FileWatch(QObject* parent) : QObject(parent), watcher_(new FileWatcher) {
  watcher_->moveToThread(watchThread());
  connect(watcher_, &FileWatcher::changed, this, &FileWatch::changed);
  connect(watcher_, &FileWatcher::watching, this, &FileWatch::watching);
}

FileWatch::~FileWatch() { watcher_->deleteLater(); }

void FileWatch::watch(const QStringList& paths) {
  QMetaObject::invokeMethod(watcher_, [w = watcher_, paths] { w->watch(paths); });
}

}  // namespace easel::app
