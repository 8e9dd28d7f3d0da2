#include "data/schema.h"

#include <fmt/format.h>

#include <algorithm>
#include <functional>
#include <map>
#include <nlohmann/json.hpp>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validation_results.hpp>
#include <valijson/validator.hpp>
#include <vector>

#include "data/shipped.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Plain = nlohmann::json;

Plain withoutForms(std::string_view text) {
  Plain out = Plain::parse(text);
  const std::function<void(Plain&)> drop = [&](Plain& j) {
    if (j.is_object() && j.contains("pattern") && j["pattern"].is_string()) j.erase("pattern");
    if (j.is_structured())
      for (auto& child : j) drop(child);
  };
  drop(out);
  return out;
}

// What is wanted at a place, from what the schema says of it; empty when it says nothing that is easily told.
std::string wanted(const Plain& node) {
  if (node.contains("enum")) {
    std::string all;
    for (const Plain& one : node["enum"])
      if (one.is_string()) all += (all.empty() ? "" : ", ") + one.get<std::string>();
    return all.empty() ? std::string() : say("one of {} is expected.", all);
  }
  const auto type = node.value("type", std::string());
  if ((type == "number" || type == "integer") && node.contains("minimum") && node.contains("maximum"))
    return type == "integer" ? say("a whole number from {} to {} is expected.", node["minimum"].get<double>(),
                                   node["maximum"].get<double>())
                             : say("a number from {} to {} is expected.", node["minimum"].get<double>(),
                                   node["maximum"].get<double>());
  if (type == "string" && node.contains("maxLength"))
    return node.contains("minLength")
               ? say("a text of at least one and at most {} characters is expected.", node["maxLength"].get<int>())
               : say("a text of at most {} characters is expected.", node["maxLength"].get<int>());
  if (type == "array" && node.contains("maxItems")) {
    const int least = node.value("minItems", 0), most = node["maxItems"].get<int>();
    return least == most ? say("a list of {} is expected.", most) : say("a list of at most {} is expected.", most);
  }
  if (type == "boolean") return say("true or false is expected.");
  if (type == "string") return say("a text is expected.");
  if (type == "number") return say("a number is expected.");
  if (type == "integer") return say("a whole number is expected.");
  if (type == "array") return say("a list is expected.");
  if (type == "object") return say("an object, in {{ }}, is expected.");
  return {};
}

}  // namespace

struct Schema::Inside {
  Inside(const JsonLimits& l, Unknown u) : limits(l), unknown(u) {}

  const JsonLimits& limits;
  Unknown unknown;
  std::map<std::string, Plain> texts;  ///< this one under "", others by name
  valijson::Schema schema;

  // The node of the schema, past what only refers to another.
  const Plain& resolved(const Plain& node) const {
    const Plain* at = &node;
    for (int hops = 0; at->is_object() && at->contains("$ref") && hops < 8; ++hops) {
      const auto to = (*at)["$ref"].get<std::string>();
      const size_t hash = to.find('#');
      const auto text = texts.find(to.substr(0, hash));
      if (text == texts.end()) break;
      at = &text->second.at(Plain::json_pointer(to.substr(hash + 1)));
    }
    return *at;
  }
  const Plain* at(const std::vector<std::string>& place) const {
    const Plain* node = &resolved(texts.at(""));
    for (const std::string& step : place) {
      if (node->contains("properties") && (*node)["properties"].contains(step))
        node = &resolved((*node)["properties"][step]);
      else if (node->contains("items") && (*node)["items"].is_object())
        node = &resolved((*node)["items"]);
      else
        return nullptr;
    }
    return node;
  }
  // The first member that no schema names; empty when there is none.
  std::string unnamed(const Plain& json, const Plain& schemaNode, const std::string& path) const {
    const Plain& node = resolved(schemaNode);
    if (json.is_object() && node.contains("properties"))
      for (const auto& [key, value] : json.items()) {
        if (!node["properties"].contains(key)) return path + "/" + foreign(key);
        if (const std::string deeper = unnamed(value, node["properties"][key], path + "/" + key); !deeper.empty())
          return deeper;
      }
    if (json.is_array() && node.contains("items"))
      for (size_t i = 0; i < json.size(); ++i)
        if (const std::string deeper = unnamed(json[i], node["items"], fmt::format("{}/{}", path, i)); !deeper.empty())
          return deeper;
    return {};
  }
};

