#include "formats/plan_json.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "data/schema.h"
#include "exposure/aperture.h"
#include "files/json_front.h"
#include "formats/members.h"
#include "plan/ranges.h"
#include "spoken/marked.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;

void visit(Members& m, Room& r) {
  m.member("width", r.width);
  m.member("depth", r.depth);
  m.member("height", r.height);
  m.member("behind", r.behind);
  m.member("wallReflectance", r.wallReflectance);
  m.member("floorReflectance", r.floorReflectance);
  m.member("ceilingReflectance", r.ceilingReflectance);
  m.member("paint", r.paint);
  m.extra(r.extra);
}
void visit(Members& m, SitterPlace& s) {
  m.member("id", s.id);
  m.member("eyeHeight", s.eyeHeight);
  m.member("turn", s.turn);
  m.member("tilt", s.tilt);
  m.member("nod", s.nod);
  m.member("hairColour", s.hairColour);
  m.member("hairStyle", s.hairStyle);
  m.member("skinTone", s.skinTone);
  m.member("outfit", s.outfit);
  m.member("cloth", s.cloth);
  m.member("clothColour", s.clothColour);
  m.member("beard", s.beard);
  m.member("glasses", s.glasses);
  m.member("templesUp", s.templesUp);
  m.member("pose", s.pose);
  m.member("shoulders", s.shoulders);
  m.member("lean", s.lean);
  m.member("expression", s.expression);
  m.member("hat", s.hat);
  m.member("hatBack", s.hatBack);
  m.member("gaze", s.gaze);
  m.member("gazeLight", s.gazeLight);
  m.member("gazeHour", s.gazeHour);
  m.member("gazeDistance", s.gazeDistance);
  m.member("gazeHeight", s.gazeHeight);
  m.extra(s.extra);
}
void visit(Members& m, Camera& c) {
  m.member("distance", c.distance);
  m.member("height", c.height);
  m.member("focalLength", c.focalLength);
  m.member("sensorWidth", c.sensorWidth);
  m.member("sensorHeight", c.sensorHeight);
  m.member("frame", c.frame);
  m.member("aimBelowEyes", c.aimBelowEyes);
  m.member("iso", c.iso);
  m.member("shutter", c.shutter);
  m.member("syncShutter", c.syncShutter);
  m.member("aperture", c.aperture);
  m.member("closedBy", c.closedBy);
  m.member("whiteBalance", c.whiteBalance);
  m.member("extends", c.extends);
  m.extra(c.extra);
}
void visit(Members& m, Backdrop& b) {
  m.member("distance", b.distance);
  m.member("width", b.width);
  m.member("height", b.height);
  m.member("material", b.material);
  m.extra(b.extra);
}
void visit(Members& m, Ambient& a) {
  m.member("lux", a.lux);
  m.member("kelvin", a.kelvin);
  m.extra(a.extra);
}
void visit(Members& m, Light& l) {
  m.member("id", l.id);
  m.member("name", l.name);
  m.named("role", l.role, roleName, roleFromName);
  m.member("group", l.group);
  m.member("unit", l.unit);
  m.member("modifier", l.modifier);
  m.member("gel", l.fittings.gel);
  m.member("nd", l.fittings.nd);
  m.member("diffusion", l.fittings.diffusion);
  m.member("grid", l.fittings.grid);
  m.member("deflector", l.fittings.deflector);
  m.member("inner", l.fittings.inner);
  m.member("doorLeft", l.fittings.doors.left);
  m.member("doorRight", l.fittings.doors.right);
  m.member("doorTop", l.fittings.doors.top);
  m.member("doorBottom", l.fittings.doors.bottom);
  m.member("zoom", l.fittings.zoom);
  m.member("spread", l.fittings.spread);
  m.member("focus", l.fittings.focus);
  m.member("pattern", l.fittings.pattern);
  m.member("kelvin", l.fittings.kelvin);
  m.member("hour", l.hour);
  m.member("distance", l.distance);
  m.member("height", l.height);
  m.member("pan", l.pan);
  m.member("tiltOffset", l.tiltOffset);
  m.member("power", l.power);
  m.member("on", l.on);
  m.member("modelling", l.modelling);
  m.member("targetStops", l.targetStops);
  m.member("locked", l.locked);
  m.member("worksOn", l.worksOn);
  m.member("inside", l.inside);
  m.extra(l.extra);
}

void visit(Members& m, Panel& p) {
  m.member("id", p.id);
  m.member("name", p.name);
  m.member("kind", p.kind);
  m.member("front", p.front);
  m.member("back", p.back);
  m.member("width", p.width);
  m.member("height", p.height);
  m.member("fold", p.fold);
  m.member("gap", p.gap);
  m.member("depth", p.depth);
  m.member("openWidth", p.openWidth);
  m.member("openHeight", p.openHeight);
  m.member("sill", p.sill);
  m.member("reflectance", p.reflectance);
  m.member("model", p.model);
  m.member("pattern", p.pattern);
  m.member("hour", p.hour);
  m.member("distance", p.distance);
  m.member("above", p.above);
  m.member("turn", p.turn);
  m.member("tilt", p.tilt);
  m.member("on", p.on);
  m.member("locked", p.locked);
  m.extra(p.extra);
}

const char* receptorName(Receptor r) { return r == Receptor::Flat ? "flat" : "dome"; }
void receptorFrom(const std::string& s, Receptor& r) { r = s == "dome" ? Receptor::Dome : Receptor::Flat; }
void visit(Members& m, PinnedSpot& s) {
  m.member("id", s.id);
  m.member("name", s.name);
  m.member("x", s.x);
  m.member("y", s.y);
  m.member("z", s.z);
  m.member("nx", s.nx);
  m.member("ny", s.ny);
  m.member("nz", s.nz);
  m.named("receptor", s.receptor, receptorName, receptorFrom);
  m.member("onHead", s.onHead);
  m.extra(s.extra);
}

