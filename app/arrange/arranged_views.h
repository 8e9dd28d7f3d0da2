// The middle of the window: views of which a stage shows some, large or small, with gaps that can be dragged. What was
// dragged is remembered by stage. One view can fill it all and is given back to its place.
#pragma once

#include <QWidget>
#include <optional>

#include "arrange/arrangement.h"

namespace easel::app {

/// What a view that can stand small does with it.
class Glanced {
 public:
  virtual ~Glanced() = default;
  /// Small: painted without what cannot be read there; a press asks for room and moves nothing.
  virtual void setGlance(bool small) = 0;
};

class ArrangedViews : public QWidget {
  Q_OBJECT

 public:
  explicit ArrangedViews(QWidget* parent = nullptr);

  /// `name` is what arrangements call it. Taken over by this widget.
  void addView(const QString& name, QWidget* view);
  QWidget* view(const QString& name) const { return views_.value(name); }
  /// The view that is, or holds, this widget; empty: none.
  QString nameOf(const QWidget* widget) const;
  /// `stage` is what the dragged sizes are remembered under.
  void arrange(const QString& stage, const Arrangement& arrangement);
  const QString& stage() const { return stage_; }
  /// One view alone, until another arrangement or giveBack().
  void fill(const QString& name);
  void giveBack();
  /// Fills with it, or gives back when it fills already; nothing for an empty name.
  void toggle(const QString& name);
  const QString& filling() const { return filling_; }
  /// More or less room for a view, in steps of a twentieth: what a hand at the keys has instead of the gaps.
  void widen(const QString& name, int steps);
  /// Places everything anew: a view wants another size now. Not done by itself, or views would move under the hand
  /// that works in them.
  void settle();
  /// Forgets what was dragged in this stage.
  void reset();

  /// What was dragged, all stages, as text for the settings; and back. What is not understood is left out.
  QString moved() const;
  void setMoved(const QString& text);

  const std::vector<Gap>& gaps() const { return placed_.gaps; }
  QSize minimumSizeHint() const override;

 signals:
  void filled(const QString& name);  ///< empty: given back

 protected:
  void resizeEvent(QResizeEvent*) override;
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent*) override;
  void mouseMoveEvent(QMouseEvent*) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  bool event(QEvent*) override;

 private:
  void orderKeys();
  Wants wantsOf(const QString& name) const;
  int gapAt(QPoint at) const;
  std::vector<double> fractions(const QString& path) const;
  void dragGap(const Gap& gap, int to);

  QHash<QString, QWidget*> views_;
  QString stage_, filling_;
  Arrangement arrangement_;
  QHash<QString, QHash<QString, std::vector<double>>> moved_;  ///< by stage, by path
  Placed placed_;
  std::optional<Gap> dragged_;
};

}  // namespace easel::app
