#include "journal/journal.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <SQLiteCpp/VariadicBind.h>
#include <fmt/format.h>
#include <glib.h>
#include <sqlite3.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>

#include "exposure/aperture.h"
#include "exposure/stops.h"
#include "files/atomic_file.h"
#include "files/csv.h"
#include "files/json_front.h"
#include "files/places.h"
#include "spoken/say.h"

namespace easel {
namespace {

// "easl": a file of ours, whatever its name.
constexpr int kApplication = 0x6561736c;

constexpr const char* kSchema = R"(
  CREATE TABLE session (
    id INTEGER PRIMARY KEY, begun TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')), ended TEXT NOT NULL DEFAULT '',
    title TEXT NOT NULL, studio TEXT NOT NULL, plan TEXT NOT NULL, notes TEXT NOT NULL DEFAULT '',
    stars INTEGER NOT NULL DEFAULT 0 CHECK (stars BETWEEN 0 AND 5));
  CREATE TABLE reading (
    id INTEGER PRIMARY KEY, session INTEGER NOT NULL REFERENCES session ON DELETE CASCADE,
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')), step TEXT NOT NULL, light TEXT NOT NULL,
    head TEXT NOT NULL, modifier TEXT NOT NULL, meter TEXT NOT NULL, spot TEXT NOT NULL, hold TEXT NOT NULL,
    setting TEXT NOT NULL, predicted REAL NOT NULL, expected REAL NOT NULL, read REAL NOT NULL, verdict TEXT NOT NULL,
    causes TEXT NOT NULL, note TEXT NOT NULL);
  CREATE INDEX reading_of ON reading (session);
)";

// Since version 2.
constexpr const char* kEvents = R"(
  CREATE TABLE event (
    id INTEGER PRIMARY KEY, session INTEGER NOT NULL REFERENCES session ON DELETE CASCADE,
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')), kind TEXT NOT NULL, words TEXT NOT NULL);
  CREATE INDEX event_of ON event (session);
  ALTER TABLE reading ADD COLUMN why TEXT NOT NULL DEFAULT '';
)";
// Since version 3.
constexpr const char* kTimes = R"(
  ALTER TABLE event ADD COLUMN reckoned REAL NOT NULL DEFAULT 0;
  ALTER TABLE event ADD COLUMN took REAL NOT NULL DEFAULT 0;
)";

// By the first bytes of the file format (https://www.sqlite.org/fileformat.html): the magic, and at byte 68 whose it
// is.
bool isJournal(const std::filesystem::path& file) {
  std::error_code none;
  if (!std::filesystem::is_regular_file(file, none)) return false;
  std::ifstream in(file, std::ios::binary);
  std::array<unsigned char, 72> head{};
  if (!in.read(reinterpret_cast<char*>(head.data()), head.size())) return false;
  if (std::string_view(reinterpret_cast<const char*>(head.data()), 16) != std::string_view("SQLite format 3\0", 16))
    return false;
  int application = 0;
  for (size_t i = 68; i < 72; ++i) application = application << 8 | head[i];
  return application == kApplication;
}

// What a journal consists of, and nothing besides: a view, a trigger or a computed column of a stranger's runs whenever
// one of our questions touches it, for ever if it wants to.
void requireOurTables(SQLite::Database& db, const std::string& name) {
  const auto refuse = [&] {
    return JournalError(say("{} holds what a journal of Jolly Easel does not. Choose another file.", name));
  };
  SQLite::Statement all(db, "SELECT type, name, coalesce(sql, '') FROM sqlite_master");
  int seen = 0;
  while (all.executeStep()) {
    if (++seen > 16) throw refuse();
    const std::string type = all.getColumn(0).getString(), called = all.getColumn(1).getString();
    std::string sql = all.getColumn(2).getString();
    std::transform(sql.begin(), sql.end(), sql.begin(), [](unsigned char c) { return char(std::tolower(c)); });
    const bool table = type == "table" && (called == "session" || called == "reading" || called == "event") &&
                       sql.starts_with("create table ") && sql.find("generated") == std::string::npos &&
                       sql.find(" as ") == std::string::npos && sql.find(" as(") == std::string::npos;
    const bool index = type == "index" && (sql == "create index reading_of on reading (session)" ||
                                           sql == "create index event_of on event (session)");
    if (!table && !index) throw refuse();
  }
}

