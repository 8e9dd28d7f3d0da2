// The journal: what is written stays, whatever happens; search, export, removal for good.
#include "journal/journal.h"

#include <gtest/gtest.h>
#include <signal.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>

#include "files/atomic_file.h"
#include "files/json_front.h"
#include "full_disk.h"
#include "support.h"

namespace easel {
namespace {

JournalReading readingOf(double predicted, double read) {
  JournalReading r;
  r.step = "alone";
  r.light = "A";
  r.head = "mains-400";
  r.modifier = "octa-90";
  r.meter = "meter";
  r.spot = "face";
  r.hold = "flat, towards A";
  r.setting = "1/8 + 0.3";
  r.predicted = r.expected = predicted;
  r.read = read;
  r.verdict = "on peg";
  return r;
}

TEST(Journal, KeepsSessionsAndTheirReadings) {
  test::TemporaryFolder folder;
  const auto file = folder.path / "deep" / "journal.sqlite";
  {
    Journal j(file);
    const auto first = j.begin("Makers", "Marrow Lane", writePlanText(test::demoPlan()));
    j.write(first, readingOf(8, 8));
    JournalReading misfire = readingOf(8, 1);
    misfire.verdict = "implausible";
    misfire.note = "the \"glue pot\", again";
    j.write(first, misfire);
    j.finish(first, writePlanText(test::demoPlan()));
    const auto second = j.begin("The fiddler", "Attic", "{}");
    j.setNotes(second, "Afternoon light");
    j.setStars(second, 9);
  }
  Journal j(file);
  const auto all = j.sessions();
  ASSERT_EQ(all.size(), 2u);
  EXPECT_EQ(all[0].title, "The fiddler") << "newest first";
  EXPECT_EQ(all[0].stars, 5);
  EXPECT_TRUE(all[0].ended.empty());
  EXPECT_EQ(all[1].readings, 2);
  EXPECT_EQ(all[1].begun.size(), 20u);
  EXPECT_FALSE(all[1].ended.empty());
  EXPECT_TRUE(readPlanText(all[1].plan) == test::demoPlan()) << "a session can be repeated";
  EXPECT_EQ(j.sessions("light ATTIC").size(), 1u);
  EXPECT_TRUE(j.sessions("light cellar").empty());
  const auto read = j.readings(all[1].id);
  ASSERT_EQ(read.size(), 2u);
  EXPECT_EQ(read[1].note, "the \"glue pot\", again");
  EXPECT_EQ(read[0].hold, "flat, towards A");
  // What teaches: not the misfire.
  const auto taught = j.taught("Marrow Lane");
  ASSERT_EQ(taught.size(), 1u);
  EXPECT_EQ(taught[0].room, "Marrow Lane");
  EXPECT_NEAR(taught[0].off, 0, 1e-12);
  EXPECT_TRUE(j.taught("Attic").empty());
  EXPECT_NE(j.csv(all[1].id).find("\"the \"\"glue pot\"\", again\""), std::string::npos);
  const auto json = nlohmann::json::parse(j.json(all[1].id));
  EXPECT_EQ(json["format"], "jolly-easel-session");
  EXPECT_EQ(json["readings"].size(), 2u);
  EXPECT_EQ(json["plan"]["format"], "jolly-easel-plan");
  EXPECT_THROW(j.json(99), JournalError);
  EXPECT_THROW(j.write(all[1].id, readingOf(8, std::nan(""))), JournalError);
  EXPECT_THROW(j.write(99, readingOf(8, 8)), JournalError) << "there is no such session";
}

TEST(Journal, RemovesForGoodAndCopiesItself) {
  test::TemporaryFolder folder;
  const auto file = folder.path / "journal.sqlite", copy = folder.path / "copy.sqlite";
  Journal j(file);
  const auto id = j.begin("Nobody is to know", "Marrow Lane", "{}");
  j.write(id, readingOf(8, 8));
  j.backup(copy);
  j.remove(id);
  EXPECT_TRUE(j.sessions().empty());
  EXPECT_THROW(j.remove(id), JournalError);
  for (const auto& entry : std::filesystem::directory_iterator(folder.path))
    if (entry.path().filename().string().rfind("journal", 0) == 0) {
      EXPECT_EQ(readWholeFile(entry.path()).find("Nobody is to know"), std::string::npos) << entry.path();
    }
  Journal kept(copy);
  ASSERT_EQ(kept.sessions().size(), 1u);
  EXPECT_EQ(kept.readings(kept.sessions()[0].id).size(), 1u);
}

TEST(Journal, WhatIsNoJournalStaysAsItIs) {
  test::TemporaryFolder folder;
  const auto said = [](const std::filesystem::path& file) -> std::string {
    try {
      const Journal j(file);
    } catch (const JournalError& e) {
      return e.what();
    }
    return {};
  };
  const auto text = folder.path / "letter.sqlite";
  std::ofstream(text)
      << "Dear sir, this is a letter of some length and no journal at all, as anybody can see who reads it "
         "through to the end.";
  const std::string before = readWholeFile(text);
  EXPECT_NE(said(text).find("cannot be opened"), std::string::npos) << said(text);
  EXPECT_EQ(readWholeFile(text), before);
  const auto newer = folder.path / "newer.sqlite";
  { Journal j(newer); }
  {
    // The version stands at byte 60 of the file's head, four bytes, the highest first (SQLite's file format).
    std::fstream head(newer, std::ios::in | std::ios::out | std::ios::binary);
    head.seekp(63);
    head.put(7);
  }
  EXPECT_NE(said(newer).find("version 7"), std::string::npos) << said(newer);
  EXPECT_FALSE(said(folder.path).empty()) << "a folder";
}

// A hundred times: whoever is killed while writing has lost nothing that was shown as written.
TEST(Journal, KilledAtAnyMomentItKeepsWhatWasWritten) {
  test::TemporaryFolder folder;
  const auto file = folder.path / "journal.sqlite";
  std::int64_t session = 0;
  {
    Journal j(file);
    session = j.begin("Kill", "Marrow Lane", "{}");
  }
  size_t shown = 0;
  for (int round = 0; round < 100; ++round) {
    int pipe[2];
    ASSERT_EQ(::pipe(pipe), 0);
    const pid_t child = ::fork();
    if (child == 0) {
      ::close(pipe[0]);
      try {
        Journal j(file);
        for (;;) {
          j.write(session, readingOf(8, 8));
          const char one = 1;
          if (::write(pipe[1], &one, 1) != 1) ::_exit(0);
        }
      } catch (...) {
        ::_exit(1);
      }
    }
    ::close(pipe[1]);
    char one = 0;
    const int wanted = 1 + round % 7;
    for (int i = 0; i < wanted; ++i) {
      ASSERT_EQ(::read(pipe[0], &one, 1), 1) << round;
      ++shown;
    }
    ::kill(child, SIGKILL);
    while (::read(pipe[0], &one, 1) == 1) ++shown;  // written and said before the blow fell
    int status = 0;
    ::waitpid(child, &status, 0);
    ::close(pipe[0]);
    ASSERT_TRUE(WIFSIGNALED(status));
  }
  Journal j(file);
  const size_t kept = j.readings(session).size();
  EXPECT_GE(kept, shown);
  EXPECT_LE(kept, shown + 100) << "at most the one that was being written, each time";
}

TEST(Journal, ABackupTakesThePlaceOfTheOldOneWhenItIsWhole) {
  test::TemporaryFolder folder;
  Journal j(folder.path / "journal.sqlite");
  j.begin("First", "", "");
  const auto copy = folder.path / "copy.sqlite";
  j.backup(copy);
  j.begin("Second", "", "");
  {
    const test::FullDisk full;
    EXPECT_THROW(j.backup(copy), std::runtime_error);
  }
  EXPECT_EQ(Journal(copy).sessions().size(), 1u) << "the old one is still there";
  j.backup(copy);
  EXPECT_EQ(Journal(copy).sessions().size(), 2u);
  for (const auto& entry : std::filesystem::directory_iterator(folder.path))
    EXPECT_EQ(entry.path().filename().string().find(".easel-"), std::string::npos) << entry.path();
}

TEST(Journal, ABackupReplacesNothingButABackup) {
  test::TemporaryFolder folder;
  Journal j(folder.path / "journal.sqlite");
  j.begin("First", "", "");
  std::ofstream(folder.path / "plan.easel.json") << "precious";
  for (const char* name : {"plan.easel.json", "journal.sqlite"})
    EXPECT_THROW(j.backup(folder.path / name), JournalError);
  EXPECT_EQ(readWholeFile(folder.path / "plan.easel.json"), "precious");
  EXPECT_EQ(j.sessions().size(), 1u);
}

TEST(Journal, IsForItsUserAlone) {
  test::TemporaryFolder folder;
  const auto file = folder.path / "studio" / "journal.sqlite";
  using std::filesystem::perms;
  const auto others = [](const std::filesystem::path& p) {
    return std::filesystem::status(p).permissions() & (perms::group_all | perms::others_all);
  };
  Journal j(file);
  j.begin("First", "", "");
  j.backup(folder.path / "copy.sqlite");
  EXPECT_EQ(others(file.parent_path()), perms::none);
  EXPECT_EQ(others(folder.path / "copy.sqlite"), perms::none);
  for (const auto& entry : std::filesystem::directory_iterator(file.parent_path()))
    EXPECT_EQ(others(entry.path()), perms::none) << entry.path();
  // One that an earlier version made for all to read.
  std::filesystem::permissions(file, perms::others_read, std::filesystem::perm_options::add);
  const Journal again(file);
  EXPECT_EQ(others(file), perms::none);
}

TEST(Journal, WhatNoMeterShowsIsNotWritten) {
  test::TemporaryFolder folder;
  Journal j(folder.path / "journal.sqlite");
  const auto session = j.begin("First", "", "");
  for (const double read : {1e308, 5e-324, 0.0, -8.0, 2000.0, std::nan("")})
    EXPECT_THROW(j.write(session, readingOf(8, read)), JournalError) << read;
  for (const double predicted : {1e308, -1.0, std::nan("")})
    EXPECT_THROW(j.write(session, readingOf(predicted, 8)), JournalError) << predicted;
  EXPECT_NO_THROW(j.write(session, readingOf(8, 0.35)));
  EXPECT_EQ(j.readings(session).size(), 1u);
}

// A file as version 1 of the journal wrote it.
TEST(Journal, AnEarlierVersionIsTakenOver) {
  test::TemporaryFolder folder;
  const auto file = folder.path / "journal.sqlite";
  std::filesystem::copy_file(std::string(EASEL_SOURCE_DIR) + "/tests/data/journal-1.sqlite", file);
  {
    Journal j(file);
    ASSERT_EQ(j.sessions().size(), 1u);
    EXPECT_EQ(j.sessions()[0].notes, "glue pot");
    EXPECT_EQ(j.readings(1).at(0).read, 7.5);
    EXPECT_TRUE(j.events(1).empty());
    j.writeEvent(1, "picture", "/pictures/0001.png");
  }
  const Journal again(file);
  EXPECT_EQ(again.events(1).at(0).words, "/pictures/0001.png");
  EXPECT_NE(again.json(1).find("0001.png"), std::string::npos);
  EXPECT_EQ(again.taught().size(), 1u) << "what was learned is not lost";
}

// ... and as version 2 did, with an event that nobody had timed.
TEST(Journal, TimesAreTakenFromTheThirdVersionOn) {
  test::TemporaryFolder folder;
  const auto file = folder.path / "journal.sqlite";
  std::filesystem::copy_file(std::string(EASEL_SOURCE_DIR) + "/tests/data/journal-2.sqlite", file);
  Journal j(file);
  EXPECT_EQ(j.events(1).at(0).took, 0);
  EXPECT_TRUE(j.timed("picture").empty());
  j.writeEvent(1, "set", "2. The master at her bench", 300, 330);
  ASSERT_EQ(j.timed("set").size(), 1u);
  EXPECT_EQ(j.timed("set")[0].took, 330);
  EXPECT_THROW(j.writeEvent(1, "set", "x", 300, -1), JournalError);
  EXPECT_THROW(j.writeEvent(1, "set", "x", NAN, 1), JournalError);
  Journal other(folder.path / "other.sqlite");
  other.import(j.json(1));
  EXPECT_EQ(other.timed("set").at(0).expected, 300);
}

TEST(Journal, ASessionComesBackFromItsExport) {
  test::TemporaryFolder folder;
  Journal a(folder.path / "a.sqlite"), b(folder.path / "b.sqlite");
  for (const auto& entry : std::filesystem::directory_iterator(std::string(EASEL_SOURCE_DIR) + "/demo/sessions")) {
    const std::string text = readWholeFile(entry.path());
    const auto first = a.import(text);
    const auto again = b.import(a.json(first));
    EXPECT_EQ(b.json(again), a.json(first));
    EXPECT_EQ(b.csv(again), a.csv(first));
    EXPECT_GT(a.readings(first).size(), 3u);
  }
  const std::string once = a.json(1);
  EXPECT_THROW(a.import(once), JournalError) << "twice would be learned from twice";
  EXPECT_EQ(a.sessions().size(), 4u);
  EXPECT_EQ(a.sessions().front().begun, "2026-11-24T10:10:07Z") << "in the order of their days";
}

TEST(Journal, ABrokenExportIsRefusedWithItsPlaceAndWritesNothing) {
  test::TemporaryFolder folder;
  Journal j(folder.path / "j.sqlite");
  const std::string head = R"({"format": "jolly-easel-session", "version": 1, "begun": "2026-11-26T21:30:05Z")";
  const std::pair<std::string, std::string> bad[] = {
      {"", ""},
      {"[]", ""},
      {R"({"format": "jolly-easel-session", "version": 9})", ""},
      {R"({"format": "jolly-easel-plan", "version": 1})", ""},
      {R"({"format": "jolly-easel-session", "version": 1, "begun": "yesterday"})", "/begun"},
      {head + R"(, "title": 7})", "/title"},
      {head + R"(, "readings": {}})", "/readings"},
      {head + R"(, "readings": [7]})", "/readings/0"},
      {head + R"(, "readings": [{"read": "eight"}]})", "/readings/0/predicted"},
      {head + R"(, "readings": [{"predicted": 8, "expected": 8, "read": -1}]})", "/readings/0/read"}};
  for (const auto& [text, place] : bad) {
    try {
      j.import(text);
      ADD_FAILURE() << text;
    } catch (const FileError& e) {
      EXPECT_EQ(e.place, place) << text << ": " << e.what();
    }
  }
  EXPECT_TRUE(j.sessions().empty());
}

}  // namespace
}  // namespace easel
