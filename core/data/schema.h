// A JSON file held against its schema of docs/formats.
//
//   static const Schema schema("looks.schema.json", kLimits, Unknown::Refuse);
//   schema.require(parseJson(text, kLimits));   // throws FileError: "... at /looks/0/turn: a number from 0 to 90 is
//   wanted."
//
// Draft 7. Forms of texts ("pattern") are left to the reader: std::regex recurses over long texts until the stack ends.
// Immutable once built: any thread.
#pragma once

#include <memory>
#include <nlohmann/json_fwd.hpp>
#include <string>

#include "files/json_front.h"

namespace easel {

/// What is done with members that the schema does not name: a plan keeps them for the program that wrote them; in what
/// is written by hand they are misspelt.
enum class Unknown { Keep, Refuse };

class Schema {
 public:
  /// `name` as it ships; it may refer to definitions of another one that ships. `limits` says what kind of file it is.
  Schema(const char* name, const JsonLimits& limits, Unknown unknown = Unknown::Keep);
  ~Schema();

  /// Throws FileError that names up to three places and what is wanted there.
  void require(const nlohmann::ordered_json& json) const;

 private:
  struct Inside;
  std::unique_ptr<const Inside> inside_;
};

}  // namespace easel
