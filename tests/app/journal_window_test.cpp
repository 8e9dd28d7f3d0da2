// The journal's window, with the sessions of the demo in it.
#include <gtest/gtest.h>

#include <QCalendarWidget>
#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QTableWidget>
#include <cmath>

#include "files/atomic_file.h"
#include "formats/kit_json.h"
#include "formats/plan_json.h"
#include "run_support.h"

namespace easel::app {
namespace {

struct WithJournal : Shown {
  JournalDialog* dialog = nullptr;
  WithJournal() : Shown(true) {
    std::filesystem::remove_all(journalFile().parent_path());
    Journal j(journalFile());
    for (const auto& entry : std::filesystem::directory_iterator(std::string(EASEL_SOURCE_DIR) + "/demo/sessions"))
      j.import(readWholeFile(entry.path()));
    window.side()->openJournal();
    dialog = window.side()->journal();
    EXPECT_TRUE(calm());
  }
  bool calm() {
    return eventually([&] { return !dialog->working(); });
  }
  template <class T>
  T* part(const char* name) {
    T* t = dialog->findChild<T*>(name);
    EXPECT_TRUE(t) << name;
    return t;
  }
};

TEST(TheJournal, ListsSessionsAndFindsThemByWordAndDay) {
  WithJournal s;
  auto* list = s.part<QListWidget>("journalSessions");
  EXPECT_EQ(list->count(), 4);
  QTest::keyClicks(s.part<QLineEdit>("journalSearch"), "leaflet");
  ASSERT_TRUE(s.calm());
  EXPECT_EQ(list->count(), 1) << "by a word of its notes";
  s.part<QLineEdit>("journalSearch")->clear();
  ASSERT_TRUE(s.calm());
  auto* calendar = s.part<QCalendarWidget>("journalCalendar");
  EXPECT_TRUE(calendar->dateTextFormat(QDate(2026, 11, 13)).fontUnderline());
  EXPECT_FALSE(calendar->dateTextFormat(QDate(2026, 11, 14)).fontUnderline());
  calendar->setSelectedDate(QDate(2026, 11, 13));
  emit calendar->clicked(QDate(2026, 11, 13));
  ASSERT_TRUE(s.calm());
  EXPECT_EQ(list->count(), 1);
  const auto* course = s.dialog->findChild<CourseView*>();
  EXPECT_TRUE(course->accessibleDescription().contains("all off: nothing"))
      << qPrintable(course->accessibleDescription());
}

TEST(TheJournal, ASessionIsRepeatedWithThePowersAsTheyEnded) {
  WithJournal s;
  auto* list = s.part<QListWidget>("journalSessions");
  list->setCurrentRow(0);
  ASSERT_TRUE(s.calm());
  const Plan ended = readPlanText(Journal(journalFile()).sessions().front().plan);
  const Plan open = s.window.document()->plan();
  QTest::mouseClick(s.part<QPushButton>("journalRepeat"), Qt::LeftButton);
  EXPECT_EQ(s.window.document()->plan(), open) << "what stands under a file's name stays what it is";
  ASSERT_EQ(others(&s.window).size(), 1u);
  MainWindow* repeated = others(&s.window)[0];
  EXPECT_EQ(repeated->document()->plan().lights, ended.lights);
  EXPECT_TRUE(repeated->document()->path().empty());
  EXPECT_TRUE(repeated->document()->modified());
  EXPECT_TRUE(repeated->findChild<RunCard*>()->isVisible());
  closeAll(&s.window);
}

TEST(TheJournal, KeepsNotesAndStarsAndDeletesForGood) {
  WithJournal s;
  s.part<QPlainTextEdit>("journalNotes")->setPlainText("glue pot");
  s.part<QComboBox>("journalStars")->setCurrentIndex(2);
  QTest::mouseClick(s.part<QPushButton>("journalKeep"), Qt::LeftButton);
  ASSERT_TRUE(s.calm());
  const Journal j(journalFile());
  EXPECT_EQ(j.sessions().front().notes, "glue pot");
  EXPECT_EQ(j.sessions().front().stars, 2);
  QTest::mouseClick(s.part<QPushButton>("journalDelete"), Qt::LeftButton);
  auto* sure = s.dialog->findChild<QMessageBox*>();
  ASSERT_TRUE(sure);
  for (QAbstractButton* b : sure->buttons())
    if (sure->buttonRole(b) == QMessageBox::DestructiveRole) QTest::mouseClick(b, Qt::LeftButton);
  ASSERT_TRUE(s.calm());
  EXPECT_EQ(j.sessions().size(), 3u);
  EXPECT_EQ(s.part<QListWidget>("journalSessions")->count(), 3);
}

TEST(TheJournal, NotesAreKeptWhileTheyAreTyped) {
  WithJournal s;
  auto* list = s.part<QListWidget>("journalSessions");
  list->setCurrentRow(0);
  ASSERT_TRUE(s.calm());
  QTest::keyClicks(s.part<QPlainTextEdit>("journalNotes"), "spruce dust");
  ASSERT_TRUE(eventually([] {
    return Journal(journalFile()).sessions().front().notes.find("spruce dust") != std::string::npos;
  })) << "nobody has left the field";
}

TEST(TheJournal, WhatWasLearnedGoesIntoTheKitAndOutAgain) {
  WithJournal s;
  ASSERT_TRUE(s.settled());
  const double before = s.window.renderLink()->latest()->answers->lights[0].aperture;
  EXPECT_NEAR(s.window.renderLink()->latest()->answers->lights[0].within, 1.0 / 3, 1e-9);
  QTest::mouseClick(s.part<QPushButton>("journalTake"), Qt::LeftButton);
  const GearCorrection c = correctionOf(s.key().unit, s.key().modifier);
  EXPECT_NE(c.stops, 0);
  ASSERT_TRUE(
      eventually([&] { return s.settled() && s.window.renderLink()->latest()->answers->lights[0].within < 0.3; }));
  const LightAnswer& now = s.window.renderLink()->latest()->answers->lights[0];
  EXPECT_NEAR(2 * std::log2(now.aperture / before), c.stops, 0.02) << "the prediction has moved by what was learned";
  EXPECT_EQ(loadKit(kitFile()).studio, "Marrow Lane, bench room") << "and stays so tomorrow";
  s.window.setStage(2);
  bool said = false;
  for (const auto* label : s.window.findChildren<QLabel*>("readAloud"))
    said |= label->text().contains("was learned in");
  EXPECT_TRUE(said) << "and Meter says so";
  QTest::mouseClick(s.part<QPushButton>("journalDrop"), Qt::LeftButton);
  EXPECT_EQ(correctionOf(s.key().unit, s.key().modifier).stops, 0);
  ASSERT_TRUE(
      eventually([&] { return s.settled() && s.window.renderLink()->latest()->answers->lights[0].within > 0.3; }));
  EXPECT_NEAR(s.window.renderLink()->latest()->answers->lights[0].aperture, before, 1e-6);
}

TEST(TheJournal, TellsWhatWasLearnedAndWhatWouldTeachMost) {
  WithJournal s;
  auto* table = s.part<QTableWidget>("journalLearned");
  ASSERT_GT(table->rowCount(), 5);
  bool named = false;
  for (int row = 0; row < table->rowCount(); ++row)
    named |= table->item(row, 1)->text().contains("Octa", Qt::CaseInsensitive);
  EXPECT_TRUE(named) << "by the catalogue's name";
  EXPECT_TRUE(s.part<QLabel>("journalLearnedWords")->text().contains("would teach most"));
}

TEST(TheJournal, NotesThatWereTypedStayWhateverIsLookedFor) {
  WithJournal s;
  auto* notes = s.part<QPlainTextEdit>("journalNotes");
  notes->clear();
  QTest::keyClicks(notes, "glue pot");
  QTest::keyClicks(s.part<QLineEdit>("journalSearch"), "master");
  ASSERT_TRUE(s.calm());
  EXPECT_EQ(notes->toPlainText(), "glue pot");
  s.part<QListWidget>("journalSessions")->setCurrentRow(1);
  ASSERT_TRUE(s.calm());
  EXPECT_NE(notes->toPlainText(), "glue pot");
  EXPECT_EQ(Journal(journalFile()).sessions().front().notes, "glue pot") << "kept before another took their place";
  EXPECT_EQ(s.part<QComboBox>("journalStudio")->currentText(), "Marrow Lane, bench room")
      << "a search chooses no studio";
}

}  // namespace
}  // namespace easel::app
