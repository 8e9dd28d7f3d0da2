// Tests of the core in whatever locale they are started: numbers must not care.
#include <gtest/gtest.h>

#include <clocale>

#include "processors.h"

int main(int argc, char** argv) {
  std::setlocale(LC_ALL, "");
  ::testing::InitGoogleTest(&argc, argv);
  const easel::test::Processors processors;
  return RUN_ALL_TESTS();
}
