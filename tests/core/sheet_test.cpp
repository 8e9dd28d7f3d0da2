#include "formats/sheet.h"

#include <gtest/gtest.h>

#include "formats/pattern_sheet.h"
#include "support.h"

namespace easel {
namespace {

TEST(Sheet, DrawsWhatItIsTold) {
  Sheet s(60, 40, 0.5);
  s.ink(1, 0, 0);
  s.fill(10, 10, 5, 5);
  Picture small;
  small.width = small.height = 2;
  small.rgba = {0, 255, 0, 255, 0, 255, 0, 255, 0, 255, 0, 255, 0, 255, 0, 255};
  s.put(30, 20, small);
  const Picture p = s.picture();
  ASSERT_EQ(p.width, 60);
  ASSERT_EQ(p.height, 40);
  auto at = [&](int x, int y, int c) { return int(p.rgba[(size_t(y) * 60 + size_t(x)) * 4 + size_t(c)]); };
  EXPECT_NEAR(at(2, 2, 0), 128, 1);
  EXPECT_EQ(at(12, 12, 0), 255);
  EXPECT_EQ(at(12, 12, 1), 0);
  EXPECT_EQ(at(31, 21, 1), 255);
  EXPECT_EQ(at(33, 21, 1), at(2, 2, 1)) << "nothing beside it";
}

TEST(Sheet, WritesWithinItsWidth) {
  Sheet s(200, 30, 1);
  s.ink(0, 0, 0);
  s.write(10, 20, 12, 60, "A line that is much longer than what it may take");
  const Picture p = s.picture();
  int within = 0, beyond = 0;
  for (int y = 0; y < 30; ++y)
    for (int x = 0; x < 200; ++x)
      if (p.rgba[(size_t(y) * 200 + size_t(x)) * 4] < 128) ++(x < 74 ? within : beyond);
  EXPECT_GT(within, 20);
  EXPECT_EQ(beyond, 0);
}

TEST(Sheet, RefusesWhatIsTooLarge) { EXPECT_THROW(Sheet(1 << 20, 1 << 20, 0), std::runtime_error); }

TEST(PatternSheet, HasAMapForEachFace) {
  PatternMap m;
  m.step = 20;
  m.columns = 11;
  m.rows = 5;
  m.places.resize(55);
  for (PatternAnalysis& r : m.places) r.pattern = FacePattern::Loop;
  m.places[7].next = FacePattern::Rembrandt;
  const Picture one = patternSheet({{"Wren", m}}, 1, "One");
  const Picture four = patternSheet({{"A", m}, {"B", m}, {"C", m}, {"D", m}}, 2, "Four");
  EXPECT_GT(four.width, one.width);
  EXPECT_GT(four.height, one.height);
  EXPECT_LT(four.height, 2 * one.height);
  EXPECT_THROW(patternSheet({}, 2, "None"), std::runtime_error);
}

}  // namespace
}  // namespace easel
