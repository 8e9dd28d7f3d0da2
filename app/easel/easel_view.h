// The easel: the predicted portrait on a neutral surround. The pointer is a meter.
#pragma once

#include <QImage>
#include <QPainterPath>
#include <QWidget>
#include <memory>
#include <optional>

#include "picture/renderer.h"

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
  /// Stripes where the picture is lighter than `level` (0..1 of full scale); 0: none.
  void setZebra(double level);
  double zebra() const { return zebra_; }
  /// A grey card held where the pointer is, as the picture would show it.
  void setGreyCardShown(bool on) {
    greyCard_ = on;
    update();
  }
  bool greyCardShown() const { return greyCard_; }
  /// A picture of the user's own beside the predicted one; null: none.
  void setBeside(const QImage& picture, const QString& name);
  bool hasBeside() const { return !beside_.isNull(); }
  /// What a reading shows on the picture. `dashes`: 0 strong, 1 coloured, 2 quiet.
  struct Trace {
    std::vector<std::pair<Vec3, Vec3>> lines;
    int dashes = 0;
    QString label;
  };
  struct Mark {
    QPointF pixel;  ///< of the layers
    QString label;
  };
  void setEvidence(const std::vector<Trace>& traces, std::vector<Mark> marks, const std::vector<Vec3>& places);
  bool hasEvidence() const { return !drawn_.empty() || !marks_.empty() || !places_.empty(); }
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
  void drawHistogram(QPainter& painter, const QRectF& picture, const Histogram& histogram);
  void drawMapLegend(QPainter& painter, const QRectF& picture);
  void drawPins(QPainter& painter, const QRectF& picture);
  void drawEvidence(QPainter& painter, const QRectF& picture);
  void drawBeside(QPainter& painter);
  void drawGreyCard(QPainter& painter);
  QRectF fitted(const QRectF& into, const QSizeF& size) const;
  QRectF half(bool right) const;

  std::shared_ptr<const Result> result_;
  QImage shown_, image_, clipped_, mapImage_, before_, zebraImage_, beside_;
  QString caption_, beforeName_, besideName_;
  Histogram besideHistogram_;
  struct Drawn {
    QPainterPath path;  ///< in pixels of the layers, as all of these
    int dashes;
    QString label;
    QPointF leftmost, rightmost;
  };
  std::vector<Drawn> drawn_;
  std::vector<Mark> marks_;
  std::vector<QPointF> places_;
  double zebra_ = 0;
  bool greyCard_ = false;
  Compare compare_ = Compare::Off;
  double wipe_ = 0.5;  ///< share of the picture's width that shows "before"
  bool map_ = false, histogram_ = false, pins_ = false, wiping_ = false;
  std::optional<QPointF> pointer_;
  std::optional<SpotReading> reading_;
  bool upToDate_ = true, clipping_ = false;
  bool keyboardFocus_ = false;  ///< a frame is drawn only when the keys brought the focus: the surround stays neutral
};

}  // namespace easel::app
