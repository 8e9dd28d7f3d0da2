#include "document/strand.h"

#include <QThreadPool>
#include <deque>
#include <mutex>

namespace easel::app {
namespace {

// A thread that waits for a disk uses no processor: as many as there may be windows.
QThreadPool& pool() {
  static QThreadPool all;
  static const bool once = [] {
    all.setMaxThreadCount(64);
    return true;
  }();
  Q_UNUSED(once);
  return all;
}

}  // namespace

struct Strand::Shared {
  std::mutex guard;
  QObject* owner = nullptr;
  Strand* strand = nullptr;
  std::deque<Work> queue;
  bool running = false;
};

Strand::Strand(QObject* owner) : shared_(std::make_shared<Shared>()) {
  shared_->owner = owner;
  shared_->strand = this;
  pool();  // made before, and gone after, whatever uses it
}

Strand::~Strand() {
  std::lock_guard lock(shared_->guard);
  shared_->owner = nullptr;
  shared_->strand = nullptr;
}

void Strand::start(Work work) {
  ++busy_;
  {
    std::lock_guard lock(shared_->guard);
    shared_->queue.push_back(std::move(work));
    if (std::exchange(shared_->running, true)) return;
  }
  pool().start([shared = shared_] { run(shared); });
}

void Strand::attempt(Work work, Failed failed) {
  start([work = std::move(work), failed = std::move(failed)]() -> Report {
    try {
      return work();
    } catch (const std::exception& e) {
      return [failed, why = QString::fromUtf8(e.what())] { failed(why); };
    }
  });
}

void Strand::run(const std::shared_ptr<Shared>& shared) {
  for (;;) {
    Work work;
    {
      std::lock_guard lock(shared->guard);
      if (shared->queue.empty()) {
        shared->running = false;
        return;
      }
      work = std::move(shared->queue.front());
      shared->queue.pop_front();
    }
    Report report = work();
    std::lock_guard lock(shared->guard);
    // An owner that goes takes what is posted to it along.
    if (shared->owner)
      QMetaObject::invokeMethod(
          shared->owner,
          [strand = shared->strand, report = std::move(report)] {
            --strand->busy_;
            if (report) report();
          },
          Qt::QueuedConnection);
  }
}

void Strand::finishAll() { pool().waitForDone(); }

}  // namespace easel::app
