// Members of a JSON object that has been held against its schema: what is not there leaves the value as it is.
#pragma once

#include <nlohmann/json.hpp>
#include <optional>

#include "geometry/vec.h"

namespace easel {

template <class T>
void take(const nlohmann::ordered_json& json, const char* name, T& value) {
  if (json.contains(name)) value = json[name].get<T>();
}
template <class T>
void take(const nlohmann::ordered_json& json, const char* name, std::optional<T>& value) {
  if (json.contains(name)) value = json[name].get<T>();
}
/// A word out of `names`, whose places are those of the enumeration.
template <class Enum, size_t N>
void take(const nlohmann::ordered_json& json, const char* name, const char* const (&names)[N], Enum& value) {
  if (!json.contains(name)) return;
  for (size_t i = 0; i < N; ++i)
    if (json[name] == names[i]) value = Enum(i);
}
inline void take(const nlohmann::ordered_json& json, const char* name, Vec3& value) {
  if (json.contains(name)) value = {json[name][0].get<float>(), json[name][1].get<float>(), json[name][2].get<float>()};
}

}  // namespace easel
