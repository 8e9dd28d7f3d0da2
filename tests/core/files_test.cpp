// Files: what stands is never lost, what is written can be read again.
#include <fmt/format.h>
#include <gtest/gtest.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>
#include <fstream>
#include <thread>

#include "files/atomic_file.h"
#include "formats/ies_file.h"
#include "formats/kit_json.h"
#include "formats/own_looks.h"
#include "gear/gobo.h"
#include "gear/inventory.h"
#include "support.h"

namespace easel {
namespace {

namespace fs = std::filesystem;

void put(const fs::path& file, const std::string& text) { std::ofstream(file, std::ios::binary) << text; }
mode_t modeOf(const fs::path& file) {
  struct stat s {};
  EXPECT_EQ(::stat(file.c_str(), &s), 0);
  return s.st_mode & 07777;
}
size_t entries(const fs::path& folder) {
  return size_t(std::distance(fs::directory_iterator(folder), fs::directory_iterator()));
}

TEST(Saving, KeepsTheModeOfWhatStandsThere) {
  test::TemporaryFolder f;
  put(f.path / "p", "old");
  ::chmod((f.path / "p").c_str(), 0600);
  writeFileAtomically(f.path / "p", "new");
  EXPECT_EQ(modeOf(f.path / "p"), 0600u);
  ::chmod((f.path / "p").c_str(), 0664);
  writeFileAtomically(f.path / "p", "newer");
  EXPECT_EQ(modeOf(f.path / "p"), 0664u);
  EXPECT_EQ(readWholeFile(f.path / "p"), "newer");
}

TEST(Saving, ANewFileGetsWhatTheUmaskSays) {
  test::TemporaryFolder f;
  const mode_t before = ::umask(027);
  writeFileAtomically(f.path / "p", "x");
  writeFileAtomically(f.path / "q", "x", Privacy::OwnerOnly);
  ::umask(before);
  EXPECT_EQ(modeOf(f.path / "p"), 0640u);
  EXPECT_EQ(modeOf(f.path / "q"), 0600u);
}

TEST(Saving, FollowsALinkAndKeepsIt) {
  test::TemporaryFolder f;
  fs::create_directory(f.path / "plans");
  put(f.path / "plans" / "p", "old");
  fs::create_symlink("plans/p", f.path / "link");
  writeFileAtomically(f.path / "link", "new");
  EXPECT_TRUE(fs::is_symlink(f.path / "link"));
  EXPECT_EQ(readWholeFile(f.path / "plans" / "p"), "new");
  fs::create_symlink("plans/fresh", f.path / "dangling");
  writeFileAtomically(f.path / "dangling", "made");
  EXPECT_EQ(readWholeFile(f.path / "plans" / "fresh"), "made");
}

TEST(Saving, HardLinksStayOneFile) {
  test::TemporaryFolder f;
  put(f.path / "p", "a longer old text");
  fs::create_hard_link(f.path / "p", f.path / "twin");
  writeFileAtomically(f.path / "p", "new");
  EXPECT_EQ(readWholeFile(f.path / "twin"), "new");
  EXPECT_EQ(fs::hard_link_count(f.path / "p"), 2u);
  EXPECT_EQ(entries(f.path), 2u) << "no backup stays when it went well";
}

TEST(Saving, ABackupOfTheUsersOwnIsNeverReplaced) {
  test::TemporaryFolder f;
  put(f.path / "p", "old");
  fs::create_hard_link(f.path / "p", f.path / "twin");
  put(f.path / "p.bak", "mine");
  writeFileAtomically(f.path / "p", "new");
  EXPECT_EQ(readWholeFile(f.path / "p.bak"), "mine") << "of a file with two names";
  EXPECT_EQ(entries(f.path), 3u);
  EXPECT_EQ(keepBackup(f.path / "p"), f.path / "p.bak2");
  EXPECT_EQ(keepBackup(f.path / "p"), f.path / "p.bak3");
  EXPECT_EQ(readWholeFile(f.path / "p.bak"), "mine");
  EXPECT_EQ(readWholeFile(f.path / "p.bak2"), "new");
}

TEST(Saving, AMarkIsTheSameAsOneLineOfText) {
  test::TemporaryFolder f;
  put(f.path / "p", "some text");
  const FileMark mark = markOf(f.path / "p");
  EXPECT_GT(mark.content, 1ull << 53) << "more than a double holds";
  EXPECT_EQ(readMark(writeMark(mark)), mark);
  for (const char* none : {"", "1 2", "x", "1 2 3 y", "-1 2 3 4"}) EXPECT_EQ(readMark(none), FileMark{}) << none;
}

TEST(Saving, PipesDevicesAndFoldersAreRefused) {
  test::TemporaryFolder f;
  ASSERT_EQ(::mkfifo((f.path / "pipe").c_str(), 0600), 0);
  EXPECT_THROW(writeFileAtomically(f.path / "pipe", "x"), std::runtime_error);
  EXPECT_THROW(readWholeFile(f.path / "pipe"), std::runtime_error) << "reading it would wait for ever";
  EXPECT_TRUE(fs::is_fifo(f.path / "pipe"));
  EXPECT_THROW(writeFileAtomically("/dev/null", "x"), std::runtime_error);
  EXPECT_TRUE(fs::is_character_file("/dev/null"));
  EXPECT_THROW(writeFileAtomically(f.path, "x"), std::runtime_error);
}

TEST(Saving, WhatAKilledProcessLeftIsClearedAndWhatALivingOneWritesIsNot) {
  test::TemporaryFolder f;
  const pid_t dead = ::fork();
  if (dead == 0) ::_exit(0);
  ::waitpid(dead, nullptr, 0);
  put(f.path / (".p.easel-" + std::to_string(dead) + "-1"), "half");
  put(f.path / (".p.easel-" + std::to_string(::getppid()) + "-1"), "being written");
  put(f.path / ".p.easel-notes", "somebody's own");
  writeFileAtomically(f.path / "p", "whole");
  EXPECT_EQ(entries(f.path), 3u);
  EXPECT_FALSE(fs::exists(f.path / (".p.easel-" + std::to_string(dead) + "-1")));
}

// In a process of its own, for the limit holds for all that it writes.
TEST(Saving, AFileThatMayNotGrowIsASentenceAndLeavesNoLitter) {
  test::TemporaryFolder f;
  put(f.path / "p", "old");
  const pid_t child = ::fork();
  if (child == 0) {
    std::signal(SIGXFSZ, SIG_IGN);
    const rlimit limit{4096, 4096};
    ::setrlimit(RLIMIT_FSIZE, &limit);
    try {
      writeFileAtomically(f.path / "p", std::string(100000, 'x'));
      ::_exit(1);
    } catch (const std::runtime_error& e) {
      ::_exit(std::string(e.what()).find("could not be saved") != std::string::npos ? 0 : 2);
    }
  }
  int status = -1;
  ::waitpid(child, &status, 0);
  EXPECT_EQ(status, 0);
  EXPECT_EQ(readWholeFile(f.path / "p"), "old");
  EXPECT_EQ(entries(f.path), 1u);
}

TEST(Saving, AFullDiskIsASentence) {
  if (!fs::exists("/dev/full")) GTEST_SKIP();
  test::TemporaryFolder f;
  fs::create_symlink("/dev/full", f.path / "p");
  EXPECT_THROW(writeFileAtomically(f.path / "p", "x"), std::runtime_error);
  EXPECT_EQ(entries(f.path), 1u);
}

TEST(Saving, TwoThreadsLeaveOneOfTheirTextsWhole) {
  test::TemporaryFolder f;
  const std::string a(200000, 'a'), b(100000, 'b');
  std::thread one([&] {
    for (int i = 0; i < 20; ++i) writeFileAtomically(f.path / "p", a);
  });
  for (int i = 0; i < 20; ++i) writeFileAtomically(f.path / "p", b);
  one.join();
  const std::string now = readWholeFile(f.path / "p");
  EXPECT_TRUE(now == a || now == b);
  EXPECT_EQ(entries(f.path), 1u);
}

TEST(Saving, NamesThatAreNoTextAreNames) {
  test::TemporaryFolder f;
  const fs::path odd = f.path / std::string("Prob\xe9 1.easel.json");
  savePlan(odd, test::demoPlan());
  EXPECT_EQ(loadPlan(odd), test::demoPlan());
}

TEST(Saving, AnotherHandIsNoticedByTimeAndContent) {
  test::TemporaryFolder f;
  const fs::path p = f.path / "p";
  const FileMark none = markOf(p);
  EXPECT_FALSE(none.there);
  EXPECT_FALSE(changedSince(p, none));
  put(p, "one");
  EXPECT_TRUE(changedSince(p, none)) << "it has come into being";
  const FileMark mark = markOf(p);
  EXPECT_FALSE(changedSince(p, mark));
  fs::last_write_time(p, fs::last_write_time(p) + std::chrono::seconds(5));
  EXPECT_FALSE(changedSince(p, mark)) << "touched, but the same";
  put(p, "two");
  fs::last_write_time(p, fs::last_write_time(p) + std::chrono::seconds(9));
  EXPECT_TRUE(changedSince(p, mark)) << "as long as before, but another";
  fs::remove(p);
  EXPECT_TRUE(changedSince(p, mark)) << "it has gone";
}

TEST(Saving, ABackupHoldsWhatStood) {
  test::TemporaryFolder f;
  put(f.path / "kit.json", "{ broken");
  EXPECT_EQ(keepBackup(f.path / "kit.json"), f.path / "kit.json.bak");
  EXPECT_EQ(readWholeFile(f.path / "kit.json.bak"), "{ broken");
  EXPECT_NO_THROW(keepBackup(f.path / "nothing"));
  EXPECT_FALSE(fs::exists(f.path / "nothing.bak"));
}

using test::DataHome;

TEST(OwnLooks, NamesThatDifferByASignAreTwoFiles) {
  DataHome home;
  Plan p = test::demoPlan();
  p.camera.iso = 100;
  const OwnLook a = keepAsLook(p, "Bench, 4:1");
  p.camera.iso = 200;
  const OwnLook b = keepAsLook(p, "Bench; 4/1");
  EXPECT_NE(a.file, b.file);
  EXPECT_EQ(loadPlan(a.file).camera.iso, 100);
  EXPECT_EQ(loadPlan(b.file).camera.iso, 200);
  p.camera.iso = 400;
  EXPECT_EQ(keepAsLook(p, "Bench, 4:1").file, a.file) << "the same name is the same look";
  EXPECT_EQ(ownLooks().size(), 2u);
}

TEST(OwnLooks, ALongNameIsCutBetweenCharacters) {
  DataHome home;
  std::string name = "x";
  for (int i = 0; i < 60; ++i) name += "\u00fc";
  const OwnLook look = keepAsLook(test::demoPlan(), name);
  EXPECT_EQ(loadPlan(look.file).title, name);
}

// Own gear keeps what makes it what it is.
TEST(Kit, AnOwnModifierKeepsFamilyMountZoomAndProjection) {
  Inventory k;
  for (const char* id : {"zoom-head", "spot", "ring-20", "octa-90", "window-100x130"}) {
    Modifier m = *findModifier(id);
    m.id = std::string("own-") + id;
    k.ownModifiers.push_back(m);
  }
  EXPECT_EQ(readKitText(writeKitText(k)).ownModifiers, k.ownModifiers);
}

// A photometric table as large as is taken, in the worst figures for its size.
TEST(Kit, WhatAnIesFileMakesOfItCanBeReadAgain) {
  std::string text = "IESNA:LM-63-2002\nTILT=NONE\n1 1000 1 361 721 1 2 0.5 0.5 0\n1 1 100\n";
  for (int v = 0; v <= 360; ++v) text += fmt::format("{}\n", v * 0.5);
  for (int h = 0; h <= 720; ++h) text += fmt::format("{}\n", h * 0.5);
  for (int i = 0; i < 361 * 721; ++i) text += fmt::format("{:.6f}\n", 1000.0 / (1 + i % 997));
  const IesFile ies = readIesText(text);
  Inventory k;
  k.ownModifiers.push_back(modifierFromIes(ies, "own-measured", "Measured"));
  const std::string kit = writeKitText(k);
  EXPECT_LT(kit.size(), 3 * text.size()) << "one line a list, not one a figure";
  const Inventory back = readKitText(kit);
  EXPECT_EQ(back.ownModifiers[0].profile->candela(), ies.profile->candela());

  std::string larger = "IESNA:LM-63-2002\nTILT=NONE\n1 1000 1 1999 1999 1 2 0.5 0.5 0\n1 1 100\n";
  EXPECT_THROW(readIesText(larger), IesError) << "refused before the kit would be";
}

TEST(Kit, MoreThanCanBeReadAgainIsNotWritten) {
  test::TemporaryFolder f;
  put(f.path / "kit.json", "stands");
  std::vector<double> vertical, horizontal;
  for (int v = 0; v <= 360; ++v) vertical.push_back(v * 0.5);
  for (int h = 0; h <= 720; ++h) horizontal.push_back(h * 0.5);
  Inventory k;
  Modifier m = *findModifier("octa-90");
  m.profile = std::make_shared<const AngularProfile>(
      vertical, horizontal,
      std::vector<std::vector<double>>(horizontal.size(), std::vector<double>(vertical.size(), 1.0 / 3)));
  for (int i = 0; i < 25; ++i) {
    m.id = "own-" + std::to_string(i);
    k.ownModifiers.push_back(m);
  }
  EXPECT_THROW(saveKit(f.path / "kit.json", k), std::runtime_error);
  EXPECT_EQ(readWholeFile(f.path / "kit.json"), "stands");
}

TEST(Plans, AsFullAsCanBeIsReadAgain) {
  Plan p = test::demoPlan();
  p.lights.clear();
  for (char c = 'A'; c <= 'P'; ++c) {
    Light l;
    l.id = std::string(1, c);
    l.name = std::string(100, '"');
    l.extra = "{\"note\":\"\\u0001\\u0002\"}";
    p.lights.push_back(l);
  }
  for (size_t i = 1; i <= kMostPanels; ++i) {
    Panel panel;
    panel.id = std::to_string(i);
    p.panels.push_back(panel);
  }
  p.title = std::string(200, '\\');
  p.notes = std::string(20000, '\x01');
  EXPECT_EQ(readPlanText(writePlanText(p)), p);
}

}  // namespace
}  // namespace easel
