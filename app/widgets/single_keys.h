// Single letters and figures as shortcuts: they apply while one of the instruments has the focus, and are ordinary
// input everywhere else (docs/keys.md). An event filter on the application, for the shortcuts of one window.
#pragma once

#include <QList>
#include <QObject>
#include <QWidget>

namespace easel::app {

class SingleKeys : public QObject {
 public:
  /// `window` owns it.
  SingleKeys(QWidget* window, QList<QWidget*> instruments);
  /// Kept in QSettings, for all windows of the user.
  static bool on();
  static void setOn(bool on);

 protected:
  bool eventFilter(QObject* of, QEvent* e) override;

 private:
  bool onInstrument(const QWidget* focus) const;
  QWidget* window_;
  QList<QWidget*> instruments_;
};

}  // namespace easel::app
