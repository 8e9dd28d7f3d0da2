// The lighting pattern: its name and what it is read from, the map on which the key can be dragged, and ways to the
// other patterns as pictures, ready before anybody asks.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <tuple>
#include <vector>

#include "analysis/pattern.h"
#include "analysis/ways.h"
#include "gallery/gallery.h"
#include "gallery/prints.h"
#include "read/pattern_map_view.h"
#include "render/background_task.h"

class QLabel;
class QProgressBar;

namespace easel::app {

/// Interface thread.
class PatternPage : public QWidget {
  Q_OBJECT

 public:
  explicit PatternPage(ViewedPlan* viewed, QWidget* parent = nullptr);
  /// Of the viewed plan as it is.
  void setReading(const LightingAnalysis& lighting);
  /// What stands here is of the plan before.
  void planChanged();
  PatternMapView* map() const { return map_; }
  Gallery* ways() const { return ways_; }
  bool working() const { return task_.running() || prints_.working(); }

 signals:
  void tryOut(const easel::Plan& plan, const QString& label);
  void taken(const easel::Plan& plan, const QString& label);
  void refused(const QString& sentence);

 protected:
  void showEvent(QShowEvent* e) override;

 private:
  /// Map, ways and prints, one after the other: all want the whole machine.
  void work();
  void makeMap();
  void refineMap();
  void findWays();
  void showWays(const std::vector<PatternWays>& all);

  /// All that a map depends on.
  struct MapOf {
    SitterPlace sitter;
    Room room;
    Backdrop backdrop;
    std::vector<std::tuple<std::string, bool, Role, std::string>> lights;  ///< which is the key, and its modifier
    double distance;                                                       ///< of the key, steps of two centimetres
    bool operator==(const MapOf&) const = default;
  };
  MapOf mapOf(const Plan& plan) const;

  ViewedPlan* viewed_;
  QLabel *name_, *sentence_, *none_;
  QProgressBar* progress_;
  PatternMapView* map_;
  Gallery* ways_;
  struct Way {
    QString id, label;
    Plan plan;
  };
  std::vector<Way> found_;
  std::optional<Plan> read_, waysOf_;
  std::optional<MapOf> mapped_;
  bool fine_ = false;
  BackgroundTask task_;
  Prints prints_;
};

}  // namespace easel::app
