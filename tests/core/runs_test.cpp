// What works on many points or rays at once gives what is asked one by one.
#include "transport/runs.h"

#include <gtest/gtest.h>

#include "gear/kit.h"
#include "picture/lit_points.h"
#include "sitters/sitter_file.h"
#include "support.h"
#include "transport/figure.h"
#include "transport/lamp_rays.h"
#include "transport/rays.h"
#include "transport/scene.h"

namespace easel {
namespace {

Vec3 somewhere(std::uint32_t i, float wide) {
  const Vec2 a = sobol2(i, 11), b = sobol2(i, 12);
  return Vec3{a.x - 0.5f, a.y - 0.5f, b.x - 0.5f} * wide;
}

const LightPose kPose{{0.1f, 0.2f, 0.3f}, Frame::facing({0.3f, -0.2f, 1})};

struct Receivers {
  Run3 at;
  Run2 u;
  Receivers() {
    RunOf32 index, seed;
    for (std::uint32_t i = 0; i < kRun; ++i) {
      // A third of them near the axis of kPose: a snoot lights nothing else.
      at.set(int(i),
             i % 3 ? somewhere(i, 4) : kPose.centre + kPose.frame.n * (1 + unitFloat(hash32(i))) + somewhere(i, 0.1f));
      index[i] = i;
      seed[i] = 5 * i + 3;
    }
    sobolRun(kRun, index, seed, 0x77u, u);
  }
};

TEST(Runs, PointsOfTheSequenceAreThoseOfTheSequence) {
  const Receivers r;
  for (std::uint32_t i = 0; i < kRun; ++i) {
    const Vec2 u = sobol2(i, (5 * i + 3) ^ 0x77u);
    EXPECT_EQ(r.u.x[i], u.x);
    EXPECT_EQ(r.u.y[i], u.y);
  }
}

// Every front of the catalogue, with what makes it slow: grids of both kinds, profiles, doors, patterns.
TEST(Runs, EveryFrontLightsManyPointsAsItLightsOne) {
  const Receivers r;
  for (const Modifier& m : modifiers())
    for (const bool fitted : {false, true}) {
      Fittings f;
      if (fitted) f.grid = 30;
      if (fitted && m.takesDoors) f.doors.left = 40;
      if (fitted && m.projects) f.pattern = "panes";
      const Emitter e(fronted(m, f), kPose, f.doors, {m.projects ? findGobo(f.pattern) : nullptr, 2});
      Run3 direction;
      Plane distance, geometry, density;
      e.sampleRun(kRun, r.at, r.u, direction, distance, geometry);
      e.pdfRun(kRun, r.at, direction, distance, density);
      int lit = 0;
      for (int i = 0; i < kRun; ++i) {
        const auto k = size_t(i);
        const Emitter::Point one = e.sample(r.at[i], {r.u.x[k], r.u.y[k]});
        EXPECT_NEAR(geometry[k], one.geometry, 2e-4f * std::max(1.f, one.geometry)) << m.id << " " << i;
        EXPECT_NEAR(distance[k], one.distance, 1e-5f) << m.id;
        EXPECT_NEAR(dot(direction[i], one.direction), 1, 1e-5f) << m.id;
        EXPECT_NEAR(density[k], e.pdf(r.at[i], one.direction, one.distance), 1e-3f * density[k]) << m.id;
        lit += one.geometry > 0;
      }
      EXPECT_GT(lit, 2) << m.id;
    }
}

TEST(Runs, NoRayThatSeesTheFrontIsLeftOut) {
  const Receivers r;
  for (const Modifier& m : modifiers()) {
    const Emitter e(m, {{0, 0, 0}, Frame::facing({0, 0, 1})});
    Run3 direction;
    for (int i = 0; i < kRun; ++i) {
      // Half of them aimed at the front, its edge among them.
      const Vec3 at = e.onFront({r.u.x[size_t(i)], i % 4 ? r.u.y[size_t(i)] : 1.f});
      direction.set(i, normalize(i % 2 ? at - r.at[i] : somewhere(std::uint32_t(i) + 900, 2)));
    }
    std::array<std::uint8_t, kRun> may;
    e.maySee(kRun, r.at, direction, may);
    int seen = 0;
    for (int i = 0; i < kRun; ++i) {
      if (!e.seen(r.at[i], direction[i], 1e6f)) continue;
      ++seen;
      EXPECT_TRUE(may[size_t(i)]) << m.id << " " << i;
    }
    EXPECT_GT(seen, 10) << m.id;
  }
}

TEST(Runs, RaysOfTheLampMeetManyPlacesAsTheyMeetOne) {
  const Receivers r;
  Run3 normal;
  for (int i = 0; i < kRun; ++i) normal.set(i, normalize(somewhere(std::uint32_t(i) + 70, 2)));
  for (const Modifier& m : modifiers()) {
    const LampRays rays(Emitter(m, {{0, 0, 0}, Frame::facing({0, 0, 1})}));
    Plane landing;
    rays.pdfRun(kRun, r.at, normal, landing);
    int different = 0;
    for (int i = 0; i < kRun; ++i) {
      const float one = rays.pdf(r.at[i], normal[i]);
      // At the edge of two rings the last bit of an angle decides.
      different += std::abs(landing[size_t(i)] - one) > 1e-3f * one + 1e-6f;
    }
    EXPECT_LE(different, 2) << m.id;
  }
}

TEST(Runs, NoiseOfSeveralPlacesIsThatOfEach) {
  std::vector<NoiseAt> at;
  for (std::uint32_t i = 0; i < 9; ++i) at.push_back({somewhere(i, 40), 1 + int(i % 4)});
  std::vector<float> all(at.size());
  fractalNoises(at, all.data());
  for (size_t i = 0; i < at.size(); ++i) EXPECT_NEAR(all[i], fractalNoise(at[i].place, at[i].octaves), 1e-5f);
}

class RaysInAStudio : public ::testing::Test {
 protected:
  Plan plan = test::demoPlan();
  std::shared_ptr<const Sitter> sitter = loadSitter(plan.sitter.id);
};

TEST_F(RaysInAStudio, AskedInCompanyAreToldTheSame) {
  for (const bool panels : {false, true}) {
    Plan p = plan;
    if (panels)
      for (const char* kind : {"v-flat", "scrim-small", "cut-out"}) p.panels.push_back(proposePanel(p, kind).panel);
    const Scene scene(placedSetOf(p), sitter);
    const Vec3 nose = scene.studioPoint(scene.sitter().landmarks.noseTip);
    constexpr int n = 3 * kRun;
    int stopped = 0, inPart = 0;
    for (std::uint32_t first = 0; first < n; first += kRun) {
      Rays rays;
      // About the head, its hair and the backdrop behind it; the first time not as many as there is room for.
      for (std::uint32_t i = first; i < first + kRun - (first ? 0 : 7); ++i) {
        const Vec3 from = nose + somewhere(i, 2.5f), d = nose + somewhere(i + 4000, 2.5f) - from;
        rays.add(int(i), from, normalize(d), length(d), i * 7 + 1);
      }
      scene.occluded(rays);
      for (size_t k = 0; k < size_t(rays.n); ++k) {
        stopped += rays.transmittance[k] <= 0;
        if (rays.transmittance[k] > 0 && rays.transmittance[k] < 1) {
          ++inPart;
          continue;
        }
        EXPECT_EQ(rays.transmittance[k] <= 0,
                  scene.occluded(rays.origin[k], rays.direction[k], 0, rays.far[k], rays.seed[k]))
            << rays.of[k];
      }
    }
    EXPECT_GT(stopped, n / 10);
    EXPECT_LT(stopped, n * 9 / 10);
    EXPECT_GT(inPart, 0) << "past hair";
    EXPECT_LT(inPart, n / 4);
  }
}

TEST_F(RaysInAStudio, AHollowRoomIsPartedByItsClothAndItsWallsAlone) {
  const Scene scene(placedSetOf(plan), sitter);
  const auto cloth = -float(plan.backdrop.distance), wall = float(plan.room.width / 2);
  const Vec3 before{0.9f, 1.9f, cloth + 0.3f};
  EXPECT_FALSE(scene.occluded(before, {0, 0, 1}, 0, 1, 1));
  EXPECT_TRUE(scene.occluded(before, {0, 0, -1}, 0, 0.31f, 1)) << "just past the cloth";
  EXPECT_FALSE(scene.occluded(before, {0, 0, -1}, 0, 0.29f, 1));
  EXPECT_TRUE(scene.occluded(before, {1, 0, 0}, 0, wall - before.x + 0.01f, 1)) << "a lamp outside the room";
  EXPECT_FALSE(scene.occluded(before, {1, 0, 0}, 0, wall - before.x - 0.01f, 1));
}

TEST_F(RaysInAStudio, TheBarePointIsThatOfTheColouredOne) {
  const Scene scene(placedSetOf(plan), sitter);
  const Vec3 nose = scene.studioPoint(scene.sitter().landmarks.noseTip);
  for (std::uint32_t i = 0; i < 300; ++i) {
    const Vec3 from = nose + Vec3{0, 0, 1}, d = normalize(nose + somewhere(i, 0.5f) - from);
    const auto whole = scene.intersect(from, d, i), bare = scene.intersect(from, d, i, -1, Colours::None);
    ASSERT_TRUE(whole && bare);
    EXPECT_EQ(whole->surface, bare->surface);
    EXPECT_EQ(whole->position, bare->position);
    EXPECT_EQ(whole->facet, bare->facet);
    EXPECT_EQ(whole->side, bare->side);
  }
}

TEST_F(RaysInAStudio, OneFigureServesManyRooms) {
  const auto one = figureOf(plan.sitter, sitter);
  Plan turned = plan;
  turned.sitter.turn += 5;
  EXPECT_NE(figureOf(turned.sitter, sitter), one);
  EXPECT_EQ(figureOf(plan.sitter, sitter), one);
  // A scene round it still hides what the other scene's backdrop hid before.
  Plan deep = plan;
  deep.backdrop.distance += 0.4;
  const Scene a(placedSetOf(plan), sitter), b(placedSetOf(deep), sitter);
  EXPECT_NE(a.serial(), b.serial());
  const Vec3 from{0.9f, 1.9f, 0};
  EXPECT_NEAR(b.intersect(from, {0, 0, -1}, 1)->distance - a.intersect(from, {0, 0, -1}, 1)->distance, 0.4f, 1e-4f);
}

}  // namespace
}  // namespace easel
