// Which renderers of the process work: those in view first, the others when none of these has anything to do.
//
// Any thread.
#pragma once

#include <atomic>
#include <condition_variable>
#include <cstdint>
#include <mutex>

namespace easel {

class Precedence {
 public:
  static Precedence& ofProcess() {
    static Precedence one;
    return one;
  }

  /// One in view has work from now on, and has none any more.
  void begin() {
    const std::lock_guard lock(guard_);
    ++working_;
    ++epoch_;
  }
  void end() {
    {
      const std::lock_guard lock(guard_);
      --working_;
    }
    changed_.notify_all();
  }

  /// Another number each time that one in view begins: what others do stops then.
  const std::atomic<std::uint64_t>& epoch() const { return epoch_; }

  /// Until none in view works, or `otherwise`, which is asked again after each stir(). Then: the number as it was.
  template <class Otherwise>
  std::uint64_t giveWay(Otherwise otherwise) {
    std::unique_lock lock(guard_);
    changed_.wait(lock, [&] { return working_ == 0 || otherwise(); });
    return epoch_;
  }
  void stir() {
    { const std::lock_guard lock(guard_); }  // whoever is between its question and its sleep has gone to sleep
    changed_.notify_all();
  }

 private:
  std::mutex guard_;
  std::condition_variable changed_;
  int working_ = 0;
  std::atomic<std::uint64_t> epoch_{0};
};

}  // namespace easel
