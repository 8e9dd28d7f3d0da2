// The program itself, started as a user starts it.
#include <gtest/gtest.h>

#include <QImage>
#include <QProcess>
#include <fstream>

#include "support.h"

namespace easel::app {
namespace {

struct Ended {
  int status;
  QString err;
};
Ended start(const QStringList& arguments, const QStringList& without = {}) {
  QProcess p;
  QProcessEnvironment env = QProcessEnvironment::systemEnvironment();
  for (const QString& name : without) env.remove(name);
  p.setProcessEnvironment(env);
  p.start(QStringLiteral(EASEL_BINARY_DIR "/app/jolly-easel"), arguments);
  EXPECT_TRUE(p.waitForFinished(120000));
  return {p.exitStatus() == QProcess::NormalExit ? p.exitCode() : -1, QString::fromUtf8(p.readAllStandardError())};
}

TEST(Program, WritesAPictureOfTheWindow) {
  test::TemporaryFolder folder;
  const QString file = QString::fromStdString((folder.path / "w.png").string());
  const Ended e = start({QString::fromStdString(test::demoFile()), "--picture", file, "--size", "1280x800", "--hasty"});
  ASSERT_EQ(e.status, 0) << e.err.toStdString();
  const QImage shot(file);
  EXPECT_EQ(shot.size(), QSize(1280, 800));
  // The face is there: warm and bright on the left half.
  EXPECT_GT(qRed(shot.pixel(310, 290)), qBlue(shot.pixel(310, 290)));
}

TEST(Program, ABrokenPlanIsStatusTwoAndASentence) {
  test::TemporaryFolder folder;
  std::ofstream(folder.path / "b.easel.json") << "{\"format\":\"jolly-easel-plan\",\"version\":7}";
  const Ended e =
      start({QString::fromStdString((folder.path / "b.easel.json").string()), "--picture", "/tmp/never.png"});
  EXPECT_EQ(e.status, 2);
  EXPECT_TRUE(e.err.contains("version 7")) << e.err.toStdString();
}

TEST(Program, WithoutADisplayItSaysWhatToDo) {
  const Ended e = start({}, {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"});
  EXPECT_EQ(e.status, 2);
  EXPECT_TRUE(e.err.contains("--picture")) << e.err.toStdString();
}

TEST(Program, APictureThatCannotBeWrittenIsASentence) {
  const Ended e = start({QString::fromStdString(test::demoFile()), "--picture", "/nowhere/at/all.png"});
  EXPECT_EQ(e.status, 2);
  EXPECT_TRUE(e.err.contains("/nowhere/at/all.png")) << e.err.toStdString();
}

}  // namespace
}  // namespace easel::app
