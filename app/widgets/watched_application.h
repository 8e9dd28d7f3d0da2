// The application: what a slot throws is caught here, in one place, and told to whoever shows sentences. It also knows
// how long its interface thread was busy with one event, for tests and benchmarks.
#pragma once

#include <QApplication>
#include <QMap>
#include <QString>

namespace easel::app {

class WatchedApplication : public QApplication {
  Q_OBJECT

 public:
  using QApplication::QApplication;
  bool notify(QObject* receiver, QEvent* event) override;

  struct Longest {
    double milliseconds = 0;  ///< processor time of this thread, so that a loaded machine does not count
    QString what;             ///< "LengthField distance, event 5"
  };
  /// The longest of the events that were sent since the last forget(); what runs in an event loop of its own (a dialog)
  /// counts as its own events.
  const Longest& longest() const { return longest_; }
  /// How many took more than 8 ms, the promise.
  int late() const { return late_; }
  /// The worst of them, each receiver and event once: a line each.
  QString lateOnes(int most) const;
  void forget();
  /// Off until it is asked for: naming every event costs something at every move of the pointer.
  void watch() { watching_ = true; }

 signals:
  /// Something was thrown that nobody had caught; the event that it came from is over.
  void failed(const QString& sentence);

 private:
  bool deliver(QObject* receiver, QEvent* event);
  Longest longest_;
  QMap<QString, double> each_;
  QString inside_;  ///< what was painted during the present event
  int late_ = 0, depth_ = 0;
  bool watching_ = false;
};

}  // namespace easel::app
