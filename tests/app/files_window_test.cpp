// Files in the window: nothing is overwritten, dropped or taken over without a word.
#include <gtest/gtest.h>

#include <QFileDialog>
#include <QLineEdit>
#include <QMessageBox>
#include <QMimeData>
#include <QPointer>
#include <QPushButton>
#include <QSettings>
#include <QTreeWidget>
#include <fstream>

#include "day/day_window.h"
#include "dialogs/ask_save_name.h"
#include "dialogs/kit_dialog.h"
#include "dialogs/looks_dialog.h"
#include "formats/ies_file.h"
#include "formats/kit_json.h"
#include "gear/gobo.h"
#include "plan/panels.h"
#include "slow_disk.h"
#include "victim.h"
#include "window_support.h"

namespace easel::app {
namespace {

namespace fs = std::filesystem;

QString text(const fs::path& p) { return shownName(p); }

// GivenAnswers the boxes and dialogs that come up, one after the other, from within their own event loops.
class GivenAnswers {
 public:
  explicit GivenAnswers(std::vector<std::function<void(QWidget*)>> answers) : answers_(std::move(answers)) {
    QObject::connect(&tick_, &QTimer::timeout, [this] {
      QWidget* modal = QApplication::activeModalWidget();
      if (!modal || modal == last_ || next_ >= answers_.size()) return;
      last_ = modal;
      answers_[next_++](modal);
      if (!modal->isVisible()) last_ = nullptr;
    });
    tick_.start(5);
  }
  size_t given() const { return next_; }

