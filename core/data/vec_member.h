// Three numbers of a list in JSON as a vector. Found by the JSON library through the vector's namespace.
#pragma once

#include "geometry/vec.h"

namespace easel {

template <class Json>
void from_json(const Json& json, Vec3& value) {
  for (int i = 0; i < 3; ++i) value[i] = json.at(size_t(i)).template get<float>();
}

}  // namespace easel
