#include "transport/emitter.h"

#include <gtest/gtest.h>

#include <set>

#include "meter/point_meter.h"
#include "plan/placement.h"
#include "support.h"

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
      const float z = 1 - 2 * u.x * u.x, r = std::sqrt(std::max(0.f, 1 - z * z));
      const Vec3 out{r * std::cos(2 * kPiF * u.y), r * std::sin(2 * kPiF * u.y), z};
      // Directions crowd about the axis (dz = 4 u du), or a snoot would be met too seldom.
      sum += double(2 * u.x) * directLux(nullptr, e, out * radius, -out, Receptor::Flat, 1, std::uint32_t(i));
    }
    EXPECT_NEAR(sum / n * 4 * kPi * radius * radius, m.transmission, 0.01 * m.transmission) << m.id;
    EXPECT_LE(e.flux(), 1) << m.id;
  }
}

// The mean of one over the density is the solid angle that the front fills: of a sphere 2 pi (1 - cos), of a disc on
// its axis the same with its own half angle.
TEST(Emitter, DensityIsThatOfTheSamples) {
  for (const double far : {0.3, 1.0, 4.0}) {
    for (const bool ball : {true, false}) {
      Modifier m = *findModifier(ball ? "bare" : "dish-55");
      m.outline = ball ? Outline::Ball : Outline::Disc;
      const double radius = m.width / 2;
      const Emitter e(m, poseAt({0, 0, 0}, {0, 0, 1}));
      const Vec3 receiver{0, 0, float(far)};
      double sum = 0;
      constexpr int n = 4096;
      for (int i = 0; i < n; ++i) {
        const Emitter::Point p = e.sample(receiver, sobol2(std::uint32_t(i), 5));
        sum += 1 / double(e.pdf(receiver, p.direction, p.distance)) / n;
      }
      const double cosine = ball ? std::sqrt(1 - radius * radius / (far * far)) : far / std::hypot(far, radius);
      EXPECT_NEAR(sum / (2 * kPi * (1 - cosine)), 1, 0.01) << (ball ? "ball" : "disc") << " at " << far;
    }
  }
}