 private:
  std::vector<std::function<void(QWidget*)>> answers_;
  size_t next_ = 0;
  QWidget* last_ = nullptr;
  QTimer tick_;
};
std::function<void(QWidget*)> press(const QString& words) {
  return [words](QWidget* box) {
    for (QPushButton* b : box->findChildren<QPushButton*>())
      if (b->text().remove('&').contains(words)) return b->click();
    ADD_FAILURE() << "no button " << words.toStdString();
  };
}
std::function<void(QWidget*)> name(const QString& file) {
  return [file](QWidget* dialog) {
    auto* d = qobject_cast<QFileDialog*>(dialog);
    ASSERT_TRUE(d);
    d->findChild<QLineEdit*>()->setText(file);
    QMetaObject::invokeMethod(d, "accept", Qt::QueuedConnection);
  };
}

struct NoNativeDialogs {
  NoNativeDialogs() { QApplication::setAttribute(Qt::AA_DontUseNativeDialogs); }
} none;

TEST(SaveAs, AsksForTheNameThatIsReallyWritten) {
  test::TemporaryFolder f;
  savePlan(f.path / "x.easel.json", test::demoPlan());
  const std::string before = readWholeFile(f.path / "x.easel.json");
  QWidget parent;
  {
    GivenAnswers a({name(text(f.path / "x")), press("Another name"), [](QWidget* d) { d->close(); }});
    EXPECT_EQ(askSaveName(&parent, "Save", text(f.path / "y"), "All (*)", ".easel.json"), "");
    EXPECT_GE(a.given(), 2u) << "typing x where x.easel.json stands asks";
  }
  EXPECT_EQ(readWholeFile(f.path / "x.easel.json"), before);
  {
    GivenAnswers a({name(text(f.path / "x")), press("Overwrite")});
    EXPECT_EQ(askSaveName(&parent, "Save", text(f.path / "y"), "All (*)", ".easel.json"),
              text(f.path / "x.easel.json"));
  }
  {
    GivenAnswers a({name(text(f.path / "fresh"))});
    EXPECT_EQ(askSaveName(&parent, "Save", text(f.path / "y"), "All (*)", ".easel.json"),
              text(f.path / "fresh.easel.json"));
  }
  {
    GivenAnswers a({name(text(f.path / "x"))});
    EXPECT_EQ(askSaveName(&parent, "Save", text(f.path / "y"), "All (*)", ".easel.json", f.path / "x.easel.json"),
              text(f.path / "x.easel.json"))
        << "one's own file needs no question";
  }
}

TEST(Save, AFileChangedOutsideIsNoticedFirst) {
  test::TemporaryFolder f;
  const fs::path file = f.path / "p.easel.json";
  savePlan(file, test::demoPlan());
  Shown s(false);
  s.window.files()->openFile(file);
  ASSERT_TRUE(s.settled());
  s.window.document()->perform(SetTitle{"mine", ""}, "Title");
  Plan theirs = test::demoPlan();
  theirs.title = "theirs";
  savePlan(file, theirs);
  s.window.setQuiet(false);
  QAction* save = nullptr;
  for (QAction* menu : s.window.menuBar()->actions())
    for (QAction* a : menu->menu()->actions())
      if (a->shortcut() == QKeySequence(QKeySequence::Save)) save = a;
  ASSERT_TRUE(save);
  {
    GivenAnswers a({press("Cancel")});
    save->trigger();
    ASSERT_TRUE(eventually([&] { return a.given() == 1u; }));
    ASSERT_TRUE(eventually([&] { return !s.window.files()->busy(); }));
  }
  EXPECT_EQ(loadPlan(file).title, "theirs");
  {
    GivenAnswers a({press("Overwrite")});
    save->trigger();
    ASSERT_TRUE(eventually([&] { return !s.window.document()->modified(); }));
  }
  EXPECT_EQ(loadPlan(file).title, "mine");
  {
    GivenAnswers a({press("Cancel")});
    s.window.document()->perform(SetTitle{"mine again", ""}, "Title");
    save->trigger();
    ASSERT_TRUE(eventually([&] { return !s.window.document()->modified(); }));
    EXPECT_EQ(a.given(), 0u) << "nobody else was at it since";
  }
  s.window.setQuiet(true);
}

TEST(Windows, ASecondPlanOpensASecondWindow) {
  test::TemporaryFolder f;
  for (const char* n : {"a", "b"}) savePlan(f.path / (std::string(n) + ".easel.json"), test::demoPlan());
  Shown s(false);
  s.window.files()->openWanted(f.path / "a.easel.json");
  ASSERT_TRUE(eventually([&] { return !s.window.files()->busy(); }));
  EXPECT_EQ(others(&s.window).size(), 0u) << "nothing was done in this one yet";
  EXPECT_EQ(s.window.document()->displayName(), "a");
  s.window.files()->openWanted(f.path / "b.easel.json");
  ASSERT_TRUE(eventually([&] { return !s.window.files()->busy(); }));
  ASSERT_EQ(others(&s.window).size(), 1u);
  MainWindow* second = others(&s.window)[0];
  EXPECT_EQ(second->document()->displayName(), "b");
  EXPECT_EQ(s.window.document()->displayName(), "a");
  s.window.files()->openWanted(f.path / "b.easel.json");
  ASSERT_TRUE(eventually([&] { return !s.window.files()->busy(); }));
  EXPECT_EQ(others(&s.window).size(), 1u) << "it is open already";
  std::ofstream(f.path / "broken.easel.json") << "{";
  s.window.files()->openWanted(f.path / "broken.easel.json");
  ASSERT_TRUE(eventually([&] { return !s.window.files()->busy(); }));
  EXPECT_EQ(others(&s.window).size(), 1u);
  EXPECT_TRUE(s.window.notice().contains("broken.easel.json")) << qPrintable(s.window.notice());
  closeAll(&s.window);
}

// Closing all windows goes on after one that had to be saved first.
TEST(Windows, QuittingSavesAndClosesAllOfThem) {
  test::TemporaryFolder f;
  std::vector<QPointer<MainWindow>> all;
  for (const char* n : {"a", "b", "c"}) {
    const fs::path file = f.path / (std::string(n) + ".easel.json");
    savePlan(file, test::demoPlan());
    all.emplace_back(newPlanWindow());
    ASSERT_TRUE(all.back()->files()->openFile(file));
    all.back()->document()->perform(SetTitle{std::string("changed ") + n, ""}, "Title");
  }
  GivenAnswers a({press("Save"), press("Save"), press("Save")});
  DocumentSaving::quit();
  ASSERT_TRUE(eventually([&] { return std::none_of(all.begin(), all.end(), [](const auto& w) { return bool(w); }); }));
  EXPECT_EQ(a.given(), 3u);
  for (const char* n : {"a", "b", "c"})
    EXPECT_EQ(loadPlan(f.path / (std::string(n) + ".easel.json")).title, std::string("changed ") + n);
}

TEST(Windows, UnitsAreThoseOfTheProgram) {
  Shown a, b;
  const auto distance = [](Shown& s) { return s.window.findChild<LengthField*>("distance")->text(); };
  EXPECT_TRUE(distance(b).endsWith(" m"));
  for (QAction* menu : a.window.menuBar()->actions())
    for (QAction* action : menu->menu()->actions())
      if (action->text().contains("feet")) action->trigger();
  EXPECT_TRUE(distance(a).contains("ft")) << qPrintable(distance(a));
  EXPECT_TRUE(distance(b).contains("ft")) << qPrintable(distance(b));
  for (QAction* menu : b.window.menuBar()->actions())
    for (QAction* action : menu->menu()->actions())
      if (action->text().contains("metres")) action->trigger();
  EXPECT_TRUE(distance(a).endsWith(" m"));
}

TEST(Windows, PlansCanBeDroppedOnIt) {
  test::TemporaryFolder f;
  const fs::path odd = f.path / std::string("Prob\xe9.easel.json");  // no UTF-8
  savePlan(odd, test::demoPlan());
  Shown s(false);
  QMimeData data;
  QUrl url;
  url.setScheme("file");
  url.setPath(QString::fromLatin1(QByteArray::fromStdString(odd.string()).toPercentEncoding("/")), QUrl::TolerantMode);
  data.setUrls({QUrl(QString::fromLatin1("file://" + QByteArray::fromStdString(odd.string()).toPercentEncoding("/")))});
  QDragEnterEvent enter({5, 5}, Qt::CopyAction, &data, Qt::LeftButton, {});
  QCoreApplication::sendEvent(&s.window, &enter);
  EXPECT_TRUE(enter.isAccepted());
  QDropEvent drop({5, 5}, Qt::CopyAction, &data, Qt::LeftButton, {});
  QCoreApplication::sendEvent(&s.window, &drop);
  ASSERT_TRUE(eventually([&] { return !s.window.files()->busy(); }));
  EXPECT_EQ(s.window.document()->path(), odd) << qPrintable(s.window.notice());
  s.window.document()->perform(SetTitle{"saved again", ""}, "Title");
  saveNow(s.window.document(), odd);
  EXPECT_EQ(loadPlan(odd).title, "saved again");
}

TEST(Windows, WhatAnEarlierSessionLeftIsOfferedBesideTheNamedPlan) {
  const auto autosaves = [] {
    return QDir(SessionFile::folderOf(Document::kind())).entryList({"*.easel.json"}, QDir::Files).size();
  };
  const auto before = autosaves();
  qputenv("EASEL_VICTIM_TITLE", "from the victim");
  qputenv("EASEL_VICTIM_FILE", "");
  Victim victim("EditsAPlan");
  ASSERT_TRUE(eventually([&] { return autosaves() > before; }));
  victim.killNine();

  Shown s;
  s.window.files()->recoverUnsaved(false);
  ASSERT_TRUE(eventually([&] { return !s.window.files()->busy(); }));
  EXPECT_EQ(s.window.document()->displayName(), "marrow-lane-first-light") << "the named plan is the plan that opens";
  auto* offer = s.window.findChild<QPushButton*>("offer");
  ASSERT_TRUE(offer && offer->isVisibleTo(&s.window));
  EXPECT_TRUE(offer->toolTip().contains("from the victim"));
  offer->click();
  ASSERT_TRUE(eventually([&] { return others(&s.window).size() == 1u; }));
  EXPECT_EQ(others(&s.window)[0]->document()->plan().title, "from the victim");
  EXPECT_TRUE(others(&s.window)[0]->document()->modified());
  EXPECT_FALSE(offer->isVisibleTo(&s.window));
  closeAll(&s.window);
}

TEST(Windows, AnUnreadableAutosaveIsNamedWithItsPath) {
  QDir().mkpath(SessionFile::folderOf(Document::kind()));
  QFile f(SessionFile::folderOf(Document::kind()) + "/half-written.easel.json");
  ASSERT_TRUE(f.open(QIODevice::WriteOnly));
  f.write("{");
  f.close();
  Shown s;
  s.window.files()->recoverUnsaved(false);
  ASSERT_TRUE(eventually([&] { return !s.window.files()->busy(); }));
  EXPECT_TRUE(s.window.notice().contains(SessionFile::folderOf(Document::kind()) + "/half-written"))
      << qPrintable(s.window.notice());
  QFile::remove(SessionFile::folderOf(Document::kind()) + "/half-written.unreadable.json");
}

using test::DataHome;

TEST(KitWindow, AKitThatCannotBeReadIsNeverOverwrittenByAnEntry) {
  DataHome home;
  for (const std::string broken : {"{ a kit once", "{\"format\":\"jolly-easel-kit\",\"version\":99}"}) {
    std::ofstream(kitFile()) << broken;
    EXPECT_FALSE(KitFile::current().load().isEmpty());
    Document d;
    KitDialog kit(&d);
    kit.show();
    auto* tree = kit.findChild<QTreeWidget*>("kitTree");
    EXPECT_FALSE(tree->isEnabled());
    auto* count = kit.findChild<QSpinBox*>("count-mains-400");
    ASSERT_TRUE(count);
    count->setValue(2);
    ASSERT_TRUE(eventually([] { return !KitFile::current().working(); }));
    EXPECT_EQ(readWholeFile(kitFile()), broken);
    auto* anew = kit.findChild<QPushButton*>("startAnew");
    ASSERT_TRUE(anew->isVisibleTo(&kit));
    anew->click();
    ASSERT_TRUE(eventually([] { return !KitFile::current().working(); }));
    const bool second = broken.find("99") != std::string::npos;
    EXPECT_EQ(readWholeFile(kitFile().string() + (second ? ".bak2" : ".bak")), broken);
    EXPECT_NO_THROW(loadKit(kitFile()));
    EXPECT_TRUE(tree->isEnabled());
  }
}

TEST(KitWindow, TwoWindowsShowOneKit) {
  DataHome home;
  KitFile::current().load();
  Document d;
  KitDialog one(&d), two(&d);
  one.findChild<QSpinBox*>("count-mains-400")->setValue(2);
  ASSERT_TRUE(eventually([&] { return two.findChild<QSpinBox*>("count-mains-400")->value() == 2; }));
  two.findChild<QSpinBox*>("count-battery-200")->setValue(3);
  ASSERT_TRUE(eventually([&] { return one.findChild<QSpinBox*>("count-battery-200")->value() == 3; }));
  ASSERT_TRUE(eventually([] { return !KitFile::current().working(); }));
  EXPECT_EQ(loadKit(kitFile()).units, (std::map<std::string, int>{{"battery-200", 3}, {"mains-400", 2}}));
  takeIntoUse({});
}

TEST(KitWindow, AnotherProgramsKitIsNotOverwritten) {
  DataHome home;
  KitFile::current().load();
  Document d;
  KitDialog dialog(&d);
  QString said;
  QObject here;
  QObject::connect(&KitFile::current(), &KitFile::said, &here, [&](const QString& s, bool) { said = s; });
  Inventory theirs;
  theirs.units["mains-400"] = 2;
  saveKit(kitFile(), theirs);
  dialog.findChild<QSpinBox*>("count-battery-200")->setValue(3);
  ASSERT_TRUE(eventually([&] { return !said.isEmpty(); }));
  EXPECT_EQ(loadKit(kitFile()).units, theirs.units);
  EXPECT_TRUE(said.contains("read again")) << qPrintable(said);
  ASSERT_TRUE(eventually([&] { return dialog.findChild<QSpinBox*>("count-mains-400")->value() == 2; }));
  dialog.findChild<QSpinBox*>("count-battery-200")->setValue(3);
  ASSERT_TRUE(eventually([] { return !KitFile::current().working(); }));
  EXPECT_EQ(loadKit(kitFile()).units, (std::map<std::string, int>{{"battery-200", 3}, {"mains-400", 2}}));
  takeIntoUse({});
}

TEST(KitWindow, AFirstThingOfOnesOwnDoesNotEmptyTheShelf) {
  DataHome home;
  KitFile::current().load();
  test::TemporaryFolder folder;
  Document d;
  KitDialog dialog(&d);
  const fs::path ies = folder.path / "bowl.ies";
  std::ofstream(ies) << writeIesText(*findModifier("reflector-18"), 10000, 100);
  dialog.addIes(text(ies));
  ASSERT_TRUE(eventually([] { return !KitFile::current().kit().ownModifiers.empty(); }));
  EXPECT_TRUE(lacking(test::masterPlan(), KitFile::current().kit()).empty());
  ASSERT_TRUE(eventually([] { return !KitFile::current().working(); }));
  takeIntoUse({});
}

// Whatever is opened, kept, saved, brought back or closed: a disk that does not answer holds no window.
TEST(Windows, NoFileIsOpenedOnTheInterfaceThread) {
  DataHome home;
  KitFile::current().load();
  test::TemporaryFolder folder;
  const fs::path file = folder.path / "bench.easel.json", day = folder.path / "open.day.json";
  const fs::path ies = folder.path / "bowl.ies";
  // A cut-out of the user's own drawing: dial, rail and check need its outline, not what is in the file.
  Plan plan = test::masterPlan();
  plan.panels.push_back(proposePanel(plan, "cut-out").panel);
  plan.panels.back().pattern = "fern.svg";
  fs::create_directories(goboFolder());
  std::ofstream(goboFolder() / "fern.svg") << "<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'/>";
  savePlan(file, plan);
  std::ofstream(ies) << writeIesText(*findModifier("reflector-18"), 10000, 100);
  const test::FilesOfThisThread files({folder.path, home.folder.path, pathOf(stateFolder())});
  const auto* on = &files;
  const auto met = [&] { return on->met().empty() ? std::string() : *on->met().begin(); };
  {
    Shown s(false);
    const auto calm = [&] { return eventually([&] { return !s.window.files()->busy(); }); };
    EXPECT_EQ(met(), "") << "a first window";
    s.window.files()->openWanted(file);
    ASSERT_TRUE(calm());
    ASSERT_EQ(s.window.document()->path(), file);
    EXPECT_EQ(met(), "") << "opened";
    s.window.document()->perform(SetTitle{"at the bench", ""}, "Title");
    ASSERT_TRUE(calm());
    s.window.document()->undo();
    s.window.document()->redo();
    ASSERT_TRUE(calm());
    EXPECT_EQ(met(), "") << "edited";
    saveNow(s.window.document(), file);
    saveNow(s.window.document(), folder.path / "other.easel.json");
    ASSERT_TRUE(calm());
    EXPECT_EQ(met(), "") << "saved";
    s.window.files()->recoverUnsaved();
    s.window.beside()->watch(text(folder.path));
    ASSERT_TRUE(eventually([&] { return !s.window.files()->busy() && s.window.notice().contains("Every picture"); }));
    EXPECT_EQ(met(), "") << "looked for what was left";
    LooksDialog shelf(s.window.document());
    ASSERT_TRUE(eventually([&] { return !shelf.working(); }));
    EXPECT_EQ(met(), "") << "the shelf";
    KitDialog kit(s.window.document());
    kit.addIes(text(ies));
    ASSERT_TRUE(eventually([] { return !KitFile::current().kit().ownModifiers.empty(); }));
    kit.exportKit(text(folder.path / "kit.json"));
    ASSERT_TRUE(eventually([&] { return fs::exists(folder.path / "kit.json") && !KitFile::current().working(); }));
    EXPECT_EQ(met(), "") << "the kit";
    s.window.openDay();
    DayWindow* d = dayWindow();
    d->addFile(file);
    ASSERT_TRUE(eventually([&] { return d->document()->day().looks.size() == 1u && !d->document()->working(); }));
    saveNow(d->document(), day);
    ASSERT_TRUE(eventually([&] { return !d->document()->working(); }));
    EXPECT_EQ(met(), "") << "a day";
    d->setQuiet(true);
    d->close();
  }
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  EXPECT_EQ(met(), "") << "closed";
  Strand::finishAll();
  takeIntoUse({});
}

// Everything that a kit changes follows it, a day that is open too.
TEST(KitWindow, AnOpenDayFollowsTheKit) {
  DataHome home;
  KitFile::current().load();
  DayWindow day([] { return std::vector<DayWindow::OpenPlan>(); });
  day.setQuiet(true);
  Inventory kit;
  kit.units["mains-400"] = 2;
  KitFile::current().set(kit);
  EXPECT_EQ(day.desk()->kit().units, kit.units);
  ASSERT_TRUE(eventually([&] { return !day.working() && !KitFile::current().working(); }));
  takeIntoUse({});
}

}  // namespace
}  // namespace easel::app
