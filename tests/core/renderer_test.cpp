#include "light/renderer.h"

#include <gtest/gtest.h>

#include <chrono>
#include <condition_variable>
#include <mutex>
#include <set>

#include "support.h"

namespace easel {
namespace {

using namespace std::chrono_literals;

// Collects what the worker delivers.
struct Collector {
  std::mutex guard;
  std::condition_variable came;
  std::vector<std::shared_ptr<const Result>> all;
  void take(std::shared_ptr<const Result> r) {
    std::lock_guard lock(guard);
    all.push_back(std::move(r));
    came.notify_all();
  }
  template <class F>
  std::shared_ptr<const Result> waitFor(F fits) {
    std::unique_lock lock(guard);
    std::shared_ptr<const Result> found;
    came.wait_for(lock, 60s, [&] {
      for (const auto& r : all)
        if (fits(*r)) found = r;
      return found != nullptr;
    });
    return found;
  }
};

TEST(Renderer, PicturesGetBetterUntilDone) {
  Collector c;
  Renderer r([&](auto result) { c.take(std::move(result)); });
  const auto serial = r.setPlan(test::demoPlan(), {}, 48, 60);
  const auto done = c.waitFor([&](const Result& x) { return x.done && x.serial == serial; });
  ASSERT_TRUE(done);
  EXPECT_EQ(done->picture.width, 48);
  EXPECT_EQ(done->passes, 64);
  ASSERT_TRUE(done->answers);
  EXPECT_GT(done->answers->lights[0].aperture, 1);
  EXPECT_EQ(done->prints.size(), 3u);
  EXPECT_GE(c.all.size(), 4u);
}

TEST(Renderer, TheLatestPlanWins) {
  Collector c;
  Renderer r([&](auto result) { c.take(std::move(result)); });
  Plan p = test::demoPlan();
  std::uint64_t last = 0;
  for (int i = 0; i < 200; ++i) {
    p.lights[0].hour = 3 + 0.01 * i;
    last = r.setPlan(p, {}, 48, 60);
  }
  const auto done = c.waitFor([&](const Result& x) { return x.done && x.serial == last; });
  ASSERT_TRUE(done);
  EXPECT_DOUBLE_EQ(done->plan.lights[0].hour, p.lights[0].hour);
}

TEST(Renderer, AFastHandStillSeesThePictureMove) {
  Collector c;
  Renderer r([&](auto result) { c.take(std::move(result)); });
  Plan p = test::demoPlan();
  std::uint64_t serial = r.setPlan(p, {}, 640, 800);
  ASSERT_TRUE(c.waitFor([&](const Result& x) { return x.layers->current; }));
  std::set<const LayerPicture*> seen;
  for (int i = 0; i < 150; ++i) {  // a move every 10 ms, far faster than a preview
    p.lights[0].hour += 0.005;
    serial = r.setPlan(p, {}, 640, 800);
    std::this_thread::sleep_for(10ms);
  }
  ASSERT_TRUE(c.waitFor([&](const Result& x) { return x.serial == serial && x.layers->current; }));
  for (const auto& x : c.all)
    if (x->layers->lights.count("A")) seen.insert(x->layers->lights.at("A").get());
  EXPECT_GE(seen.size(), 4u);
}

TEST(Renderer, AProblemIsASentenceAndTheNextPlanIsComputed) {
  Collector c;
  Renderer r([&](auto result) { c.take(std::move(result)); });
  Plan bad = test::demoPlan();
  bad.sitter.id = "nobody";
  const auto first = r.setPlan(bad, {}, 32, 40);
  const auto problem = c.waitFor([&](const Result& x) { return x.serial == first && !x.problem.empty(); });
  ASSERT_TRUE(problem);
  const auto second = r.setPlan(test::demoPlan(), {}, 32, 40);
  const auto good = c.waitFor([&](const Result& x) { return x.serial == second && !x.picture.rgba.empty(); });
  ASSERT_TRUE(good);
  EXPECT_TRUE(good->problem.empty());
}

TEST(Renderer, StopsInTheMiddleOfWork) {
  for (int i = 0; i < 4; ++i) {
    Renderer r([](auto) {});
    r.setPlan(test::demoPlan(), {}, 320, 400);
    std::this_thread::sleep_for(std::chrono::milliseconds(40 * i));
  }
  SUCCEED();  // it is the leak and thread checkers, and the time limit, that would fail
}

}  // namespace
}  // namespace easel
