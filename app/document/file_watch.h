// Tells when one of some files or folders has changed. Watching a path touches the disk, so it is done on one thread
// that all watches share. Interface thread.
#pragma once

#include <QFileSystemWatcher>
#include <QObject>
#include <QStringList>

namespace easel::app {

/// The part on the shared thread.
class FileWatcher : public QObject {
  Q_OBJECT

 public:
  FileWatcher();
  void watch(const QStringList& paths);

 signals:
  void changed();
  void watching(const QStringList& paths, const QStringList& without);

 private:
  QFileSystemWatcher watcher_{this};
};

class FileWatch : public QObject {
  Q_OBJECT

 public:
  explicit FileWatch(QObject* parent = nullptr);
  ~FileWatch() override;
  /// These from now on, and no others. Ends in watching(): what happens after it is told. What does not exist or cannot
  /// be read is `without`, until the next call.
  void watch(const QStringList& paths);

 signals:
  void changed();
  void watching(const QStringList& paths, const QStringList& without);

 private:
  FileWatcher* watcher_;
};

}  // namespace easel::app
