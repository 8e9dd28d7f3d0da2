#include "gallery/gallery.h"

#include <QKeyEvent>
#include <QPainter>
#include <QStyledItemDelegate>
#include <algorithm>

#include "widgets/painted.h"
#include "widgets/theme.h"

namespace easel::app {
namespace {

constexpr int kId = Qt::UserRole, kNote = Qt::UserRole + 1;
constexpr int kRests = 250;                              // ms until a pointer that passes by counts as resting
constexpr double kShape = 0.8, kMost = 200;              // of a print: width over height, height in units
constexpr double kEdge = 4, kNameHeight = 26, kGap = 4;  // units
}  // namespace

class GalleryPainter : public QStyledItemDelegate {
 public:
  explicit GalleryPainter(Gallery* of) : QStyledItemDelegate(of), of_(of) {}

  QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return of_->gridSize(); }

  void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const Theme& t = Theme::current();
    const double s = t.scale;
    const QString id = index.data(kId).toString();
    const bool chosen = id == of_->chosen(), cursor = of_->hasFocus() && index == of_->currentIndex(),
               under = option.state & QStyle::State_MouseOver;
    const QSizeF size = of_->print_ * s;
    const QRectF print(QPointF(option.rect.center().x() + 0.5 - size.width() / 2, option.rect.top() + kEdge * s), size);
    p->save();
    p->setRenderHints(QPainter::SmoothPixmapTransform | QPainter::Antialiasing);
    p->fillRect(print, t.surround);
    if (const auto image = of_->pictures_.constFind(id); image != of_->pictures_.constEnd() && !image->isNull()) {
      const QSizeF fits = QSizeF(image->size()).scaled(size, Qt::KeepAspectRatio);
      p->drawImage(QRectF(print.center() - QPointF(fits.width(), fits.height()) / 2, fits), *image);
    }
    // By the frame's weight and the strong name, not by colour alone.
    if (chosen || cursor || under) {
      p->setPen(
          QPen(chosen ? t.accent : t.text, (chosen ? 3 : 1.5) * s, cursor && !chosen ? Qt::DashLine : Qt::SolidLine));
      p->setBrush(Qt::NoBrush);
      p->drawRect(print.adjusted(-s, -s, s, s));
      if (chosen && cursor) {
        p->setPen(QPen(t.text, s, Qt::DashLine));
        p->drawRect(print.adjusted(2 * s, 2 * s, -2 * s, -2 * s));
      }
    }
    const QRectF words(option.rect.left() + 1, print.bottom() + 2 * s, option.rect.width() - 2, of_->words_ * s);
    p->setFont(typeface(8, chosen));
    p->setPen(t.text);
    const QString name = index.data(Qt::DisplayRole).toString(), note = index.data(kNote).toString();
    const QFontMetricsF m(p->font(), p->device());
    // Three lines for both: the name has two where it needs them, the note what is left.
    const QString called = twoLines(m, name, words.width());
    p->drawText(words, Qt::AlignHCenter | Qt::AlignTop, called);
    if (!note.isEmpty()) {
      p->setFont(typeface(8));
      p->setPen(t.quiet);
      const QFontMetricsF n(p->font(), p->device());
      const bool two = called.contains('\n');
      p->drawText(words.adjusted(0, m.height() * (two ? 2 : 1), 0, 0), Qt::AlignHCenter | Qt::AlignTop,
                  two ? n.elidedText(note, Qt::ElideRight, words.width()) : twoLines(n, note, words.width()));
    }
    p->restore();
  }

 private:
  static QString twoLines(const QFontMetricsF& m, const QString& name, double width) {
    if (m.horizontalAdvance(name) <= width) return name;
    int cut = -1;
    for (int i = 0; i < name.size(); ++i)
      if (name[i] == ' ' && m.horizontalAdvance(name.left(i)) <= width) cut = i;
    if (cut < 0) return m.elidedText(name, Qt::ElideRight, width);
    return name.left(cut) + '\n' + m.elidedText(name.mid(cut + 1), Qt::ElideRight, width);
  }

  Gallery* of_;
};

Gallery::Gallery(QWidget* parent) : QListWidget(parent) {
  setViewMode(QListView::IconMode);
  setResizeMode(QListView::Adjust);
  setMovement(QListView::Static);
  setUniformItemSizes(true);
  setSelectionMode(QAbstractItemView::NoSelection);
  setMouseTracking(true);
  setFrameShape(QFrame::NoFrame);
  setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setItemDelegate(new GalleryPainter(this));
  viewport()->setAutoFillBackground(false);
  rest_.setSingleShot(true);
  rest_.setInterval(kRests);
  connect(&rest_, &QTimer::timeout, this, [this] {
    if (resting_ == tried_) return;
    tried_ = resting_;
    emit rested(tried_);
  });
  connect(this, &QListWidget::itemEntered, this, [this](QListWidgetItem* item) { restOn(item->data(kId).toString()); });
  connect(this, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
    rest_.stop();
    tried_.clear();
    emit taken(item->data(kId).toString());
  });
  fitGrid();
}

