// The easel: the predicted portrait on a neutral surround. The pointer is a meter.
#pragma once

#include <QImage>
#include <QWidget>
#include <memory>
#include <optional>

#include "light/renderer.h"

namespace easel::app {

class EaselView : public QWidget {
  Q_OBJECT

 public:
  explicit EaselView(QWidget* parent = nullptr);
  void setResult(std::shared_ptr<const Result> result, bool upToDate);
  void setCaption(const QString& caption) {
    caption_ = caption;
    update();
  }
  void setClippingShown(bool on);
  bool clippingShown() const { return clipping_; }
  QSize sizeHint() const override { return {560, 640}; }
  QSize minimumSizeHint() const override { return {320, 300}; }
  const QImage& picture() const { return image_; }
  /// Where the picture stands in the widget.
  QRectF pictureRect() const;
  const std::optional<SpotReading>& reading() const { return reading_; }

 signals:
  void pointed(const QString& sentence);  ///< the reading in words, for the status line; empty when off the picture

 protected:
  void paintEvent(QPaintEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void leaveEvent(QEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void focusInEvent(QFocusEvent*) override;

 private:
  void readThere();
  void drawReading(QPainter& painter);

  std::shared_ptr<const Result> result_;
  QImage image_, clipped_;
  QString caption_;
  std::optional<QPointF> pointer_;
  std::optional<SpotReading> reading_;
  bool upToDate_ = true, clipping_ = false;
  bool keyboardFocus_ = false;  ///< a frame is drawn only when the keys brought the focus: the surround stays neutral
};

}  // namespace easel::app
