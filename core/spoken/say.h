// Every sentence that the core speaks goes through here, so that a window can put it into another language.
//
//   throw std::invalid_argument(say("Light {} stands {} from the sitter.", l.id, spelling.length(l.distance)));
//   speakThrough([](std::string_view english) { return lookUp(english); });   // once, before the first sentence
//
// The English text is the key. Figures are spelled by the caller (exposure/spelling.h); a translation may use them in
// another order, {1} before {0}. One that wants a figure that is not there is passed over and the English stands.
#pragma once

#include <fmt/format.h>

#include <functional>
#include <string>
#include <string_view>

namespace easel {

/// The English as it is until this is called; an empty answer lets the English stand. Any thread may speak meanwhile;
/// what has been said stays as it was. The tables of names are filled with the first question for them.
using Translate = std::function<std::string(std::string_view english)>;
void speakThrough(Translate translate);

/// A text that stands in data: names, steps of a look.
std::string translated(std::string_view english);

std::string sayFilled(std::string_view english, fmt::format_args values);

template <class... Values>
std::string say(fmt::format_string<Values...> english, Values&&... values) {
  const fmt::string_view text = english;
  return sayFilled({text.data(), text.size()}, fmt::make_format_args(values...));
}

}  // namespace easel
