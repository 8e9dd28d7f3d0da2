// The easel: the predicted portrait on a neutral surround. The pointer is a meter.
#pragma once

#include <QImage>
#include <memory>
#include <optional>

#include "easel/easel_tools.h"
#include "easel/evidence.h"
#include "rendering/renderer.h"
#include "widgets/fields.h"
#include "widgets/painted.h"

namespace easel::app {

class EaselView : public Painted {
  Q_OBJECT

 public:
  explicit EaselView(QWidget* parent = nullptr);
  void setResult(std::shared_ptr<const Result> result, bool upToDate);
  void setCaption(const QString& caption) {
    caption_ = caption;
    update();
  }
  void setTools(const EaselTools& tools);
  const EaselTools& tools() const { return tools_; }
  /// A picture of the user's own beside the predicted one; null: none.
  void setBeside(const QImage& picture, const QString& name);
  bool hasBeside() const { return !beside_.isNull(); }
  /// Where that picture stands in the widget.
  QRectF besideRect() const { return beside_.isNull() ? QRectF() : fitted(half(true), beside_.size()); }
  /// What a stage lays over the picture.
  EaselEvidence* evidence() { return evidence_; }
  /// What stands now is kept as "before", to compare with whatever is shown later.
  void keepBefore(const QString& name);
  const QImage& before() const { return before_; }  ///< null: none
  enum class Compare { Off, Wipe, Flip };
  void setCompare(Compare mode);
  Compare compare() const { return compare_; }
  double wipe() const { return wipe_; }
  /// Larger than it fits, round a place of the picture (0..1 across and down); 1: whole.
  void lookCloser(double by, QPointF at);
  double closer() const { return closer_; }
  /// The eyes as large as they can be shown; again: the whole picture.
  void lookAtEyes();
  /// For another screen: the picture and nothing else.
  void setBare(bool bare);
  /// The picture at the pixels that are shown, as far as it has come; the ordinary one where it has not.
  QImage sharpPicture() const;
  bool sharpDone() const { return sharpDone_; }
  const SharpWish& wish() const { return wish_; }
  QSize sizeHint() const override { return inPixels(560, 640); }
  QSize minimumSizeHint() const override { return inPixels(240, 240); }
  const QImage& picture() const { return image_; }
  /// Where the picture stands in the widget.
  QRectF pictureRect() const;
  const std::optional<SpotReading>& reading() const { return reading_; }
  /// How far the picture has settled, 0 nothing yet to 1: no pass would change it to the eye.
  double settled() const;

 signals:
  /// What would have to be traced for every pixel of the screen to be one of the picture.
  void sharpWanted(const easel::SharpWish& wish);
  void roomWanted();                      ///< double click
  void pointed(const QString& sentence);  ///< the reading in words, for the status line; empty when off the picture
  void pinned(const easel::PinnedSpot& spot);  ///< Shift+click
  void besideRead(const QString& sentence);    ///< a click in the picture beside
  void toolsChanged();

 protected:
  void draw(QPainter& p) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void mouseDoubleClickEvent(QMouseEvent*) override { emit roomWanted(); }
  void leaveEvent(QEvent*) override;
  void wheelEvent(QWheelEvent*) override;
  void resizeEvent(QResizeEvent*) override;
  void showEvent(QShowEvent*) override;
  void hideEvent(QHideEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void focusInEvent(QFocusEvent*) override;

 private:
  void readThere();
  void readBeside(QPointF at);
  void markClipping();
  void markZebra();
  void drawReading(QPainter& painter);
  void drawHistogram(QPainter& painter, const QRectF& picture, const Histogram& histogram);
  void drawMapLegend(QPainter& painter, const QRectF& picture);
  void drawBeside(QPainter& painter);
  void drawGreyCard(QPainter& painter);
  QRectF fitted(const QRectF& into, const QSizeF& size) const;
  QRectF half(bool right) const;
  void wishSharp();
  void takeTiles();
  double mostCloser() const;

  std::shared_ptr<const Result> result_;
  QImage shown_, image_, clipped_, mapImage_, before_, zebraImage_, beside_;
  QString caption_, beforeName_, besideName_;
  std::optional<QPointF> besideAt_;  ///< 0..1 across and down
  Histogram besideHistogram_;
  EaselEvidence* evidence_;
  EaselTools tools_;
  Compare compare_ = Compare::Off;
  double wipe_ = 0.5;  ///< share of the picture's width that shows "before"
  bool wiping_ = false;
  std::optional<QPointF> pointer_;
  std::optional<SpotReading> reading_;
  bool upToDate_ = true;
  double closer_ = 1;
  QPointF centre_{0.5, 0.5};  ///< of what is looked at, when closer
  std::optional<QPointF> panning_;
  SharpWish wish_, sharpOf_;
  std::uint64_t sharpSerial_ = 0;
  std::vector<std::pair<QPoint, QImage>> tiles_;
  bool sharpDone_ = false, bare_ = false;
  WheelNotches wheel_;
  bool keyboardFocus_ = false;  ///< a frame is drawn only when the keys brought the focus: the surround stays neutral
};

}  // namespace easel::app
