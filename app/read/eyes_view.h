// Two eyes, enlarged, with the clock and the letters of their catchlights.
#pragma once

#include <QImage>
#include <array>

#include "analysis/catchlights.h"
#include "analysis/eye_pictures.h"
#include "widgets/painted.h"

namespace easel::app {

/// Two eyes, enlarged, each under a clock on which the catchlights are lettered.
class EyesView : public Painted {
  Q_OBJECT
 public:
  explicit EyesView(QWidget* parent = nullptr);
  void show(const std::array<EyePicture, 2>& eyes, const Catchlights& catchlights);
  QSize minimumSizeHint() const override { return inPixels(300, 120); }
  bool hasPictures() const { return !pictures_[0].isNull() || !pictures_[1].isNull(); }

 protected:
  void draw(QPainter& p) override;

 private:
  std::array<EyePicture, 2> eyes_;
  std::array<QImage, 2> pictures_;
  Catchlights catchlights_;
};

}  // namespace easel::app
