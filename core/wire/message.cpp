#include "wire/message.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <utility>

#include "files/json_front.h"
#include "spoken/marked.h"
#include "spoken/say.h"

namespace easel {
namespace {

using json = nlohmann::ordered_json;

const JsonLimits kLimits{
    marked("message"), kWireLine, 3, 200, 60, 60, marked("The device should send one JSON object a line.")};
constexpr size_t kText = 400;

[[noreturn]] void refuse(const std::string& sentence) { throw FileError(sentence); }

std::string textOf(const json& j, const char* name) {
  const auto at = j.find(name);
  if (at == j.end() || !at->is_string() || at->get_ref<const std::string&>().size() > kText)
    refuse(say("The message needs \"{}\", a text of at most {} letters.", name, kText));
  return at->get<std::string>();
}

long long idOf(const json& j, const char* name) {
  const auto at = j.find(name);
  if (at == j.end() || !at->is_number_integer() || at->get<double>() < 0 || at->get<double>() > 1e15)
    refuse(say("The message needs \"{}\", the number of what was asked.", name));
  return at->get<long long>();
}

DeviceKind kindOf(const std::string& name) {
  for (const DeviceKind k : {DeviceKind::Meter, DeviceKind::Trigger, DeviceKind::Camera, DeviceKind::Remote})
    if (deviceName(k) == name) return k;
  refuse(say("\"{}\" is not a known kind of device: meter, trigger, camera or remote.", foreign(name)));
}

template <class T>
const T* valueOf(const WireValues& values, const std::string& name) {
  const auto at = values.find(name);
  return at == values.end() ? nullptr : std::get_if<T>(&at->second);
}

}  // namespace

std::string deviceName(DeviceKind kind) {
  return kind == DeviceKind::Meter     ? "meter"
         : kind == DeviceKind::Trigger ? "trigger"
         : kind == DeviceKind::Camera  ? "camera"
                                       : "remote";
}

const double* WireMessage::number(const std::string& n) const { return valueOf<double>(values, n); }
const bool* WireMessage::yes(const std::string& n) const { return valueOf<bool>(values, n); }
const std::string* WireMessage::text(const std::string& n) const { return valueOf<std::string>(values, n); }

WireMessage readMessage(std::string_view line) {
  const json j = parseJson(line, kLimits);
  if (!j.is_object()) refuse(say("The message is not a JSON object."));
  WireMessage m;
  using K = WireMessage::Kind;
  std::vector<std::string> named;
  if (j.contains("hello")) {
    m.kind = K::Hello;
    if (textOf(j, "hello") != "jolly-easel-wire")
      refuse(say("The device speaks \"{}\", not jolly-easel-wire.", foreign(textOf(j, "hello"))));
    m.version = int(std::min(idOf(j, "version"), 1'000'000LL));
    if (m.version != kWireVersion) return m;
    m.device = kindOf(textOf(j, "device"));
    m.name = textOf(j, "name");
    if (const auto all = j.find("abilities"); all != j.end()) {
      if (!all->is_array()) refuse(say("\"abilities\" is a list of texts."));
      for (const json& one : *all)
        if (one.is_string() && one.get_ref<const std::string&>().size() <= kText)
          m.abilities.push_back(one.get<std::string>());
    }
    return m;
  }
  if (j.contains("welcome")) {
    m.kind = K::Welcome;
    m.version = int(std::min(idOf(j, "welcome"), 1'000'000LL));
    return m;
  }
  if (j.contains("refused")) {
    m.kind = K::Refused;
    m.sentence = textOf(j, "refused");
    return m;
  }
  if (j.contains("ask")) {
    m.kind = K::Ask;
    m.name = textOf(j, "ask");
    m.id = idOf(j, "id");
    named = {"ask", "id"};
  } else if (j.contains("answer")) {
    m.kind = K::Answer;
    m.id = idOf(j, "answer");
    named = {"answer"};
  } else if (j.contains("problem")) {
    m.kind = K::Problem;
    m.id = idOf(j, "problem");
    m.sentence = textOf(j, "sentence");
    return m;
  } else if (j.contains("tell")) {
    m.kind = K::Tell;
    m.name = textOf(j, "tell");
    named = {"tell"};
  } else {
    refuse(say("The message is none of hello, welcome, refused, ask, answer, problem and tell."));
  }
  for (const auto& [name, value] : j.items()) {
    if (std::find(named.begin(), named.end(), name) != named.end()) continue;
    if (value.is_boolean())
      m.values[name] = value.get<bool>();
    else if (value.is_number())
      m.values[name] = value.get<double>();
    else if (value.is_string() && value.get_ref<const std::string&>().size() <= kText)
      m.values[name] = value.get<std::string>();
    else
      refuse(say("\"{}\" is neither a number, a short text nor yes or no.", foreign(name)));
  }
  return m;
}

std::string writeMessage(const WireMessage& m) {
  json j = json::object();
  using K = WireMessage::Kind;
  switch (m.kind) {
    case K::Hello:
      j = {{"hello", "jolly-easel-wire"}, {"version", m.version}, {"device", deviceName(m.device)}, {"name", m.name}};
      j["abilities"] = m.abilities;
      break;
    case K::Welcome:
      j["welcome"] = m.version;
      break;
    case K::Refused:
      j["refused"] = m.sentence;
      break;
    case K::Ask:
      j["ask"] = m.name;
      j["id"] = m.id;
      break;
    case K::Answer:
      j["answer"] = m.id;
      break;
    case K::Problem:
      j["problem"] = m.id;
      j["sentence"] = m.sentence;
      break;
    case K::Tell:
      j["tell"] = m.name;
      break;
  }
  for (const auto& [name, value] : m.values) {
    if (const double* n = std::get_if<double>(&value)) {
      if (std::isfinite(*n)) j[name] = *n;
    } else if (const bool* yes = std::get_if<bool>(&value)) {
      j[name] = *yes;
    } else {
      j[name] = std::get<std::string>(value);
    }
  }
  // What is no UTF-8 becomes a mark instead of an exception: names come from anywhere.
  return j.dump(-1, ' ', false, json::error_handler_t::replace) + "\n";
}

std::vector<std::string> WireLines::feed(std::string_view bytes) {
  std::vector<std::string> out;
  for (const char c : bytes) {
    if (c == '\n') {
      if (!std::exchange(dropping_, false) && !rest_.empty()) out.push_back(rest_);
      rest_.clear();
    } else if (!dropping_) {
      rest_.push_back(c);
      if (rest_.size() > kWireLine) {
        dropping_ = true;
        ++dropped_;
        rest_.clear();
      }
    }
  }
  return out;
}

}  // namespace easel
