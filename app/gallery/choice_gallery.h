// The pictures beside a page's boxes: what each choice of the box in use would give, under the plan's own lights.
//
// Resting on a picture tries it on the easel, a click or Enter takes it. The box stays what it is, a plain list.
// Interface thread.
#pragma once

#include <QComboBox>
#include <QLabel>
#include <functional>

#include "document/viewed_plan.h"
#include "gallery/gallery.h"
#include "gallery/prints.h"

class QProgressBar;

namespace easel::app {

/// A box of choices that opens its pictures instead of a list where there are some.
class PicturedBox : public QComboBox {
 public:
  using QComboBox::QComboBox;
  void showPopup() override {
    if (!opens || !opens()) QComboBox::showPopup();
  }
  std::function<bool()> opens;  ///< false: the plain list
};

class ChoiceGallery : public QWidget {
  Q_OBJECT

 public:
  explicit ChoiceGallery(ViewedPlan* viewed, QWidget* parent = nullptr);

  struct Pictured {
    PicturedBox* box;
    QString name;
    /// What choosing `id` does to the plan; nothing: it cannot be tried.
    std::function<std::optional<Edit>(const QString& id)> edit;
    PrintShows shows = PrintShows::Face;
    /// Under the name: what a picture does not say.
    std::function<QString(const QString& id)> note = {};
  };
  void add(const Pictured& pictured);
  void showFor(PicturedBox* box);
  PicturedBox* box() const { return now_ ? now_->box : nullptr; }
  Gallery* gallery() const { return gallery_; }
  /// Of OneLight.
  void setLight(const QString& light);
  /// The plan has changed: names, notes and what is chosen. The pictures stand until print().
  void refresh();
  /// Makes the pictures of the plan as it is, when they can be seen.
  void print();
  bool working() const { return prints_.working(); }

 signals:
  /// Without a name: not any more.
  void tryOut(const easel::Plan& plan, const QString& name);
  void chosen();

 protected:
  bool eventFilter(QObject* of, QEvent* e) override;
  void showEvent(QShowEvent* e) override;
  void hideEvent(QHideEvent* e) override;
  void resizeEvent(QResizeEvent* e) override;

 private:
  std::optional<Plan> with(const QString& id) const;
  void take(const QString& id);

  ViewedPlan* viewed_;
  std::vector<Pictured> all_;
  const Pictured* now_ = nullptr;
  QString light_;
  QLabel *title_, *hint_;
  QProgressBar* progress_;
  Gallery* gallery_;
  Prints prints_;
  std::optional<Plan> printed_;  ///< that the pictures are of
  PicturedBox* printedFor_ = nullptr;
  int printedHeight_ = 0;
};

}  // namespace easel::app
