// The members of one object of a file, for reading and writing alike; what is not known there is kept as it is.
#pragma once

#include <nlohmann/json.hpp>
#include <set>
#include <string>

#include "files/record.h"

namespace easel {

/// One table of members serves reading and writing, and tells which members are unknown.
class Members {
 public:
  /// Reading.
  explicit Members(const Record& record) : record_(&record) {}
  /// Writing.
  explicit Members(nlohmann::ordered_json& json) : json_(&json) {}

  template <class T>
  void member(const char* name, T& value) {
    known_.insert(name);
    if (json_)
      (*json_)[name] = value;
    else
      take(*record_, name, value);
  }
  template <class Enum, class ToName, class FromName>
  void named(const char* name, Enum& value, ToName toName, FromName fromName) {
    known_.insert(name);
    if (json_) {
      (*json_)[name] = toName(value);
    } else if (record_->contains(name)) {
      const Record member = (*record_)[name];
      member.within([&] { fromName(member.get<std::string>(), value); });
    }
  }
  void known(const char* name) { known_.insert(name); }
  void extra(std::string& text) {
    if (json_) {
      if (text.empty()) return;
      const nlohmann::ordered_json kept =
          nlohmann::ordered_json::parse(text);  // named: items() does not keep a temporary alive
      for (auto& [key, value] : kept.items())
        if (!json_->contains(key)) (*json_)[key] = value;
      return;
    }
    nlohmann::ordered_json rest = nlohmann::ordered_json::object();
    for (auto& [key, value] : record_->json().items())
      if (!known_.count(key)) rest[key] = value;
    text = rest.empty() ? std::string() : rest.dump();
  }

 private:
  const Record* record_ = nullptr;
  nlohmann::ordered_json* json_ = nullptr;
  std::set<std::string> known_;
};

/// The object that `visit(members, value)` names the members of.
template <class T, class Visit>
nlohmann::ordered_json writtenBy(T value, Visit visit) {
  nlohmann::ordered_json json = nlohmann::ordered_json::object();
  Members m(json);
  visit(m, value);
  return json;
}
template <class T, class Visit>
void readBy(const Record& record, T& value, Visit visit) {
  Members m(record);
  visit(m, value);
}

}  // namespace easel
