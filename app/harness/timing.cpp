#include "harness/timing.h"

#include <QAction>
#include <QApplication>
#include <cstdio>

#include "widgets/watched_application.h"
#include "window/main_window.h"

namespace easel::app {

Timing::Timing(MainWindow& window, WatchedApplication& application, const QElapsedTimer& sinceStart)
    : QObject(&window), window_(window), application_(application), clock_(sinceStart) {}

void Timing::start() {
  connect(window_.renderLink(), &RenderLink::arrived, this, &Timing::arrived);
  window_.show();
}

void Timing::arrived() {
  const auto& r = window_.renderLink()->latest();
  if (!window_.renderLink()->upToDate() || r->picture.rgba.empty()) return;
  if (drags_ < 0) {
    std::printf("first picture after %lld ms\n", static_cast<long long>(clock_.elapsed()));
    application_.watch();
    drags_ = 0;
  }
  if (drags_ < 60) return drag();
  std::printf("longest event of the interface thread in %d drags: %.1f ms (%s), %d over 8 ms\n", drags_,
              application_.longest().milliseconds, qPrintable(application_.longest().what), application_.late());
  std::printf("%s", qPrintable(application_.lateOnes(8)));
  disconnect(window_.renderLink(), nullptr, this, nullptr);
  printRestyling();
  QApplication::exit(0);
}

// A hand that drags: what the interface thread has to do for it must stay within 8 ms an event.
void Timing::drag() {
  Light l = window_.document()->plan().lights.at(0);
  l.hour = 4 + 0.02 * ++drags_;
  window_.document()->perform(SetLight{l}, "Drag", "drag");
}

// From the key to the window that is laid out and painted again; there and back, as the user's settings stay.
void Timing::printRestyling() {
  for (const auto& [what, keys] : {std::pair{"the other theme", QKeySequence(Qt::CTRL | Qt::Key_D)},
                                   std::pair{"its own theme", QKeySequence(Qt::CTRL | Qt::Key_D)},
                                   std::pair{"larger text", QKeySequence(QKeySequence::ZoomIn)},
                                   std::pair{"smaller text", QKeySequence(QKeySequence::ZoomOut)}})
    for (QAction* a : window_.findChildren<QAction*>())
      if (a->shortcut() == keys) {
        clock_.restart();
        a->trigger();
        QApplication::sendPostedEvents();
        const auto laidOut = clock_.elapsed();
        window_.grab();
        std::printf("%s holds the window for %lld ms, %lld of them to paint all of it\n", what,
                    static_cast<long long>(clock_.elapsed()), static_cast<long long>(clock_.elapsed() - laidOut));
      }
}

}  // namespace easel::app
