// What is made once and shared.
#include "transport/shared.h"

#include <gtest/gtest.h>

#include <stdexcept>
#include <string>

namespace easel {
namespace {

struct Weighed {
  int key;
  double weighs;
  double bytes() const { return weighs; }
};

class SharedThings : public ::testing::Test {
 protected:
  Shared<int, Weighed> all{100};
  int made = 0;
  std::shared_ptr<const Weighed> ask(int key, double weighs = 50) {
    return all.get(key, [&] {
      ++made;
      return std::make_shared<const Weighed>(Weighed{key, weighs});
    });
  }
};

TEST_F(SharedThings, TheSameIsMadeOnce) {
  const auto one = ask(7);
  EXPECT_EQ(one->key, 7);
  EXPECT_EQ(ask(7), one);
  EXPECT_NE(ask(8), one);
  EXPECT_EQ(made, 2);
}

TEST_F(SharedThings, TheLastThatWereAskedForAreKeptAndNoOthers) {
  ask(1);
  ask(2);
  ask(1);  // asked for again: now 2 is the older
  ask(3);
  EXPECT_EQ(made, 3);
  ask(1);
  EXPECT_EQ(made, 3);
  ask(2);
  EXPECT_EQ(made, 4) << "nobody held it, and two others were asked for since";
}

TEST_F(SharedThings, AsManyAreKeptAsTheirBytesAllow) {
  for (int k = 0; k < 9; ++k) ask(k, 10);
  made = 0;
  for (int k = 0; k < 9; ++k) ask(k, 10);
  EXPECT_EQ(made, 0) << "ninety of a hundred bytes";
  ask(20, 95);
  ask(8, 10);
  EXPECT_EQ(made, 2) << "all others had to go";
  ask(20, 95);
  EXPECT_EQ(made, 3);
}

TEST_F(SharedThings, TheLastIsKeptHoweverLarge) {
  ask(1, 1000);
  ask(1, 1000);
  EXPECT_EQ(made, 1);
}

TEST_F(SharedThings, WhatGrowsAfterwardsIsWeighedAgain) {
  struct Growing {
    double weighs;
    double bytes() const { return weighs; }
  };
  Shared<int, Growing> all(100);
  int made = 0;
  const auto ask = [&](int key) {
    return all.get(key, [&] {
      ++made;
      return std::make_shared<Growing>(Growing{40});
    });
  };
  const auto first = ask(1);
  ask(2);
  const_cast<Growing&>(*first).weighs = 90;
  ask(1);
  ask(2);
  EXPECT_EQ(made, 3) << "beside what has grown there was no room for the second";
}

TEST_F(SharedThings, WhatSomebodyHoldsIsFound) {
  const auto held = ask(1);
  for (int k = 2; k < 9; ++k) ask(k);
  made = 0;
  EXPECT_EQ(ask(1), held);
  EXPECT_EQ(made, 0);
}

TEST_F(SharedThings, WhatCannotBeMadeIsAskedForAgain) {
  const auto refuse = [&]() -> std::shared_ptr<const Weighed> { throw std::runtime_error("not now"); };
  EXPECT_THROW(all.get(5, refuse), std::runtime_error);
  EXPECT_EQ(ask(5)->key, 5);
}

}  // namespace
}  // namespace easel