// Letters of every language are searched, and capitals find small ones (Unicode case folding, by GLib).
void foldCase(sqlite3_context* context, int, sqlite3_value** values) {
  const auto* text = reinterpret_cast<const char*>(sqlite3_value_text(values[0]));
  if (!text) return sqlite3_result_null(context);
  gchar* valid = g_utf8_make_valid(text, -1);
  gchar* whole = g_utf8_normalize(valid, -1, G_NORMALIZE_ALL);
  gchar* folded = g_utf8_casefold(whole ? whole : valid, -1);
  sqlite3_result_text(context, folded, -1, SQLITE_TRANSIENT);
  for (gchar* p : {valid, whole, folded}) g_free(p);
}

// Made for its user alone before anything is written into it.
void holdPrivate(const std::filesystem::path& file) {
  if (file == ":memory:") return;
  std::error_code none;
  if (!std::filesystem::exists(file, none)) std::ofstream(file).flush();
  std::filesystem::permissions(file, std::filesystem::perms::owner_read | std::filesystem::perms::owner_write, none);
}

}  // namespace

struct Journal::Impl {
  std::filesystem::path file;
  std::unique_ptr<SQLite::Database> db;

  // Every call of the library, with its error as a sentence.
  template <class F>
  auto at(F work) const {
    try {
      return work(*db);
    } catch (const SQLite::Exception& e) {
      throw JournalError(say("The journal {} cannot be used: {}.", foreign(file.string()), foreign(e.what())));
    }
  }
  // A statement without an answer; how many rows it changed.
  template <class... Values>
  int run(const char* sql, const Values&... values) const {
    return at([&](SQLite::Database& db) {
      SQLite::Statement s(db, sql);
      SQLite::bind(s, values...);
      return s.exec();
    });
  }
  std::int64_t insert(const char* sql, const auto&... values) const {
    run(sql, values...);
    return db->getLastInsertRowid();
  }
  std::vector<JournalEvent> events(const std::string& where, const auto& value) const {
    return at([&](SQLite::Database& open) {
      SQLite::Statement s(open, "SELECT at, kind, words, reckoned, took FROM event WHERE " + where + " ORDER BY id");
      s.bind(1, value);
      std::vector<JournalEvent> out;
      while (s.executeStep())
        out.push_back({s.getColumn(0).getString(), s.getColumn(1).getString(), s.getColumn(2).getString(),
                       s.getColumn(3).getDouble(), s.getColumn(4).getDouble()});
      return out;
    });
  }
  std::vector<JournalSession> sessions(const std::string& where, const std::vector<std::string>& values) const {
    return at([&](SQLite::Database& open) {
      SQLite::Statement s(open,
                          "SELECT id, begun, ended, title, studio, plan, notes, stars, (SELECT count(*) FROM reading "
                          "WHERE session = session.id) FROM session WHERE " +
                              where + " ORDER BY begun DESC, id DESC");
      for (size_t i = 0; i < values.size(); ++i) s.bind(int(i) + 1, values[i]);
      std::vector<JournalSession> out;
      while (s.executeStep())
        out.push_back({s.getColumn(0).getInt64(), s.getColumn(1).getString(), s.getColumn(2).getString(),
                       s.getColumn(3).getString(), s.getColumn(4).getString(), s.getColumn(5).getString(),
                       s.getColumn(6).getString(), s.getColumn(7).getInt(), s.getColumn(8).getInt()});
      return out;
    });
  }
};

std::filesystem::path journalFile() { return ownFolder() / "journal.sqlite"; }

