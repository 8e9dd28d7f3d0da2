// A page that wants to stand whole, and scrolls where there is no room for that.
#pragma once

#include <QScrollArea>

namespace easel::app {

/// A page that can stand in fewer columns where it has less room.
class Reflowing {
 public:
  virtual ~Reflowing() = default;
  virtual void fitWidth(int pixels) = 0;
};

class PageFrame : public QScrollArea {
  Q_OBJECT

 public:
  explicit PageFrame(QWidget* page, int leastHeight = 110, QWidget* parent = nullptr);
  QSize sizeHint() const override;
  QSize minimumSizeHint() const override;

 protected:
  void resizeEvent(QResizeEvent*) override;
  bool eventFilter(QObject* of, QEvent* e) override;

 private:
  void reflow();
  int leastHeight_;
};

}  // namespace easel::app