template <class T>
Json written(const T& value) {
  return writtenBy(value, [](Members& m, T& v) { visit(m, v); });
}
template <class T>
void readInto(const Record& record, T& value) {
  readBy(record, value, [](Members& m, T& v) { visit(m, v); });
}
/// The member `name`, if it is there.
template <class T>
void readMember(const Record& record, const char* name, T& value) {
  if (record.contains(name)) readInto(record[name], value);
}
template <class T>
void readList(const Record& record, const char* name, std::vector<T>& all) {
  record.each(name, [&](const Record& one) { readInto(one, all.emplace_back()); });
}

constexpr const char* kPlanFormat = "jolly-easel-plan";
const JsonLimits kPlanLimits{.kind = marked("plan"), .otherwise = marked("Open the autosaved copy, or a backup.")};

const char* aimName(MeterAim a) { return a == MeterAim::Light ? "light" : "camera"; }
void aimFrom(const std::string& s, MeterAim& a) { a = s == "camera" ? MeterAim::Camera : MeterAim::Light; }

// Ids have forms of which the schema, as it is used here, says nothing; told with their place like all the rest.
void requireForms(const Record& plan) {
  const auto check = [](const Record& part, const TextRange& range) {
    const std::string member(range.path.substr(range.path.find('.') + 1));
    if (!part.contains(member.c_str())) return;
    const Record text = part[member.c_str()];
    text.within([&] { requireText(range, member, text.get<std::string>()); });
  };
  for (const TextRange& range : planTexts()) {
    if (range.form == TextRange::Form::Any) continue;
    if (range.path.starts_with("sitter.") && plan.contains("sitter")) check(plan["sitter"], range);
    for (const auto& [one, many] : {std::pair{"light.", "lights"}, {"panel.", "panels"}})
      if (range.path.starts_with(one)) plan.each(many, [&](const Record& each) { check(each, range); });
  }
}

}  // namespace

Plan readPlanText(std::string_view text) {
  const Json json = parseJson(text, kPlanLimits);
  requireFormat(json, kPlanFormat, kPlanVersion, kPlanLimits);
  static const Schema schema("plan.schema.json", kPlanLimits);
  schema.require(json);
  const Record plan(json, kPlanLimits);
  requireForms(plan);

  Plan p;
  try {
    Members m(plan);
    m.known("format");
    m.known("version");
    m.member("title", p.title);
    m.member("notes", p.notes);
    m.named("receptor", p.receptor, receptorName, receptorFrom);
    // Older files know the two usual pairs alone.
    p.meterAim = p.receptor == Receptor::Flat ? MeterAim::Light : MeterAim::Camera;
    m.named("meterAim", p.meterAim, aimName, aimFrom);
    for (const char* name : {"room", "sitter", "camera", "backdrop", "ambient", "spots", "panels", "lights", "wanted"})
      m.known(name);
    m.member("haze", p.haze);
    readMember(plan, "room", p.room);
    readMember(plan, "sitter", p.sitter);
    readMember(plan, "camera", p.camera);
    p.camera.aperture = exactFromEngraved(p.camera.aperture);  // people write 22 and mean the stop
    readMember(plan, "backdrop", p.backdrop);
    readMember(plan, "ambient", p.ambient);
    readList(plan, "spots", p.spots);
    for (PinnedSpot& s : p.spots) {
      const double n = std::hypot(s.nx, s.ny, s.nz);
      if (n < 1e-6 || std::abs(n - 1) <= 1e-4) continue;  // what was written as a unit comes back to the last digit
      s.nx /= n;
      s.ny /= n;
      s.nz /= n;
    }
    readList(plan, "panels", p.panels);
    readList(plan, "lights", p.lights);
    take(plan, "wanted", p.wanted);
    m.extra(p.extra);
    requireInRange(p);
  } catch (const std::invalid_argument& e) {
    throw PlanFileError(say("This is not a usable plan. {}", e.what()));
  }
  return p;
}

std::string writePlanText(const Plan& plan) {
  Plan p = plan;
  Json json = Json::object();
  json["format"] = kPlanFormat;
  json["version"] = kPlanVersion;
  Members m(json);
  m.member("title", p.title);
  m.member("notes", p.notes);
  m.named("receptor", p.receptor, receptorName, receptorFrom);
  m.named("meterAim", p.meterAim, aimName, aimFrom);
  json["room"] = written(p.room);
  json["sitter"] = written(p.sitter);
  json["camera"] = written(p.camera);
  json["backdrop"] = written(p.backdrop);
  json["ambient"] = written(p.ambient);
  json["spots"] = Json::array();
  for (const PinnedSpot& s : p.spots) json["spots"].push_back(written(s));
  json["panels"] = Json::array();
  for (const Panel& one : p.panels) json["panels"].push_back(written(one));
  m.member("haze", p.haze);
  json["lights"] = Json::array();
  for (const Light& l : p.lights) json["lights"].push_back(written(l));
  if (!p.wanted.empty()) json["wanted"] = p.wanted;
  m.extra(p.extra);
  return json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

Plan loadPlan(const std::filesystem::path& file) { return readNamed(file, kPlanLimits, readPlanText); }

void savePlan(const std::filesystem::path& file, const Plan& plan) {
  writeWithin(file, writePlanText(plan), kPlanLimits, readPlanText);
}

}  // namespace easel
