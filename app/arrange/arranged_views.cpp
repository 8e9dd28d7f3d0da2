#include "arrange/arranged_views.h"

#include <QApplication>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "arrange/page_frame.h"
#include "widgets/theme.h"

namespace easel::app {
namespace {

constexpr int kParts = 10000;  // of a row's length, in the settings

const Arrangement* partAt(const Arrangement& a, const QString& path) {
  const Arrangement* at = &a;
  for (const QString& step : path.split('.', Qt::SkipEmptyParts)) {
    const size_t i = size_t(step.toInt());
    if (i >= at->parts.size()) return nullptr;
    at = &at->parts[i];
  }
  return at;
}

// Paths of rows and columns from the root to the view; false when it is not there.
bool wayTo(const Arrangement& a, const QString& view, const QString& path, std::vector<std::pair<QString, int>>& way) {
  if (a.kind == Arrangement::Kind::View) return a.view == view;
  for (size_t i = 0; i < a.parts.size(); ++i) {
    way.emplace_back(path, int(i));
    const QString next = path.isEmpty() ? QString::number(i) : path + '.' + QString::number(i);
    if (wayTo(a.parts[i], view, next, way)) return true;
    way.pop_back();
  }
  return false;
}

void glances(const Arrangement& a, QHash<QString, bool>& out) {
  if (a.kind == Arrangement::Kind::View) out.insert(a.view, a.glance);
  for (const Arrangement& p : a.parts) glances(p, out);
}

}  // namespace

ArrangedViews::ArrangedViews(QWidget* parent) : QWidget(parent) { setMouseTracking(true); }

void ArrangedViews::addView(const QString& name, QWidget* view) {
  view->setParent(this);
  view->hide();
  views_.insert(name, view);
}

QString ArrangedViews::nameOf(const QWidget* widget) const {
  for (const QWidget* w = widget; w && w != this; w = w->parentWidget())
    for (auto at = views_.begin(); at != views_.end(); ++at)
      if (at.value() == w) return at.key();
  return {};
}

void ArrangedViews::arrange(const QString& stage, const Arrangement& arrangement) {
  stage_ = stage;
  arrangement_ = arrangement;
  if (!filling_.isEmpty()) {
    filling_.clear();
    emit filled({});
  }
  settle();
  orderKeys();
}

void ArrangedViews::fill(const QString& name) {
  if (!views_.contains(name) || filling_ == name) return;
  filling_ = name;
  settle();
  views_.value(name)->setFocus(Qt::ShortcutFocusReason);
  emit filled(name);
}

void ArrangedViews::toggle(const QString& name) {
  if (name.isEmpty()) return;
  if (filling_ == name)
    giveBack();
  else
    fill(name);
}

void ArrangedViews::giveBack() {
  if (filling_.isEmpty()) return;
  filling_.clear();
  settle();
  orderKeys();
  emit filled({});
}

Wants ArrangedViews::wantsOf(const QString& name) const {
  const QWidget* w = views_.value(name);
  if (!w) return {};
  const QSize least = w->minimumSizeHint().expandedTo(w->minimumSize()).expandedTo({0, 0});
  return {least, w->sizeHint().expandedTo(least)};
}

void ArrangedViews::settle() {
  const Arrangement now = filling_.isEmpty() ? arrangement_ : shown(filling_);
  QHash<QString, bool> small;
  glances(now, small);
  for (auto at = views_.begin(); at != views_.end(); ++at) {
    if (!small.contains(at.key())) at.value()->hide();
    if (auto* g = dynamic_cast<Glanced*>(at.value()); g && small.contains(at.key()))
      g->setGlance(small.value(at.key()));
  }
  // Twice: how high a page of words wants to be depends on how wide it has become.
  for (int round = 0; round < 2; ++round) {
    placed_ = place(
        now, rect(), [this](const QString& v) { return wantsOf(v); },
        filling_.isEmpty() ? moved_.value(stage_) : QHash<QString, std::vector<double>>{});
    for (auto at = placed_.views.begin(); at != placed_.views.end(); ++at)
      if (QWidget* w = views_.value(at.key())) w->setGeometry(at.value());
  }
  for (const QString& name : now.views())
    if (QWidget* w = views_.value(name)) w->show();
  updateGeometry();
  update();
}

// The keys go through the window as the eye does.
void ArrangedViews::orderKeys() {
  QWidget* last = nullptr;
  for (const QString& name : (filling_.isEmpty() ? arrangement_.views() : QStringList{filling_})) {
    QWidget* w = views_.value(name);
    if (!w) continue;
    if (last) {
      QWidget* end = last;
      const auto inside = last->findChildren<QWidget*>();
      for (QWidget* c : inside)
        if (c->focusPolicy() & Qt::TabFocus) end = c;
      QWidget* first = w;
      if (!(w->focusPolicy() & Qt::TabFocus))
        for (QWidget* c : w->findChildren<QWidget*>())
          if (c->focusPolicy() & Qt::TabFocus) {
            first = c;
            break;
          }
      setTabOrder(end, first);
    }
    last = w;
  }
}

void ArrangedViews::resizeEvent(QResizeEvent*) { settle(); }
bool ArrangedViews::event(QEvent* e) {
  if (e->type() == QEvent::Leave) unsetCursor();
  // Whoever has less than it needs now, like a headline in larger type, gets it at once.
  // A page scrolls instead; asking it would cost more than painting it.
  if (e->type() == QEvent::LayoutRequest)
    for (auto at = placed_.views.begin(); at != placed_.views.end(); ++at) {
      const QWidget* w = views_.value(at.key());
      if (!w || !w->isVisible() || qobject_cast<const PageFrame*>(w)) continue;
      if (wantsOf(at.key()).least.height() <= w->height()) continue;
      settle();
      break;
    }
  return QWidget::event(e);
}

QSize ArrangedViews::minimumSizeHint() const {
  // What the stage with the most needs would ask for must not hold the window: below that its views give way and
  // scroll.
  return {600, 420};
}

void ArrangedViews::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.fillRect(rect(), t.window);
  for (const Gap& g : placed_.gaps) {
    p.setPen(QPen(t.line, 1));
    if (g.upright)
      p.drawLine(g.rect.center().x(), g.rect.top(), g.rect.center().x(), g.rect.bottom());
    else
      p.drawLine(g.rect.left(), g.rect.center().y(), g.rect.right(), g.rect.center().y());
  }
}

