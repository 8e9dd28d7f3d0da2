#include "rendering/renderer.h"

#include <gtest/gtest.h>

#include <atomic>
#include <chrono>
#include <condition_variable>
#include <mutex>
#include <set>
#include <thread>

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
    came.wait_for(lock, 600s, [&] {
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
  // A move every 10 ms, far faster than a preview, and no rest until four of them have been seen.
  const auto seen = [&] {
    std::set<const LayerPicture*> pictures;
    std::lock_guard lock(c.guard);
    for (const auto& x : c.all)
      if (x->layers->lights.count("A")) pictures.insert(x->layers->lights.at("A").get());
    return pictures.size();
  };
  for (int i = 0; i < 60'000 && seen() < 4; ++i) {
    p.lights[0].hour = 4 + 0.0001 * i;
    serial = r.setPlan(p, {}, 640, 800);
    std::this_thread::sleep_for(10ms);
  }
  EXPECT_GE(seen(), 4u);
  ASSERT_TRUE(c.waitFor([&](const Result& x) { return x.serial == serial && x.layers->current; }));
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

// What a day at the window does to the worker, as fast as it goes, while two others use what it has handed over: as the
// reading and the ledge do. Scenes, sitters and measured fronts are shared between all of them.
TEST(Renderer, QuickChangesOfEveryKindWhileOthersUseTheResults) {
  Collector c;
  std::atomic<bool> enough{false};
  std::atomic<int> used{0};
  Renderer r([&](auto result) { c.take(std::move(result)); });
  std::vector<std::thread> users;
  for (int who = 0; who < 2; ++who)
    users.emplace_back([&, who] {
      while (!enough) {
        std::shared_ptr<const Result> last;
        {
          std::lock_guard lock(c.guard);
          if (!c.all.empty()) last = c.all.back();
        }
        if (!last || !last->layers->usable || !last->layers->scene) {
          std::this_thread::yield();
          continue;
        }
        if (who == 0)
          static_cast<void>(developPicture(*last->layers, placedSetOf(last->plan), {}, 2));
        else
          static_cast<void>(computeAnswers(*last->layers->scene, placedSetOf(last->plan)));
        ++used;
      }
    });
  Plan p = test::demoPlan();
  std::uint64_t last = r.setPlan(p, {}, 32, 40);
  const auto change = [&](int i) {
    Light& l = p.lights[size_t(i) % p.lights.size()];
    switch (i % 9) {
      case 0:
        l.hour = 3 + 0.05 * (i % 40);
        break;
      case 1:
        l.power = -0.1 * (i % 30);
        break;
      case 2:
        l.on = !l.on;
        break;
      case 3:
        l.modifier = l.modifier == "reflector-18" ? "softbox-60x90" : "reflector-18";
        break;
      case 4:
        p.sitter.turn = i % 20 - 10;
        break;
      case 5:
        p.camera.aperture = 5.6 + 0.1 * (i % 20);
        break;
      case 6:
        l.fittings.gel = l.fittings.gel == "none" ? "warm-full" : "none";
        break;
      case 7:
        p.ambient.lux = 10 * (i % 7);
        break;
      default:
        p.backdrop.distance = 1 + 0.1 * (i % 10);
        break;
    }
  };
  for (int i = 0; i < 120; ++i) {
    change(i);
    const bool solo = i % 5 == 0;
    last = r.setPlan(p, solo ? Show{Show::What::Solo, p.lights[0].id} : Show{}, 32 + 8 * (i % 3), 40 + 10 * (i % 3),
                     {i % 4 == 0, i % 6 == 0});
    if (i % 10 == 9) {  // now and then the hand rests until something shows
      ASSERT_TRUE(c.waitFor([&](const Result& x) { return x.serial == last && x.layers->usable; })) << i;
    }
  }
  EXPECT_TRUE(c.waitFor([&](const Result& x) { return x.serial == last && x.done; }));
  enough = true;
  for (std::thread& t : users) t.join();
  EXPECT_GT(used, 10);
  for (const auto& x : c.all) EXPECT_EQ(x->problem, "");
}

// Two at once: what each delivers, in the order in which it came.
struct Two {
  std::mutex guard;
  std::condition_variable came;
  std::vector<std::pair<char, std::shared_ptr<const Result>>> all;
  Renderer front{[this](auto r) { take('f', std::move(r)); }}, behind{[this](auto r) { take('b', std::move(r)); }};

  Two() { behind.setPriority(Priority::Behind); }
  void take(char of, std::shared_ptr<const Result> r) {
    const std::lock_guard lock(guard);
    all.emplace_back(of, std::move(r));
    came.notify_all();
  }
  // Whether the one delivers such a result; its place in `all` then.
  template <class F>
  std::optional<size_t> waitFor(char of, F fits) {
    std::unique_lock lock(guard);
    std::optional<size_t> at;
    came.wait_for(lock, 600s, [&] {
      for (size_t i = 0; i < all.size() && !at; ++i)
        if (all[i].first == of && fits(*all[i].second)) at = i;
      return at.has_value();
    });
    return at;
  }
};
const auto kDone = [](const Result& r) { return r.done; };

TEST(Renderer, TheOneBehindWaitsUntilTheOneInViewIsDone) {
  Two two;
  two.front.setPlan(test::demoPlan(), {}, 48, 60);
  two.behind.setPlan(test::demoPlan(), {}, 48, 60);
  const auto behind = two.waitFor('b', kDone), front = two.waitFor('f', kDone);
  ASSERT_TRUE(behind && front);
  EXPECT_LT(*front, *behind);
  for (size_t i = 0; i < *front; ++i) EXPECT_EQ(two.all[i].first, 'f') << i;
}

TEST(Renderer, TheOneBehindStopsForTheOneInViewAndGoesOn) {
  Two two;
  two.behind.setPlan(test::demoPlan(), {}, 160, 200);
  ASSERT_TRUE(two.waitFor('b', [](const Result& r) { return r.layers->usable; }));
  two.front.setPlan(test::demoPlan(), {}, 48, 60);
  const auto front = two.waitFor('f', kDone), behind = two.waitFor('b', kDone);
  ASSERT_TRUE(behind && front);
  EXPECT_LT(*front, *behind);
  EXPECT_EQ(two.all[*behind].second->passes, 64);
}

TEST(Renderer, WhoComesIntoViewGoesFirst) {
  Two two;
  two.front.setPlan(test::demoPlan(), {}, 160, 200);
  two.behind.setPlan(test::demoPlan(), {}, 48, 60);
  two.behind.setPriority(Priority::InView);
  two.front.setPriority(Priority::Behind);
  const auto behind = two.waitFor('b', kDone), front = two.waitFor('f', kDone);
  ASSERT_TRUE(behind && front);
  EXPECT_LT(*behind, *front);
}

TEST(Renderer, OneThatGoesAwayAtWorkLeavesTheWayFree) {
  Collector c;
  Renderer behind([&](auto result) { c.take(std::move(result)); });
  behind.setPriority(Priority::Behind);
  {
    Renderer front([](auto) {});
    front.setPlan(test::demoPlan(), {}, 160, 200);
    behind.setPlan(test::demoPlan(), {}, 48, 60);
  }
  EXPECT_TRUE(c.waitFor(kDone));
  Renderer waiting([](auto) {});  // ends while it gives way
  Renderer front([](auto) {});
  waiting.setPriority(Priority::Behind);
  front.setPlan(test::demoPlan(), {}, 160, 200);
  waiting.setPlan(test::demoPlan(), {}, 48, 60);
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
