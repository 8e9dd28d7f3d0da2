// Keys: standard ones mean the standard thing, single ones are the instruments' own, and none is taken from a list or a
// field (docs/keys.md).
#include <gtest/gtest.h>

#include <QAbstractItemView>
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSignalSpy>
#include <set>

#include "day/day_window.h"
#include "metering/run_card.h"
#include "widgets/theme.h"
#include "widgets/watched_application.h"
#include "widgets/within_screen.h"
#include "window_support.h"

namespace easel::app {
namespace {

QList<QAction*> actionsOf(QMenuBar* bar) {
  QList<QAction*> out;
  std::function<void(const QList<QAction*>&)> take = [&](const QList<QAction*>& all) {
    for (QAction* a : all) {
      if (a->menu())
        take(a->menu()->actions());
      else
        out << a;
    }
  };
  take(bar->actions());
  return out;
}
bool isSingle(const QKeySequence& k) {
  if (k.count() != 1) return false;
  const QKeyCombination key = k[0];
  return !(key.keyboardModifiers() & ~Qt::ShiftModifier) && key.key() > Qt::Key_Space && key.key() < Qt::Key_Escape;
}

TEST(Keys, StandardKeysMeanTheStandardThing) {
  Shown s(false);
  DayWindow day([] { return std::vector<DayWindow::OpenPlan>(); });
  day.setQuiet(true);
  const std::pair<QKeySequence, const char*> standard[] = {
      {QKeySequence::New, "New"},          {QKeySequence::Open, "Open"},
      {QKeySequence::Save, "Save"},        {QKeySequence::Print, "print"},
      {QKeySequence::Close, "Close"},      {QKeySequence::Undo, "Undo"},
      {QKeySequence::Redo, "Redo"},        {QKeySequence(Qt::CTRL | Qt::Key_Y), "Redo"},
      {QKeySequence::HelpContents, "Keys"}};
  for (QMainWindow* w : {static_cast<QMainWindow*>(&s.window), static_cast<QMainWindow*>(&day)})
    for (const auto& [key, words] : standard) {
      QString is;
      for (const QAction* a : actionsOf(w->menuBar()))
        if (a->shortcuts().contains(key)) is = a->text().remove('&');
      EXPECT_TRUE(is.contains(words)) << w->objectName().toStdString() << " " << key.toString().toStdString() << ": "
                                      << is.toStdString();
    }
}

TEST(Keys, NoneIsThereTwiceAndNoneIsTakenFromListsAndFields) {
  Shown s(false);
  DayWindow day([] { return std::vector<DayWindow::OpenPlan>(); });
  day.setQuiet(true);
  // What lists, tables, fields and the focus go by, in every place.
  std::set<QString> others;
  for (const QKeyCombination key :
       {Qt::ALT | Qt::Key_Down, Qt::ALT | Qt::Key_Up, Qt::CTRL | Qt::Key_A, Qt::CTRL | Qt::Key_C, Qt::CTRL | Qt::Key_X,
        Qt::CTRL | Qt::Key_V, Qt::CTRL | Qt::Key_Left, Qt::CTRL | Qt::Key_Right, Qt::CTRL | Qt::Key_Home,
        Qt::CTRL | Qt::Key_End, Qt::CTRL | Qt::Key_Tab, Qt::SHIFT | Qt::Key_Tab, Qt::SHIFT | Qt::Key_F10})
    others.insert(QKeySequence(key).toString());
  for (const int key :
       {Qt::Key_Tab, Qt::Key_Space, Qt::Key_Return, Qt::Key_Enter, Qt::Key_Up, Qt::Key_Down, Qt::Key_Left,
        Qt::Key_Right, Qt::Key_Home, Qt::Key_End, Qt::Key_PageUp, Qt::Key_PageDown, Qt::Key_Backspace})
    others.insert(QKeySequence(key).toString());
  for (QMenuBar* bar : {s.window.menuBar(), day.menuBar()}) {
    std::set<QString> seen;
    for (const QAction* a : actionsOf(bar))
      for (const QKeySequence& key : a->shortcuts()) {
        EXPECT_TRUE(seen.insert(key.toString()).second) << key.toString().toStdString();
        EXPECT_FALSE(others.count(key.toString())) << key.toString().toStdString();
        EXPECT_TRUE(a->isVisible()) << "what is hidden has no key: " << key.toString().toStdString();
      }
  }
}

// In every place that can have the keys: single ones do their work on instruments, and are letters everywhere else.
TEST(Keys, SingleKeysBelongToTheInstruments) {
  Shown s(false);
  int did = 0;
  QList<QAction*> single;
  for (QAction* a : actionsOf(s.window.menuBar()))
    if (isSingle(a->shortcut())) {
      single << a;
      QObject::connect(a, &QAction::triggered, [&] { ++did; });
    }
  ASSERT_GE(single.size(), 15);
  const auto pressAll = [&](QWidget* at) {
    did = 0;
    for (const QAction* a : single)
      if (at->isVisible()) QTest::keyClick(at, Qt::Key(a->shortcut()[0].key()));
    return did;
  };
  const QList<QWidget*> instruments{s.window.bench().easel,
                                    s.window.bench().ledge,
                                    s.window.bench().dial,
                                    s.window.bench().rail,
                                    s.window.bench().ladder,
                                    s.window.findChild<Headline*>(),
                                    s.window.findChild<FiguresView*>()};
  std::set<std::string> kinds;
  onEveryPage(s.window, [&](const QString& where) {
    for (QWidget* w : s.window.findChildren<QWidget*>()) {
      if (!w->isVisibleTo(&s.window) || !w->isEnabled() || !(w->focusPolicy() & Qt::TabFocus)) continue;
      const bool instrument = std::any_of(instruments.begin(), instruments.end(),
                                          [&](const QWidget* i) { return i == w || i->isAncestorOf(w); });
      if (instrument || !kinds.insert(w->metaObject()->className()).second) continue;
      w->setFocus();
      if (!w->hasFocus()) continue;
      EXPECT_EQ(pressAll(w), 0) << qPrintable(where) << w->metaObject()->className() << " "
                                << qPrintable(w->objectName());
      for (QWidget* open = QApplication::activePopupWidget(); open; open = QApplication::activePopupWidget())
        open->hide();
    }
  });
  EXPECT_GE(kinds.size(), 6u) << "lists, tables, combos, fields, buttons, tabs";
  s.window.setStage(1);
  s.window.bench().easel->setFocus();
  EXPECT_GE(pressAll(s.window.bench().easel), int(single.size()) - 2);
  // ... and can be turned off altogether.
  QAction* off = nullptr;
  for (QAction* a : actionsOf(s.window.menuBar()))
    if (a->text().contains("ingle keys")) off = a;
  ASSERT_TRUE(off && off->isChecked());
  off->trigger();
  s.window.bench().easel->setFocus();
  EXPECT_EQ(pressAll(s.window.bench().easel), 0);
  off->trigger();
}

TEST(Keys, EveryFigureSwitchesItsLight) {
  Shown s(false);
  for (int i = 0; i < 4; ++i) QTest::keyClick(&s.window, Qt::Key_L, Qt::ControlModifier);
  ASSERT_EQ(s.window.document()->plan().lights.size(), 5u);
  s.window.bench().easel->setFocus();
  for (int i = 0; i < 5; ++i) {
    QTest::keyClick(s.window.bench().easel, Qt::Key(Qt::Key_1 + i));
    EXPECT_FALSE(s.window.document()->plan().lights[size_t(i)].on) << i + 1;
  }
}

TEST(Keys, AListOpensByItsOwnKey) {
  Shown s(false);
  s.window.showStage("Build");
  auto* unit = field<QComboBox>(s.window, "unit");
  unit->setFocus();
  QTest::keyClick(unit, Qt::Key_Down, Qt::AltModifier);
  EXPECT_TRUE(unit->view()->isVisible());
  unit->hidePopup();
}

TEST(Keys, EnterBeginsWhereTheStageOfTheRunIsCalled) {
  Shown s;
  field<QLineEdit>(s.window, "runStudio")->setText("Marrow Lane");
  QTest::keyClick(&s.window, Qt::Key_F3);
  ASSERT_TRUE(QApplication::focusWidget());
  EXPECT_EQ(QApplication::focusWidget()->objectName(), "runBegin");
  QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
  auto* run = s.window.findChild<MeteringRun*>();
  ASSERT_TRUE(eventually([&] { return run->on(); }));
  run->end();
  ASSERT_TRUE(eventually([&] { return !run->working(); }));
}

// What a slot throws is a sentence, and the program goes on.
TEST(Slots, WhatIsThrownIsSaidAndTheProgramGoesOn) {
  Shown s(false);
  QTimer::singleShot(0, &s.window, [] { throw std::runtime_error("the reel came off"); });
  ASSERT_TRUE(eventually([&] { return s.window.notice().contains("the reel came off"); }));
  QMetaObject::invokeMethod(
      &s.window, [] { throw 7; }, Qt::QueuedConnection);
  ASSERT_TRUE(eventually([&] { return s.window.notice().contains("an error without a name"); }));
  QTest::keyClick(&s.window, Qt::Key_L, Qt::ControlModifier);
  EXPECT_EQ(s.window.document()->plan().lights.size(), 2u);
}

TEST(Notices, GoWithTheirCause) {
  Shown s(false);
  Light l = s.key();
  l.height = 400;
  s.window.document()->perform(SetLight{l}, "too high");
  ASSERT_FALSE(s.window.notice().isEmpty());
  l.height = 2;
  s.window.document()->perform(SetLight{l}, "as high as it goes");
  EXPECT_TRUE(s.window.notice().isEmpty()) << qPrintable(s.window.notice());
}

TEST(Screens, AWindowOpensWithinWhatThereIs) {
  EXPECT_EQ(withinRoom({1280, 800}, {2560, 1440}), QSize(1280, 800));
  const QSize half = withinRoom({1280, 800}, {960, 516});  // 1920x1080 at 200 %, with a panel
  EXPECT_LE(half.width(), 960);
  EXPECT_LE(half.height(), 516);
  Shown s(false);
  s.window.resize(960, 516);
  EXPECT_LE(s.window.width(), 960) << "nothing in it wants more";
  EXPECT_LE(s.window.height(), 516);
  DayWindow day([] { return std::vector<DayWindow::OpenPlan>(); });
  day.setQuiet(true);
  const double before = Theme::current().scale;
  Theme::apply(*qApp, false, 1.6);  // 16 points
  day.show();
  day.resize(960, 516);
  EXPECT_LE(day.width(), 960);
  EXPECT_LE(day.height(), 516);
  Theme::apply(*qApp, false, before);
}

TEST(Windows, AClosedWindowsFileCanBeOpenedAgain) {
  test::TemporaryFolder f;
  const auto file = f.path / "a.easel.json";
  savePlan(file, test::demoPlan());
  MainWindow* first = newPlanWindow();
  first->setQuiet(true);
  first->files()->openFile(file);
  Shown s(false);
  first->close();
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  s.window.files()->openWanted(file);
  ASSERT_TRUE(eventually([&] { return !s.window.files()->busy(); }));
  EXPECT_EQ(s.window.document()->path(), file);
}

TEST(Windows, ADayOpensItsPlanWhenNoPlansWindowIsLeft) {
  MainWindow* first = newPlanWindow();
  first->setQuiet(true);
  first->openDay();
  DayWindow* day = dayWindow();
  ASSERT_TRUE(day);
  day->setQuiet(true);
  first->close();
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  ASSERT_TRUE(others(nullptr).empty());
  emit day->planWanted(test::demoPlan(), {});
  ASSERT_EQ(others(nullptr).size(), 1u);
  EXPECT_EQ(others(nullptr)[0]->document()->plan(), test::demoPlan());
  ASSERT_TRUE(eventually([&] { return !day->working(); }));
  day->close();
  closeAll(nullptr);
}

}  // namespace
}  // namespace easel::app
