// What goes to a terminal. Everything is printed by put() and putError(), so that nothing in a name or a note moves the
// cursor, changes the window or turns the direction of a line.
#pragma once

#include <fmt/format.h>

#include <cstdio>
#include <string>
#include <string_view>
#include <type_traits>
#include <utility>

namespace easel {

/// Control characters (C0 but tabs and line ends, DEL, C1, and those that turn the writing direction) as \u009b, which
/// is the same character within JSON; whatever is no UTF-8 stays as it is.
std::string printable(std::string_view text);

/// Whole texts, with their own lines: JSON, CSV. What could not be written is an error of the stream, which runEasel()
/// looks at.
void putText(std::string_view text, std::FILE* to = stdout);

/// Texts as values stay within their line.
template <class Value>
decltype(auto) valueOfLine(Value&& value) {
  if constexpr (std::is_convertible_v<Value, std::string_view>) {
    std::string line(std::string_view{value});
    for (char& c : line)
      if (c == '\n' || c == '\r' || c == '\t') c = ' ';
    return line;
  } else {
    return std::forward<Value>(value);
  }
}
template <class... Values>
std::string lineOf(fmt::format_string<Values...> words, Values&&... values) {
  return [&](auto&&... each) {
    return fmt::vformat(words, fmt::make_format_args(each...));
  }(valueOfLine(std::forward<Values>(values))...);
}

template <class... Values>
void put(fmt::format_string<Values...> words, Values&&... values) {
  putText(lineOf(words, std::forward<Values>(values)...));
}
template <class... Values>
void putError(fmt::format_string<Values...> words, Values&&... values) {
  putText(lineOf(words, std::forward<Values>(values)...), stderr);
}

}  // namespace easel
