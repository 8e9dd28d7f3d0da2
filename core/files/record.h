// One value of a JSON file as it is read, and where it stands in the file.
//
//   const Record plan = Record(json, kPlanLimits);
//   take(plan, "haze", haze);                                     // what is not there leaves the value as it is
//   plan.each("lights", [&](const Record& light) { ... });
//
// Every reader of plans, days, kits and data goes through here, so that every error is a FileError that says the place
// as a JSON path, all the way down: "/circuits/0/sockets/1/hour". Refers to the JSON that it was made of, which must
// outlive it. Any thread.
#pragma once

#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <type_traits>
#include <vector>

#include "files/json_front.h"

namespace easel {

class Record {
 public:
  using Json = nlohmann::ordered_json;
  Record(const Json& json, const JsonLimits& limits, std::string path = {})
      : json_(&json), limits_(&limits), path_(std::move(path)) {}

  const Json& json() const { return *json_; }
  const std::string& path() const { return path_; }
  size_t size() const { return json_->size(); }
  bool contains(const char* name) const { return json_->contains(name); }
  /// A member, which must be there, and an element of a list.
  Record operator[](const char* name) const;
  Record operator[](size_t i) const;

  /// Refused when it is of another type.
  template <class T>
  T get() const {
    T value{};
    read(value);
    return value;
  }
  /// Of a member; `missing` when it is not there.
  template <class T>
  T value(const char* name, T missing) const {
    return contains(name) ? (*this)[name].get<T>() : missing;
  }
  bool operator==(const char* word) const { return *json_ == word; }

  /// Goes through the list `name`, if it is there.
  template <class Read>
  void each(const char* name, Read read) const {
    if (!contains(name)) return;
    const Record list = (*this)[name];
    for (size_t i = 0; i < list.size(); ++i) {
      const Record one = list[i];
      one.within([&] { read(one); });
    }
  }
  /// All elements of this list, or all members of this object with their names.
  template <class Read>
  void eachMember(Read read) const {
    for (const auto& [name, value] : json_->items()) {
      const Record one(value, *limits_, path_ + "/" + name);
      one.within([&] { read(name, one); });
    }
  }

  /// What `read` refuses with std::invalid_argument is refused here.
  template <class Read>
  void within(Read read) const {
    try {
      read();
    } catch (const std::invalid_argument& e) {
      refuse(e.what());
    }
  }
  /// Throws FileError with the place in front.
  [[noreturn]] void refuse(const std::string& what) const;

 private:
  template <class T>
  void read(T& value) const {
    try {
      value = json_->get<T>();
    } catch (const Json::exception&) {
      refuseType(std::is_same_v<T, bool>          ? Wanted::TrueOrFalse
                 : std::is_arithmetic_v<T>        ? Wanted::Number
                 : std::is_same_v<T, std::string> ? Wanted::Text
                                                  : Wanted::Other);
    }
  }
  template <class T>
  void read(std::optional<T>& value) const {
    value = get<T>();
  }
  enum class Wanted { TrueOrFalse, Number, Text, Other };
  [[noreturn]] void refuseType(Wanted wanted) const;

  const Json* json_;
  const JsonLimits* limits_;
  std::string path_;
};

/// A member; what is not there leaves the value as it is.
template <class T>
void take(const Record& record, const char* name, T& value) {
  if (record.contains(name)) value = record[name].get<T>();
}
/// A word out of `names`, whose places are those of the enumeration; another one leaves it as it is.
template <class Enum, size_t N>
void take(const Record& record, const char* name, const char* const (&names)[N], Enum& value) {
  if (!record.contains(name)) return;
  for (size_t i = 0; i < N; ++i)
    if (record[name] == names[i]) value = Enum(i);
}

}  // namespace easel
