// Files and autosaves of open documents: one list of cases, for plans and for days.
#include "document/session_file.h"

#include <gtest/gtest.h>

#include <QDir>
#include <QElapsedTimer>
#include <QEventLoop>
#include <QTest>
#include <QTimer>
#include <cstdio>
#include <fstream>
#include <map>
#include <optional>
#include <random>

#include "document/day_document.h"
#include "document/document.h"
#include "eventually.h"
#include "formats/day_json.h"
#include "formats/plan_json.h"
#include "full_disk.h"
#include "slow_disk.h"
#include "support.h"
#include "victim.h"

namespace easel::app {
namespace {

namespace fs = std::filesystem;

// The same words for both kinds.
struct APlan {
  Document document;
  static constexpr const char* kVictim = "EditsAPlan";
  static fs::path named(const fs::path& folder, const std::string& name) { return folder / (name + ".easel.json"); }
  static void write(const fs::path& file, const std::string& title) {
    Plan p = Document::freshPlan();
    p.title = title;
    savePlan(file, p);
  }
  static std::string read(const fs::path& file) { return loadPlan(file).title; }
  void open(const fs::path& file) { document.take(readPlanFile(file)); }
  void title(const std::string& title, const char* key = "") { document.perform(SetTitle{title, ""}, "Title", key); }
  std::string title() const { return document.plan().title; }
};
struct ADay {
  DayDocument document;
  static constexpr const char* kVictim = "EditsADay";
  static fs::path named(const fs::path& folder, const std::string& name) { return folder / (name + ".day.json"); }
  static void write(const fs::path& file, const std::string& title) {
    Day d;
    d.title = title;
    saveDay(file, d);
  }
  static std::string read(const fs::path& file) { return loadDay(file).day.title; }
  void open(const fs::path& file) { document.take(readDayFile(file)); }
  void title(const std::string& title, const char* key = "") {
    document.edit(
        "Title", [&](Day& d) { d.title = title; }, key);
  }
  std::string title() const { return document.day().title; }
};

// What became of a save.
enum class Ended { Saved, Failed, Asked };
template <class T>
Ended save(T& t, const fs::path& file, SessionFile::Over over = SessionFile::Over::Ask, QString* why = nullptr) {
  std::optional<Ended> ended;
  QObject here;
  SessionFile* session = t.document.session();
  QObject::connect(session, &SessionFile::saved, &here, [&] { ended = Ended::Saved; });
  QObject::connect(session, &SessionFile::changedOutside, &here, [&] { ended = Ended::Asked; });
  QObject::connect(session, &SessionFile::failed, &here, [&](const QString& sentence) {
    ended = Ended::Failed;
    if (why) *why = sentence;
  });
  t.document.saveTo(file, over);
  EXPECT_TRUE(eventually([&] { return ended.has_value(); }));
  return *ended;
}
template <class T>
bool calm(T& t) {
  return eventually([&] { return t.document.session()->calm(); });
}
template <class T>
QStringList kept() {
  return QDir(SessionFile::folderOf(decltype(T::document)::kind()))
      .entryList({"*" + decltype(T::document)::kind().ending}, QDir::Files);
}
template <class T>
std::vector<SessionFile::Leftover> leftovers() {
  return SessionFile::leftovers(decltype(T::document)::kind()).all;
}

template <class T>
bool takeOver(T& t, size_t which = 0) {
  const auto all = leftovers<T>();
  if (which >= all.size()) return false;
  const auto recovered = SessionFile::recover(decltype(T::document)::kind(), all[which]);
  if (recovered) t.document.takeOver(*recovered);
  return recovered.has_value();
}

template <class T>
class Kept : public testing::Test {
 protected:
  // A session that dies with an unsaved document of that title; `file`: that it belongs to.
  void die(const std::string& title, const fs::path& file = {}) {
    const int before = int(kept<T>().size());
    qputenv("EASEL_VICTIM_TITLE", QByteArray::fromStdString(title));
    qputenv("EASEL_VICTIM_FILE", QByteArray::fromStdString(file.string()));
    Victim victim(T::kVictim);
    ASSERT_TRUE(eventually([&] { return int(kept<T>().size()) > before; }));
    victim.killNine();
  }
  void TearDown() override {
    Strand::finishAll();
    for (const QString& f : kept<T>()) QFile::remove(SessionFile::folderOf(decltype(T::document)::kind()) + "/" + f);
  }
  test::TemporaryFolder folder_;
};
using Kinds = testing::Types<APlan, ADay>;
struct KindName {
  template <class T>
  static std::string GetName(int) {
    return std::is_same_v<T, APlan> ? "Plan" : "Day";
  }
};
TYPED_TEST_SUITE(Kept, Kinds, KindName);

template <class T>
void editUntilKilled() {
  if (!qEnvironmentVariableIsSet("EASEL_VICTIM_STATE")) GTEST_SKIP() << "run by die()";
  qputenv("XDG_STATE_HOME", qgetenv("EASEL_VICTIM_STATE"));
  T t;
  if (const auto file = qgetenv("EASEL_VICTIM_FILE").toStdString(); !file.empty()) t.open(file);
  t.title(qgetenv("EASEL_VICTIM_TITLE").toStdString());
  QEventLoop().exec();
}
// As a hand that does not rest, saying what it did and when, and saves all the time where there is a file: for killing
// it at any moment.
template <class T>
void editWithoutRest() {
  if (!qEnvironmentVariableIsSet("EASEL_VICTIM_STATE")) GTEST_SKIP() << "run by whoever kills it";
  qputenv("XDG_STATE_HOME", qgetenv("EASEL_VICTIM_STATE"));
  T t;
  const fs::path file = qgetenv("EASEL_VICTIM_FILE").toStdString();
  int edits = 0, saving = 0;
  QElapsedTimer clock;
  clock.start();
  QTimer hand;
  QObject::connect(&hand, &QTimer::timeout, [&] {
    t.title(std::to_string(++edits), "drag");
    std::printf("%d %lld\n", edits, static_cast<long long>(clock.elapsed()));
    std::fflush(stdout);
    if (!file.empty() && !t.document.session()->saving()) {
      t.document.saveTo(file);
      saving = edits;
    }
  });
  QObject::connect(t.document.session(), &SessionFile::saved, &hand, [&] {
    std::printf("saved %d\n", saving);
    std::fflush(stdout);
  });
  hand.start(7);
  QEventLoop().exec();
}
TEST(DISABLED_Victim, EditsAPlanWithoutRest) { editWithoutRest<APlan>(); }
TEST(DISABLED_Victim, EditsADayWithoutRest) { editWithoutRest<ADay>(); }

TEST(DISABLED_Victim, EditsAPlan) { editUntilKilled<APlan>(); }
TEST(DISABLED_Victim, EditsADay) { editUntilKilled<ADay>(); }

TYPED_TEST(Kept, WhatIsEditedIsKeptUntilItIsSaved) {
  TypeParam t;
  t.title("mine");
  ASSERT_TRUE(eventually([] { return kept<TypeParam>().size() == 1; }));
  const fs::path file = t.named(this->folder_.path, "a");
  EXPECT_EQ(save(t, file), Ended::Saved);
  EXPECT_FALSE(t.document.modified());
  EXPECT_EQ(t.read(file), "mine");
  EXPECT_EQ(t.document.path(), file);
  ASSERT_TRUE(calm(t));
  EXPECT_TRUE(kept<TypeParam>().isEmpty());
}

TYPED_TEST(Kept, WhatIsEditedWhileItIsSavedStaysUnsaved) {
  TypeParam t;
  t.title("first");
  const fs::path file = t.named(this->folder_.path, "a");
  {
    test::HeldDisk disk;
    t.document.saveTo(file);
    ASSERT_TRUE(eventually([] { return test::HeldDisk::waiting() > 0; }));
    t.title("second");
  }
  ASSERT_TRUE(eventually([&] { return !t.document.session()->saving(); }));
  EXPECT_EQ(t.read(file), "first");
  EXPECT_EQ(t.title(), "second");
  EXPECT_TRUE(t.document.modified());
  t.document.undo();
  EXPECT_FALSE(t.document.modified()) << "back to what was saved";
}

// Nothing on the interface thread waits for a disk: not saving, not undoing to what is saved, not closing.
TYPED_TEST(Kept, NothingWaitsForADisk) {
  const fs::path file = TypeParam::named(this->folder_.path, "a");
  TypeParam::write(file, "on disk");
  test::HeldDisk disk;
  {
    TypeParam t;
    t.open(file);
    t.title("mine");
    ASSERT_TRUE(eventually([] { return test::HeldDisk::waiting() > 0; })) << "it is being kept";
    t.document.undo();
    t.title("mine again");
    t.document.saveTo(file);
    t.open(file);
  }
  EXPECT_GT(test::HeldDisk::waiting(), 0) << "the document has gone, its work has not";
  EXPECT_FALSE(test::HeldDisk::metByHolder());
  disk.letGo();
  Strand::finishAll();
  EXPECT_EQ(TypeParam::read(file), "mine again");
  EXPECT_TRUE(kept<TypeParam>().isEmpty()) << "closed in order: nothing is left to bring back";
}

TYPED_TEST(Kept, ASlowDiskGetsTheNewestNotEveryState) {
  TypeParam t;
  test::HeldDisk disk;
  t.title("0");
  ASSERT_TRUE(eventually([] { return test::HeldDisk::waiting() == 1; }));
  for (int i = 1; i <= 5; ++i) {
    t.title(std::to_string(i));
    t.document.session()->touched();
    QCoreApplication::processEvents();
  }
  disk.letGo();
  ASSERT_TRUE(calm(t));
  ASSERT_EQ(kept<TypeParam>().size(), 1);
  EXPECT_EQ(TypeParam::read(pathOf(SessionFile::folderOf(decltype(t.document)::kind()) + "/" + kept<TypeParam>()[0])),
            "5");
}

TYPED_TEST(Kept, AnotherHandAtTheFileIsAskedAbout) {
  const fs::path file = TypeParam::named(this->folder_.path, "a");
  TypeParam::write(file, "theirs, first");
  TypeParam t;
  t.open(file);
  t.title("mine");
  TypeParam::write(file, "theirs, second");
  EXPECT_EQ(save(t, file), Ended::Asked);
  EXPECT_EQ(t.read(file), "theirs, second");
  EXPECT_TRUE(t.document.modified());
  EXPECT_EQ(save(t, file, SessionFile::Over::Anyway), Ended::Saved);
  EXPECT_EQ(t.read(file), "mine");
  t.title("mine again");
  EXPECT_EQ(save(t, file), Ended::Saved) << "nobody else was at it since";
}

TYPED_TEST(Kept, TwoWindowsOfOneFileKnowIt) {
  const fs::path file = TypeParam::named(this->folder_.path, "a"), link = TypeParam::named(this->folder_.path, "link");
  TypeParam::write(file, "one");
  fs::create_symlink(file, link);
  TypeParam a, b;
  a.open(file);
  EXPECT_FALSE(a.document.session()->openElsewhere());
  b.open(link);
  EXPECT_TRUE(b.document.session()->openElsewhere()) << "under another name it is the same file";
}

TYPED_TEST(Kept, ADeadSessionIsBroughtBackUnderItsName) {
  const fs::path file = TypeParam::named(this->folder_.path, "a");
  TypeParam::write(file, "on disk");
  this->die("unsaved", file);
  ASSERT_EQ(leftovers<TypeParam>().size(), 1u);
  EXPECT_EQ(leftovers<TypeParam>()[0].title, "unsaved");
  TypeParam t;
  ASSERT_TRUE(takeOver(t));
  EXPECT_EQ(t.title(), "unsaved");
  EXPECT_TRUE(t.document.modified());
  EXPECT_EQ(t.document.path(), file);
  ASSERT_TRUE(calm(t));
  EXPECT_EQ(kept<TypeParam>().size(), 1) << "ours; theirs is cleared";
  EXPECT_TRUE(leftovers<TypeParam>().empty()) << "this session is alive";
  EXPECT_EQ(save(t, file), Ended::Saved) << "nobody else was at it";
}

// The mark is that of the file as the dead session had read it.
TYPED_TEST(Kept, AFileThatWasReplacedSinceTheDeathIsAskedAbout) {
  const fs::path file = TypeParam::named(this->folder_.path, "a");
  TypeParam::write(file, "on disk");
  this->die("unsaved", file);
  TypeParam::write(file, "newer, from somebody else");
  TypeParam t;
  ASSERT_TRUE(takeOver(t));
  EXPECT_EQ(save(t, file), Ended::Asked);
  EXPECT_EQ(t.read(file), "newer, from somebody else");
}

TYPED_TEST(Kept, OnAFullDiskTheOnlyCopyStays) {
  this->die("unsaved");
  {
    test::FullDisk full;
    TypeParam t;
    QStringList said;
    QObject::connect(t.document.session(), &SessionFile::autosaveFailed, [&](const QString& why) { said << why; });
    ASSERT_EQ(leftovers<TypeParam>().size(), 1u) << "a lock that cannot be written is nobody's";
    ASSERT_TRUE(takeOver(t));
    EXPECT_EQ(t.title(), "unsaved");
    ASSERT_TRUE(calm(t));
    EXPECT_EQ(said.size(), 1) << "and it is said";
    // The program dies here as well: nothing of it is closed in order.
    EXPECT_EQ(kept<TypeParam>().size(), 1) << "what the dead session left is still there";
  }
}

TYPED_TEST(Kept, WhatCannotBeReadIsPutAsideAndNamed) {
  const QString folder = SessionFile::folderOf(decltype(TypeParam::document)::kind());
  QDir().mkpath(folder);
  QFile f(folder + "/broken" + decltype(TypeParam::document)::kind().ending);
  ASSERT_TRUE(f.open(QIODevice::WriteOnly));
  f.write("{\"format\":");
  f.close();
  const auto found = SessionFile::leftovers(decltype(TypeParam::document)::kind());
  EXPECT_TRUE(found.all.empty());
  ASSERT_EQ(found.unreadable.size(), 1);
  QFile aside(found.unreadable[0]);
  ASSERT_TRUE(aside.open(QIODevice::ReadOnly));
  EXPECT_EQ(aside.readAll(), "{\"format\":");
  EXPECT_TRUE(SessionFile::leftovers(decltype(TypeParam::document)::kind()).unreadable.isEmpty()) << "told once";
  aside.remove();
}

TYPED_TEST(Kept, WhatStandsThereAndIsNoneOfTheKindIsKept) {
  const fs::path file = TypeParam::named(this->folder_.path, "a");
  std::ofstream(file) << "precious, but no plan and no day";
  std::ofstream(file.string() + ".bak") << "older, and precious too";
  TypeParam t;
  t.title("mine");
  EXPECT_EQ(save(t, file), Ended::Saved);
  EXPECT_EQ(readWholeFile(file.string() + ".bak"), "older, and precious too");
  EXPECT_EQ(readWholeFile(file.string() + ".bak2"), "precious, but no plan and no day");
}

TYPED_TEST(Kept, ASaveThatFailsSaysSoAndLeavesTheFile) {
  const fs::path file = TypeParam::named(this->folder_.path, "a");
  TypeParam::write(file, "on disk");
  TypeParam t;
  t.open(file);
  t.title("mine");
  ASSERT_TRUE(calm(t));
  QString why;
  {
    test::FullDisk full;
    EXPECT_EQ(save(t, file, SessionFile::Over::Ask, &why), Ended::Failed);
  }
  EXPECT_TRUE(why.contains("a.") && why.contains("could not be saved")) << qPrintable(why);
  EXPECT_EQ(t.read(file), "on disk");
  EXPECT_TRUE(t.document.modified());
}

// Editing without a pause must not put it off: what is on disk is never older than the timer and one write.
TYPED_TEST(Kept, UnbrokenEditingIsKeptWhileItGoesOn) {
  TypeParam t;
  int edits = 0;
  QTimer hand;
  QObject::connect(&hand, &QTimer::timeout, [&] { t.title(std::to_string(++edits), "drag"); });
  hand.start(10);
  ASSERT_TRUE(eventually([] { return kept<TypeParam>().size() == 1; })) << "after " << edits << " edits";
  EXPECT_TRUE(hand.isActive()) << "the hand has not rested";
}

// Killed at any moment, what is kept is one of the states that there were, whole. How old it is depends on the machine
// and is measured, not tested: a quarter of a second (docs/speed.md).
TYPED_TEST(Kept, KilledAtAnyMomentWhatIsKeptIsWhole) {
  std::mt19937 random(4711);
  for (int i = 0; i < 4; ++i) {
    for (const QString& f : kept<TypeParam>())
      QFile::remove(SessionFile::folderOf(decltype(TypeParam::document)::kind()) + "/" + f);
    qunsetenv("EASEL_VICTIM_FILE");
    Victim victim(QString::fromLatin1(TypeParam::kVictim) + "WithoutRest");
    QByteArray said;
    const auto lines = [&] { return said.count('\n'); };
    const auto wanted = std::uniform_int_distribution(60, 220)(random);
    while (lines() < wanted || kept<TypeParam>().isEmpty()) {
      ASSERT_TRUE(victim.waits());
      said += victim.said();
    }
    victim.killNine();
    said += victim.said();
    std::map<int, long long> when;
    for (const QByteArray& line : said.split('\n'))
      if (const QList<QByteArray> words = line.split(' '); words.size() == 2)
        when[words[0].toInt()] = words[1].toLongLong();
    const auto left = leftovers<TypeParam>();
    ASSERT_EQ(left.size(), 1u);
    const int edit = QString::fromStdString(left[0].title.toStdString()).toInt();
    ASSERT_TRUE(when.count(edit)) << qPrintable(left[0].title);
  }
}

// What was said to be saved is in the file, which is whole at any moment.
TYPED_TEST(Kept, KilledWhileItSavesTheFileIsWhole) {
  std::mt19937 random(815);
  for (int i = 0; i < 4; ++i) {
    const fs::path file = TypeParam::named(this->folder_.path, "saved" + std::to_string(i));
    qputenv("EASEL_VICTIM_FILE", QByteArray::fromStdString(file.string()));
    Victim victim(QString::fromLatin1(TypeParam::kVictim) + "WithoutRest");
    qunsetenv("EASEL_VICTIM_FILE");
    QByteArray said;
    const auto wanted = std::uniform_int_distribution(30, 150)(random);
    while (said.count('\n') < wanted || !said.contains("\nsaved")) {
      ASSERT_TRUE(victim.waits());
      said += victim.said();
    }
    victim.killNine();
    said += victim.said();
    int saved = 0, edited = 0;
    for (const QByteArray& line : said.split('\n'))
      if (const QList<QByteArray> words = line.split(' '); words.size() == 2)
        words[0] == "saved" ? saved = words[1].toInt() : edited = words[0].toInt();
    const int there = std::stoi(TypeParam::read(file));
    EXPECT_GE(there, saved);
    EXPECT_LE(there, edited + 1) << "one more edit than it had the time to say";
    for (const auto& l : leftovers<TypeParam>())
      EXPECT_FALSE(l.title.isEmpty()) << "what is kept beside it can be read too";
    this->TearDown();
  }
}

TYPED_TEST(Kept, WhatIsKeptIsForTheUserAlone) {
  TypeParam t;
  t.title("private");
  ASSERT_TRUE(eventually([] { return kept<TypeParam>().size() == 1; }));
  const QDir folder(SessionFile::folderOf(decltype(t.document)::kind()));
  EXPECT_EQ(QFile::permissions(folder.path()) & 0x0077, 0);
  for (const QFileInfo& f : folder.entryInfoList(QDir::Files))
    if (!f.fileName().endsWith(".lock")) {
      EXPECT_EQ(f.permissions() & 0x0077, 0) << qPrintable(f.fileName());
    }
}

TYPED_TEST(Kept, WhatIsUndoneToTheSavedStateIsCleared) {
  TypeParam t;
  t.title("mine");
  ASSERT_TRUE(eventually([] { return kept<TypeParam>().size() == 1; }));
  t.document.undo();
  ASSERT_TRUE(eventually([] { return kept<TypeParam>().isEmpty(); }));
}

TYPED_TEST(Kept, AnUndoEndsAStepThatOthersWouldJoin) {
  TypeParam t;
  t.title("a", "drag");
  t.title("b");
  t.document.undo();
  EXPECT_EQ(t.title(), "a");
  t.title("c", "drag");
  t.document.undo();
  EXPECT_EQ(t.title(), "a") << "one undo goes back one step";
}

TYPED_TEST(Kept, SavingEndsAStep) {
  TypeParam t;
  t.title("a", "drag");
  EXPECT_EQ(save(t, t.named(this->folder_.path, "a")), Ended::Saved);
  t.title("b", "drag");
  t.document.undo();
  EXPECT_EQ(t.title(), "a");
  EXPECT_FALSE(t.document.modified());
}

}  // namespace
}  // namespace easel::app
