// The window as a whole: files, undo, units, themes, menus, speed of answer.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QSettings>
#include <fstream>

#include "exposure/aperture.h"
#include "files/atomic_file.h"
#include "widgets/fields.h"
#include "widgets/theme.h"
#include "widgets/wording.h"
#include "window_support.h"

namespace easel::app {
namespace {

// The plan that a new window begins with is never computed when another is opened at once.
TEST(Window, SaysInWhichDirectionALightMissesItsTarget) {
  Shown s;
  Light l = s.key();
  l.targetStops = 5;
  s.window.document()->perform(SetLight{l}, "Target");
  ASSERT_TRUE(s.settled());
  EXPECT_TRUE(s.window.findChild<Headline*>()->answer().contains("too weak for f/"))
      << qPrintable(s.window.findChild<Headline*>()->answer());
  l.targetStops = -6;
  s.window.document()->perform(SetLight{l}, "Target");
  ASSERT_TRUE(s.settled());
  EXPECT_TRUE(s.window.findChild<Headline*>()->answer().contains("too strong for f/"))
      << qPrintable(s.window.findChild<Headline*>()->answer());
  QTest::keyClick(&s.window, Qt::Key_B, Qt::ControlModifier);
  EXPECT_TRUE(s.window.notice().contains("0 of 1 lights are on target. A is")) << qPrintable(s.window.notice());
}

TEST(Window, ThePictureSaysHowFarItHasSettled) {
  Shown s;
  EXPECT_LT(s.window.bench().easel->settled(), 1) << "four passes are not all";
  s.window.renderLink()->setEnough(64);
  s.window.document()->perform(SetHaze{0.01}, "Haze");
  ASSERT_TRUE(eventually([&] { return s.window.renderLink()->upToDate() && s.window.renderLink()->latest()->done; }));
  EXPECT_EQ(s.window.bench().easel->settled(), 1);
}

TEST(Window, ComputesOnlyThePlanThatItOpens) {
  MainWindow window;
  std::vector<std::string> computed;
  QObject::connect(window.renderLink(), &RenderLink::arrived, &window,
                   [&] { computed.push_back(window.renderLink()->latest()->plan.title); });
  window.setQuiet(true);
  window.bench().onEasel->setPictureSize({40, 50});
  window.show();
  window.files()->openFile(QString::fromStdString(test::demoFile()));
  EXPECT_FALSE(window.renderLink()->upToDate());
  ASSERT_TRUE(eventually([&] { return window.renderLink()->upToDate() && computed.size() > 2; }));
  for (const std::string& title : computed) EXPECT_EQ(title, test::demoPlan().title);
  EXPECT_EQ(window.renderLink()->latest()->serial, 1u) << "one request for all that opening changes";
}

// The first start: the window is open while sitters are still being baked, that of the plan among them.
TEST(Window, ShowsSittersAsTheyArrive) {
  const std::string id = test::demoPlan().sitter.id + ".sitter";
  const auto baked = sitterFolder();
  test::TemporaryFolder folder;
  qputenv("EASEL_SITTERS", folder.path.c_str());
  {
    auto lock = std::make_unique<BakingLock>(folder.path);
    Shown s;
    auto* preparing = field<QLabel>(s.window, "preparing");
    ASSERT_TRUE(eventually([&] { return preparing->isVisible(); }));
    EXPECT_TRUE(preparing->text().contains("0 of")) << qPrintable(preparing->text());
    EXPECT_NE(s.window.renderLink()->latest()->problem.find("being prepared"), std::string::npos);
    std::filesystem::create_symlink(baked / id, folder.path / id);
    ASSERT_TRUE(eventually([&] { return preparing->text().contains("1 of"); }));
    EXPECT_TRUE(s.settled());
    EXPECT_EQ(s.window.renderLink()->latest()->problem, "");
    lock.reset();
    EXPECT_TRUE(eventually([&] { return !preparing->isVisible(); }));
  }
  qunsetenv("EASEL_SITTERS");
}

TEST(Window, OpensTheDemoWithAFaceAndAReading) {
  Shown s(true, {640, 800});
  const QImage p = s.window.bench().easel->picture();
  EXPECT_EQ(p.size(), QSize(640, 800));
  // The lit cheek is brighter than the canvas behind.
  EXPECT_GT(qGray(p.pixel(345, 330)), qGray(p.pixel(60, 200)) + 30);
  EXPECT_NEAR(s.window.renderLink()->latest()->answers->lights[0].aperture, 8, 0.4);
}

TEST(Window, EaselGetsFortyPercentAndNothingIsCutOff) {
  Shown s;
  EXPECT_GE(s.window.bench().easel->width(), 0.4 * 1280);
  for (QWidget* w : s.window.findChildren<QWidget*>())
    if (w->isVisible() && w->parentWidget() && qobject_cast<QDoubleSpinBox*>(w)) {
      EXPECT_GE(w->width(), 60) << w->objectName().toStdString();
      EXPECT_GE(w->height(), w->minimumSizeHint().height());
    }
}

TEST(Window, AskForAnApertureAndItSetsThePower) {
  Shown s;
  auto* ask = field<SpokenField>(s.window, "askFor");
  ask->setFocus();
  ask->selectAll();
  QTest::keyClicks(ask, "f/11");
  QTest::keyClick(ask, Qt::Key_Return);
  ASSERT_TRUE(s.settled());
  EXPECT_NEAR(avFromFNumber(s.window.document()->plan().camera.aperture), 7, 1e-6)
      << "the key decides the working aperture";
  EXPECT_NEAR(s.window.renderLink()->latest()->answers->lights[0].stopsFromWorking, 0, 0.06);
}

TEST(Window, NumericEntryMovesTheLight) {
  Shown s;
  auto* distance = field<LengthField>(s.window, "distance");
  distance->setFocus();
  distance->selectAll();
  QTest::keyClicks(distance, "1.5");
  QTest::keyClick(distance, Qt::Key_Return);
  EXPECT_NEAR(s.key().distance, 1.5, 1e-9);
  auto* power = field<SpokenField>(s.window, "power");
  power->setFocus();
  power->selectAll();
  QTest::keyClicks(power, "1/4 + 0.3");
  QTest::keyClick(power, Qt::Key_Return);
  EXPECT_NEAR(s.key().power, -1.7, 1e-9);
  power->selectAll();
  QTest::keyClicks(power, "plenty");
  QTest::keyClick(power, Qt::Key_Return);
  EXPECT_NEAR(s.key().power, -1.7, 1e-9);
  EXPECT_TRUE(s.window.notice().contains("plenty")) << s.window.notice().toStdString();
  EXPECT_EQ(power->text(), "1/4 + 0.3") << "a wrong entry goes back";
}

TEST(Window, FeetAreShownAndUnderstood) {
  Shown s;
  Preferences::current().metres = false;
  auto* distance = field<LengthField>(s.window, "distance");
  EXPECT_EQ(distance->textFromValue(1.2192), "4 ft 0 in");
  EXPECT_NEAR(distance->valueFromText("4 ft 6 in"), 1.3716, 1e-9);
  EXPECT_NEAR(distance->valueFromText("5'"), 1.524, 1e-9);
  EXPECT_NEAR(distance->valueFromText("1.5 m"), 1.5, 1e-9);
  EXPECT_NEAR(distance->valueFromText("3"), 0.9144, 1e-9) << "a bare number is in the unit shown";
  Preferences::current().metres = true;
  EXPECT_NEAR(distance->valueFromText("120 cm"), 1.2, 1e-9);
}

TEST(Window, WalkingThroughTheFieldsChangesNothing) {
  Shown s;
  Preferences::current().metres = false;  // inches on show are coarser than the plan's millimetres
  Light l = s.key();
  l.distance = 0.9531;
  l.hour = 4.123456;
  s.window.document()->perform(SetLight{l}, "Odd numbers");
  const Plan before = s.window.document()->plan();
  field<QComboBox>(s.window, "unit")->setFocus();
  for (int stage : {1, 0}) {
    s.window.setStage(stage);
    for (int i = 0; i < 40; ++i)
      QTest::keyClick(QApplication::focusWidget() ? QApplication::focusWidget() : &s.window, Qt::Key_Tab);
  }
  Preferences::current().metres = true;
  EXPECT_TRUE(s.window.document()->plan() == before);
}

TEST(Window, SaveReopenFindsTheSamePlanAndReadings) {
  test::TemporaryFolder folder;
  Shown s;
  Light l = s.key();
  l.hour = 7.3;
  l.modifier = "dish-55";
  s.window.document()->perform(SetLight{l}, "Change");
  ASSERT_TRUE(s.settled());
  const double aperture = s.window.renderLink()->latest()->answers->lights[0].aperture;
  const QString file = QString::fromStdString((folder.path / "mine.easel.json").string());
  saveNow(s.window.document(), pathOf(file));
  EXPECT_FALSE(s.window.isWindowModified());
  Shown again(false);
  ASSERT_TRUE(again.window.files()->openFile(file));
  ASSERT_TRUE(again.settled());
  EXPECT_TRUE(again.window.document()->plan() == s.window.document()->plan());
  EXPECT_EQ(again.window.renderLink()->latest()->answers->lights[0].aperture, aperture);
  EXPECT_TRUE(QSettings().value("recent").toStringList().first().endsWith("mine.easel.json"));
}

TEST(Window, ABrokenFileIsASentenceAndThePlanStays) {
  test::TemporaryFolder folder;
  Shown s;
  std::ofstream(folder.path / "broken.easel.json")
      << R"({"format":"jolly-easel-plan","version":1,"camera":{"iso":-4}})";
  const Plan before = s.window.document()->plan();
  EXPECT_FALSE(s.window.files()->openFile(QString::fromStdString((folder.path / "broken.easel.json").string())));
  EXPECT_TRUE(s.window.notice().contains("/camera/iso")) << s.window.notice().toStdString();
  EXPECT_TRUE(s.window.document()->plan() == before);
}

TEST(Window, AMissingSitterIsSaidOnTheEaselAndNothingIsLost) {
  Shown s;
  SitterPlace who = s.window.document()->plan().sitter;
  who.id = "nobody";
  s.window.document()->perform(SetSitter{who}, "Sitter");
  ASSERT_TRUE(eventually([&] { return s.window.notice().contains("nobody.sitter"); }))
      << s.window.notice().toStdString();
  s.window.document()->undo();
  ASSERT_TRUE(s.settled());
  EXPECT_TRUE(s.window.renderLink()->latest()->problem.empty());
}

TEST(Window, AddRemoveUndoByMenuKeys) {
  Shown s;
  QTest::keyClick(&s.window, Qt::Key_L, Qt::ControlModifier);
  ASSERT_EQ(s.window.document()->plan().lights.size(), 2u);
  EXPECT_EQ(s.window.selectedLight(), "B");
  QTest::keyClick(&s.window, Qt::Key_Backspace, Qt::ControlModifier);
  EXPECT_EQ(s.window.document()->plan().lights.size(), 1u);
  QTest::keyClick(&s.window, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(s.window.document()->plan().lights.size(), 2u);
  QTest::keyClick(&s.window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
  EXPECT_EQ(s.window.document()->plan().lights.size(), 1u);
}

// From a new plan to a balanced set of four, by keyboard alone, saved and found again.
TEST(Window, FourLightsBuiltBalancedSavedAndReopened) {
  test::TemporaryFolder folder;
  Shown s(false);
  int actions = 0;
  auto press = [&](Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
    QTest::keyClick(&s.window, key, modifiers);
    ++actions;
    ASSERT_TRUE(s.settled());
  };
  for (int i = 0; i < 3; ++i) press(Qt::Key_L, Qt::ControlModifier);
  // Added on its target; moved off it by hand.
  s.window.bench().ladder->setFocus();
  QTest::keyClick(s.window.bench().ladder, Qt::Key_Plus);
  ASSERT_TRUE(s.settled());
  press(Qt::Key_B, Qt::ControlModifier);
  const auto& plan = s.window.document()->plan();
  ASSERT_EQ(plan.lights.size(), 4u);
  const auto answers = s.window.renderLink()->latest()->answers;
  for (size_t i = 0; i < 4; ++i)
    EXPECT_NEAR(answers->lights[i].stopsFromWorking, plan.lights[i].targetStops, 0.06) << plan.lights[i].id;
  EXPECT_LT(actions, 25);
  const QString file = QString::fromStdString((folder.path / "four.easel.json").string());
  saveNow(s.window.document(), pathOf(file));
  Shown again(false);
  ASSERT_TRUE(again.window.files()->openFile(file));
  ASSERT_TRUE(again.settled());
  for (size_t i = 0; i < 4; ++i)
    EXPECT_EQ(again.window.renderLink()->latest()->answers->lights[i].aperture, answers->lights[i].aperture);
  s.window.document()->undo();
  EXPECT_NE(plan.lights[3].power, again.window.document()->plan().lights[3].power) << "balance is one step";
}

// Nobody is told to try again: what needs readings is done as soon as they are there.
TEST(Window, BalanceThatIsWantedBeforeTheReadingsComesWithThem) {
  Shown s;
  Light l = s.key();
  l.power -= 1.3;
  s.window.document()->perform(SetLight{l}, "Power");
  ASSERT_FALSE(s.window.bench().onEasel->answersNow()) << "the readings are of the plan before";
  QTest::keyClick(&s.window, Qt::Key_B, Qt::ControlModifier);
  EXPECT_NEAR(s.key().power, l.power, 1e-9);
  ASSERT_TRUE(eventually([&] { return std::abs(s.key().power - l.power) > 1; }));
  ASSERT_TRUE(s.settled());
  EXPECT_NEAR(s.window.renderLink()->latest()->answers->lights[0].stopsFromWorking, s.key().targetStops, 0.06);
}

TEST(Window, MirrorKey) {
  Shown s;
  QTest::keyClick(&s.window, Qt::Key_M, Qt::ControlModifier);
  EXPECT_NEAR(s.key().hour, 7.5, 1e-9);
}

TEST(Window, SixteenLightsAreTheLimitSaidInASentence) {
  Shown s;
  for (int i = 0; i < 20; ++i) QTest::keyClick(&s.window, Qt::Key_L, Qt::ControlModifier);
  EXPECT_EQ(s.window.document()->plan().lights.size(), 16u);
  EXPECT_TRUE(s.window.notice().contains("at most sixteen"));
}

TEST(Window, NoLightsIsAPlanToo) {
  Shown s;
  QTest::keyClick(&s.window, Qt::Key_Backspace, Qt::ControlModifier);
  EXPECT_TRUE(s.window.document()->plan().lights.empty());
  ASSERT_TRUE(s.settled());
  EXPECT_TRUE(s.window.selectedLight().isEmpty());
  for (QWidget* w : {static_cast<QWidget*>(s.window.bench().dial), static_cast<QWidget*>(s.window.bench().rail),
                     static_cast<QWidget*>(s.window.bench().ladder)})
    for (int key : {int(Qt::Key_Left), int(Qt::Key_Up), int(Qt::Key_Plus), int(Qt::Key_Return)})
      QTest::keyClick(w, Qt::Key(key));
  SUCCEED();
}

TEST(Window, EveryShortcutIsUniqueAndListed) {
  Shown s;
  QStringList seen;
  for (QAction* menu : s.window.menuBar()->actions())
    for (QAction* a : menu->menu()->actions())
      if (!a->shortcut().isEmpty()) {
        EXPECT_FALSE(seen.contains(a->shortcut().toString())) << a->text().toStdString();
        seen << a->shortcut().toString();
      }
  EXPECT_GE(seen.size(), 20);
  QTest::keyClick(&s.window, Qt::Key_F1);
  bool found = false;
  for (QDialog* d : s.window.findChildren<QDialog*>()) found |= d->isVisible() && !d->isModal();
  EXPECT_TRUE(found) << "the list does not stand in the way";
}

TEST(Window, ThemesAndStagesSwitch) {
  Shown s;
  QTest::keyClick(&s.window, Qt::Key_D, Qt::ControlModifier);
  EXPECT_TRUE(Theme::current().dim);
  QTest::keyClick(&s.window, Qt::Key_D, Qt::ControlModifier);
  EXPECT_FALSE(Theme::current().dim);
  for (int i = 0; i < 3; ++i) {
    s.window.setStage(i);
    EXPECT_FALSE(s.window.grab().isNull());
  }
  s.window.resize(2560, 1440);
  EXPECT_FALSE(s.window.grab().isNull());
}

TEST(Theme, TextHasEnoughContrast) {
  // WCAG 2.1 contrast ratio, 4.5:1 for text.
  auto luminanceOf = [](QColor c) {
    auto f = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    return 0.2126 * f(c.redF()) + 0.7152 * f(c.greenF()) + 0.0722 * f(c.blueF());
  };
  auto ratio = [&](QColor a, QColor b) {
    const double x = luminanceOf(a), y = luminanceOf(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
  };
  for (bool dim : {true, false}) {
    Theme::apply(*qApp, dim);
    const Theme& t = Theme::current();
    for (QColor ground : {t.window, t.panel})
      for (QColor ink : {t.text, t.quiet, t.accent, t.warn})
        EXPECT_GE(ratio(ink, ground), 4.5) << dim << ink.name().toStdString();
    EXPECT_GE(ratio(t.onAccent, t.accent), 4.5);
    EXPECT_GE(ratio(dim ? t.text : QColor(Qt::white), t.surround), 4.5);
    for (QColor ground : {t.window, t.panel}) EXPECT_GE(ratio(t.border, ground), 3) << "outline of a field";
  }
}

}  // namespace
}  // namespace easel::app
