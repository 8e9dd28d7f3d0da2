// A window in the stage Run with the four-light demo, and the keys of a run.
#pragma once

#include <QCheckBox>
#include <QLineEdit>
#include <QPushButton>
#include <filesystem>
#include <string>

#include "metering/run_card.h"
#include "window_support.h"

namespace easel::app {

struct Running : Shown {
  MeteringRun* run = nullptr;
  RunCard* card = nullptr;
  QLineEdit* said = nullptr;
  int presses = 0;

  explicit Running(bool begun = true, bool fresh = true, const std::string& demo = "marrow-lane-master")
      : Shown(false) {
    if (fresh) std::filesystem::remove_all(journalFile().parent_path());
    window.files()->openFile(QString::fromStdString(test::demoFile(demo)));
    EXPECT_TRUE(settled());
    window.showStage(QStringLiteral("Run"));
    field<QCheckBox>(window, "runByEye")->setChecked(false);
    run = window.findChild<MeteringRun*>();
    card = window.findChild<RunCard*>();
    said = field<QLineEdit>(window, "runSaid");
    field<QLineEdit>(window, "runStudio")->setText("Marrow Lane");
    field<QLineEdit>(window, "runMeter")->setText("pocket");
    if (begun) begin();
  }
  void begin() {
    QTest::mouseClick(field<QPushButton>(window, "runBegin"), Qt::LeftButton);
    EXPECT_TRUE(calm());
    ASSERT_TRUE(run->on());
  }
  bool calm() {
    return eventually([&] { return !run->working(); }) && settled() && eventually([&] { return !run->working(); });
  }
  void press(Qt::Key key = Qt::Key_Return) {
    ++presses;
    QTest::keyClick(said, key);
    EXPECT_TRUE(calm());
  }
  void say(const QString& words) {
    QTest::keyClicks(said, words);
    press();
  }
  const RunCourse& course() { return *run->course(); }
  QString spelled(double fNumber) { return QString::number(fNumber, 'f', 4).prepend("f/"); }
  QString key() { return field<QPushButton>(window, "runKey")->text(); }
  const Plan& plan() { return window.document()->plan(); }
};

}  // namespace easel::app
