// What a plan can hold: one table of ranges for the file, the edits, the fields, the drags and the searches.
//
//   double least = rangeOf("light.height").least;          // for a field
//   moved.height = rangeOf("light.height").clamp(wanted);  // for a drag
//   requireInRange(plan);                                  // for an edit, or after reading
//
// docs/formats/plan.schema.json says the same numbers; a test holds the two against one another. Immutable, any thread.
#pragma once

#include <algorithm>
#include <functional>
#include <stdexcept>
#include <string>
#include <string_view>
#include <vector>

#include "exposure/spelling.h"
#include "plan/plan.h"

namespace easel {

enum class Quantity { Length, Angle, Clock, Stops, FNumber, Time, Kelvin, Share, Lux, Millimetres, PerMetre, Plain };

/// One number of the plan. Both ends belong to it.
struct Range {
  std::string_view path;  ///< "light.height": the part, as the file names it, and the member
  std::string_view name;  ///< "height"
  Quantity quantity;
  double least, most;
  std::string_view advice;  ///< what to do instead; may be empty

  bool holds(double v) const { return v >= least && v <= most; }  // false for NaN
  double clamp(double v) const { return std::clamp(v, least, most); }
  /// "15.00 m", as the quantity is written.
  std::string write(double v, const Spelling& spelling = {}) const;
};

/// One text of the plan; lengths in characters (code points).
struct TextRange {
  std::string_view path, name;
  size_t shortest, longest;
  enum class Form { Any, LightLetter, PanelNumber, Word } form = Form::Any;  ///< Word: small letters, figures, hyphens
};

const std::vector<Range>& planRanges();
const std::vector<TextRange>& planTexts();
/// Throws std::out_of_range for a path that is not in the table: a mistake in the program.
const Range& rangeOf(std::string_view path);
const TextRange& textOf(std::string_view path);
/// At most `most` characters (code points) of a text.
std::string firstCharacters(const std::string& text, size_t most);

constexpr size_t kMostLights = 16, kMostSpots = 64, kMostWanted = 64;

/// Throws std::invalid_argument when the text has not the length or the form; `where` leads the sentence.
void requireText(const TextRange& range, const std::string& where, const std::string& text);

/// A value that the plan cannot hold. what() writes lengths in metres.
class OutOfRange : public std::invalid_argument {
 public:
  OutOfRange(std::string where, const Range& range, double value);
  /// "Light A: the height of 16.00 m is outside 0.00 m to 15.00 m. ..." in the user's units.
  std::string sentence(const Spelling& spelling) const;

 private:
  std::string where_;
  const Range* range_;
  double value_;
};

/// Throws OutOfRange, or std::invalid_argument for texts and counts, naming the first thing that the plan's file could
/// not hold. Some 500 comparisons.
void requireInRange(const Plan& plan);

/// Brings every number of a plan that was computed, not typed, into its range.
void clampToRanges(Plan& plan);

/// Every number of the plan with its range and its path: "light.A.hour", "camera.iso".
void forEachNumber(Plan& plan, const std::function<void(const Range&, const std::string& path, double&)>& visit);

}  // namespace easel
