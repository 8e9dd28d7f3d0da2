// The windows that one plan window opens beside itself: kit, looks, series, devices, journal, sheet, and the picture
// alone. Each is made when it is first wanted. Interface thread.
#pragma once

#include <QObject>
#include <QPointer>

#include "dialogs/devices_dialog.h"
#include "dialogs/kit_dialog.h"
#include "dialogs/looks_dialog.h"
#include "dialogs/series_dialog.h"
#include "logbook/journal_dialog.h"
#include "paper/sheet_dialog.h"
#include "stages/stage.h"
#include "window/picture_window.h"

namespace easel::app {

class MainWindow;

class SideWindows : public QObject {
  Q_OBJECT

 public:
  SideWindows(const Bench& bench, RenderLink* link, MainWindow* window);

  void openKit();
  /// Sets for a wish, and those that are on the shelf.
  void openLooks();
  void openSeries();
  void openDevices();
  void openJournal();
  /// The sheet of this plan: looked at, printed, exported.
  void openSheet();
  /// The picture alone.
  void openPicture();
  /// The picture alone shows what has been traced too.
  void showResult();
  /// Asks for the picture at the pixels of whichever window shows more of them; one picture is traced.
  void wishSharp();

  KitDialog* kit() { return kit_; }
  LooksDialog* looks() { return looks_; }
  SeriesDialog* series() { return series_; }
  DevicesDialog* devices() { return devices_; }
  JournalDialog* journal() { return journal_; }
  SheetDialog* sheet() { return sheet_; }
  PictureWindow* picture() { return picture_; }

 signals:
  void said(const QString& sentence, bool problem);

 private:
  KitDialog* madeKit();
  void makeJournal();
  void bringUp(QWidget* window);

  Bench bench_;
  RenderLink* link_;
  MainWindow* window_;
  QPointer<KitDialog> kit_;
  QPointer<LooksDialog> looks_;
  QPointer<SeriesDialog> series_;
  QPointer<DevicesDialog> devices_;
  QPointer<JournalDialog> journal_;
  QPointer<SheetDialog> sheet_;
  QPointer<PictureWindow> picture_;
  struct {
    std::vector<SeriesPicture> pictures;
    QString title;
  } lastSeries_;
};

}  // namespace easel::app
