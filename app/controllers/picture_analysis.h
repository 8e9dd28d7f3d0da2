// Reads the picture of the open plan: once it is good enough, and once more when it is finished. Interface thread; the
// reading itself is done on another.
#pragma once

#include <QObject>
#include <optional>

#include "analysis/faults.h"
#include "document/viewed_plan.h"
#include "render/background_task.h"

namespace easel {
struct Result;
}

namespace easel::app {

class PictureAnalysis : public QObject {
  Q_OBJECT

 public:
  explicit PictureAnalysis(ViewedPlan* viewed, QObject* parent = nullptr);

  /// What the renderer has now, of the open plan.
  void offer(const std::shared_ptr<const Result>& result);
  /// The plan is another one: what runs is stopped.
  void drop();
  /// The last that was read; null before the first.
  const std::shared_ptr<const FaceAnalysis>& latest() const { return latest_; }
  /// Whether latest() is of the plan as it is.
  bool current() const { return of_ && *of_ == viewed_->plan(); }

 signals:
  void arrived();  ///< latest() is new
  void failed(const QString& why);

 private:
  ViewedPlan* viewed_;
  BackgroundTask task_;
  std::shared_ptr<const FaceAnalysis> latest_;
  std::optional<Plan> of_;  ///< the plan that latest() is of
  Plan asked_;              ///< what is under way, or was asked for last
  int passes_ = -1;         ///< of the picture that it was taken from; -1: nothing was asked for
};

}  // namespace easel::app
