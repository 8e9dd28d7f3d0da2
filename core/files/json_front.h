// The front door of every JSON file that the program reads: plan, kit, wish, looks.
//
// Before anything is built from a text it is gone through once, in linear time: size, depth, how many values, members
// and elements, no member twice, no number beyond a double. What comes after may be quadratic in an object's members
// and recursive in depth, for both are bounded here. Errors name the place as a JSON path or a byte.
#pragma once

#include <fmt/format.h>

#include <filesystem>
#include <functional>
#include <nlohmann/json_fwd.hpp>
#include <stdexcept>
#include <string>
#include <string_view>

namespace easel {

/// A file that cannot be taken. what() is for the user: where it is, what is wrong, what to do.
struct FileError : std::runtime_error {
  explicit FileError(const std::string& sentence, std::string where = {}, std::string found = {},
                     std::string limit = {})
      : std::runtime_error(sentence), place(std::move(where)), value(std::move(found)), wanted(std::move(limit)) {}
  std::string place;   ///< JSON path of what is wrong, "/lights/2/hour"; empty: the file as a whole
  std::string value;   ///< what stands there, shortened; empty: nothing, or more than a value
  std::string wanted;  ///< what may stand there, as part of a sentence; empty: not known
};

struct JsonLimits {
  const char* kind;                          ///< "plan", for the sentences
  size_t bytes = 8u << 20;                   ///< of the whole text
  int depth = 64;                            ///< of nesting
  size_t values = 20'000;                    ///< of all kinds together
  size_t members = 1000;                     ///< of one object
  size_t elements = 1000;                    ///< of one list
  const char* otherwise = "Open a backup.";  ///< what to do when the text is damaged
};

/// Throws FileError. No limit of recursion is met in what it gives.
nlohmann::ordered_json parseJson(std::string_view text, const JsonLimits& limits);

/// The version of an object whose "format" is `format`. Throws FileError when it is another format, has no version, or
/// one that this program does not read (1 to `newest`).
int requireFormat(const nlohmann::ordered_json& json, const char* format, int newest, const JsonLimits& limits);

/// A foreign text within a sentence: at most 60 bytes of it, whole characters, nothing that moves a cursor.
std::string foreign(std::string_view text);

/// Reads the file and hands its text to `read`; a FileError gets the file's name in front. Throws std::runtime_error
/// when the file cannot be read.
template <class Read>
auto readNamed(const std::filesystem::path& file, const JsonLimits& limits, Read read);

/// writeFileAtomically(), but only what can be opened again: `read` is given the text first, and what it refuses takes
/// the place of nothing. Throws FileError with a sentence that says so.
template <class Read>
void writeWithin(const std::filesystem::path& file, std::string_view text, const JsonLimits& limits, Read read);

/// Throws FileError when the text is larger than its reader takes.
void requireSize(const std::filesystem::path& file, std::string_view text, const JsonLimits& limits);

}  // namespace easel

#include "files/atomic_file.h"
#include "spoken/say.h"

template <class Read>
auto easel::readNamed(const std::filesystem::path& file, const JsonLimits& limits, Read read) {
  const std::string text = readWholeFile(file, limits.bytes);
  try {
    return read(text);
  } catch (const FileError& e) {
    throw FileError(fmt::format("{}: {}", foreign(file.filename().string()), e.what()), e.place, e.value, e.wanted);
  }
}

template <class Read>
void easel::writeWithin(const std::filesystem::path& file, std::string_view text, const JsonLimits& limits, Read read) {
  requireSize(file, text, limits);
  try {
    read(text);
  } catch (const FileError& e) {
    throw FileError(
        say("{} is not saved, for it could not be opened again. {}", foreign(file.filename().string()), e.what()),
        e.place, e.value, e.wanted);
  }
  writeFileAtomically(file, text);
}
