// What menus and keys do to the plan: each an undoable edit of the plan that is viewed, with a sentence when it cannot
// be done.
//
// Nothing of the window is known here: what is chosen is told, what is to be chosen or said goes out as a signal.
#pragma once

#include <QObject>
#include <functional>
#include <memory>

#include "document/viewed_plan.h"
#include "meter/answers.h"

namespace easel::app {

/// Interface thread.
class PlanActions : public QObject {
  Q_OBJECT

 public:
  /// Calls with the readings of the plan as it is, at once or when they have been taken.
  using Readings = std::function<void(const std::function<void(const std::shared_ptr<const Answers>&)>&)>;
  /// The scene of the plan as it is; null until it has been built.
  using SceneNow = std::function<std::shared_ptr<const Scene>()>;
  PlanActions(ViewedPlan* viewed, Readings readings, SceneNow sceneNow, QObject* parent = nullptr);

  /// The light that the actions below are about; empty: none, and they do nothing.
  void setSelected(const QString& id) { selected_ = id; }

  void addLight();
  void addBySchool(const std::string& school);
  void otherSchool();
  void copyLight();
  void removeLight();
  void rename(const QString& name);
  void toggleLock();
  void toggleLight(int index);
  void featherToEdge();
  /// Changes the chosen light in one step of undo.
  void changeLight(const QString& label, const std::function<void(Light&)>& change);
  void reorder(const QString& id, int place);
  int place() const;  ///< of the chosen light in the building order
  void putLettersInOrder();
  void mirror();
  void swapKeySide();
  void balanceAll(bool sum);
  void setCamera(int school);  ///< CameraSchool
  void pin(const PinnedSpot& spot);
  void togglePanel(const QString& number);
  /// Where it usually stands, and why there is said.
  void putUpPanel(const std::string& kind);

 signals:
  void said(const QString& sentence, bool problem);
  void chosen(const QString& light);
  void panelChosen(const QString& number);

 private:
  bool attempt(const std::function<void()>& work);
  void putUp(const Light& light, const QString& label);
  void balanceBy(const Answers& answers, bool sum);

  ViewedPlan* viewed_;
  Readings readings_;
  SceneNow sceneNow_;
  QString selected_;
};

}  // namespace easel::app
