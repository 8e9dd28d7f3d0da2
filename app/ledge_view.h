// The ledge under the easel: small prints in building order. Each light alone, and the picture as it grows.
#pragma once

#include <QImage>
#include <QWidget>
#include <memory>
#include <vector>

#include "light/renderer.h"

namespace easel::app {

class LedgeView : public QWidget {
  Q_OBJECT

 public:
  explicit LedgeView(QWidget* parent = nullptr);
  void setResult(std::shared_ptr<const Result> result);
  void setShow(const Show& show) {
    show_ = show;
    update();
  }
  QSize sizeHint() const override { return {560, 132}; }
  QSize minimumSizeHint() const override { return {200, 110}; }
  QRectF printRect(size_t index) const;
  /// Each light alone, or the picture as it grows light by light.
  void setBuildUp(bool on);
  bool buildUp() const { return buildUp_; }
  size_t printCount() const { return prints_.size(); }

 signals:
  void chosen(const easel::Show& show);

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent*) override;

 private:
  struct Print {
    QString label;
    QImage image;
    Show show;
    bool off = false;
  };
  void choose(size_t index);
  std::vector<Print> prints_;
  Show show_;
  std::shared_ptr<const Result> result_;
  bool buildUp_ = false;
};

}  // namespace easel::app