Journal::Journal(const std::filesystem::path& file) : impl_(std::make_unique<Impl>()) {
  impl_->file = file;
  std::error_code ignored;
  // Who sat, when and where is nobody else's to read.
  if (const auto folder = file.parent_path(); !folder.empty()) {
    const bool made = std::filesystem::create_directories(folder, ignored);
    if (made || folder == ownFolder()) std::filesystem::permissions(folder, std::filesystem::perms::owner_all, ignored);
  }
  if (!std::filesystem::exists(file, ignored)) holdPrivate(file);
  const std::string name = foreign(file.string());
  if (std::filesystem::exists(file, ignored) && !std::filesystem::is_regular_file(file, ignored))
    throw JournalError(say("{} is not an ordinary file. Choose another one.", name));
  try {
    impl_->db = std::make_unique<SQLite::Database>(file.string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE, 4000);
    SQLite::Database& db = *impl_->db;
    db.exec("PRAGMA trusted_schema = OFF");
    sqlite3_limit(db.getHandle(), SQLITE_LIMIT_LENGTH, 32 << 20);
    db.createFunction("folded", 1, true, nullptr, foldCase);
    const int application = db.execAndGet("PRAGMA application_id").getInt(),
              version = db.execAndGet("PRAGMA user_version").getInt(),
              tables = db.execAndGet("SELECT count(*) FROM sqlite_master").getInt();
    if (application != kApplication && (tables > 0 || version > 0))
      throw JournalError(say("{} is not a journal of Jolly Easel. Choose another file.", name));
    if (version > kVersion)
      throw JournalError(say("The journal {} has version {} and this program knows up to {}. Use a newer program.",
                             name, version, kVersion));
    requireOurTables(db, name);
    holdPrivate(file);  // earlier versions made it for all to read
    db.exec(
        "PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA foreign_keys = ON; PRAGMA secure_delete = ON");
    if (version < kVersion) {
      SQLite::Transaction whole(db, SQLite::TransactionBehavior::IMMEDIATE);
      // Another program may have been first.
      const int now = db.execAndGet("PRAGMA user_version").getInt();
      if (now < kVersion) {
        if (now == 0) db.exec(kSchema);
        if (now < 2) db.exec(kEvents);
        db.exec(kTimes);
        db.exec(fmt::format("PRAGMA application_id = {}; PRAGMA user_version = {}", kApplication, kVersion));
      }
      whole.commit();
    }
  } catch (const SQLite::Exception& e) {
    throw JournalError(say("The journal {} cannot be opened: {}. Choose another file, or move this one away.", name,
                           foreign(e.what())));
  }
}
Journal::~Journal() = default;
Journal::Journal(Journal&&) noexcept = default;
Journal& Journal::operator=(Journal&&) noexcept = default;

std::int64_t Journal::begin(const std::string& title, const std::string& studio, const std::string& planJson) {
  return impl_->insert("INSERT INTO session (title, studio, plan) VALUES (?, ?, ?)", title, studio, planJson);
}

std::int64_t Journal::write(std::int64_t session, const JournalReading& r) {
  if (!canBeRead(r.read)) throw JournalError(say("A reading of {:g} is not an f-number and is not saved.", r.read));
  for (const double f : {r.predicted, r.expected})
    if (!(f >= 0 && f < 1e4)) throw JournalError(say("{:g} is not an f-number; the reading is not saved.", f));
  return impl_->insert(
      "INSERT INTO reading (session, step, light, head, modifier, meter, spot, hold, setting, predicted, expected, "
      "read, "
      "verdict, causes, note, why) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
      session, r.step, r.light, r.head, r.modifier, r.meter, r.spot, r.hold, r.setting, r.predicted, r.expected, r.read,
      r.verdict, r.causes, r.note, r.why);
}

void Journal::writeEvent(std::int64_t session, const std::string& kind, const std::string& words, double expected,
                         double took) {
  for (const double s : {expected, took})
    if (!std::isfinite(s) || s < 0) throw JournalError(say("{} s is not a duration.", s));
  impl_->insert("INSERT INTO event (session, kind, words, reckoned, took) VALUES (?, ?, ?, ?, ?)", session, kind, words,
                expected, took);
}

void Journal::finish(std::int64_t session, const std::string& planJson) {
  impl_->run("UPDATE session SET ended = strftime('%Y-%m-%dT%H:%M:%SZ', 'now'), plan = ? WHERE id = ?", planJson,
             session);
}
void Journal::setNotes(std::int64_t session, const std::string& notes) {
  impl_->run("UPDATE session SET notes = ? WHERE id = ?", notes, session);
}
void Journal::setStars(std::int64_t session, int stars) {
  impl_->run("UPDATE session SET stars = ? WHERE id = ?", std::clamp(stars, 0, 5), session);
}

