// Work on a thread of its own: the newest wins, and nothing comes back when nobody waits for it.
#include "render/background_task.h"

#include <gtest/gtest.h>

#include <QSignalSpy>
#include <QTest>
#include <QThread>
#include <stdexcept>

#include "eventually.h"

namespace easel::app {
namespace {

TEST(BackgroundTask, BringsItsResultHome) {
  BackgroundTask e;
  QSignalSpy ended(&e, &BackgroundTask::ended);
  int result = 0;
  const auto home = QThread::currentThread();
  e.start([&](const BackgroundTask::Go& go) -> BackgroundTask::Done {
    EXPECT_NE(QThread::currentThread(), home);
    EXPECT_TRUE(go(0.5));
    return [&] {
      EXPECT_EQ(QThread::currentThread(), home);
      result = 42;
    };
  });
  EXPECT_TRUE(e.running());
  ASSERT_TRUE(eventually([&] { return result == 42; }));
  EXPECT_TRUE(eventually([&] { return ended.count() == 1; }));
  EXPECT_FALSE(e.running());
}

TEST(BackgroundTask, TheNewestWins) {
  BackgroundTask e;
  std::atomic<bool> release{false};
  int first = 0, second = 0;
  e.start([&](const BackgroundTask::Go&) -> BackgroundTask::Done {
    while (!release) QThread::msleep(2);
    return [&] { ++first; };
  });
  e.start([&](const BackgroundTask::Go&) -> BackgroundTask::Done { return [&] { ++second; }; });
  release = true;
  ASSERT_TRUE(eventually([&] { return second == 1; }));
  // What was delivered by the first would have come before this.
  int third = 0;
  e.start([&](const BackgroundTask::Go&) -> BackgroundTask::Done { return [&] { ++third; }; });
  ASSERT_TRUE(eventually([&] { return third == 1; }));
  EXPECT_EQ(first, 0) << "what was replaced is not delivered";
}

TEST(BackgroundTask, CancelledNothingComesBack) {
  BackgroundTask e;
  std::atomic<int> asked{0};
  std::atomic<bool> told{false};
  int done = 0;
  e.start([&](const BackgroundTask::Go& go) -> BackgroundTask::Done {
    while (go(0)) {
      ++asked;
      QThread::msleep(2);
    }
    told = true;
    return [&] { ++done; };
  });
  ASSERT_TRUE(eventually([&] { return asked > 2; }));
  QSignalSpy ended(&e, &BackgroundTask::ended);
  e.cancel();
  EXPECT_EQ(ended.count(), 1);
  ASSERT_TRUE(eventually([&] { return told.load(); })) << "the work hears of it";
  int next = 0;
  e.start([&](const BackgroundTask::Go&) -> BackgroundTask::Done { return [&] { ++next; }; });
  ASSERT_TRUE(eventually([&] { return next == 1; }));
  EXPECT_EQ(done, 0);
}

TEST(BackgroundTask, AFailureIsASentence) {
  BackgroundTask e;
  QSignalSpy failed(&e, &BackgroundTask::failed);
  e.start(
      [](const BackgroundTask::Go&) -> BackgroundTask::Done { throw std::runtime_error("The sitter is missing."); });
  ASSERT_TRUE(eventually([&] { return failed.count() == 1; }));
  EXPECT_EQ(failed[0][0].toString(), "The sitter is missing.");
  EXPECT_FALSE(e.running());
}

TEST(BackgroundTask, CanGoWhileItsWorkRuns) {
  std::atomic<bool> started{false}, ended{false};
  {
    BackgroundTask e;
    e.start([&](const BackgroundTask::Go& go) -> BackgroundTask::Done {
      started = true;
      while (go(0)) QThread::msleep(1);
      ended = true;
      return {};
    });
    ASSERT_TRUE(eventually([&] { return started.load(); }));
  }
  EXPECT_TRUE(ended) << "it was waited for";
}

}  // namespace
}  // namespace easel::app
