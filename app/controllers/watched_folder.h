// A folder that some other program puts pictures into as they are taken: the newest is shown as it arrives. Pictures
// that were there before are left alone. Reading is done on another thread. Interface thread.
#pragma once

#include <QImage>
#include <QObject>
#include <QSet>
#include <QTimer>
#include <memory>

#include "document/file_watch.h"
#include "document/strand.h"
#include "formats/photograph.h"

namespace easel::app {

/// What this installation can read of photographs; drawings are programs, and are not run in here.
QList<QByteArray> photographFormats();
/// Whole, turned as it was held, at most 1600 pixels a side; null, with `why`, when it is none.
QImage readPhotograph(const QString& file, QString* why);

class WatchedFolder : public QObject {
  Q_OBJECT

 public:
  explicit WatchedFolder(QObject* parent = nullptr);
  /// Empty: none.
  void watch(const QString& folder);
  const QString& folder() const { return folder_; }

 signals:
  void arrived(const QString& file, const QImage& picture, const easel::PhotographSettings& settings);
  void failed(const QString& sentence);
  /// It is watched from now on; else refused(), and none is.
  void begun();
  void refused(const QString& sentence);

 private:
  struct Seen;
  struct Found {
    QString file, why;
    QImage picture;
    PhotographSettings settings;
    bool wait = false;  ///< it is not whole yet
  };
  void look();
  static Found newest(Seen& seen);
  FileWatch watch_;
  QTimer again_;
  QString folder_;
  std::shared_ptr<Seen> seen_;
  bool looking_ = false, missed_ = false;
  int tries_ = 0;  ///< of a picture that is not whole yet
  Strand strand_{this};
};

}  // namespace easel::app
