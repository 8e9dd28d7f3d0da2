// Finding a thing of a catalogue by its id, and putting one there.
#pragma once

#include <string>
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

/// The one of that id; of "own", and of an id that nothing is known of, `theirs`. nullptr when there is neither.
template <class T>
const T* byIdOrOwn(const std::vector<T>& all, std::string_view id, std::string_view theirs) {
  const T* t = id == "own" ? nullptr : byId(all, id);
  return t ? t : byId(all, theirs);
}

/// Its name, or the id that nothing is known of.
template <class T>
std::string nameOr(const T* thing, const std::string& id) {
  return thing ? thing->name : id;
}

/// Takes the place of the one with the same id, or goes to the end.
template <class T>
void put(std::vector<T>& all, T one) {
  for (T& t : all)
    if (t.id == one.id) {
      t = std::move(one);
      return;
    }
  all.push_back(std::move(one));
}

}  // namespace easel
