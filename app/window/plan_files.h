// What goes in and out of a plan window: plans and days, pictures and readings, and what earlier sessions left unsaved.
//
// Whatever waits for a disk is done on another thread. A problem is a sentence for the window to show, never a box in
// front of it. Interface thread.
#pragma once

#include <QImage>
#include <filesystem>
#include <functional>
#include <optional>

#include "dialogs/document_saving.h"
#include "document/document.h"
#include "document/strand.h"
#include "rendering/renderer.h"

class QMenu;

namespace easel::app {

class MainWindow;

class PlanFiles : public QObject {
  Q_OBJECT

 public:
  PlanFiles(Document* document, MainWindow* window);

  /// In this window when nothing has been done in it, as all that opens a plan, else in one of its own.
  void startNew();
  void openDialog();
  /// Opens the file in this window, whatever stands in it. False, and said, when it cannot be read.
  bool openFile(const std::filesystem::path& file);
  bool openFile(const QString& file) { return openFile(pathOf(file)); }
  /// Opens the file where it belongs: in the window that has it, or a day in the day's. Where it is gone, `copy` is
  /// opened as a plan without a file.
  void openWanted(const std::filesystem::path& file, const std::optional<Plan>& copy = {});
  /// A plan that is no file's; the window that it is in.
  MainWindow* openUntitled(const Plan& plan);
  /// A plan out of the clipboard: a packed plan, or a plan's JSON.
  void pastePlan();
  /// What earlier sessions left unsaved. `take`: the newest becomes this window's plan; the others, or all, are
  /// offered.
  void recoverUnsaved(bool take = true);

  void save() { saving_->save(); }
  void saveAs() { saving_->saveAs(); }
  bool mayClose() { return saving_->mayClose(); }
  /// Asks nothing when closing.
  void setQuiet(bool quiet) { saving_->setQuiet(quiet); }

  void exportPicture(const QImage& picture);
  /// Of a light; nullptr is said.
  void exportIes(const Light* light);
  void exportReadings(const std::shared_ptr<const Result>& of);
  /// The files that were open last, each an action of the menu.
  void listRecent(QMenu* menu);
  /// Whether files are being read or written.
  bool busy() const { return disk_.busy() || !document_->session()->calm(); }

 signals:
  void said(const QString& sentence, bool problem);
  void opened(const QString& name);  ///< a file of its own, with nothing to object
  /// A button that does it when it is pressed.
  void offered(const QString& text, const QString& tip, const std::function<void()>& work);

 private:
  void refuse(const QString& why) { emit said(why, true); }
  void take(const ReadPlan& read, const std::filesystem::path& file);
  /// Work that waits for a disk, on another thread; it gives what is then done here. What it throws is said.
  void behind(const std::function<Strand::Report()>& work);
  void writeBehind(const std::filesystem::path& file, const std::function<std::string()>& bytes, const QString& done);
  void remember(const std::filesystem::path& file);
  void bringBack(const SessionFile::Recovered& recovered, const QString& notice);
  void offerUnsaved(const std::vector<SessionFile::Leftover>& plans, bool aDay);
  /// This window's, or a new one's.
  MainWindow* untouchedWindow();

  Document* document_;
  MainWindow* window_;
  DocumentSaving* saving_;
  Strand disk_{this};
};

}  // namespace easel::app