Schema::Schema(const char* name, const JsonLimits& limits, Unknown unknown) {
  auto inside = std::make_unique<Inside>(limits, unknown);
  inside->texts[""] = withoutForms(shippedText(name));
  // Asked for by the whole address, as far as it has no root of its own: the name.
  const auto fetch = [&](const std::string& address) -> const Plain* {
    auto& text = inside->texts[address];
    if (text.is_null()) text = withoutForms(shippedText(address));
    return &text;
  };
  valijson::SchemaParser().populateSchema(valijson::adapters::NlohmannJsonAdapter(inside->texts[""]), inside->schema,
                                          fetch, [](const Plain*) {});
  inside_ = std::move(inside);
}
Schema::~Schema() = default;

void Schema::require(const nlohmann::ordered_json& json) const {
  const Inside& in = *inside_;
  const Plain plain = json;
  const auto refuse = [&](const std::string& where, const std::string& path, const std::string& limit) {
    std::string value;
    try {
      const Plain& there = plain.at(Plain::json_pointer(path));
      if (there.is_primitive()) value = foreign(there.dump());
    } catch (const nlohmann::json::exception&) {
      // Nothing stands there: that is what is wrong.
    }
    throw FileError(say("This is not a usable {}, {} Correct the value there, or open another copy.",
                        translated(in.limits.kind), where),
                    path, value, limit);
  };
  valijson::ValidationResults results;
  if (valijson::Validator().validate(in.schema, valijson::adapters::NlohmannJsonAdapter(plain), &results)) {
    if (in.unknown == Unknown::Refuse)
      if (const std::string path = in.unnamed(plain, in.texts.at(""), ""); !path.empty())
        refuse(say("at {}: there is no member of that name. Is it misspelt?", path), path, {});
    return;
  }
  // The deepest path is the cause; the outer ones only say that something inside is wrong.
  struct Wrong {
    std::string path, what;
    std::vector<std::string> place;
  };
  std::vector<Wrong> wrong;
  valijson::ValidationResults::Error e;
  while (results.popError(e)) {
    Wrong one;
    for (std::string part : e.context) {
      if (part == "<root>") continue;
      if (part.size() > 2 && part.front() == '[') part = part.substr(1, part.size() - 2);
      if (part.size() > 1 && part.front() == '"') part = part.substr(1, part.size() - 2);
      one.place.push_back(part);
      one.path += "/" + part;
    }
    // A missing member is told as the place where it belongs.
    const std::string missing = "Missing required property '";
    if (e.description.starts_with(missing)) {
      const std::string name =
          e.description.substr(missing.size(), e.description.find('\'', missing.size()) - missing.size());
      one.place.push_back(name);
      one.path += "/" + name;
      const Plain* node = in.at(one.place);
      const std::string what = node ? wanted(*node) : std::string();
      one.what = what.empty() ? say("nothing is there.") : say("nothing is there; {}", what);
    } else if (const Plain* node = in.at(one.place)) {
      one.what = wanted(*node);
    }
    if (one.what.empty()) one.what = say("the value there does not fit.");
    if (one.path.empty()) one.path = "/";
    wrong.push_back(std::move(one));
  }
  std::stable_sort(wrong.begin(), wrong.end(),
                   [](const Wrong& a, const Wrong& b) { return a.place.size() > b.place.size(); });
  std::string all;
  for (size_t i = 0; i < std::min<size_t>(wrong.size(), 3); ++i) {
    if (i && wrong[0].path.rfind(wrong[i].path, 0) == 0) continue;
    all += all.empty() ? say("at {}: {}", wrong[i].path, wrong[i].what)
                       : say(" And at {}: {}", wrong[i].path, wrong[i].what);
  }
  refuse(all, wrong[0].path, wrong[0].what);
}

}  // namespace easel
