// The journal: sessions and what was read in them, in one SQLite file (docs/formats/journal.md).
//
// What a function has written is on disk when it returns (write-ahead log, synchronous): a pulled plug or kill -9 loses
// nothing that was shown as written. Times are UTC, "2026-11-26T21:30:05Z". Several programs may have it open; one
// object serves one thread. Everything throws JournalError with a sentence that names the file; what is wrong with a
// session that is imported, FileError.
#pragma once

#include <cstdint>
#include <filesystem>
#include <memory>
#include <stdexcept>
#include <string>
#include <string_view>
#include <vector>

#include "journal/learned.h"

namespace easel {

class JournalError : public std::runtime_error {
 public:
  using std::runtime_error::runtime_error;
};

struct JournalSession {
  std::int64_t id = 0;
  std::string begun, ended;  ///< ended: empty while it goes on, or when it broke off
  std::string title, studio;
  std::string plan;  ///< as JSON (docs/formats/plan.md), as it ended, or as it began
  std::string notes;
  int stars = 0;  ///< 0..5
  int readings = 0;
};

/// What happened besides readings: "changed" (what undo calls it), "picture" (a path); on a shooting day "set" (a set
/// was changed for a look) and "look" (one was shot), with the seconds that had been expected and that it took.
struct JournalEvent {
  std::string at, kind, words;
  double expected = 0, took = 0;
};

struct JournalReading {
  std::int64_t id = 0;
  std::string at;
  std::string step;                    ///< "off", "alone", "together"
  std::string light;                   ///< its letter; empty: everything, or nothing on
  std::string head, modifier, meter;   ///< ids, for what is learned
  std::string spot, hold, setting;     ///< "face", "flat, towards A", "1/8 + 0.3"
  double predicted = 0, expected = 0;  ///< f-numbers: by the catalogue; with what this run has learned
  double read = 0;                     ///< f-number
  std::string why;                     ///< it was read again: "doubt", "set", "changed", "once more"; empty: the first
  std::string verdict, causes, note;   ///< "on peg", "off", "implausible"; likeliest cause first
};

class Journal {
 public:
  /// Opens or makes it. A file of a newer version, or of something else, is refused and stays as it is.
  explicit Journal(const std::filesystem::path& file);
  ~Journal();
  Journal(Journal&&) noexcept;
  Journal& operator=(Journal&&) noexcept;

  std::int64_t begin(const std::string& title, const std::string& studio, const std::string& planJson);
  std::int64_t write(std::int64_t session, const JournalReading& reading);
  void writeEvent(std::int64_t session, const std::string& kind, const std::string& words, double expected = 0,
                  double took = 0);
  void finish(std::int64_t session, const std::string& planJson);
  void setNotes(std::int64_t session, const std::string& notes);
  void setStars(std::int64_t session, int stars);

  /// Newest first; with every word of `search` in title, studio or notes, in any case.
  std::vector<JournalSession> sessions(const std::string& search = {}) const;
  std::vector<JournalReading> readings(std::int64_t session) const;
  std::vector<JournalEvent> events(std::int64_t session) const;
  /// Of every session: those of that kind whose time was taken, oldest first.
  std::vector<JournalEvent> timed(const std::string& kind) const;
  /// What each light alone was off its prediction, of all sessions of that studio (empty: of all); what was implausible
  /// is left out. The studio is the room.
  std::vector<TaughtReading> taught(const std::string& studio = {}) const;

  std::string csv(std::int64_t session) const;
  std::string json(std::int64_t session) const;
  /// A session as json() gives it becomes one of this journal. Throws FileError with the place of what is wrong;
  /// nothing is written then.
  std::int64_t import(std::string_view json);
  /// With its readings, for good: what stood there is overwritten.
  void remove(std::int64_t session);
  /// A whole copy, also while it is written to.
  void backup(const std::filesystem::path& file) const;

  /// 2: events, why a reading was repeated. 3: how long something took. An older journal becomes one when it is opened.
  static constexpr int kVersion = 3;

 private:
  struct Impl;
  std::unique_ptr<Impl> impl_;
};

/// journal.sqlite in the user's own folder.
std::filesystem::path journalFile();

}  // namespace easel
