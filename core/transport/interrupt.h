// Stopping long work at once: the caller raises the number, workers compare it at every tile.
#pragma once

#include <algorithm>
#include <array>
#include <atomic>
#include <cstdint>

namespace easel {

class Interrupt {
 public:
  Interrupt() = default;
  explicit Interrupt(const std::atomic<std::uint64_t>& epoch) : Interrupt(epoch, epoch.load()) {}
  /// Raised as soon as the number is no longer `mine`, even when it changed before this was made.
  Interrupt(const std::atomic<std::uint64_t>& epoch, std::uint64_t mine) { add(epoch, mine); }
  /// By that one or by this; of three at most.
  Interrupt(const Interrupt& one, const std::atomic<std::uint64_t>& epoch, std::uint64_t mine) : Interrupt(one) {
    add(epoch, mine);
  }
  bool raised() const {
    return std::any_of(watched_.begin(), watched_.begin() + count_,
                       [](const Watched& w) { return w.epoch->load(std::memory_order_relaxed) != w.mine; });
  }

 private:
  struct Watched {
    const std::atomic<std::uint64_t>* epoch = nullptr;
    std::uint64_t mine = 0;
  };
  void add(const std::atomic<std::uint64_t>& epoch, std::uint64_t mine) {
    watched_.at(size_t(count_++)) = {&epoch, mine};
  }
  std::array<Watched, 3> watched_;
  int count_ = 0;
};

/// Pixels are worked on in tiles of this edge: small enough that an interrupt is noticed within a millisecond.
constexpr int kTile = 16;

}  // namespace easel