std::vector<JournalSession> Journal::sessions(const std::string& search) const {
  std::vector<std::string> words;
  std::istringstream in(search);
  for (std::string word; in >> word;) words.push_back(word);
  std::string where = "1";
  for (size_t i = 0; i < words.size(); ++i)
    where += " AND instr(folded(title || ' ' || studio || ' ' || notes), folded(?)) > 0";
  return impl_->sessions(where, words);
}

std::vector<JournalReading> Journal::readings(std::int64_t session) const {
  return impl_->at([&](SQLite::Database& db) {
    SQLite::Statement s(
        db,
        "SELECT id, at, step, light, head, modifier, meter, spot, hold, setting, predicted, expected, read, "
        "verdict, causes, note, why FROM reading WHERE session = ? ORDER BY id");
    s.bind(1, session);
    std::vector<JournalReading> out;
    while (s.executeStep()) {
      JournalReading r;
      r.id = s.getColumn(0).getInt64();
      std::string* texts[] = {&r.at, &r.step, &r.light, &r.head, &r.modifier, &r.meter, &r.spot, &r.hold, &r.setting};
      for (int i = 0; i < 9; ++i) *texts[i] = s.getColumn(i + 1).getString();
      r.predicted = s.getColumn(10).getDouble();
      r.expected = s.getColumn(11).getDouble();
      r.read = s.getColumn(12).getDouble();
      r.verdict = s.getColumn(13).getString();
      r.causes = s.getColumn(14).getString();
      r.note = s.getColumn(15).getString();
      r.why = s.getColumn(16).getString();
      out.push_back(std::move(r));
    }
    return out;
  });
}

std::vector<JournalEvent> Journal::events(std::int64_t session) const { return impl_->events("session = ?", session); }
std::vector<JournalEvent> Journal::timed(const std::string& kind) const {
  return impl_->events("reckoned > 0 AND took > 0 AND kind = ?", kind);
}

std::vector<TaughtReading> Journal::taught(const std::string& studio) const {
  return impl_->at([&](SQLite::Database& db) {
    SQLite::Statement s(
        db,
        "SELECT head, modifier, meter, studio, predicted, read FROM reading JOIN session ON session.id = "
        "reading.session WHERE step = 'alone' AND verdict <> 'implausible' AND predicted > 0 AND read > 0 "
        "AND (?1 = '' OR studio = ?1) ORDER BY reading.id");
    s.bind(1, studio);
    std::vector<TaughtReading> out;
    while (s.executeStep())
      out.push_back({s.getColumn(0).getString(), s.getColumn(1).getString(), s.getColumn(2).getString(),
                     s.getColumn(3).getString(),
                     aperturesApart(s.getColumn(5).getDouble(), s.getColumn(4).getDouble())});
    return out;
  });
}

std::string Journal::csv(std::int64_t session) const {
  std::string out =
      "at,step,light,head,modifier,meter,spot,hold,setting,predicted,expected,read,stops off "
      "prediction,verdict,causes,note,why\r\n";
  for (const JournalReading& r : readings(session)) {
    for (const std::string* t :
         {&r.at, &r.step, &r.light, &r.head, &r.modifier, &r.meter, &r.spot, &r.hold, &r.setting})
      out += csvField(*t) + ",";
    out += fmt::format("{:.3f},{:.3f},{:.3f},", r.predicted, r.expected, r.read);
    if (r.predicted > 0 && r.read > 0) out += fmt::format("{:.2f}", aperturesApart(r.read, r.predicted));
    out +=
        "," + csvField(r.verdict) + "," + csvField(r.causes) + "," + csvField(r.note) + "," + csvField(r.why) + "\r\n";
  }
  return out;
}

