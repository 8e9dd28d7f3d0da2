// Work that takes longer than a frame: on a thread of its own, the newest wins, with progress, and it can be stopped.
#pragma once

#include <QObject>
#include <atomic>
#include <condition_variable>
#include <functional>
#include <mutex>
#include <optional>
#include <thread>

namespace easel::app {

class BackgroundTask : public QObject {
  Q_OBJECT

 public:
  /// Called on the interface thread when the work is through, unless it was stopped or replaced.
  using Done = std::function<void()>;
  /// Says how far the work is (0..1) and whether it is still wanted.
  using Go = std::function<bool(double)>;
  using Work = std::function<Done(const Go&)>;

  explicit BackgroundTask(QObject* parent = nullptr);
  ~BackgroundTask() override;

  /// Replaces what runs or waits.
  void start(Work work);
  void cancel();
  bool running() const { return running_; }

 signals:
  void progressed(double share);
  void failed(const QString& why);
  void ended();  ///< through, failed or stopped

 private:
  void run();

  std::mutex guard_;
  std::condition_variable wake_;
  std::optional<std::pair<std::uint64_t, Work>> next_;
  std::atomic<std::uint64_t> serial_{0};
  bool quit_ = false, running_ = false;
  std::thread thread_;
};

}  // namespace easel::app
