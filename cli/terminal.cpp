#include "terminal.h"

namespace easel {

std::string printable(std::string_view text) {
  std::string out;
  out.reserve(text.size());
  for (size_t i = 0; i < text.size(); ++i) {
    const auto byte = [&](size_t k) {
      return i + k < text.size() ? unsigned(static_cast<unsigned char>(text[i + k])) : 0u;
    };
    const unsigned c = byte(0);
    unsigned control = 0;
    size_t length = 1;
    if ((c < 0x20 && c != '\n' && c != '\t' && !(c == '\r' && byte(1) == '\n')) || c == 0x7F) {
      control = c ? c : 0x2400;  // a nought is shown by its sign
    } else if (c == 0xC2 && byte(1) >= 0x80 && byte(1) < 0xA0) {
      control = byte(1);
      length = 2;
    } else if (c == 0xE2 && ((byte(1) == 0x80 && byte(2) >= 0xAA && byte(2) <= 0xAE) ||
                             (byte(1) == 0x81 && byte(2) >= 0xA6 && byte(2) <= 0xA9))) {
      control = 0x2000 | (byte(1) & 0x3F) << 6 | (byte(2) & 0x3F);
      length = 3;
    }
    if (control)
      out += fmt::format("\\u{:04x}", control);
    else
      out += text[i];
    i += length - 1;
  }
  return out;
}

void putText(std::string_view text, std::FILE* to) {
  const std::string safe = printable(text);
  std::fwrite(safe.data(), 1, safe.size(), to);
}

}  // namespace easel
