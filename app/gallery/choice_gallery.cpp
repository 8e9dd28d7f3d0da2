#include "gallery/choice_gallery.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QProgressBar>
#include <QVBoxLayout>
#include <cmath>

#include "widgets/theme.h"

namespace easel::app {

ChoiceGallery::ChoiceGallery(ViewedPlan* viewed, QWidget* parent) : QWidget(parent), viewed_(viewed) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(6, 2, 0, 0);
  all->setSpacing(2);
  auto* head = new QHBoxLayout;
  title_ = new QLabel(this);
  title_->setObjectName("galleryTitle");
  progress_ = new QProgressBar(this);
  progress_->setTextVisible(false);
  progress_->setMaximumSize(90, 5);
  progress_->setAccessibleName(tr("Pictures being made"));
  progress_->hide();
  hint_ = new QLabel(tr("Rest on one to try it, click to take it."), this);
  hint_->setObjectName("quiet");
  head->addWidget(title_);
  head->addWidget(progress_);
  head->addStretch(1);
  head->addWidget(hint_);
  all->addLayout(head);
  gallery_ = new Gallery(this);
  gallery_->setObjectName("gallery");
  gallery_->setToolTip(
      tr("Rest on a picture to try it on the easel, click or press Enter to take it, Escape to leave."));
  all->addWidget(gallery_, 1);
  connect(gallery_, &Gallery::rested, this, [this](const QString& id) {
    const int at = now_ ? now_->box->findData(id) : -1;
    if (const auto plan = with(id); plan && at >= 0 && id != gallery_->chosen())
      emit tryOut(*plan, QStringLiteral("%1: %2").arg(now_->name, now_->box->itemText(at)));
    else
      emit tryOut(viewed_->plan(), {});
  });
  connect(gallery_, &Gallery::left, this, [this] { emit tryOut(viewed_->plan(), {}); });
  connect(gallery_, &Gallery::taken, this, &ChoiceGallery::take);
  connect(&prints_, &Prints::made, gallery_, &Gallery::setPicture);
  connect(&prints_, &Prints::progressed, this, [this](int done, int of) {
    progress_->setRange(0, of);
    progress_->setValue(done);
    progress_->setVisible(done < of);
  });
}

void ChoiceGallery::add(const Pictured& pictured) {
  // Pointers into it are kept.
  const int now = now_ ? int(now_ - all_.data()) : 0;
  all_.push_back(pictured);
  now_ = &all_[size_t(now)];
  pictured.box->installEventFilter(this);
  pictured.box->opens = [this, box = pictured.box] {
    if (!isVisible()) return false;
    showFor(box);
    gallery_->setCurrent(gallery_->chosen());
    gallery_->setFocus(Qt::PopupFocusReason);
    return true;
  };
  refresh();
}

void ChoiceGallery::showFor(PicturedBox* box) {
  if (box == this->box()) return;
  for (const Pictured& p : all_)
    if (p.box == box) now_ = &p;
  gallery_->forgetPictures();
  gallery_->scrollToTop();
  refresh();
  print();
}

void ChoiceGallery::setLight(const QString& light) {
  if (light == light_) return;
  light_ = light;
  printed_.reset();
}

std::optional<Plan> ChoiceGallery::with(const QString& id) const {
  if (!now_) return {};
  try {
    const std::optional<Edit> edit = now_->edit(id);
    if (!edit) return {};
    Plan plan = viewed_->plan();
    apply(plan, *edit);
    return plan;
  } catch (const std::exception&) {
    return {};  // why is said when it is chosen
  }
}

void ChoiceGallery::take(const QString& id) {
  if (!now_) return;
  const int at = now_->box->findData(id);
  if (at < 0) return;
  emit tryOut(viewed_->plan(), {});
  now_->box->setCurrentIndex(at);
  emit now_->box->activated(at);
  emit chosen();
}

void ChoiceGallery::refresh() {
  if (!now_) return;
  title_->setText(now_->name);
  gallery_->setAccessibleName(now_->name);
  std::vector<Gallery::Item> items;
  for (int i = 0; i < now_->box->count(); ++i) {
    const QString id = now_->box->itemData(i).toString();
    if (!now_->edit(id)) continue;
    items.push_back({id, now_->box->itemText(i), now_->note ? now_->note(id) : QString()});
  }
  gallery_->setItems(items);
  gallery_->setChosen(now_->box->currentData().toString());
}

void ChoiceGallery::print() {
  if (!now_ || !isVisible()) return;
  // Steps of size, so that prints are found again in another window.
  constexpr int kStep = 24;
  QSize pixels = gallery_->printPixels();
  pixels = pixels.scaled(10'000, (pixels.height() + kStep - 1) / kStep * kStep, Qt::KeepAspectRatio);
  if (printed_ && printedFor_ == now_->box && *printed_ == viewed_->plan() && pixels.height() <= printedHeight_) return;
  printed_ = viewed_->plan();
  printedFor_ = now_->box;
  printedHeight_ = pixels.height();
  std::vector<ChoiceToPrint> choices;
  for (int i = 0; i < gallery_->count(); ++i) {
    const QString id = gallery_->item(i)->data(Qt::UserRole).toString();
    if (auto plan = with(id)) choices.push_back({id.toStdString(), std::move(*plan)});
  }
  prints_.ask(choices, now_->shows, light_.toStdString(), pixels);
}

bool ChoiceGallery::eventFilter(QObject* of, QEvent* e) {
  if (e->type() == QEvent::FocusIn)
    for (const Pictured& p : all_)
      if (p.box == of) showFor(p.box);
  return QWidget::eventFilter(of, e);
}

void ChoiceGallery::showEvent(QShowEvent* e) {
  QWidget::showEvent(e);
  refresh();
  print();
}

void ChoiceGallery::hideEvent(QHideEvent* e) {
  prints_.stop();
  printed_.reset();
  QWidget::hideEvent(e);
}

void ChoiceGallery::resizeEvent(QResizeEvent* e) {
  QWidget::resizeEvent(e);
  hint_->setVisible(width() > 330 * Theme::current().scale);
  print();
}

}  // namespace easel::app
