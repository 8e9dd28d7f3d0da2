// Writes a picture of a window once it shows what the command line asks for, and ends the program: for documents and
// for looking at one's work without a screen.
#pragma once

#include <QCommandLineParser>
#include <QObject>
#include <QStringList>
#include <functional>

namespace easel::app {

class DeviceRun;
class MainWindow;
class MeteringRun;
class RunCard;

class WindowPicture : public QObject {
  Q_OBJECT

 public:
  WindowPicture(MainWindow& window, const QCommandLineParser& options);

  /// Whether its file can be written: asked before minutes are spent on it. Says so on stderr when not.
  static bool writable(const QString& file);
  /// Shows what is asked for; the event loop then ends with 0, or with 2 when nothing could be written.
  void start();

 private:
  void startRun();
  void startMain();
  void startDay();
  void startSheet();
  /// Takes the picture of `what` as soon as `ready` says so.
  void whenReady(std::function<bool()> ready, QWidget* what);
  /// A metering run answers one step after the other; true when there is nothing left to say.
  bool runAnswered();
  void mainArrived();
  void grab(QWidget& of);

  MainWindow& window_;
  const QCommandLineParser& options_;
  QStringList answers_, keys_;  ///< of the run; of the menus
  MeteringRun* run_;
  RunCard* runCard_;
  DeviceRun* devices_;
  int status_ = 0;
};

}  // namespace easel::app
