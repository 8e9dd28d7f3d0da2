// The height rail: the same units from the side, unrolled, so that every distance from the sitter is true. Height and
// tilt are dragged here: what decides between butterfly and horror.
#pragma once

#include <QWidget>

#include "arrange/arranged_views.h"
#include "instruments/instrument.h"
#include "instruments/unit_painting.h"
#include "widgets/fields.h"

namespace easel::app {

class RailView : public Instrument, public Glanced {
  Q_OBJECT

 public:
  explicit RailView(ViewedPlan* viewed, QWidget* parent = nullptr);
  QSize sizeHint() const override { return inPixels(330, 330); }
  QSize minimumSizeHint() const override { return glance_ ? inPixels(150, 120) : inPixels(220, 180); }
  QPointF handleOf(const Light& light) const;  ///< centre of the modifier: height
  QPointF handleOf(const Panel& panel) const;
  QPointF tiltHandleOf(const Light& light) const;  ///< tip of the axis: tilt

  void setGlance(bool small) override;

 signals:
  void roomWanted();  ///< double click on the ground; a press, as a glance
  void panelSelected(const QString& number);

 protected:
  void draw(QPainter& p) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void mouseDoubleClickEvent(QMouseEvent*) override;
  void wheelEvent(QWheelEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  /// Within its range and the room.
  double underCeiling(const char* range, double height) const;
  void fit();
  QPointF toWidget(double along, double height) const { return {originX_ + along * scale_, floorY_ - height * scale_}; }
  void drawGround(QPainter& p);
  void drawLight(QPainter& p, const Light& light);
  void drawPanel(QPainter& p, const Panel& panel);

  QString dragged_;
  WheelNotches wheel_;
  Still still_;
  bool draggingPanel_ = false, glance_ = false;
  bool tilting_ = false;
  double grab_ = 0;
  double scale_ = 100, originX_ = 80, floorY_ = 300;
};

}  // namespace easel::app
