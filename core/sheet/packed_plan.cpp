#include "sheet/packed_plan.h"

#include <qrencode.h>
#include <zlib.h>

#include <cmath>
#include <memory>
#include <nlohmann/json.hpp>

#include "formats/plan_json.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;

constexpr std::string_view kHead = "JEP1:";
constexpr std::string_view kAlphabet = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ $%*+-./:";
constexpr size_t kMostBytes = 1u << 20;
constexpr int kMostModules = 117;  // version 25

// Four places are a tenth of a millimetre and a thousandth of a stop.
Json shortened(const Json& value) {
  if (value.is_number_float()) {
    const double v = value.get<double>();
    const double r = std::abs(v) >= 0.01 ? std::round(v * 1e4) / 1e4 : v;
    return r == std::round(r) && std::abs(r) < 1e9 ? Json(std::int64_t(r)) : Json(r);
  }
  return value;
}
// Members that differ from those of `usual`, all the way down.
Json without(const Json& value, const Json& usual) {
  Json out = Json::object();
  for (const auto& [key, v] : value.items()) {
    if (usual.contains(key) && usual[key] == v) continue;
    if (v.is_object() && usual.contains(key) && usual[key].is_object()) {
      Json inner = without(v, usual[key]);
      if (!inner.empty()) out[key] = std::move(inner);
    } else {
      out[key] = shortened(v);
    }
  }
  return out;
}
Json usualPlan() {
  Plan p;
  p.lights.assign(1, Light{});
  p.panels.assign(1, Panel{});
  p.spots.assign(1, PinnedSpot{});
  return Json::parse(writePlanText(p));
}

}  // namespace

std::string base45(std::string_view bytes) {
  std::string out;
  for (size_t i = 0; i < bytes.size(); i += 2) {
    const unsigned a = static_cast<unsigned char>(bytes[i]);
    if (i + 1 < bytes.size()) {
      const unsigned v = a * 256 + static_cast<unsigned char>(bytes[i + 1]);
      out += kAlphabet[v % 45];
      out += kAlphabet[v / 45 % 45];
      out += kAlphabet[v / 2025];
    } else {
      out += kAlphabet[a % 45];
      out += kAlphabet[a / 45];
    }
  }
  return out;
}

std::string fromBase45(std::string_view text) {
  std::string out;
  const auto digit = [](char c) {
    const size_t at = kAlphabet.find(c);
    if (at == std::string_view::npos)
      throw std::invalid_argument(say("There is a character in it that no such code has."));
    return unsigned(at);
  };
  for (size_t i = 0; i < text.size(); i += 3) {
    const size_t n = std::min<size_t>(3, text.size() - i);
    if (n == 1) throw std::invalid_argument(say("It is cut short."));
    const unsigned v = digit(text[i]) + 45 * digit(text[i + 1]) + (n == 3 ? 2025 * digit(text[i + 2]) : 0);
    if (v > (n == 3 ? 0xffffu : 0xffu)) throw std::invalid_argument(say("It is damaged."));
    if (n == 3) out += char(v / 256);
    out += char(v % 256);
  }
  return out;
}

bool looksPacked(std::string_view text) { return text.substr(0, kHead.size()) == kHead; }

std::string packedPlan(const Plan& plan) {
  Json json = Json::parse(writePlanText(plan));
  const Json usual = usualPlan();
  Json out = without(json, usual);
  for (const char* list : {"lights", "panels", "spots"}) {
    if (!json.contains(list) || json[list].empty()) {
      out.erase(list);
      continue;
    }
    out[list] = Json::array();
    for (const Json& one : json[list]) {
      Json each = without(one, usual[list][0]);
      each["id"] = one["id"];
      out[list].push_back(std::move(each));
    }
  }
  out["format"] = json["format"];
  out["version"] = json["version"];
  const std::string text = out.dump(-1, ' ', false, Json::error_handler_t::replace);
  uLongf size = compressBound(uLong(text.size()));
  std::string packed(size, '\0');
  if (compress2(reinterpret_cast<Bytef*>(packed.data()), &size, reinterpret_cast<const Bytef*>(text.data()),
                uLong(text.size()), 9) != Z_OK)
    throw std::runtime_error(say("The plan could not be packed."));
  packed.resize(size);
  return std::string(kHead) + base45(packed);
}

Plan unpackedPlan(std::string_view code) {
  while (!code.empty() && (code.back() == '\n' || code.back() == '\r')) code.remove_suffix(1);
  if (!looksPacked(code)) throw FileError(say("This is not a packed plan: one begins with {}", kHead));
  std::string packed;
  try {
    packed = fromBase45(code.substr(kHead.size()));
  } catch (const std::invalid_argument& e) {
    throw FileError(say("This packed plan cannot be read. {} Copy all of it, or scan it again.", e.what()));
  }
  std::string text(kMostBytes, '\0');
  uLongf size = kMostBytes;
  const int status = uncompress(reinterpret_cast<Bytef*>(text.data()), &size,
                                reinterpret_cast<const Bytef*>(packed.data()), uLong(packed.size()));
  if (status == Z_BUF_ERROR && size == kMostBytes)
    throw FileError(say("This packed plan is larger than a plan can be, and is not opened."));
  if (status != Z_OK)
    throw FileError(say("This packed plan is damaged or cut short. Copy all of it, or scan it again."));
  text.resize(size);
  return readPlanText(text);
}

std::optional<CodeSquare> codeOf(const Plan& plan) {
  const std::string code = packedPlan(plan);
  const std::unique_ptr<QRcode, void (*)(QRcode*)> qr(QRcode_encodeString(code.c_str(), 0, QR_ECLEVEL_L, QR_MODE_8, 1),
                                                      QRcode_free);
  if (!qr || qr->width > kMostModules) return {};
  CodeSquare out;
  out.size = qr->width;
  for (int i = 0; i < qr->width * qr->width; ++i) out.dark.push_back((qr->data[i] & 1) != 0);
  out.caption =
      say("The whole plan: scan it and paste what it says into File, Paste a plan. It is also attached to the PDF.");
  return out;
}

}  // namespace easel
