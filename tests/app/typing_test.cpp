// What is typed stays; the wheel turns what has the focus; the clock goes round.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QScrollArea>
#include <QWheelEvent>

#include "plan/placement.h"
#include "widgets/fields.h"
#include "widgets/wording.h"
#include "window_support.h"

namespace easel::app {
namespace {

void begin(QWidget* f, const QString& text) {
  f->setFocus();
  QTest::keyClick(f, Qt::Key_A, Qt::ControlModifier);
  QTest::keyClicks(f, text);
}
QString noteOf(MainWindow& w) {
  for (QLabel* l : w.findChildren<QLabel*>("fieldNote"))
    if (l->isVisibleTo(&w)) return l->text();
  return {};
}
void wheel(QWidget* w, QPoint turned) {
  QWheelEvent e(QPointF(5, 5), w->mapToGlobal(QPointF(5, 5)), {}, turned, Qt::NoButton, Qt::NoModifier,
                Qt::NoScrollPhase, false);
  QCoreApplication::sendEvent(w, &e);
}
// Pictures come and refresh everything that shows the plan.
void refresh(Shown& s) {
  emit s.window.renderLink()->arrived();
  emit s.window.document()->changed();
}

TEST(Typing, PicturesThatArriveLeaveTheTextAlone) {
  Shown s;
  for (const char* name : {"distance", "power", "askFor", "hour", "pan"}) {
    auto* f = s.window.findChild<QWidget*>(name);
    ASSERT_TRUE(f) << name;
    auto* line = qobject_cast<QLineEdit*>(f) ? qobject_cast<QLineEdit*>(f) : f->findChild<QLineEdit*>();
    begin(f, "3.7");
    refresh(s);
    EXPECT_EQ(line->text(), "3.7") << name;
    QTest::keyClick(f, Qt::Key_Escape);
    EXPECT_NE(line->text(), "3.7") << name << ": Escape brings the old text back";
  }
  EXPECT_FALSE(s.window.document()->history().canUndo()) << "nothing of it was taken";
}

TEST(Typing, EnterAfterAnyWaitTakesIt) {
  Shown s;
  auto* distance = field<LengthField>(s.window, "distance");
  begin(distance, "3,7");
  for (int i = 0; i < 5; ++i) refresh(s);
  QTest::keyClick(distance, Qt::Key_Return);
  EXPECT_NEAR(s.key().distance, 3.7, 1e-9);
  EXPECT_EQ(distance->text(), "3.70 m");
}

TEST(Typing, AChangeUnderneathIsSaidBesideAndEscapeTakesIt) {
  Shown s;
  auto* distance = field<LengthField>(s.window, "distance");
  begin(distance, "3.7");
  EXPECT_EQ(noteOf(s.window), "");
  Light l = s.key();
  l.distance = 2;
  s.window.document()->perform(SetLight{l}, "By another hand");
  EXPECT_EQ(distance->text(), "3.7");
  EXPECT_TRUE(noteOf(s.window).contains("2.00 m")) << qPrintable(noteOf(s.window));
  QTest::keyClick(distance, Qt::Key_Escape);
  EXPECT_EQ(distance->text(), "2.00 m");
  EXPECT_EQ(noteOf(s.window), "");
  auto* power = field<SpokenField>(s.window, "power");
  begin(power, "1/2");
  l.power = -5;
  s.window.document()->perform(SetLight{l}, "By another hand");
  EXPECT_EQ(power->text(), "1/2");
  EXPECT_TRUE(noteOf(s.window).contains("1/32"));
  QTest::keyClick(power, Qt::Key_Return);
  EXPECT_EQ(s.key().power, -1) << "what was typed counts";
  EXPECT_EQ(noteOf(s.window), "");
}

TEST(Typing, TheOldValueTypedAgainOverANewOneIsMeant) {
  Shown s;
  auto* distance = field<LengthField>(s.window, "distance");
  const double old = s.key().distance;
  begin(distance, lengthText(old));
  QTest::keyClick(distance, Qt::Key_Backspace);
  Light l = s.key();
  l.distance = 2;
  s.window.document()->perform(SetLight{l}, "By another hand");
  QTest::keyClicks(distance, "m");
  QTest::keyClick(distance, Qt::Key_Return);
  EXPECT_NEAR(s.key().distance, old, 0.005);
}

TEST(Typing, UndoTakesBackTypingFirstAndThenThePlan) {
  Shown s;
  s.window.activateWindow();
  Light l = s.key();
  const double before = l.distance;
  l.distance = 2;
  s.window.document()->perform(SetLight{l}, "Move");
  auto* distance = field<LengthField>(s.window, "distance");
  begin(distance, "3.7");
  for (int i = 0; i < 6 && distance->typing(); ++i) QTest::keyClick(distance, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(distance->text(), "2.00 m") << "the typing has gone";
  EXPECT_EQ(s.key().distance, 2) << "the plan has not";
  QTest::keyClick(distance, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(s.key().distance, before) << "now the plan's step";
}

TEST(Typing, WhatCannotBeTakenIsRefusedWithASentence) {
  Shown s;
  auto* distance = field<LengthField>(s.window, "distance");
  const double before = s.key().distance;
  for (const auto& [text, words] : {std::pair{"72", "50.00 m"}, {"far away", "far away"}, {"1.2.3", "1.2.3"}}) {
    begin(distance, text);
    QTest::keyClick(distance, Qt::Key_Return);
    EXPECT_EQ(s.key().distance, before);
    EXPECT_TRUE(s.window.notice().contains(words)) << text << ": " << qPrintable(s.window.notice());
    EXPECT_EQ(distance->text(), lengthText(before));
  }
}

TEST(Typing, CommaAndPointInEveryKindOfField) {
  Shown s;
  auto* distance = field<LengthField>(s.window, "distance");
  auto* nd = field<NumberField>(s.window, "nd");
  auto* ask = field<SpokenField>(s.window, "askFor");
  for (const char* mark : {",", "."}) {
    const QString m(mark);
    begin(distance, "1" + m + "75");
    QTest::keyClick(distance, Qt::Key_Return);
    EXPECT_NEAR(s.key().distance, 1.75, 1e-9);
    begin(nd, "0" + m + "6");
    QTest::keyClick(nd, Qt::Key_Return);
    EXPECT_NEAR(s.key().fittings.nd, 0.6, 1e-9);
    begin(ask, "f/5" + m + "6");
    QTest::keyClick(ask, Qt::Key_Return);
    EXPECT_NEAR(s.window.document()->plan().camera.aperture, std::exp2(2.5), 1e-6);
    s.window.document()->undo();
    s.window.document()->undo();
    s.window.document()->undo();
  }
}

TEST(Typing, DecimalsThatAreTypedStayAndFractionsOfADragAreRounded) {
  Shown s;
  auto* pan = field<NumberField>(s.window, "pan");
  begin(pan, "1.75");
  QTest::keyClick(pan, Qt::Key_Return);
  EXPECT_NEAR(s.key().pan, 1.75, 1e-9) << "a field of whole degrees takes what it is given";
  EXPECT_EQ(pan->text(), QString::fromUtf8("1.75\u00b0"));
  Light dragged = s.key();
  dragged.pan = 12.3456789;
  s.window.document()->perform(SetLight{dragged}, "Drag");
  EXPECT_EQ(pan->text(), QString::fromUtf8("12\u00b0"));
  pan->setFocus();
  QTest::keyClick(pan, Qt::Key_Return);
  EXPECT_EQ(s.key().pan, 12.3456789) << "Enter on a rounded figure changes nothing";
}

TEST(Typing, TheFieldsOwnTextCanBeTypedAgain) {
  Shown s;
  const Plan before = s.window.document()->plan();
  for (int stage : {0, 1}) {
    s.window.setStage(stage);
    for (NumberField* f : s.window.findChildren<NumberField*>()) {
      if (!f->isEnabled() || f->text() == f->specialValueText()) continue;
      QString text = f->cleanText();
      if (!f->prefix().isEmpty() && text.startsWith(f->prefix())) text = text.mid(f->prefix().size());
      EXPECT_NEAR(f->valueFromText(f->textFromValue(f->value())), f->value(),
                  std::max(0.5 * std::pow(10, -2), std::abs(f->value()) * 0.01))
          << qPrintable(f->objectName()) << " " << qPrintable(text);
    }
  }
  EXPECT_EQ(s.window.document()->plan(), before);
}

TEST(Typing, APrefixIsNoPartOfTheNumber) {
  Shown s;
  Light l = s.key();
  l.modifier = "spot";
  s.window.document()->perform(SetLight{l}, "Front");
  auto* door = field<NumberField>(s.window, "doorleft");
  for (const char* text : {"35", "40"}) {
    begin(door, text);
    QTest::keyClick(door, Qt::Key_Return);
    EXPECT_EQ(s.key().fittings.doors.left, QString(text).toInt()) << text;
    EXPECT_TRUE(door->text().startsWith("left ")) << qPrintable(door->text());
  }
  begin(door, "400");
  QTest::keyClick(door, Qt::Key_Return);
  EXPECT_EQ(s.key().fittings.doors.left, 40);
  EXPECT_TRUE(door->text().startsWith("left 40")) << qPrintable(door->text());
}

TEST(Wheel, TurnsOnlyWhatHasTheFocus) {
  Shown s;
  s.window.activateWindow();
  s.window.bench().easel->setFocus();
  auto* unit = field<QComboBox>(s.window, "unit");
  const Plan before = s.window.document()->plan();
  const int chosen = unit->currentIndex();
  wheel(unit, {0, -120});
  wheel(field<LengthField>(s.window, "distance"), {0, 120});
  EXPECT_EQ(unit->currentIndex(), chosen);
  EXPECT_EQ(s.window.document()->plan(), before);
  EXPECT_NE(unit->focusPolicy(), Qt::WheelFocus) << "or the wheel would bring the focus itself";
  auto* distance = field<LengthField>(s.window, "distance");
  distance->setFocus();
  ASSERT_TRUE(distance->hasFocus());
  wheel(distance, {0, 120});
  EXPECT_GT(s.key().distance, before.lights[0].distance);
}

TEST(Wheel, SmallStepsAddUpAndSidewaysIsNone) {
  Shown s;
  for (int i = 0; i < 10; ++i) wheel(s.window.bench().dial, {0, 12});
  EXPECT_EQ(s.key().pan, 2) << "ten tenths of a step are one";
  for (int i = 0; i < 10; ++i) wheel(s.window.bench().dial, {120, 10});
  EXPECT_EQ(s.key().pan, 2) << "sideways";
  wheel(s.window.bench().dial, {0, -240});
  EXPECT_EQ(s.key().pan, -2);
  for (int i = 0; i < 10; ++i) wheel(s.window.bench().rail, {0, 12});
  EXPECT_EQ(s.key().tiltOffset, 1);
}

TEST(Clock, OneKeyGoesAllTheWayRound) {
  Shown s;
  DialView* dial = s.window.bench().dial;
  dial->setFocus();
  for (const auto key : {Qt::Key_Left, Qt::Key_Right}) {
    const double start = s.key().hour;
    double gone = 0, last = start;
    for (int i = 0; i < 120; ++i) {
      QTest::keyClick(dial, key);
      double by = s.key().hour - last;
      if (by > 6) by -= 12;
      if (by < -6) by += 12;
      ASSERT_NEAR(std::abs(by), 0.1, 1e-6) << "at " << last;
      gone += by;
      last = s.key().hour;
    }
    EXPECT_NEAR(std::abs(gone), 12, 1e-6);
    EXPECT_NEAR(s.key().hour, start, 1e-6);
  }
}

TEST(Clock, DialAndFieldSayTheSame) {
  Shown s;
  auto* hour = field<ClockField>(s.window, "hour");
  begin(hour, "half past seven");
  QTest::keyClick(hour, Qt::Key_Return);
  EXPECT_DOUBLE_EQ(s.key().hour, 7.5);
  EXPECT_EQ(hour->text(), "7:30");
  EXPECT_EQ(hour->text(), hourText(s.key().hour));
  begin(hour, "4.30");
  QTest::keyClick(hour, Qt::Key_Return);
  EXPECT_DOUBLE_EQ(s.key().hour, 7.5);
  EXPECT_TRUE(s.window.notice().contains("4:18")) << qPrintable(s.window.notice());
  hour->setFocus();
  for (int i = 0; i < 60; ++i) QTest::keyClick(hour, Qt::Key_Up);
  EXPECT_NEAR(s.key().hour, 1.5, 1e-6) << "up goes on past twelve";
}

TEST(AskFor, IsOneStepAndNothingWhenTheLightIsLocked) {
  Shown s;
  const Plan before = s.window.document()->plan();
  auto* ask = field<SpokenField>(s.window, "askFor");
  begin(ask, "f/4");
  QTest::keyClick(ask, Qt::Key_Return);
  EXPECT_NEAR(s.window.document()->plan().camera.aperture, 4, 1e-9);
  s.window.document()->undo();
  EXPECT_EQ(s.window.document()->plan(), before);
  Light l = s.key();
  l.locked = true;
  s.window.document()->perform(SetLight{l}, "Lock");
  const Plan locked = s.window.document()->plan();
  begin(ask, "f/4");
  QTest::keyClick(ask, Qt::Key_Return);
  EXPECT_EQ(s.window.document()->plan(), locked) << "neither the light nor the camera";
  EXPECT_TRUE(s.window.notice().contains("locked"));
}

TEST(Drags, StayWithinWhatAPlanCanHold) {
  Shown s;
  Room r = s.window.document()->plan().room;
  r.height = 20;
  s.window.document()->perform(SetRoom{r}, "Hall");
  RailView* rail = s.window.bench().rail;
  rail->setFocus();
  for (int i = 0; i < 80; ++i) QTest::keyClick(rail, Qt::Key_Up, Qt::ShiftModifier);
  EXPECT_EQ(s.key().height, 15);
  DialView* dial = s.window.bench().dial;
  const QPointF h = dial->handleOf(s.key());
  Shown::drag(dial, h, dial->toWidget(0, 0));
  EXPECT_GE(s.key().distance, 0);
  EXPECT_NO_THROW(readPlanText(writePlanText(s.window.document()->plan())));
}

TEST(Ledge, HoldingAPrintWhileAnotherModeComesIsHarmless) {
  Shown s;
  LedgeView* ledge = s.window.bench().ledge;
  ASSERT_TRUE(eventually([&] { return ledge->printCount() >= 3; }));
  const QPoint at = ledge->printRect(0).center().toPoint();
  QTest::mousePress(ledge, Qt::LeftButton, {}, at);
  ledge->setMode(LedgeView::Mode::Ratios);
  for (int i = 1; i < 5; ++i) {
    QMouseEvent move(QEvent::MouseMove, at + QPointF(20 * i, 0), ledge->mapToGlobal(at + QPointF(20 * i, 0)),
                     Qt::NoButton, Qt::LeftButton, {});
    QCoreApplication::sendEvent(ledge, &move);
  }
  QTest::mouseRelease(ledge, Qt::LeftButton, {}, at + QPoint(80, 0));
}

}  // namespace
}  // namespace easel::app
