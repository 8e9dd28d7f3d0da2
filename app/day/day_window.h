// The shooting day in a window of its own: order, people and room, the running clock, packing, load; its sheets.
#pragma once

#include <QMainWindow>
#include <QPointer>
#include <filesystem>
#include <functional>

#include "controllers/day_desk.h"
#include "dialogs/document_saving.h"
#include "paper/sheet_dialog.h"

class QMenu;
class QTabWidget;

namespace easel::app {

class FittedLabel;
class OrderPage;
class PackingPage;

class DayWindow : public QMainWindow {
  Q_OBJECT

 public:
  /// A plan that is open in some window.
  struct OpenPlan {
    QString name;
    Plan plan;
    std::filesystem::path file;
  };
  using OpenPlans = std::function<std::vector<OpenPlan>()>;
  explicit DayWindow(OpenPlans openPlans, QWidget* parent = nullptr);
  ~DayWindow() override;

  DayDocument* document() { return &document_; }
  DayDesk* desk() { return desk_; }
  SheetDialog* sheetDialog() { return sheet_; }
  bool working() const;
  /// False, with the sentence shown, when it cannot be opened.
  bool openFile(const std::filesystem::path& file);
  /// The same, but what is not saved is asked for first.
  void openWanted(const std::filesystem::path& file);
  void showPage(const QString& id);
  void openSheets();
  void addFile(const std::filesystem::path& file);
  void addPlan(const OpenPlan& plan);
  /// A look of the shelf, proposed for the sitter and room of the chosen look.
  void addFromShelf(const QString& look);
  void addFromJournal(std::int64_t session);
  void say(const QString& sentence, bool problem);
  QString said() const;
  /// Takes over the newest day that an earlier session left unsaved; tells of one that cannot be read.
  void recoverUnsaved();
  DocumentSaving* saving() { return saving_; }
  /// Asks nothing when closing: for tests and pictures.
  void setQuiet(bool quiet) { saving_->setQuiet(quiet); }

 signals:
  void planWanted(const easel::Plan& plan, const std::filesystem::path& file);

 protected:
  void closeEvent(QCloseEvent* e) override;

 private:
  void buildMenus();
  void fillAdd();
  void showHelp();
  void refresh();
  bool attempt(const std::function<void()>& work);
  /// Work that waits for a disk, on another thread; it gives what is then done here. What it throws is said.
  void behind(const std::function<Strand::Report()>& work);
  void addLook(const std::filesystem::path& file, const std::optional<Plan>& plan);
  QString displayName() const;

  DayDocument document_;
  DayDesk* desk_;
  OpenPlans openPlans_;
  QTabWidget* pages_;
  OrderPage* order_;
  PackingPage* packing_;
  FittedLabel* notice_;
  QMenu *open_, *shelf_, *journal_;
  QAction *undo_, *redo_;
  QPointer<SheetDialog> sheet_;
  BackgroundTask work_;
  DocumentSaving* saving_;
  Strand disk_{this};
};

}  // namespace easel::app
