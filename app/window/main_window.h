// The main window: five instruments round one plan.
#pragma once

#include <QLabel>
#include <QMainWindow>
#include <QPointer>
#include <functional>
#include <memory>
#include <optional>

#include "arrange/arranged_views.h"
#include "arrange/page_frame.h"
#include "controllers/on_easel.h"
#include "controllers/picture_reading.h"
#include "controllers/plan_actions.h"
#include "controllers/sitters_arriving.h"
#include "controllers/watched_folder.h"
#include "day/day_window.h"
#include "dialogs/devices_dialog.h"
#include "dialogs/document_saving.h"
#include "dialogs/kit_dialog.h"
#include "dialogs/looks_dialog.h"
#include "dialogs/series_dialog.h"
#include "document/document.h"
#include "easel/easel_view.h"
#include "instruments/dial_view.h"
#include "instruments/ladder_view.h"
#include "instruments/ledge_view.h"
#include "instruments/rail_view.h"
#include "logbook/journal_dialog.h"
#include "paper/sheet_dialog.h"
#include "read/read_card.h"
#include "render/background_task.h"
#include "render/render_link.h"
#include "stages/stage.h"
#include "window/figures_view.h"
#include "window/headline.h"
#include "window/picture_window.h"

class QPushButton;

namespace easel::app {

class FittedLabel;
extern const char* const kPlanFilter;

class MainWindow : public QMainWindow {
  Q_OBJECT

 public:
  explicit MainWindow(QWidget* parent = nullptr);
  ~MainWindow() override;

  Document* document() { return document_; }
  RenderLink* renderLink() { return &link_; }
  EaselView* easel() { return easel_; }
  LedgeView* ledge() { return ledge_; }
  DialView* dial() { return dial_; }
  RailView* rail() { return rail_; }
  LadderView* ladder() { return ladder_; }
  QString selectedLight() const { return selected_; }
  QString selectedPanel() const { return panel_; }
  bool tryingOut() const { return onEasel_->tryingOut(); }
  ReadCard* readCard() { return findChild<ReadCard*>(); }
  ArrangedViews* arranged() { return views_; }
  const std::vector<Stage*>& stages() const { return stages_; }
  Headline* headline() { return headline_; }
  /// Whether what readCard() shows is of the plan as it is.
  bool readIsCurrent() const { return reading_->current(); }
  KitDialog* kitDialog() { return kit_; }
  SeriesDialog* seriesDialog() { return series_; }
  LooksDialog* looksDialog() { return looks_; }
  DevicesDialog* devicesDialog() { return devices_; }
  JournalDialog* journalDialog() { return journal_; }
  SheetDialog* sheetDialog() { return sheet_; }
  DayWindow* dayWindow() { return dayOf(); }
  /// The shelf of looks; also proposes sets for a wish.
  void openLooks();
  void openJournal();
  /// The sheet of this plan: looked at, printed, exported.
  void openSheet();
  /// The shooting day, in a window of its own; one for the program.
  void openDay();
  void openDay(const std::filesystem::path& file);
  /// A plan out of the clipboard: a packed plan, or a plan's JSON.
  void pastePlan();

  /// Opens the file in this window, whatever stands in it; a problem is shown as a sentence in the window, never as a
  /// box in front of it. False then.
  bool openFile(const QString& file) { return openFile(pathOf(file)); }
  bool openFile(const std::filesystem::path& file);
  /// Opens the file where it belongs: in the window that has it, in this one when nothing has been done in it, else in
  /// a window of its own. It is read on another thread; where it is gone, `copy` is opened as a plan without a file.
  void openWanted(const std::filesystem::path& file, const std::optional<Plan>& copy = {});
  /// A plan that is no file's: in this window when nothing has been done in it, else in one of its own.
  MainWindow* openUntitled(const Plan& plan);
  DocumentSaving* saving() { return saving_; }
  /// What earlier sessions left unsaved. `take`: the newest becomes this window's plan; the others, or all, are
  /// offered in windows of their own. Read on another thread.
  void recoverUnsaved(bool take = true);
  /// A window of its own on the heap, which goes when it is closed.
  static MainWindow* another();
  /// A picture of the user's own beside the predicted one, when it has been read; else a sentence.
  void showBeside(const QString& file);
  /// Every picture that arrives there is shown beside the predicted one.
  void watchFolder(const QString& folder);
  void showNotice(const QString& sentence, bool problem = false);
  QString notice() const;
  void setStage(int stage);
  /// By its id, "Read", or its number.
  void showStage(const QString& stage);
  /// Of whichever stage has it, by its name: "Quality", "Eyes".
  void showPage(const QString& name) {
    for (Stage* stage : stages_) stage->page()->showPage(name);
  }
  /// Points of the text in a window of 1280x800; a larger window has larger text.
  void setTextSize(double points);
  /// The picture alone in a window of its own.
  void openPictureWindow();
  /// For reading from two metres: answer, ladder and the figures of the chosen light, the rest put away.
  void setFar(bool far);
  /// Asks for the picture at the pixels of whichever window shows more of them.
  void wishSharp();
  bool far() const { return far_; }
  PictureWindow* pictureWindow() { return alone_; }
  /// One view fills the window, or gives the others their places back.
  void fillOrGiveBack(const QString& view);
  /// Of the predicted picture; tests take a small one.
  void setPictureSize(QSize size) { onEasel_->setPictureSize(size); }
  /// Whether the picture is traced at the pixels of the screen as well; tests that do not look at it do without.
  void setSharp(bool on) {
    sharp_ = on;
    if (!on) link_.setSharp({});
  }
  /// Asks nothing when closing: for tests and pictures.
  void setQuiet(bool quiet) {
    quiet_ = quiet;
    saving_->setQuiet(quiet);
  }
  /// Whether files are being read or written for this window.
  bool atDisk() const { return disk_.busy() || !document_->session()->calm(); }

