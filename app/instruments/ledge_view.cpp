#include "instruments/ledge_view.h"

#include <QButtonGroup>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include "instruments/unit_painting.h"
#include "render/picture_image.h"
#include "widgets/theme.h"
#include "widgets/turns.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {
constexpr double kChoice = 88;  // the choice of what the ledge shows
}  // namespace

LedgeView::LedgeView(ViewedPlan* viewed, QWidget* parent)
    : Instrument(
          viewed, tr("Ledge: prints of each light alone"),
          tr("Click a print to see it large; click it again to go back. Drag a light's print to change the building "
             "order.\nA ratio or a step of a series is applied with a double click or Enter."),
          parent) {
  modes_ = new QButtonGroup(this);
  column_ = new QWidget(this);
  auto* box = new QVBoxLayout(column_);
  box->setContentsMargins(6, 5, 2, 5);
  box->setSpacing(3);
  const QString names[] = {tr("Alone"), tr("One by one"), tr("Ratios"), tr("Series")};
  const QString tips[] = {tr("Each light by itself"), tr("The picture as it grows, light by light (B)"),
                          tr("This set at 1:1 to 16:1 (R)"), tr("One thing varied (Ctrl+R)")};
  for (int i = 0; i < 4; ++i) {
    auto* b = new QPushButton(names[i]);
    b->setObjectName("ledgeMode");
    b->setCheckable(true);
    b->setChecked(i == 0);
    b->setToolTip(tips[i]);
    b->setFocusPolicy(Qt::TabFocus);
    modes_->addButton(b, i);
    box->addWidget(b);
  }
  connect(modes_, &QButtonGroup::idClicked, this, [this](int i) { emit modeChosen(Mode(i)); });
}

// On a narrow ledge the prints come first; B, R and the menu choose what it shows.
double LedgeView::column() const { return across() < 320 ? 0 : kChoice; }

void LedgeView::resizeEvent(QResizeEvent*) {
  column_->setVisible(column() > 0);
  column_->setGeometry(0, 0, int(kChoice * zoom()), height());
}

void LedgeView::setMode(Mode mode) {
  mode_ = mode;
  modes_->button(int(mode))->setChecked(true);
  rebuild();
}

void LedgeView::setSeries(std::vector<SeriesPicture> series) {
  series_ = std::move(series);
  rebuild();
}

void LedgeView::setResult(std::shared_ptr<const Result> result) {
  if (!result || result->prints.empty()) return;
  result_ = std::move(result);
  rebuild();
}

void LedgeView::rebuild() {
  const QString held = pressed_ >= 0 && size_t(pressed_) < prints_.size() ? prints_[size_t(pressed_)].light : QString();
  makePrints();
  // What is held goes on being held only while it is the same print.
  if (pressed_ >= 0 && (size_t(pressed_) >= prints_.size() || prints_[size_t(pressed_)].light != held)) {
    pressed_ = -1;
    dragging_ = false;
  }
  repaintSoon();
}

