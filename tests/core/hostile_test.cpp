// Files of strangers, made to hang, to swell or to speak to the terminal: each is refused with one sentence.
#include <gtest/gtest.h>
#include <sqlite3.h>
#include <sys/stat.h>

#include <fstream>

#include "files/apart.h"
#include "files/atomic_file.h"
#include "files/places.h"
#include "formats/ies_file.h"
#include "formats/photograph.h"
#include "gear/gobo.h"
#include "gear/model.h"
#include "journal/journal.h"
#include "sheet/sheet_file.h"
#include "support.h"
#include "terminal.h"

namespace easel {
namespace {

namespace fs = std::filesystem;

template <class Work>
std::string refusal(Work work) {
  try {
    work();
  } catch (const std::runtime_error& e) {
    return e.what();
  }
  return {};
}

// A corner a line for one face of many: the library's way to cut it up takes time with the third power of them.
TEST(Hostile, AMeshWithOneFaceOfThousandsOfCornersIsNotWaitedFor) {
  test::TemporaryFolder f;
  std::ofstream out(f.path / "fan.obj");
  constexpr int kCorners = 6000;
  for (int i = 0; i < kCorners; ++i) {
    const double a = i * 6.283185307 / kCorners, r = i % 2 ? 1 : 0.4;
    out << "v " << r * std::cos(a) << " " << 1 + r * std::sin(a) << " 0\n";
  }
  // In lines short enough for the reader: one face is one line.
  out << "f";
  for (int i = 1; i <= kCorners; ++i) out << " " << i;
  out << "\n";
  out.close();
  const std::string why = refusal([&] { readModel(f.path / "fan.obj"); });
  EXPECT_NE(why.find("fan.obj"), std::string::npos) << why;
}

TEST(Hostile, AMeshsPlacesAreNumbersHoweverTheirLinesAreWritten) {
  for (const char* line : {"v 1e999 0 0", "  v 1e999 0 0", "\tv 0 nan 0", "v 0 0 inf"}) {
    const std::string text = std::string(line) + "\nv 0 1 0\nv 1 0 0\nf 1 2 3\n";
    EXPECT_NE(refusal([&] { readModelText(text, "thing.obj"); }).find("line 1"), std::string::npos) << line;
    std::string old = text;
    std::replace(old.begin(), old.end(), '\n', '\r');
    EXPECT_NE(refusal([&] { readModelText(old, "thing.obj"); }), "") << line;
  }
}

TEST(Hostile, AMeshComesThroughTheOtherProcessAsItIs) {
  test::TemporaryFolder f;
  const std::string text = "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 2 3\nf 1 3 4\n";
  std::ofstream(f.path / "corner.obj") << text;
  const Model here = readModelText(text, "corner.obj"), apart = readModel(f.path / "corner.obj");
  EXPECT_EQ(apart.triangles, here.triangles);
  ASSERT_EQ(apart.position.size(), here.position.size());
  for (size_t i = 0; i < here.position.size(); ++i) EXPECT_EQ(apart.position[i].x, here.position[i].x);
  const std::string bytes = packed(here);
  for (const size_t n : {size_t(0), size_t(7), size_t(20), bytes.size() - 1})
    EXPECT_THROW(unpackedModel(bytes.substr(0, n)), std::runtime_error) << n;
}

// A PDF whose streams unpack to far more than they are (one filter after the other), and one that never ends.
TEST(Hostile, APdfThatSwellsIsRefusedInOneSentence) {
  test::TemporaryFolder f;
  const auto pdf = [&](const std::string& filters, const std::string& stream) {
    std::string out = "%PDF-1.7\n";
    std::vector<size_t> at;
    const auto object = [&](const std::string& body) {
      at.push_back(out.size());
      out += std::to_string(at.size()) + " 0 obj\n" + body + "\nendobj\n";
    };
    object("<< /Type /Catalog /Pages 2 0 R /Names << /EmbeddedFiles << /Names [(a.easel.json) 3 0 R] >> >> >>");
    object("<< /Type /Pages /Kids [] /Count 0 >>");
    object("<< /Type /Filespec /F (a.easel.json) /UF (a.easel.json) /EF << /F 4 0 R >> >>");
    object("<< /Type /EmbeddedFile " + filters + " /Length " + std::to_string(stream.size()) + " >>\nstream\n" +
           stream + "\nendstream");
    const size_t table = out.size();
    out += "xref\n0 " + std::to_string(at.size() + 1) + "\n0000000000 65535 f \n";
    for (const size_t a : at) out += fmt::format("{:010} 00000 n \n", a);
    out += "trailer\n<< /Size " + std::to_string(at.size() + 1) + " /Root 1 0 R >>\nstartxref\n" +
           std::to_string(table) + "\n%%EOF\n";
    return out;
  };
  // Runs of one byte, twice over: every two bytes become 128, and those again.
  std::string runs;
  for (int i = 0; i < 400'000; ++i) runs += "\x81\x81";
  std::ofstream(f.path / "swells.pdf", std::ios::binary)
      << pdf("/Filter [/RunLengthDecode /RunLengthDecode /RunLengthDecode]", runs);
  const std::string why = refusal([&] { openPlan(f.path / "swells.pdf"); });
  EXPECT_NE(why.find("swells.pdf"), std::string::npos) << why;
  EXPECT_EQ(why.find('\n'), std::string::npos);
}

// What a stranger put into a journal runs when we ask it something: it is no journal then.
TEST(Hostile, AJournalWithAViewOrATriggerOfAStrangersIsNone) {
  test::TemporaryFolder f;
  const auto with = [&](const char* name, const char* sql) {
    const fs::path file = f.path / name;
    {
      Journal j(file);
      j.begin("First", "", "");
    }
    sqlite3* db = nullptr;
    EXPECT_EQ(sqlite3_open(file.c_str(), &db), SQLITE_OK);
    char* why = nullptr;
    EXPECT_EQ(sqlite3_exec(db, sql, nullptr, nullptr, &why), SQLITE_OK) << why;
    sqlite3_close(db);
    return refusal([&] { Journal(file).sessions(); });
  };
  EXPECT_NE(
      with("view.sqlite",
           "ALTER TABLE session RENAME TO kept; CREATE VIEW session AS WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL "
           "SELECT i + 1 FROM n) SELECT i AS id, '' AS begun, '' AS ended, '' AS title, '' AS studio, '' AS plan, "
           "'' AS notes, 0 AS stars FROM n"),
      "");
  EXPECT_NE(with("trigger.sqlite", "CREATE TRIGGER t AFTER INSERT ON reading BEGIN DELETE FROM session; END"), "");
  EXPECT_NE(with("computed.sqlite", "CREATE TABLE more (a, b GENERATED ALWAYS AS (hex(zeroblob(100000000))) VIRTUAL)"),
            "");
  EXPECT_NE(with("index.sqlite", "CREATE INDEX i ON session (length(hex(title)))"), "");
  EXPECT_EQ(with("ours.sqlite", "UPDATE session SET notes = 'a generated view'"), "") << "words in it are words";
}

TEST(Hostile, PipesAreWaitedForByNoReader) {
  test::TemporaryFolder f;
  for (const char* name : {"a.obj", "a.svg", "a.png", "a.pdf", "a.sqlite", "a.jpg", "a.easel.json", "a.ies"})
    ASSERT_EQ(::mkfifo((f.path / name).c_str(), 0600), 0);
  const auto namedAndRefused = [](const std::string& why, const char* name) {
    EXPECT_NE(why.find(name), std::string::npos) << why;
    EXPECT_NE(why.find("ordinary file"), std::string::npos) << why;
  };
  namedAndRefused(refusal([&] { readModel(f.path / "a.obj"); }), "a.obj");
  namedAndRefused(refusal([&] { readGobo(f.path / "a.svg"); }), "a.svg");
  namedAndRefused(refusal([&] { openPlan(f.path / "a.pdf"); }), "a.pdf");
  namedAndRefused(refusal([&] { openPlan(f.path / "a.easel.json"); }), "a.easel.json");
  namedAndRefused(refusal([&] { Journal j(f.path / "a.sqlite"); }), "a.sqlite");
  namedAndRefused(refusal([&] { settingsOfPhotograph(f.path / "a.jpg"); }), "a.jpg");
  namedAndRefused(refusal([&] { readIes(f.path / "a.ies"); }), "a.ies");
}

TEST(Hostile, TheProcessApartSaysWhatItMet) {
  ApartLimits limits;
  limits.advice = "Take another one.";
  EXPECT_NE(refusal([&] { readApart("obj", "no mesh", "thing.obj", limits); }).find("thing.obj"), std::string::npos);
  limits.output = 4;
  const std::string mesh = "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n";
  EXPECT_NE(refusal([&] { readApart("obj", mesh, "thing.obj", limits); }).find("Take another one."), std::string::npos);
  EXPECT_NE(refusal([&] { readApart("nothing", mesh, "thing.obj", {}); }), "") << "no reader of that kind";
}

TEST(Terminal, NothingInANameReachesIt) {
  EXPECT_EQ(printable("a\x1b]0;x\x07 b"), "a\\u001b]0;x\\u0007 b");
  EXPECT_EQ(printable("\xc2\x9b"
                      "31m"),
            "\\u009b31m")
      << "the one byte that begins a command";
  EXPECT_EQ(printable("\xe2\x80\xae"
                      "txt.exe"),
            "\\u202etxt.exe");
  EXPECT_EQ(printable("caf\xc3\xa9, \xe2\x80\x9cquoted\xe2\x80\x9d\tand\r\nso on"),
            "caf\xc3\xa9, \xe2\x80\x9cquoted\xe2\x80\x9d\tand\r\nso on");
  EXPECT_EQ(lineOf("{}: {}", std::string("two\nlines"), 7), "two lines: 7");
}

TEST(Home, IsNeverTheFolderThatOneStandsIn) {
  const std::string home = std::getenv("HOME") ? std::getenv("HOME") : "";
  const std::string data = std::getenv("XDG_DATA_HOME") ? std::getenv("XDG_DATA_HOME") : "";
  ::unsetenv("XDG_DATA_HOME");
  for (const char* nowhere : {static_cast<const char*>(nullptr), "", "."}) {
    nowhere ? ::setenv("HOME", nowhere, 1) : ::unsetenv("HOME");
    EXPECT_TRUE(ownFolder().is_absolute()) << (nowhere ? nowhere : "none");
  }
  home.empty() ? ::unsetenv("HOME") : ::setenv("HOME", home.c_str(), 1);
  if (!data.empty()) ::setenv("XDG_DATA_HOME", data.c_str(), 1);
}

TEST(Journal, IsSearchedInLettersOfEveryLanguage) {
  test::TemporaryFolder f;
  Journal j(f.path / "journal.sqlite");
  j.begin("\xc3\x84RZTIN \xc3\x96zg\xc3\xbcr",
          "Stra\xc3\x9f"
          "e",
          "");
  for (const char* words : {"\xc3\xa4rztin", "\xc3\x96ZG\xc3\x9cR", "strasse"})
    EXPECT_EQ(j.sessions(words).size(), 1u) << words;
  EXPECT_TRUE(j.sessions("arztin").empty());
}

}  // namespace
}  // namespace easel
