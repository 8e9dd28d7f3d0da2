// A field of a CSV file (RFC 4180): with a comma, a quote or a line's end it stands in quotes, and its quotes are
// doubled. What a table program would take for a formula is led by an apostrophe.
#pragma once

#include <string>
#include <string_view>

namespace easel {

inline std::string csvField(std::string_view text) {
  const bool formula = !text.empty() && std::string_view("=+-@\t\r").find(text.front()) != std::string_view::npos;
  std::string led = formula ? "'" : "";
  led += text;
  if (led.find_first_of(",\"\r\n") == std::string::npos) return led;
  std::string quoted(1, '"');
  for (const char c : led) {
    if (c == '"') quoted.push_back('"');
    quoted.push_back(c);
  }
  quoted.push_back('"');
  return quoted;
}

}  // namespace easel