std::string Journal::json(std::int64_t session) const {
  using Json = nlohmann::ordered_json;
  for (const JournalSession& s : impl_->sessions("id = ?", {std::to_string(session)})) {
    Json readings = Json::array();
    for (const JournalReading& r : this->readings(session))
      readings.push_back({{"at", r.at},
                          {"step", r.step},
                          {"light", r.light},
                          {"head", r.head},
                          {"modifier", r.modifier},
                          {"meter", r.meter},
                          {"spot", r.spot},
                          {"hold", r.hold},
                          {"setting", r.setting},
                          {"predicted", r.predicted},
                          {"expected", r.expected},
                          {"read", r.read},
                          {"verdict", r.verdict},
                          {"causes", r.causes},
                          {"note", r.note},
                          {"why", r.why}});
    Json events = Json::array();
    for (const JournalEvent& e : this->events(session))
      events.push_back(
          {{"at", e.at}, {"kind", e.kind}, {"words", e.words}, {"reckoned", e.expected}, {"took", e.took}});
    const Json plan = Json::parse(s.plan, nullptr, false);
    const Json all{{"format", "jolly-easel-session"},
                   {"version", kVersion},
                   {"begun", s.begun},
                   {"ended", s.ended},
                   {"title", s.title},
                   {"studio", s.studio},
                   {"notes", s.notes},
                   {"stars", s.stars},
                   {"plan", plan.is_discarded() ? Json() : plan},
                   {"readings", readings},
                   {"events", events}};
    return all.dump(2) + "\n";
  }
  throw JournalError(say("There is no session {} in the journal.", session));
}

