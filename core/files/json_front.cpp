#include "files/json_front.h"

#include <nlohmann/json.hpp>
#include <unordered_set>
#include <vector>

#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;

// Goes through the text without building anything.
class Gate : public nlohmann::json_sax<Json> {
 public:
  Gate(const JsonLimits& limits, size_t bytes) : limits_(limits), bytes_(bytes) {}

  bool null() override { return value(); }
  bool boolean(bool) override { return value(); }
  bool number_integer(Json::number_integer_t) override { return value(); }
  bool number_unsigned(Json::number_unsigned_t) override { return value(); }
  bool number_float(Json::number_float_t, const Json::string_t&) override { return value(); }
  bool string(Json::string_t&) override { return value(); }
  bool binary(Json::binary_t&) override { return value(); }

  bool start_object(size_t) override { return open(true); }
  bool start_array(size_t) override { return open(false); }
  bool end_object() override { return close(); }
  bool end_array() override { return close(); }
  bool key(Json::string_t& name) override {
    Level& here = levels_.back();
    here.name = name;
    if (++here.count > limits_.members)
      refuse(say("{} has more than {} members", path(levels_.size() - 1), limits_.members));
    if (!here.names.insert(name).second) refuse(say("{} is there twice", path(levels_.size())));
    return true;
  }
  bool parse_error(size_t at, const std::string&, const nlohmann::detail::exception& e) override {
    if (e.id == 406) refuse(say("the number at byte {} is too large", at));
    throw FileError(say("This is not a {}: the JSON ends early or is damaged at byte {} of {}. {}",
                        translated(limits_.kind), at, bytes_, translated(limits_.otherwise)));
  }

 private:
  struct Level {
    bool object;
    std::string name;
    size_t count = 0;
    std::unordered_set<std::string> names;
  };
  [[noreturn]] void refuse(const std::string& what) const {
    throw FileError(
        say("This is not a usable {}: {}. Correct it, or open another copy.", translated(limits_.kind), what));
  }
  std::string path(size_t depth) const {
    std::string p;
    for (size_t i = 0; i < depth; ++i)
      p += "/" + (levels_[i].object ? foreign(levels_[i].name) : std::to_string(levels_[i].count - 1));
    return p.empty() ? "/" : p;
  }
  bool value() {
    if (++values_ > limits_.values) refuse(say("it has more than {} values", limits_.values));
    if (!levels_.empty() && !levels_.back().object && ++levels_.back().count > limits_.elements)
      refuse(say("the list {} has more than {} elements", path(levels_.size() - 1), limits_.elements));
    return true;
  }
  bool open(bool object) {
    value();
    if (int(levels_.size()) >= limits_.depth) refuse(say("it nests deeper than {} levels", limits_.depth));
    levels_.push_back({object, {}, 0, {}});
    return true;
  }
  bool close() {
    levels_.pop_back();
    return true;
  }

  const JsonLimits& limits_;
  size_t bytes_, values_ = 0;
  std::vector<Level> levels_;
};

}  // namespace

Json parseJson(std::string_view text, const JsonLimits& limits) {
  if (text.size() > limits.bytes)
    throw FileError(say("This is no {}: it is {} MB, and a {} has at most {} MB.", translated(limits.kind),
                        text.size() >> 20, translated(limits.kind), limits.bytes >> 20));
  if (text.find_first_not_of(" \t\r\n") == std::string_view::npos)
    throw FileError(say("This is no {}: the file is empty. {}", translated(limits.kind), translated(limits.otherwise)));
  Gate gate(limits, text.size());
  Json::sax_parse(text, &gate);
  return Json::parse(text);
}

int requireFormat(const Json& json, const char* format, int newest, const JsonLimits& limits) {
  if (!json.is_object() || !json.contains("format") || json["format"] != format)
    throw FileError(
        say("This is not a Jolly Easel {}: its \"format\" is not \"{}\".", translated(limits.kind), format));
  if (!json.contains("version") || !json["version"].is_number_integer())
    throw FileError(say("This {} does not say its version (a whole number at /version).", translated(limits.kind)));
  const Json& version = json["version"];
  // A number beyond any version may be too large for an int.
  if (version.is_number_unsigned() && version.get<std::uint64_t>() > std::uint64_t(newest))
    throw FileError(
        say("This {} has format version {}; this program reads up to version {}. Open it with a newer Jolly "
            "Easel.",
            translated(limits.kind), version.get<std::uint64_t>(), newest));
  if (version.get<std::int64_t>() < 1)
    throw FileError(say("This {} says version {} at /version, and there is none below 1. Correct it there.",
                        translated(limits.kind), version.get<std::int64_t>()));
  return int(version.get<std::int64_t>());
}

std::string foreign(std::string_view text) {
  constexpr size_t most = 60;
  std::string out;
  for (size_t i = 0; i < text.size(); ++i) {
    const auto c = static_cast<unsigned char>(text[i]);
    if (i >= most && (c & 0xC0) != 0x80) {  // never within a character
      out += "...";
      break;
    }
    if (i >= most + 4) break;
    out += c < 0x20 || c == 0x7F ? '?' : char(c);
  }
  return out;
}

void requireSize(const std::filesystem::path& file, std::string_view text, const JsonLimits& limits) {
  if (text.size() > limits.bytes)
    throw FileError(
        say("{} is not saved: the {} would have {} MB, and {} MB are the most that can be opened again. Remove "
            "something first.",
            foreign(file.filename().string()), translated(limits.kind), text.size() >> 20, limits.bytes >> 20));
}

}  // namespace easel
