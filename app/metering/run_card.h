// The card of the stage Run: before the run, one step at a time, and what has been read so far. One key goes on:
// Enter or Space, on the page or on its large button; a typed reading goes first.
#pragma once

#include "cards/card.h"
#include "controllers/metering_run.h"
#include "metering/step_view.h"
#include "run/reflected.h"

class QCheckBox;
class QComboBox;
class QLineEdit;
class QPushButton;
class QTableWidget;

namespace easel::app {

class RunCard : public Card {
  Q_OBJECT

 public:
  RunCard(ViewedPlan* viewed, MeteringRun* run, QWidget* parent = nullptr);
  void refresh() override;
  void changeEvent(QEvent* e) override;
  StepView* step() { return step_; }
  /// What a spot meter would read, everything on.
  void setReflected(const std::vector<ReflectedReading>& readings);
  /// What the large key does when it is pressed now; the words on it.
  enum class KeyDoes { Begin, Read, Take, SetAsTold, SetCamera, GoOn, End };
  KeyDoes keyDoes() const { return does_; }
  /// What Enter is for when one comes here.
  QWidget* begins() const;
  bool byEye() const { return byEye_; }
  /// Called from elsewhere: as if it had been typed.
  void say(const QString& words);
  /// With a meter that can be triggered the key triggers it; empty: there is none.
  void setTrigger(std::function<void()> trigger);
  /// The same for a camera, at the step that wants a picture.
  void setCamera(std::function<void()> camera);
  /// The picture of this step is there.
  void pictureTaken();

 public slots:
  void pressKey();

 signals:
  void byEyeChanged(bool on);
  void devicesWanted();

 protected:
  bool eventFilter(QObject* of, QEvent* e) override;
  void showEvent(QShowEvent*) override;

 private:
  void beforePage();
  void stepPage();
  void soFarPage();
  void runChanged();
  void tell();
  void fillTable();
  void begin();
  void askNote();

  MeteringRun* run_;
  QLineEdit *studio_, *meter_, *said_;
  NumberField* tolerance_;
  QComboBox* school_;
  QCheckBox *eye_, *journal_;
  QPushButton *begin_, *key_, *back_, *skip_, *note_, *end_;
  StepView* step_;
  QLabel* order_;
  QTableWidget *table_, *reflected_;
  KeyDoes does_ = KeyDoes::Begin;
  bool byEye_ = false, over_ = false;
  std::function<void()> trigger_, camera_;
  bool pictured_ = false;
};

}  // namespace easel::app
