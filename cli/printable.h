// A foreign text for the terminal: nothing in it moves the cursor or changes the window.
#pragma once

#include <string>

namespace easel {

inline std::string printable(const std::string& text) {
  std::string out;
  for (const char c : text) out += static_cast<unsigned char>(c) < 0x20 || c == 0x7F ? ' ' : c;
  return out;
}

}  // namespace easel
