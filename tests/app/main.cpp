// One application for all tests of the window; settings and state go to a folder of their own.
#include <gtest/gtest.h>

#include <QApplication>
#include <clocale>
#include <cstdio>
#include <cstdlib>

#include "document/strand.h"
#include "processors.h"
#include "support.h"
#include "widgets/theme.h"
#include "widgets/watched_application.h"

int main(int argc, char** argv) {
  easel::test::TemporaryFolder home;
  ::setenv("XDG_CONFIG_HOME", (home.path / "config").c_str(), 1);
  std::filesystem::create_directory(home.path / "run");
  std::filesystem::permissions(home.path / "run", std::filesystem::perms::owner_all);
  ::setenv("XDG_RUNTIME_DIR", (home.path / "run").c_str(), 1);
  ::setenv("XDG_DATA_HOME", (home.path / "data").c_str(), 1);
  ::setenv("XDG_STATE_HOME", (home.path / "state").c_str(), 1);
  if (!std::getenv("QT_QPA_PLATFORM")) ::setenv("QT_QPA_PLATFORM", "offscreen", 1);
  ::testing::InitGoogleTest(&argc, argv);
  const easel::test::Processors processors;
  easel::app::WatchedApplication application(argc, argv);
  application.watch();
  QApplication::setOrganizationName("jolly-easel-tests");
  QApplication::setApplicationName("jolly-easel-tests");
  easel::app::Theme::apply(application, false);
  const int result = RUN_ALL_TESTS();
  easel::app::Strand::finishAll();
  std::printf("longest event of the interface thread: %.1f ms (%s), %d over 8 ms\n", application.longest().milliseconds,
              qPrintable(application.longest().what), application.late());
  std::printf("%s", qPrintable(application.lateOnes(20)));
  return result;
}
