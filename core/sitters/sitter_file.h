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

constexpr std::uint32_t kSitterFileVersion = 5;

/// One of the sitters that ship: what the plan stores is the id.
struct SitterInfo {
  std::string id, name, description;
  bool lightHair = false;     ///< blond, grey or white: the hair light needs less
  double skin = 0.35;         ///< luminous reflectance of the face: fair skin about a stop over mid grey (from memory)
  double standingEyes = 1.6;  ///< height of the eyes above the floor, standing [m]; a test holds it to the baked body
};
const std::vector<SitterInfo>& sitterCatalogue();
/// By its id; the first of the catalogue when there is none.
const SitterInfo& sitterInfo(const std::string& id);

/// $EASEL_SITTERS, or jolly-easel/sitters below $XDG_CACHE_HOME (or ~/.cache).
std::filesystem::path sitterFolder();

/// Writes atomically. Throws std::runtime_error naming the file.
void writeSitter(const std::filesystem::path& file, const Sitter& sitter);

/// Throws std::runtime_error with a sentence that names the file and says to run ./run-demo, when it is missing, broken
/// or of another version.
Sitter readSitter(const std::filesystem::path& file);

/// The sitter `id` from the cache folder; kept in memory between calls. Throws as readSitter.
std::shared_ptr<const Sitter> loadSitter(const std::string& id);

}  // namespace easel