TEST(Emitter, IsAsLongAsItIsAcross) {
  Modifier m = *findModifier("dish-55");
  m.outline = Outline::Disc;
  m.width = m.height = 0.55;
  EXPECT_NEAR(Emitter(m, poseAt({0, 0, 0}, {0, 0, 1})).extent(), 0.55, 1e-6) << "a disc has no corners";
  m.outline = Outline::Rectangle;
  EXPECT_NEAR(Emitter(m, poseAt({0, 0, 0}, {0, 0, 1})).extent(), 0.55 * std::sqrt(2.0), 1e-6);
  m.outline = Outline::Octagon;
  EXPECT_NEAR(Emitter(m, poseAt({0, 0, 0}, {0, 0, 1})).extent(), 0.55 / std::cos(kPi / 8), 1e-6) << "corner to corner";
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
      EXPECT_EQ(e.seen(inward - Vec3{0, 0, 1}, {0, 0, 1}, 10).has_value(), m.backShare > 0) << m.id;
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

double luxAt(const Emitter& e, Vec3 point, Vec3 normal, int samples = 4096) {
  return directLux(nullptr, e, point, normal, Receptor::Flat, samples);
}

TEST(Emitter, AShootThroughUmbrellaLightsTheRoomBehindIt) {
  const Modifier& m = *findModifier("umbrella-through");
  const Emitter e(m, poseAt({0, 0, 0}, {0, 0, 1}));
  const double front = luxAt(e, {0, 0, 6}, {0, 0, -1}), back = luxAt(e, {0, 0, -6}, {0, 0, 1});
  EXPECT_GT(back, 0.3 * front);
  EXPECT_LT(back, front);
  EXPECT_TRUE(e.mayLight({0, 0, -1}));
}

TEST(Emitter, ALeafCutsItsOwnSide) {
  const Modifier& m = *findModifier("reflector-18");
  Fittings f;
  f.doors.left = 10;  // from behind the light, looking along +z with y up, left is +x
  const Emitter open(m, poseAt({0, 0, 0}, {0, 0, 1})), cut(m, poseAt({0, 0, 0}, {0, 0, 1}), f.doors);
  EXPECT_EQ(luxAt(cut, {3, 0, 2}, {0, 0, -1}), 0);
  EXPECT_LT(luxAt(cut, {2, 0, 2}, {0, 0, -1}), 0.3 * luxAt(open, {2, 0, 2}, {0, 0, -1}))
      << "only what starts far right";
  EXPECT_NEAR(luxAt(cut, {-1, 0, 2}, {0, 0, -1}), luxAt(open, {-1, 0, 2}, {0, 0, -1}), 1e-6);
  EXPECT_NEAR(luxAt(cut, {-0.2f, 0, 3}, {0, 0, -1}), luxAt(open, {-0.2f, 0, 3}, {0, 0, -1}), 1e-6);
  // Closing goes on to the axis and past it.
  f.doors.left = -20;
  EXPECT_LT(luxAt(Emitter(m, poseAt({0, 0, 0}, {0, 0, 1}), f.doors), {0, 0, 2}, {0, 0, -1}),
            0.9 * luxAt(open, {0, 0, 2}, {0, 0, -1}));
}

TEST(Emitter, APatternIsSharpAtItsFocusAndSoftNearer) {
  const Modifier m = [] {
    Fittings f;
    f.spread = 15;
    return fronted(*findModifier("spot"), f);
  }();
  const Emitter e(m, poseAt({0, 0, 0}, {0, 0, 1}), {}, {findGobo("slit"), 3});
  // The slit is 0.24 of the slide wide; its edges lie at +-0.12 of its half size.
  const float half = std::tan(radians(15));
  auto edge = [&](float z) {  // 10 to 90 % of the light across the right edge, as a share of the distance
    const double full = luxAt(e, {0, 0, z}, {0, 0, -1});
    float at10 = 0, at90 = 0;
    for (float x = 0; x < 0.3f; x += 0.001f) {
      const double v = luxAt(e, {x * z, 0, z}, {0, 0, -1}, 1024) / full;
      if (v > 0.9) at90 = x;
      if (v > 0.1) at10 = x;
    }
    EXPECT_NEAR((at10 + at90) / 2, 0.12f * half, 0.004f) << z;
    return at10 - at90;
  };
  EXPECT_LT(edge(3), 0.004f);
  EXPECT_GT(edge(1.2f), 0.01f) << "nearer than its focus the lens itself softens the edge";
  EXPECT_GT(luxAt(e, {0, 0.5f, 3}, {0, 0, -1}), 0.8 * luxAt(e, {0, 0, 3}, {0, 0, -1}));
  EXPECT_EQ(luxAt(e, {0.5f, 0, 3}, {0, 0, -1}), 0);
}

TEST(Emitter, PatternsOfOurOwnLetAPartThrough) {
  for (const GoboName& n : gobos()) {
    const auto p = findGobo(n.id);
    ASSERT_TRUE(p) << n.id;
    EXPECT_GT(p->mean, 0.03) << n.id;
    EXPECT_LT(p->mean, 0.85) << n.id;
  }
  EXPECT_EQ(findGobo("../../etc/passwd"), nullptr);
  EXPECT_EQ(findGobo("nothing.svg"), nullptr);
  // Rows from the top: the panes stand a little above the middle and are dark at the bottom edge.
  EXPECT_GT(findGobo("panes")->at(0.25f, 0.5f), 0.9f);
  EXPECT_LT(findGobo("panes")->at(0.25f, -0.9f), 0.1f);
}

TEST(Emitter, AMeasuredProfileTakesThePlaceOfTheLobe) {
  Modifier m = *findModifier("reflector-18");
  // A batwing: brighter at 30 degrees than on the axis, nothing from 60 on.
  m.profile = std::make_shared<AngularProfile>(std::vector<double>{0, 30, 60, 90}, std::vector<double>{0},
                                               std::vector<std::vector<double>>{{100, 200, 0, 0}});
  const Emitter e(m, poseAt({0, 0, 0}, {0, 0, 1}));
  auto candela = [&](float deg) {
    const Vec3 d{std::sin(radians(deg)), 0, std::cos(radians(deg))};
    return luxAt(e, d * 30.f, -d) * 900;
  };
  EXPECT_NEAR(candela(30) / candela(0), 2, 0.03);
  EXPECT_NEAR(candela(45) / candela(0), 1, 0.03);
  EXPECT_EQ(candela(70), 0);
  double flux = 0;
  for (int i = 0; i < 900; ++i) {
    const float a = (float(i) + 0.5f) * 0.1f;
    flux += candela(a) * 2 * kPi * std::sin(radians(a)) * double(radians(0.1f));
  }
  EXPECT_NEAR(flux, m.transmission, 0.01 * m.transmission);
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

// Beer and Lambert: with the way from lamp to meter alone, and so that the meter, the picture and what is sampled from
// either end agree.
TEST(Emitters, HazeDimsTheWayFromTheLamp) {
  for (const char* modifier : {"octa-90", "reflector-18", "bare", "spot"}) {
    Plan p = test::demoPlan();
    p.lights.resize(1);
    Light& l = p.lights[0];
    l.modifier = modifier;
    l.hour = 5;
    l.distance = 6;
    l.height = 1.6;
    const Emitter clear = emitterOf(placedSetOf(p), test::placed(p, l));
    p.haze = 0.2;
    const Emitter hazy = emitterOf(placedSetOf(p), test::placed(p, l));
    const Vec3 at = facePoint(p), to = normalize(clear.pose().centre - at);
    const double open = directLux(nullptr, clear, at, to, Receptor::Flat, 256),
                 dim = directLux(nullptr, hazy, at, to, Receptor::Flat, 256);
    EXPECT_NEAR(dim / open, std::exp(-0.2 * double(length(clear.pose().centre - at))), 0.003) << modifier;
    const auto a = clear.seen(at, to, 1e6f), b = hazy.seen(at, to, 1e6f);
    ASSERT_TRUE(a && b) << modifier;
    if (*a > 0) {
      EXPECT_NEAR(double(*b / *a), dim / open, 0.01) << modifier;
    }
    EXPECT_FALSE(clear == hazy) << "what is kept of one is not the other's";
  }
}

}  // namespace
}  // namespace easel
