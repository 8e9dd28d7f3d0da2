#include "controllers/watched_folder.h"

#include <QDateTime>
#include <QDir>
#include <QImageReader>
#include <algorithm>
#include <exception>
#include <utility>

#include "document/state_folder.h"
#include "files/atomic_file.h"

namespace easel::app {
namespace {

// A picture that is still being written is tried again at longer and longer intervals, some two minutes in all; after
// that only when its file changes once more.
constexpr int kFirstWait = 250, kLongestWait = 8000, kMostTries = 24, kSaidAfter = 4;  // ms, ms

}  // namespace

QList<QByteArray> photographFormats() {
  QList<QByteArray> out;
  for (const QByteArray& format : QImageReader::supportedImageFormats())
    if (format != "svg" && format != "svgz" && format != "pdf") out << format;
  return out;
}

QImage readPhotograph(const QString& name, QString* why) {
  try {
    requireOrdinary(pathOf(name));
  } catch (const std::exception& e) {
    *why = QString::fromUtf8(e.what());
    return {};
  }
  QImageReader reader(name);
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

// What has been seen in the folder: the strand's alone.
struct WatchedFolder::Seen {
  QString folder;
  QSet<QString> known;
  QString growing;
  qint64 size = -1;
};

WatchedFolder::WatchedFolder(QObject* parent) : QObject(parent) {
  again_.setSingleShot(true);
  connect(&watch_, &FileWatch::changed, this, [this] {
    tries_ = 0;
    look();
  });
  connect(&watch_, &FileWatch::watching, this, [this](const QStringList& paths, const QStringList& without) {
    if (folder_.isEmpty() || !paths.contains(folder_)) return;  // of one that was let go of
    if (without.isEmpty()) {
      emit begun();
      return look();  // what has come in between
    }
    emit refused(tr("%1 cannot be watched. Choose a folder that can be read.").arg(std::exchange(folder_, {})));
    watch({});
  });
  connect(&again_, &QTimer::timeout, this, &WatchedFolder::look);
}

void WatchedFolder::watch(const QString& folder) {
  watch_.watch(folder.isEmpty() ? QStringList() : QStringList{folder});
  again_.stop();
  tries_ = 0;
  seen_.reset();
  folder_ = folder;
  if (folder.isEmpty()) return;
  seen_ = std::make_shared<Seen>();
  seen_->folder = folder;
  // A folder may hold many thousands of files: they are listed on another thread. What comes until that has begun is
  // told by its time, with some milliseconds for the clock of the file system.
  strand_.start([seen = seen_, since = QDateTime::currentDateTime().addMSecs(-20)]() -> Strand::Report {
    for (const QFileInfo& f : QDir(seen->folder).entryInfoList(QDir::Files))
      if (f.metadataChangeTime() < since) seen->known << f.fileName();
    return {};
  });
}

void WatchedFolder::look() {
  if (!seen_ || looking_) {
    missed_ = looking_;
    return;
  }
  looking_ = true;
  strand_.start([this, seen = seen_]() -> Strand::Report {
    Found found = newest(*seen);
    return [this, seen, found] {
      looking_ = false;
      if (seen != seen_) return;
      if (!found.picture.isNull()) {
        tries_ = 0;
        emit arrived(found.file, found.picture, found.settings);
      } else if (found.wait && ++tries_ <= kMostTries) {
        again_.start(std::min(kFirstWait << std::min(tries_ / 3, 8), kLongestWait));
        if (tries_ == kSaidAfter && !found.why.isEmpty())
          emit failed(
              tr("%1 is not a picture that can be shown: %2.").arg(QFileInfo(found.file).fileName(), found.why));
      }
      if (std::exchange(missed_, false)) look();
    };
  });
}

// On the strand.
WatchedFolder::Found WatchedFolder::newest(Seen& seen) {
  const QFileInfoList all = QDir(seen.folder).entryInfoList(QDir::Files);
  const QList<QByteArray> formats = photographFormats();
  QFileInfo newest;
  for (const QFileInfo& f : all) {
    if (seen.known.contains(f.fileName()) || !formats.contains(f.suffix().toLower().toLatin1())) continue;
    if (newest.fileName().isEmpty() || f.lastModified() > newest.lastModified()) newest = f;
  }
  Found out;
  if (newest.fileName().isEmpty()) return out;
  // It arrives in pieces: perhaps whole when it has not grown since the last look.
  if (newest.fileName() != seen.growing || newest.size() != seen.size || newest.size() == 0) {
    seen.growing = newest.fileName();
    seen.size = newest.size();
    out.wait = true;
    return out;
  }
  out.file = newest.absoluteFilePath();
  out.picture = readPhotograph(out.file, &out.why);
  if (out.picture.isNull()) {
    // Its writer may have paused: it is said to be none after a while, and looked at again all the same.
    out.wait = true;
    return out;
  }
  for (const QFileInfo& f : all) seen.known << f.fileName();
  seen.growing.clear();
  try {
    out.settings = settingsOfPhotograph(pathOf(out.file));
  } catch (const std::exception&) {  // a picture that does not say how it was taken is a picture all the same
  }
  return out;
}

}  // namespace easel::app
