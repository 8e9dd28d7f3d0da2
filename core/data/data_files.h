// What the program knows of gear, roles, looks and people: files that ship (data/), and the user's own beside them.
//
//   Gear gear = gathered<Gear>(DataKind::Gear, readGear);   // all of it, the user's last
//   for (const std::string& sentence : dataProblems()) ...  // files of the user's that were left aside
//
// A file is JSON with "format" jolly-easel-gear, -roles, -looks, -people or -shoot and a version (docs/formats). Those
// of the user lie in ownDataFolder() under any name that ends in .json, are taken in the order of their names, and add
// things or, by the same id, replace them. They are read once, when something of their kind is first asked for. One
// that is wrong is left aside whole, and said. Any thread.
#pragma once

#include <filesystem>
#include <functional>
#include <memory>
#include <nlohmann/json_fwd.hpp>
#include <string>
#include <vector>

#include "files/json_front.h"

namespace easel {

class Record;

enum class DataKind { Gear, Roles, Looks, People, Shoot };

/// "catalogue" in the user's own folder.
std::filesystem::path ownDataFolder();
/// Of the user's files that have been asked for so far: sentences that name the file.
std::vector<std::string> dataProblems();

struct DataFile {
  DataKind kind;
  std::shared_ptr<const nlohmann::ordered_json> json;
  Record record() const;  ///< of `json`, which must outlive it
};
/// Reads a text as a file of data: its kind, and what stands in it, held against the schema; members that it does not
/// name are refused. Throws FileError.
DataFile readData(std::string_view text);

/// Hands the files of the kind to `take` in their order; what it throws for one of the user's is told in
/// dataProblems().
void eachDataFile(DataKind kind, const std::function<void(const Record&)>& take);

/// All files of the kind read into one value; a file counts whole or not at all.
template <class All, class Read>
All gathered(DataKind kind, Read read) {
  All all;
  eachDataFile(kind, [&](const Record& record) {
    All next = all;
    read(record, next);
    all = std::move(next);
  });
  return all;
}

}  // namespace easel
