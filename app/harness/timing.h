// Prints how long the window takes: to the first picture, for an event while a hand drags, for another theme or another
// size of the text. Figures and how they are taken: docs/speed.md.
#pragma once

#include <QElapsedTimer>
#include <QObject>

namespace easel::app {

class MainWindow;
class WatchedApplication;

class Timing : public QObject {
  Q_OBJECT

 public:
  /// `sinceStart` runs since the program began.
  Timing(MainWindow& window, WatchedApplication& application, const QElapsedTimer& sinceStart);
  /// Shows the window; the event loop ends with 0 when everything is printed.
  void start();

 private:
  void arrived();
  void drag();
  void printRestyling();

  MainWindow& window_;
  WatchedApplication& application_;
  QElapsedTimer clock_;
  int drags_ = -1;  ///< -1 before the first picture
};

}  // namespace easel::app