std::int64_t Journal::import(std::string_view text) {
  constexpr size_t kText = 20'000;
  const JsonLimits limits{"session", 8u << 20, 64, 100'000, 1000, 10'000, "Export the session again."};
  const nlohmann::ordered_json j = parseJson(text, limits);
  requireFormat(j, "jolly-easel-session", kVersion, limits);
  const auto words = [&](const nlohmann::ordered_json& of, const char* name, const std::string& place) {
    const auto at = of.find(name);
    if (at == of.end()) return std::string();
    if (!at->is_string() || at->get_ref<const std::string&>().size() > kText)
      throw FileError(say("{}/{} should be a text of at most {} letters.", place, name, kText), place + "/" + name);
    return at->get<std::string>();
  };
  JournalSession s;
  for (const auto& [to, name] : {std::pair{&s.begun, "begun"},
                                 {&s.ended, "ended"},
                                 {&s.title, "title"},
                                 {&s.studio, "studio"},
                                 {&s.notes, "notes"}})
    *to = words(j, name, "");
  // Times are compared as texts: another shape would stand in the wrong place for ever.
  static constexpr std::string_view kShape = "dddd-dd-ddTdd:dd:ddZ";
  for (const std::string* time : {&s.begun, &s.ended}) {
    bool good = time->size() == kShape.size();
    for (size_t i = 0; good && i < kShape.size(); ++i)
      good = kShape[i] == 'd' ? (*time)[i] >= '0' && (*time)[i] <= '9' : (*time)[i] == kShape[i];
    if (!good && !(time == &s.ended && time->empty()))
      throw FileError(say("\"{}\" is not a time like 2026-11-26T21:30:05Z.", foreign(*time)), "/begun");
  }
  if (const auto stars = j.find("stars"); stars != j.end() && stars->is_number())
    s.stars = int(std::clamp(stars->get<double>(), 0.0, 5.0));
  std::vector<JournalReading> readings;
  const auto list = j.find("readings");
  if (list != j.end() && !list->is_array()) throw FileError(say("/readings should be a list."), "/readings");
  for (size_t i = 0; list != j.end() && i < list->size(); ++i) {
    const auto& one = (*list)[i];
    const std::string place = fmt::format("/readings/{}", i);
    if (!one.is_object()) throw FileError(say("{} should be an object.", place), place);
    JournalReading r;
    const std::pair<std::string*, const char*> texts[] = {
        {&r.at, "at"},           {&r.step, "step"},         {&r.light, "light"},
        {&r.head, "head"},       {&r.modifier, "modifier"}, {&r.meter, "meter"},
        {&r.spot, "spot"},       {&r.hold, "hold"},         {&r.setting, "setting"},
        {&r.verdict, "verdict"}, {&r.causes, "causes"},     {&r.note, "note"},
        {&r.why, "why"}};
    for (const auto& [to, name] : texts) *to = words(one, name, place);
    const std::pair<double*, const char*> numbers[] = {
        {&r.predicted, "predicted"}, {&r.expected, "expected"}, {&r.read, "read"}};
    for (const auto& [to, name] : numbers) {
      const auto at = one.find(name);
      if (at == one.end() || !at->is_number() || !(at->get<double>() >= 0 && at->get<double>() < 1e4))
        throw FileError(say("{}/{} should be an f-number.", place, name), place + "/" + name);
      *to = at->get<double>();
    }
    if (!canBeRead(r.read)) throw FileError(say("{}/{} should be an f-number.", place, "read"), place + "/read");
    readings.push_back(std::move(r));
  }
  std::vector<JournalEvent> events;
  if (const auto all = j.find("events"); all != j.end()) {
    if (!all->is_array()) throw FileError(say("/events should be a list."), "/events");
    for (size_t i = 0; i < all->size(); ++i) {
      const std::string place = fmt::format("/events/{}", i);
      if (!(*all)[i].is_object()) throw FileError(say("{} should be an object.", place), place);
      JournalEvent e{words((*all)[i], "at", place), words((*all)[i], "kind", place), words((*all)[i], "words", place)};
      for (const auto& [to, name] : {std::pair{&e.expected, "reckoned"}, {&e.took, "took"}})
        if (const auto at = (*all)[i].find(name); at != (*all)[i].end()) {
          if (!at->is_number() || !(at->get<double>() >= 0 && at->get<double>() < 1e6))
            throw FileError(say("{}/{} should be seconds.", place, name), place + "/" + name);
          *to = at->get<double>();
        }
      events.push_back(std::move(e));
    }
  }
  const bool there = impl_->at([&](SQLite::Database& db) {
    SQLite::Statement same(db, "SELECT count(*) FROM session WHERE begun = ? AND title = ? AND studio = ?");
    SQLite::bind(same, s.begun, s.title, s.studio);
    return same.executeStep() && same.getColumn(0).getInt() > 0;
  });
  if (there) throw JournalError(say("That session of {} is in the journal already.", s.begun));
  const std::string plan = j.contains("plan") ? j["plan"].dump() : std::string();
  return impl_->at([&](SQLite::Database& db) {
    SQLite::Transaction whole(db);
    const std::int64_t id = impl_->insert(
        "INSERT INTO session (begun, ended, title, studio, plan, notes, stars) VALUES (?, ?, ?, ?, ?, ?, ?)", s.begun,
        s.ended, s.title, s.studio, plan, s.notes, s.stars);
    for (const JournalReading& r : readings) {
      const std::int64_t own = write(id, r);
      if (!r.at.empty()) impl_->run("UPDATE reading SET at = ? WHERE id = ?", r.at, own);
    }
    for (const JournalEvent& e : events)
      impl_->run("INSERT INTO event (session, at, kind, words, reckoned, took) VALUES (?, ?, ?, ?, ?, ?)", id, e.at,
                 e.kind, e.words, e.expected, e.took);
    whole.commit();
    return id;
  });
}

void Journal::remove(std::int64_t session) {
  if (impl_->run("DELETE FROM session WHERE id = ?", session) == 0)
    throw JournalError(say("There is no session {} in the journal.", session));
  // Out of the log as well.
  impl_->at([](SQLite::Database& db) { db.exec("PRAGMA wal_checkpoint(TRUNCATE)"); });
}

void Journal::backup(const std::filesystem::path& file) const {
  namespace fs = std::filesystem;
  std::error_code none;
  if (fs::equivalent(file, impl_->file, none))
    throw JournalError(say("{} is the journal itself. Choose another name.", foreign(file.string())));
  if (fs::exists(file, none) && !isJournal(file))
    throw JournalError(
        say("{} exists already and is not a backup of a journal. Choose another name.", foreign(file.string())));
  // Beside it first: what stands there stays until the new one is whole.
  const fs::path fresh = besideOf(file);
  fs::remove(fresh, none);
  try {
    holdPrivate(fresh);
    impl_->run("VACUUM INTO ?", fresh.string());
    putInPlace(fresh, file);
  } catch (...) {
    fs::remove(fresh, none);
    throw;
  }
}

}  // namespace easel
