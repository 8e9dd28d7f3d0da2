// The metering run in the real window: one key to go on, readings typed or called, the journal behind it.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QSettings>
#include <QTableWidget>
#include <cmath>

#include "run/by_eye.h"
#include "run_support.h"
#include "victim.h"

namespace easel::app {
namespace {

TEST(RunStage, GoesFromAllOffToAllSetWithOneKey) {
  Running r;
  EXPECT_TRUE(r.card->step()->spoken().contains("All flashes off")) << qPrintable(r.card->step()->spoken());
  r.say("nothing");
  EXPECT_EQ(r.course().reading(0)->judgement.verdict, Judgement::Verdict::OnTarget);
  r.press();
  EXPECT_EQ(r.course().step().light, "A");
  EXPECT_EQ(r.window.bench().easel->evidence()->meter()->at.x, r.course().step().meter.at.x)
      << "drawn where it is held";
  for (int step = 0; step < 10 && !r.course().over(); ++step) {
    if (r.course().step().kind != RunStep::Kind::Picture) r.say(r.spelled(r.course().step().expected));
    if (r.card->keyDoes() == RunCard::KeyDoes::SetAsTold) {  // a step of the scale beside its target
      r.press();
      r.say(r.spelled(r.course().step().expected));
    }
    EXPECT_EQ(r.card->keyDoes(), RunCard::KeyDoes::GoOn) << qPrintable(r.card->step()->spoken());
    r.press();
  }
  EXPECT_TRUE(r.course().open().empty());
  EXPECT_EQ(r.card->keyDoes(), RunCard::KeyDoes::End);
  EXPECT_LE(r.presses, 25);
  EXPECT_FALSE(Journal(journalFile()).sessions().front().ended.empty()) << "through: nothing has broken off";
}

TEST(RunStage, ALightThatWorksOnAPieceIsReadAtThatPiece) {
  Running r(true, true, "scenes/marrow-lane-bench");
  const Panel& bench = r.plan().panels.front();
  while (!r.course().over() && r.course().step().light != "B") r.run->goTo(r.course().at() + 1), r.calm();
  ASSERT_FALSE(r.course().over());
  EXPECT_TRUE(r.card->step()->spoken().contains("flat, on table 1")) << qPrintable(r.card->step()->spoken());
  EXPECT_NEAR(r.window.bench().easel->evidence()->meter()->at.y, bench.above + bench.height / 2, 0.03)
      << "drawn on its top";
  EXPECT_EQ(r.window.bench().easel->evidence()->meter()->looks.y, 1.f);
  r.say(r.spelled(r.course().step().expected * std::exp2(-0.5 / 2)));
  EXPECT_EQ(r.card->keyDoes(), RunCard::KeyDoes::SetAsTold) << "half a stop under its target there";
  const double power = r.plan().light("B")->power;
  r.press();
  EXPECT_NEAR(r.plan().light("B")->power, power + 0.5, 0.051);
}

TEST(RunStage, SpaceGoesOnOnlyWhereNothingIsTyped) {
  Running r;
  r.say("too dark");
  r.press(Qt::Key_Space);
  EXPECT_EQ(r.course().at(), 1u);
  QTest::keyClicks(r.said, "five six and a half");
  EXPECT_EQ(r.said->text(), "five six and a half") << "said in several words";
  EXPECT_EQ(r.course().at(), 1u);
  r.press();
  EXPECT_NEAR(2 * std::log2(r.course().reading(1)->fNumber), 5.5, 1e-6);
  EXPECT_TRUE(r.said->text().isEmpty());
}

TEST(RunStage, WhatIsNoReadingStaysTyped) {
  Running r;
  QTest::keyClicks(r.said, "bright");
  QTest::keyClick(r.said, Qt::Key_Return);
  EXPECT_EQ(r.said->text(), "bright");
  EXPECT_TRUE(r.window.notice().contains("is not a reading")) << qPrintable(r.window.notice());
  EXPECT_FALSE(r.course().reading(0));
}

TEST(RunStage, ThePowerThatBringsItIsOneStepOfUndo) {
  Running r;
  r.run->goTo(1);
  ASSERT_TRUE(r.calm());
  const double power = r.plan().lights[0].power;
  r.say(r.spelled(r.course().step().expected * std::exp2(0.3 / 2)));
  EXPECT_EQ(r.card->keyDoes(), RunCard::KeyDoes::SetAsTold);
  EXPECT_TRUE(r.key().contains("Set A to")) << qPrintable(r.key());
  r.press();
  EXPECT_NEAR(r.plan().lights[0].power, power - 0.3, 0.051) << "in the plan, as the unit can be set";
  EXPECT_EQ(r.card->keyDoes(), RunCard::KeyDoes::Read) << "and then it is read again";
  EXPECT_NEAR(r.course().step().fromTarget, 0, 0.06) << "the head is known now";
  r.window.document()->undo();
  ASSERT_TRUE(r.calm());
  EXPECT_EQ(r.plan().lights[0].power, power);
  EXPECT_NEAR(r.course().step().fromTarget, 0.3, 0.06) << "what the head gives is not forgotten with it";
}

TEST(RunStage, AMoveUnsettlesJustWhatItChanges) {
  Running r;
  for (const size_t step : {1, 3}) {
    r.run->goTo(int(step));
    ASSERT_TRUE(r.calm());
    r.say(r.spelled(r.course().step().expected));
  }
  Light moved = r.plan().lights[0];
  moved.distance *= 1.3;
  r.window.document()->perform(SetLight{moved}, "Move");
  ASSERT_TRUE(r.calm());
  ASSERT_TRUE(r.course().reading(1)->unsettled);
  EXPECT_LT(*r.course().reading(1)->unsettled, -0.4);
  EXPECT_FALSE(r.course().reading(3)->unsettled) << "the fill is as it was";
  const Journal j(journalFile());
  const auto events = j.events(j.sessions().front().id);
  ASSERT_EQ(events.size(), 1u);
  EXPECT_EQ(events[0].words, "Move") << "what was done stands in the journal";
  EXPECT_EQ(r.course().at(), 3u) << "and the run stays where it stood";
  auto* table = field<QTableWidget>(r.window, "runTable");
  EXPECT_TRUE(table->item(1, 5)->text().contains("again")) << qPrintable(table->item(1, 5)->text());
}

TEST(RunStage, ADragIsOneChangeInTheJournal) {
  Running r;
  for (int i = 0; i < 12; ++i) {
    Light dragged = r.plan().lights[0];
    dragged.distance += 0.02;
    r.window.document()->perform(SetLight{dragged}, "Drag A", "drag");
    QCoreApplication::processEvents();
  }
  r.window.document()->endMerge();
  ASSERT_TRUE(r.calm());
  const Journal j(journalFile());
  EXPECT_EQ(j.events(j.sessions().front().id).size(), 1u);
  EXPECT_EQ(r.course().plan(), r.plan()) << "and the run stands by its end";
}

TEST(RunStage, AnotherPlanEndsIt) {
  Running r;
  r.window.files()->openFile(QString::fromStdString(test::demoFile("marrow-lane-maker")));
  ASSERT_TRUE(eventually([&] { return !r.run->on(); }));
  EXPECT_TRUE(r.calm());
  EXPECT_FALSE(Journal(journalFile()).sessions().front().ended.empty());
}

// Which plan it is, is no matter of names: two that have none, and the same title, are two.
TEST(RunStage, AnotherPlanOfTheSameTitleEndsIt) {
  Running r;
  Plan other = r.plan();
  other.lights[0].distance *= 1.5;
  r.window.document()->startFrom(other);
  EXPECT_FALSE(r.run->on());
  EXPECT_TRUE(r.calm());
  EXPECT_FALSE(Journal(journalFile()).sessions().front().ended.empty());
}

TEST(RunStage, SavingUnderAnotherNameIsNoOtherPlan) {
  test::TemporaryFolder folder;
  Running r;
  saveNow(r.window.document(), folder.path / "another.easel.json");
  r.window.document()->perform(SetTitle{"Another", ""}, "Title");
  ASSERT_TRUE(r.calm());
  EXPECT_TRUE(r.run->on());
}

// One after the other without waiting; the letters.
std::string readAllLightsAlone(Running& r) {
  std::string letters;
  const std::vector<RunStep> steps = r.course().steps();
  for (size_t i = 0; i < steps.size(); ++i)
    if (steps[i].kind == RunStep::Kind::Alone) {
      r.run->goTo(int(i));
      r.run->read(8);
      letters += steps[i].light;
    }
  EXPECT_GE(letters.size(), 3u);
  EXPECT_TRUE(r.run->working());
  return letters;
}

// What was said before it is ended counts, also what is still being judged.
TEST(RunStage, EndingLosesNoReading) {
  Running r;
  const std::string read = readAllLightsAlone(r);
  r.run->end();
  EXPECT_FALSE(r.run->on());
  ASSERT_TRUE(r.calm());
  const Journal j(journalFile());
  std::string lights;
  for (const JournalReading& read : j.readings(j.sessions().front().id)) lights += read.light;
  EXPECT_EQ(lights, read);
  EXPECT_FALSE(j.sessions().front().ended.empty());
}

TEST(RunStage, ClosingTheWindowInTheMiddleLosesNoReading) {
  std::string read;
  {
    Running r;
    read = readAllLightsAlone(r);
  }
  Strand::finishAll();
  const Journal j(journalFile());
  std::string lights;
  for (const JournalReading& read : j.readings(j.sessions().front().id)) lights += read.light;
  EXPECT_EQ(lights, read);
}

TEST(RunStage, AllLightsGoDownWhereTheApertureStays) {
  Running r(false);
  field<QComboBox>(r.window, "runSchool")->setCurrentIndex(int(CameraSchool::LowerAll));
  r.begin();
  r.run->goTo(int(r.course().steps().size()) - 1);
  ASSERT_TRUE(r.calm());
  const Plan before = r.plan();
  r.say(r.spelled(before.camera.aperture * std::exp2(0.5 / 2)));
  ASSERT_EQ(r.card->keyDoes(), RunCard::KeyDoes::SetCamera) << qPrintable(r.key());
  r.press();
  for (size_t i = 0; i < before.lights.size(); ++i)
    EXPECT_NEAR(r.plan().lights[i].power, before.lights[i].power - 0.5, 0.17) << i;
  EXPECT_EQ(r.plan().camera.closedBy, 0);
  field<QComboBox>(r.window, "runSchool")->setCurrentIndex(int(CameraSchool::EverythingOn));
  QSettings().remove("run/school");
}

TEST(RunStage, WhatCannotBeTheLightIsToldWithItsCause) {
  Running r;
  r.run->goTo(1);
  ASSERT_TRUE(r.calm());
  r.say("nothing");
  EXPECT_EQ(r.course().reading(1)->judgement.verdict, Judgement::Verdict::Implausible);
  EXPECT_TRUE(r.card->step()->spoken().contains("Nothing fired")) << qPrintable(r.card->step()->spoken());
  EXPECT_EQ(r.card->keyDoes(), RunCard::KeyDoes::Read);
  r.say(r.spelled(r.course().step().expected));
  EXPECT_EQ(r.card->keyDoes(), RunCard::KeyDoes::GoOn) << "a second reading that is right settles it";
}

TEST(RunStage, ByEyeACardInThePictureIsTheMeter) {
  Running r(false);
  field<QCheckBox>(r.window, "runByEye")->setChecked(true);
  r.begin();
  EXPECT_TRUE(r.window.bench().easel->tools().histogram);
  r.run->goTo(1);
  ASSERT_TRUE(r.calm());
  const double expected = r.course().step().expected;
  const QString value = QString::number(cardValue(r.plan().camera, expected));
  EXPECT_TRUE(r.card->step()->spoken().contains("comes out at " + value)) << qPrintable(r.card->step()->spoken());
  r.say("card " + value);
  EXPECT_NEAR(r.course().reading(1)->judgement.off, 0, 0.03);
  r.say(QString::number(cardValue(r.plan().camera, expected * std::exp2(0.25))));
  EXPECT_NEAR(r.course().reading(1)->judgement.off, 0.5, 0.05);
  QTest::keyClicks(r.said, "255");
  QTest::keyClick(r.said, Qt::Key_Return);
  EXPECT_TRUE(r.window.notice().contains("burnt out")) << qPrintable(r.window.notice());
  field<QCheckBox>(r.window, "runByEye")->setChecked(false);
  r.window.bench().easel->setTools({});
}

TEST(RunStage, EveryReadingStandsInTheJournalBeforeItIsShown) {
  Running r;
  const Journal beside(journalFile());
  const auto last = [&] { return beside.sessions().front(); };
  const std::int64_t id = last().id;
  EXPECT_EQ(last().studio, "Marrow Lane");
  QObject::connect(r.run, &MeteringRun::changed, &r.window, [&] {
    const auto& shown = r.run->course() ? r.run->course()->reading(0) : std::optional<StepReading>();
    if (shown) {
      EXPECT_GE(beside.readings(id).size(), size_t(shown->tries));
    }
  });
  r.say("nothing");
  r.say("f/1");
  const auto readings = beside.readings(id);
  ASSERT_EQ(readings.size(), 2u);
  EXPECT_EQ(readings[0].step, "off");
  EXPECT_EQ(readings[1].meter, "pocket");
  EXPECT_NEAR(readings[1].read, 1, 1e-6);
  EXPECT_EQ(readings[0].why, "");
  EXPECT_EQ(readings[1].why, "once more");
  r.run->note("a lamp over the glue pot");
  ASSERT_TRUE(r.calm());
  EXPECT_TRUE(last().notes.find("glue pot") != std::string::npos) << last().notes;
  EXPECT_TRUE(last().ended.empty());
  QTest::mouseClick(field<QPushButton>(r.window, "runEnd"), Qt::LeftButton);
  EXPECT_TRUE(r.calm());
  EXPECT_FALSE(r.run->on());
  EXPECT_FALSE(last().ended.empty());
}

// A window that reads and reads, and says what it has shown.
TEST(DISABLED_Victim, Meters) {
  if (!qEnvironmentVariableIsSet("EASEL_VICTIM_DATA")) GTEST_SKIP() << "run by KilledInTheMiddle...";
  ::setenv("XDG_DATA_HOME", qEnvironmentVariable("EASEL_VICTIM_DATA").toUtf8().constData(), 1);
  Running r(true, false, "marrow-lane-first-light");
  int shown = 0;
  QObject::connect(r.run, &MeteringRun::changed, &r.window, [&] {
    const auto& now = r.run->course() ? r.run->course()->reading(0) : std::optional<StepReading>();
    if (!now || now->tries == shown) return;
    shown = now->tries;
    std::printf("shown %d\n", shown);
    std::fflush(stdout);
  });
  for (;;) {
    r.run->read(0.9);
    QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
  }
}

TEST(RunStage, KilledInTheMiddleItHasLostNothingThatWasShown) {
  std::filesystem::remove_all(journalFile().parent_path());
  for (int kill = 1; kill <= 8; ++kill) {
    Victim victim("Meters");
    QByteArray said;
    int shown = 0;
    while (shown < 3 * kill) {
      ASSERT_TRUE(victim.waits()) << said.constData();
      said += victim.said();
      for (const QByteArray& line : said.split('\n'))
        if (line.startsWith("shown ")) shown = std::max(shown, line.mid(6).toInt());
    }
    victim.killNine();
    const Journal j(journalFile());
    const JournalSession last = j.sessions().front();
    EXPECT_GE(last.readings, shown) << "at the kill after " << shown;
    EXPECT_TRUE(last.ended.empty()) << "it broke off, and says so";
  }
}

TEST(RunStage, WhatEarlierSessionsTaughtIsExpected) {
  {
    Running r;
    for (int step : {1, 3})
      for (int again = 0; again < 3; ++again) {
        r.run->goTo(step);
        ASSERT_TRUE(r.calm());
        const double f = r.course().answers().light(r.course().step().light)->aperture * std::exp2(-0.4 / 2);
        r.run->read(f);
        ASSERT_TRUE(r.calm());
      }
    r.run->end();
    ASSERT_TRUE(r.calm());
  }
  Running again(true, false);
  again.run->goTo(1);
  ASSERT_TRUE(again.calm());
  EXPECT_NEAR(again.course().step().fromTarget, -0.4, 0.1) << "this room, this meter";
  EXPECT_LT(again.course().step().within, 0.2);
  EXPECT_TRUE(again.card->step()->spoken().contains("within 0.1 stop")) << qPrintable(again.card->step()->spoken());
}

TEST(RunStage, AJournalThatCannotBeWrittenIsSaidAndTheRunGoesOn) {
  const auto file = journalFile();
  std::filesystem::remove_all(file.parent_path());
  std::filesystem::create_directories(file);  // a folder stands where the file should
  {
    Running r(true, false);
    EXPECT_TRUE(r.window.notice().contains("without a journal")) << qPrintable(r.window.notice());
    r.say("nothing");
    EXPECT_EQ(r.course().reading(0)->judgement.verdict, Judgement::Verdict::OnTarget);
  }
  std::filesystem::remove_all(file);
}

TEST(RunStage, TheEaselShowsWhatATestPictureWould) {
  Running r;
  EXPECT_EQ(r.window.bench().easel->evidence()->any(), false);
  r.run->goTo(1);
  ASSERT_TRUE(r.calm());
  const QImage alone = r.window.bench().easel->picture();
  r.window.setStage(1);
  ASSERT_TRUE(r.settled());
  EXPECT_NE(r.window.bench().easel->picture(), alone) << "everything on again in Build";
  EXPECT_FALSE(r.window.bench().easel->evidence()->meter());
}

TEST(RunStage, TheCameraIsSetByTheSchoolFromWhatWasRead) {
  Running r;
  const int all = int(r.course().steps().size()) - 1;
  r.run->goTo(all);
  ASSERT_TRUE(r.calm());
  const double target = r.plan().camera.aperture;
  r.say(r.spelled(target * std::exp2(1.0 / 6)));  // a third over
  ASSERT_EQ(r.card->keyDoes(), RunCard::KeyDoes::SetCamera) << qPrintable(r.key());
  r.press();
  EXPECT_NEAR(r.plan().camera.closedBy, 1.0 / 3, 1e-6);
  EXPECT_EQ(r.card->keyDoes(), RunCard::KeyDoes::GoOn);
  r.press();
  EXPECT_TRUE(r.course().over());
  EXPECT_TRUE(r.key().contains("Read")) << "what was passed over is offered: " << qPrintable(r.key());
  r.press();
  EXPECT_EQ(r.course().at(), 0u);
}

TEST(RunStage, WithoutALightThereIsNothingToRun) {
  Shown s(false);
  s.window.document()->startNew();
  while (!s.window.document()->plan().lights.empty())
    s.window.document()->perform(RemoveLight{s.window.document()->plan().lights.front().id}, "away");
  s.window.showStage(QStringLiteral("Run"));
  EXPECT_FALSE(field<QPushButton>(s.window, "runBegin")->isEnabled());
}

}  // namespace
}  // namespace easel::app
