// The dial: the set from above as a clock face. Sitter at the hub, camera at six, backdrop at twelve; units to scale
// with their outline and their beam. Dragged round the ring (hour) or along the ray (distance).
#pragma once

#include <QWidget>
#include <memory>

#include "arrange/arranged_views.h"
#include "instruments/instrument.h"
#include "instruments/unit_painting.h"
#include "rendering/renderer.h"
#include "widgets/fields.h"

namespace easel::app {

class DialView : public Instrument, public Glanced {
  Q_OBJECT

 public:
  explicit DialView(ViewedPlan* viewed, QWidget* parent = nullptr);
  QSize sizeHint() const override { return inPixels(380, 330); }
  QSize minimumSizeHint() const override { return glance_ ? inPixels(150, 120) : inPixels(240, 180); }
  /// Place of a light's handle in the widget, and the other way (metres, x to camera right, z to the camera).
  QPointF handleOf(const Light& light) const;
  QPointF handleOf(const Panel& panel) const;
  QPointF toWidget(double x, double z) const;
  QPointF toStudio(QPointF widget) const;

  void setGlance(bool small) override;

 signals:
  void roomWanted();  ///< double click on the ground; a press, as a glance
  void panelSelected(const QString& number);
  void pinned(const easel::PinnedSpot& spot);  ///< Shift+click where no light stands

 protected:
  void draw(QPainter& p) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void mouseDoubleClickEvent(QMouseEvent*) override;
  void wheelEvent(QWheelEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  void fit();
  void change(const Light& light, const QString& label, const QString& key);
  void drawGround(QPainter& p);
  void drawLight(QPainter& p, const Light& light);
  void drawPanel(QPainter& p, const Panel& panel);
  bool panelKey(QKeyEvent* e, const Panel& panel);

  QString dragged_;
  WheelNotches wheel_;
  Still still_;
  bool draggingPanel_ = false, glance_ = false;
  bool onlyRing_ = false, onlyRay_ = false;
  QPointF grabOffset_;
  double scale_ = 80, originX_ = 0, originY_ = 0;
};

}  // namespace easel::app
