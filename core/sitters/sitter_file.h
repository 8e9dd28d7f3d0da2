// Baked sitters on disk: one file each in the cache folder, written once by easel-bake, read by everything else.
//
// Layout (little endian): "EASELSIT", uint32 version, uint64 payload size, uint32 CRC-32 of the payload, payload.
// The file is a cache, not a document: when the version differs it is baked anew.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "sitters/sitter.h"

namespace easel {

constexpr std::uint32_t kSitterFileVersion = 12;

/// $EASEL_SITTERS, or jolly-easel/sitters below $XDG_CACHE_HOME (or ~/.cache).
std::filesystem::path sitterFolder();

/// Writes atomically. Throws std::runtime_error naming the file.
void writeSitter(const std::filesystem::path& file, const Sitter& sitter);

/// Throws std::runtime_error with a sentence that names the file and says to run ./run-demo, when it is missing, broken
/// or of another version.
Sitter readSitter(const std::filesystem::path& file);

/// The sitter `id` from the cache folder; kept in memory between calls. Throws as readSitter; of one who is being baked
/// it says so instead.
std::shared_ptr<const Sitter> loadSitter(const std::string& id);

/// Held by the program that bakes into a folder; another waits for it. Released by the system when the program ends.
class BakingLock {
 public:
  explicit BakingLock(const std::filesystem::path& folder);
  ~BakingLock();
  BakingLock(const BakingLock&) = delete;
  BakingLock& operator=(const BakingLock&) = delete;

 private:
  std::filesystem::path path_;
  int file_;
};

/// How far a folder is.
struct Baking {
  size_t there = 0, all = 0;  ///< people of the catalogue whose file stands there, and all of them
  bool goesOn = false;        ///< somebody holds the lock
  bool operator==(const Baking&) const = default;
};
/// Looks, without reading the files; asks the disk. Any thread.
Baking bakingOf(const std::filesystem::path& folder);

}  // namespace easel
