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
  /// Bands of one stop instead of the picture; the map must have been asked for with the picture.
  void setStopsMapShown(bool on);
  bool stopsMapShown() const { return map_; }
  void setHistogramShown(bool on);
  bool histogramShown() const { return histogram_; }
  void setPinsShown(bool on) {
    pins_ = on;
    update();
  }
  /// What stands now is kept as "before", to compare with whatever is shown later.
  void keepBefore(const QString& name);
  bool hasBefore() const { return !before_.isNull(); }
  enum class Compare { Off, Wipe, Flip };
  void setCompare(Compare mode);
  Compare compare() const { return compare_; }
  double wipe() const { return wipe_; }
  QSize sizeHint() const override { return {560, 640}; }
  QSize minimumSizeHint() const override { return {320, 300}; }
  const QImage& picture() const { return image_; }
  /// Where the picture stands in the widget.
  QRectF pictureRect() const;
  const std::optional<SpotReading>& reading() const { return reading_; }

 signals:
  void pointed(const QString& sentence);  ///< the reading in words, for the status line; empty when off the picture
  void pinned(const easel::PinnedSpot& spot);  ///< Shift+click

 protected:
  void paintEvent(QPaintEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void leaveEvent(QEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void focusInEvent(QFocusEvent*) override;

 private:
  void readThere();
  void drawReading(QPainter& painter);
  void drawHistogram(QPainter& painter, const QRectF& picture);
  void drawMapLegend(QPainter& painter, const QRectF& picture);
  void drawPins(QPainter& painter, const QRectF& picture);

  std::shared_ptr<const Result> result_;
  QImage image_, clipped_, mapImage_, before_;
  QString caption_, beforeName_;
  Compare compare_ = Compare::Off;
  double wipe_ = 0.5;  ///< share of the picture's width that shows "before"
  bool map_ = false, histogram_ = false, pins_ = false, wiping_ = false;
  std::optional<QPointF> pointer_;
  std::optional<SpotReading> reading_;
  bool upToDate_ = true, clipping_ = false;
  bool keyboardFocus_ = false;  ///< a frame is drawn only when the keys brought the focus: the surround stays neutral
};

}  // namespace easel::app
