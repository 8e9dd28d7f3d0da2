#include "light/emitter.h"

#include <gtest/gtest.h>

#include <set>

#include "light/point_meter.h"

namespace easel {
namespace {

LightPose poseAt(Vec3 centre, Vec3 facing) { return {centre, Frame::facing(facing)}; }

TEST(Sobol, EveryPowerOfTwoBlockIsStratified) {
  for (std::uint32_t seed : {1u, 77u, 123456u})
    for (int block = 0; block < 4; ++block) {
      std::set<int> rows, columns, cells;
      for (std::uint32_t i = 0; i < 16; ++i) {
        const Vec2 p = sobol2(std::uint32_t(block) * 16 + i, seed);
        ASSERT_GE(p.x, 0);
        ASSERT_LT(p.x, 1);
        rows.insert(int(p.x * 16));
        columns.insert(int(p.y * 16));
        cells.insert(int(p.x * 4) * 4 + int(p.y * 4));
      }
      EXPECT_EQ(rows.size(), 16u);
      EXPECT_EQ(columns.size(), 16u);
      EXPECT_EQ(cells.size(), 16u);
    }
}

TEST(Sobol, SeedsDiffer) {
  const Vec2 a = sobol2(3, 1), b = sobol2(3, 2);
  EXPECT_NE(a.x, b.x);
}

// No modifier creates light: the flux through a closed surface round it is what the modifier passes on.
TEST(Emitter, FluxIsTheModifiersTransmission) {
  for (const Modifier& m : modifiers()) {
    const Emitter e(m, poseAt({0, 0, 0}, {0, 0, 1}));
    constexpr int n = 30000;
    const float radius = 60;  // far: the emitter is a point against it
    double sum = 0;
    for (int i = 0; i < n; ++i) {
      const Vec2 u = sobol2(std::uint32_t(i), 9);
      const float z = 1 - 2 * u.x, r = std::sqrt(std::max(0.f, 1 - z * z));
      const Vec3 out{r * std::cos(2 * kPiF * u.y), r * std::sin(2 * kPiF * u.y), z};
      sum += directLux(nullptr, e, out * radius, -out, Receptor::Flat, 1, std::uint32_t(i));
    }
    EXPECT_NEAR(sum / n * 4 * kPi * radius * radius, m.transmission, 0.01 * m.transmission) << m.id;
    EXPECT_LE(e.flux(), 1) << m.id;
  }
}

TEST(Emitter, NothingGoesBackwards) {
  const Emitter e(*findModifier("octa-120"), poseAt({0, 1, 0}, {0, 0, 1}));
  EXPECT_EQ(directLux(nullptr, e, {0, 1, -1}, {0, 0, 1}, Receptor::Flat, 64), 0);
}

TEST(Emitter, SamplesLieOnTheOutlineItShows) {
  for (const Modifier& m : modifiers()) {
    if (m.outline == Outline::Ball) continue;
    const Emitter e(m, poseAt({0, 0, 0}, {0, 0, 1}));
    for (std::uint32_t i = 0; i < 500; ++i) {
      const auto p = e.sample({0.1f, 0.2f, 3}, sobol2(i, 3));
      const Vec3 inward = p.position * 0.999f;  // off the very edge
      const Vec3 from = inward + Vec3{0, 0, 1};
      if (m.outline == Outline::Ring && length(p.position) < m.centre / 2 * 1.01) continue;
      EXPECT_TRUE(e.seen(from, {0, 0, -1}, 10)) << m.id;
      EXPECT_TRUE(e.blocks(from, {0, 0, -1}, 10)) << m.id;
      EXPECT_FALSE(e.seen(inward - Vec3{0, 0, 1}, {0, 0, 1}, 10)) << m.id << ": dark from behind";
    }
  }
}

TEST(Emitter, TheDishHasADarkCentre) {
  const Emitter e(*findModifier("dish-55"), poseAt({0, 0, 0}, {0, 0, 1}));
  EXPECT_FALSE(e.seen({0, 0, 1}, {0, 0, -1}, 5));
  EXPECT_TRUE(e.seen({0.2f, 0, 1}, {0, 0, -1}, 5));
  EXPECT_FALSE(e.seen({0.3f, 0, 1}, {0, 0, -1}, 5));
}

TEST(Emitter, OctagonHasCutCorners) {
  const Emitter e(*findModifier("octa-90"), poseAt({0, 0, 0}, {0, 0, 1}));
  EXPECT_TRUE(e.seen({0.44f, 0, 1}, {0, 0, -1}, 5));
  EXPECT_FALSE(e.seen({0.44f, 0.44f, 1}, {0, 0, -1}, 5));
}

TEST(Emitter, AreaOfTheSamplesIsTheAreaStated) {
  // Share of the bounding square that is lit, counted, against area().
  for (const char* id : {"octa-90", "dish-55", "reflector-18", "softbox-60x90"}) {
    const Modifier& m = *findModifier(id);
    const Emitter e(m, poseAt({0, 0, 0}, {0, 0, 1}));
    int in = 0;
    constexpr int n = 40000;
    for (std::uint32_t i = 0; i < n; ++i) {
      const Vec2 u = sobol2(i, 5);
      in += e.seen({float((u.x - 0.5) * m.width), float((u.y - 0.5) * m.height), 1}, {0, 0, -1}, 5).has_value();
    }
    EXPECT_NEAR(double(in) / n * m.width * m.height, m.area(), 0.01 * m.area()) << id;
  }
}

TEST(Emitter, AbsurdSizesAreRefusedWithTheName) {
  Modifier m = *findModifier("octa-90");
  for (double bad : {0.0, -1.0, std::nan(""), 1e9}) {
    m.width = m.height = bad;
    m.name = "odd thing";
    try {
      Emitter e(m, poseAt({0, 0, 0}, {0, 0, 1}));
      FAIL() << bad;
    } catch (const std::invalid_argument& e) {
      EXPECT_NE(std::string(e.what()).find("odd thing"), std::string::npos);
    }
  }
}

TEST(Meter, DomeSeesRoundTheCorner) {
  const Emitter e(*findModifier("softbox-40x40"), poseAt({1, 0, 0}, {-1, 0, 0}));
  // Light from 90 degrees to the receptor: flat sees nothing, the dome half.
  EXPECT_NEAR(directLux(nullptr, e, {0, 0, 0}, {0, 0, 1}, Receptor::Flat, 1024) /
                  directLux(nullptr, e, {0, 0, 0}, {1, 0, 0}, Receptor::Flat, 1024),
              0.06, 0.06);
  EXPECT_NEAR(directLux(nullptr, e, {0, 0, 0}, {0, 0, 1}, Receptor::Dome, 1024) /
                  directLux(nullptr, e, {0, 0, 0}, {1, 0, 0}, Receptor::Dome, 1024),
              0.5, 0.02);
}

}  // namespace
}  // namespace easel
