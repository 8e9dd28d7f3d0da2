#include "watched_application.h"

#include <QEvent>
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
  // Only the outermost: what it sends itself is a part of it.
  if (depth_ > 0) return QApplication::notify(receiver, event);
  const QString what = QStringLiteral("%1 %2, event %3")
                           .arg(QString::fromLatin1(receiver->metaObject()->className()), receiver->objectName())
                           .arg(int(event->type()));
  ++depth_;
  const double before = threadMilliseconds();
  const bool result = QApplication::notify(receiver, event);
  const double took = threadMilliseconds() - before;
  --depth_;
  if (took > longest_.milliseconds) longest_ = {took, what};
  late_ += took > 8;
  return result;
}

void WatchedApplication::forget() {
  longest_ = {};
  late_ = 0;
}

}  // namespace easel::app
