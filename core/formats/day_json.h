// A shooting day as JSON: docs/formats/day.md, day.schema.json.
//
// Where a look names a file, loadDay() reads the plan from there; what cannot be read is told in `problems` and the
// copy in the day stands in, so that a day opens whatever has become of its plans.
#pragma once

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

#include "files/json_front.h"
#include "shoot/day.h"

namespace easel {

using DayFileError = FileError;
constexpr int kDayVersion = 1;

/// Throw DayFileError with a sentence that says where.
Day readDayText(std::string_view text);
std::string writeDayText(const Day& day);
/// Throws DayFileError with a sentence when a file could not hold the day; the plans of its looks, which have ranges of
/// their own, are not looked at. A millisecond: for every edit.
void requireHolds(const Day& day);

struct OpenedDay {
  Day day;
  std::vector<std::string> problems;  ///< "Look 3: the plan maker.easel.json is gone ..."
};
OpenedDay loadDay(const std::filesystem::path& file);
void saveDay(const std::filesystem::path& file, const Day& day);  ///< atomic

/// Looks name their plans against the day's folder: the same day for another one. Folders absolute, or empty where the
/// day has none.
Day forFolder(Day day, const std::filesystem::path& from, const std::filesystem::path& to);

/// The plans of looks that name a file, as they are now; `folder` is the day's. Sentences for those that cannot be
/// read.
std::vector<std::string> refreshPlans(Day& day, const std::filesystem::path& folder);

}  // namespace easel
