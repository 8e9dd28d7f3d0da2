// Saving so that a crash, a full disk or kill -9 leaves either the old file or the new one, never half of one.
#pragma once

#include <filesystem>
#include <string>
#include <string_view>

namespace easel {

/// Writes to a temporary file beside `file`, syncs it, renames it over. Throws std::runtime_error with a sentence
/// naming the file and the cause (read-only folder, no space...); then the old file is untouched.
void writeFileAtomically(const std::filesystem::path& file, std::string_view bytes);

/// The whole file. Throws std::runtime_error with a sentence; refuses more than `limit` bytes.
std::string readWholeFile(const std::filesystem::path& file, std::uintmax_t limit = 64u << 20);

}  // namespace easel
