// A cache of immutable values that take long to make.
//
// Keeps what somebody still holds and the last `kept` requests. Any thread; two that request the
// same at once may both make it.
#pragma once

#include <algorithm>
#include <deque>
#include <memory>
#include <mutex>
#include <utility>
#include <vector>

namespace easel {

/// `Key` tells by == what the thing was made of.
template <class Key, class Thing>
class Shared {
 public:
  explicit Shared(size_t kept) : kept_(kept) {}

  /// `make()` gives a std::shared_ptr<const Thing>; what it throws comes out.
  template <class Make>
  std::shared_ptr<const Thing> get(const Key& key, Make make) {
    {
      const std::scoped_lock lock(guard_);
      std::erase_if(known_, [](const auto& k) { return k.second.expired(); });
      for (const auto& [of, thing] : known_)
        if (of == key)
          if (auto found = thing.lock()) return remembered(found);
    }
    std::shared_ptr<const Thing> made = make();
    const std::scoped_lock lock(guard_);
    known_.emplace_back(key, made);
    return remembered(made);
  }

 private:
  const std::shared_ptr<const Thing>& remembered(const std::shared_ptr<const Thing>& thing) {
    const auto at = std::find(last_.begin(), last_.end(), thing);
    if (at == last_.end())
      last_.push_front(thing);
    else
      std::rotate(last_.begin(), at, at + 1);
    if (last_.size() > kept_) last_.pop_back();
    return thing;
  }

  const size_t kept_;
  std::mutex guard_;
  std::vector<std::pair<Key, std::weak_ptr<const Thing>>> known_;
  std::deque<std::shared_ptr<const Thing>> last_;  // newest first
};

}  // namespace easel
