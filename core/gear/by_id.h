// Finding a thing of a catalogue by its id.
#pragma once

#include <string_view>
#include <vector>

namespace easel {

/// nullptr when there is none of that id.
template <class T>
const T* byId(const std::vector<T>& all, std::string_view id) {
  for (const T& t : all)
    if (t.id == id) return &t;
  return nullptr;
}

}  // namespace easel
