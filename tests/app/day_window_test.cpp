// The shooting day in its window, and the sheet in its own: driven as hands drive them.
#include <gtest/gtest.h>

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QDir>
#include <QEventLoop>
#include <QLabel>
#include <QListWidget>
#include <QMessageBox>
#include <QPrinter>
#include <QPushButton>
#include <QSpinBox>
#include <QTableWidget>
#include <QTreeWidget>

#include "day/clock_page.h"
#include "day/order_page.h"
#include "files/atomic_file.h"
#include "formats/day_json.h"
#include "formats/kit_json.h"
#include "formats/plan_json.h"
#include "journal/journal.h"
#include "sheet/packed_plan.h"
#include "widgets/edit_table.h"
#include "widgets/fields.h"
#include "widgets/fitted_label.h"
#include "window_support.h"

namespace easel::app {
namespace {

namespace fs = std::filesystem;
const fs::path kOpenDay = fs::path(EASEL_SOURCE_DIR) / "demo/open-day";

struct WithDay {
  test::DataHome home;
  test::TemporaryFolder folder;
  DayWindow window;
  double clock = 9 * 3600;

  explicit WithDay(bool demo = true) : window([] { return std::vector<DayWindow::OpenPlan>(); }) {
    window.setQuiet(true);
    window.desk()->setClock([this] { return clock; });
    // A copy, so that plans of looks can be written to.
    for (const auto& entry : fs::directory_iterator(kOpenDay))
      fs::copy_file(entry.path(), folder.path / entry.path().filename());
    window.show();
    if (demo) open();
  }
  void open() {
    ASSERT_TRUE(window.openFile(folder.path / "marrow-lane-open-day.day.json"));
    ASSERT_TRUE(calm());
  }
  bool calm() {
    return eventually([&] { return window.desk()->current() && !window.working(); });
  }
  const Day& day() { return window.document()->day(); }
  const DayForecast& forecast() { return *window.desk()->forecast(); }
  template <class T>
  T* part(const char* name) {
    T* t = window.findChild<T*>(name);
    EXPECT_TRUE(t) << name;
    return t;
  }
  void press(const char* name) { QTest::mouseClick(part<QPushButton>(name), Qt::LeftButton); }
  QString order() {
    QString out;
    for (const DayLook& l : day().looks) out += QString::fromStdString(l.id);
    return out;
  }
};

TEST(DayInTheWindow, PutsItselfInTheBestOrderAndUndoes) {
  WithDay s;
  EXPECT_EQ(s.order(), "12345678");
  const double before = s.forecast().planned.work;
  s.press("dayBest");
  ASSERT_TRUE(s.calm());
  EXPECT_NE(s.order(), "12345678");
  EXPECT_LT(s.forecast().planned.work, before);
  EXPECT_TRUE(s.part<QLabel>("daySum")->text().contains("No order moves less"))
      << qPrintable(s.part<QLabel>("daySum")->text());
  EXPECT_TRUE(s.window.document()->modified());
  s.window.document()->undo();
  EXPECT_EQ(s.order(), "12345678");
  s.window.document()->redo();
  EXPECT_NE(s.order(), "12345678");
}

TEST(DayInTheWindow, LooksAreMovedByKeysAndEditedInTheirFields) {
  WithDay s;
  auto* table = s.part<QTableWidget>("dayLooks");
  table->setCurrentCell(1, 0);
  s.press("dayLater");
  EXPECT_EQ(s.order(), "13245678");
  EXPECT_EQ(table->currentRow(), 2);
  auto* title = s.part<SpokenField>("dayLookTitle");
  title->selectAll();
  QTest::keyClicks(title, "The soundboard");
  QTest::keyClick(title, Qt::Key_Return);
  EXPECT_EQ(s.day().looks[2].title, "The soundboard");
  s.part<QCheckBox>("dayLookMust")->click();
  EXPECT_FALSE(s.day().looks[2].must);
  s.part<QSpinBox>("dayLookFrames")->setValue(77);
  EXPECT_EQ(s.day().looks[2].frames, 77);
  // A sitter nobody knows is refused with a sentence, and the field goes back.
  auto* sitters = s.part<SpokenField>("dayLookSitters");
  sitters->selectAll();
  QTest::keyClicks(sitters, "Nobody");
  QTest::keyClick(sitters, Qt::Key_Return);
  EXPECT_EQ(s.day().looks[2].sitters, std::vector<std::string>{"Ottoline"});
  EXPECT_TRUE(s.window.said().contains("Nobody is not among the sitters")) << qPrintable(s.window.said());
}

TEST(DayInTheWindow, PeopleAndRoomAreTypedIntoTables) {
  WithDay s;
  s.window.showPage("People");
  auto* sitters = s.part<EditTable>("daySitters");
  const auto type = [&](EditTable* t, int row, int column, const QString& text) {
    t->item(row, column)->setText(text);
    QCoreApplication::processEvents();
  };
  type(sitters, 3, 2, "11:45");
  EXPECT_EQ(s.day().sitters[3].leaves, 11 * 60 + 45);
  type(sitters, 4, 0, "Bram");
  ASSERT_EQ(s.day().sitters.size(), 5u);
  EXPECT_EQ(s.day().sitters[4].arrives, s.day().start);
  type(sitters, 4, 1, "noon");
  EXPECT_TRUE(s.window.said().contains("is not a time of day")) << qPrintable(s.window.said());
  EXPECT_EQ(sitters->item(4, 1)->text(), "09:00");
  // Whoever gets another name keeps their looks.
  type(sitters, 0, 0, "Ottoline the elder");
  EXPECT_EQ(s.day().looks[0].sitters[0], "Ottoline the elder");
  auto* sockets = s.part<EditTable>("daySockets");
  type(sockets, 3, 0, "Yard");
  ASSERT_EQ(s.day().circuits.size(), 3u);
  type(sockets, 3, 2, "10");
  EXPECT_EQ(s.day().circuits[2].amperes, 10);
  sockets->setCurrentCell(3, 0);
  QTest::keyClick(sockets, Qt::Key_Delete);
  EXPECT_EQ(s.day().circuits.size(), 2u);
  auto* things = s.part<EditTable>("dayThings");
  type(things, 3, 0, "wind");
  ASSERT_EQ(s.day().pluggedIn.size(), 4u);
  EXPECT_EQ(s.day().pluggedIn[3].appliance, "wind-machine");
  type(things, 4, 0, "rocket");
  EXPECT_EQ(s.day().pluggedIn.size(), 4u);
}

TEST(DayInTheWindow, TheClockTicksAndTheJournalLearnsThePace) {
  WithDay s;
  s.press("dayBest");
  ASSERT_TRUE(s.calm());
  s.window.showPage("Clock");
  auto* tick = s.part<QPushButton>("clockTick");
  s.clock = s.forecast().planned.turns[0].begin;
  EXPECT_TRUE(tick->text().contains("First frame"));
  QTest::mouseClick(tick, Qt::LeftButton);
  ASSERT_TRUE(s.calm());
  EXPECT_TRUE(tick->text().contains("Done"));
  EXPECT_TRUE(s.part<FittedLabel>("clockNow")->words().contains("The sign at the door"));
  s.clock += 240;
  QTest::mouseClick(tick, Qt::LeftButton);
  ASSERT_TRUE(s.calm());
  EXPECT_EQ(s.day().looks[0].done, writeTime(int(s.clock / 60)));
  // The next change takes twice as long as expected.
  const double change = s.forecast().planned.turns[0].change;
  ASSERT_EQ(s.forecast().planned.turns[0].waits, 0);
  s.clock += 2 * change;
  QTest::mouseClick(tick, Qt::LeftButton);
  ASSERT_TRUE(s.calm());
  const auto times = Journal(journalFile()).timed("set");
  ASSERT_EQ(times.size(), 1u);
  EXPECT_NEAR(times[0].took, 2 * times[0].expected, 1e-6);
  // One doubling among three votes.
  EXPECT_NEAR(s.forecast().pace, std::exp(std::log(2) / 3), 1e-6);
  EXPECT_EQ(Journal(journalFile()).timed("look").size(), 1u);
  // Undo takes a tick back.
  s.window.document()->undo();
  EXPECT_TRUE(s.day().looks[1].begun.empty());
}

TEST(DayInTheWindow, ALateDayOffersWhatToGiveUpAndTakesIt) {
  WithDay s;
  s.press("dayBest");
  ASSERT_TRUE(s.calm());
  s.window.document()->edit("late", [&](Day& d) {
    d.end = 11 * 60;
    d.looks[0].begun = "09:40";
    d.looks[0].done = "09:50";
  });
  s.clock = 9 * 3600 + 50 * 60;
  s.window.desk()->look();
  ASSERT_TRUE(s.calm());
  auto* list = s.part<QListWidget>("dayReliefs");
  ASSERT_GT(list->count(), 0);
  ASSERT_GT(s.forecast().planned.late, 0);
  const double late = s.forecast().planned.late;
  list->setCurrentRow(0);
  emit list->itemActivated(list->currentItem());
  ASSERT_TRUE(s.calm());
  EXPECT_LT(s.forecast().planned.late, late);
  s.window.document()->undo();
  ASSERT_TRUE(s.calm());
  EXPECT_NEAR(s.forecast().planned.late, late, 1e-6);
}

TEST(DayInTheWindow, ALookFollowsItsPlanAndOneThatIsGoneIsSaid) {
  WithDay s;
  const fs::path plan = s.folder.path / "2-bench.easel.json";
  Plan changed = loadPlan(plan);
  changed.lights[0].height = 1.9;
  savePlan(plan, changed);
  ASSERT_TRUE(eventually([&] { return s.day().looks[1].plan == changed; })) << "a change outside arrives by itself";
  EXPECT_FALSE(s.window.document()->modified()) << "the day itself is as it was";
  fs::remove(plan);
  ASSERT_TRUE(eventually([&] { return s.window.said().contains("is gone"); }));
  EXPECT_EQ(s.day().looks[1].plan, changed);
  s.window.desk()->cutLoose(1);
  EXPECT_TRUE(s.day().looks[1].file.empty());
}

// The file is the truth for every state of the day: undo brings back what the day says, not an old copy of the plan.
TEST(DayInTheWindow, UndoLeavesPlansAsTheirFilesAre) {
  WithDay s;
  const fs::path plan = s.folder.path / "2-bench.easel.json";
  s.window.document()->edit("title", [](Day& d) { d.title = "Another"; });
  s.window.desk()->remove(1);
  Plan changed = loadPlan(plan);
  changed.lights[0].height = 1.9;
  savePlan(plan, changed);
  // The look is out of the day: nothing is said, but its file is still followed.
  ASSERT_TRUE(eventually([&] { return s.window.document()->filePlan("2-bench.easel.json") == changed; }));
  s.window.document()->undo();
  ASSERT_EQ(s.day().looks.size(), 8u);
  EXPECT_EQ(s.day().looks[1].plan, changed);
  s.window.document()->undo();
  EXPECT_EQ(s.day().looks[1].plan, changed);
  EXPECT_FALSE(s.window.document()->modified()) << "the day itself is as it was saved";
  s.window.document()->redo();
  EXPECT_TRUE(s.window.document()->modified());
}

// What a day's file could not hold is refused when it is typed, not when it is saved.
TEST(DayInTheWindow, ADayHoldsNoMoreThanItsFile) {
  WithDay s;
  QString said;
  QObject::connect(s.window.document(), &DayDocument::said, [&](const QString& why, bool problem) {
    EXPECT_TRUE(problem);
    said = why;
  });
  const Day before = s.day();
  const auto refused = [&](const char* what, const std::function<void(Day&)>& change) {
    said.clear();
    s.window.document()->edit("too much", change);
    EXPECT_EQ(s.day(), before) << what;
    EXPECT_TRUE(said.contains(what)) << qPrintable(said);
  };
  refused("title", [](Day& d) { d.title = std::string(201, 'x'); });
  refused("breaks", [](Day& d) { d.breaks.resize(21, {600, 601, "tea"}); });
  refused("circuits", [](Day& d) { d.circuits.resize(21, d.circuits.at(0)); });
  s.window.document()->edit("as much as it can hold", [](Day& d) {
    d.title = std::string(200, 'x');
    d.breaks.resize(20, {600, 601, "tea"});
    d.circuits.resize(20, d.circuits.at(0));
  });
  EXPECT_EQ(s.day().title.size(), 200u) << qPrintable(said);
  const fs::path file = s.folder.path / "full.day.json";
  saveNow(s.window.document(), file);
  EXPECT_EQ(loadDay(file).day.circuits.size(), 20u);
}

TEST(DayInTheWindow, ALookThatIsGivenUpIsNamedByNoOther) {
  WithDay s;
  s.window.document()->edit("after", [](Day& d) { d.looks[3].after = d.looks[1].id; });
  Relief drop;
  drop.kind = Relief::Kind::Drop;
  drop.looks = {1};
  ASSERT_TRUE(s.calm());
  s.window.desk()->take(drop);
  for (const DayLook& l : s.day().looks) EXPECT_TRUE(l.after.empty()) << l.id;
}

TEST(DayInTheWindow, PlansComeFromFilesTheShelfAndTheJournal) {
  WithDay s(false);
  s.window.addFile(s.folder.path / "6-bow.easel.json");
  ASSERT_TRUE(s.calm());
  ASSERT_EQ(s.day().looks.size(), 1u);
  s.window.addFile(s.folder.path / "nothing.easel.json");
  ASSERT_TRUE(s.calm());
  EXPECT_EQ(s.day().looks.size(), 1u);
  EXPECT_FALSE(s.window.said().isEmpty());
  s.window.addFromShelf("half-dark");
  ASSERT_TRUE(eventually([&] { return s.day().looks.size() == 2; }));
  EXPECT_EQ(s.day().looks[1].plan.sitter.id, s.day().looks[0].plan.sitter.id);
  std::int64_t session = 0;
  {
    Journal j(journalFile());
    session = j.begin("Earlier", "hall", writePlanText(loadPlan(s.folder.path / "1-door.easel.json")));
  }
  ASSERT_TRUE(s.calm());
  s.window.addFromJournal(session);
  ASSERT_TRUE(eventually([&] { return s.day().looks.size() == 3; }));
  EXPECT_EQ(s.day().looks[2].title, "Earlier");
  ASSERT_TRUE(s.calm());
  // Saved in another folder, a look's file is still found.
  const fs::path other = s.folder.path / "elsewhere";
  fs::create_directory(other);
  saveNow(s.window.document(), other / "x.day.json");
  EXPECT_EQ(s.day().looks[0].file, "../6-bow.easel.json");
  EXPECT_TRUE(loadDay(other / "x.day.json").problems.empty());
}

TEST(DayInTheWindow, PackingIsTickedAndSaysWhatCouldStandIn) {
  WithDay s;
  Inventory kit;
  kit.units["battery-600"] = 4;
  kit.units["mains-400"] = 1;
  kit.modifiers["octa-90"] = 2;
  kit.modifiers["softbox-90x120"] = 1;
  s.window.desk()->setKit(kit);
  s.window.showPage("Packing");
  ASSERT_TRUE(s.calm());
  auto* tree = s.part<QTreeWidget>("packingList");
  QTreeWidgetItem* head = nullptr;
  for (QTreeWidgetItemIterator i(tree); *i; ++i)
    if ((*i)->data(0, Qt::UserRole).toString() == "unit:mains-400") head = *i;
  ASSERT_TRUE(head);
  EXPECT_TRUE(head->text(2).contains("missing"));
  head->setCheckState(3, Qt::Checked);
  EXPECT_TRUE(s.day().packed.at("unit:mains-400").out);
  EXPECT_FALSE(s.day().packed.at("unit:mains-400").home);
  ASSERT_TRUE(s.calm());
  for (QTreeWidgetItemIterator i(tree); *i; ++i)
    if ((*i)->data(0, Qt::UserRole).toString() == "unit:mains-400") tree->setCurrentItem(*i);
  auto* list = s.part<QListWidget>("packingStandIns");
  ASSERT_GT(list->count(), 0);
  EXPECT_TRUE(list->item(0)->text().contains("Battery flash 600 Ws"));
  ASSERT_TRUE(s.calm()) << "both pictures are traced";
  const Plan before = s.day().looks[1].plan;
  s.press("packingTake");
  bool changed = false;
  for (const DayLook& l : s.day().looks)
    for (const Light& light : l.plan.lights) changed |= light.unit == "battery-600";
  EXPECT_TRUE(changed);
}

TEST(DayInTheWindow, LoadShowsEveryLookOfTheDay) {
  WithDay s;
  s.window.showPage("Load");
  auto* look = s.part<QComboBox>("loadLook");
  ASSERT_EQ(look->count(), 8);
  for (int i = 0; i < look->count(); ++i) {
    look->setCurrentIndex(i);
    emit look->activated(i);
    EXPECT_GE(s.part<QTableWidget>("loadStands")->rowCount(), int(s.day().looks[size_t(i)].plan.lights.size()));
    EXPECT_EQ(s.part<QTableWidget>("loadCircuits")->rowCount(), 2);
    EXPECT_GT(s.part<QListWidget>("loadCautions")->count(), 0);
  }
  EXPECT_TRUE(s.part<QLabel>("loadCaution")->text().contains("licensed electricians"));
}

// A day that is not saved is not thrown away because another one is opened from the plan's window.
TEST(DayInTheWindow, AnotherDayIsOpenedOnlyWhenThisOneMayGo) {
  WithDay s;
  s.window.setQuiet(false);
  s.window.document()->edit("title", [](Day& d) { d.title = "Changed"; });
  QTimer asked;
  int answers = 0;
  QObject::connect(&asked, &QTimer::timeout, [&] {
    for (QWidget* w : QApplication::topLevelWidgets())
      if (auto* box = qobject_cast<QMessageBox*>(w); box && box->isVisible()) {
        ++answers;
        box->button(QMessageBox::Cancel)->click();
      }
  });
  asked.start(5);
  fs::copy_file(s.folder.path / "marrow-lane-open-day.day.json", s.folder.path / "other.day.json");
  s.window.openWanted(s.folder.path / "other.day.json");
  ASSERT_TRUE(s.calm());
  EXPECT_EQ(answers, 1);
  EXPECT_EQ(s.day().title, "Changed");
  s.window.setQuiet(true);
  s.window.openWanted(s.folder.path / "other.day.json");
  ASSERT_TRUE(s.calm());
  EXPECT_NE(s.day().title, "Changed");
  ASSERT_TRUE(s.calm());
}

TEST(DayInTheWindow, NothingIsCutAtTheSizesThatPeopleHave) {
  WithDay s;
  for (const QSize size : {QSize(1180, 760), QSize(1600, 1000)}) {
    s.window.resize(size);
    cramped().clear();
    for (const char* page : {"Order", "People", "Clock", "Packing", "Load"}) {
      s.window.showPage(page);
      QCoreApplication::processEvents();
      s.window.grab();
      for (FittedLabel* l : s.window.findChildren<FittedLabel*>())
        if (l->isVisible()) {
          EXPECT_TRUE(l->whole()) << page << ": " << qPrintable(l->words());
        }
    }
    EXPECT_TRUE(cramped().isEmpty()) << qPrintable(cramped().join("; "));
  }
}

struct WithSheet : Shown {
  SheetDialog* sheet = nullptr;
  WithSheet() {
    window.side()->openSheet();
    sheet = window.side()->sheet();
    EXPECT_TRUE(calm());
  }
  bool calm() {
    return eventually([&] { return !sheet->working() && sheet->pageCount() > 0; });
  }
};

TEST(SheetInTheWindow, IsLookedAtExportedAndPrinted) {
  WithSheet s;
  EXPECT_GE(s.sheet->pageCount(), 2);
  const test::TemporaryFolder folder;
  const auto pdf = s.sheet->exportTo(folder.path / "a.pdf");
  ASSERT_EQ(pdf.size(), 1u);
  EXPECT_EQ(openPlan(pdf[0]), s.window.document()->plan());
  EXPECT_EQ(s.sheet->exportTo(folder.path / "a.png").size(), size_t(s.sheet->pageCount()));
  QPrinter printer;
  printer.setOutputFormat(QPrinter::PdfFormat);
  printer.setOutputFileName(QString::fromStdString((folder.path / "printed.pdf").string()));
  s.sheet->printTo(printer);
  EXPECT_GT(fs::file_size(folder.path / "printed.pdf"), 20'000u);
  // Another paper is laid out anew, without tracing anything again.
  auto* papers = s.sheet->findChild<QComboBox*>("sheetPaper");
  papers->setCurrentIndex(papers->findData("phone"));
  emit papers->activated(papers->currentIndex());
  ASSERT_TRUE(s.calm());
  EXPECT_GT(s.sheet->pageCount(), 3);
  s.sheet->choose("stand");
  ASSERT_TRUE(s.calm());
  papers->setCurrentIndex(papers->findData("a4"));
  emit papers->activated(papers->currentIndex());
  ASSERT_TRUE(s.calm());
}

TEST(SheetInTheWindow, ASeriesAndWhatWasKeptGoOntoPaperToo) {
  Shown s;
  QTest::keyClick(&s.window, Qt::Key_K);
  ASSERT_FALSE(s.window.bench().easel->before().isNull());
  s.window.side()->openSheet();
  auto* sheet = s.window.side()->sheet();
  auto* kinds = sheet->findChild<QComboBox*>("sheetKind");
  EXPECT_GE(kinds->findData("compared"), 0);
  EXPECT_LT(kinds->findData("series"), 0) << "none was made";
  sheet->choose("compared");
  ASSERT_TRUE(eventually([&] { return !sheet->working() && sheet->pageCount() == 1; }));
}

TEST(SheetInTheWindow, APlanComesBackFromPdfAndFromItsCode) {
  WithSheet s;
  const test::TemporaryFolder folder;
  const Plan plan = s.window.document()->plan();
  s.sheet->exportTo(folder.path / "a.pdf");
  ASSERT_TRUE(s.window.files()->openFile(folder.path / "a.pdf"));
  EXPECT_EQ(s.window.document()->plan(), plan);
  EXPECT_TRUE(s.window.document()->path().empty()) << "saving must not write over the sheet";
  EXPECT_TRUE(s.window.document()->modified());
  s.window.document()->startNew();
  QApplication::clipboard()->setText(QString::fromStdString(packedPlan(plan)));
  s.window.files()->pastePlan();
  EXPECT_EQ(s.window.document()->plan().title, plan.title);
  QApplication::clipboard()->setText("JEP1:nonsense");
  s.window.files()->pastePlan();
  EXPECT_TRUE(s.window.notice().contains("packed plan")) << qPrintable(s.window.notice());
}

}  // namespace
}  // namespace easel::app
