// What ships with the program as text: the data of data/, the schemas of docs/formats, the drawings of patterns.
#pragma once

#include <string>
#include <string_view>

namespace easel {

/// "looks.json", "looks.schema.json", "panes.svg". Any thread. Throws std::logic_error when nothing of that name ships.
std::string_view shippedText(std::string_view name);

}  // namespace easel
