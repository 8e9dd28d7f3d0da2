// Autosave and recovery: an unsaved plan survives kill -9.
#include "document/document.h"

#include <gtest/gtest.h>

#include <QDir>
#include <QEventLoop>
#include <QTest>
#include <QTimer>

#include "eventually.h"
#include "support.h"
#include "victim.h"

namespace easel::app {
namespace {

int autosaves() { return int(QDir(Document::autosaveFolder()).entryList({"*.easel.json"}, QDir::Files).size()); }

TEST(Document, AnEditIsAutosavedAndSavingDropsIt) {
  test::TemporaryFolder folder;
  const int before = autosaves();
  Document d;
  Light l = d.plan().lights[0];
  l.height = 2.0;
  d.perform(SetLight{l}, "Height");
  ASSERT_TRUE(eventually([&] { return autosaves() == before + 1; }));
  d.saveTo(QString::fromStdString((folder.path / "p.easel.json").string()));
  EXPECT_EQ(autosaves(), before);
}

TEST(Document, WhatWasUndoneToTheSavedStateNeedsNoAutosave) {
  const int before = autosaves();
  Document d;
  Light l = d.plan().lights[0];
  l.height = 2.0;
  d.perform(SetLight{l}, "Height");
  ASSERT_TRUE(eventually([&] { return autosaves() == before + 1; }));
  d.undo();
  ASSERT_TRUE(eventually([&] { return autosaves() == before; }));
}

TEST(Document, AClosedDocumentLeavesNothingBehind) {
  const int before = autosaves();
  {
    Document d;
    d.perform(SetTitle{"gone", ""}, "Title");
    ASSERT_TRUE(eventually([&] { return autosaves() == before + 1; }));
  }
  EXPECT_EQ(autosaves(), before);
}

// A process of its own edits and is killed; the next session finds the edit.
TEST(Document, UnsavedEditsSurviveKillNine) {
  const int before = autosaves();
  Victim other("Edits");
  ASSERT_TRUE(eventually([&] { return autosaves() > before; }));
  {
    Document alive;
    EXPECT_FALSE(alive.recover()) << "the other session is alive: its plan is not taken from it";
  }
  other.killNine();
  Document d;
  ASSERT_TRUE(d.recover());
  EXPECT_EQ(d.plan().title, "from the victim");
  EXPECT_TRUE(d.modified());
  EXPECT_EQ(d.file(), QString());
  EXPECT_FALSE(Document().recover()) << "taken over once";
}

TEST(DISABLED_Victim, Edits) {
  if (!qEnvironmentVariableIsSet("EASEL_VICTIM_STATE")) GTEST_SKIP() << "run by UnsavedEditsSurviveKillNine";
  qputenv("XDG_STATE_HOME", qgetenv("EASEL_VICTIM_STATE"));
  Document d;
  d.perform(SetTitle{"from the victim", ""}, "Title");
  QEventLoop().exec();  // until it is killed
}

TEST(Document, ABrokenAutosaveIsKeptAndNamed) {
  QDir().mkpath(Document::autosaveFolder());
  QFile f(Document::autosaveFolder() + "/broken-one.easel.json");
  ASSERT_TRUE(f.open(QIODevice::WriteOnly));
  f.write("{\"format\":");
  f.close();
  const Document::Leftovers found = Document::leftovers();
  ASSERT_EQ(found.unreadable.size(), 1);
  EXPECT_FALSE(QFile::exists(f.fileName())) << "put aside, not tried for ever";
  QFile kept(found.unreadable.front());
  ASSERT_TRUE(kept.open(QIODevice::ReadOnly));
  EXPECT_EQ(kept.readAll(), "{\"format\":");
  kept.remove();
  Document d;
  EXPECT_FALSE(d.recover());
  EXPECT_TRUE(Document::leftovers().unreadable.isEmpty()) << "told once";
}

// Editing without a pause must not put the autosave off: what is on disk is never older than the timer's half second
// and one write. Counted in edits, for the test may run on a slow machine.
TEST(Document, UnbrokenDraggingIsAutosavedWhileItGoesOn) {
  const int before = autosaves();
  Document d;
  int edits = 0;
  QTimer hand;
  QObject::connect(&hand, &QTimer::timeout, &d, [&] {
    Light l = d.plan().lights[0];
    l.distance = 1 + 0.001 * (++edits % 900);
    d.perform(SetLight{l}, "Drag", "drag");
  });
  hand.start(10);
  ASSERT_TRUE(eventually([&] { return autosaves() == before + 1; })) << "after " << edits << " edits";
  EXPECT_TRUE(hand.isActive()) << "the hand has not rested";
}

TEST(Document, AutosavesAreForTheUserAlone) {
  Document d;
  const int before = autosaves();
  d.perform(SetTitle{"private", ""}, "Title");
  ASSERT_TRUE(eventually([&] { return autosaves() > before; }));
  const QDir folder(Document::autosaveFolder());
  EXPECT_EQ(QFile::permissions(folder.path()) & 0x0077, 0);
  for (const QFileInfo& f : folder.entryInfoList({"*.easel.json", "*.origin"}, QDir::Files))
    EXPECT_EQ(f.permissions() & 0x0077, 0) << qPrintable(f.fileName());
}

TEST(Document, TheLastOfManyAutosavesIsTheOneThatStays) {
  Victim other("EditsMuch");
  ASSERT_TRUE(eventually([&] { return other.said().contains("thirtieth"); }));
  other.killNine();
  Document d;
  ASSERT_TRUE(d.recover());
  EXPECT_EQ(d.plan().title, "edit 30");
}

TEST(DISABLED_Victim, EditsMuch) {
  if (!qEnvironmentVariableIsSet("EASEL_VICTIM_STATE"))
    GTEST_SKIP() << "run by TheLastOfManyAutosavesIsTheOneThatStays";
  qputenv("XDG_STATE_HOME", qgetenv("EASEL_VICTIM_STATE"));
  Document d;
  for (int i = 1; i <= 30; ++i) {
    d.perform(SetTitle{"edit " + std::to_string(i), ""}, "Title");
    if (i % 10 == 0) {
      EXPECT_TRUE(eventually([&, i] {
        for (const QFileInfo& f : QDir(Document::autosaveFolder()).entryInfoList({"*.easel.json"}, QDir::Files)) try {
            if (loadPlan(pathOf(f.absoluteFilePath())).title == "edit " + std::to_string(i)) return true;
          } catch (const std::exception&) {
          }
        return false;
      }));
    }
  }
  std::puts("thirtieth");
  std::fflush(stdout);
  QEventLoop().exec();
}

TEST(Document, AnUnreadableFileIsKeptBeforeItIsReplaced) {
  test::TemporaryFolder folder;
  const QString file = QString::fromStdString((folder.path / "p.easel.json").string());
  QFile f(file);
  ASSERT_TRUE(f.open(QIODevice::WriteOnly));
  f.write("precious, but no plan");
  f.close();
  Document d;
  d.saveTo(file);
  EXPECT_EQ(readWholeFile(folder.path / "p.easel.json.bak"), "precious, but no plan");
  d.saveTo(file);
  EXPECT_EQ(readWholeFile(folder.path / "p.easel.json.bak"), "precious, but no plan") << "only what is unreadable";
}

TEST(Document, TheSecondOfTwoWindowsIsTold) {
  test::TemporaryFolder folder;
  const QString file = QString::fromStdString((folder.path / "p.easel.json").string());
  Document a, b;
  a.saveTo(file);
  EXPECT_FALSE(a.openElsewhere());
  b.open(file);
  EXPECT_TRUE(b.openElsewhere());
  std::filesystem::create_symlink(folder.path / "p.easel.json", folder.path / "link.easel.json");
  Document c;
  c.open(folder.path / "link.easel.json");
  EXPECT_TRUE(c.openElsewhere()) << "under another name it is the same file";
  b.perform(SetTitle{"from b", ""}, "Title");
  b.saveTo(file);
  EXPECT_TRUE(a.changedOutside());
  EXPECT_FALSE(b.changedOutside());
}

}  // namespace
}  // namespace easel::app