void LedgeView::makePrints() {
  prints_.clear();
  auto nameOf = [&](const std::string& id) {
    const Light* l = result_->plan.light(id);
    return QStringLiteral("%1 %2").arg(QString::fromStdString(id), l ? lightText(*l) : QString());
  };
  auto other = [&](const QString& label, const Picture& picture, const Plan& plan) {
    Print print;
    print.label = label;
    print.image = imageOf(picture);
    print.plan = std::make_shared<const Plan>(plan);
    prints_.push_back(std::move(print));
  };
  if (mode_ == Mode::Series) {
    for (const SeriesPicture& s : series_) other(QString::fromStdString(s.caption), s.picture, s.plan);
  } else if (!result_) {
    return;
  } else if (mode_ == Mode::Ratios) {
    for (const auto& [step, picture] : result_->ratios)
      other(QString::fromStdString(step.name) + (step.reached ? QString() : tr(" (not reached)")), picture, step.plan);
  } else if (mode_ == Mode::BuildUp) {
    for (const auto& [id, picture] : result_->buildUp) {
      const Light* l = result_->plan.light(id);
      Print print;
      print.label = (prints_.empty() ? QString() : QStringLiteral("+ ")) + nameOf(id);
      print.image = imageOf(picture);
      print.show = Show{Show::What::UpTo, id};
      print.off = l && !l->on;
      print.light = QString::fromStdString(id);
      prints_.push_back(std::move(print));
    }
  } else {
    for (const auto& [id, picture] : result_->prints) {
      Print print;
      print.image = imageOf(picture);
      if (id == "ambient") {
        print.label = tr("Off");
        print.show = {Show::What::Ambient, {}};
      } else if (id == "all") {
        print.label = tr("All");
      } else {
        const Light* l = result_->plan.light(id);
        print.label = nameOf(id);
        print.show = {Show::What::Solo, id};
        print.off = l && !l->on;
        print.light = QString::fromStdString(id);
      }
      prints_.push_back(std::move(print));
    }
  }
}

bool LedgeView::isShown(const Print& p) const {
  if (p.plan) return p.label == tried_;
  return tried_.isEmpty() && p.show.what == show_.what && p.show.light == show_.light;
}

QRectF LedgeView::printRect(size_t index) const {
  const double shape =
      prints_.empty() || prints_[0].image.isNull() ? 0.8 : double(prints_[0].image.width()) / prints_[0].image.height();
  // Many prints share the ledge: they get smaller before any is cut off.
  const double most = (across() - column() - 14.0) / double(std::max<size_t>(1, prints_.size())) - 12;
  const double w = std::max(16.0, std::min((down() - 30) * shape, most)), h = w / shape;
  return {column() + 8 + double(index) * (w + 12), 6 + (down() - 30 - h) / 2, w, h};
}

void LedgeView::draw(QPainter& p) {
  const Theme& t = Theme::current();
  p.fillRect(area(), t.surround.darker(t.dim ? 118 : 112));
  p.setFont(lettering(9.5, true));
  const QColor ink = t.dim ? t.text : QColor(Qt::white);
  for (size_t i = 0; i < prints_.size(); ++i) {
    const QRectF r = printRect(i);
    p.setOpacity(dragging_ && int(i) == pressed_ ? 0.4 : 1.0);
    p.drawImage(r, prints_[i].image);
    p.setOpacity(1);
    if (isShown(prints_[i])) {
      p.setPen(QPen(t.dim ? t.accent : QColor(255, 205, 120), 3));
      p.setBrush(Qt::NoBrush);
      p.drawRect(r.adjusted(-2, -2, 2, 2));
    }
    p.setPen(ink);
    const QString label = prints_[i].off ? tr("%1 (off)").arg(prints_[i].label) : prints_[i].label;
    // A name that does not fit is set smaller, then shortened at its end.
    const double room = r.width() + 10;
    p.setFont(lettering(9.5, true));
    if (p.fontMetrics().horizontalAdvance(label) > room) p.setFont(lettering(8, true));
    letter(p, QRectF(r.left() - 5, r.bottom() + 3, room, 18), Qt::AlignCenter, label, true);
  }
  if (dragging_) {
    // Where the print would go.
    const int place = placeFor(pointer_);
    const double x = printRect(size_t(place)).left() - 6;
    p.setPen(QPen(t.dim ? t.accent : QColor(255, 205, 120), 4));
    p.drawLine(QPointF(x, 8), QPointF(x, down() - 26));
  }
  const double from = printRect(prints_.size()).left() + 4;
  p.setPen(ink);
  p.setFont(lettering(9.5));
  QString hint;
  if (mode_ == Mode::Series)
    hint = prints_.empty() ? tr("Nothing varied yet: Compare, Series (Ctrl+R).")
                           : tr("Click to see a step large. Enter or a double click applies it.");
  else if (mode_ == Mode::Ratios)
    hint = prints_.empty() ? tr("Ratios need a key and a fill that are on.")
                           : tr("Unit to unit. Click to see one large, Enter applies it.");
  else if (!prints_.empty())
    hint = show_.what != Show::What::All
               ? tr("Shown by itself. Click it again, or press Escape, for the whole picture.")
           : mode_ == Mode::BuildUp ? tr("The picture as it grows. Click a print to see that state.")
                                    : tr("Click a print to see that light alone.");
  if (across() - from > (prints_.empty() ? 60 : 110))
    letter(p, QRectF(from, 0, across() - from - 10, down()), Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, hint);
  paintFocus(p, *this);
}

