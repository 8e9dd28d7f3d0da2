// A widget that paints itself in units of its own: what it draws, and the hand on it, grow with the type.
//
// A unit is a pixel at the size of type that a window of 1280x800 has. draw(), the mouse and the wheel speak in units;
// sizes that layouts ask for are in pixels.
#pragma once

#include <QPainter>
#include <QWidget>

namespace easel::app {

class Painted : public QWidget {
 public:
  explicit Painted(QWidget* parent = nullptr) : QWidget(parent) {}

  /// Pixels to a unit.
  double zoom() const;
  /// Larger than the type of the window, for reading from a distance.
  void setMagnified(double by);
  double magnified() const { return magnified_; }

 protected:
  virtual void draw(QPainter& p) = 0;
  double across() const { return width() / zoom(); }
  double down() const { return height() / zoom(); }
  QRectF area() const { return {0, 0, across(), down()}; }
  QSize inPixels(double across, double down) const;

  void paintEvent(QPaintEvent*) override;
  bool event(QEvent* e) override;

 private:
  double magnified_ = 1;
  bool translating_ = false;
};

/// Words in a box. Words that may be cut (names that people gave) end in dots where they do not fit; others are
/// measured, and what does not fit is on the list.
void letter(QPainter& p, const QRectF& box, int flags, const QString& words, bool mayBeCut = false);

/// What did not fit since the list was cleared, for the test that walks through the window. Interface thread.
QStringList& cramped();

}  // namespace easel::app
