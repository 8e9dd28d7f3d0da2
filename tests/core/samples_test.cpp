// What the camera sees, kept: packing, completeness, and that an interruption changes nothing.
#include "picture/samples.h"

#include <gtest/gtest.h>

#include "sitters/sitter_file.h"
#include "support.h"
#include "transport/sampling.h"

namespace easel {
namespace {

TEST(Packed, DirectionsComeBackWithinAHundredthOfADegree) {
  for (std::uint32_t i = 0; i < 2000; ++i) {
    const Vec2 u = sobol2(i, 4);
    const float z = 1 - 2 * u.x, r = std::sqrt(std::max(0.f, 1 - z * z));
    const Vec3 d{r * std::cos(2 * kPiF * u.y), r * std::sin(2 * kPiF * u.y), z};
    EXPECT_LT(length(PackedDirection::of(d).unpacked() - d), 1.7e-4f);
  }
  for (Vec3 d : {Vec3{0, 0, 1}, Vec3{0, 0, -1}, Vec3{1, 0, 0}, Vec3{0, -1, 0}})
    EXPECT_LT(length(PackedDirection::of(d).unpacked() - d), 1e-3f);
}

TEST(Packed, ColoursComeBackFinelyInTheShadows) {
  for (float v : {0.f, 0.005f, 0.02f, 0.18f, 0.5f, 0.9f, 1.f}) {
    const Vec3 c = PackedColour::of({v, v, v}, Surface::Skin).unpacked();
    EXPECT_NEAR(c.x, v, 0.004f + 0.005f * v) << v;
  }
  EXPECT_EQ(PackedColour::of({2, -1, 0}, Surface::Hair).r, 255) << "clamped";
  EXPECT_EQ(PackedColour::of({2, -1, 0}, Surface::Hair).g, 0);
}

class SetsTest : public ::testing::Test {
 protected:
  Plan plan = test::demoPlan();
  std::shared_ptr<const Scene> scene = std::make_shared<const Scene>(placedSetOf(plan), loadSitter(plan.sitter.id));
  View view{cameraPose(plan, 0.8), 48, 60};
};

TEST_F(SetsTest, EveryPixelSeesSomethingInAStudioWithWalls) {
  SampleSets sets(scene, view);
  ASSERT_TRUE(sets.build(0, Interrupt()));
  EXPECT_EQ(sets.complete(), 1);
  int skin = 0, backdrop = 0;
  for (const PixelSample& s : sets.set(0)) {
    EXPECT_NE(s.albedo.surface, Surface::Nothing);
    skin += s.albedo.surface == Surface::Skin;
    backdrop += s.albedo.surface == Surface::Backdrop;
  }
  EXPECT_GT(skin, 200);
  EXPECT_GT(backdrop, 600);
}

TEST_F(SetsTest, AnInterruptedSetGoesOnAndIsTheSame) {
  SampleSets straight(scene, view), broken(scene, view);
  std::atomic<std::uint64_t> epoch{5};
  for (const int k : {0, 1}) {
    straight.build(k, Interrupt());
    EXPECT_FALSE(broken.build(k, Interrupt(epoch, 4))) << "raised before it began";
    EXPECT_EQ(broken.complete(), k);
    EXPECT_TRUE(broken.build(k, Interrupt(epoch, 5)));
    for (size_t i = 0; i < straight.set(k).size(); ++i)
      ASSERT_EQ(straight.set(k)[i].position.x, broken.set(k)[i].position.x);
    for (size_t i = 0; i < straight.bounces(k).size(); ++i)
      ASSERT_EQ(straight.bounces(k)[i].position.y, broken.bounces(k)[i].position.y);
  }
}

// Against what a thousand places of the pixel say: hair before anything else, and what is told apart is all there is.
TEST_F(SetsTest, AnOutlineKnowsBothItsHalvesByTheirShare) {
  SampleSets sets(scene, view), broken(scene, view);
  EXPECT_FALSE(sets.buildOutlines(Interrupt())) << "before the sets stand";
  for (int k = 0; k < kSampleSets; ++k) {
    sets.build(k, Interrupt());
    broken.build(k, Interrupt());
  }
  EXPECT_FALSE(sets.halves(0));
  std::atomic<std::uint64_t> epoch{5};
  EXPECT_FALSE(broken.buildOutlines(Interrupt(epoch, 4)));
  ASSERT_TRUE(sets.buildOutlines(Interrupt()) && broken.buildOutlines(Interrupt(epoch, 5)));
  int outlines = 0, strands = 0;
  double off = 0, bias = 0;
  for (int y = 0; y < view.height; ++y)
    for (int x = 0; x < view.width; ++x) {
      const size_t pixel = size_t(y) * size_t(view.width) + size_t(x);
      const auto halves = sets.halves(pixel);
      ASSERT_EQ(halves.has_value(), broken.halves(pixel).has_value());
      if (!halves) continue;
      EXPECT_EQ(halves->share, broken.halves(pixel)->share);
      ASSERT_FALSE(halves->front.empty() || halves->behind.empty());
      const bool hair = halves->front[0].albedo.surface == Surface::Hair;
      const auto front = [&](Surface s) { return hair ? s == Surface::Hair : s <= Surface::Cloth; };
      for (const PixelSample& s : halves->front) EXPECT_TRUE(front(s.albedo.surface));
      for (const PixelSample& s : halves->behind) EXPECT_FALSE(front(s.albedo.surface));
      constexpr int kPlaces = 1024;
      int met = 0;
      std::array<PixelPass, kRun> of;
      std::array<PixelSample, kRun> out;
      std::array<std::uint8_t, kRun> wanted;
      for (int from = 0; from < kPlaces; from += kRun) {
        for (int k = 0; k < kRun; ++k) of[size_t(k)] = {x, y, 5000 + from + k};
        sets.fresh(
            of, [](const SurfacePoint&) { return true; }, out.data(), wanted.data());
        for (const PixelSample& s : out) met += front(s.albedo.surface);
      }
      const double difference = halves->share - double(met) / kPlaces;
      ++outlines;
      strands += hair;
      off += std::abs(difference);
      bias += difference;
    }
  ASSERT_GT(outlines, 60);
  EXPECT_GT(strands, 20);
  EXPECT_LT(off / outlines, 0.025);
  EXPECT_LT(std::abs(bias) / outlines, 0.006);
}

TEST_F(SetsTest, EachPixelOfHalfResolutionHasTheBounceOfThePixelItStandsOn) {
  const View odd{cameraPose(plan, 0.8), 47, 59};
  SampleSets sets(scene, odd);
  for (int k = 0; k < 2; ++k) sets.build(k, Interrupt());
  const Guides& half = sets.guides(2);
  ASSERT_EQ(half.width, 24);
  ASSERT_EQ(half.height, 30);
  int met = 0, upward = 0;
  for (int k = 0; k < 2; ++k)
    for (int y = 0; y < half.height; ++y)
      for (int x = 0; x < half.width; ++x) {
        const PixelSample& from = sets.set(k)[sets.pixelOfHalf(x, y)];
        const BounceSample& to = sets.bounces(k)[half.at(x, y)];
        if (k == 0) {
          ASSERT_EQ(half.position(half.at(x, y)), from.position);
        }
        if (to.albedo.surface == Surface::Nothing || length(to.position - from.position) < 1e-3f) continue;
        ++met;
        const Vec3 way = normalize(to.position - from.position);
        EXPECT_GT(dot(way, from.facet.unpacked()), -0.02f) << "never through what it stands on";
        // Curved surfaces lift places by a fraction of a millimetre, which turns a short way between two of one fold.
        const float turned = length(to.position - from.position) < 0.01f ? 0.08f : 0.02f;
        EXPECT_LT(dot(way, to.normal.unpacked()), turned) << "it meets a side that looks back";
        upward += dot(way, from.normal.unpacked()) > 0.5f;
      }
  EXPECT_GT(met, 2 * 24 * 30 * 9 / 10);
  EXPECT_NEAR(double(upward) / met, 0.75, 0.06) << "by the cosine: sin^2 of 60 degrees are within them";
}

TEST_F(SetsTest, WhatIsTracedAnewIsWhatTheSetsHaveAndGoesOnFromThere) {
  SampleSets sets(scene, view);
  for (int k = 0; k < kSampleSets; ++k) sets.build(k, Interrupt());
  std::vector<PixelPass> of;
  for (int i = 0; i < 100; ++i) of.push_back({i * 7 % 24, i * 11 % 30, i % kSampleSets});
  std::vector<PixelSample> seen(of.size());
  std::vector<std::uint8_t> wanted(of.size());
  const auto notHair = [](const SurfacePoint& s) { return s.surface != Surface::Hair; };
  sets.fresh(of, notHair, seen.data(), wanted.data());
  std::vector<BounceSample> met(of.size()), later(of.size());
  sets.bounce(of, met.data());
  int left = 0;
  for (size_t i = 0; i < of.size(); ++i) {
    const PixelSample& was = sets.set(of[i].k)[size_t(of[i].y * view.width + of[i].x)];
    EXPECT_EQ(wanted[i], was.albedo.surface != Surface::Hair);
    left += wanted[i];
    if (wanted[i]) {
      EXPECT_NEAR(length(seen[i].position - was.position), 0, 1e-5f);
      EXPECT_EQ(seen[i].albedo.g, was.albedo.g);
    }
    const BounceSample& stored = sets.bounces(of[i].k)[size_t(of[i].y * 24 + of[i].x)];
    EXPECT_NEAR(length(met[i].position - stored.position), 0, 1e-4f);
    EXPECT_EQ(met[i].side, stored.side);
  }
  EXPECT_GT(left, 50);
  EXPECT_LT(left, 100) << "some hair must be among them";
  for (PixelPass& p : of) p.k += kSampleSets;
  sets.bounce(of, later.data());
  int elsewhere = 0;
  for (size_t i = 0; i < of.size(); ++i) elsewhere += length(later[i].position - met[i].position) > 0.01f;
  EXPECT_GT(elsewhere, 60) << "another round meets other places";
}

TEST_F(SetsTest, GuidesTellWhatThePixelsShow) {
  SampleSets sets(scene, view);
  for (int k = 0; k < kSampleSets; ++k) sets.build(k, Interrupt());
  const Guides& g = sets.guides(1);
  ASSERT_EQ(g.width, view.width);
  ASSERT_EQ(sets.guides(2).width, view.width / 2);
  size_t pure = 0;
  for (size_t i = 0; i < g.surface.size(); ++i) {
    int most = 0, met = 0;
    Vec3 mean;
    for (int k = 0; k < kSampleSets; ++k) {
      const auto votesFor = sets.set(k)[i].albedo.surface;
      int votes = 0;
      for (int other = 0; other < kSampleSets; ++other) votes += sets.set(other)[i].albedo.surface == votesFor;
      most = std::max(most, votes);
      if (std::int32_t(votesFor) != g.surface[i]) continue;
      ++met;
      mean += sets.set(k)[i].position;
    }
    ASSERT_EQ(met, most) << "the surface that most samples met";
    EXPECT_NEAR(length(mean / float(met) - g.position(i)), 0, 1e-5f);
    EXPECT_EQ(g.pure[i], met == kSampleSets ? g.surface[i] : -1);
    pure += g.pure[i] >= 0;
  }
  EXPECT_GT(pure, g.surface.size() / 2);
  EXPECT_LT(pure, g.surface.size()) << "outlines are no pure pixels";
}

TEST_F(SetsTest, MeanAlbedoIsTheMeanOfThePrefix) {
  SampleSets sets(scene, view);
  for (int k = 0; k < 4; ++k) sets.build(k, Interrupt());
  for (size_t i = 0; i < 48 * 60; i += 37)
    for (int n : {1, 2, 4}) {
      Vec3 sum;
      for (int k = 0; k < n; ++k) sum += sets.set(k)[i].albedo.unpacked();
      EXPECT_NEAR(sets.meanAlbedo(n, i).y, sum.y / float(n), 1e-3f);
    }
  EXPECT_EQ(sets.meanAlbedo(3, 5).x, sets.meanAlbedo(2, 5).x) << "the largest power of two that is covered";
}

TEST_F(SetsTest, TheViewLooksWhereThePictureHasIt) {
  const Vec3 centre = view.direction(24, 30);
  EXPECT_NEAR(dot(centre, -view.camera.frame.n), 1, 1e-5);
  EXPECT_GT(view.direction(48, 30).x, centre.x) << "picture right is camera right";
  EXPECT_GT(view.direction(24, 0).y, centre.y) << "rows run downwards";
}

TEST_F(SetsTest, WhatLiesBesideAnOutlineMeetsTheCameraAnew) {
  SampleSets sets(scene, view);
  for (int k = 0; k < kSampleSets; ++k) ASSERT_TRUE(sets.build(k, Interrupt()));
  const Guides& g = sets.guides(1);
  int smooth = 0;
  for (int y = 1; y + 1 < view.height; ++y)
    for (int x = 1; x + 1 < view.width; ++x) {
      const size_t i = size_t(y * view.width + x);
      for (size_t j : {i - 1, i + 1, i - size_t(view.width), i + size_t(view.width)})
        if (g.surface[j] != g.surface[i] || g.pure[j] < 0) {
          EXPECT_TRUE(sets.rough(i)) << x << " " << y;
        }
      smooth += !sets.rough(i);
    }
  EXPECT_GT(smooth, view.width * view.height / 5) << "an even wall needs no more than its eight places";
}

}  // namespace
}  // namespace easel
