// Small pictures of choices, made in the background one after the other and kept for the process.
#pragma once

#include <QHash>
#include <QImage>
#include <QSize>

#include "propose/prints.h"
#include "render/background_task.h"

namespace easel::app {

/// Interface thread.
class Prints : public QObject {
  Q_OBJECT

 public:
  explicit Prints(QObject* parent = nullptr);

  /// Makes them in this order, in place of all that were asked for before. Those that are kept come first.
  void ask(const std::vector<ChoiceToPrint>& choices, PrintShows shows, const std::string& light, QSize pixels);
  void stop();
  /// Gear is another under the same name: what is kept shows it as it was.
  static void forget();
  bool working() const { return task_.running(); }

 signals:
  /// Null when it cannot be made: the reason is said where the choice is tried.
  void made(const QString& id, const QImage& print);
  void progressed(int done, int of);

 private:
  BackgroundTask task_;
  int round_ = 0;  ///< prints of an earlier one come too late
};

}  // namespace easel::app
