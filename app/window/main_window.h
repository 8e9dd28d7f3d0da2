// The main window: five instruments round one plan. Interface thread.
#pragma once

#include <QMainWindow>
#include <memory>
#include <vector>

#include "arrange/arranged_views.h"
#include "arrange/page_frame.h"
#include "document/document.h"
#include "easel/beside_easel.h"
#include "menus/view_menu.h"
#include "render/render_link.h"
#include "stages/stage.h"
#include "window/figures_view.h"
#include "window/headline.h"
#include "window/plan_files.h"
#include "window/side_windows.h"
#include "window/status_line.h"

class QMenu;

namespace easel::app {

class MainWindow : public QMainWindow {
  Q_OBJECT

 public:
  explicit MainWindow(QWidget* parent = nullptr);
  ~MainWindow() override;

  Document* document() { return document_; }
  PlanFiles* files() { return files_; }
  SideWindows* side() { return side_; }
  BesideEasel* beside() { return beside_; }
  /// The instruments, and what works on the plan.
  const Bench& bench() const { return bench_; }
  const std::vector<Stage*>& stages() const { return stages_; }
  ArrangedViews* arranged() { return views_; }
  RenderLink* renderLink() { return &link_; }
  QString selectedLight() const { return selected_; }
  QString selectedPanel() const { return panel_; }

  void showNotice(const QString& sentence, bool problem = false) { status_->say(sentence, problem); }
  QString notice() const { return status_->words(); }
  void setStage(int stage);
  /// By its id, "Read", or its number.
  void showStage(const QString& stage);
  /// Of whichever stage has it, by its id: "Quality", "Eyes".
  void showPage(const QString& id);
  /// For reading from two metres: answer, ladder and the figures of the chosen light, the rest put away.
  void setFar(bool far);
  bool far() const { return far_; }
  /// The shooting day, in the one window that it has; with that file when there is one.
  void openDay(const std::filesystem::path& file = {});

  /// Points of the text in a window of 1280x800; a larger window has larger text.
  void setTextSize(double points);
  /// What the whole program does when type or spelling have changed.
  void typeChanged();
  void spellingChanged();
  /// Whether the picture is traced at the pixels of the screen as well; tests that do not look at it do without.
  void setSharp(bool on);
  bool sharp() const { return sharp_; }
  /// Asks nothing when closing: for tests and pictures.
  void setQuiet(bool quiet);

 protected:
  void closeEvent(QCloseEvent*) override;
  void resizeEvent(QResizeEvent*) override;
  void showEvent(QShowEvent*) override;
  void changeEvent(QEvent*) override;
  void dragEnterEvent(QDragEnterEvent*) override;
  void dropEvent(QDropEvent*) override;

 private:
  void makeParts();
  void arrangeViews();
  void joinParts();
  void joinInstruments();
  void restore();

  void buildMenus();
  QAction* addTo(QMenu* menu, const QString& text, const QKeySequence& key, std::function<void()> slot);
  void fileMenu();
  void editMenu();
  void lightMenu();
  void panelMenu();
  void compareMenu();
  void goMenu();
  void helpMenu();
  void showShortcuts();
  void about();
  void renameLight();

  void planChanged();
  void stateChanged();
  void resultArrived();
  void tellProblem(const Result& result);
  void tellAnswer();
  void requestPicture();
  void showEvidence();
  void select(const QString& id);
  void selectPanel(const QString& number);
  void setLedgeMode(LedgeView::Mode mode);
  void arrangeStage();

  Document* document_;
  RenderLink link_;
  Bench bench_;
  PlanFiles* files_;
  BesideEasel* beside_;
  SideWindows* side_;
  StatusLine* status_;
  ViewMenu* view_;
  FiguresView* figures_;
  PageFrame* ladderFrame_;
  std::vector<Stage*> stages_;
  int stage_ = -1;
  ArrangedViews* views_;
  Headline* headline_;
  size_t rows_ = 0;  ///< of the ladder
  std::shared_ptr<const SpotTable> shownTable_;
  QMenu* recent_;
  QAction *undo_, *redo_, *lockAction_;
  QString selected_, panel_, dataProblem_;
  bool wide_ = false;  ///< what stands is arranged for a picture on its long side
  bool far_ = false, quiet_ = false, sharp_ = true;
};

}  // namespace easel::app
