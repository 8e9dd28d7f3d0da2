// A picture of the user's own beside the predicted one: chosen, or the last that arrived in a watched folder. Interface
// thread.
#pragma once

#include "controllers/watched_folder.h"
#include "document/viewed_plan.h"
#include "easel/easel_view.h"
#include "render/background_task.h"

namespace easel::app {

class BesideEasel : public QObject {
  Q_OBJECT

 public:
  BesideEasel(ViewedPlan* viewed, EaselView* easel, QWidget* window);
  /// Asks for a file.
  void load();
  /// When it has been read; else a sentence.
  void show(const QString& file);
  /// Asks for a folder, or stops watching the one that is watched.
  void chooseFolder();
  /// Every picture that arrives there is shown.
  void watch(const QString& folder) { watched_.watch(folder); }

 signals:
  void said(const QString& sentence, bool problem);
  void watching(bool on);

 private:
  void put(const QString& name, const QImage& picture, const PhotographSettings& settings);

  ViewedPlan* viewed_;
  EaselView* easel_;
  QWidget* window_;
  BackgroundTask task_;
  WatchedFolder watched_;
};

}  // namespace easel::app
