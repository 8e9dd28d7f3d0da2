// One step of the metering run, to be read from two metres: what is on, what to set, where the meter goes, what it
// should read; what it read, and what that means. The steps stand along the top; a click goes to one.
#pragma once

#include "run/course.h"
#include "widgets/painted.h"

namespace easel::app {

class StepView : public Painted {
  Q_OBJECT

 public:
  explicit StepView(QWidget* parent = nullptr);
  /// Null: no run is on. `camera`: what to do with it when everything has been read. `byEye`: what is expected is told
  /// as the value of a grey card.
  void setCourse(const RunCourse* course, bool byEye, bool working, const QString& camera = {});
  /// What is said when no run is on, or it is over.
  void setIdle(const QString& sentence);
  QSize sizeHint() const override { return inPixels(560, 380); }
  QSize minimumSizeHint() const override { return inPixels(300, 170); }
  /// All of it in words, for whoever listens instead of looking.
  QString spoken() const;

 signals:
  void stepChosen(int step);

 protected:
  void draw(QPainter& p) override;
  void mousePressEvent(QMouseEvent* e) override;

 private:
  /// What is shown, copied: the course may be another by the time it is painted.
  struct Cell {
    QString name, state;
    enum class Mark { Open, Fine, Off, Doubt, Again, Left } mark = Mark::Open;
  };
  void drawCells(QPainter& p, const QRectF& box);
  std::vector<Cell> cells_;
  int at_ = -1;
  bool working_ = false;
  QString letter_, on_, setLabel_, set_, readLabel_, reads_, within_, where_, verdict_, idle_, note_;
  Cell::Mark mark_ = Cell::Mark::Open;
  QStringList causes_;
};

}  // namespace easel::app
