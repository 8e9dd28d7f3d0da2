// The menu View: stages, what lies over the picture, how the views stand, and how the program looks and spells.
// Interface thread.
#pragma once

#include <QMenu>

#include "arrange/arranged_views.h"
#include "easel/beside_easel.h"
#include "stages/stage.h"

namespace easel::app {

class ViewMenu : public QMenu {
  Q_OBJECT

 public:
  ViewMenu(const Bench& bench, const std::vector<Stage*>& stages, ArrangedViews* views, BesideEasel* beside,
           QWidget* parent);

  bool mapShown() const { return map_->isChecked(); }
  void setFarChecked(bool far) { far_->setChecked(far); }
  /// Lengths and parts of a stop as the preferences have them.
  void showSpelling();

 signals:
  void stageChosen(int stage);
  void mapToggled();
  void farToggled(bool far);
  void pictureWanted();  ///< alone, in a window of its own
  void textSizeWanted(double points);
  void themeChosen(bool dim);
  void spellingChosen();  ///< the preferences have it

 private:
  void addStages(const std::vector<Stage*>& stages);
  void addOverlays();
  void addBeside(BesideEasel* beside);
  void addPlaces();
  void addAppearance();
  template <class Slot>
  QAction* add(const QString& text, const QKeySequence& key, Slot slot);
  template <class Slot>
  QAction* addSwitch(const QString& text, const QKeySequence& key, Slot slot);
  void takeSpelling();

  Bench bench_;
  ArrangedViews* views_;
  QAction *map_, *far_, *metres_, *feet_, *tenths_, *thirds_;
};

}  // namespace easel::app
