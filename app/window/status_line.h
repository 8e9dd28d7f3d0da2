// The line under a plan window: what there is to say, what the pointer reads, a button that offers something, and how
// many sitters are ready. Interface thread.
#pragma once

#include <QStatusBar>
#include <functional>

#include "controllers/sitters_arriving.h"

class QLabel;
class QPushButton;

namespace easel::app {

class FittedLabel;

class StatusLine : public QStatusBar {
  Q_OBJECT

 public:
  explicit StatusLine(QWidget* parent = nullptr);

  void say(const QString& sentence, bool problem = false);
  QString words() const;
  /// A refusal or a problem is of the plan as it was: it goes when the plan changes.
  void dropProblem();
  /// What is wrong with the picture, until there is more to say; empty: nothing is, and what was goes.
  void sayOfPicture(const QString& problem);
  void sayPointed(const QString& reading);
  /// A button; pressed, `work` is done and the button goes.
  void offer(const QString& text, const QString& tip, const std::function<void()>& work);

 signals:
  void sitterCame();

 private:
  enum class Kind { Plain, Problem, OfPicture };
  void put(const QString& sentence, Kind kind);

  FittedLabel *notice_, *pointer_;
  Kind kind_ = Kind::Plain;
  QLabel* preparing_;
  QPushButton* offer_;
  std::function<void()> offered_;
  SittersArriving sitters_;
};

}  // namespace easel::app
