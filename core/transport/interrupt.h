// Stopping long work at once: the caller raises the number, workers compare it at every tile.
#pragma once

#include <atomic>
#include <cstdint>

namespace easel {

class Interrupt {
 public:
  Interrupt() = default;
  explicit Interrupt(const std::atomic<std::uint64_t>& epoch) : Interrupt(epoch, epoch.load()) {}
  /// Raised as soon as the number is no longer `mine`, even when it changed before this was made.
  Interrupt(const std::atomic<std::uint64_t>& epoch, std::uint64_t mine) : epoch_(&epoch), mine_(mine) {}
  /// Either of the two.
  Interrupt(const Interrupt& one, const std::atomic<std::uint64_t>& epoch, std::uint64_t mine)
      : epoch_(one.epoch_), other_(&epoch), mine_(one.mine_), others_(mine) {}
  bool raised() const {
    return (epoch_ && epoch_->load(std::memory_order_relaxed) != mine_) ||
           (other_ && other_->load(std::memory_order_relaxed) != others_);
  }

 private:
  const std::atomic<std::uint64_t>*epoch_ = nullptr, *other_ = nullptr;
  std::uint64_t mine_ = 0, others_ = 0;
};

/// Pixels are worked on in tiles of this edge: small enough that an interrupt is noticed within a millisecond.
constexpr int kTile = 16;

}  // namespace easel
