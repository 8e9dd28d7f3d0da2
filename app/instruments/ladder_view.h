// The stop ladder: stops left to right, the target aperture in the middle, a row per light: what it reaches (bar),
// where it should be (target, draggable), where it was metered (dot). List of lights and power calculator in one.
#pragma once

#include <QWidget>
#include <memory>

#include "instruments/instrument.h"
#include "meter/answers.h"

namespace easel::app {

class LadderView : public Instrument {
  Q_OBJECT

 public:
  explicit LadderView(ViewedPlan* viewed, QWidget* parent = nullptr);
  void setAnswers(std::shared_ptr<const Answers> answers) {
    answers_ = std::move(answers);
    repaintSoon();
  }
  QSize sizeHint() const override;
  QSize minimumSizeHint() const override;
  QPointF targetPlace(const Light& light) const;
  double xOfStops(double stops) const;
  QRect rowOf(const QString& id) const;  ///< in pixels of the widget

  /// Puts the light on its target at once (target and dot together).
  void matchTarget(const QString& id);
  /// Target `stops` against the key, and the power that gives it.
  void setTarget(const QString& id, double stops, const QString& mergeKey);

 protected:
  void draw(QPainter& p) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void mouseDoubleClickEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  QRectF rowRect(size_t index) const;
  double rowHeight() const;
  double top() const;    ///< of the first row
  double left() const;   ///< room for the name
  double right() const;  ///< ... and for the power
  QString underPower(const Light& light, const LightAnswer* answer, QColor* ink) const;
  double stopsOfX(double x) const;
  int lightAt(QPointF at) const;
  void nudgePower(int steps);
  void drawRungs(QPainter& p);
  void drawName(QPainter& p, const Light& light, const QRectF& row);
  void drawReach(QPainter& p, const Light& light, const LightAnswer& answer, double barY);
  void drawTarget(QPainter& p, const Light& light);
  void drawPower(QPainter& p, const Light& light, const LightAnswer* answer, const QRectF& row);

  std::shared_ptr<const Answers> answers_;
  QString dragged_;
};

}  // namespace easel::app
