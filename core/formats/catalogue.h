// The whole of the data at once: what was left aside of the user's own, and whether a file could be taken.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace easel {

/// Reads all kinds of data, if that has not been done yet (some 20 ms), and gives a sentence for each file of the
/// user's that was left aside. Any thread.
std::vector<std::string> catalogueProblems();

/// What a file of data would bring: "modifiers: 1, looks: 2". Throws FileError where it could not be taken.
std::string whatItBrings(std::string_view text);

}  // namespace easel
