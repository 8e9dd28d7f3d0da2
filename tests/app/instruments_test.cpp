// The five instruments, driven by mouse and keyboard.
#include <gtest/gtest.h>

#include "plan/placement.h"
#include "widgets/wording.h"
#include "window_support.h"

namespace easel::app {
namespace {

TEST(Dial, DraggingTheLightMovesItRoundTheClockAsOneStep) {
  Shown s;
  DialView* dial = s.window.dial();
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

TEST(Dial, ShiftKeepsTheDistanceControlKeepsTheHour) {
  Shown s;
  DialView* dial = s.window.dial();
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
  DialView* dial = s.window.dial();
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
  RailView* rail = s.window.rail();
  const Light before = s.key();
  const QPointF h = rail->handleOf(before);
  Shown::drag(rail, h, h + QPointF(3, 40));
  EXPECT_LT(s.key().height, before.height - 0.1);
  EXPECT_EQ(s.key().distance, before.distance);
  EXPECT_EQ(s.key().tiltOffset, 0);
}

TEST(Rail, TheTipTilts) {
  Shown s;
  RailView* rail = s.window.rail();
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
  QTest::keyClick(s.window.rail(), Qt::Key_Up);
  EXPECT_NEAR(s.key().height, before.height + 0.05, 1e-9);
  QTest::keyClick(s.window.rail(), Qt::Key_PageUp);
  EXPECT_EQ(s.key().tiltOffset, 1);
}

TEST(Ladder, DraggingThePegSetsThePower) {
  Shown s;
  LadderView* ladder = s.window.ladder();
  const Light before = s.key();
  const QPointF peg = ladder->pegOf(before);
  Shown::drag(ladder, peg, {ladder->xOfStops(-2), peg.y()});
  EXPECT_NEAR(s.key().targetStops, -2, 0.11);
  EXPECT_NEAR(s.key().power, before.power - 2, 0.2);
  ASSERT_TRUE(s.settled());
  EXPECT_NEAR(s.window.renderLink()->latest()->answers->lights[0].stopsFromWorking, s.key().targetStops, 0.07);
  s.window.document()->undo();
  EXPECT_EQ(s.key().power, before.power);
}

TEST(Ladder, EnterPutsPowerOnThePegAndKeysNudgeIt) {
  Shown s;
  LadderView* ladder = s.window.ladder();
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
  LadderView* ladder = s.window.ladder();
  QTest::mouseClick(ladder, Qt::LeftButton, {}, QPoint(22, int(ladder->pegOf(s.key()).y()) + 12));
  EXPECT_FALSE(s.key().on);
  ASSERT_TRUE(s.settled());
  QTest::keyClick(&s.window, Qt::Key_1);
  EXPECT_TRUE(s.key().on);
}

TEST(Easel, ThePointerReads) {
  Shown s;
  EaselView* easel = s.window.easel();
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
    const QImage p = s.window.easel()->picture();
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
  s.window.openFile(QString::fromStdString(std::string(EASEL_SOURCE_DIR) + "/demo/marrow-lane-master.easel.json"));
  ASSERT_TRUE(s.settled());
  LedgeView* ledge = s.window.ledge();
  ASSERT_TRUE(eventually([&] { return ledge->printCount() == 6; }));
  QTest::keyClick(&s.window, Qt::Key_B);
  EXPECT_EQ(ledge->mode(), LedgeView::Mode::BuildUp);
  ASSERT_EQ(ledge->printCount(), 4u);
  auto brightness = [&](size_t print) {
    QTest::mouseClick(ledge, Qt::LeftButton, {}, ledge->printRect(print).center().toPoint());
    EXPECT_TRUE(s.settled());
    const QImage p = s.window.easel()->picture();
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
  LedgeView* ledge = s.window.ledge();
  ASSERT_TRUE(eventually([&] { return ledge->printCount() == 3; }));
  Light l = s.key();
  l.on = false;
  s.window.document()->perform(SetLight{l}, "Off");
  ASSERT_TRUE(s.settled());
  auto brightest = [&] {
    int most = 0;
    const QImage p = s.window.easel()->picture();
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

}  // namespace
}  // namespace easel::app
