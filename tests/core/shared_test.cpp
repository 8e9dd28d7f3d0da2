// What is made once and shared.
#include "transport/shared.h"

#include <gtest/gtest.h>

#include <stdexcept>
#include <string>

namespace easel {
namespace {

class SharedThings : public ::testing::Test {
 protected:
  Shared<int, std::string> all{2};
  int made = 0;
  std::shared_ptr<const std::string> ask(int key) {
    return all.get(key, [&] {
      ++made;
      return std::make_shared<const std::string>(std::to_string(key));
    });
  }
};

TEST_F(SharedThings, TheSameIsMadeOnce) {
  const auto one = ask(7);
  EXPECT_EQ(*one, "7");
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

TEST_F(SharedThings, WhatSomebodyHoldsIsFound) {
  const auto held = ask(1);
  for (int k = 2; k < 9; ++k) ask(k);
  made = 0;
  EXPECT_EQ(ask(1), held);
  EXPECT_EQ(made, 0);
}

TEST_F(SharedThings, WhatCannotBeMadeIsAskedForAgain) {
  const auto refuse = [&]() -> std::shared_ptr<const std::string> { throw std::runtime_error("not now"); };
  EXPECT_THROW(all.get(5, refuse), std::runtime_error);
  EXPECT_EQ(*ask(5), "5");
}

}  // namespace
}  // namespace easel