 protected:
  void closeEvent(QCloseEvent*) override;
  void resizeEvent(QResizeEvent*) override;
  void showEvent(QShowEvent*) override;
  void changeEvent(QEvent*) override;
  void dragEnterEvent(QDragEnterEvent*) override;
  void dropEvent(QDropEvent*) override;

 private:
  void buildMenus();
  QAction* addTo(QMenu* menu, const QString& text, const QKeySequence& key, std::function<void()> slot);
  void fileMenu();
  void editMenu();
  void lightMenu();
  void panelMenu();
  void viewMenu();
  void addAppearance(QMenu* view);
  void compareMenu();
  void goMenu();
  void helpMenu();
  void buildLayout();
  void arrangeViews();
  void fillStatusBar();
  void joinWatchedFolder();
  void joinInstruments();
  void planChanged();
  void stateChanged();
  void resultArrived();
  void tellAnswer();
  void requestPicture();
  void showEvidence();
  void loadBeside();
  void putBeside(const QString& name, const QImage& picture, const PhotographSettings& settings);
  void watchFolder();
  void select(const QString& id);
  void selectPanel(const QString& number);
  void setLedgeMode(LedgeView::Mode mode);
  void keepPicture();
  void renameLight();
  void openSeries();
  void openKit();
  KitDialog* kit();
  void openDevices();
  static DayWindow* dayOf();

  void exportIes();
  /// False, with the sentence as a notice, when `work` throws.
  bool attempt(const std::function<void()>& work);
  void newPlan();
  void openDialog();
  void take(const ReadPlan& read, const std::filesystem::path& file);
  /// Work that waits for a disk, on another thread; it gives what is then done here. What it throws becomes the notice.
  void behind(const std::function<Strand::Report()>& work);
  void writeBehind(const std::filesystem::path& file, const std::function<std::string()>& bytes, const QString& done);
  void remember(const std::filesystem::path& file);
  /// Offers a button in the status bar; pressed, `work` is done and the button goes.
  void offer(const QString& text, const QString& tip, const std::function<void()>& work);
  void bringBack(const SessionFile::Recovered& recovered, const QString& notice);
  void offerUnsaved(const std::vector<SessionFile::Leftover>& plans, bool aDay);
  void fillRecent();
  void exportPicture();
  void exportReadings();
  void showShortcuts();
  void about();
  void setTheme(bool dim);
  void setUnits();
  void fitType();
  void arrangeStage();
  void spellingChanged();

  Document* document_;
  DocumentSaving* saving_;
  Strand disk_{this};
  RenderLink link_;
  OnEasel* onEasel_;
  PlanActions* actions_;
  PictureReading* reading_;
  EaselView* easel_;
  LedgeView* ledge_;
  DialView* dial_;
  RailView* rail_;
  LadderView* ladder_;
  FiguresView* figures_;
  PageFrame* ladderFrame_;
  std::vector<Stage*> stages_;
  int stage_ = -1;
  ArrangedViews* views_;
  Headline* headline_;
  size_t rows_ = 0;  ///< of the ladder
  std::shared_ptr<const SpotTable> shownTable_;
  BackgroundTask besideTask_;
  WatchedFolder watched_;
  SittersArriving sitters_;
  FittedLabel *notice_, *pointer_;
  QLabel* preparing_;  ///< how many sitters are there, while others are being baked
  QPushButton* offer_;
  std::function<void()> offered_;
  QMenu* recent_;
  QAction *undo_, *redo_, *dimAction_, *metresAction_, *feetAction_, *tenthsAction_, *thirdsAction_, *clippingAction_,
      *mapAction_, *histogramAction_, *lockAction_, *zebraAction_, *greyCardAction_, *besideAction_, *watchAction_,
      *farAction_;
  QString selected_, panel_, dataProblem_;
  QPointer<SeriesDialog> series_;
  QPointer<KitDialog> kit_;
  QPointer<LooksDialog> looks_;
  QPointer<DevicesDialog> devices_;
  QPointer<JournalDialog> journal_;
  QPointer<SheetDialog> sheet_;
  struct {
    std::vector<SeriesPicture> pictures;
    QString title;
  } lastSeries_;
  QPointer<PictureWindow> alone_;
  bool wide_ = false;  ///< what stands is arranged for a picture on its long side
  bool far_ = false, quiet_ = false, sharp_ = true;
};

}  // namespace easel::app
