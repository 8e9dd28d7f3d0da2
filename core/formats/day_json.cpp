#include "formats/day_json.h"

#include <nlohmann/json.hpp>

#include "data/schema.h"
#include "files/atomic_file.h"
#include "formats/members.h"
#include "formats/plan_json.h"
#include "spoken/marked.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;
constexpr const char* kDayFormat = "jolly-easel-day";
const JsonLimits kDayLimits{
    marked("day"), 32u << 20, 66, 800'000, 1000, 1000, marked("Open the autosaved copy, or a backup.")};

// Times of day are written as people write them.
void time(Members& m, const char* name, int& minutes) {
  m.named(name, minutes, writeTime, [](const std::string& text, int& out) { out = readTime(text); });
}

void visitSitter(Members& m, DaySitter& s) {
  m.member("name", s.name);
  time(m, "arrives", s.arrives);
  time(m, "leaves", s.leaves);
  m.member("makeUp", s.makeUp);
  m.member("notes", s.notes);
  m.extra(s.extra);
}
void visitLook(Members& m, DayLook& l) {
  m.member("id", l.id);
  m.member("title", l.title);
  m.member("file", l.file);
  m.member("sitters", l.sitters);
  m.member("outfit", l.outfit);
  m.member("framing", l.framing);
  m.member("frames", l.frames);
  m.member("must", l.must);
  m.member("first", l.first);
  m.member("last", l.last);
  m.member("after", l.after);
  m.member("notes", l.notes);
  m.member("begun", l.begun);
  m.member("done", l.done);
  m.known("plan");
  m.extra(l.extra);
}
void visitBreak(Members& m, DayBreak& b) {
  time(m, "from", b.from);
  time(m, "to", b.to);
  m.member("what", b.what);
}
void visitSocket(Members& m, Socket& s) {
  m.member("name", s.name);
  m.member("hour", s.hour);
  m.member("distance", s.distance);
}
void visitCircuit(Members& m, Circuit& c) {
  m.member("name", c.name);
  m.member("volts", c.volts);
  m.member("amperes", c.amperes);
  m.known("sockets");
}
void visitPlugged(Members& m, PluggedIn& p) {
  m.member("appliance", p.appliance);
  m.member("hour", p.hour);
  m.member("distance", p.distance);
}
void visitPacked(Members& m, Packed& p) {
  m.member("out", p.out);
  m.member("home", p.home);
}
void visitDay(Members& m, Day& d) {
  m.known("format");
  m.known("version");
  m.member("title", d.title);
  m.member("date", d.date);
  m.member("studio", d.studio);
  m.member("notes", d.notes);
  time(m, "start", d.start);
  time(m, "end", d.end);
  m.member("setUp", d.setUp);
  m.member("secondsPerFrame", d.secondsPerFrame);
  m.member("outfitMinutes", d.outfitMinutes);
  m.member("backdropOnce", d.backdropOnce);
  for (const char* name : {"breaks", "sitters", "looks", "circuits", "pluggedIn", "packed"}) m.known(name);
}

template <class T, class Visit>
void list(const Record& record, const char* name, std::vector<T>& all, Visit visit) {
  record.each(name, [&](const Record& one) { readBy(one, all.emplace_back(), visit); });
}
template <class T, class Visit>
Json listed(const std::vector<T>& all, Visit visit) {
  Json out = Json::array();
  for (const T& one : all) out.push_back(writtenBy(one, visit));
  return out;
}

const Schema& daySchema() {
  static const Schema schema("day.schema.json", kDayLimits);
  return schema;
}

}  // namespace

