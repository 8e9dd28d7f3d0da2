#include "cards/card.h"

#include <QBoxLayout>
#include <QGridLayout>
#include <QLabel>
#include <QTabWidget>
#include <algorithm>

#include "widgets/theme.h"
#include "widgets/wording.h"

namespace easel::app {

Card::Card(ViewedPlan* viewed, QWidget* parent) : QWidget(parent), viewed_(viewed) {
  grid_ = new QGridLayout(this);
  grid_->setContentsMargins(12, 8, 12, 8);
  grid_->setHorizontalSpacing(8);
  grid_->setVerticalSpacing(5);
  connect(viewed_, &ViewedPlan::changed, this, [this] { refresh(); });
}

void Card::startTabs() {
  if (!pages_) {
    pages_ = new QTabWidget(this);
    pages_->setDocumentMode(true);
    grid_->setContentsMargins(4, 0, 4, 0);
    grid_->addWidget(pages_, 0, 0);
  }
}

QGridLayout* Card::gridOn(QWidget* page) {
  auto* grid = new QGridLayout(page);
  grid->setContentsMargins(8, 5, 8, 2);
  grid->setHorizontalSpacing(8);
  grid->setVerticalSpacing(3);
  return grid;
}

void Card::startPage(const char* id, const QString& name) {
  startTabs();
  auto* page = new QWidget;
  grid_ = gridOn(page);
  addPage(id, page, name);
}

ChoiceGallery* Card::startPicturedPage(const char* id, const QString& name) {
  startTabs();
  auto* page = new QWidget;
  auto* beside = new QBoxLayout(QBoxLayout::LeftToRight, page);
  beside->setContentsMargins(0, 0, 4, 2);
  beside->setSpacing(0);
  auto* fields = new QWidget;
  grid_ = gridOn(fields);
  auto* gallery = new ChoiceGallery(viewed_);
  beside->addWidget(fields, 2);
  beside->addWidget(gallery, 3);
  connect(gallery, &ChoiceGallery::tryOut, this, &Card::tryOut);
  galleries_.emplace_back(gallery, beside);
  addPage(id, page, name);
  return gallery;
}

void Card::setStands(QWidget* field, bool stands) {
  field->setVisible(stands);
  const auto labels = field->parentWidget()->findChildren<QLabel*>(Qt::FindDirectChildrenOnly);
  for (QLabel* label : labels)
    if (label->buddy() == field) label->setVisible(stands);
}

void Card::printGalleries() {
  for (const auto& [gallery, beside] : galleries_) gallery->print();
}

void Card::addPage(const char* id, QWidget* page, const QString& name) {
  page->setProperty("page", QLatin1String(id));
  pages_->addTab(page, name);
}

QString Card::page() const { return pages_ ? pages_->currentWidget()->property("page").toString() : QString(); }

void Card::showPage(const QString& id) {
  for (int i = 0; pages_ && i < pages_->count(); ++i)
    if (pages_->widget(i)->property("page") == id) pages_->setCurrentIndex(i);
}

void Card::fitWidth(int pixels) {
  // In the units of the type: what two columns need can only be asked while they stand.
  const double scale = Theme::current().scale;
  if (!narrow_)
    twoColumns_ = std::max(layout()->minimumSize().width(), pages_ ? pages_->minimumSizeHint().width() : 0) / scale;
  const bool narrow = pixels < twoColumns_ * scale - 1;
  if (narrow == narrow_) return;
  if (grids_.empty())
    for (auto* grid : findChildren<QGridLayout*>()) {
      Grid g;
      int beside = 0;
      for (int i = 0; i < grid->count(); ++i) {
        Cell c{grid->itemAt(i), 0, 0, 0, 0};
        grid->getItemPosition(i, &c.row, &c.column, &c.rows, &c.columns);
        if (c.column == 2 && c.columns == 1) g.fieldsFrom = beside++ ? std::min(g.fieldsFrom, c.row) : c.row;
        g.cells.push_back(c);
      }
      if (beside) grids_[grid] = std::move(g);
    }
  narrow_ = narrow;
  for (const auto& [gallery, beside] : galleries_)
    beside->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
  for (auto& [grid, g] : grids_) {
    const int last =
        std::max_element(g.cells.begin(), g.cells.end(), [](const Cell& a, const Cell& b) { return a.row < b.row; })
            ->row +
        1;
    for (const Cell& c : g.cells) grid->removeItem(c.item);
    for (const Cell& c : g.cells) {
      const bool over = c.row < g.fieldsFrom;
      const bool right = c.column >= 2;
      if (!narrow || over)
        grid->addItem(c.item, c.row, c.column, c.rows, narrow ? std::min(c.columns, 2) : c.columns);
      else if (c.columns > 1)
        grid->addItem(c.item, 2 * last + c.row, right ? 0 : c.column, c.rows, right ? 2 : 2 - c.column);
      else
        grid->addItem(c.item, right ? last + c.row : c.row, c.column - (right ? 2 : 0), c.rows, 1);
    }
    grid->setColumnStretch(3, narrow ? 0 : 1);
    grid->invalidate();
  }
  updateGeometry();
}

void Card::refresh() {
  refreshing_ = true;
  for (const auto& r : refreshers_) r();
  // One that is not seen is made to fit when it is shown.
  for (const auto& [gallery, beside] : galleries_)
    if (gallery->isVisible()) gallery->refresh();
  refreshing_ = false;
}

QLabel* Card::addLabel(int row, int column, const QString& text, QWidget* buddy) {
  auto* l = new QLabel(text, this);
  l->setBuddy(buddy);
  l->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  buddy->setAccessibleName(QString(text).remove('&'));
  grid_->addWidget(l, row, column * 2);
  grid_->addWidget(buddy, row, column * 2 + 1);
  return l;
}

void Card::bind(NumberField* f, Get get, Set set) {
  refreshers_.push_back([f, get] { f->setShown(get()); });
  connect(f, &NumberField::taken, this, [this, set](double v) {
    if (!refreshing_) set(v);
  });
  connect(f, &QDoubleSpinBox::editingFinished, this, [this] { viewed_->endMerge(); });
  connect(f, &NumberField::refused, this, &Card::refused);
}

LengthField* Card::addLength(int row, int column, const QString& label, const Range& range, Get get, Set set) {
  auto* f = new LengthField(range.least, range.most, this);
  addLabel(row, column, label, f);
  bind(f, get, set);
  return f;
}

ClockField* Card::addClock(int row, int column, const QString& label, Get get, Set set) {
  auto* f = new ClockField(this);
  addLabel(row, column, label, f);
  bind(f, get, set);
  return f;
}

NumberField* Card::addNumber(int row, int column, const QString& label, const Range& range, double step, int decimals,
                             const QString& suffix, Get get, Set set) {
  const double shown = range.quantity == Quantity::Share ? 100 : 1;
  auto* f = numberField(range.least * shown, range.most * shown, step, decimals, suffix, this);
  addLabel(row, column, label, f);
  bind(
      f, [get, shown] { return get() * shown; }, [set, shown](double v) { set(v / shown); });
  return f;
}

SpokenField* Card::addSpoken(int row, int column, const QString& label, std::function<QString()> get,
                             std::function<void(const QString&)> set) {
  auto* f = new SpokenField(
      [this, set](const QString& t) {
        set(t);
        viewed_->endMerge();
      },
      this);
  addLabel(row, column, label, f);
  refreshers_.push_back([f, get] { f->setShown(get()); });
  connect(f, &SpokenField::refused, this, &Card::refused);
  return f;
}

PicturedBox* Card::addPictured(int row, const QString& label, const Choices& choices, std::function<QString()> get,
                               const EditOf& edit, const QString& done, PrintShows shows,
                               const std::function<QString(const QString&)>& note) {
  auto* box = addChoice(row, 0, label, choices, std::move(get), [this, edit, done](const QString& id) {
    if (const std::optional<Edit> e = edit(id)) viewed_->perform(*e, done);
  });
  galleries_.back().first->add({box, QString(label).remove('&'), edit, shows, note});
  return box;
}

PicturedBox* Card::addChoice(int row, int column, const QString& label, const Choices& choices,
                             std::function<QString()> get, std::function<void(const QString&)> set) {
  auto* f = new PicturedBox(this);
  int longest = 10;
  for (const auto& [id, name] : choices) {
    f->addItem(name, id);
    longest = std::max(longest, int(name.size()));
  }
  // The longest can be read, up to what one line of a page can give.
  f->setMinimumContentsLength(std::min(longest, 24));
  f->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  addLabel(row, column, label, f);
  refreshers_.push_back([f, get] {
    const QSignalBlocker quiet(f);
    f->setCurrentIndex(f->findData(get()));
  });
  connect(f, &QComboBox::activated, this, [this, f, set](int i) {
    set(f->itemData(i).toString());
    viewed_->endMerge();
  });
  return f;
}

}  // namespace easel::app