int ArrangedViews::gapAt(QPoint at) const {
  for (size_t i = 0; i < placed_.gaps.size(); ++i)
    if (placed_.gaps[i].rect.adjusted(-1, -1, 1, 1).contains(at)) return int(i);
  return -1;
}

void ArrangedViews::mousePressEvent(QMouseEvent* e) {
  if (const int i = gapAt(e->pos()); i >= 0) dragged_ = placed_.gaps[size_t(i)];
}
void ArrangedViews::mouseReleaseEvent(QMouseEvent*) { dragged_.reset(); }
void ArrangedViews::mouseMoveEvent(QMouseEvent* e) {
  if (!dragged_) {
    const int i = gapAt(e->pos());
    if (i < 0)
      unsetCursor();
    else
      setCursor(placed_.gaps[size_t(i)].upright ? Qt::SplitHCursor : Qt::SplitVCursor);
    return;
  }
  for (const Gap& g : placed_.gaps)
    if (g.path == dragged_->path && g.before == dragged_->before) {
      dragGap(g, dragged_->upright ? e->pos().x() : e->pos().y());
      return;
    }
}

// As the parts of the row stand now.
std::vector<double> ArrangedViews::fractions(const QString& path) const {
  const Arrangement* a = partAt(arrangement_, path);
  if (!a) return {};
  const bool row = a->kind == Arrangement::Kind::Row;
  std::vector<int> lengths;
  for (const Arrangement& p : a->parts) {
    QRect all;
    for (const QString& v : p.views()) all = all.united(placed_.views.value(v));
    lengths.push_back(row ? all.width() : all.height());
  }
  int sum = 0;
  for (int l : lengths) sum += l;
  std::vector<double> out;
  for (int l : lengths) out.push_back(double(l) / std::max(1, sum));
  return out;
}

void ArrangedViews::dragGap(const Gap& gap, int to) {
  std::vector<double> f = fractions(gap.path);
  const size_t i = size_t(gap.before);
  if (i + 1 >= f.size() || gap.length <= 0) return;
  const int from = gap.upright ? gap.rect.center().x() : gap.rect.center().y();
  double by = double(to - from) / gap.length;
  // A neighbour gives no more than it can do without.
  const Arrangement* a = partAt(arrangement_, gap.path);
  const auto least = [&](size_t k) {
    const QSize s = leastOf(a->parts[k], [this](const QString& v) { return wantsOf(v); });
    return double(gap.upright ? s.width() : s.height()) / gap.length;
  };
  const double down = std::min(0.0, least(i) - f[i]), up = std::max(0.0, f[i + 1] - least(i + 1));
  by = std::clamp(by, down, up);
  f[i] += by;
  f[i + 1] -= by;
  moved_[stage_][gap.path] = f;
  settle();
}

void ArrangedViews::widen(const QString& name, int steps) {
  if (!filling_.isEmpty()) return;
  std::vector<std::pair<QString, int>> way;
  if (!wayTo(arrangement_, name, {}, way)) return;
  // In the innermost row that it stands in, else the innermost column.
  for (const bool row : {true, false})
    for (auto at = way.rbegin(); at != way.rend(); ++at) {
      const Arrangement* a = partAt(arrangement_, at->first);
      if (!a || (a->kind == Arrangement::Kind::Row) != row || a->parts.size() < 2) continue;
      const bool last = at->second + 1 == int(a->parts.size());
      for (const Gap& g : placed_.gaps)
        if (g.path == at->first && g.before == (last ? at->second - 1 : at->second)) {
          const int from = g.upright ? g.rect.center().x() : g.rect.center().y();
          return dragGap(g, from + (last ? -steps : steps) * g.length / 20);
        }
    }
}

void ArrangedViews::reset() {
  moved_.remove(stage_);
  settle();
}

QString ArrangedViews::moved() const {
  QJsonObject all;
  for (auto stage = moved_.begin(); stage != moved_.end(); ++stage) {
    QJsonObject paths;
    for (auto path = stage->begin(); path != stage->end(); ++path) {
      QJsonArray numbers;
      for (double v : *path) numbers.append(int(std::lround(v * kParts)));
      paths.insert(path.key(), numbers);
    }
    all.insert(stage.key(), paths);
  }
  return QString::fromUtf8(QJsonDocument(all).toJson(QJsonDocument::Compact));
}

void ArrangedViews::setMoved(const QString& text) {
  moved_.clear();
  const QJsonObject all = QJsonDocument::fromJson(text.toUtf8()).object();
  for (auto stage = all.begin(); stage != all.end(); ++stage) {
    const QJsonObject paths = stage.value().toObject();
    for (auto path = paths.begin(); path != paths.end(); ++path) {
      std::vector<double> numbers;
      double sum = 0;
      for (const auto& v : path.value().toArray()) {
        numbers.push_back(std::clamp(v.toInt(), 0, kParts) / double(kParts));
        sum += numbers.back();
      }
      if (numbers.size() > 1 && std::abs(sum - 1) < 0.02) moved_[stage.key()][path.key()] = numbers;
    }
  }
  settle();
}

}  // namespace easel::app
