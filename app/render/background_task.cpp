#include "render/background_task.h"

namespace easel::app {

BackgroundTask::BackgroundTask(QObject* parent) : QObject(parent), thread_([this] { run(); }) {}

BackgroundTask::~BackgroundTask() {
  {
    std::lock_guard lock(guard_);
    quit_ = true;
    ++serial_;
  }
  wake_.notify_all();
  thread_.join();
}

void BackgroundTask::start(Work work) {
  {
    std::lock_guard lock(guard_);
    next_.emplace(++serial_, std::move(work));
  }
  running_ = true;
  wake_.notify_all();
}

void BackgroundTask::cancel() {
  {
    std::lock_guard lock(guard_);
    ++serial_;
    next_.reset();
  }
  if (running_) {
    running_ = false;
    emit ended();
  }
}

void BackgroundTask::run() {
  for (;;) {
    std::pair<std::uint64_t, Work> job;
    {
      std::unique_lock lock(guard_);
      wake_.wait(lock, [&] { return quit_ || next_; });
      if (quit_) return;
      job = std::move(*next_);
      next_.reset();
    }
    const std::uint64_t mine = job.first;
    // Delivered on this object's thread; dropped there when something newer was asked for in the meantime.
    auto deliver = [this, mine](std::function<void()> what) {
      QMetaObject::invokeMethod(
          this,
          [this, mine, what = std::move(what)] {
            if (serial_ == mine) what();
          },
          Qt::QueuedConnection);
    };
    try {
      Done done = job.second([&](double share) {
        if (serial_ != mine) return false;
        deliver([this, share] { emit progressed(share); });
        return true;
      });
      deliver([this, done = std::move(done)] {
        running_ = false;
        if (done) done();
        emit ended();
      });
    } catch (const std::exception& e) {
      deliver([this, why = QString::fromUtf8(e.what())] {
        running_ = false;
        emit failed(why);
        emit ended();
      });
    }
  }
}

}  // namespace easel::app
