#include "controllers/watched_folder.h"

#include <QDir>
#include <QImageReader>

namespace easel::app {

QList<QByteArray> photographFormats() {
  QList<QByteArray> out;
  for (const QByteArray& format : QImageReader::supportedImageFormats())
    if (format != "svg" && format != "svgz" && format != "pdf") out << format;
  return out;
}

QImage readPhotograph(const QString& file, QString* why) {
  QImageReader reader(file);
  reader.setAutoTransform(true);
  QImage picture;
  if (photographFormats().contains(reader.format())) {
    if (const QSize size = reader.size(); size.isValid() && (size.width() > 1600 || size.height() > 1600))
      reader.setScaledSize(size.scaled(1600, 1600, Qt::KeepAspectRatio));
    picture = reader.read();
  }
  *why = reader.error() ? reader.errorString() : WatchedFolder::tr("its kind is not one that is read here");
  return picture;
}

WatchedFolder::WatchedFolder(QObject* parent) : QObject(parent) {
  again_.setSingleShot(true);
  again_.setInterval(250);
  connect(&watcher_, &QFileSystemWatcher::directoryChanged, this, &WatchedFolder::look);
  connect(&again_, &QTimer::timeout, this, &WatchedFolder::look);
  connect(&errand_, &Errand::failed, this, &WatchedFolder::failed);
}

bool WatchedFolder::watch(const QString& folder) {
  if (!watcher_.directories().isEmpty()) watcher_.removePaths(watcher_.directories());
  known_.clear();
  growing_.clear();
  folder_.clear();
  if (folder.isEmpty()) return true;
  if (!watcher_.addPath(folder)) return false;
  folder_ = folder;
  for (const QFileInfo& f : QDir(folder).entryInfoList(QDir::Files)) known_ << f.fileName();
  return true;
}

void WatchedFolder::look() {
  QFileInfo newest;
  for (const QFileInfo& f : QDir(folder_).entryInfoList(QDir::Files, QDir::Time)) {
    if (known_.contains(f.fileName()) || !photographFormats().contains(f.suffix().toLower().toLatin1())) continue;
    newest = f;
    break;
  }
  if (newest.fileName().isEmpty()) return;
  // It arrives in pieces: whole when it has not grown since the last look.
  if (newest.fileName() != growing_ || newest.size() != size_ || size_ == 0) {
    growing_ = newest.fileName();
    size_ = newest.size();
    again_.start();
    return;
  }
  for (const QFileInfo& f : QDir(folder_).entryInfoList(QDir::Files)) known_ << f.fileName();
  growing_.clear();
  const QString file = newest.absoluteFilePath();
  errand_.start([this, file](const Errand::Go&) -> Errand::Done {
    QString why;
    const QImage picture = readPhotograph(file, &why);
    if (picture.isNull())
      return [this, file, why] {
        emit failed(tr("%1 is no picture that can be shown: %2.").arg(QFileInfo(file).fileName(), why));
      };
    PhotographSettings settings;
    try {
      settings = settingsOfPhotograph(QFile::encodeName(file).toStdString());
    } catch (const std::exception&) {  // a picture that does not say how it was taken is a picture all the same
    }
    return [this, file, picture, settings] { emit arrived(file, picture, settings); };
  });
}

}  // namespace easel::app
