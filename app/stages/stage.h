// A stage of the day: what it shows large, small and not at all, its page, its key and its help.
//
// A stage to come is a class like these and one line in all_stages.cpp. The instruments are one set for all stages; a
// stage joins them to its page, and neither they nor pages know of each other. Interface thread.
#pragma once

#include <QKeySequence>
#include <QObject>
#include <functional>
#include <memory>
#include <vector>

#include "arrange/arrangement.h"
#include "cards/card.h"
#include "controllers/on_easel.h"
#include "controllers/picture_analysis.h"
#include "controllers/plan_actions.h"
#include "easel/easel_view.h"
#include "instruments/dial_view.h"
#include "instruments/ladder_view.h"
#include "instruments/ledge_view.h"
#include "instruments/rail_view.h"

namespace easel::app {

/// What every stage works with.
struct Bench {
  ViewedPlan* viewed;
  OnEasel* onEasel;
  PlanActions* actions;
  PictureAnalysis* reading;
  EaselView* easel;
  LedgeView* ledge;
  DialView* dial;
  RailView* rail;
  LadderView* ladder;
  /// What the window does with files, for pages that offer it.
  std::function<void()> exportReadings, loadBeside, openDevices;
  std::function<void(const QString& file)> showBeside;
};

/// What arrangements call the views that all stages share. A stage's page goes by the stage's id.
namespace views {
inline const QString kAnswer = QStringLiteral("answer"), kEasel = QStringLiteral("easel"),
                     kLedge = QStringLiteral("ledge"), kDial = QStringLiteral("dial"), kRail = QStringLiteral("rail"),
                     kLadder = QStringLiteral("ladder"), kFigures = QStringLiteral("figures");
}

class Stage : public QObject {
  Q_OBJECT

 public:
  explicit Stage(const Bench& bench, QObject* parent = nullptr) : QObject(parent), bench_(bench) {}

  virtual QString id() const = 0;  ///< what settings and the command line call it, in every language
  virtual QString name() const = 0;
  virtual QString purpose() const = 0;  ///< half a sentence
  virtual QString help() const = 0;     ///< what is done here and how; a paragraph
  virtual QKeySequence key() const = 0;
  virtual Card* page() const = 0;
  /// `wide`: the picture lies on its long side, so what is looked at beside it has its place under it.
  virtual Arrangement arrangement(bool wide) const = 0;
  /// Behind the name on its button: "(3)".
  virtual QString mark() const { return {}; }
  /// What the headline says while the stage is on; empty: what the chosen light gives.
  virtual QString answer() const { return {}; }

  /// What gets the keys when the stage is chosen, so that Enter begins; null: they stay where they are.
  virtual QWidget* begins() const { return nullptr; }
  virtual void enter() {}
  virtual void leave() {}
  virtual void lightChosen(const QString&) {}
  virtual void panelChosen(const QString&) {}
  /// Readings of the open plan as it is.
  virtual void readingsArrived(const std::shared_ptr<const Result>&) {}
  /// What this stage lays over the picture is to be laid anew; called while the stage is on.
  virtual void showEvidence() { bench_.easel->evidence()->lay({}); }
  virtual void gearChanged() {}

 signals:
  void said(const QString& sentence, bool problem);
  void marked();                            ///< mark() is another
  void evidenceChanged();                   ///< showEvidence() would show something else
  void panelWanted(const QString& number);  ///< to be chosen in every instrument

 protected:
  Bench bench_;
};

}  // namespace easel::app
