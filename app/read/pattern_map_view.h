// The map of the key: every place round this face, in fields by the lighting pattern that the key makes from there.
//
// Across: degrees round from the nose; up: degrees over the face. The key is dragged on it, at the distance that it
// has, and the light in the plan goes with it; the other lights and the lens are marked. Hatched: no room for the
// light.
#pragma once

#include <QImage>
#include <memory>
#include <optional>

#include "analysis/map.h"
#include "instruments/instrument.h"
#include "instruments/unit_painting.h"

namespace easel::app {

class PatternMapView : public Instrument {
  Q_OBJECT

 public:
  explicit PatternMapView(ViewedPlan* viewed, QWidget* parent = nullptr);
  /// Null: there is none of this plan yet.
  void setMap(std::shared_ptr<const KeyMap> map);
  const std::shared_ptr<const KeyMap>& map() const { return map_; }
  /// In units of the widget, and back.
  QPointF pointOf(FaceDirection place) const;
  FaceDirection placeAt(QPointF at) const;
  /// Of the key as the plan has it now.
  std::optional<FaceDirection> keyPlace() const;

  QSize sizeHint() const override { return inPixels(330, 230); }
  QSize minimumSizeHint() const override { return inPixels(230, 130); }

 protected:
  void draw(QPainter& p) override;
  void forget() override { setMap(nullptr); }
  void mousePressEvent(QMouseEvent* e) override;
  void mouseMoveEvent(QMouseEvent* e) override;
  void mouseReleaseEvent(QMouseEvent* e) override;
  void leaveEvent(QEvent* e) override;
  void keyPressEvent(QKeyEvent* e) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  struct Field {
    FacePattern pattern;
    FaceDirection middle;
    double wide, tall;  ///< degrees, of the row or the column through its middle; the other is 0
  };
  QRectF plot() const;
  void drawFields(QPainter& p);
  void drawScales(QPainter& p);
  void drawLights(QPainter& p);
  QString foot() const;
  QString said(FaceDirection place) const;
  QString patternAt(FaceDirection place) const;
  std::vector<Field> fields() const;
  void moveKey(FaceDirection to);

  std::shared_ptr<const KeyMap> map_;
  std::vector<Field> fields_;
  QImage tones_;
  Still ground_;
  int maps_ = 0;                        ///< so many have been set
  std::optional<FaceDirection> under_;  ///< the pointer
  bool dragging_ = false;
};

}  // namespace easel::app
