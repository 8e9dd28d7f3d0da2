// Saving so that a crash, a full disk or kill -9 leaves either the old file or the new one, never half of one.
//
// What stands is kept as it was: its mode and, where this user may set it, its owner; a symbolic link is followed; a
// file with several hard links stays one file (then it is written in place, with the old content beside it as
// keepBackup() names it until it is through). A new file gets what the umask says. Special files are refused. Blocking;
// any thread, two of them may save the same file.
#pragma once

#include <cstdint>
#include <filesystem>
#include <string>
#include <string_view>

namespace easel {

enum class Privacy { AsUmask, OwnerOnly };

/// Writes beside `file`, syncs, renames over it and syncs the folder. Throws std::runtime_error with a sentence naming
/// the file and the cause (read-only folder, no space, quota...); then the old file is untouched and nothing is left
/// beside it. What an earlier process left beside it when it was killed is cleared away.
void writeFileAtomically(const std::filesystem::path& file, std::string_view bytes, Privacy privacy = Privacy::AsUmask);

/// For writers that want a file's name: a name beside `file` to write to, and then in its place, synced. Throws as
/// above.
std::filesystem::path besideOf(const std::filesystem::path& file);
void putInPlace(const std::filesystem::path& fresh, const std::filesystem::path& file);

/// For libraries that open files by themselves. Throws std::runtime_error with a sentence when it is not there, or is a
/// folder, a device or a pipe, for which they would wait.
void requireOrdinary(const std::filesystem::path& file);

/// The whole file. Throws std::runtime_error with a sentence; refuses more than `limit` bytes and what is no ordinary
/// file.
std::string readWholeFile(const std::filesystem::path& file, std::uintmax_t limit = 64u << 20);

/// Copies what stands there to NAME.bak, for what could not be read is about to be replaced; to NAME.bak2 and so on
/// when that name is taken, for a backup of the user's own is never replaced. Gives the path of the copy; empty:
/// nothing stood there. Throws std::runtime_error with a sentence.
std::filesystem::path keepBackup(const std::filesystem::path& file);

/// What a file is at one moment, to tell later whether another program has written it since.
struct FileMark {
  bool there = false;
  std::uint64_t size = 0, content = 0;
  std::int64_t modified = 0;  ///< ns
  bool operator==(const FileMark&) const = default;
};
/// A mark as one line of text, and back; what is no mark is that of no file.
std::string writeMark(const FileMark& mark);
FileMark readMark(const std::string& line);
/// Never throws: what cannot be read is not there.
FileMark markOf(const std::filesystem::path& file);
/// Whether its content differs from then; the time alone is no change.
bool changedSince(const std::filesystem::path& file, const FileMark& then);

}  // namespace easel
