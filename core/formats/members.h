// The members of one object of a file, for reading and writing alike; what is not known there is kept as it is.
#pragma once

#include <nlohmann/json.hpp>
#include <set>
#include <string>

namespace easel {

/// One table of members serves reading and writing, and tells which members are unknown.
class Members {
 public:
  explicit Members(nlohmann::ordered_json& json, bool writing) : json_(json), writing_(writing) {}

  template <class T>
  void member(const char* name, T& value) {
    known_.insert(name);
    if (writing_)
      json_[name] = value;
    else if (json_.contains(name))
      value = json_[name].get<T>();
  }
  template <class Enum, class ToName, class FromName>
  void named(const char* name, Enum& value, ToName toName, FromName fromName) {
    known_.insert(name);
    if (writing_)
      json_[name] = toName(value);
    else if (json_.contains(name))
      fromName(json_[name].get<std::string>(), value);
  }
  void known(const char* name) { known_.insert(name); }
  void extra(std::string& text) {
    if (writing_) {
      if (text.empty()) return;
      const nlohmann::ordered_json kept =
          nlohmann::ordered_json::parse(text);  // named: items() does not keep a temporary alive
      for (auto& [key, value] : kept.items())
        if (!json_.contains(key)) json_[key] = value;
      return;
    }
    nlohmann::ordered_json rest = nlohmann::ordered_json::object();
    for (auto& [key, value] : json_.items())
      if (!known_.count(key)) rest[key] = value;
    text = rest.empty() ? std::string() : rest.dump();
  }

 private:
  nlohmann::ordered_json& json_;
  bool writing_;
  std::set<std::string> known_;
};

/// The object that `visit(members, value)` names the members of.
template <class T, class Visit>
nlohmann::ordered_json writtenBy(T value, Visit visit) {
  nlohmann::ordered_json json = nlohmann::ordered_json::object();
  Members m(json, true);
  visit(m, value);
  return json;
}
template <class T, class Visit>
void readBy(nlohmann::ordered_json json, T& value, Visit visit) {
  Members m(json, false);
  visit(m, value);
}

}  // namespace easel
