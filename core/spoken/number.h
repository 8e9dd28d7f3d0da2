// Numbers as people write and say them: the one reader of numbers in the core.
//
//   Spoken text("F/5,6 and a third");
//   text.take("f/"); double n = *text.number();          // 5.6
//   text.take("and"); double stops = *text.amount();     // 0.333
//   if (!text.atEnd()) ...                               // something is left that nobody understood
//
// Comma and point both part whole from fraction, whatever the locale (std::from_chars underneath; the C library's
// readers stop at the point under a comma locale). Digits are never grouped: "1.250,5" is no number. Case, blanks,
// typographic minus, primes and vulgar fractions are levelled first. No member throws; copies are independent.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace easel {

/// Takes a number off the front of `text` ("5.6", "5,6", "-3", "1e-3"); nothing, and the text untouched, when none
/// stands there, it is grouped or it is too large for a double. No blanks are skipped, nothing is allocated.
std::optional<double> takeNumber(std::string_view& text);

/// The whole text as one number, blanks around it allowed.
std::optional<double> wholeNumber(std::string_view text);

/// The whole text as one amount: Spoken::amount().
std::optional<double> wholeAmount(std::string_view text);

/// A cursor over one line of spoken text.
class Spoken {
 public:
  explicit Spoken(std::string_view text);

  /// A plain number. Like every reader here: skips blanks, and leaves the cursor where it was when nothing fits.
  std::optional<double> number();
  /// A number, "1/3", "1 1/3", "a third", "two thirds", "a half", with or without a sign before it.
  std::optional<double> amount();
  /// "one" to "twelve" or figures without a fraction.
  std::optional<int> count();
  /// The word or sign, in small letters; a word ends where its letters end ("f" does not take the front of "from").
  bool take(std::string_view word);
  /// The first of them that fits.
  bool takeAny(std::initializer_list<std::string_view> words);
  bool atEnd();
  /// What has not been taken yet, levelled.
  std::string_view rest() const { return std::string_view(text_).substr(at_); }

 private:
  void skipBlanks();
  std::optional<double> fractionWord();
  std::string text_;
  size_t at_ = 0;
};

}  // namespace easel