void LedgeView::choose(size_t index) {
  const Print& print = prints_[index];
  const bool shown = isShown(print);
  if (print.plan)
    emit tried(*print.plan, shown ? QString() : print.label);
  else
    emit chosen(shown ? Show{} : print.show);
}

int LedgeView::printAt(QPointF at) const {
  for (size_t i = 0; i < prints_.size(); ++i)
    if (printRect(i).adjusted(-5, -5, 5, 24).contains(at)) return int(i);
  return -1;
}

int LedgeView::placeFor(QPointF at) const {
  int lights = 0;
  while (size_t(lights) < prints_.size() && !prints_[size_t(lights)].light.isEmpty()) ++lights;
  for (int i = 0; i < lights; ++i)
    if (at.x() < printRect(size_t(i)).center().x()) return i;
  return lights;
}

void LedgeView::mousePressEvent(QMouseEvent* e) {
  pressed_ = printAt(e->position());
  pressedAt_ = pointer_ = e->position();
  dragging_ = false;
}

void LedgeView::mouseMoveEvent(QMouseEvent* e) {
  if (pressed_ < 0 || prints_[size_t(pressed_)].light.isEmpty()) return;
  pointer_ = e->position();
  dragging_ |= std::abs(pointer_.x() - pressedAt_.x()) > 12;
  update();
}

void LedgeView::mouseReleaseEvent(QMouseEvent* e) {
  const int from = pressed_;
  const bool dragged = dragging_;
  pressed_ = -1;
  dragging_ = false;
  update();
  if (from < 0 || size_t(from) >= prints_.size()) return;
  if (!dragged) {
    if (printAt(e->position()) == from) choose(size_t(from));
    return;
  }
  int place = placeFor(e->position());
  if (place > from) --place;  // counted without the print that is moved
  if (place != from) emit moved(prints_[size_t(from)].light, place);
}

void LedgeView::mouseDoubleClickEvent(QMouseEvent* e) {
  const int i = printAt(e->position());
  if (i >= 0 && prints_[size_t(i)].plan) emit taken(*prints_[size_t(i)].plan, prints_[size_t(i)].label);
}

void LedgeView::keyPressEvent(QKeyEvent* e) {
  int now = -1;
  for (size_t i = 0; i < prints_.size(); ++i)
    if (isShown(prints_[i])) now = int(i);
  const int count = int(prints_.size());
  if (e->key() == Qt::Key_Right && now + 1 < count) {
    if (e->modifiers() & Qt::ControlModifier && now >= 0 && !prints_[size_t(now)].light.isEmpty())
      emit moved(prints_[size_t(now)].light, now + 1);
    else
      choose(size_t(now) + 1);
  } else if (e->key() == Qt::Key_Left && now > 0) {
    if (e->modifiers() & Qt::ControlModifier && !prints_[size_t(now)].light.isEmpty())
      emit moved(prints_[size_t(now)].light, now - 1);
    else
      choose(size_t(now) - 1);
  } else if ((e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) && now >= 0 && prints_[size_t(now)].plan) {
    emit taken(*prints_[size_t(now)].plan, prints_[size_t(now)].label);
  } else {
    QWidget::keyPressEvent(e);
  }
}

}  // namespace easel::app