Day readDayText(std::string_view text) {
  const Json json = parseJson(text, kDayLimits);
  requireFormat(json, kDayFormat, kDayVersion, kDayLimits);
  daySchema().require(json);
  const Record file(json, kDayLimits);
  Day day;
  Members m(file);
  visitDay(m, day);
  m.extra(day.extra);
  list(file, "breaks", day.breaks, visitBreak);
  list(file, "sitters", day.sitters, visitSitter);
  list(file, "pluggedIn", day.pluggedIn, visitPlugged);
  file.each("circuits", [&](const Record& one) {
    Circuit& c = day.circuits.emplace_back();
    readBy(one, c, visitCircuit);
    list(one, "sockets", c.sockets, visitSocket);
  });
  file.each("looks", [&](const Record& one) {
    DayLook& l = day.looks.emplace_back();
    readBy(one, l, visitLook);
    if (one.contains("plan")) try {
        l.plan = readPlanText(one["plan"].json().dump());
      } catch (const FileError& e) {
        throw std::invalid_argument(say("Look {}: {}", foreign(l.id), e.what()));
      }
    else if (l.file.empty())
      throw std::invalid_argument(
          say("Look {} has neither a plan nor the name of a file. Give it one.", foreign(l.id)));
  });
  if (file.contains("packed"))
    file["packed"].eachMember(
        [&](const std::string& key, const Record& ticks) { readBy(ticks, day.packed[key], visitPacked); });
  return day;
}

namespace {

enum class Plans { With, Without };
Json dayJson(const Day& day, Plans plans) {
  Json json = Json::object();
  json["format"] = kDayFormat;
  json["version"] = kDayVersion;
  Day d = day;
  Members m(json);
  visitDay(m, d);
  json["breaks"] = listed(d.breaks, visitBreak);
  json["sitters"] = listed(d.sitters, visitSitter);
  json["looks"] = Json::array();
  for (const DayLook& l : d.looks) {
    Json one = writtenBy(l, visitLook);
    if (plans == Plans::With) one["plan"] = Json::parse(writePlanText(l.plan));
    json["looks"].push_back(std::move(one));
  }
  json["circuits"] = Json::array();
  for (const Circuit& c : d.circuits) {
    Json one = writtenBy(c, visitCircuit);
    one["sockets"] = listed(c.sockets, visitSocket);
    json["circuits"].push_back(std::move(one));
  }
  json["pluggedIn"] = listed(d.pluggedIn, visitPlugged);
  json["packed"] = Json::object();
  for (const auto& [key, ticks] : d.packed) json["packed"][key] = writtenBy(ticks, visitPacked);
  m.extra(d.extra);
  return json;
}

}  // namespace

std::string writeDayText(const Day& day) {
  return dayJson(day, Plans::With).dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

void requireHolds(const Day& day) { daySchema().require(dayJson(day, Plans::Without)); }

Day forFolder(Day day, const std::filesystem::path& from, const std::filesystem::path& to) {
  if (from == to) return day;
  std::error_code none;
  for (DayLook& l : day.looks) {
    if (l.file.empty()) continue;
    const auto plan = from.empty() ? std::filesystem::path(l.file) : (from / l.file).lexically_normal();
    const auto relative = std::filesystem::proximate(plan, to, none);
    l.file = (none || relative.empty() ? plan : relative).string();
  }
  return day;
}

std::vector<std::string> refreshPlans(Day& day, const std::filesystem::path& folder) {
  std::vector<std::string> problems;
  for (DayLook& l : day.looks) {
    if (l.file.empty()) continue;
    const std::filesystem::path file = folder / l.file;
    std::error_code none;
    if (!std::filesystem::exists(file, none)) {
      problems.push_back(
          say("Look {}, {}: the plan {} is gone. The day works with the copy that it kept; save the plan there again, "
              "or detach the look from its file.",
              l.id, foreign(l.name()), foreign(l.file)));
      continue;
    }
    try {
      l.plan = loadPlan(file);
    } catch (const std::exception& e) {
      problems.push_back(
          say("Look {}, {}: {} The day works with the copy that it kept.", l.id, foreign(l.name()), e.what()));
    }
  }
  return problems;
}

OpenedDay loadDay(const std::filesystem::path& file) {
  OpenedDay out;
  out.day = readNamed(file, kDayLimits, readDayText);
  out.problems = refreshPlans(out.day, file.parent_path());
  return out;
}

void saveDay(const std::filesystem::path& file, const Day& day) {
  writeWithin(file, writeDayText(day), kDayLimits, readDayText);
}

}  // namespace easel
