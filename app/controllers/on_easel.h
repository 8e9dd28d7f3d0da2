// What stands on the easel: the open plan, all of it or one light alone, or a plan that is being tried out.
//
// A try-out belongs to the plan that it was made from: any change of that one ends it. Interface thread.
#pragma once

#include <QObject>
#include <QSize>
#include <functional>
#include <optional>

#include "document/viewed_plan.h"
#include "render/render_link.h"

namespace easel::app {

class OnEasel : public QObject {
  Q_OBJECT

 public:
  OnEasel(ViewedPlan* viewed, RenderLink* link, QObject* parent = nullptr);

  const Show& show() const { return show_; }
  bool tryingOut() const { return tried_.has_value(); }
  const QString& label() const { return label_; }  ///< of the try-out
  /// What it is called as a kept picture: "A alone", "as it was".
  QString name() const;
  /// The readings of the open plan as it is; null while they are being taken.
  std::shared_ptr<const Answers> answersNow() const;
  /// The scene of the open plan as it is; null while it is being built.
  std::shared_ptr<const Scene> sceneNow() const;
  /// Does it with them at once, or as soon as they are there; meanwhile says what it waits for. One action waits at a
  /// time, the last. A plan that cannot be computed is said instead, and nothing waits; a try-out is left first.
  void whenAnswered(const std::function<void(const std::shared_ptr<const Answers>&)>& act);
  void whenBuilt(const std::function<void(const std::shared_ptr<const Scene>&)>& act);

  void showOnly(const Show& show);
  /// Without a label: the open plan again.
  void tryOut(const Plan& plan, const QString& label);
  /// The plan that was tried becomes the open one, in one step of undo.
  void takeOver(const Plan& plan, const QString& label);
  /// The open plan whole again, without a word.
  void reset() { show_ = {}; }
  void planChanged();

  void setPictureSize(QSize size);
  /// What else the renderer works out, from the next picture on.
  void setExtras(const Extras& extras) { extras_ = extras; }
  void request();

 signals:
  void changed();  ///< another thing stands there
  void said(const QString& sentence, bool problem);

 private:
  void setTried(const std::optional<Plan>& plan, const QString& label);
  void wait(const std::function<bool()>& act, const QString& sentence);
  void goOn();

  ViewedPlan* viewed_;
  RenderLink* link_;
  Show show_;
  std::optional<Plan> tried_;
  QString label_;
  std::function<bool()> waiting_;  ///< false: not yet
  QSize pictureSize_{640, 800};
  Extras extras_{};
};

}  // namespace easel::app
