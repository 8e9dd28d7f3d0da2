// A cache of immutable values that take long to make, limited by the bytes that they take.
//
// Keeps what somebody still holds and, besides, the last that were asked for, as long as all of these together take no
// more than `most` bytes; the very last is kept whatever it takes. How many bytes a value takes is asked each time, for
// some of it may be made later: `double bytesOf(const Thing&)`, or a member bytes(). Any thread; two that request the
// same at once may both make it.
#pragma once

#include <algorithm>
#include <deque>
#include <memory>
#include <mutex>
#include <utility>
#include <vector>

namespace easel {

template <class T>
double bytesOf(const std::vector<T>& all) {
  return double(all.capacity()) * sizeof(T);
}
template <class Thing>
requires requires(const Thing& thing) { thing.bytes(); }
double bytesOf(const Thing& thing) { return thing.bytes(); }

/// `Key` tells by == what the thing was made of.
template <class Key, class Thing>
class Shared {
 public:
  explicit Shared(double most) : most_(most) {}

  /// `make()` gives a std::shared_ptr<const Thing>; what it throws comes out.
  template <class Make>
  std::shared_ptr<const Thing> get(const Key& key, Make make) {
    {
      const std::scoped_lock lock(guard_);
      std::erase_if(known_, [](const auto& k) { return k.second.expired(); });
      for (const auto& [of, thing] : known_)
        if (of == key)
          if (auto found = thing.lock()) return remembered(std::move(found));
    }
    std::shared_ptr<const Thing> made = make();
    const std::scoped_lock lock(guard_);
    known_.emplace_back(key, made);
    return remembered(std::move(made));
  }

 private:
  std::shared_ptr<const Thing> remembered(std::shared_ptr<const Thing> thing) {
    std::erase(last_, thing);
    last_.push_front(thing);
    double sum = bytesOf(*thing);
    size_t kept = 1;
    while (kept < last_.size() && (sum += bytesOf(*last_[kept])) <= most_) ++kept;
    last_.resize(kept);
    return thing;
  }

  const double most_;
  std::mutex guard_;
  std::vector<std::pair<Key, std::weak_ptr<const Thing>>> known_;
  std::deque<std::shared_ptr<const Thing>> last_;  // newest first
};

}  // namespace easel
