#include "widgets/watched_application.h"

#include <QAction>
#include <QEvent>
#include <algorithm>
#include <ctime>

namespace easel::app {
namespace {

double threadMilliseconds() {
  timespec t{};
  ::clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
  return double(t.tv_sec) * 1e3 + double(t.tv_nsec) / 1e6;
}

}  // namespace

bool WatchedApplication::notify(QObject* receiver, QEvent* event) {
  if (!watching_) return QApplication::notify(receiver, event);
  // Only the outermost: what it sends itself is a part of it. Of a paint it is told who painted.
  if (depth_ > 0) {
    if (event->type() != QEvent::Paint) return QApplication::notify(receiver, event);
    const double before = threadMilliseconds();
    const bool result = QApplication::notify(receiver, event);
    if (const double took = threadMilliseconds() - before; took > 0.5)
      inside_ += QStringLiteral("%1%2 %3 ms")
                     .arg(inside_.isEmpty() ? QString() : QStringLiteral(", "),
                          QString::fromLatin1(receiver->metaObject()->className()))
                     .arg(took, 0, 'f', 1);
    return result;
  }
  // Named before: what is sent may delete it.
  const auto* action = qobject_cast<const QAction*>(receiver);
  QString what = QStringLiteral("%1 %2, event %3")
                     .arg(QString::fromLatin1(receiver->metaObject()->className()),
                          action ? action->text() : receiver->objectName())
                     .arg(int(event->type()));
  inside_.clear();
  ++depth_;
  const double before = threadMilliseconds();
  const bool result = QApplication::notify(receiver, event);
  const double took = threadMilliseconds() - before;
  --depth_;
  if (took > std::min(8.0, longest_.milliseconds) && !inside_.isEmpty()) what += QStringLiteral(" painting ") + inside_;
  if (took > longest_.milliseconds) longest_ = {took, what};
  if (took > 8) {
    ++late_;
    double& most = each_[what.section(QStringLiteral(" painting "), 0, 0)];
    most = std::max(most, took);
  }
  return result;
}

QString WatchedApplication::lateOnes(int most) const {
  QList<std::pair<double, QString>> all;
  for (auto at = each_.begin(); at != each_.end(); ++at) all.append({-at.value(), at.key()});
  std::sort(all.begin(), all.end());
  QString out;
  for (int i = 0; i < std::min(most, int(all.size())); ++i)
    out += QStringLiteral("  %1 ms  %2\n").arg(-all[i].first, 0, 'f', 1).arg(all[i].second);
  return out;
}

void WatchedApplication::forget() {
  longest_ = {};
  late_ = 0;
  each_.clear();
}

}  // namespace easel::app
