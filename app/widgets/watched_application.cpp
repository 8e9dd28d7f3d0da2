#include "widgets/watched_application.h"

#include <QAction>
#include <QEvent>
#include <QThread>
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

// Nothing that a slot throws may end the program, and the work in it.
bool WatchedApplication::notify(QObject* receiver, QEvent* event) {
  // Events of other threads' objects come here as well, on their threads.
  if (QThread::currentThread() != thread()) return QApplication::notify(receiver, event);
  const int depth = depth_;
  QString why;
  try {
    return deliver(receiver, event);
  } catch (const std::exception& e) {
    why = QString::fromUtf8(e.what());
  } catch (...) {
    why = tr("an error without a name");
  }
  depth_ = depth;
  emit failed(tr("That did not work: %1. What is open stands as it was; save it under another name if in doubt.")
                  .arg(why.section(QLatin1Char('\n'), 0, 0).left(300)));
  return false;
}

bool WatchedApplication::deliver(QObject* receiver, QEvent* event) {
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
