#include "spoken/number.h"

#include <charconv>
#include <cmath>
#include <utility>

namespace easel {
namespace {

bool isDigit(char c) { return c >= '0' && c <= '9'; }
bool isLetter(char c) { return (c >= 'a' && c <= 'z') || static_cast<unsigned char>(c) >= 128; }

// What keyboards and word processors make of plain signs.
constexpr std::pair<std::string_view, std::string_view> kLevelled[] = {
    {"\u2212", "-"},    {"\u2013", "-"},    {"\u00a0", " "},    {"\u202f", " "},
    {"\u2009", " "},    {"\u2019", "'"},    {"\u2032", "'"},    {"\u2033", "\""},
    {"\u201d", "\""},   {"\u00bd", " 1/2"}, {"\u2153", " 1/3"}, {"\u2154", " 2/3"},
    {"\u00bc", " 1/4"}, {"\u00be", " 3/4"}, {"\u2236", ":"},    {"\u2044", "/"},
};

constexpr std::string_view kCounts[] = {"one",   "two",   "three", "four", "five",   "six",
                                        "seven", "eight", "nine",  "ten",  "eleven", "twelve"};

}  // namespace

std::optional<double> takeNumber(std::string_view& text) {
  char plain[64];
  size_t n = 0, at = 0;
  auto put = [&](char c) {
    if (n < sizeof plain) plain[n] = c;
    ++n;
  };
  if (at < text.size() && (text[at] == '-' || text[at] == '+')) {
    if (text[at] == '-') put('-');
    ++at;
  }
  size_t digits = 0;
  for (; at < text.size() && isDigit(text[at]); ++at, ++digits) put(text[at]);
  if (at < text.size() && (text[at] == '.' || text[at] == ',')) {
    put('.');
    for (++at; at < text.size() && isDigit(text[at]); ++at, ++digits) put(text[at]);
    // A second mark means grouped digits, and nobody can say which mark groups.
    if (at + 1 < text.size() && (text[at] == '.' || text[at] == ',') && isDigit(text[at + 1])) return {};
  }
  if (!digits) return {};
  if (at < text.size() && (text[at] == 'e' || text[at] == 'E')) {
    size_t e = at + 1;
    if (e < text.size() && (text[e] == '-' || text[e] == '+')) ++e;
    if (e < text.size() && isDigit(text[e])) {
      put('e');
      if (text[at + 1] == '-') put('-');
      for (; e < text.size() && isDigit(text[e]); ++e) put(text[e]);
      at = e;
    }
  }
  if (n > sizeof plain) return {};
  double v = 0;
  const auto [end, error] = std::from_chars(plain, plain + n, v);
  if (error != std::errc() || end != plain + n || !std::isfinite(v)) return {};
  text.remove_prefix(at);
  return v;
}

std::optional<double> wholeNumber(std::string_view text) {
  constexpr std::string_view blanks = " \t";
  const size_t first = text.find_first_not_of(blanks);
  if (first == std::string_view::npos) return {};
  text = text.substr(first, text.find_last_not_of(blanks) - first + 1);
  const auto v = takeNumber(text);
  return text.empty() ? v : std::nullopt;
}

std::optional<double> wholeAmount(std::string_view text) {
  Spoken s(text);
  const auto v = s.amount();
  return s.atEnd() ? v : std::nullopt;
}

Spoken::Spoken(std::string_view text) {
  for (size_t i = 0; i < text.size();) {
    bool found = false;
    for (const auto& [from, to] : kLevelled)
      if (text.substr(i, from.size()) == from) {
        text_ += to;
        i += from.size();
        found = true;
        break;
      }
    if (found) continue;
    const char c = text[i++];
    text_ += c >= 'A' && c <= 'Z' ? char(c - 'A' + 'a') : c == '\t' ? ' ' : c;
  }
}

void Spoken::skipBlanks() {
  while (at_ < text_.size() && text_[at_] == ' ') ++at_;
}

bool Spoken::atEnd() {
  skipBlanks();
  return at_ == text_.size();
}

std::optional<double> Spoken::number() {
  const size_t before = at_;
  skipBlanks();
  std::string_view left = rest();
  const bool sign = !left.empty() && (left[0] == '-' || left[0] == '+');
  if (sign) {  // "- 1/3": the sign may stand apart
    ++at_;
    skipBlanks();
  }
  std::string_view figures = rest();
  if (figures.empty() || !(isDigit(figures[0]) || figures[0] == '.' || figures[0] == ',')) {
    at_ = before;
    return {};
  }
  const size_t length = figures.size();
  const auto v = takeNumber(figures);
  if (!v) {
    at_ = before;
    return {};
  }
  at_ += length - figures.size();
  return sign && left[0] == '-' ? -*v : *v;
}

std::optional<double> Spoken::fractionWord() {
  const size_t before = at_;
  if (take("half") || (takeAny({"a", "one"}) && take("half"))) return 0.5;
  at_ = before;
  double n = 1;
  if (take("two"))
    n = 2;
  else if (take("three"))
    n = 3;
  else
    takeAny({"a", "one"});
  if (takeAny({"third", "thirds"})) return n / 3;
  if (takeAny({"quarter", "quarters"})) return n / 4;
  at_ = before;
  return {};
}

std::optional<double> Spoken::amount() {
  const size_t before = at_;
  double sign = 1;
  if (const auto first = number()) {
    double v = *first;
    if (take("/")) {
      const auto below = number();
      if (!below || *below == 0) {
        at_ = before;
        return {};
      }
      return v / *below;
    }
    // "1 1/3": only a fraction may follow a whole number.
    const size_t here = at_;
    if (const auto above = number(); above && *above >= 0 && rest().rfind("/", 0) == 0 && v == std::floor(v)) {
      take("/");
      if (const auto below = number(); below && *below > 0) return v + (v < 0 ? -1 : 1) * *above / *below;
    }
    at_ = here;
    return v;
  }
  if (take("-"))
    sign = -1;
  else
    take("+");
  if (const auto f = fractionWord()) return sign * *f;
  at_ = before;
  return {};
}

std::optional<int> Spoken::count() {
  const size_t before = at_;
  for (size_t i = 0; i < std::size(kCounts); ++i)
    if (take(kCounts[i])) return int(i) + 1;
  if (const auto v = number(); v && *v >= 0 && *v == std::floor(*v) && *v < 1e6) return int(*v);
  at_ = before;
  return {};
}

bool Spoken::take(std::string_view word) {
  const size_t before = at_;
  skipBlanks();
  const std::string_view left = rest();
  if (left.substr(0, word.size()) != word ||
      (!word.empty() && isLetter(word.back()) && left.size() > word.size() && isLetter(left[word.size()]))) {
    at_ = before;
    return false;
  }
  at_ += word.size();
  return true;
}

bool Spoken::takeAny(std::initializer_list<std::string_view> words) {
  for (const std::string_view w : words)
    if (take(w)) return true;
  return false;
}

}  // namespace easel
