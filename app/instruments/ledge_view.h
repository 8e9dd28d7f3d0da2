// The ledge under the easel: small prints in building order. Each light alone, the picture as it grows, the set at five
// ratios, or a series of one thing varied.
#pragma once

#include <QImage>
#include <QWidget>
#include <memory>
#include <vector>

#include "instruments/instrument.h"
#include "rendering/renderer.h"

class QButtonGroup;

namespace easel::app {

class LedgeView : public Instrument {
  Q_OBJECT

 public:
  enum class Mode { Alone, BuildUp, Ratios, Series };

  explicit LedgeView(ViewedPlan* viewed, QWidget* parent = nullptr);
  void setResult(std::shared_ptr<const Result> result);
  void setSeries(std::vector<SeriesPicture> series);
  const std::vector<SeriesPicture>& series() const { return series_; }
  void setShow(const Show& show) {
    show_ = show;
    update();
  }
  /// The print of this label is the one that the easel shows as a try-out; empty for none.
  void setTried(const QString& label) {
    tried_ = label;
    update();
  }
  QSize sizeHint() const override { return inPixels(560, 136); }
  QSize minimumSizeHint() const override { return inPixels(200, 118); }
  QRectF printRect(size_t index) const;
  void setMode(Mode mode);
  Mode mode() const { return mode_; }
  size_t printCount() const { return prints_.size(); }

 signals:
  void chosen(const easel::Show& show);
  void modeChosen(easel::app::LedgeView::Mode mode);
  /// A print of another plan than the open one: to be shown, not yet taken. Label empty: back to the open plan.
  void tried(const easel::Plan& plan, const QString& label);
  void taken(const easel::Plan& plan, const QString& label);
  void moved(const QString& light, int place);  ///< dragged to another place in the building order

 protected:
  /// Prints of the plan before are not offered any more.
  void forget() override {
    result_.reset();
    prints_.clear();
    update();
  }
  void draw(QPainter& p) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void mouseDoubleClickEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;
  void resizeEvent(QResizeEvent*) override;

 private:
  struct Print {
    QString label;
    QImage image;
    Show show;
    bool off = false;
    QString light;                     ///< letter, when it can be dragged
    std::shared_ptr<const Plan> plan;  ///< ratios and series
  };
  void rebuild();
  double column() const;
  void makePrints();
  void choose(size_t index);
  bool isShown(const Print& print) const;
  int printAt(QPointF at) const;
  int placeFor(QPointF at) const;

  std::vector<Print> prints_;
  std::vector<SeriesPicture> series_;
  Show show_;
  QString tried_;
  std::shared_ptr<const Result> result_;
  Mode mode_ = Mode::Alone;
  QButtonGroup* modes_;
  QWidget* column_;
  int pressed_ = -1;
  bool dragging_ = false;
  QPointF pressedAt_, pointer_;
};

}  // namespace easel::app
