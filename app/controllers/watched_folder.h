// A folder that some other program puts pictures into as they are taken: the newest is shown as it arrives. Pictures
// that were there before are left alone. Reading is done on another thread. Interface thread.
#pragma once

#include <QFileSystemWatcher>
#include <QImage>
#include <QObject>
#include <QSet>
#include <QTimer>

#include "formats/photograph.h"
#include "render/errand.h"

namespace easel::app {

/// What this installation can read of photographs; drawings are programs, and are not run in here.
QList<QByteArray> photographFormats();
/// Whole, turned as it was held, at most 1600 pixels a side; null, with `why`, when it is none.
QImage readPhotograph(const QString& file, QString* why);

class WatchedFolder : public QObject {
  Q_OBJECT

 public:
  explicit WatchedFolder(QObject* parent = nullptr);
  /// Empty: none. False when it cannot be watched.
  bool watch(const QString& folder);
  const QString& folder() const { return folder_; }

 signals:
  void arrived(const QString& file, const QImage& picture, const easel::PhotographSettings& settings);
  void failed(const QString& sentence);

 private:
  void look();
  QFileSystemWatcher watcher_;
  QTimer again_;
  Errand errand_;
  QString folder_, growing_;
  qint64 size_ = -1;
  QSet<QString> known_;
};

}  // namespace easel::app
