// A value computed on first use, then kept. One thread.
#pragma once

#include <functional>
#include <optional>
#include <utility>

namespace easel {

template <class T>
class Late {
 public:
  explicit Late(std::function<T()> make) : make_(std::move(make)) {}
  const T& operator()() const {
    if (!is_) is_.emplace(make_());
    return *is_;
  }

 private:
  std::function<T()> make_;
  mutable std::optional<T> is_;
};

}  // namespace easel
