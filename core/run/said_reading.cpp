#include "run/said_reading.h"

#include <cmath>
#include <map>
#include <stdexcept>
#include <vector>

#include "exposure/aperture.h"
#include "files/json_front.h"
#include "spoken/say.h"

namespace easel {
namespace {

std::vector<std::string> wordsOf(std::string_view text) {
  std::vector<std::string> out;
  std::string word;
  for (const char c : text) {
    const bool letter = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
    if (letter) {
      word.push_back(char(c | 0x20));
    } else if (!word.empty()) {
      out.push_back(word);
      word.clear();
    }
  }
  if (!word.empty()) out.push_back(word);
  return out;
}

// Engraved numbers as they are called; the longest that fits is taken.
const std::map<std::vector<std::string>, double>& called() {
  static const std::map<std::vector<std::string>, double> all = {
      {{"one", "four"}, 1.4},
      {{"one", "point", "four"}, 1.4},
      {{"two"}, 2},
      {{"two", "eight"}, 2.8},
      {{"two", "point", "eight"}, 2.8},
      {{"four"}, 4},
      {{"five", "six"}, 5.6},
      {{"five", "point", "six"}, 5.6},
      {{"eight"}, 8},
      {{"eleven"}, 11},
      {{"sixteen"}, 16},
      {{"twenty", "two"}, 22},
      {{"thirty", "two"}, 32},
      {{"forty", "five"}, 45},
      {{"nine"}, 9},
      {{"ten"}, 10},
      {{"thirteen"}, 13},
      {{"fourteen"}, 14},
      {{"six", "three"}, 6.3},
      {{"seven", "one"}, 7.1},
      {{"three", "five"}, 3.5},
      {{"four", "five"}, 4.5},
      {{"one"}, 1},
  };
  return all;
}
const std::map<std::vector<std::string>, double>& parts() {
  static const std::map<std::vector<std::string>, double> all = {
      {{"half"}, 0.5},           {{"a", "half"}, 0.5},        {{"third"}, 1.0 / 3},
      {{"a", "third"}, 1.0 / 3}, {{"one", "third"}, 1.0 / 3}, {{"two", "thirds"}, 2.0 / 3},
      {{"quarter"}, 0.25},       {{"a", "quarter"}, 0.25},    {{"point", "one"}, 0.1},
      {{"point", "two"}, 0.2},   {{"point", "three"}, 0.3},   {{"point", "four"}, 0.4},
      {{"point", "five"}, 0.5},  {{"point", "six"}, 0.6},     {{"point", "seven"}, 0.7},
      {{"point", "eight"}, 0.8}, {{"point", "nine"}, 0.9},
  };
  return all;
}

// The longest entry that stands at `at`; moves on behind it.
const double* taken(const std::map<std::vector<std::string>, double>& all, const std::vector<std::string>& words,
                    size_t& at) {
  for (size_t n = std::min<size_t>(3, words.size() - at); n > 0; --n) {
    const std::vector<std::string> here(words.begin() + long(at), words.begin() + long(at + n));
    if (const auto found = all.find(here); found != all.end()) {
      at += n;
      return &found->second;
    }
  }
  return nullptr;
}

}  // namespace

double saidAperture(std::string_view text) {
  const auto words = wordsOf(text);
  const bool figures = text.find_first_of("0123456789") != std::string_view::npos;
  if (figures || words.empty()) return readAperture(text);
  size_t at = words[0] == "f" ? 1 : 0;
  const auto wrong = [&] {
    return std::invalid_argument(
        say("\"{}\" is not a reading. Say or type it like \"five six and a half\" or f/5.6 + 0.5.",
            foreign(std::string(text))));
  };
  using Words = std::vector<std::string>;
  for (const Words& none : {Words{"nothing"}, Words{"dark"}, Words{"too", "dark"}, Words{"under"}})
    if (words == none) return kShowsNothing;
  const double* number = at < words.size() ? taken(called(), words, at) : nullptr;
  if (!number) throw wrong();
  double av = avFromFNumber(exactFromEngraved(*number));
  if (at < words.size()) {
    double sign = 1;
    if (words[at] == "and" || words[at] == "plus")
      ++at;
    else if (words[at] == "minus" || words[at] == "less") {
      sign = -1;
      ++at;
    }
    const double* part = at < words.size() ? taken(parts(), words, at) : nullptr;
    if (!part || at < words.size()) throw wrong();
    av += sign * *part;
  }
  return fNumberFromAv(av);
}

}  // namespace easel
