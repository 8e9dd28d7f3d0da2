#include "day/order_page.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QSplitter>
#include <algorithm>
#include <cmath>

#include "day/day_line.h"
#include "widgets/fields.h"
#include "widgets/markup.h"
#include "widgets/plain_table.h"
#include "widgets/theme.h"

namespace easel::app {

namespace {
QString clock(double seconds) { return QString::fromStdString(writeTimeAt(seconds)); }
QString span(double seconds) { return QString::fromStdString(writeSpan(seconds)); }
}  // namespace

OrderPage::OrderPage(DayDesk* desk, QWidget* parent) : QWidget(parent), desk_(desk) {
  auto* box = new QVBoxLayout(this);
  line_ = new DayLine(desk, this);
  box->addWidget(line_);
  auto* halves = new QSplitter(this);
  halves->setChildrenCollapsible(false);
  box->addWidget(halves, 1);
  halves->addWidget(orderHalf());
  halves->addWidget(lookHalf());
  halves->setStretchFactor(0, 3);
  halves->setStretchFactor(1, 2);
  join();
  refresh();
}

QPushButton* OrderPage::button(const char* name, const QString& text, QBoxLayout* in) {
  auto* b = new QPushButton(text, this);
  b->setObjectName(name);
  b->setAutoDefault(false);
  in->addWidget(b);
  return b;
}

QWidget* OrderPage::orderHalf() {
  auto* left = new QWidget(this);
  auto* l = new QVBoxLayout(left);
  l->setContentsMargins(0, 0, 0, 0);
  table_ = plainTable("dayLooks", tr("Looks in their order"),
                      {tr("Look"), tr("Begins"), tr("Sitter"), tr("Frames"), tr("Set takes"), tr("Ends")}, left);
  table_->horizontalHeader()->setStretchLastSection(false);
  table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  table_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  l->addWidget(table_, 3);
  auto* row = new QHBoxLayout;
  earlier_ = button("dayEarlier", tr("&Earlier"), row);
  later_ = button("dayLater", tr("&Later"), row);
  remove_ = button("dayRemove", tr("Re&move"), row);
  row->addStretch(1);
  best_ = button("dayBest", tr("Put in the &best order"), row);
  l->addLayout(row);
  sum_ = new QLabel(left);
  sum_->setObjectName("daySum");
  sum_->setWordWrap(true);
  l->addWidget(sum_);
  problems_ = new QLabel(left);
  problems_->setObjectName("dayProblems");
  problems_->setWordWrap(true);
  l->addWidget(problems_);
  reliefs_ = new QListWidget(left);
  reliefs_->setObjectName("dayReliefs");
  reliefs_->setAccessibleName(tr("What can be dropped"));
  reliefs_->setToolTip(tr("Enter or a double click does it; undo brings it back."));
  reliefs_->setWordWrap(true);
  l->addWidget(reliefs_, 2);
  return left;
}

QWidget* OrderPage::lookHalf() {
  auto* right = new QWidget(this);
  auto* r = new QVBoxLayout(right);
  r->setContentsMargins(0, 0, 0, 0);
  auto* top = new QHBoxLayout;
  auto* beside = new QVBoxLayout;
  print_ = new QLabel(right);
  print_->setFixedSize(QSize(int(128 * Theme::current().scale), int(160 * Theme::current().scale)));
  print_->setAlignment(Qt::AlignCenter);
  print_->setAccessibleName(tr("The look's picture"));
  beside->addWidget(print_);
  open_ = button("dayOpenPlan", tr("Open its &plan"), beside);
  beside->addStretch(1);
  top->addLayout(beside);
  top->addLayout(lookForm(right), 1);
  r->addLayout(top);
  why_ = new QLabel(right);
  why_->setObjectName("dayWhy");
  why_->setWordWrap(true);
  r->addWidget(why_);
  chores_ = new QListWidget(right);
  chores_->setObjectName("dayChores");
  chores_->setAccessibleName(tr("From the set before to this one"));
  chores_->setWordWrap(true);
  chores_->setSelectionMode(QAbstractItemView::NoSelection);
  r->addWidget(chores_, 1);
  return right;
}

QFormLayout* OrderPage::lookForm(QWidget* right) {
  auto* form = new QFormLayout;
  form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
  const auto line = [&](const char* name, const QString& label, auto set) {
    auto* f = field(name, label, set);
    form->addRow(label, f);
    return f;
  };
  title_ = line("dayLookTitle", tr("Look"), [](DayLook& k, const QString& v) { k.title = v.toStdString(); });
  sitters_ = line("dayLookSitters", tr("Sitters"), [this](DayLook& k, const QString& v) {
    k.sitters.clear();
    for (const QString& name : v.split(QChar(','), Qt::SkipEmptyParts)) {
      if (!desk_->day().sitter(name.trimmed().toStdString()))
        throw std::invalid_argument(
            tr("%1 is not among the sitters. Add them on the page People and room.").arg(name.trimmed()).toStdString());
      k.sitters.push_back(name.trimmed().toStdString());
    }
  });
  sitters_->setPlaceholderText(tr("names, with commas"));
  outfit_ = line("dayLookOutfit", tr("Outfit"), [](DayLook& k, const QString& v) { k.outfit = v.toStdString(); });
  framing_ = line("dayLookFraming", tr("Framing"), [](DayLook& k, const QString& v) { k.framing = v.toStdString(); });
  frames_ = new QSpinBox(right);
  frames_->setObjectName("dayLookFrames");
  frames_->setRange(1, 10000);
  frames_->setKeyboardTracking(false);
  frames_->setAccessibleName(tr("Frames"));
  must_ = new QCheckBox(tr("has to be shot"), right);
  must_->setObjectName("dayLookMust");
  must_->setToolTip(tr("Else it may be dropped when the day runs late."));
  auto* count = new QHBoxLayout;
  count->addWidget(frames_);
  count->addWidget(must_, 1);
  form->addRow(tr("Frames"), count);
  place_ = new QComboBox(right);
  place_->setObjectName("dayLookPlace");
  place_->setAccessibleName(tr("Where it has to stand"));
  place_->addItems({tr("anywhere"), tr("the first"), tr("the last")});
  after_ = new QComboBox(right);
  after_->setObjectName("dayLookAfter");
  after_->setAccessibleName(tr("After which look it has to come"));
  after_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  auto* where = new QHBoxLayout;
  where->addWidget(place_);
  where->addWidget(after_, 1);
  form->addRow(tr("Place"), where);
  notes_ = line("dayLookNotes", tr("Notes"), [](DayLook& k, const QString& v) { k.notes = v.toStdString(); });
  return form;
}

void OrderPage::join() {
  connect(desk_, &DayDesk::changed, this, &OrderPage::refresh);
  connect(desk_, &DayDesk::printed, this, [this] {
    showPrints();
    showLook();
  });
  connect(table_, &QTableWidget::currentCellChanged, this, [this] {
    if (!filling_) showLook();
  });
  connect(line_, &DayLine::lookChosen, this, &OrderPage::choose);
  connect(earlier_, &QPushButton::clicked, this, [this] { moveChosen(-1); });
  connect(later_, &QPushButton::clicked, this, [this] { moveChosen(1); });
  connect(remove_, &QPushButton::clicked, this, [this] { desk_->remove(chosen()); });
  connect(best_, &QPushButton::clicked, desk_, &DayDesk::putInBestOrder);
  connect(open_, &QPushButton::clicked, this, [this] { emit planWanted(chosen()); });
  connect(frames_, &QSpinBox::valueChanged, this, [this](int n) {
    edit(
        tr("Frames"), [n](DayLook& l) { l.frames = n; }, QStringLiteral("frames"));
  });
  connect(must_, &QCheckBox::toggled, this,
          [this](bool on) { edit(tr("Must or may"), [on](DayLook& l) { l.must = on; }); });
  connect(place_, &QComboBox::activated, this, [this](int i) {
    edit(tr("Its place"), [i](DayLook& l) {
      l.first = i == 1;
      l.last = i == 2;
    });
  });
  connect(after_, &QComboBox::activated, this, [this] {
    edit(tr("Its place"), [after = after_->currentData().toString().toStdString()](DayLook& l) { l.after = after; });
  });
  connect(reliefs_, &QListWidget::itemActivated, this, [this] {
    const DayForecast* k = desk_->currentForecast();
    if (k && reliefs_->currentRow() >= 0 && reliefs_->currentRow() < int(k->reliefs.size()))
      desk_->take(Relief(k->reliefs[size_t(reliefs_->currentRow())]));
  });
}

SpokenField* OrderPage::field(const char* name, const QString& label,
                              std::function<void(DayLook&, const QString&)> set) {
  auto* f = new SpokenField(
      [this, label, set](const QString& text) { edit(label, [&](DayLook& l) { set(l, text.trimmed()); }); }, this);
  f->setObjectName(name);
  f->setAccessibleName(label);
  return f;
}

int OrderPage::chosen() const {
  return table_->currentRow() < int(desk_->day().looks.size()) ? table_->currentRow() : -1;
}
void OrderPage::choose(int look) { table_->setCurrentCell(look, 0); }

void OrderPage::moveChosen(int by) {
  const int at = chosen(), to = at + by;
  if (at < 0 || to < 0 || to >= int(desk_->day().looks.size())) return;
  desk_->move(at, to);
  choose(to);
}

void OrderPage::edit(const QString& label, const std::function<void(DayLook&)>& change, const QString& key) {
  const int at = chosen();
  if (filling_ || at < 0) return;
  desk_->document()->edit(
      label, [&](Day& d) { change(d.looks.at(size_t(at))); }, key.isEmpty() ? key : key + QString::number(at));
}

void OrderPage::refresh() {
  const Day& day = desk_->day();
  const DayForecast* r = desk_->currentForecast();
  filling_ = true;
  std::vector<QStringList> rows;
  for (size_t i = 0; i < day.looks.size(); ++i) {
    const DayLook& l = day.looks[i];
    QStringList who;
    for (const std::string& s : l.sitters) who << QString::fromStdString(s);
    QString begins, takes, ends;
    if (!l.done.empty()) {
      begins = QString::fromStdString(l.begun);
      ends = tr("done %1").arg(QString::fromStdString(l.done));
    } else if (!l.begun.empty()) {
      begins = QString::fromStdString(l.begun);
      ends = tr("now");
    } else if (r) {
      for (const Turn& s : r->planned.turns)
        if (s.look == i) {
          begins = clock(s.begin);
          takes = span(s.change);
          ends = clock(s.end) + (s.late > 0 ? tr(", late") : QString());
        }
    }
    rows.push_back(
        {tr("%1. %2%3")
             .arg(QString::fromStdString(l.id), QString::fromStdString(l.name()), l.must ? QString() : tr(" (may)")),
         begins, who.join(", "), QString::number(l.frames), takes, ends});
  }
  const int at = table_->currentRow();
  fillRows(table_, rows, tr("No look yet. Add one: an open plan, a file, the shelf or the journal (menu Look)."));
  showPrints();
  if (!rows.empty()) table_->setCurrentCell(std::clamp(at, 0, int(rows.size()) - 1), 0);
  filling_ = false;

  QStringList problems;
  reliefs_->clear();
  if (r) {
    for (const std::string& p : r->problems) problems << QString::fromStdString(p);
    const bool can = r->best.problem.empty() && !r->planned.turns.empty();
    if (!r->best.problem.empty() && problems.isEmpty()) problems << QString::fromStdString(r->best.problem);
    QString sum;
    if (!r->planned.turns.empty()) {
      sum = tr("%1 of changing, %2 moves; ends %3.")
                .arg(span(r->planned.work))
                .arg(r->planned.moves)
                .arg(clock(r->planned.turns.back().end));
      if (r->planned.late > 0) sum += " " + tr("<b>%1 late.</b>").arg(span(r->planned.late));
      const double saved = r->planned.work - r->best.work;
      if (can && (saved > 1 || r->best.late < r->planned.late - 1 || problems.size()))
        sum += " " + (r->best.late > 0
                          ? tr("The best order takes %1 and %2 moves, %3 late.")
                                .arg(span(r->best.work))
                                .arg(r->best.moves)
                                .arg(span(r->best.late))
                          : tr("The best order takes %1 and %2 moves.").arg(span(r->best.work)).arg(r->best.moves));
      else if (can)
        sum += " " + (r->best.exact ? tr("No order moves less.")
                                    : tr("No better order was found; of so many looks none can be proved."));
      if (std::abs(r->pace - 1) > 0.02)
        sum += " " + tr("Your own pace: %1 of the usual times, by the journal.").arg(QString::number(r->pace, 'f', 2));
    }
    setMarkup(sum_, sum);
    best_->setEnabled(can);
    for (const Relief& one : r->reliefs) reliefs_->addItem(QString::fromStdString(one.sentence));
  }
  problems_->setText(problems.join("\n"));
  problems_->setVisible(!problems.isEmpty());
  reliefs_->setVisible(reliefs_->count() > 0);
  showLook();
}

// A small print before each name: the day is known by its pictures.
void OrderPage::showPrints() {
  const auto& looks = desk_->day().looks;
  const QSize size(int(32 * Theme::current().scale), int(40 * Theme::current().scale));
  table_->setIconSize(size);
  for (size_t i = 0; i < looks.size() && int(i) < table_->rowCount(); ++i) {
    table_->setRowHeight(int(i), size.height() + 6);
    const QImage image = desk_->print(looks[i].id);
    if (!image.isNull() && table_->item(int(i), 0))
      table_->item(int(i), 0)->setIcon(QIcon(
          QPixmap::fromImage(image.scaled(size * devicePixelRatioF(), Qt::KeepAspectRatio, Qt::SmoothTransformation))));
  }
}

void OrderPage::showLook() {
  const int at = chosen();
  line_->setChosen(at);
  const Day& day = desk_->day();
  const bool any = at >= 0 && at < int(day.looks.size());
  for (QWidget* w : std::initializer_list<QWidget*>{title_, sitters_, outfit_, framing_, notes_, frames_, must_, place_,
                                                    after_, earlier_, later_, remove_, open_})
    w->setEnabled(any);
  chores_->clear();
  why_->clear();
  if (!any) return print_->clear();
  const DayLook& l = day.looks[size_t(at)];
  filling_ = true;
  title_->setShown(QString::fromStdString(l.name()));
  QStringList who;
  for (const std::string& s : l.sitters) who << QString::fromStdString(s);
  sitters_->setShown(who.join(", "));
  outfit_->setShown(QString::fromStdString(l.outfit));
  framing_->setShown(QString::fromStdString(l.framing));
  notes_->setShown(QString::fromStdString(l.notes));
  for (SpokenField* f : {title_, outfit_, framing_, notes_})
    if (!f->hasFocus()) f->setCursorPosition(0);
  if (!frames_->hasFocus() || frames_->value() != l.frames) frames_->setValue(l.frames);
  must_->setChecked(l.must);
  place_->setCurrentIndex(l.first ? 1 : l.last ? 2 : 0);
  after_->clear();
  after_->addItem(tr("after any"), QString());
  for (const DayLook& other : day.looks)
    if (other.id != l.id)
      after_->addItem(tr("after %1. %2").arg(QString::fromStdString(other.id), QString::fromStdString(other.name())),
                      QString::fromStdString(other.id));
  after_->setCurrentIndex(std::max(0, after_->findData(QString::fromStdString(l.after))));
  filling_ = false;
  open_->setToolTip(l.file.empty() ? tr("The plan is the day's own.")
                                   : tr("The plan follows its file, %1.").arg(QString::fromStdString(l.file)));
  earlier_->setEnabled(at > 0);
  later_->setEnabled(at + 1 < int(day.looks.size()));
  const QImage image = desk_->print(l.id);
  if (image.isNull())
    print_->setText(desk_->tried(l.id) ? tr("cannot be shown") : tr("tracing..."));
  else
    print_->setPixmap(QPixmap::fromImage(image).scaled(print_->size(), Qt::KeepAspectRatio, Qt::SmoothTransformation));
  if (const DayForecast* r = desk_->currentForecast(); r && size_t(at) < r->looks.size()) {
    const LookForecast& k = r->looks[size_t(at)];
    QStringList why;
    if (!k.why.empty()) why << QString::fromStdString(k.why);
    for (const Turn& s : r->planned.turns)
      if (int(s.look) == at && !s.waitsFor.empty()) why << tr("Waits for %1.").arg(QString::fromStdString(s.waitsFor));
    why_->setText(why.join(" "));
    for (const Chore& c : k.change.chores)
      chores_->addItem(tr("%1 (%2)").arg(QString::fromStdString(c.sentence), span(c.seconds)));
    if (!k.change.stays.empty()) {
      QStringList stays;
      for (const std::string& s : k.change.stays) stays << QString::fromStdString(s);
      chores_->addItem(tr("Stays: %1.").arg(stays.join(", ")));
    }
  }
}

}  // namespace easel::app
