#include "arrange/arrangement.h"

#include <QStringList>
#include <algorithm>
#include <cmath>
#include <numeric>

namespace easel::app {
namespace {

using Want = std::function<Wants(const QString&)>;

QSize likedBy(const Arrangement& a, const Want& wants) {
  if (a.kind == Arrangement::Kind::View) return wants(a.view).likes;
  QSize sum;
  for (const Arrangement& p : a.parts) {
    const QSize s = likedBy(p, wants);
    sum = a.kind == Arrangement::Kind::Row ? QSize(sum.width() + s.width() + kGap, std::max(sum.height(), s.height()))
                                           : QSize(std::max(sum.width(), s.width()), sum.height() + s.height() + kGap);
  }
  return sum;
}

// `length` in proportion to `weights`, nobody below its least; who has no weight gets that and no more. Rounding, and
// room that nobody has a weight for, goes to the last.
std::vector<int> sharedOut(const std::vector<double>& weights, const std::vector<int>& least, int length) {
  const size_t n = weights.size();
  std::vector<int> out = least;
  std::vector<bool> held(n);
  for (size_t i = 0; i < n; ++i) held[i] = weights[i] <= 0;
  // Each round holds somebody more at the least, or is the last.
  for (bool again = true; again;) {
    again = false;
    double free = length, all = 0;
    for (size_t i = 0; i < n; ++i) (held[i] ? free : all) += held[i] ? -out[i] : weights[i];
    for (size_t i = 0; i < n; ++i) {
      if (held[i]) continue;
      out[i] = int(std::lround(weights[i] / all * free));
      if (out[i] >= least[i]) continue;
      out[i] = least[i];
      held[i] = again = true;
    }
  }
  if (n) out[n - 1] += length - std::accumulate(out.begin(), out.end(), 0);
  return out;
}

// Lengths of the parts: what each needs, then what is over by shares.
std::vector<int> lengths(const Arrangement& a, int length, bool row, const Want& wants,
                         const std::vector<double>* moved) {
  const auto along = [row](const QSize& s) { return row ? s.width() : s.height(); };
  const size_t n = a.parts.size();
  std::vector<int> bare(n), likes(n), least(n);
  std::vector<double> share(n);
  for (size_t i = 0; i < n; ++i) {
    bare[i] = along(leastOf(a.parts[i], wants));
    likes[i] = along(likedBy(a.parts[i], wants));
    share[i] = a.parts[i].share;
    least[i] = share[i] > 0 ? bare[i] : std::max(bare[i], likes[i]);
  }
  if (std::accumulate(least.begin(), least.end(), 0) < length)
    return sharedOut(moved && moved->size() == n ? *moved : share, least, length);
  // Too little for all: whoever likes more than it needs gives that up first, then all give way alike.
  const int needed = std::accumulate(bare.begin(), bare.end(), 0);
  const double squeeze = needed > length ? double(length) / needed : 1;
  std::vector<int> out(n);
  std::vector<double> more(n);
  for (size_t i = 0; i < n; ++i) {
    out[i] = int(bare[i] * squeeze);
    more[i] = std::max(0, likes[i] - out[i]);
  }
  const int over = length - std::accumulate(out.begin(), out.end(), 0);
  const double all = std::accumulate(more.begin(), more.end(), 0.0);
  for (size_t i = 0; i < n; ++i) out[i] += all > 0 ? int(more[i] / all * over) : 0;
  if (n) out[n - 1] += length - std::accumulate(out.begin(), out.end(), 0);
  return out;
}

void put(const Arrangement& a, const QRect& room, const Want& wants, const QHash<QString, std::vector<double>>& moved,
         const QString& path, Placed& out) {
  if (a.kind == Arrangement::Kind::View) {
    out.views.insert(a.view, room);
    return;
  }
  const bool row = a.kind == Arrangement::Kind::Row;
  const int n = int(a.parts.size()), whole = row ? room.width() : room.height();
  const auto at = moved.find(path);
  const auto all = lengths(a, whole - kGap * (n - 1), row, wants, at == moved.end() ? nullptr : &*at);
  int from = row ? room.left() : room.top();
  for (int i = 0; i < n; ++i) {
    const int length = std::max(0, all[size_t(i)]);
    const QRect part =
        row ? QRect(from, room.top(), length, room.height()) : QRect(room.left(), from, room.width(), length);
    put(a.parts[size_t(i)], part, wants, moved, path.isEmpty() ? QString::number(i) : path + '.' + QString::number(i),
        out);
    from += length;
    if (i + 1 == n) break;
    const QRect gap = row ? QRect(from, room.top(), kGap, room.height()) : QRect(room.left(), from, room.width(), kGap);
    out.gaps.push_back({path, i, gap, row, whole - kGap * (n - 1)});
    from += kGap;
  }
}

}  // namespace

QStringList Arrangement::views() const {
  if (kind == Kind::View) return {view};
  QStringList all;
  for (const Arrangement& p : parts) all << p.views();
  return all;
}

Arrangement shown(const QString& view, double share) { return {Arrangement::Kind::View, view, {}, share, false}; }
Arrangement exactly(const QString& view) { return shown(view, 0); }
Arrangement glance(const QString& view, double share) { return {Arrangement::Kind::View, view, {}, share, true}; }
Arrangement inRow(std::vector<Arrangement> parts, double share) {
  return {Arrangement::Kind::Row, {}, std::move(parts), share, false};
}
Arrangement inColumn(std::vector<Arrangement> parts, double share) {
  return {Arrangement::Kind::Column, {}, std::move(parts), share, false};
}

QSize leastOf(const Arrangement& a, const Want& wants) {
  if (a.kind == Arrangement::Kind::View) return wants(a.view).least;
  QSize sum;
  for (size_t i = 0; i < a.parts.size(); ++i) {
    const QSize s = leastOf(a.parts[i], wants);
    const int gap = i ? kGap : 0;
    sum = a.kind == Arrangement::Kind::Row ? QSize(sum.width() + s.width() + gap, std::max(sum.height(), s.height()))
                                           : QSize(std::max(sum.width(), s.width()), sum.height() + s.height() + gap);
  }
  return sum;
}

Placed place(const Arrangement& a, const QRect& room, const Want& wants,
             const QHash<QString, std::vector<double>>& moved) {
  Placed out;
  put(a, room, wants, moved, {}, out);
  return out;
}

}  // namespace easel::app
