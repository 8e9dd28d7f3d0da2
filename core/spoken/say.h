// Every sentence that the core speaks goes through here, so that a window can put it into another language.
//
//   throw std::invalid_argument(say("Light {} stands {} from the sitter.", l.id, spelling.length(l.distance)));
//   speakThrough([](std::string_view english) { return lookUp(english); });   // once, before the first sentence
//   sayMany(n, "{} set fulfils the wish", "{} sets fulfil the wish", n);
//
// Whole sentences, never pieces that are glued together: another language has another order, and its own forms of
// number. The English text is the key, of sentences that count the form for many. Figures are spelled by the caller
// (exposure/spelling.h); a translation may use them in another order, {1} before {0}. One that wants a figure that is
// not there is passed over and the English stands.
#pragma once

#include <fmt/format.h>

#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace easel {

/// The English as it is until this is called; an empty answer lets the English stand. Any thread may speak meanwhile;
/// what has been said stays as it was. The tables of names are filled with the first question for them.
/// `count`: 1 for one, 2 and more for many; kNoCount when the sentence counts nothing.
constexpr int kNoCount = -1;
using Translate = std::function<std::string(std::string_view english, int count)>;
void speakThrough(Translate translate);

/// A text that stands in data: names, steps of a look.
std::string translated(std::string_view english);

std::string sayFilled(std::string_view english, fmt::format_args values);
std::string sayCounted(int count, std::string_view one, std::string_view many, fmt::format_args values);

/// What a sentence reads as: of whole numbers one is one; of measures up to 1.0 as written ("0.7 stop", "1.0 stop",
/// "1.1 stops").
constexpr int countedAs(int n) { return n; }
constexpr int countedAs(size_t n) { return int(n); }
constexpr int countedAs(double v) { return v > -1.05 && v < 1.05 ? 1 : 2; }

/// "a", "a or b", "a, b or c"; of nothing, nothing.
std::string eitherOf(const std::vector<std::string>& all);

template <class... Values>
std::string say(fmt::format_string<Values...> english, Values&&... values) {
  const fmt::string_view text = english;
  return sayFilled({text.data(), text.size()}, fmt::make_format_args(values...));
}

template <class Count, class... Values>
std::string sayMany(Count count, fmt::format_string<Values...> one, fmt::format_string<Values...> many,
                    Values&&... values) {
  const fmt::string_view single = one, several = many;
  return sayCounted(countedAs(count), {single.data(), single.size()}, {several.data(), several.size()},
                    fmt::make_format_args(values...));
}

}  // namespace easel