void Gallery::setItems(const std::vector<Item>& items) {
  const bool notes = std::any_of(items.begin(), items.end(), [](const Item& i) { return !i.note.isEmpty(); });
  words_ = notes ? kNameHeight + 16 : kNameHeight;
  bool same = int(items.size()) == count();
  for (int i = 0; same && i < count(); ++i) {
    const Item& now = items[size_t(i)];
    same = item(i)->data(kId) == now.id && item(i)->text() == now.name;
    if (same) item(i)->setData(kNote, now.note);
  }
  if (same) return;
  const QString kept = current();
  clear();
  for (const Item& i : items) {
    auto* item = new QListWidgetItem(i.name);
    item->setData(kId, i.id);
    item->setData(kNote, i.note);
    item->setToolTip(i.note.isEmpty() ? i.name : i.name + QStringLiteral(": ") + i.note);
    addItem(item);
  }
  fitGrid();
  setCurrent(kept);
}

void Gallery::setChosen(const QString& id) {
  if (id == chosen_) return;
  chosen_ = id;
  for (int i = 0; i < count(); ++i)
    item(i)->setData(Qt::AccessibleTextRole,
                     item(i)->data(kId) == id ? tr("%1, chosen").arg(item(i)->text()) : item(i)->text());
  viewport()->update();
}

QString Gallery::current() const { return currentItem() ? currentItem()->data(kId).toString() : QString(); }

void Gallery::setCurrent(const QString& id) {
  for (int i = 0; i < count(); ++i)
    if (item(i)->data(kId) == id) return setCurrentRow(i);
}

void Gallery::setPicture(const QString& id, const QImage& picture) {
  pictures_[id] = picture;
  for (int i = 0; i < count(); ++i)
    if (item(i)->data(kId) == id) update(indexFromItem(item(i)));
}

void Gallery::forgetPictures() {
  pictures_.clear();
  viewport()->update();
}

void Gallery::setLeast(double units) {
  least_ = units;
  fitGrid();
}

QSize Gallery::printPixels() const { return (print_ * Theme::current().scale * devicePixelRatioF()).toSize(); }

// As large as all of them can be seen, or as can be judged when they cannot.
void Gallery::fitGrid() {
  const double s = Theme::current().scale, wide = (width() - 18) / s, high = height() / s;
  double tall = kMost;
  const auto cell = [&](double t) { return QSizeF(kShape * t + 2 * kEdge + kGap, t + kEdge + words_ + kGap); };
  for (; tall > least_; tall -= 2) {
    const int columns = int(wide / cell(tall).width());
    if (columns > 0 && (count() + columns - 1) / columns * cell(tall).height() <= high) break;
  }
  print_ = {kShape * tall, tall};
  // The names take the room that is left between the prints, so that the row is full.
  const int columns = std::clamp(int(wide / cell(tall).width()), 1, std::max(1, count()));
  const double across = std::min(wide / columns, 1.6 * cell(tall).width());
  setGridSize((QSizeF(std::max(across, cell(tall).width()), cell(tall).height()) * s).toSize());
}

QSize Gallery::sizeHint() const { return (QSizeF(320, 230) * Theme::current().scale).toSize(); }
QSize Gallery::minimumSizeHint() const { return (QSizeF(110, 130) * Theme::current().scale).toSize(); }

void Gallery::restOn(const QString& id) {
  resting_ = id;
  rest_.start();
}

void Gallery::leave() {
  rest_.stop();
  resting_.clear();
  if (tried_.isEmpty()) return;
  tried_.clear();
  emit left();
}

void Gallery::keyPressEvent(QKeyEvent* e) {
  switch (e->key()) {
    case Qt::Key_Return:
    case Qt::Key_Enter:
    case Qt::Key_Space:
      if (currentItem()) {
        rest_.stop();
        tried_.clear();
        emit taken(current());
      }
      return;
    case Qt::Key_Escape:
      if (tried_.isEmpty()) return e->ignore();
      return leave();
    default:
      break;
  }
  const QString before = current();
  QListWidget::keyPressEvent(e);
  if (current() != before) restOn(current());
}

void Gallery::leaveEvent(QEvent* e) {
  leave();
  QListWidget::leaveEvent(e);
}

void Gallery::focusOutEvent(QFocusEvent* e) {
  leave();
  QListWidget::focusOutEvent(e);
  viewport()->update();
}

void Gallery::resizeEvent(QResizeEvent* e) {
  fitGrid();
  QListWidget::resizeEvent(e);
}

void Gallery::changeEvent(QEvent* e) {
  QListWidget::changeEvent(e);
  if (e->type() == QEvent::FontChange || e->type() == QEvent::StyleChange) fitGrid();
}

}  // namespace easel::app
