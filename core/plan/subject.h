// What a finding is about, as the word that files and the program share: "light A", "panel 3"; or a part of the set,
// "backdrop", "eyes". Not for people to read: sentences name the thing themselves.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace easel {

inline std::string lightSubject(const std::string& id) { return "light " + id; }
inline std::string panelSubject(const std::string& id) { return "panel " + id; }

/// The id of the light or board; empty when the subject is another.
inline std::optional<std::string> lightOf(std::string_view subject) {
  if (!subject.starts_with("light ")) return {};
  return std::string(subject.substr(6));
}
inline std::optional<std::string> panelOf(std::string_view subject) {
  if (!subject.starts_with("panel ")) return {};
  return std::string(subject.substr(6));
}

}  // namespace easel
