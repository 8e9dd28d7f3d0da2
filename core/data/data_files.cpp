#include "data/data_files.h"

#include <algorithm>
#include <mutex>
#include <nlohmann/json.hpp>

#include "data/schema.h"
#include "data/shipped.h"
#include "files/atomic_file.h"
#include "files/places.h"
#include "files/record.h"
#include "spoken/marked.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;
namespace fs = std::filesystem;

struct Sort {
  const char *format, *schema;
  JsonLimits limits;
  std::vector<const char*> shipped;
};
// In the order of DataKind.
const std::vector<Sort>& sorts() {
  static const std::vector<Sort> all = [] {
    const auto limits = [](const char* kind) {
      return JsonLimits{
          .kind = kind, .bytes = 8u << 20, .depth = 16, .values = 200'000, .otherwise = "Write it again."};
    };
    return std::vector<Sort>{
        {"jolly-easel-gear",
         "gear.schema.json",
         limits(marked("list of gear")),
         {"units.json", "modifiers.json", "fittings.json", "panels.json", "backdrops.json"}},
        {"jolly-easel-roles", "roles.schema.json", limits(marked("list of roles")), {"roles.json"}},
        {"jolly-easel-looks", "looks.schema.json", limits(marked("list of looks")), {"looks.json"}},
        {"jolly-easel-people", "people.schema.json", limits(marked("list of people")), {"people.json"}},
        {"jolly-easel-shoot", "shoot.schema.json", limits(marked("list for shooting days")), {"shoot.json"}},
    };
  }();
  return all;
}

struct OwnFile {
  std::string name;
  DataFile file;
};

std::mutex guard;
std::vector<std::string>& problems() {
  static auto& all = *new std::vector<std::string>;
  return all;
}
void tell(const std::string& file, const std::string& what) {
  std::string sentence = say("{} is not used. {}", foreign(file), what);
  const std::lock_guard lock(guard);
  if (std::find(problems().begin(), problems().end(), sentence) == problems().end())
    problems().push_back(std::move(sentence));
}

std::vector<OwnFile> readOwnFiles() {
  std::vector<fs::path> found;
  std::error_code none;
  for (const auto& entry : fs::directory_iterator(ownDataFolder(), none))
    if (entry.path().extension() == ".json") found.push_back(entry.path());
  std::sort(found.begin(), found.end());
  std::vector<OwnFile> out;
  for (const fs::path& file : found) try {
      out.push_back({file.filename().string(), readData(readWholeFile(file, sorts()[0].limits.bytes))});
    } catch (const std::exception& e) {
      tell(file.filename().string(), e.what());
    }
  return out;
}

}  // namespace

fs::path ownDataFolder() { return ownFolder() / "catalogue"; }

std::vector<std::string> dataProblems() {
  const std::lock_guard lock(guard);
  return problems();
}

Record DataFile::record() const { return {*json, sorts()[size_t(kind)].limits}; }

DataFile readData(std::string_view text) {
  const JsonLimits any{.kind = "file of data",
                       .bytes = sorts()[0].limits.bytes,
                       .depth = 16,
                       .values = 200'000,
                       .otherwise = "Write it again."};
  Json json = parseJson(text, any);
  const auto format = json.is_object() && json.contains("format") && json["format"].is_string()
                          ? json["format"].get<std::string>()
                          : std::string();
  for (size_t i = 0; i < sorts().size(); ++i) {
    const Sort& sort = sorts()[i];
    if (format != sort.format) continue;
    requireFormat(json, sort.format, 1, sort.limits);
    Schema(sort.schema, sort.limits, Unknown::Refuse).require(json);
    return {DataKind(i), std::make_shared<const Json>(std::move(json))};
  }
  std::string known;
  for (const Sort& sort : sorts()) known += (known.empty() ? "" : ", ") + std::string(sort.format);
  throw FileError(say("Its \"format\" is none of {}. Write there what the file holds.", known));
}

void eachDataFile(DataKind kind, const std::function<void(const Record&)>& take) {
  // What ships is held against its schema by a test, not at every start.
  for (const char* name : sorts()[size_t(kind)].shipped) {
    const Json json = Json::parse(shippedText(name));
    take({json, sorts()[size_t(kind)].limits});
  }
  static const std::vector<OwnFile> own = readOwnFiles();
  for (const OwnFile& one : own)
    if (one.file.kind == kind) try {
        take(one.file.record());
      } catch (const std::exception& e) {
        tell(one.name, e.what());
      }
}

}  // namespace easel
