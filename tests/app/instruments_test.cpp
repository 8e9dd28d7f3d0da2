// The five instruments, driven by mouse and keyboard.
#include <gtest/gtest.h>

#include <QAction>
#include <QComboBox>

#include "cards/head_view.h"
#include "metering/readings_view.h"
#include "plan/panels.h"
#include "plan/placement.h"
#include "widgets/wording.h"
#include "window_support.h"

namespace easel::app {
namespace {

TEST(Dial, DraggingTheLightMovesItRoundTheClockAsOneStep) {
  Shown s;
  DialView* dial = s.window.bench().dial;
  const Light before = s.key();
  const Vec3 to = towardsHour(7.5) * 1.2f;
  Shown::drag(dial, dial->handleOf(before), dial->toWidget(to.x, to.z));
  EXPECT_NEAR(s.key().hour, 7.5, 0.1);
  EXPECT_NEAR(s.key().distance, 1.2, 0.05);
  EXPECT_EQ(s.key().height, before.height);
  s.window.document()->undo();
  EXPECT_EQ(s.key().hour, before.hour);
  EXPECT_EQ(s.key().distance, before.distance);
  EXPECT_FALSE(s.window.document()->history().canUndo());
}

// A drill or a lesson has a plan that no file belongs to: the same instruments show it, with its own undo.
TEST(Instruments, ShowAPlanOfItsOwnAndLeaveTheDocumentAlone) {
  Shown s;
  ViewedPlan own(test::masterPlan());
  DialView dial(&own);
  dial.resize(500, 500);
  dial.show();
  dial.grab();  // the scale follows from what is painted
  QString refused;
  QObject::connect(&own, &ViewedPlan::refused, &dial, [&](const QString& why) { refused = why; });
  const Plan document = s.window.document()->plan();
  const Light before = own.plan().lights[0];
  const Vec3 to = towardsHour(7.5) * 1.2f;
  Shown::drag(&dial, dial.handleOf(before), dial.toWidget(to.x, to.z));
  EXPECT_NEAR(own.plan().lights[0].hour, 7.5, 0.1);
  EXPECT_TRUE(own.history().canUndo());
  EXPECT_EQ(s.window.document()->plan(), document);
  own.undo();
  EXPECT_EQ(own.plan().lights[0].hour, before.hour);
  Light far = before;
  far.distance = 1e6;
  own.perform(SetLight{far}, "Far");
  EXPECT_FALSE(refused.isEmpty()) << "ranges hold there too";
  // The same instrument on the document, and the plan of its own may go.
  dial.setViewed(s.window.document());
  dial.grab();
  own.perform(SetTitle{"a drill", ""}, "Title");
  const Light key = s.key();
  Shown::drag(&dial, dial.handleOf(key), dial.toWidget(to.x, to.z));
  EXPECT_NEAR(s.key().hour, 7.5, 0.1);
  EXPECT_EQ(own.plan().lights[0].hour, before.hour);
}

TEST(Dial, ShiftKeepsTheDistanceControlKeepsTheHour) {
  Shown s;
  DialView* dial = s.window.bench().dial;
  const Light before = s.key();
  const Vec3 to = towardsHour(8) * 1.4f;
  Shown::drag(dial, dial->handleOf(before), dial->toWidget(to.x, to.z), Qt::ShiftModifier);
  EXPECT_EQ(s.key().distance, before.distance);
  EXPECT_NEAR(s.key().hour, 8, 0.1);
  s.window.document()->undo();
  Shown::drag(dial, dial->handleOf(before), dial->toWidget(to.x, to.z), Qt::ControlModifier);
  EXPECT_EQ(s.key().hour, before.hour);
  EXPECT_NEAR(s.key().distance, 1.4, 0.05);
}

TEST(Dial, KeysMoveAndFeather) {
  Shown s;
  DialView* dial = s.window.bench().dial;
  const Light before = s.key();
  dial->setFocus();
  QTest::keyClick(dial, Qt::Key_Right);  // the key stands at 4:30, lower right: right is towards three o'clock
  EXPECT_LT(s.key().hour, before.hour);
  QTest::keyClick(dial, Qt::Key_Down);
  EXPECT_GT(s.key().distance, before.distance);
  QTest::keyClick(dial, Qt::Key_Period);
  EXPECT_EQ(s.key().pan, 2);
}

TEST(Rail, DraggingChangesTheHeightAlone) {
  Shown s;
  RailView* rail = s.window.bench().rail;
  const Light before = s.key();
  const QPointF h = rail->handleOf(before);
  Shown::drag(rail, h, h + QPointF(3, 40));
  EXPECT_LT(s.key().height, before.height - 0.1);
  EXPECT_EQ(s.key().distance, before.distance);
  EXPECT_EQ(s.key().tiltOffset, 0);
}

TEST(Rail, TheTipTilts) {
  Shown s;
  RailView* rail = s.window.bench().rail;
  const Light before = s.key();
  const double down = downTilt(s.window.document()->plan(), before);
  const QPointF tip = rail->tiltHandleOf(before), centre = rail->handleOf(before);
  // Turn the axis level: straight towards the sitter.
  Shown::drag(rail, tip, centre + QPointF(-44, 0));
  EXPECT_EQ(s.key().height, before.height);
  EXPECT_NEAR(downTilt(s.window.document()->plan(), s.key()), 0, 3);
  EXPECT_GT(down, 15);
}

TEST(Rail, KeysRaiseAndTilt) {
  Shown s;
  const Light before = s.key();
  QTest::keyClick(s.window.bench().rail, Qt::Key_Up);
  EXPECT_NEAR(s.key().height, before.height + 0.05, 1e-9);
  QTest::keyClick(s.window.bench().rail, Qt::Key_PageUp);
  EXPECT_EQ(s.key().tiltOffset, 1);
}

TEST(Ladder, DraggingTheTargetSetsThePower) {
  Shown s;
  LadderView* ladder = s.window.bench().ladder;
  const Light before = s.key();
  const QPointF target = ladder->targetPlace(before);
  Shown::drag(ladder, target, {ladder->xOfStops(-2), target.y()});
  EXPECT_NEAR(s.key().targetStops, -2, 0.11);
  EXPECT_NEAR(s.key().power, before.power - 2, 0.2);
  ASSERT_TRUE(s.settled());
  EXPECT_NEAR(s.window.renderLink()->latest()->answers->lights[0].stopsFromWorking, s.key().targetStops, 0.07);
  s.window.document()->undo();
  EXPECT_EQ(s.key().power, before.power);
}

TEST(Ladder, EnterPutsPowerOnTheTargetAndKeysNudgeIt) {
  Shown s;
  LadderView* ladder = s.window.bench().ladder;
  Light l = s.key();
  l.power = -7;
  s.window.document()->perform(SetLight{l}, "Power");
  ASSERT_TRUE(s.settled());
  QTest::keyClick(ladder, Qt::Key_Return);
  ASSERT_TRUE(s.settled());
  EXPECT_NEAR(s.window.renderLink()->latest()->answers->lights[0].stopsFromWorking, 0, 0.06);
  const double power = s.key().power;
  QTest::keyClick(ladder, Qt::Key_Minus);
  EXPECT_NEAR(s.key().power, power - 0.1, 1e-9);
  QTest::keyClick(ladder, Qt::Key_Right);
  EXPECT_NEAR(s.key().targetStops, 0.1, 1e-9);
}

TEST(Ladder, TheLetterSwitchesTheLight) {
  Shown s;
  LadderView* ladder = s.window.bench().ladder;
  QTest::mouseClick(ladder, Qt::LeftButton, {}, QPoint(22, int(ladder->targetPlace(s.key()).y()) + 12));
  EXPECT_FALSE(s.key().on);
  ASSERT_TRUE(s.settled());
  QTest::keyClick(&s.window, Qt::Key_1);
  EXPECT_TRUE(s.key().on);
}

TEST(Easel, ThePointerReads) {
  Shown s;
  EaselView* easel = s.window.bench().easel;
  const QRectF r = easel->pictureRect();
  QString said;
  QObject::connect(easel, &EaselView::pointed, easel, [&](const QString& t) { said = t; });
  QTest::mouseMove(easel, QPointF(r.center().x() + r.width() * 0.05, r.top() + r.height() * 0.38).toPoint());
  QMouseEvent move(QEvent::MouseMove, QPointF(r.center().x() + r.width() * 0.05, r.top() + r.height() * 0.38),
                   QPointF(), Qt::NoButton, {}, {});
  QCoreApplication::sendEvent(easel, &move);
  ASSERT_TRUE(easel->reading());
  EXPECT_EQ(easel->reading()->surface, Surface::Skin);
  EXPECT_GT(easel->reading()->stops, -3);
  EXPECT_LT(easel->reading()->stops, 1);
  EXPECT_TRUE(said.contains("f/")) << said.toStdString();
  QTest::keyClick(easel, Qt::Key_Right, Qt::ShiftModifier);
  EXPECT_TRUE(easel->reading());
  QMouseEvent off(QEvent::MouseMove, QPointF(2, 2), QPointF(), Qt::NoButton, {}, {});
  QCoreApplication::sendEvent(easel, &off);
  EXPECT_FALSE(easel->reading());
}

TEST(Easel, PowerChangesThePicture) {
  Shown s;
  auto brightness = [&] {
    const QImage p = s.window.bench().easel->picture();
    double sum = 0;
    for (int y = 0; y < p.height(); y += 7)
      for (int x = 0; x < p.width(); x += 7) sum += qGray(p.pixel(x, y));
    return sum;
  };
  const double before = brightness();
  Light l = s.key();
  l.power += 2;
  s.window.document()->perform(SetLight{l}, "Power");
  ASSERT_TRUE(s.settled());
  EXPECT_GT(brightness(), 1.5 * before);
}

TEST(Ledge, BuildUpShowsThePictureAsItGrows) {
  Shown s;
  s.window.files()->openFile(QString::fromStdString(test::demoFile("marrow-lane-master")));
  ASSERT_TRUE(s.settled());
  LedgeView* ledge = s.window.bench().ledge;
  ASSERT_TRUE(eventually([&] { return ledge->printCount() == 6; }));
  QTest::keyClick(&s.window, Qt::Key_B);
  EXPECT_EQ(ledge->mode(), LedgeView::Mode::BuildUp);
  ASSERT_EQ(ledge->printCount(), 4u);
  auto brightness = [&](size_t print) {
    QTest::mouseClick(ledge, Qt::LeftButton, {}, ledge->printRect(print).center().toPoint());
    EXPECT_TRUE(s.settled());
    const QImage p = s.window.bench().easel->picture();
    double sum = 0;
    for (int y = 0; y < p.height(); y += 5)
      for (int x = 0; x < p.width(); x += 5) sum += qGray(p.pixel(x, y));
    return sum;
  };
  double last = 0;
  for (size_t i = 0; i < 4; ++i) {
    const double now = brightness(i);
    EXPECT_GT(now, last) << "each light adds";
    last = now;
  }
  for (size_t i = 0; i < 4; ++i) EXPECT_LE(ledge->printRect(i).right(), ledge->width());
}

TEST(Ledge, APrintShowsThatLightAloneAndAgainAll) {
  Shown s;
  LedgeView* ledge = s.window.bench().ledge;
  ASSERT_TRUE(eventually([&] { return ledge->printCount() == 3; }));
  Light l = s.key();
  l.on = false;
  s.window.document()->perform(SetLight{l}, "Off");
  ASSERT_TRUE(s.settled());
  auto brightest = [&] {
    int most = 0;
    const QImage p = s.window.bench().easel->picture();
    for (int y = 0; y < p.height(); y += 3)
      for (int x = 0; x < p.width(); x += 3) most = std::max(most, qGray(p.pixel(x, y)));
    return most;
  };
  EXPECT_LT(brightest(), 60);
  QTest::mouseClick(ledge, Qt::LeftButton, {}, ledge->printRect(0).center().toPoint());
  ASSERT_TRUE(s.settled());
  EXPECT_GT(brightest(), 120) << "alone, it shows even when it is off";
  QTest::mouseClick(ledge, Qt::LeftButton, {}, ledge->printRect(0).center().toPoint());
  ASSERT_TRUE(s.settled());
  EXPECT_LT(brightest(), 60);
}

TEST(Pieces, AreBroughtInDraggedTurnedAndTakenAway) {
  Shown s;
  QAction* bring = nullptr;
  for (QAction* a : s.window.findChildren<QAction*>())
    if (a->text().remove('&') == "Table") bring = a;
  ASSERT_TRUE(bring);
  bring->trigger();
  const auto table = [&] { return s.window.document()->plan().panels.back(); };
  ASSERT_EQ(table().kind, "table");
  const Panel before = table();
  DialView* dial = s.window.bench().dial;
  const Vec3 to = towardsHour(8) * 1.3f;
  Shown::drag(dial, dial->handleOf(before), dial->toWidget(to.x, to.z));
  EXPECT_NEAR(table().hour, 8, 0.1);
  EXPECT_NEAR(table().distance, 1.3, 0.05);
  EXPECT_DOUBLE_EQ(table().above, before.above) << "it stays on the floor";
  RailView* rail = s.window.bench().rail;
  const QPointF at = rail->handleOf(table());
  Shown::drag(rail, at, at - QPointF(0, 30));
  EXPECT_GT(table().above, before.above + 0.05) << "on the rail it is lifted";
  s.window.document()->undo();
  s.window.document()->undo();
  EXPECT_EQ(table(), before);
  EXPECT_NE(s.window.document()->history().undoLabel().find("Table"), std::string::npos);
}

TEST(Pieces, ALightIsGivenATableToWorkOnAndAPlaceInAShade) {
  Shown s;
  s.window.document()->perform(AddPanel{proposePanel(s.window.document()->plan(), "table").panel, 9}, "table");
  s.window.document()->perform(AddPanel{proposePanel(s.window.document()->plan(), "shade").panel, 9}, "shade");
  const std::string tableId = s.window.document()->plan().panels[s.window.document()->plan().panels.size() - 2].id,
                    shadeId = s.window.document()->plan().panels.back().id;
  auto* works = s.window.findChild<QComboBox*>("worksOn");
  auto* inside = s.window.findChild<QComboBox*>("inside");
  ASSERT_TRUE(works && inside);
  const auto choose = [](QComboBox* box, const std::string& id) {
    const int i = box->findData(QString::fromStdString(id));
    ASSERT_GE(i, 0);
    box->setCurrentIndex(i);
    emit box->activated(i);
  };
  choose(works, tableId);
  EXPECT_EQ(s.key().worksOn, tableId);
  const Light before = s.key();
  choose(inside, shadeId);
  EXPECT_EQ(s.key().inside, shadeId);
  EXPECT_DOUBLE_EQ(s.key().hour, s.window.document()->plan().panels.back().hour);
  s.window.document()->undo();
  EXPECT_EQ(s.key(), before);
  // A table stays on the floor when it is made higher.
  s.window.document()->perform(SetPanel{ofHeight(*s.window.document()->plan().panel(tableId), 0.9)}, "higher");
  EXPECT_DOUBLE_EQ(s.window.document()->plan().panel(tableId)->above, 0.45);
}

// The small head on Set is held with the hand.
TEST(SmallHead, DraggingTurnsAndRaisesIt) {
  Shown s;
  s.window.setStage(0);
  s.window.showPage("Pose");
  auto* head = s.window.findChild<HeadView*>("headView");
  ASSERT_TRUE(head && head->isVisible());
  const SitterPlace before = s.window.document()->plan().sitter;
  const QPointF middle(head->width() / 2.0, head->height() / 2.0);
  Shown::drag(head, middle, middle + QPointF(20, 10));
  const auto& sitter = s.window.document()->plan().sitter;
  EXPECT_GT(sitter.turn, before.turn + 10) << "to the right of the screen: to the sitter's left";
  EXPECT_GT(sitter.nod, before.nod + 4) << "down is chin down";
  EXPECT_EQ(sitter.tilt, before.tilt);
  s.window.document()->undo();
  EXPECT_EQ(sitter, before) << "one step";
  Shown::drag(head, middle, middle + QPointF(10, 0), Qt::ShiftModifier);
  EXPECT_GT(sitter.tilt, before.tilt);
  EXPECT_EQ(sitter.turn, before.turn);
  QTest::keyClick(head, Qt::Key_Home);
  EXPECT_EQ(sitter.turn, 0);
  EXPECT_EQ(sitter.tilt, 0);
  EXPECT_EQ(sitter.nod, 0);
  for (int i = 0; i < 40; ++i) QTest::keyClick(head, Qt::Key_Right);
  EXPECT_EQ(sitter.turn, rangeOf("sitter.turn").most) << "as far as heads turn";
}

TEST(Readings, StandOnOneScaleAndAreTold) {
  Shown s;
  s.window.setStage(2);
  s.window.showPage("One at a time");
  auto* view = s.window.findChild<ReadingsView*>("readingsView");
  ASSERT_TRUE(view && view->isVisible());
  const auto& answers = s.window.renderLink()->latest()->answers;
  const QString said = view->accessibleDescription();
  for (const LightAnswer& a : answers->lights) EXPECT_TRUE(said.contains(apertureText(a.aperture))) << qPrintable(said);
  EXPECT_TRUE(said.contains(apertureText(answers->aperture)) && said.contains("Everything on")) << qPrintable(said);
}

}  // namespace
}  // namespace easel::app
