// Where views stand: the geometry of rows and columns, and the widget that keeps what was dragged.
#include "arrange/arrangement.h"

#include <gtest/gtest.h>

#include <QTableWidget>

#include "arrange/arranged_views.h"
#include "plan/framing.h"
#include "widgets/theme.h"
#include "window_support.h"

namespace easel::app {
namespace {

Wants wantsOf(const QString& view) {
  if (view == "tall") return {{100, 300}, {100, 300}};
  if (view == "head") return {{100, 40}, {100, 60}};
  return {{100, 50}, {200, 100}};
}

TEST(Arrangement, SharesAreKeptAndWhatWantsItsHeightGetsIt) {
  const auto a = inRow({shown("left", 2), inColumn({exactly("head"), shown("top", 3), shown("foot", 1)}, 3)});
  const Placed p = place(a, {0, 0, 1005, 470}, wantsOf);
  EXPECT_EQ(p.views["left"].width(), 400);
  EXPECT_EQ(p.views["head"], QRect(405, 0, 600, 60));
  EXPECT_EQ(p.views["top"].height(), 300);
  EXPECT_EQ(p.views["foot"], QRect(405, 370, 600, 100));
  ASSERT_EQ(p.gaps.size(), 3u);
}

TEST(Arrangement, NobodyGetsLessThanItNeedsWhileThereIsRoom) {
  const auto a = inColumn({shown("tall", 1), shown("b", 9)});
  const Placed p = place(a, {0, 0, 200, 405}, wantsOf);
  EXPECT_EQ(p.views["tall"].height(), 300);
  EXPECT_EQ(p.views["b"].height(), 100);
}

TEST(Arrangement, TooLittleRoomIsSharedAndNothingLeavesTheWindow) {
  const auto a = inColumn({shown("tall", 1), shown("b", 1), exactly("head")});
  for (int height = 20; height < 500; height += 7) {
    const Placed p = place(a, {0, 0, 200, height}, wantsOf);
    int sum = 2 * kGap;
    for (const QRect& r : p.views) {
      EXPECT_GE(r.height(), 0);
      EXPECT_LE(r.bottom(), height) << height;
      sum += r.height();
    }
    EXPECT_EQ(sum, std::max(height, 2 * kGap)) << height;
  }
}

TEST(Arrangement, WhatWasDraggedHoldsDownToWhatIsNeeded) {
  const auto a = inRow({shown("a"), shown("b")});
  const Placed p = place(a, {0, 0, 1005, 100}, wantsOf, {{"", {0.7, 0.3}}});
  EXPECT_EQ(p.views["a"].width(), 700);
  const Placed small = place(a, {0, 0, 255, 100}, wantsOf, {{"", {0.7, 0.3}}});
  EXPECT_EQ(small.views["b"].width(), 100);
  EXPECT_EQ(small.views["a"].width(), 150);
  // Of another arrangement: not understood, so the shares stand.
  const Placed other = place(a, {0, 0, 1005, 100}, wantsOf, {{"", {0.2, 0.3, 0.5}}});
  EXPECT_EQ(other.views["a"].width(), 500);
}

TEST(Arrangement, EveryStageShowsItsPageAndThePicture) {
  Shown s(false);
  QStringList ids;
  for (const Stage* stage : s.window.stages()) {
    for (const bool wide : {false, true}) {
      QStringList views = stage->arrangement(wide).views();
      EXPECT_TRUE(views.contains(stage->id())) << qPrintable(stage->id());
      EXPECT_TRUE(views.contains(views::kEasel));
      EXPECT_TRUE(views.contains(views::kAnswer));
      EXPECT_EQ(views.removeDuplicates(), 0);
    }
    EXPECT_FALSE(stage->help().isEmpty());
    ids << stage->id();
  }
  EXPECT_EQ(ids.removeDuplicates(), 0);
}

TEST(Arrangement, TheStageDecidesWhatIsLargeSmallAndGone) {
  Shown s;
  s.window.setStage(0);
  EXPECT_FALSE(s.window.bench().ladder->isVisible());
  s.window.setStage(1);
  const int large = s.window.bench().dial->height();
  EXPECT_TRUE(s.window.bench().ladder->isVisible());
  EXPECT_TRUE(s.window.bench().rail->isVisible());
  s.window.setStage(2);
  EXPECT_FALSE(s.window.bench().dial->isVisible());
  EXPECT_TRUE(field<QTableWidget>(s.window, "spotTable")->isVisible());
  EXPECT_GT(field<QTableWidget>(s.window, "spotTable")->height(), 350);
  s.window.showStage(QStringLiteral("Read"));
  EXPECT_TRUE(s.window.bench().dial->isVisible());
  EXPECT_NE(s.window.bench().dial->height(), large);
}

TEST(Arrangement, APictureOnItsLongSideHasTheSetUnderIt) {
  Shown s;
  const auto underThePicture = [&] {
    QCoreApplication::processEvents();
    const auto at = [&](QWidget* w) { return w->mapTo(s.window.arranged(), QPoint()); };
    return at(s.window.bench().dial).x() == at(s.window.bench().easel).x() &&
           at(s.window.bench().dial).y() > at(s.window.bench().easel).y();
  };
  s.window.setStage(0);
  const int upright = s.window.bench().easel->width();
  EXPECT_FALSE(underThePicture());
  s.window.document()->perform(SetCamera{inFrame(s.window.document()->plan(), 1.5)}, "frame");
  EXPECT_TRUE(underThePicture());
  // What is dragged here is not what is dragged there.
  s.window.arranged()->widen(views::kEasel, 2);
  const int wider = s.window.bench().easel->width();
  s.window.document()->undo();
  EXPECT_FALSE(underThePicture());
  EXPECT_EQ(s.window.bench().easel->width(), upright);
  // One view that fills the window stays when the frame changes.
  s.window.arranged()->fill(views::kEasel);
  s.window.document()->redo();
  EXPECT_EQ(s.window.arranged()->filling(), views::kEasel);
  s.window.arranged()->giveBack();
  EXPECT_TRUE(underThePicture());
  EXPECT_EQ(s.window.bench().easel->width(), wider);
}

TEST(Arrangement, AGlanceIsClickedForRoomAndMovesNothing) {
  Shown s;
  s.window.showStage(QStringLiteral("Read"));
  const Plan before = s.window.document()->plan();
  const QPointF at = s.window.bench().dial->handleOf(s.key());
  Shown::drag(s.window.bench().dial, at, at + QPointF(30, 30));
  EXPECT_EQ(s.window.document()->plan(), before);
  EXPECT_EQ(s.window.arranged()->filling(), views::kDial);
  EXPECT_EQ(s.window.bench().dial->size(), s.window.arranged()->size());
  QTest::keyClick(&s.window, Qt::Key_Escape);
  EXPECT_EQ(s.window.arranged()->filling(), QString());
  EXPECT_TRUE(s.window.bench().easel->isVisible());
}

TEST(Arrangement, OneKeyFillsTheWindowAndGivesItBack) {
  Shown s;
  s.window.setStage(1);
  QTest::keyClick(&s.window, Qt::Key_F11);
  EXPECT_EQ(s.window.bench().easel->size(), s.window.arranged()->size());
  EXPECT_FALSE(s.window.bench().dial->isVisible());
  QTest::keyClick(&s.window, Qt::Key_F11);
  EXPECT_TRUE(s.window.bench().dial->isVisible());
  s.window.bench().ladder->setFocus();
  QTest::keyClick(&s.window, Qt::Key_F12);
  EXPECT_EQ(s.window.arranged()->filling(), views::kLadder);
  QTest::keyClick(&s.window, Qt::Key_F12);
  EXPECT_EQ(s.window.arranged()->filling(), QString());
  QTest::mouseDClick(s.window.bench().easel, Qt::LeftButton);
  EXPECT_EQ(s.window.arranged()->filling(), views::kEasel);
  // Another stage starts from its own arrangement.
  s.window.setStage(2);
  EXPECT_EQ(s.window.arranged()->filling(), QString());
}

TEST(Arrangement, WhatIsDraggedIsRememberedByStage) {
  Shown s;
  ArrangedViews* views = s.window.arranged();
  s.window.setStage(1);
  const int before = s.window.bench().easel->width();
  const auto upright =
      std::find_if(views->gaps().begin(), views->gaps().end(), [](const Gap& g) { return g.path.isEmpty(); });
  ASSERT_NE(upright, views->gaps().end());
  Shown::drag(views, upright->rect.center(), upright->rect.center() - QPoint(60, 0));
  const int after = s.window.bench().easel->width();
  EXPECT_NEAR(after, before - 60, 4);
  s.window.setStage(2);
  EXPECT_NEAR(s.window.bench().easel->width(), before, 40);
  s.window.setStage(1);
  EXPECT_EQ(s.window.bench().easel->width(), after);
  // Through the settings and back.
  ArrangedViews other;
  other.setMoved(views->moved());
  EXPECT_EQ(other.moved(), views->moved());
  EXPECT_TRUE(views->moved().contains("Build"));
  other.setMoved("{\"Build\": {\"\": [1e300, \"x\"]}, 7");
  EXPECT_EQ(other.moved(), "{}");
  views->reset();
  EXPECT_EQ(s.window.bench().easel->width(), before);
}

TEST(Arrangement, KeysGiveAndTakeRoom) {
  Shown s;
  s.window.setStage(1);
  s.window.bench().easel->setFocus();
  const int before = s.window.bench().easel->width();
  QTest::keyClick(&s.window, Qt::Key_Left, Qt::ControlModifier | Qt::AltModifier);
  EXPECT_LT(s.window.bench().easel->width(), before);
  QTest::keyClick(&s.window, Qt::Key_Right, Qt::ControlModifier | Qt::AltModifier);
  EXPECT_NEAR(s.window.bench().easel->width(), before, 2);
}

TEST(Arrangement, TheKeysGoThroughTheViewsAsTheEyeDoes) {
  Shown s;
  s.window.setStage(1);
  s.window.bench().easel->setFocus();
  QStringList order;
  for (int i = 0; i < 80; ++i) {
    const QString name = s.window.arranged()->nameOf(QApplication::focusWidget());
    if (!name.isEmpty() && (order.isEmpty() || order.last() != name)) order << name;
    if (order.size() > 1 && name == views::kEasel) break;
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_Tab);
  }
  EXPECT_EQ(order.mid(0, 7), QStringList({views::kEasel, views::kLedge, views::kAnswer, views::kDial, views::kRail,
                                          views::kLadder, "Build"}));
}

TEST(Arrangement, TypeGrowsWithTheWindowAndWithThePreference) {
  Shown s;
  EXPECT_DOUBLE_EQ(Theme::current().scale, 1);
  const int answer = s.window.findChild<Headline*>()->sizeHint().height();
  s.window.resize(2560, 1440);
  QCoreApplication::processEvents();
  EXPECT_DOUBLE_EQ(Theme::current().scale, 1.75);
  EXPECT_GT(s.window.findChild<Headline*>()->sizeHint().height(), answer * 3 / 2);
  EXPECT_DOUBLE_EQ(s.window.bench().ladder->zoom(), 1.75);
  s.window.resize(1280, 800);
  s.window.setTextSize(16);
  EXPECT_DOUBLE_EQ(Theme::current().scale, 1.6);
  s.window.setTextSize(10);
  EXPECT_DOUBLE_EQ(Theme::current().scale, 1);
}

// A hand on an instrument means the same place whatever the type.
TEST(Arrangement, APressIsReadInTheUnitsOfThePainting) {
  Shown s;
  s.window.setTextSize(15);
  s.window.setStage(1);
  QCoreApplication::processEvents();
  const double z = s.window.bench().dial->zoom();
  EXPECT_DOUBLE_EQ(z, 1.5);
  const double before = s.key().distance;
  const QPointF at = s.window.bench().dial->handleOf(s.key()), hub = s.window.bench().dial->toWidget(0, 0);
  Shown::drag(s.window.bench().dial, at * z, (at + (hub - at) * 0.25) * z);
  EXPECT_NEAR(s.key().distance, before * 0.75, 0.05);
  s.window.setTextSize(10);
}

}  // namespace
}  // namespace easel::app
