// The first start has baked one sitter; the others arrive in the cache folder while the window is open.
#pragma once

#include <QObject>
#include <QTimer>
#include <optional>

#include "document/file_watch.h"
#include "render/background_task.h"
#include "sitters/sitter_file.h"

namespace easel::app {

/// The folder is looked at on a thread of its own: at the start, and while somebody bakes whenever something changes
/// in it.
class SittersArriving : public QObject {
  Q_OBJECT

 public:
  explicit SittersArriving(QObject* parent = nullptr);

 signals:
  /// `more`: somebody has arrived since the last look.
  void changed(const easel::Baking& now, bool more);

 private:
  void look();
  FileWatch watch_;
  QTimer again_;
  BackgroundTask task_;
  std::optional<Baking> now_;
};

}  // namespace easel::app
